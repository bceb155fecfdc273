<script lang="ts">
  // Searching for real: three schools in twenty minutes of water, with the heads the scene gives and as few holes as one
  // can; then the truth.
  import { onMount, untrack } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { FanMeasured, ScenesToSearch, SearchKept } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import Sources from "../../lib/controls/Sources.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import type { Measure, Way } from "../../lib/turning/turning";
  import { undo } from "../../lib/undo.svelte";
  import { clock, way as wayOf } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import Drawn from "./Drawn.svelte";
  import { TURN_DEG, turned } from "./fan";
  import FanView from "./FanView.svelte";
  import Handle from "./Handle.svelte";
  import { PACES, real, type SearchHead } from "./real.svelte";
  import RealDebrief from "./RealDebrief.svelte";
  import RealFan from "./RealFan.svelte";
  import Round from "./Round.svelte";
  import SceneList from "./SceneList.svelte";
  import { type Place, search } from "./search.svelte";
  import SetPanel from "./SetPanel.svelte";
  import Spread from "./Spread.svelte";
  import ThingPanel from "./ThingPanel.svelte";
  import Walk from "./Walk.svelte";
  import WatchClock from "./WatchClock.svelte";
  import WaterMap from "./WaterMap.svelte";
  import Where from "./Where.svelte";
  import { clockOf, compassOf, MEASURED, paces } from "./words";

  let { choose }: { choose: (where: Place) => void } = $props();

  let way: Way = $state("round");
  let measure: Measure = $state("water");
  let said = $state("");
  let kept: SearchKept[] = $state.raw([]);
  let told: number | null = $state(null);
  let lines: { depth_m: number; line: number[][] }[] = $state.raw([]);
  let next: { east: number; north: number } | null = $state.raw(null);
  let measured: FanMeasured | null = $state.raw(null);
  let touchedFan = $state(false);

  const address = (id: number) => `#/hole/${world.holeId ?? 0}/search/real/${id}`;
  const look = $derived(real.look);
  const fan = $derived(real.fan);
  const bounds = $derived(real.bounds);
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

  const load = () =>
    attempt(async () => {
      const [, all] = await Promise.all([real.load(), ok(api.GET("/api/searches"))]);
      kept = all.searches;
    });

  onMount(() => {
    const read = () => {
      const [, id] = /\/search\/real\/(\d+)/.exec(location.hash) ?? [];
      told = id === undefined ? null : Number(id);
    };
    read();
    void load();
    window.addEventListener("hashchange", read);
    return () => {
      window.removeEventListener("hashchange", read);
      real.pause();
    };
  });

  $effect(() => search.reckonWith(look));
  $effect(() => {
    const now = look?.now;
    if (now !== undefined && now > 0) untrack(() => search.tick(now));
  });
  $effect(() => {
    const given = real.going?.given;
    if (!given) return;
    const { scene, seed } = given;
    if (lines.length > 0 && mapped === `${scene} ${seed}`) return;
    mapped = `${scene} ${seed}`;
    void attempt(async () => {
      const params = { path: { scene }, query: { seed } };
      ({ lines } = await ok(api.GET("/api/search/scenes/{scene}/map", { params })));
    });
  });
  let mapped = "";
  // The time is up: what was done so far is the search.
  $effect(() => {
    if ((look ?? fan) && real.left <= 0) untrack(() => void finish());
  });

  const begin = (scene: ScenesToSearch["scenes"][number]) => {
    const asked = Number(new URLSearchParams(location.search).get("seed") ?? Number.NaN);
    const seed = Number.isSafeInteger(asked) && asked >= 0 ? asked : Math.floor(Math.random() * 2 ** 31);
    next = null;
    forget();
    real.begin(scene, seed);
  };

  const touch = (bearing: number, range: number) =>
    attempt(async () => {
      const thing = await look?.thing(bearing, range, search.fishDepth);
      if (!thing) return;
      const { bearing_deg, range_m } = thing.fix ?? { bearing_deg: bearing, range_m: range };
      search.touched = { ...thing, bearing: bearing_deg, range: range_m };
    });

  const forget = () => {
    measured = null;
    touchedFan = false;
    search.touched = null;
  };

  const touchFan = (ahead: number, deep: number) =>
    attempt(async () => {
      const found = await fan?.mark(ahead, deep);
      if (!found) return;
      measured = found;
      touchedFan = true;
    });

  function turn(by: number) {
    // What was measured was so where the handle pointed then.
    forget();
    void attempt(async () => fan?.set({ hang: { aim_deg: turned(fan.hang?.aim_deg ?? 0, by) } }));
  }

  function use(head: SearchHead, bearing: number | null = null) {
    forget();
    real.use(head, bearing);
  }

  function key(event: KeyboardEvent) {
    const target = event.target as HTMLElement;
    if (!fan || ["INPUT", "SELECT", "TEXTAREA"].includes(target.tagName) || event.ctrlKey || event.metaKey)
      return;
    const by = { a: -TURN_DEG, d: TURN_DEG }[event.key.toLowerCase()];
    if (by) turn(by);
    const gain = fan.settings?.gain_db ?? 0;
    const up = { g: 1, G: -1 }[event.key];
    if (up) void attempt(() => fan.set({ settings: { gain_db: Math.min(Math.max(gain + up, 0), 70) } }));
  }

  const finish = () =>
    attempt(async () => {
      const id = await real.finish();
      next = null;
      location.hash = address(id);
      await load();
    });

  const remove = (one: SearchKept) =>
    attempt(async () => {
      const params = { path: { search_id: one.id } };
      const gone = await ok(api.DELETE("/api/searches/{search_id}", { params }));
      await undo.kept(`The search of ${one.title} is removed.`, gone, load);
    });

  function pick(east: number, north: number) {
    const most = bounds?.holes_m ?? 58;
    const inside = (value: number) => Math.round(Math.min(Math.max(value, -most), most) * 10) / 10;
    next = { east: inside(east), north: inside(north) };
  }

  const toNext = $derived.by(() => {
    const to = next;
    const here = real.going?.here;
    if (!to || !here) return null;
    const turn = ((Math.atan2(to.east - here.east, to.north - here.north) * 180) / Math.PI + 360) % 360;
    return { ...real.wayTo(to.east, to.north), turn };
  });
  const late = $derived(toNext !== null && toNext.at >= (bounds?.lasts_s ?? 1200));

  function walkThere() {
    if (!next) return;
    const { east, north } = next;
    next = null;
    forget();
    real.go(east, north);
  }
  function markInFan({ fix }: FanMeasured) {
    if (fix) real.mark(fix);
    forget();
  }

  const HEADS: Record<SearchHead, string> = { circle: "All round", fan: "The fan" };
