<script lang="ts">
  // The Bench: truth beside echo on one depth axis, the knobs that answer, and a coach that says one thing at a time.
  import { onMount, untrack } from "svelte";
  import { constants } from "../../lib/api/limits";
  import type { BenchWanted, Change, Hole, PictureKind, Scene, Settings } from "../../lib/api/types";
  import { told } from "../../lib/events";
  import { LIFT, LIFT_FAST, SINK } from "../../lib/hand";
  import { giveBack, type Key, pressed, released } from "../../lib/keys";
  import { BenchStream } from "../../lib/live/stream.svelte";
  import KeysHelp from "../../lib/controls/KeysHelp.svelte";
  import Picture from "../../lib/picture/Picture.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { api, ok, words } from "../../lib/api/client";
  import { sentence } from "../../lib/units";
  import { type Practice, world } from "../../lib/world.svelte";
  import Coach from "./Coach.svelte";
  import ExerciseBar from "./ExerciseBar.svelte";
  import GearAndDrawn from "./GearAndDrawn.svelte";
  import Knobs from "./Knobs.svelte";
  import { type Tab, TABS } from "./tabs";

  let { hole, practice }: { hole: Hole; practice: Practice | null } = $props();

  const jig = world.lures.find((one) => one.form === "jig" && one.diameter_m >= 0.005) ?? world.lures[0]!;
  let tab: Tab = $state("Tune");
  // At a hole the reader's own unit and lure; in practice the scene's, until another is chosen.
  const trial = untrack(() => (practice ? null : world.trial));
  world.trial = null;
  let unitId: number | null = $state(untrack(() => practice) ? null : (trial?.unit_id ?? world.units[0]!.id));
  let lureId: number | null = $state(untrack(() => practice) ? null : (trial?.lure_id ?? jig.id));
  let fishLength = $state(0.3);
  let truth = $state(true);
  let held = $state<number | null>(null);
  let pings = $state(0);
  let help = $state(false);
  let reads = $state(false);
  let kept = $state<string | null>(null);
  let said = $state<string | null>(null);
  let met = $state(false);
  let lifting = $state(0);
  let stream = $state<BenchStream | null>(null);
  let silence: number | undefined;

  function wanted(): BenchWanted {
    const gear = { unit_id: unitId, lure_id: lureId };
    const fish_length_m = untrack(() => fishLength);
    if (practice?.kind === "scene") return { scene_id: practice.id, ...gear, fish_length_m };
    if (practice?.kind === "exercise") return { exercise: practice.key, fish_length_m };
    // A hole card's settings, as long as it is the card's unit.
    const { settings, lure_depth_m } = trial?.unit_id === unitId ? trial : {};
    return { hole_id: hole.id, ...gear, fish_length_m, settings, lure_depth_m };
  }

  // Another hole, scene, unit or lure is a new bench. The address may carry ?seed=N, to see the same water again.
  $effect(() => {
    const seed = Number(new URLSearchParams(location.search).get("seed") ?? Number.NaN);
    const made = BenchStream.ofBench(wanted(), Number.isSafeInteger(seed) && seed >= 0 ? seed : null);
    stream = made;
    said = null;
    met = false;
    held = null;
    if (untrack(() => reads)) made.read(true);
    const stop = made.onEvent((event) => {
      if (event.kind === "aim met") {
        met = true;
        void world.loadPractice();
      }
      const text = told(event, prefs.system);
      if (text) {
        said = text;
        window.clearTimeout(silence);
        silence = window.setTimeout(() => (said = null), 5000);
      }
      if (event.strike_id !== null) void world.loadStrikes();
    });
    void made.start();
    return () => {
      stop();
      made.close();
      window.clearTimeout(silence);
      world.lureDepth = null;
      world.window = null;
      world.section = null;
    };
  });

  const views: PictureKind[] = $derived.by(() => {
    const has = stream?.bench?.unit.pictures ?? ["strip", "trace"];
    const known = (kind: string): kind is PictureKind => (has as string[]).includes(kind);
    const first = known(prefs.first) ? prefs.first : has[0]!;
    if (prefs.second === "none") return [first];
    const own = first === "trace" ? "strip" : "trace";
    const second = known(prefs.second) ? prefs.second : known(own) ? own : has[0]!;
    // A strip stands before a trace, against the truth, unless it was chosen otherwise.
    if (prefs.first === "unit" && second === "strip") return [second, first];
    return [first, second];
  });

  // The bore shows what the Bench shows: the section, the lure, and a bracket round the water that is magnified.
  $effect(() => {
    world.lureDepth = stream?.lureDepth ?? null;
    world.section = stream?.scene ?? null;
    const { settings, scene } = stream ?? {};
    const zoomed =
      settings && (settings.bottom_window_m > 0 || settings.free_window_m > 0) && !settings.beside;
    world.window =
      zoomed && stream && scene
        ? { top: stream.top + scene.face_depth_m, bottom: stream.bottom + scene.face_depth_m }
        : null;
  });

  function lift(speed: number) {
    if (lifting === speed) return;
    lifting = speed;
    stream?.send({ lift_m_s: speed });
  }

  function look(eyes: "sonar" | "rod") {
    if (stream && stream.eyes !== eyes) stream.send({ eyes });
  }

  /** The last minutes of the picture become a recording. */
  async function keep() {
    if (!stream?.bench) return;
    const name = `${stream.bench.title}, ${new Date().toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" })}`;
    try {
      await ok(
        api.POST("/api/benches/{bench_id}/recording", {
          params: { path: { bench_id: stream.bench.id } },
          body: {
            name: name.slice(0, 80),
            hole_id: practice ? null : hole.id,
          },
        }),
      );
      kept = "Kept. Replay it under Read, Recordings.";
    } catch (problem) {
      kept = words(problem);
    }
    window.setTimeout(() => (kept = null), 6000);
  }

  const moment = $derived(stream?.reading?.moment ?? null);
  const advice = $derived(
    moment ? `${sentence(moment.say.text, moment.say.values, prefs.system)} ${moment.do}` : null,
  );

  /** Make the change that the coach proposes: a knob, how it hangs, or a command. */
  function obey({ setting, value }: Change) {
    if (!stream?.settings || !stream.scene) return;
    if (setting === "kick") stream.send({ kick: true });
    else if (setting in stream.settings) stream.turn({ [setting]: value } as Partial<Settings>);
    else stream.change({ [setting]: value } as Partial<Scene>);
  }

  function nextWindow() {
    const unit = stream?.bench?.unit;
    const settings = stream?.settings;
    if (!unit || !settings || unit.bottom_windows_m.length === 0) return;
    const windows = [0, ...unit.bottom_windows_m];
    const at = windows.findIndex((one) => Math.abs(one - settings.bottom_window_m) < 1e-3);
    stream!.turn({ bottom_window_m: windows[(at + 1) % windows.length]!, free_window_m: 0 });
  }

  function nextBeam() {
    const beams = stream?.bench?.unit.beams.length ?? 1;
    stream?.turn({ beam: ((stream.settings?.beam ?? 0) + 1) % beams });
  }

  function toTheLine() {
    if (stream && stream.targetDepth > 0) stream.send({ to_depth_m: stream.targetDepth });
  }

  /** While frozen, so many pings back. */
  function step(back: number) {
    if (held !== null) held = Math.min(Math.max(held + back, 0), pings - 1);
  }

  function rejectionStep(direction: 1 | -1) {
    const most = (stream?.bench?.unit.rejections.length ?? 1) - 1;
    const now = stream?.settings?.rejection;
    if (now !== undefined) stream!.turn({ rejection: Math.min(Math.max(now + direction, 0), most) });
  }

  function hold(back: number | null) {
    held = back;
  }

  const NUDGE = constants.foot / 4;
  const aimedAt = () => stream?.targetDepth || stream?.lureDepth || 1;
  const still = () => lift(0);

  const KEYS: readonly Key[] = [
    {
      keys: "Up",
      does: "lift the lure slowly while held (with Shift, fast)",
      on: ["ArrowUp"],
      press: (event) => lift(event.shiftKey ? LIFT_FAST : LIFT),
      release: still,
      repeats: true,
    },
    {
      keys: "Down",
      does: "lower the lure while held",
      on: ["ArrowDown"],
      press: () => lift(SINK),
      release: still,
      repeats: true,
    },
    { keys: "Space", does: "twitch", on: [" "], press: () => stream?.send({ twitch: true }) },
    {
      keys: "R",
      does: "eyes on the rod tip while held",
      on: ["r"],
      press: () => look("rod"),
      release: () => look("sonar"),
    },
    { keys: "Enter", does: "set the hook", on: ["Enter"], press: () => stream?.send({ set_hook: true }) },
    {
      keys: "G",
      does: "more gain (with Shift, less)",
      on: ["g"],
      press: (event) => stream?.gainStep(event.shiftKey ? -1 : 1),
      repeats: true,
    },
    { keys: "Z", does: "next window", on: ["z"], press: nextWindow },
    { keys: "B", does: "next beam", on: ["b"], press: nextBeam },
    {
      keys: "X",
      does: "more rejection (with Shift, less)",
      on: ["x"],
      press: (event) => rejectionStep(event.shiftKey ? -1 : 1),
    },
    { keys: "L", does: "bring the lure to the aim line", on: ["l"], press: toTheLine },
    {
      keys: "[ ]",
      does: "move the aim line up or down",
      on: ["[", "]"],
      press: (event) => stream?.aim(Math.max(aimedAt() + (event.key === "[" ? -NUDGE : NUDGE), 0.1)),
      repeats: true,
    },
    { keys: "F", does: "freeze or resume", on: ["f"], press: () => (held = held === null ? 0 : null) },
    {
      keys: ", .",
      does: "while frozen, one ping back or on",
      on: [",", "."],
      press: (event) => step(event.key === "," ? 1 : -1),
      repeats: true,
    },
    { keys: "T", does: "hide or show the truth", on: ["t"], press: () => (truth = !truth) },
    { keys: "?", does: "show or hide these keys", on: ["?"], press: () => (help = !help) },
    { on: ["Escape"], press: () => (help = false) },
  ];

  // A key or button still held when the window loses the focus is never let go: do it here.
  onMount(() => {
    const letGo = () => lift(0);
    window.addEventListener("blur", letGo);
    return () => window.removeEventListener("blur", letGo);
  });
