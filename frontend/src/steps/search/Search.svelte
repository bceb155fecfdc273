<script lang="ts">
  // Look around from one hole: the picture that turns, what a mark can be and where it is along the ice, a school's
  // course, where to drill, and when to go. In made-up water with the truth beside it, or by hand on the ice.
  import { onMount, untrack } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { Drilling } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import { panelOf } from "../../lib/controls/panel";
  import Sources from "../../lib/controls/Sources.svelte";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { inSight, type Panel, PANELS } from "../../lib/panels";
  import { world } from "../../lib/world.svelte";
  import CoursePanel from "./CoursePanel.svelte";
  import CoverPanel from "./CoverPanel.svelte";
  import FromAbove from "./FromAbove.svelte";
  import { LookStream, type Water } from "./look.svelte";
  import type { Measure, Way } from "../../lib/turning/turning";
  import KeptPanel from "./KeptPanel.svelte";
  import Round from "./Round.svelte";
  import { type LookOut, NOWHERE, search } from "./search.svelte";
  import SetPanel from "./SetPanel.svelte";
  import ThingPanel from "./ThingPanel.svelte";
  import Walk from "./Walk.svelte";
  import WatchClock from "./WatchClock.svelte";

  const LATEST_S = 3600; // as the program has water for
  let part: Panel<"search"> = $state("look");
  const address = (key: string) => `#/hole/${world.holeId ?? 0}/search/${key}`;
  let way: Way = $state("round");
  let measure: Measure = $state("water");
  let withTruth = $state(false);
  let look: LookStream | null = $state.raw(null);
  let said = $state("");
  let walk: { east: number; north: number; at: number; takes: number; due: number } | null = $state.raw(null);

  onMount(() => {
    const read = () => {
      const [, key] = /\/search\/(\w+)/.exec(location.hash) ?? [];
      part = PANELS.search.find((one) => one.key === key)?.key ?? "look";
    };
    read();
    window.addEventListener("hashchange", read);
    return () => window.removeEventListener("hashchange", read);
  });

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

  let places: LookOut[] = $state.raw([]);
  /** Where one looks from: a place of a lake, or water of its own. */
  let water: LookOut = $state.raw(NOWHERE);

  onMount(() =>
    attempt(async () => {
      const { lakes } = await ok(api.GET("/api/lakes"));
      const found = await Promise.all(
        lakes.map(async ({ id, name, landing_m: [east, north] }) => {
          const { holes } = await ok(
            api.GET("/api/lakes/{lake_id}/things", { params: { path: { lake_id: id } } }),
          );
          const lake = { id, name };
          return [
            ...holes.map((one) => ({
              key: `${id} ${one.hole_id}`,
              name: `${name}: ${one.name}`,
              lake,
              east: one.east_m,
              north: one.north_m,
            })),
            { key: `${id}`, name: `${name}: the landing`, lake, east: east ?? 0, north: north ?? 0 },
          ];
        }),
      );
      places = found.flat();
    }),
  );

  function moveTo(key: string) {
    water = places.find((one) => one.key === key) ?? NOWHERE;
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

  // What the picture shows is what is reckoned with.
  $effect(() => {
    const hang = look?.hang ?? null;
    search.head = search.byHand ? search.own.head_m : (hang?.depth_m ?? 1);
    search.bottom = search.byHand ? search.own.bottom_m : (look?.look?.bottom_depth_m ?? 9);
    search.range = search.byHand ? search.own.range_m : (hang?.range_m ?? 20);
  });
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
  <main class="search walking">
    <Walk away={Math.hypot(walk.east, walk.north)} takes={walk.takes} {arrive} back={() => (walk = null)} />
  </main>
{:else}
  <main class="search">
    <div class="left">
      <div class="top">
        <h1>Search</h1>
        <Choice
          name="Where you look"
          options={[
            { value: "water", label: "Made-up water" },
            { value: "hand", label: "On the ice, by hand" },
          ]}
          value={search.byHand ? "hand" : "water"}
          choose={(which) => (search.byHand = which === "hand")}
        />
        <span class="grow"></span>
        {#if places.length > 0}
          <label class="unseen" for="look-from">Look from</label>
          <select id="look-from" value={water.key} onchange={(event) => moveTo(event.currentTarget.value)}>
            <option value="">{search.byHand ? "No lake" : "Water of its own"}</option>
            {#each places as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
          </select>
        {/if}
        {#if !search.byHand}
          <button onclick={() => begin(other(null), 0)}>Other {water.lake ? "fish" : "water"}</button>
        {/if}
      </div>
      <div class="view">
        <Round {look} {shown} {touch} truth={withTruth ? (look?.truth ?? null) : null} {twelve} />
      </div>
      <div class="foot">
        <Choice
          name="How it is drawn"
          options={[
            { value: "round", label: "From above" },
            { value: "unrolled", label: "Unrolled" },
          ]}
          value={way}
          choose={(one) => (way = one)}
        />
        <Choice
          name="Distances"
          options={[
            { value: "water", label: "Through the water" },
            { value: "ice", label: "Along the ice" },
          ]}
          value={measure}
          choose={(one) => (measure = one)}
        />
        {#if !search.byHand}
          <button aria-pressed={withTruth} onclick={() => (withTruth = !withTruth)}>
            {withTruth ? "Hide the truth" : "Show the truth"}
          </button>
        {/if}
      </div>
      <p class="soft note">
        {#if search.byHand}
          Touch where your unit shows the school; touch it again where it is a turn later. Right-handed or
          left, one thumb will do.
        {:else if measure === "ice"}
          Drawn as if all lay on the bed: right for what does, too near for what swims above it.
        {:else}
          Distances as the sound went, down and out: nothing of the bed is nearer than straight down, so the
          middle is empty.
        {/if}
      </p>
    </div>
    <div class="right">
      <Trouble words={said || (look?.message ?? "")} />
      <WatchClock />
      <Tabs id="search-part" label="Search" tabs={inSight("search", part)} current={part} {address} />
      <div class="panel" {...panelOf("search-part", part)}>
        {#if part === "look"}
          {#if search.fixes.length < 2}<ThingPanel {twelve} />{/if}
          <CoursePanel {twelve} drill={search.byHand ? null : drill} />
          {#if search.fixes.length >= 2}<ThingPanel {twelve} />{/if}
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
    </div>
  </main>
{/if}

<style>
  .search {
    grid-column: 1 / -1;
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(380px, 36%);
    gap: 12px;
    padding: 10px 14px;
    min-height: 0;
    min-width: 0;
  }

  .walking {
    display: block;
    overflow: auto;
  }

  .left {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr) auto auto;
    gap: 8px;
    min-width: 0;
    min-height: 0;
  }

  .top,
  .foot {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 12px;
  }

  .view {
    display: grid;
    min-width: 0;
    min-height: 0;
  }

  .grow {
    flex: 1;
  }

  .note {
    font-size: 0.92rem;
  }

  .right {
    display: flex;
    flex-direction: column;
    gap: 8px;
    min-height: 0;
    min-width: 0;
    overflow: auto;
  }

  .panel {
    display: grid;
    gap: 12px;
    align-content: start;
    padding: 4px 2px 16px;
  }

  @media (max-width: 760px) {
    .search {
      display: flex;
      flex-direction: column;
      overflow: auto;
      padding: 8px;
    }

    /* What one must know comes first, how it is drawn last. */
    .left {
      display: contents;
    }

    .top,
    .view,
    .right {
      flex: none;
    }

    .view {
      height: min(62dvh, 96vw);
    }

    .right {
      order: 1;
    }

    .foot,
    .note {
      order: 2;
    }

    .right {
      overflow: visible;
    }
  }
</style>
