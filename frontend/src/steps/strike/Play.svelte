<script lang="ts">
  // A run: one picture, one rod tip, the truth hidden. Eyes are on the one or on the other.
  import Sources from "../../lib/controls/Sources.svelte";
  import { onMount, untrack } from "svelte";
  import type { BenchEvent, PictureKind, RunWanted } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import KeysHelp from "../../lib/controls/KeysHelp.svelte";
  import { panelOf } from "../../lib/controls/panel";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import { felt } from "../../lib/events";
  import { LIFT, LIFT_FASTER, LOWER_SLOW, SINK } from "../../lib/hand";
  import { cuesOf } from "../../lib/cues";
  import { giveBack, helpKey, type Key, pressed, released } from "../../lib/keys";
  import { Hand } from "../../lib/live/hand.svelte";
  import { BenchStream } from "../../lib/live/stream.svelte";
  import StreamWords from "../../lib/live/StreamWords.svelte";
  import { Notice } from "../../lib/notice.svelte";
  import Picture from "../../lib/picture/Picture.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { clock } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import Grip from "./Grip.svelte";
  import LureInRun from "./LureInRun.svelte";
  import RodTips from "./RodTips.svelte";
  import RunKnobs from "./RunKnobs.svelte";
  import { TurnedHere } from "./turned.svelte";

  let { wanted, over, leave }: { wanted: RunWanted; over: (id: number) => void; leave: () => void } =
    $props();

  // The address may carry ?seed=N, to meet the same fish again.
  const seed = Number(new URLSearchParams(location.search).get("seed") ?? Number.NaN);
  const kept = untrack(() => wanted.seed ?? (Number.isSafeInteger(seed) && seed >= 0 ? seed : null));
  const stream = BenchStream.ofRun(
    untrack(() => wanted),
    kept,
  );
  const hand = new Hand(() => stream);
  const turned = new TurnedHere(stream);
  const said = new Notice(6000);
  const PANELS = [
    { key: "hand", name: "Hand" },
    { key: "knobs", name: "Knobs" },
  ] as const;
  let panel: (typeof PANELS)[number]["key"] = $state("hand");
  let help = $state(false);
  let picture: ReturnType<typeof Picture> | undefined = $state();

  const KEYS: readonly Key[] = [
    ...hand.keys(
      { does: "lift slowly while held (with Shift, faster)", speed: LIFT, withShift: LIFT_FASTER },
      { does: "let it sink while held (with Shift, lower slowly)", speed: SINK, withShift: LOWER_SLOW },
    ),
    {
      keys: "Enter",
      does: "set the hook (with Shift, hard)",
      on: ["Enter"],
      press: (event) => setHook(event.shiftKey ? "hard" : "firm"),
    },
    { keys: "D", does: "set the hook on the dead stick", on: ["d"], press: () => setHook("firm", "stick") },
    { keys: "L", does: "lower to where the level begins", on: ["l"], press: () => goDown() },
    {
      keys: "H",
      does: "note the height of the lure: a fish turned here",
      on: ["h"],
      press: () => void turned.note(),
    },
    { keys: "M", does: "walk the marks: arrows, Escape to go back", on: ["m"], press: () => picture?.walk() },
    helpKey((shown) => (help = shown(help))),
  ];

  onMount(() => {
    const quiet = cuesOf(stream);
    const stop = stream.onEvent(told);
    void stream.start();
    const letGo = hand.letGoWithFocus();
    return () => {
      quiet();
      stop();
      letGo();
      said.clear();
      if (stream.runId === null) stream.close();
    };
  });
  onMount(() => world.withPicture());

  // When it is over there is a moment to see how it ended.
  $effect(() => {
    const id = stream.runId;
    if (id !== null) window.setTimeout(() => over(id), 900);
  });

  function told(event: BenchEvent) {
    // How it ended is said already: that it is over shows by itself, unless it could not be kept.
    if (event.kind === "run over" && said.text && !event.not_kept) return;
    const text = felt(event, prefs.system);
    if (text) said.say(text);
  }

  const setHook = (force: "firm" | "hard", rod: "jig" | "stick" = "jig") =>
    stream.send({ set_hook: true, force, rod });
  const goDown = () => stream.send({ to_depth_m: stream.bench?.run?.goal_m ?? null });

  const first = $derived.by((): PictureKind[] => {
    const has = stream.bench?.unit.pictures ?? ["trace"];
    return [(has as string[]).includes("trace") ? "trace" : (has[0] ?? "strip")];
  });
  const hasStick = $derived(stream.scene?.hung.some((one) => one.kind === "dead stick") ?? false);
</script>

<svelte:window
  onkeydown={(event) => pressed(KEYS, event)}
  onkeyup={(event) => released(KEYS, event)}
  onclick={giveBack}
/>

