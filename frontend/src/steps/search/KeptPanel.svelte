<script lang="ts">
  // What is kept of a lake round the look-out hole: touched things put on its map, and the way back to each, weeks later.
  import { api, ok, words } from "../../lib/api/client";
  import type { LakeThings } from "../../lib/api/types";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { way } from "../../lib/units";
  import { search } from "./search.svelte";
  import { clockOf, compassOf, paces } from "./words";

  let {
    lake,
    at,
    twelve,
  }: { lake: { id: number; name: string }; at: { east: number; north: number }; twelve: number } = $props();

  const KINDS = ["timber", "brush", "boulder", "rock pile", "crib", "weed edge", "school seen"] as const;
  const THIN_ICE = new Set<string>(["spring", "inlet", "pressure ridge"]);
  const FURTHEST_M = 1000;
  let kind: (typeof KINDS)[number] = $state("school seen");
  // What swims is offered as a school seen, what stands as one of the things that do.
  $effect(() => {
    const first = search.touched?.kinds[0]?.kind;
    if (first) kind = first === "standing" ? "timber" : "school seen";
  });
  let note = $state("");
  let said = $state("");
  let trouble = $state("");
  let things: LakeThings | null = $state.raw(null);

  const params = $derived({ path: { lake_id: lake.id } });
  const ice = $derived(search.touched?.ice ?? null);
  /** Where the touched thing lies on the lake: what stands is on the bed, so as near as it can be. */
  const place = $derived.by(() => {
    if (!search.touched || ice?.low_m == null || ice.high_m == null) return null;
    const stands = search.touched.kinds[0]?.kind === "standing";
    const away = stands ? ice.low_m : (ice.low_m + ice.high_m) / 2;
    const turn = (search.touched.bearing * Math.PI) / 180;
    return { east_m: at.east + Math.sin(turn) * away, north_m: at.north + Math.cos(turn) * away };
  });

  const load = async () => {
    things = await ok(api.GET("/api/lakes/{lake_id}/things", { params }));
  };
  $effect(() => {
    void lake.id;
    load().catch((problem: unknown) => (trouble = words(problem)));
  });

  async function keep() {
    if (!place) return;
    trouble = said = "";
    try {
      await ok(api.POST("/api/lakes/{lake_id}/structures", { params, body: { ...place, kind, note } }));
      said = `${kind} is on the map of ${lake.name}.`;
      note = "";
      await load();
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const back = $derived.by(() => {
    const kept = (things?.structures ?? []).map(({ id, kind, note, east_m, north_m }) => ({
      key: `s${id}`,
      what: kind as string,
      note: THIN_ICE.has(kind) ? `${note ? `${note}, ` : ""}thin ice: keep away` : note,
      east: east_m - at.east,
      north: north_m - at.north,
    }));
    const holes = (things?.holes ?? []).map(({ hole_id, name, east_m, north_m }) => ({
      key: `h${hole_id}`,
      what: name,
      note: "",
      east: east_m - at.east,
      north: north_m - at.north,
    }));
    return [...kept, ...holes]
      .map((one) => ({
        ...one,
        away: Math.hypot(one.east, one.north),
        turn: ((Math.atan2(one.east, one.north) * 180) / Math.PI + 360) % 360,
      }))
      .filter((one) => one.away > 0.5 && one.away < FURTHEST_M)
      .sort((a, b) => a.away - b.away)
      .slice(0, 12);
  });
</script>

<section class="kept" aria-label="Kept on the lake">
  <h2>Keep it on the map of {lake.name}</h2>
  {#if place}
    <div class="row">
      <label>
        It is
        <select bind:value={kind}>
          {#each KINDS as one (one)}<option>{one}</option>{/each}
        </select>
      </label>
      <label class="note">Note <input bind:value={note} maxlength="200" /></label>
      <button onclick={keep}>Keep</button>
    </div>
  {:else}
    <p class="soft">Touch a thing first: then it can be kept.</p>
  {/if}
  <p role="status">{said}</p>
  <Trouble words={trouble} />
  {#if back.length > 0}
    <h2>From here to</h2>
    <ul>
      {#each back as one (one.key)}
        <li>
          <strong>{one.what}</strong>{one.note ? `, ${one.note}` : ""}:
          {way(one.away, prefs.system)} at {clockOf(one.turn - twelve)} ({compassOf(one.turn)}), {paces(
            one.away,
          )}
        </li>
      {/each}
    </ul>
    <p><a href="/api/lakes/{lake.id}/file?kind=gpx" download>All of it as a GPX file</a></p>
  {/if}
</section>

<style>
  .kept {
    display: grid;
    gap: 6px;
  }

  .row {
    display: flex;
    flex-wrap: wrap;
    align-items: end;
    gap: 8px;
  }

  label {
    display: grid;
    font-weight: 600;
  }

  .note {
    flex: 1 1 9rem;
  }

  input {
    width: 100%;
    min-width: 0;
  }

  ul {
    margin: 0;
    padding-left: 1.1em;
  }

  a {
    display: inline-block;
    min-height: var(--target);
    align-content: center;
    color: var(--action);
  }
</style>
