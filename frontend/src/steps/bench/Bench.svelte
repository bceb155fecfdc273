<script lang="ts">
  // The Bench: truth beside echo on one depth axis, the knobs that answer, and a coach that says one thing at a time.
  import { onMount, untrack } from "svelte";
  import { timeOf } from "../../lib/when";
  import type { BenchWanted, Change, Hole, PictureKind, Scene, Settings } from "../../lib/api/types";
  import { atTheLure, Teller } from "../../lib/events";
  import { cuesOf } from "../../lib/cues";
  import { giveBack, helpKey, type Key, pressed, released } from "../../lib/keys";
  import { Hand } from "../../lib/live/hand.svelte";
  import { BenchStream } from "../../lib/live/stream.svelte";
  import StreamWords from "../../lib/live/StreamWords.svelte";
  import { Notice } from "../../lib/notice.svelte";
  import KeysHelp from "../../lib/controls/KeysHelp.svelte";
  import { inSight, type Panel } from "../../lib/panels";
  import { panelOf } from "../../lib/controls/panel";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import Picture from "../../lib/picture/Picture.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { api, ok, words } from "../../lib/api/client";
  import { sentence } from "../../lib/units";
  import { type Practice, world } from "../../lib/world.svelte";
  import Coach from "./Coach.svelte";
  import DueBar from "./DueBar.svelte";
  import ExerciseBar from "./ExerciseBar.svelte";
  import GearAndDrawn from "./GearAndDrawn.svelte";
  import { benchKeys } from "./keys";
  import Knobs from "./Knobs.svelte";

  let { hole, practice }: { hole: Hole | null; practice: Practice | null } = $props();

  let tab: Panel<"bench"> = $state("Tune");
  // At a hole the reader's own unit and lure; in practice the scene's, until another is chosen.
  const trial = untrack(() => (practice ? null : world.trial));
  world.trial = null;
  // A hole that was drilled where a look showed fish is fished with the reader's own gear.
  const own = untrack(() => practice === null || practice.kind === "drilled");
  let unitId: number | null = $state(own ? (trial?.unit_id ?? world.units[0]!.id) : null);
  let lureId: number | null = $state(own ? (trial?.lure_id ?? world.usualLure!.id) : null);
  let fishLength = $state(0.3);
  let truth = $state(true);
  let held = $state<number | null>(null);
  let picture: ReturnType<typeof Picture> | undefined = $state();
  let pings = $state(0);
  let help = $state(false);
  let reads = $state(false);
  const kept = new Notice(6000);
  const said = new Notice(5000);
  let met = $state(false);
  let fish = $state(false);
  let stream = $state<BenchStream | null>(null);
  const hand = new Hand(() => stream);

  function wanted(): BenchWanted {
    const gear = { unit_id: unitId, lure_id: lureId };
    const fish_length_m = untrack(() => fishLength);
    if (practice?.kind === "scene") return { scene_id: practice.id, ...gear, fish_length_m };
    if (practice?.kind === "drilled") return { drilled_at: practice.at, ...gear, fish_length_m };
    if (practice?.kind === "exercise") return { exercise: practice.key, fish_length_m };
    // A hole card's settings, as long as it is the card's unit.
    const { settings } = trial?.unit_id === unitId ? trial : {};
    const { lure_depth_m, scene } = trial ?? {};
    return { hole_id: hole!.id, ...gear, fish_length_m, settings, lure_depth_m, scene };
  }

  // Another hole, scene, unit or lure is a new bench. The address may carry ?seed=N, to see the same water again.
  $effect(() => {
    const seed = Number(new URLSearchParams(location.search).get("seed") ?? Number.NaN);
    const made = BenchStream.ofBench(wanted(), Number.isSafeInteger(seed) && seed >= 0 ? seed : null);
    stream = made;
    said.clear();
    met = fish = false;
    held = null;
    if (untrack(() => reads)) made.read(true);
    const quiet = cuesOf(made);
    const teller = new Teller();
    const stop = made.onEvent((event) => {
      if (event.kind === "aim met") {
        met = true;
        void world.loadPractice();
      }
      fish = atTheLure(event, fish);
      const text = teller.told(event, prefs.system);
      if (text) said.say(text);
      if (event.strike_id !== null) void world.loadStrikes();
    });
    void made.start();
    return () => {
      quiet();
      stop();
      made.close();
      said.clear();
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

  // In a practised water none of this hole's strikes.
  const placed = $derived(
    practice
      ? { strikes: [], rise: null }
      : { strikes: world.strikesHere.map((one) => one.depth_m), rise: world.riseLine },
  );

  /** The last minutes of the picture become a recording. */
  async function keep() {
    if (!stream?.bench) return;
    const name = `${stream.bench.title}, ${timeOf(new Date())}`;
    try {
      await ok(
        api.POST("/api/benches/{bench_id}/recording", {
          params: { path: { bench_id: stream.bench.id } },
          body: {
            name: name.slice(0, 80),
            hole_id: practice ? null : hole!.id,
          },
        }),
      );
      kept.say("Kept. Replay it under Read, Recordings.");
    } catch (problem) {
      kept.say(words(problem));
    }
  }

  /** An exercise whose aim is not met yet: nothing on the screen solves it. */
  const exercising = $derived(Boolean(stream?.bench?.exercise) && !met);
  const blind = $derived(exercising && Boolean(stream?.bench?.exercise?.hides_truth));
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

  /** While frozen, so many pings back. */
  function step(back: number) {
    if (held !== null) held = Math.min(Math.max(held + back, 0), pings - 1);
  }

  const KEYS: readonly Key[] = [
    ...benchKeys({
      stream: () => stream,
      hand,
      freeze: () => (held = held === null ? 0 : null),
      step,
      truth: () => (truth = !truth),
    }),
    {
      keys: "M",
      does: "walk the marks: arrows, then Enter to be told",
      on: ["m"],
      press: () => picture?.walk(),
    },
    helpKey((shown) => (help = shown(help))),
  ];

  onMount(hand.letGoWithFocus);
  onMount(() => world.withPicture());
</script>

<svelte:window
  onkeydown={(event) => pressed(KEYS, event)}
  onkeyup={(event) => released(KEYS, event)}
  onclick={giveBack}
/>

<main class="bench" class:on-rod={stream?.eyes === "rod"}>
  <h1 class="unseen">Bench: {stream?.bench?.title ?? hole?.name}</h1>
  <div class="view">
    {#if stream?.bench?.exercise}
      <ExerciseBar exercise={stream.bench.exercise} {met} />
    {/if}
    {#if practice?.kind === "drilled" && stream}
      <DueBar dueS={practice.due_s} now={stream.time} />
    {/if}
    {#if stream?.bench}
      {#key stream.bench.id}
        <Picture
          bench={stream.bench}
          {stream}
          look={{
            truth: truth && !blind,
            column: blind ? "none" : "wide",
            views,
            held,
            grid: prefs.grid,
            tails: prefs.tails,
          }}
          {placed}
          edit={practice || !hole ? null : (field) => world.go("hole", hole.id, field)}
          aim={(depth) => stream?.aim(depth)}
          bind:this={picture}
          bind:pings
        />
      {/key}
      {#if held !== null}
        <div class="frozen">
          <b>Frozen</b>
          <button onclick={() => step(1)} aria-label="One ping back">Back</button>
          <button onclick={() => step(-1)} aria-label="One ping on">On</button>
          <button class="primary" onclick={() => (held = null)}>Resume</button>
        </div>
      {/if}
    {/if}
    <StreamWords {stream} waiting="Lowering the transducer." />
    {#if help}
      <KeysHelp keys={KEYS} close={() => (help = false)} />
    {/if}
  </div>
  <Coach
    tuning={stream?.tuning ?? null}
    unit={stream?.bench?.unit ?? null}
    settings={stream?.settings ?? null}
    event={kept.text ?? said.text ?? advice}
    {fish}
    waits={exercising}
    change={obey}
  />
  <div class="controls">
    {#if stream?.bench && stream.settings && stream.scene}
      <div class="tabs">
        <Tabs
          id="bench"
          label="Controls"
          tabs={inSight("bench", tab)}
          current={tab}
          choose={(to) => (tab = to)}
        />
      </div>
      <div class="panel" {...panelOf("bench", tab)}>
        <Knobs
          {tab}
          {stream}
          {hand}
          {views}
          {blind}
          {held}
          {pings}
          hold={(back) => (held = back)}
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
          {blind}
          {held}
          hold={(back) => (held = back)}
          {keep}
        />
      </div>
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

  .panel {
    display: flex;
    flex-direction: column;
    gap: 12px;
  }

  .panel > :global(section + section) {
    border-top: 1.5px solid var(--line);
    padding-top: 10px;
  }

  .tabs {
    position: sticky;
    top: -10px;
    z-index: 1;
    margin: -10px -16px 0;
  }

  .tabs :global([role="tab"]) {
    flex: 1;
    padding: 0;
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

  @media (max-width: 760px) {
    .bench {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: minmax(min(230px, 30dvh), 1fr) auto minmax(0, 50%);
    }

    @media (max-height: 700px) {
      .bench {
        grid-template-rows: minmax(150px, 1fr) auto minmax(0, 62%);
      }
    }

    .controls {
      grid-column: 1;
      grid-row: 3;
      border-left: 0;
      border-top: 1.5px solid var(--line);
      padding: 8px 10px;
    }

    /* The hand's buttons first: what is done all the time stands over what is set once. */
    .panel > :global(.hand) {
      order: 1;
    }

    .panel > :global(:not(.hand)) {
      order: 2;
    }

    .tabs {
      top: -8px;
      margin: -8px -10px 0;
    }
  }

  /* Where there is room: the knobs in two columns beside a larger picture. */
  @media (min-width: 1440px) {
    .bench {
      grid-template-columns: minmax(0, 1fr) 420px;
    }
  }

  @media (min-width: 1800px) {
    .bench {
      grid-template-columns: minmax(0, 1fr) 720px;
    }

    .panel {
      display: block;
      columns: 2;
      column-gap: 28px;
    }

    .panel > :global(*) {
      break-inside: avoid;
      margin-bottom: 14px;
    }
  }

  /* A phone on its side, or a desk at twice the size: picture and controls beside one another. */
  @media (min-width: 560px) and (max-width: 760px) and (max-height: 520px) {
    .bench {
      grid-template-columns: minmax(0, 1fr) 290px;
      grid-template-rows: minmax(0, 1fr) auto;
    }

    .controls {
      grid-column: 2;
      grid-row: 1 / 3;
      border-top: 0;
      border-left: 1.5px solid var(--line);
    }
  }
</style>
