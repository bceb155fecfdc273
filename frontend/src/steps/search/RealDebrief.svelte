<script lang="ts">
  // The debrief of a search: the truth on the map, what each mark was, and how a practised searcher did the same water.
  import { api, ok, words } from "../../lib/api/client";
  import type { SearchWhole } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import Sources from "../../lib/controls/Sources.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { clock, depth, sentence, way } from "../../lib/units";
  import { Wait } from "../../lib/wait.svelte";
  import { real } from "./real.svelte";
  import Spread from "./Spread.svelte";
  import WaterMap from "./WaterMap.svelte";

  let { id, back }: { id: number; back: string } = $props();

  let whole: SearchWhole | null = $state.raw(null);
  let said = $state("");
  let whose: "own" | "other" = $state("own");
  const wait = new Wait();

  $effect(() => {
    const params = { path: { search_id: id } };
    whole = null;
    said = "";
    void real.load().catch(() => undefined);
    wait
      .during((headers) => ok(api.GET("/api/searches/{search_id}", { params, headers })))
      .then((found) => (whole = found))
      .catch((problem: unknown) => (said = words(problem)));
  });

  const shown = $derived.by(() => (whole ? whole[whose] : null));
  const holes = $derived(
    (shown?.holes ?? []).map((one) => ({
      east: one.east_m,
      north: one.north_m,
      range: one.range_m,
      aims: one.aims.map(([deg, range]) => ({ deg, range })),
    })),
  );
  const scene = $derived(real.bounds?.scenes.find((one) => one.key === whole?.scene) ?? null);
  const LOOKED: Record<string, string> = {
    circle: `${clock(120)} all round at each hole, then where it had not looked`,
    fan: "the handle once round at each hole, longer where marks are, then where it had not looked",
    "circle fan":
      "some turns all round, then the fan at each thing that might be a school, then where it had not looked",
  };
  const route = $derived(holes.map(({ east, north }) => `${east},${-north}`).join(" "));
  const swum = (track: number[][]) => track.map(([east, north]) => `${east},${-north!}`).join(" ");
  const holesOf = (count: number) => (count === 1 ? "1 hole" : `${count} holes`);
</script>

