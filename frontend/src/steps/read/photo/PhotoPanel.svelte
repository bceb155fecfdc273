<script lang="ts">
  // A photo of one's own screen becomes a recording: choose it, put right what is laid over it, say what it shows, read
  // it. A ring's film comes the same way, picture by picture.
  import { untrack } from "svelte";
  import { words } from "../../../lib/api/client";
  import type { Hole } from "../../../lib/api/types";
  import Choice from "../../../lib/controls/Choice.svelte";
  import FileButton from "../../../lib/controls/FileButton.svelte";
  import Measured from "../../../lib/controls/Measured.svelte";
  import Sources from "../../../lib/controls/Sources.svelte";
  import Trouble from "../../../lib/controls/Trouble.svelte";
  import Waiting from "../../../lib/controls/Waiting.svelte";
  import { plainMeasure } from "../../../lib/units";
  import { Wait } from "../../../lib/wait.svelte";
  import { when } from "../../../lib/when";
  import { world } from "../../../lib/world.svelte";
  import Replay from "../Replay.svelte";
  import CountMarks from "./CountMarks.svelte";
  import { picturesOf } from "./film";
  import { fromPhone, letGo } from "./from_phone.svelte";
  import { Corners, Photo, type Point } from "./photo.svelte";
  import PhotoBoard from "./PhotoBoard.svelte";
  import { RingOn } from "./ring.svelte";
  import RingFields from "./RingFields.svelte";
  import { Shown } from "./shown.svelte";
  import ShownFields from "./ShownFields.svelte";
  import { TwoMarks } from "./two_marks.svelte";

  let { hole }: { hole: Hole } = $props();

  const SHAPES = [
    { value: "scrolls" as const, label: "It scrolls" },
    { value: "ring" as const, label: "It is a ring" },
  ];
  const SIDES = [
    { value: "right" as const, label: "Right" },
    { value: "left" as const, label: "Left" },
  ];
  const PHOTOS = "image/jpeg,image/png,image/webp";
  const ENDS = {
    scrolls: ["Depth at the top", "Depth at the foot"],
    ring: ["Depth at the zero", "Depth at the end"],
  } as const;

  const shown = new Shown(untrack(() => hole));
  const marks = new TwoMarks();
  const wait = new Wait();
  let shape = $state<"scrolls" | "ring">("scrolls");
  let photo = $state.raw<Photo | null>(null);
  let corners = $state.raw<Corners | null>(null);
  let ring = $state.raw<RingOn | null>(null);
  let looking = $state(false);
  /** How far a film is taken apart; null for none. */
  let apart = $state<number | null>(null);
  let trouble = $state("");
  let seconds = $state(60);
  let newest = $state<"left" | "right">("right");
  let pointing = $state<number | null>(null);
  let made = $state<number | null>(null);

  $effect(() => void know(shown.unitId, shown.ladderAt));

  async function know(unit_id: number, at: number) {
    if (!unit_id) return;
    try {
      await shown.know(unit_id, at);
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function take(file: File, all: File[] = [file]) {
    trouble = "";
    looking = true;
    try {
      if (file.type.startsWith("video/")) await takeFilm(file);
      else if (shape === "ring") await takeRing(await photosOf(all));
      else await takeScroll(await Photo.of([file]));
    } catch (problem) {
      trouble = words(problem);
    } finally {
      looking = false;
      apart = null;
    }
  }

  async function takeScroll(taken: Photo) {
    corners = new Corners(taken);
    ring = null;
    photo = taken;
    await corners.look();
  }

  async function takeRing(taken: Photo) {
    ring = new RingOn(taken);
    corners = null;
    shape = "ring";
    if (taken.seconds >= 1) seconds = Math.round(10 * taken.seconds) / 10;
    photo = taken;
    await ring.look();
  }

  async function takeFilm(file: File) {
    apart = 0;
    const film = await picturesOf(file, (share) => (apart = share));
    await takeRing(await Photo.of(film.files, file.name, film.seconds));
  }

  /** Photos in the order in which they were taken. */
  async function photosOf(all: File[]): Promise<Photo> {
    const files = [...all].sort((one, other) => one.lastModified - other.lastModified);
    const between = (files[files.length - 1]!.lastModified - files[0]!.lastModified) / 1000;
    return await Photo.of(files, files[0]!.name, between);
  }

  const waiting = $derived(fromPhone());

  /** Take the photo that came with a phone's notes: its hour is the file's, unit and lure are what was said there. */
  function takeWaiting() {
    if (!waiting) return;
    const { file, unit, lure } = waiting;
    shown.unitId = world.units.find((one) => one.name === unit)?.id ?? shown.unitId;
    shown.lureId = world.lures.find((one) => one.name === lure)?.id ?? shown.lureId;
    letGo();
    void take(file);
  }

  /** What is to be touched in the photo now, in words; null for what is laid over it. */
  const asked = $derived(marks.asked ?? (pointing === null ? null : shown.names[pointing]!));

  function picked(at: Point) {
    if (marks.asked) {
      marks.touch(at);
      counted();
    } else if (pointing !== null) {
      const colour = photo!.colour(at);
      shown.seen = shown.seen.map((one, k) => (k === pointing ? colour : one));
      pointing = pointing + 1 < shown.seen.length ? pointing + 1 : null;
    }
  }

  function counted() {
    trouble = "";
    try {
      seconds = (corners && marks.seconds(corners.at)) ?? seconds;
    } catch (problem) {
      trouble = words(problem);
    }
  }

  function point(step: number | null) {
    pointing = step;
    if (marks.asked) marks.leave();
  }

  function leavePointing(event: KeyboardEvent) {
    if (event.key === "Escape" && asked !== null) point(null);
  }

  /** So many seconds before a file was made [UTC]. */
  const clockOf = (file: File, before = 0) =>
    new Date(file.lastModified - 1000 * before).toISOString().slice(0, 19) + "Z";

  const pairs = (points: readonly Point[]) => points.map(([x, y]) => [x, y]);

  function reading(taken: Photo, headers: Record<string, string>) {
    const long = ring && taken.files.length === 1 ? 0 : seconds; // one photo of a ring is one moment
    const about = shown.about(taken.name, clockOf(taken.files[taken.files.length - 1]!, long));
    if (!ring) return taken.read({ ...about, corners: pairs(corners!.at), seconds, newest }, headers);
    const { scale, inner, clockwise } = ring;
    return taken.readRing({ ...about, rim: pairs(ring.rim), scale, inner, clockwise, seconds }, headers);
  }

  async function read() {
    if (!photo) return;
    trouble = "";
    const taken = photo;
    try {
      made = (await wait.during((headers) => reading(taken, headers))).id;
    } catch (problem) {
      trouble = words(problem);
    }
  }
</script>

<svelte:window
  onkeydown={leavePointing}
  ondragover={(event) => event.preventDefault()}
  ondrop={(event) => {
    event.preventDefault();
    const files = [...(event.dataTransfer?.files ?? [])];
    if (files[0]) void take(files[0], files);
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
      Photograph your unit's picture, straight on and without a reflection as well as you can. From one photo
      of a scrolling screen, or from a short film of a ring, the marks are named, sized and kept as a
      recording.
    </p>
    <div class="line">
      <span>Your screen</span>
      <Choice name="What your screen is" options={SHAPES} value={shape} choose={(value) => (shape = value)} />
    </div>
    {#if waiting}
      <button class="primary" onclick={takeWaiting}>Read the photo from {waiting.spot}</button>
      <p class="soft">
        It came with a phone's notes, from {when(clockOf(waiting.file), true)}. Say first what the screen is.
      </p>
    {/if}
    {#if shape === "scrolls"}
      <FileButton label="Choose or take a photo" name="Photo" accept={PHOTOS} {take} />
    {:else}
      <FileButton
        label="Choose photos or a film"
        name="Photos or a film"
        accept="{PHOTOS},video/*"
        several
        {take}
      />
      <p class="soft">
        Hold the phone as still as you can, the whole ring in sight. A film of ten to forty seconds is best.
      </p>
    {/if}
    {#if apart !== null}
      <p role="status">Taking the film apart: {Math.round(100 * apart)} %</p>
    {/if}
    <p class="soft">
      Or drop it on this page. It never leaves this machine, and is let go unless you keep it.
    </p>
    <Trouble words={trouble} />
    <Sources of="photo" />
  </div>
{:else}
  <div class="work">
    <div class="picture">
      <PhotoBoard {photo} laid={(ring ?? corners)!} pointing={asked} pick={picked} />
    </div>
    <form
      class="side"
      onsubmit={(event) => {
        event.preventDefault();
        void read();
      }}
    >
      <p role="status" class="say">
        {#if asked !== null}
          Touch {asked} in the photo. Escape leaves.
        {:else if looking}
          Looking for the picture.
        {:else if ring}
          {ring.found ? "The ring is a guess." : "No ring was found."} Drag the four places of its rim until the
          line lies on it. Then slide zero to where its scale begins, the end to where it ends, and the inner rim.
        {:else if corners?.found?.sure}
          The corners seem right. Look whether each stands where the picture itself ends, then read it.
        {:else if corners?.found?.found}
          The corners are a guess. Drag each to where the picture itself ends, without its frame and numbers.
        {:else}
          No corners were found. Drag each to where the picture itself ends, without its frame and numbers.
        {/if}
      </p>
      <ShownFields {shown} ends={ENDS[ring ? "ring" : "scrolls"]} {pointing} {point}>
        {#if ring}
          <RingFields {photo} {ring} {seconds} change={(value) => (seconds = value)} />
        {:else}
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
          <CountMarks {marks} begun={() => (pointing = null)} {counted} />
          <div class="line">
            <span>The newest stands</span>
            <Choice name="Newest side" options={SIDES} value={newest} choose={(value) => (newest = value)} />
          </div>
        {/if}
      </ShownFields>
      <Trouble words={trouble} />
      <div class="buttons">
        <button class="primary" disabled={looking || shown.seen.length < 3}>Read it</button>
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

  .line {
    display: flex;
    align-items: center;
    gap: 10px;
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
  }
</style>
