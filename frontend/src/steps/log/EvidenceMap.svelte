<script lang="ts">
  // The lake from above with what the log has of each hole: as large as it was fished, as full as it brought bites; and
  // the places like those that worked. The list beside it says the same.
  import type { Elsewhere, Lake, Returns } from "../../lib/api/types";
  import { rate } from "./words";

  let { lake, holes, places }: { lake: Lake; holes: Returns["holes"]; places: Elsewhere["places"] } =
    $props();

  let width = $state(600);
  const PAD = 46;
  const shore = $derived(
    Array.from(
      { length: lake.shore_m.length / 2 },
      (_, k) => [lake.shore_m[2 * k]!, lake.shore_m[2 * k + 1]!] as const,
    ),
  );
  const all = $derived([
    ...shore,
    ...holes.map((one) => [one.east_m ?? 0, one.north_m ?? 0] as const),
    ...places.map((one) => [one.east_m, one.north_m] as const),
  ]);
  const west = $derived(Math.min(...all.map(([east]) => east)));
  const east = $derived(Math.max(...all.map(([e]) => e)));
  const south = $derived(Math.min(...all.map(([, n]) => n)));
  const north = $derived(Math.max(...all.map(([, n]) => n)));
  const scale = $derived(Math.max((width - 2 * PAD) / Math.max(east - west, 1), 0.01));
  const height = $derived((north - south) * scale + 2 * PAD);
  const x = (value: number) => PAD + (value - west) * scale;
  const y = (value: number) => PAD + (north - value) * scale;
  const most = $derived(
    Math.max(0.1, ...holes.map((one) => one.rate.likely), ...places.map((one) => one.rate.likely)),
  );
  const size = (hours: number) => Math.min(8 + 3 * Math.sqrt(hours), 26);
</script>

<figure bind:clientWidth={width}>
  <figcaption>
    {lake.name}: circles as large as they were fished and as full as they brought; diamonds are like those
    that worked
  </figcaption>
  <svg {width} {height} aria-hidden="true">
    <polygon class="water" points={shore.map(([e, n]) => `${x(e)},${y(n)}`).join(" ")} />
    {#each places as one, k (k)}
      <path class="like" d="M{x(one.east_m)} {y(one.north_m) - 11}l11 11l-11 11l-11-11z" />
      <text class="beside" x={x(one.east_m) + 14} y={y(one.north_m) + 5}>{rate(one.rate.likely)}</text>
    {/each}
    {#each holes as one (one.hole)}
      {@const r = size(one.rod_hours)}
      <circle class="fished" cx={x(one.east_m ?? 0)} cy={y(one.north_m ?? 0)} {r} />
      <circle
        class="brought"
        cx={x(one.east_m ?? 0)}
        cy={y(one.north_m ?? 0)}
        r={r * Math.sqrt(one.rate.likely / most)}
      />
      <text x={x(one.east_m ?? 0)} y={y(one.north_m ?? 0) + r + 16}>{one.name} {rate(one.rate.likely)}</text>
    {/each}
  </svg>
</figure>

<style>
  figure {
    margin: 0;
    min-width: 0;
    max-width: 760px;
  }

  figcaption {
    font-weight: 600;
    margin-bottom: 4px;
  }

  svg {
    display: block;
  }

  .water {
    fill: var(--water);
    stroke: var(--ice-edge);
    stroke-width: 2;
  }

  .fished {
    fill: var(--panel);
    stroke: var(--pine);
    stroke-width: 2.5;
  }

  .brought {
    fill: var(--pine);
  }

  .like {
    fill: var(--action);
    stroke: var(--ground);
    stroke-width: 1.5;
  }

  text {
    fill: var(--ink);
    font: 600 0.82rem var(--words);
    text-anchor: middle;
    paint-order: stroke;
    stroke: var(--water);
    stroke-width: 4px;
  }

  .beside {
    text-anchor: start;
  }
</style>
