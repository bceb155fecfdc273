<svelte:options namespace="svg" />

<script lang="ts">
  // What stands round a picture that turns: the hours at its rim, and a ladder of distances up the twelve. No rings to
  // count: the nearest rung is read.
  import { prefs } from "../prefs.svelte";
  import { way } from "../units";
  import { placeOf, reach, type Shown } from "./turning";

  let { shown, width, height }: { shown: Shown; width: number; height: number } = $props();

  const HOURS = [12, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11];
  const far = $derived(reach(shown));
  const at = $derived((bearing: number, away: number) => {
    const [x, y] = placeOf(bearing, away, shown);
    return [x * width, y * height] as const;
  });
  const hours = $derived(
    HOURS.map((hour) => {
      const [x1, y1] = at((hour % 12) * 30, far);
      const [x, y] = at((hour % 12) * 30, far * (shown.way === "round" ? 0.93 : 0.97));
      return { hour, x, y, x1, y1 };
    }),
  );
  const rung = $derived(prefs.system === "feet" ? 10 * 0.3048 : 4);
  const rungs = $derived(
    Array.from({ length: Math.floor((far * 0.9) / rung) }, (_, k) => {
      const away = (k + 1) * rung;
      const [x, y] = at(0, away);
      return { away, x, y, named: (k + 1) % 2 === 0 };
    }),
  );
</script>

{#if shown.way === "round"}
  <circle cx={width / 2} cy={height / 2} r={width / 2 - 1} class="rim" />
  <circle cx={width / 2} cy={height / 2} r="7" class="hole" />
{/if}
{#each rungs as one (one.away)}
  <path class="tick" d="M{one.x - (one.named ? 9 : 5)} {one.y}h{one.named ? 18 : 10}" />
  {#if one.named}<text class="figure" x={one.x + 13} y={one.y + 4}>{way(one.away, prefs.system)}</text>{/if}
{/each}
{#each hours as one (one.hour)}
  <path
    class="tick"
    d="M{one.x1} {one.y1}L{one.x + (one.x1 - one.x) * 0.4} {one.y + (one.y1 - one.y) * 0.4}"
  />
  <text class="hour" x={one.x} y={one.y + (shown.way === "round" ? 6 : 16)}>{one.hour}</text>
{/each}

<style>
  .rim {
    fill: none;
    stroke: var(--ice-edge);
    stroke-width: 1.5;
  }

  .hole {
    fill: var(--panel);
    stroke: var(--ink);
    stroke-width: 2.5;
  }

  .tick {
    stroke: var(--ink);
    stroke-width: 1.5;
    fill: none;
  }

  .hour,
  .figure {
    font: 700 15px var(--figures);
    fill: var(--ink);
    text-anchor: middle;
    paint-order: stroke;
    stroke: var(--ground);
    stroke-width: 4px;
    stroke-linejoin: round;
  }

  .figure {
    font-size: 12px;
    font-weight: 600;
    text-anchor: start;
  }
</style>
