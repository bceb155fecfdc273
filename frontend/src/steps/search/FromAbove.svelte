<script lang="ts">
  // The truth beside the picture: the water from above, what stands in it and who swims there just now, on one scale.
  import type { LookTruth } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, way } from "../../lib/units";

  let {
    truth,
    far,
    aim = null,
  }: {
    truth: LookTruth;
    far: number;
    /** Where a fan looks, and how thick it is [degrees]. */
    aim?: { deg: number; thick: number } | null;
  } = $props();
  const edge = (deg: number) => {
    const rad = (deg * Math.PI) / 180;
    return `${far * Math.sin(rad)} ${-far * Math.cos(rad)}`;
  };

  const NAMES = { school: "school", hunters: "hunters", single: "single fish" } as Record<string, string>;
  const reach = $derived(far * 1.15);
  const path = (line: number[][]) => `M${line.map(([e, n]) => `${e} ${-n!}`).join("L")}`;
  const near = (line: number[][]) => line.some(([e, n]) => Math.hypot(e!, n!) < reach);
</script>

<figure>
  <svg
    viewBox="{-reach} {-reach} {2 * reach} {2 * reach}"
    role="img"
    aria-label="The water from above, as it truly is"
  >
    <circle r={far} class="seen" />
    {#if aim}
      <path
        d="M0 0L{edge(aim.deg - aim.thick / 2)}A{far} {far} 0 0 1 {edge(aim.deg + aim.thick / 2)}Z"
        class="fan"
      />
    {/if}
    {#each truth.lines as line, k (k)}
      {#if near(line.line)}<path d={path(line.line)} class="line" />{/if}
    {/each}
    {#each truth.standing as one, k (k)}
      <rect
        x={-(one.kind === "weed edge" ? 0 : one.width_m / 2)}
        y={-one.length_m / 2}
        width={one.width_m}
        height={one.length_m}
        rx={one.kind === "boulder" || one.kind === "brush" ? one.width_m / 2 : 0.1}
        transform="translate({one.east_m} {-one.north_m}) rotate({one.bearing_deg})"
        class="standing"
      />
      {#if Math.hypot(one.east_m, one.north_m) < far}
        <text x={one.east_m} y={-one.north_m - 1.4} font-size={reach / 17}>{one.kind}</text>
      {/if}
    {/each}
    {#each truth.groups as group, g (g)}
      {#each group.fish as [east, north], k (k)}<circle
          cx={east}
          cy={-north!}
          r={reach / 110}
          class="fish"
        />{/each}
    {/each}
    <circle r={reach / 60} class="hole" />
  </svg>
  <figcaption>
    {#each truth.groups as group, g (g)}
      <span>
        <strong>{NAMES[group.kind] ?? group.kind}</strong>, {group.count}
        {group.species},
        {depth(group.depth_m, prefs.system)} down,
        {way(Math.hypot(group.east_m, group.north_m), prefs.system)} off
      </span>
    {/each}
  </figcaption>
</figure>

<style>
  figure {
    margin: 0;
    display: grid;
    gap: 6px;
  }

  svg {
    width: 100%;
    max-width: 380px;
    justify-self: center;
    background: var(--water);
    border: 1.5px solid var(--line);
    border-radius: 6px;
  }

  .seen {
    fill: none;
    stroke: var(--ice-edge);
    stroke-dasharray: 0.8 0.8;
    stroke-width: 0.25;
  }

  .line {
    fill: none;
    stroke: var(--ice-edge);
    stroke-width: 0.2;
  }

  .standing {
    fill: var(--earth-line);
  }

  text {
    font-family: var(--words);
    fill: var(--ink);
    text-anchor: middle;
  }

  .fish {
    fill: var(--pine);
  }

  .fan {
    fill: var(--action);
    opacity: 0.28;
  }

  .hole {
    fill: var(--panel);
    stroke: var(--ink);
    stroke-width: 0.4;
  }

  figcaption {
    display: grid;
    font-size: 0.92rem;
  }
</style>
