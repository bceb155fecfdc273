<script lang="ts">
  // Fewer holes: how many looks cover a lake, against how many holes drilled blind, and where to look from next.
  import { api, ok, words } from "../../lib/api/client";
  import type { Cover } from "../../lib/api/types";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { area, trim, way } from "../../lib/units";
  import { Wait } from "../../lib/wait.svelte";
  import { search } from "./search.svelte";
  import { clockOf, paces } from "./words";

  let {
    lake,
    at,
    twelve,
  }: { lake: { id: number; name: string }; at: { east: number; north: number }; twelve: number } = $props();

  const wait = new Wait();
  let cover: Cover | null = $state.raw(null);
  let trouble = $state("");

  async function plan() {
    trouble = "";
    try {
      const { shore_m: shore } = await ok(
        api.GET("/api/lakes/{lake_id}", { params: { path: { lake_id: lake.id } } }),
      );
      const ring = shore.flatMap((east, k) =>
        k % 2 === 0 ? [[east, shore[k + 1]!] as [number, number]] : [],
      );
      if (ring.length < 3) {
        trouble = `The shore of ${lake.name} is not known: draw it under Trip, Lake.`;
        return;
      }
      const body = { shore: ring, look_radius_m: search.lookRadius, cone_radius_m: search.seenRadius };
      cover = await wait.during((headers) => ok(api.POST("/api/search/fewer-holes", { body, headers })));
    } catch (problem) {
      trouble = words(problem);
    }
  }

  /** The looks nearest to here, but for the one that one stands in. */
  const next = $derived.by(() =>
    (cover?.looks ?? [])
      .map(([east, north]) => {
        const [e, n] = [east - at.east, north - at.north];
        return { away: Math.hypot(e, n), turn: ((Math.atan2(e, n) * 180) / Math.PI + 360) % 360 };
      })
      .filter((one) => one.away > search.lookRadius)
      .sort((a, b) => a.away - b.away)
      .slice(0, 3),
  );
</script>

<section class="cover" aria-label="Fewer holes">
  <h2>Fewer holes</h2>
  {#if cover}
    <p data-testid="cover">
      <strong>{trim(cover.looks.length, 0)} looks</strong> of {way(search.lookRadius, prefs.system)} all round cover
      {lake.name}
      ({area(cover.water_m2, prefs.system)}). Drilled blind, a cone each, it takes {cover.blind.toLocaleString(
        "en",
      )} holes.
    </p>
    <ul>
      {#each next as one, k (k)}
        <li>{way(one.away, prefs.system)} at {clockOf(one.turn - twelve)}, {paces(one.away)}</li>
      {/each}
    </ul>
    <p class="soft">The nearest places to look from next. Thin ice is on the Trip's map: walk round it.</p>
  {:else}
    <button onclick={plan} disabled={wait.busy}>How many looks cover the lake</button>
  {/if}
  <Waiting {wait} words="Laying looks over the lake" />
  <Trouble words={trouble} />
</section>

<style>
  .cover {
    display: grid;
    gap: 6px;
  }

  ul {
    margin: 0;
    padding-left: 1.1em;
  }
</style>