<Spread>
  {#snippet head()}
    <h1>{whole ? `${whole.title}: ${whole.found} of ${whole.schools.length} schools` : "The search"}</h1>
    <span class="grow"></span>
    {#if whole}
      <Choice
        name="Whose search"
        options={[
          { value: "own", label: "Yours" },
          { value: "other", label: "A practised searcher's" },
        ]}
        value={whose}
        choose={(one) => (whose = one)}
      />
    {/if}
    <a class="button" href={back}>All scenes</a>
  {/snippet}
  {#snippet view()}
    <Waiting {wait} words="Going through your pictures once more" />
    {#if whole}
      {@const { schools, standing, marks } = whole}
      <WaterMap
        half={real.bounds?.half_m ?? 65}
        lines={whole.lines}
        {holes}
        thick={scene?.thickness_deg ?? 16}
      >
        {#snippet over()}
          {#each standing as one, k (k)}
            <rect
              x={-one.width_m / 2}
              y={-one.length_m / 2}
              width={one.width_m}
              height={one.length_m}
              transform="translate({one.east_m} {-one.north_m}) rotate({one.bearing_deg})"
              class="standing"
            />
          {/each}
          {#each schools as school, k (k)}
            <polyline points={swum(school.way)} class="swum" class:found={school.marked_s !== null} />
            {@const [east, north] = school.way[0]!}
            <text x={east! + 2} y={-north! - 2} class="name">{"ABC"[k]}</text>
          {/each}
          <polyline points={route} class="route" />
          {#if whose === "own"}
            {#each marks as mark, k (k)}
              <path
                class={mark.school === null ? "wrong" : "right"}
                d={mark.school === null
                  ? `M${mark.east_m - 2} ${-mark.north_m - 2}l4 4m0 -4l-4 4`
                  : `M${mark.east_m - 2} ${-mark.north_m}l1.6 1.8l3 -4`}
              />
            {/each}
          {/if}
        {/snippet}
      </WaterMap>
    {/if}
  {/snippet}
  {#snippet foot()}
    <p class="soft">
      Green, whole: the way of a school that was marked. Red, broken: of one that was not. A tick or a cross
      stands where a mark was, and brown is what lies on the bed.
    </p>
  {/snippet}
  {#snippet side()}
    <Trouble words={said} />
    {#if whole}
      <table>
        <thead>
          <tr><td></td><th scope="col">You</th><th scope="col">A practised searcher</th></tr>
        </thead>
        <tbody>
          {#each [["Schools found", whole.own.found, whole.other.found], ["Marks that were none", whole.own.wrong, whole.other.wrong], ["Holes", whole.own.holes.length, whole.other.holes.length], ["Walked", way(whole.own.walked_m, prefs.system), way(whole.other.walked_m, prefs.system)], ["Watched", clock(whole.own.watched_s), clock(whole.other.watched_s)], ["Done after", clock(whole.own.done_s), clock(whole.other.done_s)]] as [what, own, other] (what)}
            <tr><th scope="row">{what}</th><td class="figures">{own}</td><td class="figures">{other}</td></tr>
          {/each}
        </tbody>
      </table>
      {#if whole.said.length > 0}
        <ul class="said">
          {#each whole.said as one, k (k)}<li>{sentence(one.text, one.values, prefs.system)}</li>{/each}
        </ul>
      {/if}
      <h2>The schools</h2>
      <ul class="plainly">
        {#each whole.schools as one, k (k)}
          <li>
            <strong>{"ABC"[k]}</strong>: {one.count}
            {one.species}, {depth(one.depth_m, prefs.system)} down.
            {one.marked_s === null ? "Not marked" : `Marked at ${clock(one.marked_s)}`}{one.told_s === null ||
            one.told_hole === null
              ? "; your pictures never showed it clearly."
              : `; it could be told from ${clock(one.told_s)}, at hole ${one.told_hole + 1}.`}
          </li>
        {/each}
      </ul>
      <h2>Hole by hole</h2>
      <ul class="plainly">
        {#each shown?.holes ?? [] as hole, k (k)}
          <li>
            <strong>{k + 1}</strong>: from {clock(hole.from_s)}, watched {clock(hole.watched_s)}, {hole.found ===
            1
              ? "1 school"
              : `${hole.found} schools`} found
          </li>
        {/each}
      </ul>
      <p class="soft">
        The practised searcher is a rule that had the same water and nothing but pictures: {LOOKED[
          whole.heads.join(" ")
        ]}. It misses schools and takes the bed for fish at times: {holesOf(whole.other.holes.length)} here.
      </p>
    {/if}
    <Sources of="search" />
  {/snippet}
</Spread>

<style>
  .grow {
    flex: 1;
  }

  .button {
    min-height: var(--target);
    align-content: center;
    color: var(--action);
  }

  table {
    border-collapse: collapse;
    width: 100%;
  }

  th,
  td {
    text-align: left;
    padding: 4px 8px 4px 0;
    border-bottom: 1.5px solid var(--line);
  }

  td.figures {
    white-space: nowrap;
    font-weight: 700;
  }

  .said,
  .plainly {
    margin: 0;
    padding-left: 1.1em;
    display: grid;
    gap: 4px;
  }

  .said {
    font-weight: 600;
  }

  .plainly {
    list-style: none;
    padding-left: 0;
  }

  .standing {
    fill: var(--earth-line);
  }

  .swum {
    fill: none;
    stroke: var(--stop);
    stroke-width: 0.9;
    stroke-dasharray: 2 1.2;
  }

  .found {
    stroke: var(--pine);
    stroke-dasharray: none;
  }

  .route {
    fill: none;
    stroke: var(--ink);
    stroke-width: 0.6;
    stroke-dasharray: 0.6 1.2;
  }

  .name {
    font: 700 6px var(--words);
    fill: var(--ink);
    paint-order: stroke;
    stroke: var(--panel);
    stroke-width: 1.4px;
  }

  .right,
  .wrong {
    fill: none;
    stroke: var(--pine);
    stroke-width: 1.6;
  }

  .wrong {
    stroke: var(--stop);
  }
</style>
