<script lang="ts">
  // A recording replayed: play, scrub, have the reader name the marks, write notes at a time and depth.
  import Sources from "../../lib/controls/Sources.svelte";
  import { onMount, untrack } from "svelte";
  import { undo } from "../../lib/undo.svelte";
  import { api, ok, words as wordsOf } from "../../lib/api/client";
  import type { Hole, Pings, ReadingNow, RecordingNote, RecordingWhole } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import Clip from "../../lib/picture/Clip.svelte";
  import { UNMARKED } from "../../lib/picture/clip";
  import { calm, Playhead } from "../../lib/playhead.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { Wait } from "../../lib/wait.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { clock, depth } from "../../lib/units";
  import { markName } from "../../lib/picture/names";
  import { world } from "../../lib/world.svelte";
  import PlayBar from "../../lib/controls/PlayBar.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Mending from "./Mending.svelte";
  import ReadingLines from "./ReadingLines.svelte";
  import { colourAt, leave, type Touched } from "./touched";

  let {
    id,
    hole,
    close,
    back = "All recordings",
    fresh = false,
  }: {
    id: number;
    hole: Hole;
    close: () => void;
    back?: string;
    /** Whether it has just been made: then its end is looked at, with all marks named. */
    fresh?: boolean;
  } = $props();

  const MOTIONS: Record<string, Touched["motion"]> = {
    rising: "rising",
    sinking: "sinking",
    leaving: "sinking",
    closing: "rising",
  };
  const PAGE = 2000; // pings fetched at once
  // Pings that the picture is wide: a whole film of a ring fills it.
  const LEAST_ACROSS = 12;
  const MOST_ACROSS = 400;
  const SPEEDS = [
    { value: 1, label: "1×" },
    { value: 2, label: "2×" },
    { value: 5, label: "5×" },
  ];

  let whole = $state<RecordingWhole | null>(null);
  let notes: RecordingNote[] = $state([]);
  let pages: Pings[] = $state([]);
  const head = new Playhead(() => start + (whole?.seconds ?? 0));
  let reading = $state<ReadingNow | null>(null);
  let reads = $state(untrack(() => fresh));
  let mends = $state(untrack(() => fresh));
  let pointed = $state<number | null>(null);
  let text = $state("");
  let trouble = $state("");
  const wait = new Wait();

  onMount(() => void load());
  onMount(() => world.withPicture());

  const load = () => wait.during(fetchAll);

  async function fetchAll() {
    try {
      const answer = await ok(
        api.GET("/api/recordings/{recording_id}", { params: { path: { recording_id: id } } }),
      );
      notes = answer.notes;
      const got: Pings[] = [];
      for (let at = 0; at < answer.pings; at += PAGE) {
        wait.share = at / answer.pings;
        got.push(
          await ok(
            api.GET("/api/recordings/{recording_id}/pings", {
              params: { path: { recording_id: id }, query: { first: at, count: PAGE } },
            }),
          ),
        );
      }
      pages = got;
      whole = answer;
      if (fresh) head.stop(start + answer.seconds);
      else if (calm()) head.stop(start + Math.min(answer.seconds, 20));
      else head.play(start);
    } catch (problem) {
      trouble = wordsOf(problem);
    }
  }

  const start = $derived(pages[0]?.time_s[0] ?? 0);
  // The page that the play head is in; the one before it fills the picture behind the head.
  const page = $derived.by(() => {
    const found = pages.findLastIndex((one) => (one.time_s[0] ?? 0) <= head.time + 1e-9);
    return Math.max(found, 0);
  });
  const shown = $derived.by((): Pings | null => {
    const now = pages[page];
    const before = pages[page - 1];
    if (!now || !before) return now ?? null;
    return {
      ...now,
      first: before.first,
      count: before.count + now.count,
      levels: btoa(atob(before.levels) + atob(now.levels)),
      time_s: [...before.time_s, ...now.time_s],
      top_m: [...before.top_m, ...now.top_m],
      bottom_m: [...before.bottom_m, ...now.bottom_m],
      line_in_m: [...before.line_in_m, ...now.line_in_m],
    };
  });
  /** What the hand did; null where nobody wrote it down, as with a photo. */
  const line = $derived.by(() => {
    let out = 0;
    if (pages.every((one) => one.line_in_m.every((moved) => moved === 0))) return null;
    return (shown?.line_in_m ?? []).map((one) => (out += one));
  });
  const settings = $derived.by(() => {
    const k = (shown?.first ?? 0) + (shown?.time_s.findLastIndex((one) => one <= head.time + 1e-9) ?? 0);
    return whole?.knobs.findLast((one) => one.ping <= k)?.settings ?? whole?.knobs[0]?.settings ?? null;
  });
  const ladder = $derived(whole && settings ? whole.unit.ladders[settings.ladder]! : null);
  const words = $derived(ladder?.steps.map((step) => step.name) ?? []);

  // The reader looks when the picture stands still, or a few times a second at most.
  let due = 0;
  $effect(() => {
    const at = head.time;
    if (!reads || !whole) {
      reading = null;
      return;
    }
    window.clearTimeout(due);
    due = window.setTimeout(() => void read(at), head.running ? 0 : 250);
  });

  let asking = false;
  async function read(at: number) {
    if (asking) return;
    asking = true;
    try {
      reading = await ok(
        api.GET("/api/recordings/{recording_id}/reading", {
          params: { path: { recording_id: id }, query: { time_s: Number(at.toFixed(3)) } },
        }),
      );
    } catch {
      reading = null;
    } finally {
      asking = false;
    }
  }

  const MY_LURE = "This is my lure";

  /** Say that the mark that was touched is the lure: without the rod nobody can know it as well. */
  async function mine() {
    text = MY_LURE;
    await write();
    const at = head.time;
    await read(at);
  }

  /** Take the mark that was touched to the call sheet, filled with what is known of it. */
  function ask() {
    if (!whole || !shown || pointed === null || !settings) return;
    const mark = named.find((one) => Math.abs(one.range_m - pointed!) < 0.35);
    leave({
      shown_m: mark?.range_m ?? pointed,
      colour: Math.max(colourAt(shown, head.time, mark?.range_m ?? pointed), 1),
      motion: MOTIONS[mark?.fish?.going ?? ""] ?? "still",
      unit_id: world.units.find((one) => one.name === whole!.unit.name)?.id ?? null,
      lure_id: world.lures.find((one) => one.name === whole!.lure?.name)?.id ?? null,
      gain: settings.gain,
    });
    location.hash = `#/hole/${hole.id}/read/sheet`;
  }

  async function write() {
    if (!whole || !text.trim()) return;
    try {
      const note = await ok(
        api.POST("/api/recordings/{recording_id}/notes", {
          params: { path: { recording_id: id } },
          body: {
            time_s: Math.max(head.time, 0),
            depth_m: pointed === null ? 0 : pointed + whole.face_depth_m,
            text,
          },
        }),
      );
      notes = [...notes, note].sort((a, b) => a.time_s - b.time_s);
      text = "";
      pointed = null;
      trouble = "";
    } catch (problem) {
      trouble = wordsOf(problem);
    }
  }

  async function forget(note: RecordingNote) {
    try {
      const gone = await ok(
        api.DELETE("/api/recordings/{recording_id}/notes/{note_id}", {
          params: { path: { recording_id: id, note_id: note.id } },
        }),
      );
      const before = notes;
      undo.kept("The note is removed.", gone, () => void (notes = before));
      notes = notes.filter((one) => one.id !== note.id);
    } catch (problem) {
      trouble = wordsOf(problem);
    }
  }

  const named = $derived(reading?.marks.filter((mark) => !mark.hidden) ?? []);
