<script lang="ts">
  // A small picture of what a question about a unit asks for.
  import type { Asks } from "./unit";

  let { of, colours = [] }: { of: Asks; colours?: readonly string[] } = $props();

  const at = (turn: number, radius: number) =>
    `${44 + radius * Math.sin(turn)} ${30 - radius * Math.cos(turn)}`;
  const clicks = Array.from({ length: 11 }, (_, i) => -2.2 + i * 0.44);
</script>

<svg viewBox="0 0 88 60" aria-hidden="true">
  {#if of === "ends" || of === "step"}
    <circle class="body" cx="44" cy="30" r="18" />
    {#each clicks as turn, i (i)}
      {@const end = of === "ends" && (i === 0 || i === 10)}
      {@const one = of === "step" && (i === 6 || i === 7)}
      <path class:told={end || one} d="M{at(turn, 21)}L{at(turn, end || one ? 29 : 25)}" />
    {/each}
    <path class="told" d="M44 30L{at(of === 'ends' ? -2.2 : 0.44, 15)}" />
    {#if of === "step"}<path class="told" d="M{at(0.44, 26)}A26 26 0 0 1 {at(0.88, 26)}" />{/if}
  {:else if of === "ranges"}
    {#each [16, 32, 52] as deep, i (i)}
      <rect class="water" x={8 + i * 27} y="4" width="18" height={deep} />
      <path class="told" d="M{6 + i * 27} {4 + deep}h22" />
    {/each}
  {:else if of === "colours"}
    {#each colours.slice(0, 8) as colour, i (i)}
      <rect
        x={4 + (i * 80) / Math.min(colours.length, 8)}
        y={44 - (i * 36) / Math.min(colours.length, 8)}
        width={76 / Math.min(colours.length, 8)}
        height={12 + (i * 36) / Math.min(colours.length, 8)}
        fill={colour}
        class="step"
      />
    {/each}
  {:else if of === "beams"}
    <path class="water" d="M44 4 14 56h60z" />
    <path class="narrow" d="M44 4 34 56h20z" />
    <path class="told" d="M14 56h60" />
  {:else}
    <rect class="water" x="8" y="4" width="22" height="50" />
    <path class="told" d="M6 38h26M6 54h26" />
    <path d="M32 38 52 4M32 54h20" />
    <rect class="water" x="52" y="4" width="28" height="50" />
    <path class="told" d="M56 30h20" />
  {/if}
</svg>

<style>
  svg {
    width: 88px;
    height: 60px;
    flex: 0 0 auto;
  }

  path {
    fill: none;
    stroke: var(--soft);
    stroke-width: 2;
    stroke-linecap: round;
  }

  .told {
    stroke: var(--action);
    stroke-width: 3.5;
  }

  .body {
    fill: var(--panel);
    stroke: var(--ink);
    stroke-width: 2;
  }

  .water {
    fill: var(--water);
    stroke: var(--soft);
    stroke-width: 1.5;
  }

  .narrow {
    fill: var(--band);
    stroke: var(--pine);
  }

  .step {
    stroke: var(--line);
    stroke-width: 1;
  }
</style>
