<script lang="ts">
  // A file of soundings on its way in: its columns are confirmed, wrong lines are shown, and it goes in whole or not.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { Sniffed, TakenFile } from "../../lib/api/types";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import Dialog from "../../lib/overlay/Dialog.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence } from "../../lib/units";
  import { Wait } from "../../lib/wait.svelte";
  import { trip } from "./trip.svelte";

  let {
    file,
    close,
    makeLake = null,
    done = () => undefined,
  }: {
    file: File;
    close: () => void;
    /** A lake to be made for it, anchored in the middle of the file. */
    makeLake?: { name: string } | null;
    done?: () => void;
  } = $props();

  const ROLES = ["longitude", "latitude", "depth"] as const;
  const UNITS = [
    { value: "m", label: "metres" },
    { value: "ft", label: "feet" },
    { value: "fathom", label: "fathoms" },
  ] as const;

  let text = "";
  let looked: Sniffed | null = $state(null);
  let columns = $state({ longitude: 0, latitude: 1, depth: 2, unit: "m" as "m" | "ft" | "fathom" });
  let found: TakenFile | null = $state(null);
  let trouble = $state("");
  const wait = new Wait();

  onMount(async () => {
    try {
      text = await file.text();
      if (text.trim() === "") throw new Error(`${file.name} is empty: accepted are CSV, GPX and ESRI grids.`);
      looked = await wait.during(() => ok(api.POST("/api/soundings/look", { body: { text } })));
      if (looked.guess) columns = { ...looked.guess };
    } catch (problem) {
      trouble = words(problem);
    }
  });

  async function take(rest: "ask" | "take") {
    trouble = "";
    try {
      if (makeLake && !made) {
        const [latitude, longitude] = looked?.middle ?? [null, null];
        await trip.addLake({
          name: makeLake.name,
          latitude: latitude ?? null,
          longitude: longitude ?? null,
          landing_m: [0, 0],
          shore_m: [],
        });
        made = true;
      }
      found = await wait.during((headers) =>
        ok(
          api.POST("/api/lakes/{lake_id}/soundings/file", {
            params: { path: { lake_id: trip.lake!.id } },
            body: {
              text,
              name: file.name.slice(0, 80) || "soundings",
              columns: looked?.kind === "csv" ? columns : null,
              rest,
            },
            headers,
          }),
        ),
      );
      if (found.taken > 0) await trip.groundChanged();
    } catch (problem) {
      trouble = words(problem);
    }
  }
  let made = false;

  /** A lake that was made for a file that is not taken in after all goes again. */
  async function leave() {
    if (made && !found?.taken && trip.lake) {
      await ok(api.DELETE("/api/lakes/{lake_id}", { params: { path: { lake_id: trip.lake.id } } })).catch(
        () => undefined,
      );
      trip.lake = null;
      await trip.load();
    }
    close();
    if (found?.taken) done();
  }
</script>

<Dialog label="Take in a file of depths" close={() => void leave()}>
  <h2>{file.name}</h2>
  <Trouble words={trouble} />
  <Waiting {wait} words="Reading the file" />
  {#if found && found.taken > 0}
    <p>{sentence(found.said.text, found.said.values, prefs.system)}</p>
    {#if found.refused_count > 0}<p>{found.refused_count} lines were left out.</p>{/if}
    <button class="primary" onclick={() => void leave()}>See the map</button>
  {:else if found}
    <p role="alert"><strong>{sentence(found.said.text, found.said.values, prefs.system)}</strong></p>
    <ul class="lines">
      {#each found.refused as one (one.line)}<li>
          <b>{looked?.kind === "gpx" ? "Point" : "Line"} {one.line}:</b>
          {one.why}
        </li>{/each}
      {#if found.refused_count > found.refused.length}<li>
          And {found.refused_count - found.refused.length} more.
        </li>{/if}
    </ul>
    <div class="button-row">
      {#if found.good > 0}
        <button class="primary" onclick={() => take("take")} disabled={wait.busy}
          >Take the other {found.good} in</button
        >
      {/if}
      <button onclick={() => void leave()}>Take nothing in</button>
    </div>
  {:else if looked}
    {#if looked.kind === "csv"}
      <p>{looked.lines} lines. Is this which column is which?</p>
      <div class="table">
        <table>
          <thead
            ><tr
              >{#each looked.columns as one, k (k)}<th scope="col">{one}</th>{/each}</tr
            ></thead
          >
          <tbody>
            {#each looked.first as row, k (k)}<tr
                >{#each row as cell, n (n)}<td class="figures">{cell}</td>{/each}</tr
              >{/each}
          </tbody>
        </table>
      </div>
      <div class="button-row">
        {#each ROLES as role (role)}
          <label class="field"
            >{role}
            <select bind:value={columns[role]}>
              {#each looked.columns as one, k (k)}<option value={k}>{one}</option>{/each}
            </select></label
          >
        {/each}
        <label class="field"
          >depths in
          <select bind:value={columns.unit}>
            {#each UNITS as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
          </select></label
        >
      </div>
      {#if looked.missing.length > 0}
        <p class="soft">
          Nothing in the first line is called {looked.missing.join(" or ")}: choose it yourself.
        </p>
      {/if}
    {:else}
      <p>
        {looked.kind === "gpx"
          ? "A GPX file: its points that tell a depth are taken in."
          : "An ESRI grid of depths: each of its cells becomes a sounding."}
      </p>
    {/if}
    <div class="button-row">
      <button class="primary" onclick={() => take("ask")} disabled={wait.busy}>Take it in</button>
      <button onclick={() => void leave()}>Leave it</button>
    </div>
  {:else if trouble}
    <button onclick={() => void leave()}>Close</button>
  {/if}
</Dialog>

<style>
  .table {
    overflow: auto;
  }

  th,
  td {
    padding: 2px 10px 2px 0;
    text-align: left;
  }

  .field {
    font-weight: 600;
  }
</style>
