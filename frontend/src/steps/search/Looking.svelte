<script lang="ts">
  // Look around from one hole: the picture that turns, what a mark can be and where it is along the ice, a school's
  // course, where to drill, and when to go. In made-up water with the truth beside it, or by hand on the ice.
  import { untrack } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { Drilling } from "../../lib/api/types";
  import { panelOf } from "../../lib/controls/panel";
  import Sources from "../../lib/controls/Sources.svelte";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { inSight, type Panel } from "../../lib/panels";
  import { world } from "../../lib/world.svelte";
  import { ahead } from "./ahead.svelte";
  import Around from "./Around.svelte";
  import CoursePanel from "./CoursePanel.svelte";
  import CoverPanel from "./CoverPanel.svelte";
  import Drawn from "./Drawn.svelte";
  import FromAbove from "./FromAbove.svelte";
  import { LookStream, type Water } from "./look.svelte";
  import type { Measure, Way } from "../../lib/turning/turning";
  import KeptPanel from "./KeptPanel.svelte";
  import LookFrom from "./LookFrom.svelte";
  import Round from "./Round.svelte";
  import { type LookOut, NOWHERE, type Place, search } from "./search.svelte";
  import SetPanel from "./SetPanel.svelte";
  import Spread from "./Spread.svelte";
  import ThingPanel from "./ThingPanel.svelte";
  import Walk from "./Walk.svelte";
  import WatchClock from "./WatchClock.svelte";
  import Where from "./Where.svelte";
  import { MEASURED } from "./words";

  const LATEST_S = 3600; // as the program has water for
  let {
    part,
    address,
    choose,
  }: {
    part: Panel<"search">;
    address: (key: string) => string;
    choose: (where: Place) => void;
  } = $props();

  let way: Way = $state("round");
  let measure: Measure = $state("water");
  let withTruth = $state(false);
  let look: LookStream | null = $state.raw(null);
  let said = $state("");
  let walk: { east: number; north: number; at: number; takes: number; due: number } | null = $state.raw(null);

  function begin(water: Water, from: number) {
    look?.close();
    search.anew(from);
    walk = null;
    said = "";
    const made = new LookStream(water, look?.hang ?? null, from);
    look = made;
    made.showTruth(withTruth);
    void made.start();
  }
  const other = (seed: number | null): Water => ({
    seed,
    lake_id: water.lake?.id ?? null,
    east_m: water.east,
    north_m: water.north,
  });

  /** Where one looks from: a place of a lake, or water of its own. */
  let water: LookOut = $state.raw(NOWHERE);

  function moveTo(place: LookOut) {
    water = place;
    search.touched = null;
    search.forget();
    if (!search.byHand) begin(other(null), 0);
  }

  /** Look at the water that the address asks for, or at that of before. */
  function open() {
    const asked = new URLSearchParams(location.search).get("seed");
    const seed = asked === null ? Number.NaN : Number(asked);
    const known = Number.isSafeInteger(seed) && seed >= 0 ? other(seed) : null;
    // Who comes back from the Bench comes back to the same water, later.
    const last = search.last && (!known || search.last.water.seed === known.seed) ? search.last : null;
    if (last) water = last.from;
    begin(last?.water ?? known ?? other(null), last?.now ?? 0);
  }

  // The address may carry ?seed=N, to look at the same water again.
  $effect(() => {
    if (search.byHand) {
      const began = Date.now();
      untrack(() => search.anew(0));
      const timer = window.setInterval(() => search.tick((Date.now() - began) / 1000), 500);
      return () => window.clearInterval(timer);
    }
    untrack(open);
    return () => {
      if (look?.look) {
        const now = Math.max(look.now, walk?.at ?? 0);
        search.last = {
          water: { ...look.water, seed: look.look.seed },
          now: Math.min(now, LATEST_S),
          from: water,
        };
      }
      look?.close();
      look = null;
    };
  });

  $effect(() => search.reckonWith(look));
  $effect(() => {
    const now = look?.now;
    if (now !== undefined && now > 0) untrack(() => search.tick(now));
  });
  $effect(() => look?.showTruth(withTruth));

  const twelve = $derived(search.byHand ? search.own.twelve_deg : 0);
  const shown = $derived({
    way,
    measure,
    range: search.range,
    down: Math.max(search.bottom - search.head, 0.1),
  });

  async function attempt(work: () => Promise<unknown>) {
    said = "";
    try {
      await work();
    } catch (problem) {
      said = words(problem);
    }
  }

  const touch = (bearing: number, range: number) =>
    attempt(async () => {
      if (search.byHand) {
        const clock = (((bearing - twelve) % 360) + 360) / 30;
        const body = { clock: clock % 12, range_m: Math.max(range, 0.1), time_s: search.now };
        const fix = await ok(api.POST("/api/search/by-hand", { body }));
        const turned = { ...fix, bearing_deg: (fix.bearing_deg + twelve) % 360 };
        const ice = await ok(
          api.POST("/api/search/along-ice", {
            body: {
              range_m: fix.range_m,
              head_depth_m: search.head,
              bottom_depth_m: search.bottom,
              fish_depth_m: search.fishDepth,
            },
          }),
        );
        search.touched = {
          marks: [],
          kinds: [],
          fix: turned,
          ice,
          bearing: turned.bearing_deg,
          range: fix.range_m,
        };
        search.take(turned);
        return;
      }
      const thing = await look?.thing(bearing, range, search.fishDepth);
      if (!thing) return;
      const { bearing_deg, range_m } = thing.fix ?? { bearing_deg: bearing, range_m: range };
      search.touched = { ...thing, bearing: bearing_deg, range: range_m };
      location.hash = address("look");
    });

  /** Look ahead from the same hole at what was touched. */
  function aim() {
    if (!look?.look || !search.touched) return;
    const { bearing, range } = search.touched;
    ahead.wanted = {
      water: { ...look.water, seed: look.look.seed },
      now: look.now,
      bearing: Math.round(((bearing % 360) + 360) % 360),
      away: range,
    };
    choose("ahead");
  }

  function drill(hole: Drilling["holes"][number]) {
    const { east_m: east, north_m: north, ready_at_s: at } = hole;
    walk = { east, north, at, takes: at - search.now, due: (hole.comes_at_s?.likely ?? at) - at };
  }

  function arrive() {
    if (!walk || !look?.look) return;
    const { east, north, at, due } = walk;
    const { seed } = look.look;
    const { lake_id, east_m, north_m } = look.water;
    const round = (value: number) => Math.round(value * 100) / 100;
    world.practise({
      kind: "drilled",
      at: {
        seed,
        lake_id,
        east_m,
        north_m,
        hole_east_m: round(east),
        hole_north_m: round(north),
        at_s: round(at),
      },
      due_s: Math.round(due),
    });
  }
