<script lang="ts">
  // Look ahead with the fan: aim it by the handle, tune it by the coach, measure what it shows, walk there and drill.
  import { onMount, untrack } from "svelte";
  import { askAgain } from "../../lib/again";
  import { words } from "../../lib/api/client";
  import type {
    Drilling,
    FanAdvice,
    FanHang,
    FanMeasured,
    FanSettings,
    HungLure,
    Sought,
  } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import { panelOf } from "../../lib/controls/panel";
  import Sources from "../../lib/controls/Sources.svelte";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { trim, way } from "../../lib/units";
  import { drilledKey, world } from "../../lib/world.svelte";
  import { ahead, FanStream, type HeadKey, type Job } from "./ahead.svelte";
  import FanCard from "./FanCard.svelte";
  import FanFollowed from "./FanFollowed.svelte";
  import FanGain from "./FanGain.svelte";
  import FanMeasuredPanel from "./FanMeasured.svelte";
  import FanSet from "./FanSet.svelte";
  import FanView from "./FanView.svelte";
  import { Followed } from "./followed.svelte";
  import { hungAt, TURN_DEG, turned } from "./fan";
  import FromAbove from "./FromAbove.svelte";
  import Handle from "./Handle.svelte";
  import type { Water } from "./look.svelte";
  import { type Place, search } from "./search.svelte";
  import Spread from "./Spread.svelte";
  import Walk from "./Walk.svelte";
  import Where from "./Where.svelte";

  let { choose }: { choose: (where: Place) => void } = $props();

  const ADVICE_EVERY_MS = 700;
  const OWN: Water = { seed: null, lake_id: null, east_m: 0, north_m: 0 };
  const LATEST_S = 3600;

  const followed = new Followed();
  let fan: FanStream | null = $state.raw(null);
  let said = $state("");
  let advice: FanAdvice | null = $state.raw(null);
  let measured: FanMeasured | null = $state.raw(null);
  let touched = $state(false);
  let withTruth = $state(false);
  let job: Job = $state("search");
  let liking: Sought["liking"] = $state("clean");
  let part: "look" | "set" | "card" = $state("look");
  let walk: { east: number; north: number; at: number; takes: number } | null = $state.raw(null);

  interface Begin {
    hang?: FanHang;
    settings?: FanSettings;
    lures?: HungLure[];
  }
  function begin(water: Water, head: HeadKey, from: number, set: Begin) {
    fan?.close();
    advice = measured = null;
    touched = false;
    walk = null;
    said = "";
    followed.forget();
    fan = new FanStream(water, head, from, set);
    fan.showTruth(withTruth);
    void fan.start();
  }

  const LURE: HungLure = { east_m: 0, north_m: 0, depth_m: 4, lift_m: 0.15, every_s: 3, lure: null };

  onMount(() => {
    const asked = new URLSearchParams(location.search).get("seed");
    const seed = asked === null ? Number.NaN : Number(asked);
    const { wanted, last } = ahead;
    ahead.wanted = null;
    if (wanted)
      begin(wanted.water, "near reach", wanted.now, { hang: hungAt(wanted.bearing), lures: [LURE] });
    else if (last)
      begin(last.water, last.head, last.now, { hang: last.hang, settings: last.settings, lures: [LURE] });
    else
      begin({ ...OWN, seed: Number.isSafeInteger(seed) && seed >= 0 ? seed : null }, "near reach", 0, {
        lures: [LURE],
      });
    const quiet = askAgain(advise, ADVICE_EVERY_MS);
    return () => {
      quiet();
      if (fan?.fan && fan.hang && fan.settings)
        ahead.last = {
          water: { ...fan.water, seed: fan.fan.seed },
          now: Math.min(Math.max(fan.now, walk?.at ?? 0), LATEST_S),
          head: fan.head,
          hang: fan.hang,
          settings: fan.settings,
        };
      fan?.close();
    };
  });

  const lure = $derived.by(() => fan?.lures[0] ?? LURE);
  /** Where fish are thought to be before one was measured [m]: far out in the picture, or near the lure. */
  const guess = $derived.by(() => (job === "search" ? 0.8 * (fan?.settings?.ahead_m ?? 20) : 4));
  /** Where the lure hangs, ahead of the head and to its right [m]. */
  const aside = $derived.by(() => {
    const turn = (((fan?.hang?.aim_deg ?? 0) + (fan?.hang?.off_deg ?? 0)) * Math.PI) / 180;
    const [east, north] = [lure.east_m, lure.north_m];
    return {
      lure_ahead_m: east * Math.sin(turn) + north * Math.cos(turn),
      lure_aside_m: east * Math.cos(turn) - north * Math.sin(turn),
    };
  });
  const between = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);
  const sought = $derived.by((): Sought => ({
    ...aside,
    lure: null,
    lure_depth_m: lure.depth_m,
    fish_m: measured?.length_m?.likely ?? 0.3,
    away_m: between(measured?.along_ice_m?.likely ?? guess, 1, 60),
    fish_depth_m: between(measured?.depth_m?.likely ?? 0.6 * (fan?.fan?.bottom_depth_m ?? 6), 0.2, 60),
    liking,
  }));

  async function attempt(work: () => Promise<unknown>) {
    said = "";
    try {
      await work();
    } catch (problem) {
      said = words(problem);
    }
  }

  async function advise() {
    const mine = fan;
    if (!mine?.fan || !mine.live) return;
    const found = await mine.advice(sought, job, prefs.theme === "lantern").catch(() => undefined);
    if (found && mine === fan) advice = found;
  }

  const set = (change: Parameters<FanStream["set"]>[0]) => void attempt(async () => fan?.set(change));
  const make = (change: { setting: string; value: number | boolean }) =>
    void attempt(async () => {
      await fan?.make(change);
      await advise();
    });
  const turn = (by: number) => {
    set({ hang: { aim_deg: turned(fan?.hang?.aim_deg ?? 0, by) } });
  };

  const touch = (x: number, z: number) =>
    void attempt(async () => {
      if (!fan) return;
      const aim_deg = fan.hang?.aim_deg ?? 0;
      measured = await fan.mark(x, z);
      touched = true;
      part = "look";
      if (measured.mark) await followed.touched(fan, measured.mark, aim_deg, measured.fix);
    });

  function drill() {
    if (!fan?.hang || !measured?.mark) return;
    const aim = (fan.hang.aim_deg * Math.PI) / 180;
    const away = measured.mark.ahead_m;
    const takes = Math.abs(away) / search.own.walk_m_s + search.own.ready_s;
    walk = { east: away * Math.sin(aim), north: away * Math.cos(aim), at: fan.now + takes, takes };
  }

  function drillAhead({ east_m, north_m, ready_at_s }: Drilling["holes"][number]) {
    walk = { east: east_m, north: north_m, at: ready_at_s, takes: Math.max(ready_at_s - (fan?.now ?? 0), 0) };
  }

  function arrive() {
    if (!walk || !fan?.fan) return;
    const round = (value: number) => Math.round(value * 100) / 100;
    const { lake_id, east_m, north_m } = fan.water;
    const at = {
      seed: fan.fan.seed,
      lake_id,
      east_m,
      north_m,
      hole_east_m: round(walk.east),
      hole_north_m: round(walk.north),
      at_s: round(walk.at),
    };
    location.hash = `#/hole/${world.holeId ?? 0}/search/down/${drilledKey(at, 0)}`;
  }

  $effect(() => {
    const on = withTruth;
    untrack(() => fan?.showTruth(on));
  });

  function key(event: KeyboardEvent) {
    const target = event.target as HTMLElement;
    if (["INPUT", "SELECT", "TEXTAREA"].includes(target.tagName) || event.ctrlKey || event.metaKey) return;
    const by = { a: -TURN_DEG, d: TURN_DEG }[event.key.toLowerCase()];
    if (by) turn(by);
    const gain = fan?.settings?.gain_db ?? 0;
    if (event.key === "g") set({ settings: { gain_db: Math.min(gain + 1, 70) } });
    if (event.key === "G") set({ settings: { gain_db: Math.max(gain - 1, 0) } });
  }
