<script lang="ts">
  // What is known of the lake: put on the map by touch or by paces, taken in and given out as files, taken away again.
  import { api, ok, words } from "../../lib/api/client";
  import { limits } from "../../lib/api/limits";
  import Choice from "../../lib/controls/Choice.svelte";
  import FileButton from "../../lib/controls/FileButton.svelte";
  import Measured from "../../lib/controls/Measured.svelte";
  import { options, orNone } from "../../lib/controls/options";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { listed } from "../../lib/listed";
  import { prefs } from "../../lib/prefs.svelte";
  import { undo } from "../../lib/undo.svelte";
  import { deepMeasure, depth, shortMeasure, small, trim, way } from "../../lib/units";
  import { when } from "../../lib/when";
  import { world } from "../../lib/world.svelte";
  import { compass } from "./compass";
  import { byHand } from "./hand.svelte";
  import { PACE_M, paced } from "./paces";
  import Position from "./Position.svelte";
  import SharePlaces from "./SharePlaces.svelte";
  import TakeIn from "./TakeIn.svelte";
  import { trip } from "./trip.svelte";

  let { another }: { another: () => void } = $props();

  type Put = "depth" | "structure" | "ice" | "fished" | "hole" | "landing";
  const PUTS: { value: Put; label: string }[] = [
    { value: "depth", label: "Depth" },
    { value: "structure", label: "Structure" },
    { value: "ice", label: "Ice" },
    { value: "fished", label: "Fished" },
    { value: "hole", label: "Hole" },
    { value: "landing", label: "Landing" },
  ];
  const KINDS = options(limits.BedStructureFields.kind.choices);
  const ICE_KINDS = options(limits.IceFields.kind.choices);
  const BOTTOMS = orNone("Not known", options(limits.HoleFields.bottom_kind.choices));
  const FISHED = options(limits.FishedFields.how.choices);

  let put: Put = $state("depth");
  let depth_m: number | null = $state(null);
  let bottom = $state("");
  let kind = $state("timber");
  let note = $state("");
  let thickness_m: number | null = $state(null);
  let iceKind = $state("clear");
  let how = $state("fished");
  let holeId: number | null = $state(null);
  let paces = $state(40);
  let bearing = $state(90);
  let trouble = $state("");
  let done = $state("");
  let file: File | null = $state(null);

  const system = $derived(prefs.system);
  const lake = $derived(trip.lake!);
  const things = $derived(trip.things);
  const place = $derived(byHand.place);
  const params = () => ({ path: { lake_id: lake.id } });
  const today = () => new Date().toISOString().slice(0, 10);
  const unplaced = $derived.by(() => {
    const placed = new Set((things?.holes ?? []).map(({ hole_id }) => hole_id));
    return listed(
      world.holes.filter((one) => !placed.has(one.id)),
      world.holeId,
    );
  });

  async function attempt(work: () => Promise<unknown>) {
    trouble = "";
    done = "";
    try {
      await work();
      await trip.groundChanged();
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const keep = () =>
    attempt(async () => {
      if (!place) throw new Error("Touch the map where it lies, or give paces and a direction.");
      const at = { east_m: place.east, north_m: place.north };
      if (put === "depth") {
        if (depth_m === null) throw new Error("Type the depth first.");
        const one = { ...at, depth_m, how: "typed in", at: new Date().toISOString(), bottom } as const;
        await ok(
          api.POST("/api/lakes/{lake_id}/soundings", {
            params: params(),
            body: { soundings: [{ ...one, bottom: one.bottom as "" }] },
          }),
        );
        depth_m = null;
      } else if (put === "structure") {
        const body = { ...at, kind: kind as "timber", note: note.trim() };
        await ok(api.POST("/api/lakes/{lake_id}/structures", { params: params(), body }));
      } else if (put === "ice") {
        if (thickness_m === null) throw new Error("Type how thick the ice is first.");
        const body = { ...at, thickness_m, kind: iceKind as "clear", at: today() };
        await ok(api.POST("/api/lakes/{lake_id}/ice", { params: params(), body }));
        thickness_m = null;
      } else if (put === "fished") {
        const body = { ...at, at: today(), how: how as "fished", note: note.trim() };
        await ok(api.POST("/api/lakes/{lake_id}/fished", { params: params(), body }));
      } else if (put === "hole") {
        if (holeId === null) throw new Error("Choose which hole it is first.");
        await ok(
          api.PUT("/api/lakes/{lake_id}/holes/{hole_id}", {
            params: { path: { lake_id: lake.id, hole_id: holeId } },
            body: at,
          }),
        );
        holeId = null;
      } else await trip.changeLake({ landing_m: [at.east_m, at.north_m] });
      note = "";
      byHand.place = null;
      trip.tool = "look";
      done = "It is on the map.";
    });

  type Gone = "soundings" | "structures" | "ice" | "fished" | "surveys";
  const ADDRESS = {
    soundings: "/api/lakes/{lake_id}/soundings/{row_id}",
    structures: "/api/lakes/{lake_id}/structures/{row_id}",
    ice: "/api/lakes/{lake_id}/ice/{row_id}",
    fished: "/api/lakes/{lake_id}/fished/{row_id}",
    surveys: "/api/lakes/{lake_id}/surveys/{row_id}",
  } as const;

  const remove = (what: Gone, id: number, called: string) =>
    attempt(async () => {
      const removed = await ok(
        api.DELETE(ADDRESS[what], { params: { path: { lake_id: lake.id, row_id: id } } }),
      );
      await undo.kept(`${called} is removed.`, removed, () => trip.groundChanged());
    });

  const unplace = (hole_id: number, name: string) =>
    attempt(async () => {
      const removed = await ok(
        api.DELETE("/api/lakes/{lake_id}/holes/{hole_id}", {
          params: { path: { lake_id: lake.id, hole_id } },
        }),
      );
      await undo.kept(`${name} is off the map; the hole stays.`, removed, () => trip.groundChanged());
    });

  const removeLake = () =>
    attempt(async () => {
      const { name } = lake; // which is no more once it is off the page
      const removed = await ok(api.DELETE("/api/lakes/{lake_id}", { params: params() }));
      trip.lake = null;
      await undo.kept(`${name} is removed.`, removed, () => trip.load());
    });

  const typed = $derived(
    (things?.soundings ?? [])
      .filter((one) => one.how !== "sonar")
      .slice(-12)
      .toReversed(),
  );
  const where = (one: { east_m: number; north_m: number }) => {
    const [e, n] = [one.east_m - trip.start[0], one.north_m - trip.start[1]];
    return `${way(Math.hypot(e, n), system)} ${compass((Math.atan2(e, n) * 180) / Math.PI)} of the start`;
  };
  const query = $derived(trip.band ? `&from_m=${trip.band.from_m}&to_m=${trip.band.to_m}` : "");
  let position = $derived({ latitude: lake.latitude, longitude: lake.longitude });
  const moved = $derived(position.latitude !== lake.latitude || position.longitude !== lake.longitude);
</script>

<section aria-label="Put on the map">
  <h2>Put on the map</h2>
  <Choice name="What" options={PUTS} value={put} choose={(value) => (put = value)} />
  <p>
    {#if place}At {where({ east_m: place.east, north_m: place.north })}.{:else}Touch the map where it lies, or
      walk there from the start:{/if}
  </p>
  {#if !place}
    <div class="button-row">
      <label class="field"
        >Paces <input type="number" min="1" max="5000" bind:value={paces} inputmode="numeric" /></label
      >
      <label class="field"
        >Degrees from north <input
          type="number"
          min="0"
          max="360"
          bind:value={bearing}
          inputmode="numeric"
        /></label
      >
      <button
        onclick={() => {
          const [east, north] = paced(trip.start, paces, bearing);
          byHand.place = { east, north };
        }}>There</button
      >
    </div>
    <p class="soft">A pace is taken to be {depth(PACE_M, system)}.</p>
  {/if}
  <form
    class="button-row"
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    {#if put === "depth"}
      <Measured
        id="put-depth"
        name="Depth"
        measure={deepMeasure(1)}
        value={depth_m}
        low={0}
        high={limits.SoundingGivenFields.depth_m.max}
        empty
        change={(value) => (depth_m = value)}
      />
      <label class="field"
        >Bottom
        <select bind:value={bottom}>
          {#each BOTTOMS as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
        </select></label
      >
    {:else if put === "structure"}
      <label class="field"
        >What it is
        <select bind:value={kind}>
          {#each KINDS as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
        </select></label
      >
      <label class="field"
        >Note <input bind:value={note} maxlength={limits.BedStructureFields.note.longest} /></label
      >
    {:else if put === "ice"}
      <Measured
        id="put-ice"
        name="Ice"
        measure={shortMeasure}
        value={thickness_m}
        low={0}
        high={limits.IceFields.thickness_m.max}
        empty
        change={(value) => (thickness_m = value)}
      />
      <label class="field"
        >Kind
        <select bind:value={iceKind}>
          {#each ICE_KINDS as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
        </select></label
      >
    {:else if put === "fished"}
      <Choice name="How" options={FISHED} value={how} choose={(value) => (how = value)} />
      <label class="field"
        >Note <input bind:value={note} maxlength={limits.FishedFields.note.longest} /></label
      >
    {:else if put === "hole"}
      <label class="field"
        >Which hole
        <select bind:value={holeId}>
          <option value={null}>{unplaced.length === 0 ? "All holes are on a map" : "Choose"}</option>
          {#each unplaced as one (one.id)}<option value={one.id}
              >{one.name}, {depth(one.bottom_depth_m, system)}</option
            >{/each}
        </select></label
      >
    {/if}
    <button class="primary">{put === "landing" ? "The landing is here" : "Put it there"}</button>
  </form>
  <Trouble words={trouble} />
  <p role="status">{done}</p>
</section>

<section aria-label="Files">
  <h2>Files</h2>
  <div class="button-row">
    <FileButton
      label="Take depths in"
      name="File of depths"
      accept=".csv,.txt,.gpx,.asc,text/csv,application/gpx+xml"
      take={(one) => (file = one)}
    />
    <a class="button" href="/api/lakes/{lake.id}/file?kind=csv" download>CSV</a>
    <a class="button" href="/api/lakes/{lake.id}/file?kind=gpx" download>GPX</a>
    <a class="button" href="/api/lakes/{lake.id}/file?kind=geojson{query}" download>GeoJSON</a>
    <a class="button" href="/api/lakes/{lake.id}/file?kind=grid" download>ESRI grid</a>
  </div>
  <ul class="lines">
    {#each things?.surveys ?? [] as one (one.id)}
      <li class="line">
        <span><b>{one.name}</b>, {one.soundings} soundings, taken in {when(one.taken_at)}</span>
        <RemoveButton
          what="Remove the soundings of {one.name}"
          remove={() => remove("surveys", one.id, one.name)}
        />
      </li>
    {/each}
  </ul>
</section>

<SharePlaces />

<section aria-label="What is known">
  <h2>{lake.soundings} depths known{trip.map?.grid ? "" : ", none yet"}</h2>
  {#if (things?.soundings_left_out ?? 0) > 0}
    <p class="soft">Every one counts; {things?.soundings_left_out} of them are not drawn as dots.</p>
  {/if}
  <details>
    <summary>Depths measured by hand</summary>
    <ul class="lines">
      {#each typed as one (one.id)}
        <li class="line">
          <span
            ><b class="figures">{depth(one.depth_m, system)}</b>
            {where(one)}, {one.how}{one.bottom ? `, ${one.bottom}` : ""}</span
          >
          <RemoveButton
            what="Remove the depth {depth(one.depth_m, system)}, {where(one)}"
            remove={() => remove("soundings", one.id, "The depth")}
          />
        </li>
      {/each}
    </ul>
  </details>
  <details>
    <summary>Structures, ice, places fished, holes</summary>
    <ul class="lines">
      {#each things?.structures ?? [] as one (`s${one.id}`)}
        <li class="line">
          <span><b>{one.kind}</b> {where(one)}. {one.note}</span>
          <RemoveButton
            what="Remove {one.kind}, {where(one)}"
            remove={() => remove("structures", one.id, one.kind)}
          />
        </li>
      {/each}
      {#each things?.ice ?? [] as one (`i${one.id}`)}
        <li class="line">
          <span><b>Ice {small(one.thickness_m, system)}</b>, {one.kind}, {where(one)}, {one.at}</span>
          <RemoveButton
            what="Remove ice of {one.at}, {where(one)}"
            remove={() => remove("ice", one.id, "The ice reading")}
          />
        </li>
      {/each}
      {#each things?.fished ?? [] as one (`f${one.id}`)}
        <li class="line">
          <span><b>{one.how}</b> {where(one)}, {one.at}. {one.note}</span>
          <RemoveButton
            what="Remove the place {one.how} on {one.at}"
            remove={() => remove("fished", one.id, "The place")}
          />
        </li>
      {/each}
      {#each things?.holes ?? [] as one (`h${one.hole_id}`)}
        <li class="line">
          <span><b>Hole {one.name}</b>, {depth(one.depth_m, system)}, {where(one)}</span>
          <button onclick={() => unplace(one.hole_id, one.name)}
            >Off the map<span class="unseen">: {one.name}</span></button
          >
        </li>
      {/each}
    </ul>
  </details>
</section>

<section aria-label="The lake itself">
  <h2>The lake itself</h2>
  <div class="button-row">
    <button onclick={another}>Another lake</button>
    <button
      onclick={() => (trip.tool = trip.tool === "shore" ? "look" : "shore")}
      aria-pressed={trip.tool === "shore"}
      >{lake.shore_m.length > 0 ? "Draw the shore anew" : "Draw the shore"}</button
    >
    {#if trip.tool === "shore"}<p>Draw round the lake on the map, in one go.</p>{/if}
  </div>
  <Position bind:position />
  {#if moved && (position.latitude === null) === (position.longitude === null)}
    <button class="primary" onclick={() => attempt(() => trip.changeLake(position))}
      >Keep where it lies</button
    >
  {/if}
  {#if lake.latitude !== null && lake.longitude !== null}
    <p class="soft figures">Places are counted from {trim(lake.latitude, 5)}, {trim(lake.longitude, 5)}.</p>
  {/if}
  <RemoveButton what="Remove {lake.name} with all that was measured on it" remove={removeLake} />
</section>
{#if file}<TakeIn {file} close={() => (file = null)} />{/if}

<style>
  section {
    display: grid;
    gap: 8px;
    padding-bottom: 10px;
    border-bottom: 1.5px solid var(--line);
  }

  .field {
    font-weight: 600;
  }

  .field input[type="number"] {
    width: 110px;
  }

  .line {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 8px;
  }
</style>