</script>

{#if walk}
  <main class="walking">
    <Walk away={Math.hypot(walk.east, walk.north)} takes={walk.takes} {arrive} back={() => (walk = null)} />
  </main>
{:else}
  <Spread>
    {#snippet head()}
      <Where where={search.byHand ? "hand" : "water"} {choose} />
      <span class="grow"></span>
      <LookFrom at={water} none={search.byHand ? "No lake" : "Water of its own"} {moveTo} {attempt} />
      {#if !search.byHand}
        <button onclick={() => begin(other(null), 0)}>Other {water.lake ? "fish" : "water"}</button>
      {/if}
    {/snippet}
    {#snippet view()}
      <Round {look} {shown} {touch} truth={withTruth ? (look?.truth ?? null) : null} {twelve} />
    {/snippet}
    {#snippet foot()}
      <Drawn {way} {measure} draw={(one) => (way = one)} by={(one) => (measure = one)} />
      {#if !search.byHand}
        <button aria-pressed={withTruth} onclick={() => (withTruth = !withTruth)}>
          {withTruth ? "Hide the truth" : "Show the truth"}
        </button>
      {/if}
      <p class="soft">
        {#if search.byHand}
          Touch where your unit shows the school; touch it again where it is a turn later. Right-handed or
          left, one thumb will do.
        {:else}
          {MEASURED[measure]}
        {/if}
      </p>
    {/snippet}
    {#snippet side()}
      <Trouble words={said || (look?.message ?? "")} />
      <WatchClock />
      <Tabs id="search-part" label="Search" tabs={inSight("search", part)} current={part} {address} />
      <div class="panel" {...panelOf("search-part", part)}>
        {#if part === "look"}
          {#if search.fixes.length < 2}<ThingPanel {twelve} />{/if}
          <CoursePanel {twelve} drill={search.byHand ? null : drill} />
          {#if search.fixes.length >= 2}<ThingPanel {twelve} />{/if}
          {#if search.touched?.fix && !search.byHand}
            <div class="button-row"><button onclick={aim}>Aim the fan at it</button></div>
          {/if}
          {#if look?.look && !search.byHand}<Around {look} {twelve} />{/if}
          {#if water.lake}
            <KeptPanel lake={water.lake} at={{ east: water.east, north: water.north }} {twelve} />
            <CoverPanel lake={water.lake} at={{ east: water.east, north: water.north }} {twelve} />
          {/if}
          {#if withTruth && look?.truth}<FromAbove truth={look.truth} far={search.range} />{/if}
        {:else}
          <SetPanel {look} set={(change) => attempt(async () => look?.set(change))} />
        {/if}
        <Sources of="search" />
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

  .panel {
    display: grid;
    gap: 12px;
    align-content: start;
    padding: 4px 2px 16px;
  }
</style>