</script>

<div class="replay">
  {#if !whole || !shown || !ladder}
    <div class="wait"><Trouble words={trouble} /><Waiting {wait} words="Fetching the pings" /></div>
  {:else}
    <div class="picture">
      <Clip
        pings={shown}
        {ladder}
        time={head.time}
        across={Math.min(Math.max(whole.pings, LEAST_ACROSS), MOST_ACROSS)}
        {line}
        marked={{
          ...UNMARKED,
          pointed,
          names: named.map((mark) => ({ range: mark.range_m, text: markName(mark, prefs.system) })),
          notes: notes
            .filter((note) => note.depth_m > 0)
            .map((note) => ({ time: note.time_s, range: note.depth_m - whole!.face_depth_m })),
        }}
        label="Picture of {whole.name} at {clock(head.time)}"
        point={(range) => {
          head.stop();
          pointed = range;
        }}
      />
    </div>
    <PlayBar
      {head}
      from={start}
      to={start + whole.seconds}
      name="Time in the recording"
      says="{clock(head.time)} / {clock(start + whole.seconds)}"
    >
      <Choice name="Speed" options={SPEEDS} value={head.speed} choose={(value) => (head.speed = value)} />
    </PlayBar>
    <section class="side" aria-label="Reader and notes">
      <div class="top">
        <h2>{whole.name}</h2>
        <button onclick={close}>{back}</button>
      </div>
      {#each whole.remarks as remark (remark)}<p class="remark">{remark}.</p>{/each}
      {#if pointed !== null}
        <div class="touched">
          <p>You touched {depth(pointed + whole.face_depth_m, prefs.system)}.</p>
          <button class="primary" onclick={ask}>What is this mark?</button>
          <button onclick={() => void mine()}>This is my lure</button>
        </div>
      {:else}
        <p class="remark">Touch a mark in the picture to ask what it is, or to say that it is your lure.</p>
      {/if}
      <button aria-pressed={reads} onclick={() => (reads = !reads)}>
        {reads ? "Stop naming the marks" : "Name the marks"}
      </button>
      {#if reads && reading}
        <ReadingLines {reading} {named} {words} />
      {/if}
      <button aria-pressed={mends} onclick={() => (mends = !mends)}>What would mend this picture?</button>
      {#if mends}<Mending {id} {hole} {words} />{/if}
      <h2>Notes</h2>
      <Trouble words={trouble} />
      <form
        onsubmit={(event) => {
          event.preventDefault();
          void write();
        }}
      >
        <label class="unseen" for="note-text">Note</label>
        <input
          id="note-text"
          bind:value={text}
          maxlength="280"
          placeholder={pointed === null
            ? `At ${clock(head.time)}; touch the picture for a depth`
            : `At ${clock(head.time)}, ${depth(pointed + whole.face_depth_m, prefs.system)}`}
          onfocus={() => head.stop()}
        />
        <button disabled={!text.trim()}>Write</button>
      </form>
      <ul class="lines notes">
        {#each notes as note (note.id)}
          <li>
            <button class="to" onclick={() => head.stop(note.time_s)}
              ><span class="figures">{clock(note.time_s)}</span>
              {note.depth_m > 0 ? `${depth(note.depth_m, prefs.system)}: ` : ""}{note.text}</button
            >
            {#if note.by === "angler"}<RemoveButton
                what="Remove this note"
                remove={() => void forget(note)}
              />{/if}
          </li>
        {/each}
      </ul>
      <Sources of="recordings" />
    </section>
  {/if}
</div>

<style>
  .replay {
    display: grid;
    grid-template-columns: minmax(0, 1.7fr) minmax(300px, 1fr);
    grid-template-rows: minmax(0, 1fr) auto;
    min-height: 0;
  }

  .wait {
    padding: 24px;
  }

  .picture {
    display: grid;
    min-height: 0;
  }

  .side {
    grid-column: 2;
    grid-row: 1 / -1;
    display: grid;
    align-content: start;
    gap: 10px;
    padding: 12px 16px;
    border-left: 1.5px solid var(--line);
    background: var(--panel);
    overflow-y: auto;
    min-height: 0;
  }

  .top {
    display: flex;
    gap: 8px;
    justify-content: space-between;
    align-items: center;
  }

  .remark {
    color: var(--soft);
    font-size: 0.88rem;

    &::first-letter {
      text-transform: uppercase;
    }
  }

  .touched {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }

  form {
    display: flex;
    gap: 8px;
  }

  form input {
    flex: 1;
    min-width: 0;
  }

  .notes li {
    display: flex;
    gap: 6px;
    align-items: center;
  }

  .to {
    flex: 1;
    min-width: 0;
    text-align: left;
    border-color: transparent;
    padding: 0 6px;
    line-height: 1.2;
  }

  .to .figures {
    color: var(--action);
    font-weight: 700;
  }

  @media (max-width: 1000px) {
    .replay {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: 40dvh auto auto;
      overflow-y: auto;
    }

    .side {
      grid-column: 1;
      grid-row: auto;
      border-left: 0;
      border-top: 1.5px solid var(--line);
      overflow: visible;
      padding: 10px;
    }
  }
</style>