</script>

<svelte:window
  onkeydown={(event) => pressed(KEYS, event)}
  onkeyup={(event) => released(KEYS, event)}
  onclick={giveBack}
/>

<main class="bench" class:on-rod={stream?.eyes === "rod"}>
  <h1 class="unseen">Bench: {stream?.bench?.title ?? hole.name}</h1>
  <div class="view">
    {#if stream?.bench?.exercise}
      <ExerciseBar exercise={stream.bench.exercise} {met} />
    {/if}
    {#if stream?.bench}
      {#key stream.bench.id}
        <Picture
          bench={stream.bench}
          {stream}
          look={{ truth, views, held, grid: prefs.grid, tails: prefs.tails }}
          aim={(depth) => stream?.aim(depth)}
          bind:pings
        />
      {/key}
      {#if held !== null}
        <div class="frozen">
          <b>Frozen</b>
          <button onclick={() => step(1)} aria-label="One ping back">,</button>
          <button onclick={() => step(-1)} aria-label="One ping on">.</button>
          <button class="primary" onclick={() => (held = null)}>Resume</button>
        </div>
      {/if}
    {:else}
      <p class="waiting">{stream?.message || "Lowering the transducer."}</p>
    {/if}
    {#if stream?.bench && stream.message}
      <p class="link" role="alert">{stream.message}</p>
    {/if}
    {#if help}
      <KeysHelp keys={KEYS} close={() => (help = false)} />
    {/if}
  </div>
  <Coach
    tuning={stream?.tuning ?? null}
    unit={stream?.bench?.unit ?? null}
    settings={stream?.settings ?? null}
    event={kept ?? said ?? advice}
    change={obey}
  />
  <div class="controls">
    {#if stream?.bench && stream.settings && stream.scene}
      <div class="tabs" role="group" aria-label="Controls">
        {#each TABS as one (one)}
          <button aria-pressed={tab === one} onclick={() => (tab = one)}>{one}</button>
        {/each}
      </div>
      <Knobs
        {tab}
        {stream}
        {lifting}
        chooseEyes={look}
        {views}
        {held}
        {pings}
        {hold}
        settings={stream.settings}
        scene={stream.scene}
        unit={stream.bench.unit}
        lure={stream.bench.lure}
      />
      <GearAndDrawn
        {stream}
        bench={stream.bench}
        settings={stream.settings}
        {practice}
        bind:unitId
        bind:lureId
        bind:fishLength
        bind:reads
        bind:truth
        bind:help
        {held}
        {hold}
        {keep}
      />
    {/if}
  </div>
</main>

<style>
  .bench {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 372px;
    grid-template-rows: minmax(0, 1fr) auto;
    min-height: 0;
  }

  .view {
    position: relative;
    display: grid;
    grid-template-rows: auto;
    grid-auto-rows: minmax(0, 1fr);
    min-height: 0;
    transition: opacity 0.15s;
  }

  .on-rod .view {
    opacity: 0.4;
  }

  .controls {
    grid-column: 2;
    grid-row: 1 / 3;
    display: flex;
    flex-direction: column;
    gap: 12px;
    padding: 10px 16px;
    border-left: 1.5px solid var(--line);
    background: var(--ground);
    overflow-y: auto;
  }

  .controls > :global(section + section) {
    border-top: 1.5px solid var(--line);
    padding-top: 10px;
  }

  .tabs {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    position: sticky;
    top: -10px;
    z-index: 1;
    margin: -10px -16px 0;
    background: var(--ground);
    border-bottom: 1.5px solid var(--line);
  }

  .tabs button {
    padding: 0;
    border: 0;
    border-bottom: 4px solid transparent;
    border-radius: 0;
    background: none;
  }

  .tabs button[aria-pressed="true"] {
    background: none;
    border-bottom-color: var(--action);
    color: var(--ink);
    font-weight: 700;
  }

  .frozen {
    position: absolute;
    right: 12px;
    bottom: 12px;
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 6px 10px;
    border: 2px solid var(--action);
    border-radius: 8px;
    background: var(--panel);
  }

  .waiting {
    place-self: center;
    padding: 24px;
  }

  .link {
    position: absolute;
    inset: 12px 12px auto 12px;
    padding: 10px 14px;
    border: 2px solid var(--stop);
    border-radius: 6px;
    background: var(--panel);
    color: var(--stop);
    font-weight: 700;
  }

  @media (max-width: 760px) {
    .bench {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: minmax(230px, 1fr) auto minmax(0, 50%);
    }

    .controls {
      grid-column: 1;
      grid-row: 3;
      border-left: 0;
      border-top: 1.5px solid var(--line);
      padding: 8px 10px;
    }

    .tabs {
      top: -8px;
      margin: -8px -10px 0;
    }
  }
</style>
