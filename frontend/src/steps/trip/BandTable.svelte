<script lang="ts">
  // The table of starting depths: common practice, each line with its reason, every one to be changed.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { BandLine } from "../../lib/api/types";
  import Measured from "../../lib/controls/Measured.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Dialog from "../../lib/overlay/Dialog.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { undo } from "../../lib/undo.svelte";
  import { deepMeasure, depth } from "../../lib/units";
  import { trip } from "./trip.svelte";

  let { close }: { close: () => void } = $props();
  let lines: BandLine[] = $state([]);
  let trouble = $state("");
  let edited: BandLine | null = $state(null);
  const system = $derived(prefs.system);
  const measure = deepMeasure(1);

  const species = $derived([...new Set(lines.map((one) => one.species))]);
  let shown = $state(trip.day?.species ?? "any");
  const rows = $derived(lines.filter((one) => one.species === (species.includes(shown) ? shown : "any")));

  async function load() {
    try {
      lines = (await ok(api.GET("/api/trip/bands"))).lines;
    } catch (problem) {
      trouble = words(problem);
    }
  }
  onMount(load);

  async function save() {
    if (!edited) return;
    const { id: _, ...body } = edited;
    try {
      await ok(api.PUT("/api/trip/bands", { body }));
      edited = null;
      trouble = "";
      await load();
      await trip.set({}, false);
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function back(line: BandLine) {
    try {
      const removed = await ok(
        api.DELETE("/api/trip/bands/{row_id}", { params: { path: { row_id: line.id! } } }),
      );
      const reload = async () => {
        await load();
        await trip.set({}, false);
      };
      undo.kept("Your own line is gone.", removed, reload);
      await reload();
    } catch (problem) {
      trouble = words(problem);
    }
  }
</script>

<Dialog label="Starting depths" {close}>
  <h2>Starting depths</h2>
  <p class="soft">
    Where people begin, and why. Common practice with no source, and no biology: change every line that your
    own water knows better. A season of your own log goes before it.
  </p>
  <Trouble words={trouble} />
  <label class="field"
    >Fish
    <select bind:value={shown}>
      {#each species as one (one)}<option value={one}>{one === "any" ? "any other" : one}</option>{/each}
    </select></label
  >
  {#if !species.includes(shown) && lines.length > 0}
    <p>
      There is no line for {shown} yet; the lines for any fish are shown.
      <button onclick={() => (edited = { ...rows[0]!, id: null, species: shown })}
        >Write one for {shown}</button
      >
    </p>
  {/if}
  <ul class="lines">
    {#each rows as one (`${one.season} ${one.light}`)}
      <li>
        <span
          ><b>{one.season}, {one.light}:</b>
          {depth(one.from_m, system)} to {depth(one.to_m, system)}; {one.why}.{#if one.id !== null}<em>
              Yours.</em
            >{/if}</span
        >
        <span class="button-row">
          <button onclick={() => (edited = { ...one })} aria-label="Change {one.season}, {one.light}"
            >Change</button
          >
          {#if one.id !== null}<button onclick={() => back(one)}>Back to the table's</button>{/if}
        </span>
      </li>
    {/each}
  </ul>
  {#if edited}
    <form
      onsubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <h2>{edited.species}, {edited.season}, {edited.light}</h2>
      <Measured
        id="line-from"
        name="From"
        {measure}
        value={edited.from_m}
        low={0}
        high={60}
        change={(value) => value !== null && (edited!.from_m = value)}
      />
      <Measured
        id="line-to"
        name="To"
        {measure}
        value={edited.to_m}
        low={0}
        high={60}
        change={(value) => value !== null && (edited!.to_m = value)}
      />
      <label class="field">Why <input bind:value={edited.why} maxlength="200" required /></label>
      <div class="button-row">
        <button class="primary">Keep the line</button>
        <button type="button" onclick={() => (edited = null)}>Leave it</button>
      </div>
    </form>
  {/if}
  <button onclick={close}>Close</button>
</Dialog>

<style>
  li {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 4px 12px;
  }

  form {
    display: grid;
    gap: 8px;
    padding: 10px;
    border: 1.5px solid var(--line);
    border-radius: 6px;
  }
</style>
