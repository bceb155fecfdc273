<script lang="ts">
  // A cadence as a line: the lure's height over half a minute, twitches as ticks.
  import type { PatternMove } from "../../lib/api/types";

  let { moves }: { moves: readonly PatternMove[] } = $props();

  const SHOWN_S = 24;
  const WIDE = 90;
  const TALL = 36;

  const drawn = $derived.by(() => {
    const points: [number, number][] = [[0, 0]];
    const ticks: [number, number][] = [];
    let time = 0;
    let height = 0;
    for (let k = 0; time < SHOWN_S && k < 400; k++) {
      const move = moves[k % moves.length]!;
      if (move.twitch) ticks.push([time, height]);
      const seconds = Math.min(move.seconds, SHOWN_S - time);
      time += seconds;
      height += seconds * move.lift_m_s;
      points.push([time, height]);
    }
    const heights = points.map(([, h]) => h);
    const low = Math.min(...heights);
    const tall = Math.max(Math.max(...heights) - low, 0.25);
    const x = (at: number) => (at / SHOWN_S) * WIDE;
    const y = (h: number) => TALL - 5 - ((h - low) / tall) * (TALL - 10);
    return {
      line: points.map(([at, h]) => `${x(at).toFixed(1)},${y(h).toFixed(1)}`).join(" "),
      ticks: ticks.map(([at, h]) => [x(at), y(h)] as const),
    };
  });
</script>

<svg viewBox="0 0 {WIDE} {TALL}" aria-hidden="true">
  <polyline points={drawn.line} />
  {#each drawn.ticks as [x, y] (x)}<line x1={x} x2={x} y1={y - 7} y2={y + 1} />{/each}
</svg>

<style>
  svg {
    width: 90px;
    height: 36px;
  }

  polyline {
    fill: none;
    stroke: var(--action);
    stroke-width: 2.5;
    stroke-linejoin: round;
  }

  line {
    stroke: var(--action);
    stroke-width: 2.5;
  }
</style>
