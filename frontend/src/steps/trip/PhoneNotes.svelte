<script lang="ts">
  // Notes from a phone: first what the file would bring and what its clock did, then taken in, each note once.
  import { api, ok, words } from "../../lib/api/client";
  import type { NotesTaken } from "../../lib/api/types";
  import FileButton from "../../lib/controls/FileButton.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence } from "../../lib/units";
  import { when } from "../../lib/when";
  import { world } from "../../lib/world.svelte";
  import { hold } from "../read/photo/from_phone.svelte";
  import { trip } from "./trip.svelte";

  let text: string | null = $state(null);
  /** The file's text while its photos are offered. */
  let file = "";
  let name = $state("");
  let shift_min = $state(0);
  let found: NotesTaken | null = $state.raw(null);
  let trouble = $state("");
  let said = $state("");
  let busy = $state(false);
  /** Photos of a screen that the file has: nothing keeps them but this page, until they are read. */
  let photos: NotesTaken["photos"] = $state.raw([]);

  const COUNTED = [
    ["happenings", "note of fish", "notes of fish"],
    ["stays", "stay", "stays"],
    ["outings", "outing", "outings"],
    ["soundings", "sounding", "soundings"],
    ["ice", "ice reading", "ice readings"],
  ] as const;

  const parts = (one: NotesTaken) =>
    COUNTED.filter(([key]) => one[key] > 0).map(
      ([key, a, many]) => `${one[key]} ${one[key] === 1 ? a : many}`,
    );

  async function send(keep: boolean): Promise<NotesTaken | null> {
    trouble = "";
    busy = true;
    try {
      return (await ok(
        api.POST("/api/pocket/notes", { body: { text: text!, shift_min: shift_min || 0, keep } }),
      )) as NotesTaken;
    } catch (problem) {
      trouble = words(problem);
      return null;
    } finally {
      busy = false;
    }
  }

  async function look(given: File) {
    said = "";
    found = null;
    shift_min = 0;
    name = given.name;
    text = await given.text();
    file = text;
    found = await send(false);
    photos = found?.photos ?? [];
  }

  function readPhoto(one: NotesTaken["photos"][number]) {
    const { photos: kept } = JSON.parse(file) as { photos: Record<string, string> };
    hold(kept[one.note]!, one.at, one);
    const hole = one.hole_id ?? world.holeId ?? world.holes[0]?.id;
    if (hole !== undefined) location.hash = `#/hole/${hole}/read/photo`;
  }

  async function take() {
    const taken = await send(true);
    if (!taken) return;
    said = parts(taken).length > 0 ? `Taken in: ${parts(taken).join(", ")}.` : "Nothing new.";
    found = null;
    text = null;
    await trip.groundChanged();
  }
</script>

<section aria-label="Notes from a phone">
  <h2>Notes from a phone</h2>
  <FileButton
    label={busy ? "Reading…" : "Take a phone's notes in"}
    name="File of notes"
    take={(file) => void look(file)}
  />
  {#if found}
    <div class="found" data-testid="phone-notes">
      <p><b>{name}</b></p>
      <p>
        {parts(found).length > 0
          ? `Would bring ${parts(found).join(", ")}.`
          : photos.length > 0 && found.known === 0
            ? "No notes but photos of a screen, below."
            : "Nothing new: all of it is here."}
        {#if found.known > 0}{found.known} {found.known === 1 ? "note is" : "notes are"} here already.{/if}
        {#if found.taken_back > 0}{found.taken_back} taken back on the phone.{/if}
        {#if found.taken_back_late > 0}{found.taken_back_late} taken back on the phone after they came: they go
          from the log.{/if}
        {#if found.without_place > 0}{found.without_place} soundings or ice readings lie on no lake here, and wait
          until it is.{/if}
      </p>
      {#if found.first_at && found.last_at}<p>
          From {when(found.first_at, true)} to {when(found.last_at)}.
        </p>{/if}
      {#each found.clock as one, k (k)}<p class="clock">
          {sentence(one.text, one.values, prefs.system)}
        </p>{/each}
      <label class="field"
        >Put its times later by so many minutes (earlier below 0)
        <input
          type="number"
          step="1"
          bind:value={shift_min}
          onchange={async () => {
            found = (await send(false)) ?? found;
            photos = found?.photos ?? photos;
          }}
        /></label
      >
      <div class="button-row">
        <button class="primary" disabled={busy} onclick={() => void take()}>Take them in</button>
        <button onclick={() => (found = null)}>Leave them</button>
      </div>
    </div>
  {/if}
  {#if photos.length > 0}
    <h3>Photos of a screen</h3>
    <ul class="lines" aria-label="Photos of a screen">
      {#each photos as one (one.note)}
        <li>
          <span><b>{one.spot}</b>, {when(one.at, true)}</span>
          <button onclick={() => readPhoto(one)}>Read this photo</button>
        </li>
      {/each}
    </ul>
    <p class="soft">They stay in the file, and are kept here only with a recording, if you ask for it.</p>
  {/if}
  <Trouble words={trouble} />
  <p role="status">{said}</p>
</section>

<style>
  section,
  .found {
    display: grid;
    gap: 8px;
  }

  .found {
    padding: 10px 12px;
    border-left: 6px solid var(--action);
    background: var(--panel);
  }

  li {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: center;
    gap: 8px;
  }

  .clock {
    padding-left: 8px;
    border-left: 6px double var(--stop);
  }
</style>