</script>

<svelte:window onkeydown={key} />

{#if told !== null}
  <RealDebrief id={told} back={address(0).replace(/\/0$/, "")} />
{:else if real.walk}
  {@const { away, at, from } = real.walk}
  <main class="plain">
    <Walk {away} takes={at - from} arrive={() => real.arrive()} back={null} />
  </main>
{:else if look || fan}
  <Spread>
    {#snippet head()}
      <p class="figures left" role="timer" data-testid="left">{clock(real.left)} left</p>
      <p class="figures" data-testid="so-far">
        {real.holes.length === 1 ? "1 hole" : `${real.holes.length} holes`}, {wayOf(
          real.walked,
          prefs.system,
        )}
        walked, {real.marks.length} marked
      </p>
      <span class="grow"></span>
      {#if (real.scene?.heads.length ?? 1) > 1}
        <Choice
          name="Which head"
          options={real.scene!.heads.map((value) => ({ value, label: HEADS[value] }))}
          value={real.head}
          choose={(one) => one !== real.head && use(one)}
        />
      {/if}
      <Choice
        name="How fast the water goes"
        options={PACES.map((value) => ({ value, label: `×${value}` }))}
        value={real.pace}
        choose={(pace) => attempt(() => real.faster(pace))}
      />
      <button onclick={finish}>That is all</button>
    {/snippet}
    {#snippet view()}
      {#if look}
        <Round {look} {shown} {touch} truth={null} twelve={0} />
      {:else if fan}
        <div class="picture">
          <FanView {fan} {measured} touch={touchFan} truth={false} />
          <Handle {fan} {turn} />
        </div>
      {/if}
    {/snippet}
    {#snippet foot()}
      {#if look}
        <Drawn {way} {measure} draw={(one) => (way = one)} by={(one) => (measure = one)} />
        <p class="soft">{MEASURED[measure]}</p>
      {:else}
        <p class="soft">
          Ahead is to the right. What the plane does not cross does not show: turn the handle a little, wait,
          and go on.
        </p>
      {/if}
    {/snippet}
    {#snippet side()}
      <Trouble words={said || (look ?? fan)?.message || ""} />
      {#if look}
        <ThingPanel
          twelve={0}
          mark={(fix) => real.mark(fix)}
          aim={real.marksHere ? null : (fix) => use("fan", fix.bearing_deg)}
        />
      {:else if fan}
        {#key fan}
          <RealFan {fan} {measured} touched={touchedFan} mark={markInFan} {attempt} />
        {/key}
      {/if}
      {#if real.marks.length > 0}
        <details>
          <summary>Marked: {real.marks.length}</summary>
          <ol>
            {#each real.marks as mark, k (k)}
              <li>
                <span class="figures"
                  >{k + 1}. at {clock(mark.at_s)}: {clockOf(mark.bearing_deg)}, {wayOf(
                    mark.range_m,
                    prefs.system,
                  )}</span
                >
                <button onclick={() => real.takeBack(k)} aria-label="Take mark {k + 1} back">Take back</button
                >
              </li>
            {/each}
          </ol>
        </details>
      {/if}
      <section class="next">
        <h2>The next hole</h2>
        {#if bounds}
          <WaterMap
            half={bounds.half_m}
            {lines}
            holes={real.holes}
            thick={real.scene?.thickness_deg ?? 16}
            chosen={next}
            choose={pick}
          />
        {/if}
        {#if next && toNext}
          <p data-testid="to-next">
            <strong>{wayOf(toNext.away, prefs.system)} at {clockOf(toNext.turn)}</strong> ({compassOf(
              toNext.turn,
            )}), {paces(toNext.away)}:
            {late
              ? "you would not be ready there before the time is up."
              : `${toNext.drilled ? "drilled already, you look from there" : "walking and drilling, you look from there"} with ${clock((bounds?.lasts_s ?? 1200) - toNext.at)} left.`}
          </p>
          <div class="button-row">
            <button class="primary" disabled={late || toNext.away < 0.5} onclick={walkThere}>
              {toNext.drilled ? "Walk back there" : "Walk there and drill"}
            </button>
            <button onclick={() => (next = null)}>Stay</button>
          </div>
        {:else}
          <p class="soft">Touch the map where you would drill next: pale is what you have looked at.</p>
        {/if}
      </section>
      {#if look}
        <WatchClock />
        <details>
          <summary>Range, gain and depth of the head</summary>
          <SetPanel {look} set={(change) => attempt(async () => look?.set(change))} />
        </details>
      {/if}
    {/snippet}
  </Spread>
{:else}
  <main class="plain">
    <div class="where"><Where where="real" {choose} /></div>
    <Trouble words={said} />
    {#if real.going}
      <section class="goes-on">
        <h2>A search goes on</h2>
        <p>
          {bounds?.scenes.find((one) => one.key === real.going?.given.scene)?.title}: {clock(real.left)} left,
          {real.marks.length} marked. Its clock stands still until you go on.
        </p>
        <div class="button-row">
          {#if real.left > 0}<button class="primary" onclick={() => real.watch()}>Go on</button>{/if}
          <button onclick={finish}>That is all</button>
          <button onclick={() => real.giveUp()}>Give it up</button>
        </div>
      </section>
    {:else if bounds}
      <SceneList {bounds} {kept} {begin} {remove} debrief={address} />
    {/if}
    <Sources of="search" />
  </main>
{/if}

<style>
  .plain {
    grid-column: 1 / -1;
    overflow: auto;
    padding: 10px 14px;
    display: grid;
    gap: 12px;
    align-content: start;
    min-width: 0;
  }

  .where {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 12px;
  }

  .left {
    font-size: 1.6rem;
    font-weight: 700;
  }

  .grow {
    flex: 1;
  }

  .picture {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto;
    gap: 6px;
    min-height: 0;
    min-width: 0;
  }

  .next,
  .goes-on {
    display: grid;
    gap: 6px;
  }

  ol {
    list-style: none;
    margin: 0;
    padding: 0;
  }

  li {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 10px;
  }

  summary {
    min-height: var(--target);
    align-content: center;
    cursor: pointer;
    font-weight: 600;
  }
</style>
