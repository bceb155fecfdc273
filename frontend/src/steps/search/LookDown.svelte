<script lang="ts">
  // The head turned down at the new hole, and fished under: the fan's picture with lure, fish, gap and contact on it, and
  // the hand, the rod tip and the hook of the Bench.
  import { onMount } from "svelte";
  import { askAgain } from "../../lib/again";
  import { words } from "../../lib/api/client";
  import type { DrilledAt, FanAdvice, FanMeasured, Sought } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import KeysHelp from "../../lib/controls/KeysHelp.svelte";
  import { panelOf } from "../../lib/controls/panel";
  import Sources from "../../lib/controls/Sources.svelte";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { cuesOf } from "../../lib/cues";
  import { Teller } from "../../lib/events";
  import { LIFT, LIFT_FAST, SINK } from "../../lib/hand";
  import { giveBack, helpKey, type Key, pressed, released } from "../../lib/keys";
  import { Hand } from "../../lib/live/hand.svelte";
  import { Notice } from "../../lib/notice.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { world } from "../../lib/world.svelte";
  import HandPanel from "../bench/HandPanel.svelte";
  import { ahead, type HeadKey } from "./ahead.svelte";
  import FanGain from "./FanGain.svelte";
  import FanMeasuredPanel from "./FanMeasured.svelte";
  import FanSet from "./FanSet.svelte";
  import { TURN_DEG, turned } from "./fan";
  import FanView from "./FanView.svelte";
  import Handle from "./Handle.svelte";
  import { FishingStream, type Seats } from "./fishing.svelte";
  import SeatsPanel from "./SeatsPanel.svelte";
  import SaysNow from "./SaysNow.svelte";
  import type { Place } from "./search.svelte";
  import Spread from "./Spread.svelte";
  import Where from "./Where.svelte";

  let { at, choose }: { at: DrilledAt; choose: (where: Place) => void } = $props();

  const ADVICE_EVERY_MS = 700;
  let fan: FishingStream | null = $state.raw(null);
  let seats: Seats = $state.raw({ apart_m: 0.9, bearing_deg: 0, beside_m: null });
  let advice: FanAdvice | null = $state.raw(null);
  let measured: FanMeasured | null = $state.raw(null);
  let touched = $state(false);
  let trouble = $state("");
  let withTruth = $state(false);
  let help = $state(false);
  let part: "fish" | "set" = $state("fish");
  const said = new Notice(5000);
  const hand = new Hand(() => fan);
  let quiet: () => void = () => undefined;

  function begin(head: HeadKey, from: number, set: ConstructorParameters<typeof FishingStream>[4] = {}) {
    quiet();
    fan?.close();
    measured = advice = null;
    touched = false;
    const made = new FishingStream(at, head, seats, from, set, fan?.lureDepth ?? null);
    fan = made;
    made.showTruth(withTruth);
    const teller = new Teller();
    const stops = [
      cuesOf(made),
      made.onEvent((event) => {
        const text = teller.told(event, prefs.system);
        if (text) said.say(text);
      }),
    ];
    quiet = () => stops.forEach((stop) => stop());
    void made.start();
  }

  onMount(() => {
    const bearing = ahead.last?.hang.aim_deg ?? 0;
    seats = { ...seats, bearing_deg: bearing };
    begin(ahead.last?.head ?? "near reach", at.at_s);
    const unadvised = askAgain(advise, ADVICE_EVERY_MS);
    const letGo = hand.letGoWithFocus();
    return () => {
      unadvised();
      letGo();
      quiet();
      fan?.close();
    };
  });

  async function attempt(work: () => Promise<unknown>) {
    trouble = "";
    try {
      await work();
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const between = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);
  /** One's own lure where it hangs, ahead of the head and to its right; a fish near it. */
  const sought = $derived.by((): Sought => {
    const turn = (((fan?.hang?.aim_deg ?? 0) + (fan?.hang?.off_deg ?? 0)) * Math.PI) / 180;
    const bearing = (seats.bearing_deg * Math.PI) / 180;
    const depth = between(fan?.lureDepth ?? 4, 0.2, 60);
    return {
      lure: null,
      lure_ahead_m: seats.apart_m * Math.cos(bearing - turn),
      lure_aside_m: seats.apart_m * Math.sin(bearing - turn),
      lure_depth_m: depth,
      fish_m: measured?.length_m?.likely ?? 0.3,
      away_m: 2,
      fish_depth_m: depth,
      liking: "clean",
    };
  });

  async function advise() {
    const mine = fan;
    if (!mine?.fan || !mine.live) return;
    const found = await mine.advice(sought, "fish", prefs.theme === "lantern").catch(() => undefined);
    if (found && mine === fan) advice = found;
  }

  const set = (change: Parameters<FishingStream["set"]>[0]) => {
    // The hand moves the lure here; a friend's is theirs.
    const { lures: _, ...rest } = change;
    void attempt(async () => fan?.set(rest));
  };
  const make = (change: { setting: string; value: number | boolean }) =>
    void attempt(async () => {
      await fan?.make(change);
      await advise();
    });
  const point = (aim: number) => set({ hang: { aim_deg: turned(aim, 0) } });
  const turn = (by: number) => point((fan?.hang?.aim_deg ?? 0) + by);

  function sit(change: Partial<Seats>) {
    seats = { ...seats, ...change };
    if (!fan?.fan) return;
    const { hang, settings } = fan;
    begin(fan.head, fan.now, { ...(hang ? { hang } : {}), ...(settings ? { settings } : {}) });
  }

  const touch = (x: number, z: number) =>
    void attempt(async () => {
      measured = (await fan?.mark(x, z)) ?? null;
      touched = true;
    });

  const KEYS: readonly Key[] = [
    ...hand.keys(
      { does: "lift the lure slowly while held (with Shift, fast)", speed: LIFT, withShift: LIFT_FAST },
      { does: "lower the lure while held", speed: SINK, withShift: SINK },
    ),
    { keys: "Enter", does: "set the hook", on: ["Enter"], press: () => fan?.send({ set_hook: true }) },
    {
      keys: "A D",
      does: "turn the handle left or right",
      on: ["a", "d"],
      press: (event) => turn(event.key.toLowerCase() === "a" ? -TURN_DEG : TURN_DEG),
      repeats: true,
    },
    { keys: "T", does: "hide or show the truth", on: ["t"], press: () => showTruth(!withTruth) },
    helpKey((shown) => (help = shown(help))),
  ];

  function showTruth(on: boolean) {
    withTruth = on;
    fan?.showTruth(on);
  }

  function back() {
    if (fan?.fan && ahead.last) ahead.last = { ...ahead.last, now: Math.min(fan.now, 3600) };
    choose("ahead");
  }
</script>

<svelte:window
  onkeydown={(event) => pressed(KEYS, event)}
  onkeyup={(event) => released(KEYS, event)}
  onclick={giveBack}
/>

<Spread tall>
  {#snippet head()}
    <Where where="ahead" {choose} />
    <span class="grow"></span>
    <Choice
      name="Which head"
      options={[
        { value: "near reach", label: "Near reach" },
        { value: "far reach", label: "Far reach" },
      ]}
      value={fan?.head ?? "near reach"}
      choose={(one) => fan?.fan && begin(one as HeadKey, fan.now)}
    />
  {/snippet}
  {#snippet view()}
    <div class="picture" class:on-rod={fan?.eyes === "rod"}>
      {#if fan}
        <SaysNow reading={fan.reading} event={said.text} />
        <FanView {fan} {measured} {touch} truth={withTruth} reading={fan.reading} />
      {/if}
      <Handle {fan} {turn} />
      {#if help}<KeysHelp keys={KEYS} close={() => (help = false)} />{/if}
    </div>
  {/snippet}
  {#snippet foot()}
    <button onclick={back}>Look ahead again</button>
    <button
      onclick={() => world.practise({ kind: "drilled", at: { ...at, at_s: fan?.now ?? at.at_s }, due_s: 0 })}
      >Fish it with another unit</button
    >
    <button aria-pressed={withTruth} onclick={() => showTruth(!withTruth)}>
      {withTruth ? "Hide the truth" : "Show the truth"}
    </button>
    <button onclick={() => (help = !help)}>Keys</button>
  {/snippet}
  {#snippet side()}
    <h2 class="unseen">Look down and fish</h2>
    <Trouble words={trouble || (fan?.message ?? "")} />
    <Tabs
      id="down-part"
      label="Look down"
      tabs={[
        { key: "fish", name: "Fish" },
        { key: "set", name: "Settings" },
      ]}
      current={part}
      choose={(one) => (part = one as typeof part)}
    />
    <div class="panel" {...panelOf("down-part", part)}>
      {#if part === "fish"}
        {#if fan?.fishing}
          <HandPanel
            stream={fan}
            {hand}
            scene={{ bottom_depth_m: fan.fishing.bottom_depth_m, face_depth_m: fan.hang?.depth_m ?? 0.7 }}
            lure={{ name: fan.fishing.lure_name }}
            blind={false}
          />
        {/if}
        {#if fan?.settings}
          <FanGain
            gain={fan.settings.gain_db}
            {advice}
            set={(gain_db) => set({ settings: { gain_db } })}
            {make}
          />
        {/if}
        <SeatsPanel {seats} reading={fan?.reading ?? null} {sit} {point} />
        <FanMeasuredPanel {measured} {touched} drill={null} />
      {:else if fan?.fan && fan.hang && fan.settings}
        <FanSet head={fan.fan.head} hang={fan.hang} settings={fan.settings} lures={[]} {advice} {set} />
      {/if}
      <Sources of="ahead" />
    </div>
  {/snippet}
</Spread>

<style>
  .grow {
    flex: 1;
  }

  .picture {
    position: relative;
    display: grid;
    grid-template-rows: auto minmax(0, 1fr) auto auto;
    gap: 6px;
    min-height: 0;
    min-width: 0;
  }

  @media (max-width: 760px) {
    .picture {
      grid-template-rows: auto 62vw auto auto;
    }
  }

  /* What is said stays readable: a hooked fish is told of while the eyes are on the tip. */
  .picture > :global(:not(.now)) {
    transition: opacity 0.15s;
  }

  .on-rod > :global(:not(.now)) {
    opacity: 0.4;
  }

  .panel {
    display: grid;
    gap: 12px;
    align-content: start;
    padding: 4px 2px 16px;
  }
</style>