<main class="play" class:on-rod={stream.eyes === "rod"} data-testid="run">
  <h1 class="unseen">Run: {stream.bench?.title ?? ""}</h1>
  <div class="view">
    {#if stream.bench}
      {#key stream.bench.id}
        <Picture
          bench={stream.bench}
          {stream}
          look={{
            truth: false,
            column: "slim",
            views: first,
            held: null,
            grid: prefs.grid,
            tails: prefs.tails,
          }}
          placed={{ strikes: [], rise: turned.line }}
          aim={(to) => stream.aim(to)}
          bind:this={picture}
        />
      {/key}
      {#if stream.eyes === "rod"}<p class="veil">Eyes on the rod tip</p>{/if}
    {/if}
    <StreamWords {stream} waiting="Walking to the hole." />
    {#if help}
      <KeysHelp keys={KEYS} close={() => (help = false)} />
    {/if}
  </div>
  <section class="line-of-words" aria-label="What happened" data-testid="said">
    <p role="status">
      {#if said.text}<b>{said.text}</b>{:else}{stream.bench?.run?.teaches ?? ""}{/if}
    </p>
    <span class="figures clock" aria-label="Time in the run"
      >{clock(stream.time)} / {clock(stream.bench?.run?.longest_s ?? 240)}</span
    >
  </section>
  <div class="controls">
    {#if stream.bench && stream.settings && stream.scene}
      <div class="tip"><RodTips {stream} {hasStick} /></div>
      <div class="eyes">
        <Choice
          name="Eyes on"
          options={[
            { value: "sonar", label: "Eyes on sonar" },
            { value: "rod", label: "Eyes on rod tip" },
          ]}
          value={stream.eyes}
          choose={hand.look}
        />
      </div>
      <div class="sets">
        <button class="primary" onclick={() => setHook("firm")}>Set the hook</button>
        <button onclick={() => setHook("hard")}>Set hard</button>
        {#if hasStick}<button class="wide" onclick={() => setHook("firm", "stick")}
            >Set on the dead stick</button
          >{/if}
      </div>
      <div class="grip">
        <Grip speed={hand.speed} lift={hand.lift} twitch={hand.twitch} />
      </div>
      <Tabs id="run" label="Controls" tabs={PANELS} current={panel} choose={(to) => (panel = to)} />
      <div {...panelOf("run", panel)}>
        {#if panel === "hand"}
          <LureInRun {stream} bench={stream.bench} scene={stream.scene} {turned} {goDown} />
        {:else}
          <RunKnobs {stream} unit={stream.bench.unit} settings={stream.settings} scene={stream.scene} />
        {/if}
      </div>
      <div class="ends">
        <button onclick={() => void stream.endRun()}>End the run</button>
        <button class="keys" onclick={() => (help = !help)}>Keys</button>
      </div>
      <Sources of="run" />
    {:else}
      <button onclick={leave}>Back to the levels</button>
    {/if}
  </div>
</main>

<style>
  .play {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 340px;
    grid-template-rows: minmax(0, 1fr) auto;
    min-height: 0;
  }

  .view {
    position: relative;
    display: grid;
    min-height: 0;
    background: var(--water);
  }

  .view :global(.picture) {
    transition: opacity 0.12s;
  }

  .on-rod .view :global(.picture) {
    opacity: 0.12;
  }

  .veil {
    position: absolute;
    inset: 12px auto auto 12px;
    padding: 4px 10px;
    border: 2px solid var(--action);
    border-radius: 6px;
    background: var(--panel);
    font-weight: 700;
  }

  .line-of-words {
    grid-column: 1;
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 16px;
    min-height: 58px;
    padding: 8px 16px;
    border-top: 1.5px solid var(--line);
    background: var(--panel);
  }

  .clock {
    white-space: nowrap;
  }

  .controls {
    grid-column: 2;
    grid-row: 1 / 3;
    display: grid;
    align-content: start;
    grid-template-columns: minmax(0, 1fr);
    gap: 10px;
    padding: 10px 14px;
    border-left: 1.5px solid var(--line);
    overflow-y: auto;
  }

  .sets {
    display: grid;
    grid-template-columns: 2fr 1fr;
    gap: 8px;
  }

  .sets .wide {
    grid-column: 1 / -1;
  }

  .ends {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 8px;
  }

  @media (max-width: 760px) {
    .play {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: minmax(200px, 1fr) auto minmax(0, 60%);
    }

    .line-of-words {
      grid-row: 2;
      min-height: 44px;
      padding: 4px 10px;
      font-size: 0.92rem;
      line-height: 1.2;
    }

    .controls {
      grid-column: 1;
      grid-row: 3;
      border-left: 0;
      border-top: 1.5px solid var(--line);
      padding: 8px 10px;
      gap: 8px;
      grid-template-columns: minmax(0, 1fr) 150px;
    }

    /* Within reach of a thumb: the grip at the right, tip and set at the left, eyes under both. */
    .controls > :global(*) {
      grid-column: 1 / -1;
    }

    .controls > .tip {
      grid-column: 1;
      grid-row: 1;
    }

    .controls > .sets {
      grid-column: 1;
      grid-row: 2;
      grid-template-columns: 1fr;
    }

    .controls > .grip {
      grid-column: 2;
      grid-row: 1 / 3;
    }

    .sets button {
      padding: 0 4px;
    }

    .controls > .eyes {
      grid-row: 3;
    }

    .keys {
      display: none;
    }
  }

  /* A phone on its side, or a desk at twice the size: picture and controls beside one another. */
  @media (min-width: 560px) and (max-width: 760px) and (max-height: 520px) {
    .play {
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
