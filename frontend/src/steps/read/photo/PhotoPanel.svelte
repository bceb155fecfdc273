<script lang="ts">
  // A photo of one's own screen becomes a recording: choose it, put its corners right, say what it shows, read it.
  import { untrack } from "svelte";
  import { api, ok, words } from "../../../lib/api/client";
  import type { Hole } from "../../../lib/api/types";
  import Choice from "../../../lib/controls/Choice.svelte";
  import FileButton from "../../../lib/controls/FileButton.svelte";
  import Measured from "../../../lib/controls/Measured.svelte";
  import Sources from "../../../lib/controls/Sources.svelte";
  import Trouble from "../../../lib/controls/Trouble.svelte";
  import Waiting from "../../../lib/controls/Waiting.svelte";
  import { deepMeasure, plainMeasure } from "../../../lib/units";
  import { Wait } from "../../../lib/wait.svelte";
  import { world } from "../../../lib/world.svelte";
  import Replay from "../Replay.svelte";
  import CornerBoard from "./CornerBoard.svelte";
  import LadderTouch from "./LadderTouch.svelte";
  import { Photo } from "./photo.svelte";

  let { hole }: { hole: Hole } = $props();

  const SIDES = [
    { value: "right" as const, label: "Right" },
    { value: "left" as const, label: "Left" },
  ];

  let photo = $state.raw<Photo | null>(null);
  let looking = $state(false);
  let trouble = $state("");
  let unitId = $state(untrack(() => world.trial?.unit_id ?? world.units[0]?.id ?? 0));
  let ladderAt = $state(0);
  let lureId = $state<number | null>(untrack(() => world.trial?.lure_id ?? null));
  let top = $state(0);
  let bottom = $state(untrack(() => Math.ceil(hole.bottom_depth_m)));
  let seconds = $state(60);
  let gain = $state<number | null>(null);
  let newest = $state<"left" | "right">("right");
  let keep = $state(false);
  let seen: string[] = $state([]);
  let pointedBefore = $state(false);
  let pointing = $state<number | null>(null);
  let made = $state<number | null>(null);
  const wait = new Wait();

  const unit = $derived(world.units.find((one) => one.id === unitId) ?? null);
  const ladder = $derived(unit?.ladders[ladderAt] ?? unit?.ladders[0] ?? null);
  const names = $derived(["dark water", ...(ladder?.steps.map((step) => step.name) ?? [])]);

  $effect(() => void colours(unitId, ladderAt));

  async function colours(unit_id: number, at: number) {
    if (!unit_id) return;
    try {
      const told = await ok(
        api.GET("/api/units/{unit_id}/screen-colours", {
          params: { path: { unit_id }, query: { ladder: at } },
        }),
      );
      seen = [told.dark, ...told.colours];
      pointedBefore = told.pointed_at;
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function take(file: File) {
    trouble = "";
    looking = true;
    try {
      photo = await Photo.of(file);
      await photo.look();
    } catch (problem) {
      trouble = words(problem);
    } finally {
      looking = false;
    }
  }

  function picked(colour: string) {
    if (pointing === null) return;
    seen = seen.map((one, k) => (k === pointing ? colour : one));
    pointing = pointing + 1 < seen.length ? pointing + 1 : null;
  }

  async function read() {
    if (!photo) return;
    trouble = "";
    const taken = photo;
    try {
      const kept = await wait.during((headers) =>
        taken.read(
          {
            name: taken.file.name.replace(/\.\w+$/, "").slice(0, 60) || "Photo",
            corners: taken.corners.map(([x, y]) => [x, y]),
            top_m: top,
            bottom_m: bottom,
            seconds,
            newest,
            unit_id: unitId,
            ladder: ladderAt,
            gain,
            lure_id: lureId,
            hole_id: hole.id,
            started_at: new Date(taken.file.lastModified - 1000 * seconds).toISOString().slice(0, 19) + "Z",
            keep_photo: keep,
            keep_colours: true,
            dark: seen[0]!,
            colours: seen.slice(1),
          },
          headers,
        ),
      );
      made = kept.id;
    } catch (problem) {
      trouble = words(problem);
    }
  }
</script>

<svelte:window
  ondragover={(event) => event.preventDefault()}
  ondrop={(event) => {
    event.preventDefault();
    const file = event.dataTransfer?.files[0];
    if (file) void take(file);
  }}
/>

{#if made !== null}
  {#key made}<Replay
      id={made}
      {hole}
      fresh
      back="Another photo"
      close={() => {
        made = null;
        photo = null;
      }}
    />{/key}
{:else if !photo}
  <div class="begin">
    <h2>Read a photo of your own screen</h2>
    <p>
      Photograph your unit's scrolling picture, straight on and without a reflection as well as you can. From
      one photo the marks of the last minutes are named, sized and kept as a recording.
    </p>
    <FileButton label="Choose or take a photo" name="Photo" accept="image/jpeg,image/png,image/webp" {take} />
    <p class="soft">
      Or drop a photo on this page. It never leaves this machine, and is let go unless you keep it.
    </p>
    <Trouble words={trouble} />
    <Sources of="photo" />
  </div>
{:else}
  <div class="work">
    <div class="picture">
      <CornerBoard {photo} pointing={pointing === null ? null : names[pointing]!} pick={picked} />
    </div>
    <form
      class="side"
      onsubmit={(event) => {
        event.preventDefault();
        void read();
      }}
    >
      <p role="status" class="say">
        {#if pointing !== null}
          Touch {names[pointing]} in the photo.
        {:else if looking}
          Looking for the corners of the picture.
        {:else if photo.found?.found}
          The corners are a guess. Drag each to where the picture itself ends, without its frame and numbers.
        {:else}
          No corners were found. Drag each to where the picture itself ends, without its frame and numbers.
        {/if}
      </p>
      <div class="pair">
        <Measured
          id="photo-top"
          name="Depth at the top"
          measure={deepMeasure(1)}
          value={top}
          low={0}
          high={190}
          change={(value) => value !== null && (top = value)}
        /><!-- prettier-ignore -->
        <Measured id="photo-bottom" name="Depth at the foot" measure={deepMeasure(1)} value={bottom} low={0.5} high={200}
          change={(value) => value !== null && (bottom = value)} /><!-- prettier-ignore -->
      </div>
      <Measured
        id="photo-seconds"
        name="From side to side"
        measure={plainMeasure("s", 0)}
        value={seconds}
        low={1}
        high={7200}
        hint="How long a mark takes from one side to the other"
        change={(value) => value !== null && (seconds = value)}
      />
      <div class="line">
        <span>The newest stands</span>
        <Choice name="Newest side" options={SIDES} value={newest} choose={(value) => (newest = value)} />
      </div>
      <div class="field">
        <label for="photo-unit">Unit</label>
        <select id="photo-unit" bind:value={unitId} onchange={() => (ladderAt = 0)}>
          {#each world.units as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
        </select>
      </div>
      {#if unit && unit.ladders.length > 1}
        <div class="field">
          <label for="photo-ladder">Colours</label>
          <select id="photo-ladder" bind:value={ladderAt}>
            {#each unit.ladders as one, k (k)}<option value={k}>{one.name}</option>{/each}
          </select>
        </div>
      {/if}
      {#if ladder}
        <p class="soft">
          {pointedBefore
            ? "These are the colours you pointed at before."
            : "Point at each colour once: press it here, then touch it in the photo."}
        </p>
        <LadderTouch {ladder} {seen} at={pointing} choose={(step) => (pointing = step)} />
      {/if}
      <div class="field">
        <label for="photo-lure">Lure</label>
        <select id="photo-lure" bind:value={lureId}>
          <option value={null}>I do not know</option>
          {#each world.lures as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
        </select>
      </div>
      {#if unit}
        <Measured
          id="photo-gain"
          name="Gain"
          measure={plainMeasure("", 1)}
          value={gain}
          low={unit.gain.minimum}
          high={unit.gain.maximum}
          empty
          hint="If you know it: sizes of fish hang on it"
          change={(value) => (gain = value)}
        />
      {/if}
      <label class="tick"
        ><input type="checkbox" bind:checked={keep} /> Keep the photo beside the recording</label
      >
      <Trouble words={trouble} />
      <div class="buttons">
        <button class="primary" disabled={looking || seen.length < 3}>Read it</button>
        <button type="button" onclick={() => (photo = null)}>Another photo</button>
      </div>
      <Waiting {wait} words="Reading the photo" />
      <Sources of="photo" />
    </form>
  </div>
{/if}

<style>
  .begin {
    display: grid;
    align-content: start;
    justify-items: start;
    gap: 12px;
    padding: 16px;
    max-width: 70ch;
    overflow-y: auto;
  }

  .work {
    display: grid;
    grid-template-columns: minmax(0, 1.6fr) minmax(320px, 1fr);
    min-height: 0;
  }

  .picture {
    display: grid;
    min-height: 0;
    padding: 12px;
  }

  .side {
    display: grid;
    align-content: start;
    gap: 10px;
    padding: 12px 16px;
    border-left: 1.5px solid var(--line);
    background: var(--panel);
    overflow-y: auto;
    min-height: 0;
  }

  .say {
    font-weight: 600;
  }

  .soft {
    color: var(--soft);
  }

  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px;
  }

  .line {
    display: flex;
    align-items: center;
    gap: 10px;
  }

  .field {
    display: grid;
    gap: 2px;
  }

  label {
    font-weight: 600;
  }

  .tick {
    display: flex;
    align-items: center;
    gap: 10px;
    min-height: 44px;
    font-weight: 400;
  }

  .buttons {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }

  @media (max-width: 1000px) {
    .work {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: 42dvh max-content;
      align-content: start;
      overflow-y: auto;
    }

    /* What is pointed at stays in sight while its colour is chosen below. */
    .picture {
      position: sticky;
      top: 0;
      z-index: 1;
      background: var(--ground);
      padding: 6px;
    }

    .side {
      border-left: 0;
      border-top: 1.5px solid var(--line);
      overflow: visible;
      padding: 10px;
    }

    .tick {
      min-height: 56px;
    }
  }
</style>
