<script lang="ts">
  // A hole that was drilled on the ice: its name, and where it lies by paces from where one stood.
  import { prefs } from "../lib/prefs.svelte";
  import { way } from "../lib/units";
  import { compass } from "../steps/trip/compass";
  import { PACE_M, paced } from "../steps/trip/paces";
  import type { Chosen } from "./chosen.svelte";
  import { spotsOf } from "./spots";
  import type { Notes, Spot } from "./notes.svelte";
  import type { Sheet } from "./told";

  let { sheet, notes, chosen, spot }: { sheet: Sheet; notes: Notes; chosen: Chosen; spot: Spot | null } =
    $props();

  const TURNS = [0, 45, 90, 135, 180, 225, 270, 315];
  let name = $state("");
  let paces = $state(10);
  let bearing = $state(0);
  const { lake, start_m } = $derived(sheet.told);
  const from = $derived<[number, number]>(
    spot?.east_m != null && spot.north_m != null ? [spot.east_m, spot.north_m] : start_m,
  );
  const taken = $derived(spotsOf(sheet.told, notes).some((one) => one.name === name.trim()));

  function drill() {
    const [east, north] = paced(from, paces, bearing).map((one) => Math.round(one * 10) / 10) as [
      number,
      number,
    ];
    const made: Spot = {
      name: name.trim(),
      hole_id: null,
      lake_id: lake.id,
      water: lake.name,
      east_m: east,
      north_m: north,
      depth_m: null,
    };
    notes.drilled(made);
    chosen.spot = made.name;
    name = "";
  }
</script>

<details>
  <summary>A hole drilled here</summary>
  <div class="form">
    <label class="field">Its name <input bind:value={name} maxlength="80" autocomplete="off" /></label>
    <label class="field"
      >Paces from {spot?.name ?? "the landing"}
      <input type="number" inputmode="numeric" min="0" max="5000" bind:value={paces} /></label
    >
    <label class="field"
      >Direction
      <select bind:value={bearing}>
        {#each TURNS as one (one)}<option value={one}>{compass(one)} ({one}°)</option>{/each}
      </select></label
    >
  </div>
  <p class="soft">
    {way((paces || 0) * PACE_M, prefs.system)}
    {compass(bearing)} of it.{#if taken}
      That name is taken: give it another.{/if}
  </p>
  <button disabled={name.trim() === "" || taken} onclick={drill}>It is drilled</button>
</details>

<style>
  .form {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px;
  }

  input,
  select {
    width: 100%;
  }
</style>
