<script lang="ts">
  // A run: one picture, one rod tip, the truth hidden. Eyes are on the one or on the other.
  import { onMount, untrack } from "svelte";
  import { api, ok } from "../../lib/api/client";
  import type { BenchEvent, PictureKind, RiseLine, RunWanted } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import KeysHelp from "../../lib/controls/KeysHelp.svelte";
  import { felt } from "../../lib/events";
  import { LIFT, LIFT_FASTER, LOWER_SLOW, SINK } from "../../lib/hand";
  import { giveBack, type Key, pressed, released } from "../../lib/keys";
  import { BenchStream } from "../../lib/live/stream.svelte";
  import Picture from "../../lib/picture/Picture.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import Tip from "../../lib/rod/Tip.svelte";
  import { depth, length } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import Grip from "./Grip.svelte";
  import RunKnobs from "./RunKnobs.svelte";

  let { wanted, over, leave }: { wanted: RunWanted; over: (id: number) => void; leave: () => void } =
    $props();

  const still = () => lift(0);
  const KEYS: readonly Key[] = [
    {
      keys: "Up",
      does: "lift slowly while held (with Shift, faster)",
      on: ["ArrowUp"],
      press: (event) => lift(event.shiftKey ? LIFT_FASTER : LIFT),
      release: still,
      repeats: true,
    },
    {
      keys: "Down",
      does: "let it sink while held (with Shift, lower slowly)",
      on: ["ArrowDown"],
      press: (event) => lift(event.shiftKey ? LOWER_SLOW : SINK),
      release: still,
      repeats: true,
    },
    { keys: "Space", does: "twitch", on: [" "], press: () => stream.send({ twitch: true }) },
    {
      keys: "R",
      does: "eyes on the rod tip while held",
      on: ["r"],
      press: () => look("rod"),
      release: () => look("sonar"),
    },
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
      press: () => void note(),
    },
    {
      keys: "G",
      does: "more gain (with Shift, less)",
      on: ["g"],
      press: (event) => stream.gainStep(event.shiftKey ? -1 : 1),
      repeats: true,
    },
    { keys: "?", does: "show or hide these keys", on: ["?"], press: () => (help = !help) },
    { on: ["Escape"], press: () => (help = false) },
  ];

  // The address may carry ?seed=N, to meet the same fish again.
  const seed = Number(new URLSearchParams(location.search).get("seed") ?? Number.NaN);
  const kept = untrack(() => wanted.seed ?? (Number.isSafeInteger(seed) && seed >= 0 ? seed : null));
  const stream = BenchStream.ofRun(
    untrack(() => wanted),
    kept,
  );
  let speed = $state(0);
  let panel: "hand" | "knobs" = $state("hand");
  let help = $state(false);
  let said = $state<string | null>(null);
  let turned: number[] = $state([]);
  let line = $state<RiseLine | null>(null);
  let silence: number | undefined;

  onMount(() => {
    const stop = stream.onEvent(told);
    void stream.start();
    const letGo = () => lift(0);
    window.addEventListener("blur", letGo);
    return () => {
      stop();
      window.removeEventListener("blur", letGo);
      window.clearTimeout(silence);
      if (stream.runId === null) stream.close();
      world.lureDepth = null;
      world.section = null;
      world.riseOfRun = false;
      void world.loadRiseLine();
    };
  });

  // The bore stands for the water of the run; its rise line is what was noted in it.
  $effect(() => {
    world.lureDepth = stream.lureDepth;
    world.section = stream.scene;
    world.riseOfRun = true;
    world.riseLine = line;
  });

  // When it is over there is a moment to see how it ended.
  $effect(() => {
    const id = stream.runId;
    if (id !== null) window.setTimeout(() => over(id), 900);
  });

  function told(event: BenchEvent) {
    // How it ended is said already: that it is over shows by itself, unless it could not be kept.
    if (event.kind === "run over" && said && !event.not_kept) return;
    const text = felt(event, prefs.system);
    if (!text) return;
    said = text;
    window.clearTimeout(silence);
    silence = window.setTimeout(() => (said = null), 6000);
  }

  function lift(to: number) {
    if (speed === to) return;
    speed = to;
    stream.send({ lift_m_s: to });
  }

  function look(eyes: "sonar" | "rod") {
    if (stream.eyes !== eyes) stream.send({ eyes });
  }

  const setHook = (force: "firm" | "hard", rod: "jig" | "stick" = "jig") =>
    stream.send({ set_hook: true, force, rod });
  const goDown = () => stream.send({ to_depth_m: stream.bench?.run?.goal_m ?? null });

  async function note() {
    if (stream.lureDepth === null || !stream.scene) return;
    turned = [...turned, stream.lureDepth];
    try {
      const found = await ok(
        api.POST("/api/rise-line", {
          body: {
            heights: turned.map((depth_m) => ({ depth_m, turned: true })),
            top_m: stream.scene.ice_thickness_m,
            bottom_m: stream.scene.bottom_depth_m,
          },
        }),
      );
      line = found.line;
    } catch {
      line = null; // without an estimate the notes still stand
    }
  }

  const clock = (s: number) => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, "0")}`;
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
          look={{ truth: false, alone: true, views: first, held: null, grid: prefs.grid, tails: prefs.tails }}
          aim={(to) => stream.aim(to)}
        />
      {/key}
      {#if stream.eyes === "rod"}<p class="veil">Eyes on the rod tip</p>{/if}
    {:else}
      <p class="waiting">{stream.message || "Walking to the hole."}</p>
    {/if}
    {#if stream.bench && stream.message}<p class="link" role="alert">{stream.message}</p>{/if}
    {#if help}
      <KeysHelp keys={KEYS} close={() => (help = false)} />
    {/if}
  </div>
  <section class="line-of-words" aria-label="What happened" data-testid="said">
    <p role="status">
      {#if said}<b>{said}</b>{:else}{stream.bench?.run?.teaches ?? ""}{/if}
    </p>
    <span class="figures clock" aria-label="Time in the run"
      >{clock(stream.time)} / {clock(stream.bench?.run?.longest_s ?? 240)}</span
    >
  </section>
  <div class="controls">
    {#if stream.bench && stream.settings && stream.scene}
      <section class="tip" class:watched={stream.eyes === "rod"} aria-label="Rod tip">
        <div class="bend">
          <Tip bend={stream.rodTipBend} says={stream.rodTip} watched={stream.eyes === "rod"} tall={100} />
        </div>
        {#if stream.rodTip === "felt"}<p class="felt">Something pulls</p>{/if}
        {#if hasStick}
          <p class="soft">Dead stick</p>
          <div class="bend small">
            <Tip bend={stream.stickTipBend} says={stream.stickTip} watched={stream.eyes === "rod"} />
          </div>
        {/if}
      </section>
      <div class="eyes">
        <Choice
          name="Eyes on"
          options={[
            { value: "sonar", label: "Eyes on sonar" },
            { value: "rod", label: "Eyes on rod tip" },
          ]}
          value={stream.eyes}
          choose={look}
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
        <Grip {speed} {lift} twitch={() => stream.send({ twitch: true })} />
      </div>
      <Choice
        name="Controls"
        options={[
          { value: "hand", label: "Hand" },
          { value: "knobs", label: "Knobs" },
        ]}
        value={panel}
        choose={(value) => (panel = value)}
      />
      {#if panel === "hand"}
        <p class="where">
          <span>{stream.bench.lure.name}</span>
          <b class="figures" data-testid="lure-depth"
            >{stream.lureDepth === null ? "" : depth(stream.lureDepth, prefs.system)}</b
          >
          <span class="soft"
            >{stream.lureDepth === null
              ? ""
              : `${length(stream.scene.bottom_depth_m - stream.lureDepth, prefs.system)} off bottom`}</span
          >
        </p>
        <div class="moves">
          <button onclick={goDown}
            >{(stream.lureDepth ?? 0) > (stream.bench.run?.goal_m ?? 0) + 0.05 ? "Raise" : "Lower"} to {depth(
              stream.bench.run?.goal_m ?? 0,
              prefs.system,
            )}</button
          >
          <button onclick={() => void note()}>A fish turned here</button>
        </div>
        {#if turned.length > 0}
          <p class="soft">
            {turned.length} noted.{#if line}
              Fish come to about {depth(line.depth_m, prefs.system)}, between {depth(
                line.low_m,
                prefs.system,
              )} and {depth(line.high_m, prefs.system)}.{/if}
          </p>
        {/if}
      {:else}
        <RunKnobs {stream} unit={stream.bench.unit} settings={stream.settings} scene={stream.scene} />
      {/if}
      <div class="ends">
        <button onclick={() => void stream.endRun()}>End the run</button>
        <button class="keys" onclick={() => (help = !help)}>Keys</button>
      </div>
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

  .tip {
    position: relative;
    padding: 4px 8px;
    border: 1.5px solid var(--line);
    border-radius: 8px;
    background: var(--panel);
  }

  .tip.watched {
    border: 3px solid var(--action);
    padding: 2.5px 6.5px;
  }

  .bend {
    height: 110px;
  }

  .bend.small {
    height: 60px;
  }

  .felt {
    position: absolute;
    left: 10px;
    bottom: 6px;
    padding: 0 6px;
    background: var(--action);
    color: var(--on-action);
    font-weight: 700;
    border-radius: 4px;
  }

  .sets {
    display: grid;
    grid-template-columns: 2fr 1fr;
    gap: 8px;
  }

  .sets .wide {
    grid-column: 1 / -1;
  }

  .where {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 8px;
    align-items: baseline;
    white-space: nowrap;
    font-size: 0.92rem;
  }

  .where span {
    overflow: hidden;
    text-overflow: ellipsis;
  }

  .where b {
    font-size: 1.15rem;
  }

  .soft {
    color: var(--soft);
    font-size: 0.9rem;
  }

  .moves {
    display: grid;
    gap: 10px;
  }

  .ends {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 8px;
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

    .bend {
      height: 64px;
    }

    .controls > .eyes {
      grid-row: 3;
    }

    .controls > .moves {
      grid-row: 4;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
    }

    .moves button {
      padding: 0 4px;
    }

    .controls > .where {
      grid-row: 5;
    }

    .keys {
      display: none;
    }
  }
</style>