</script>

<svelte:window onkeydown={key} />

{#if walk}
  <main class="walking">
    <Walk away={Math.hypot(walk.east, walk.north)} takes={walk.takes} {arrive} back={() => (walk = null)} />
  </main>
{:else}
  <Spread>
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
        choose={(one) =>
          fan?.fan &&
          begin({ ...fan.water, seed: fan.fan.seed }, one as HeadKey, fan.now, {
            ...(fan.hang ? { hang: fan.hang } : {}),
            lures: fan.lures,
          })}
      />
    {/snippet}
    {#snippet view()}
      <div class="picture">
        {#if fan}<FanView {fan} {measured} {touch} truth={withTruth} />{/if}
        <Handle {fan} {turn}>
          {#snippet more()}<button onclick={() => turn(45)}>45° ▶</button>{/snippet}
        </Handle>
      </div>
    {/snippet}
    {#snippet foot()}
      <button onclick={() => begin({ ...OWN, seed: null }, fan?.head ?? "near reach", 0, { lures: [LURE] })}
        >Other water</button
      >
      <button aria-pressed={withTruth} onclick={() => (withTruth = !withTruth)}>
        {withTruth ? "Hide the truth" : "Show the truth"}
      </button>
      <p class="soft">
        Ahead is to the right. A fish beside the plane is drawn in it, at its own distance through the water.
        {#if withTruth}Rings are fish as they are; broken lines are where two sub-arrays meet.{/if}
      </p>
    {/snippet}
    {#snippet side()}
      <Trouble words={said || (fan?.message ?? "")} />
      <Tabs
        id="ahead-part"
        label="Look ahead"
        tabs={[
          { key: "look", name: "Look" },
          { key: "set", name: "Settings" },
          { key: "card", name: "Card" },
        ]}
        current={part}
        choose={(one) => (part = one as typeof part)}
      />
      <div class="panel" {...panelOf("ahead-part", part)}>
        {#if part === "look"}
          <Choice
            name="What for"
            options={[
              { value: "search", label: "Find fish" },
              { value: "fish", label: "Watch my lure" },
            ]}
            value={job}
            choose={(one) => (job = one as Job)}
          />
          <Choice
            name="Liking"
            options={[
              { value: "clean", label: "Clean picture" },
              { value: "rich", label: "Rich picture" },
            ]}
            value={liking}
            choose={(one) => (liking = one as Sought["liking"])}
          />
          {#if fan?.settings}
            <FanGain
              gain={fan.settings.gain_db}
              {advice}
              set={(gain_db) => set({ settings: { gain_db } })}
              {make}
            />
          {/if}
          <FanMeasuredPanel
            {measured}
            {touched}
            drill={measured?.mark && fan?.hang?.mounting === "ahead" && measured.mark.ahead_m > 2.5
              ? drill
              : null}
          />
          {#if measured?.mark}
            <FanFollowed
              {followed}
              now={fan?.now ?? 0}
              drill={fan?.hang?.mounting === "ahead" ? drillAhead : null}
            />
          {/if}
          {#if measured?.fix}
            <p class="soft">
              {way(measured.mark!.range_m, prefs.system)} through the water, {trim(measured.mark!.over_db, 0)} dB
              over it.
            </p>
          {/if}
          {#if withTruth && fan?.truth && fan.fan}<FromAbove
              truth={fan.truth}
              far={fan.settings?.ahead_m ?? 25}
              aim={{
                deg: (fan.hang?.aim_deg ?? 0) + (fan.hang?.off_deg ?? 0),
                thick: fan.fan.head.thickness_deg,
              }}
            />{/if}
        {:else if part === "card" && fan?.fan}
          <FanCard
            head={fan.fan.head}
            depth_m={fan.fan.bottom_depth_m}
            use={({ hang, settings }) =>
              set({ hang: { depth_m: hang.depth_m, mounting: hang.mounting, ice_m: hang.ice_m }, settings })}
          />
        {:else if fan?.fan && fan.hang && fan.settings}
          <FanSet
            head={fan.fan.head}
            hang={fan.hang}
            settings={fan.settings}
            lures={fan.lures}
            {advice}
            {set}
          />
        {/if}
        <Sources of="ahead" />
      </div>
    {/snippet}
  </Spread>
{/if}

<style>
  .walking {
    grid-column: 1 / -1;
    overflow: auto;
  }

  .grow {
    flex: 1;
  }

  .picture {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto auto;
    gap: 6px;
    min-height: 0;
    min-width: 0;
  }

  .panel {
    display: grid;
    gap: 12px;
    align-content: start;
    padding: 4px 2px 16px;
  }
</style>
