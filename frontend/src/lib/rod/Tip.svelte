<script lang="ts">
  // A rod tip: how far it bends, by what hangs on it. Dim while nobody looks at it.
  let {
    bend,
    says,
    watched,
    tall = 64,
  }: { bend: number; says: string; watched: boolean; tall?: number } = $props();

  const SIGNS: Record<string, string> = {
    tap: "The rod tip taps",
    load: "The rod tip bends",
    slack: "The rod tip springs straight",
    fish: "A fish is on",
    weed: "The rod tip drags as in weed",
    felt: "Something pulls",
  };
  // The tip swings down about its ferrule, most at its end.
  const end = $derived(10 + bend * (tall - 24));
</script>

<svg viewBox="0 0 200 {tall}" class:dim={!watched && says !== "felt"} aria-hidden="true">
  <path class="blank" d="M0 14Q{110 - bend * 20} {14 - bend * 2} {188 - bend * 22} {end}" />
  <circle class="ring" cx={188 - bend * 22} cy={end} r="3.5" />
  {#if says === "slack" || says === "slack line"}
    <path
      class="line-out"
      d="M188 {end + 3}q-14 {(tall - end) / 3} -2 {(tall - end) / 2}t-4 {(tall - end) / 2}"
    />
  {:else}
    <line class="line-out" x1={188 - bend * 22} x2={188 - bend * 22} y1={end + 3} y2={tall} />
  {/if}
</svg>
<p class="unseen" role="status">{watched || says === "felt" ? (SIGNS[says] ?? "") : ""}</p>

<style>
  svg {
    width: 100%;
    height: 100%;
    display: block;
  }

  .dim {
    opacity: 0.4;
  }

  .blank {
    fill: none;
    stroke: var(--ink);
    stroke-width: 4;
    stroke-linecap: round;
  }

  .ring {
    fill: none;
    stroke: var(--action);
    stroke-width: 2.5;
  }

  .line-out {
    fill: none;
    stroke: var(--soft);
    stroke-width: 1.2;
  }
</style>
