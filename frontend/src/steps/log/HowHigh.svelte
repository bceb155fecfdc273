<script lang="ts">
  // How high fish came: by the hour from sunset, at each height, and whether pressure decides it.
  import { api, ok, words } from "../../lib/api/client";
  import type { Heights } from "../../lib/api/types";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { latest } from "../../lib/latest";
  import { prefs } from "../../lib/prefs.svelte";
  import { classInUnits, depth, depthUnit, length, sentence, toDepth, trim } from "../../lib/units";
  import { timeOf } from "../../lib/when";
  import Chart from "./Chart.svelte";
  import PictureAndTable from "./PictureAndTable.svelte";
  import { rate } from "./words";

  const AT_ONCE = 100; // rows of the long table

  let { species }: { species: string } = $props();

  let told = $state<Heights | null>(null);
  let trouble = $state("");
  let shown = $state(0);

  const ask = latest((of: string) =>
    ok(api.GET("/api/log/heights", { params: { query: of ? { species: of } : {} } })),
  );

  $effect(() => {
    void ask(species)
      .then((answer) => {
        if (!answer) return;
        told = answer;
        trouble = "";
        if (shown) shown = AT_ONCE;
      })
      .catch((problem: unknown) => (trouble = words(problem)));
  });

  // Those whose hour from sunset is known, oldest first.
  const seen = $derived.by(() => {
    if (!told) return [];
    const { at, kind, species, depth_m, height_m, hours_from_sunset } = told.heights;
    return at.flatMap((when, k) => {
      const hours = hours_from_sunset[k] ?? null;
      return hours === null
        ? []
        : [{ k, when, hours, kind: kind[k]!, species: species[k], depth: depth_m[k]!, height: height_m[k]! }];
    });
  });
  const newest = $derived(seen.slice(-shown || seen.length).reverse());
  const points = $derived(
    [
      { name: "bites and misses", colour: "--pine", landed: false },
      { name: "fish", colour: "--action", landed: true },
    ].map(({ name, colour, landed }) => {
      const mine = seen.filter((one) => (one.kind === "fish") === landed);
      return {
        name,
        colour,
        x: mine.map((one) => one.hours),
        y: mine.map((one) => toDepth(one.height, prefs.system)),
      };
    }),
  );
  const dayOf = (iso: string) =>
    new Date(iso).toLocaleDateString(undefined, { month: "short", day: "numeric", year: "numeric" });
  const rows = $derived(
    told
      ? [
          ...told.classes.map((one) => ({
            name: classInUnits(one.height, prefs.system),
            value: `${one.count}`,
            rests: `${rate(one.rate.likely)} an hour (${rate(one.rate.low)} to ${rate(one.rate.high)})`,
          })),
          ...told.trends.map((one) => ({
            name: `pressure ${one.trend}`,
            value: length(one.mean_m, prefs.system),
            rests:
              `${length(one.low_m, prefs.system)} to ${length(one.high_m, prefs.system)}, ` +
              `${one.days} days, ${one.fish} bites`,
          })),
        ]
      : [],
  );
</script>

<Trouble words={trouble} />
{#if told}
  {@const high = told}
  <h2>How high they came</h2>
  <p data-testid="pressure">
    <b>Does pressure decide how high fish come?</b>
    {sentence(high.says.text, high.says.values, prefs.system)}
  </p>
  <PictureAndTable caption="Bites and fish at each height" {rows}>
    {#if seen.length > 0}
      <Chart
        label="Hour from sunset against height off the bottom"
        x="hours from sunset"
        y="off the bottom, {depthUnit(prefs.system)}"
        {points}
      />
    {/if}
  </PictureAndTable>
  {#if seen.length > 0}
    <details ontoggle={(event) => (shown = event.currentTarget.open ? AT_ONCE : 0)}>
      <summary>Every bite and fish as a table</summary>
      {#if shown}
        <table class="findings" data-testid="every-bite">
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">From sunset</th>
              <th scope="col">Off the bottom</th>
              <th scope="col">Depth</th>
              <th scope="col">What</th>
            </tr>
          </thead>
          <tbody>
            {#each newest as one (one.k)}
              <tr>
                <td
                  ><span class="whole">{dayOf(one.when)}</span>
                  <span class="whole">{timeOf(one.when)}</span></td
                >
                <td class="figures">{trim(one.hours, 1)} h</td>
                <td class="figures">{length(one.height, prefs.system)}</td>
                <td class="figures">{depth(one.depth, prefs.system)}</td>
                <td>{one.kind}{one.species ? `, ${one.species}` : ""}</td>
              </tr>
            {/each}
          </tbody>
        </table>
        {#if shown < seen.length}
          <button onclick={() => (shown += AT_ONCE)}>Older ones ({seen.length - shown} more)</button>
        {/if}
      {/if}
    </details>
  {/if}
{/if}

<style>
  h2 {
    margin-top: 20px;
  }

  .whole,
  td.figures {
    white-space: nowrap;
  }

  button {
    margin-top: 8px;
  }
</style>
