<script lang="ts">
  // A lake with no map: three depths at so many paces from where one goes onto the ice, and there is something.
  import { api, ok, words } from "../../lib/api/client";
  import { limits } from "../../lib/api/limits";
  import FileButton from "../../lib/controls/FileButton.svelte";
  import Measured from "../../lib/controls/Measured.svelte";
  import NumberKnob from "../../lib/controls/NumberKnob.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { deepMeasure, depth } from "../../lib/units";
  import FriendsPlaces from "./FriendsPlaces.svelte";
  import { PACE_M, paced } from "./paces";
  import Position from "./Position.svelte";
  import TakeIn from "./TakeIn.svelte";
  import { trip } from "./trip.svelte";

  let { done, back }: { done: () => void; back: (() => void) | null } = $props();

  const WAYS = [
    ["N", 0],
    ["NE", 45],
    ["E", 90],
    ["SE", 135],
    ["S", 180],
    ["SW", 225],
    ["W", 270],
    ["NW", 315],
  ] as const;
  const measure = deepMeasure(1);
  const system = $derived(prefs.system);

  let name = $state("");
  let position: { latitude: number | null; longitude: number | null } = $state({
    latitude: null,
    longitude: null,
  });
  let rows: { paces: number; bearing: number; depth_m: number | null }[] = $state([
    { paces: 40, bearing: 90, depth_m: null },
    { paces: 80, bearing: 90, depth_m: null },
    { paces: 120, bearing: 90, depth_m: null },
  ]);
  let trouble = $state("");
  let busy = $state(false);
  let file: File | null = $state(null);

  // Where one goes onto the ice the water begins.
  const SHORE = { east_m: 0, north_m: 0, depth_m: 0 };
  const found = $derived(
    rows.flatMap(({ paces, bearing, depth_m }) => {
      if (depth_m === null) return [];
      const [east_m, north_m] = paced([0, 0], paces, bearing);
      return [{ east_m, north_m, depth_m }];
    }),
  );

  const known = $derived(found.length > 0 ? [SHORE, ...found] : []);

  /** What these few depths say of the water further on. */
  let ahead: { paces: number; depth_m: number; sd_m: number }[] = $state([]);
  let asked = 0;
  $effect(() => {
    const mine = ++asked;
    if (found.length < 2) return void (ahead = []);
    const last = rows.at(-1)!;
    const steps = [20, 60, 100, 160].map((more) => ({ paces: more, at: paced([0, 0], more, last.bearing) }));
    void ok(
      api.POST("/api/ground/surface", {
        body: { soundings: known, shore: null, at: steps.map(({ at }) => at), band_m: null },
      }),
    )
      .then((answer) => {
        if (mine === asked)
          ahead = steps.map(({ paces }, k) => ({
            paces,
            depth_m: answer.depth_m[k]!,
            sd_m: answer.sd_m[k]!,
          }));
      })
      .catch(() => (ahead = []));
  });

  async function keep() {
    busy = true;
    trouble = "";
    try {
      const lake = await trip.addLake({ name: name.trim(), ...position, landing_m: [0, 0], shore_m: [] });
      if (known.length > 0) {
        const at = new Date().toISOString();
        await ok(
          api.POST("/api/lakes/{lake_id}/soundings", {
            params: { path: { lake_id: lake.id } },
            body: {
              soundings: known.map((one) => ({ ...one, how: "typed in" as const, at, bottom: "" as const })),
            },
          }),
        );
        await trip.groundChanged();
      }
      done();
    } catch (problem) {
      trouble = words(problem);
    } finally {
      busy = false;
    }
  }
</script>

<form
  class="new"
  onsubmit={(event) => {
    event.preventDefault();
    void keep();
  }}
>
  <h1>{back ? "Another lake" : "The water from above"}</h1>
  <p>
    Which depth, which edge, which holes, and whether the gear lives through the day. No map is needed: walk
    out from where you go onto the ice, and type what you found at three places.
  </p>
  <Trouble words={trouble} />
  <label class="field"
    >What the water is called <input
      bind:value={name}
      maxlength={limits.LakeFields.name.longest}
      required
    /></label
  >
  {#each rows as row, k (k)}
    <fieldset>
      <legend>Depth {k + 1}</legend>
      <NumberKnob
        name="Paces from the landing"
        value={row.paces}
        low={5}
        high={2000}
        step={5}
        show={String}
        change={(paces) => (row.paces = paces)}
      />
      <label class="field"
        >Direction
        <select bind:value={row.bearing}>
          {#each WAYS as [called, value] (value)}<option {value}>{called}</option>{/each}
        </select></label
      >
      <Measured
        id="first-depth-{k}"
        name="Depth there"
        {measure}
        value={row.depth_m}
        low={0}
        high={150}
        empty
        change={(value) => (row.depth_m = value)}
      />
    </fieldset>
  {/each}
  {#if ahead.length > 0}
    <p role="status">
      By these, that way:
      {#each ahead as one, k (one.paces)}{k > 0 ? "; " : ""}at {one.paces} paces about {depth(
          one.depth_m,
          system,
        )}, give or take {depth(2 * one.sd_m, system)}{/each}.
    </p>
  {/if}
  <div class="button-row">
    <button
      type="button"
      onclick={() => (rows = [...rows, { ...rows.at(-1)!, paces: rows.at(-1)!.paces + 40, depth_m: null }])}
      >One depth more</button
    >
  </div>
  <Position bind:position />
  <div class="button-row">
    <button class="primary" disabled={busy}>Draw it</button>
    <FileButton
      label="I have a file of depths"
      name="File of depths"
      accept=".csv,.txt,.gpx,.asc,text/csv,application/gpx+xml"
      take={(one) => (file = one)}
    />
    <FriendsPlaces taken={done} />
    {#if back}<button type="button" onclick={back}>Back</button>{/if}
  </div>
  <p class="soft">A pace is taken to be {depth(PACE_M, system)}.</p>
</form>
{#if file}
  <TakeIn
    {file}
    close={() => (file = null)}
    makeLake={{ name: name.trim() || file.name.replace(/\.\w+$/, "").slice(0, 80) || "Lake" }}
    {done}
  />
{/if}

<style>
  .new {
    display: grid;
    gap: 12px;
    max-width: 720px;
    margin: 0 auto;
    padding: 8px 4px 32px;
  }

  fieldset {
    display: grid;
    grid-template-columns: 2fr 1fr 1.3fr;
    align-items: end;
    gap: 10px 16px;
    margin: 0;
    padding: 8px 12px 12px;
    border: 1.5px solid var(--line);
    border-radius: 6px;
    min-width: 0;
  }

  legend,
  .field {
    font-weight: 600;
  }

  @media (max-width: 760px) {
    fieldset {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
