<script lang="ts">
  // The first step: the water from above and the day before it is fished.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import BothVersions from "../../lib/controls/BothVersions.svelte";
  import { inSight, type Panel, PANELS } from "../../lib/panels";
  import { panelOf } from "../../lib/controls/panel";
  import Sources from "../../lib/controls/Sources.svelte";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { differences } from "../../lib/differences";
  import { prefs } from "../../lib/prefs.svelte";
  import { world } from "../../lib/world.svelte";
  import AlongPanel from "./AlongPanel.svelte";
  import CrewPanel from "./CrewPanel.svelte";
  import Before from "./Before.svelte";
  import DayPanel from "./DayPanel.svelte";
  import Here from "./Here.svelte";
  import LakeMap from "./LakeMap.svelte";
  import LakePanel from "./LakePanel.svelte";
  import { byHand } from "./hand.svelte";
  import NewLake from "./NewLake.svelte";
  import PowerPanel from "./PowerPanel.svelte";
  import PrintSheet from "./PrintSheet.svelte";
  import RigPanel from "./RigPanel.svelte";
  import { trip } from "./trip.svelte";
  import WalkPanel from "./WalkPanel.svelte";

  let part: Panel<"trip"> = $state("day");
  const address = (key: string) => `#/hole/${world.holeId ?? 0}/trip/${key}`;

  onMount(() => {
    const read = () => {
      const [, key] = /\/trip\/(\w+)/.exec(location.hash) ?? [];
      part = PANELS.trip.find((one) => one.key === key)?.key ?? "day";
    };
    read();
    window.addEventListener("hashchange", read);
    return () => window.removeEventListener("hashchange", read);
  });

  const go = (key: Panel<"trip">) => {
    part = key;
    location.hash = address(key);
  };
  let adding = $state(false);
  let said = $state("");

  let drawnIn = prefs.system;
  $effect(() => {
    if (prefs.system === drawnIn) return;
    drawnIn = prefs.system;
    void trip.unitsChanged();
  });

  onMount(() => {
    void trip.load();
    return () => void (trip.saved || trip.keep());
  });

  async function attempt(work: () => Promise<unknown>) {
    said = "";
    try {
      await work();
    } catch (problem) {
      said = words(problem);
    }
  }

  function touched(east: number, north: number) {
    if (trip.tool === "look") return void (byHand.place = { east, north });
    go("lake");
    byHand.place = { east, north };
  }

  const MOST_DRAWN = 2000;
  const shoreDrawn = (line: [number, number][]) =>
    attempt(async () => {
      // A hand that draws slowly leaves more places than a shore needs.
      const step = Math.ceil(line.length / MOST_DRAWN);
      const body = { line: line.filter((_, k) => k % step === 0), detail_m: 2 };
      const { shore_m } = await ok(api.POST("/api/ground/shore", { body }));
      trip.tool = "look";
      await trip.changeLake({ shore_m });
    });

  function finished() {
    adding = false;
    go("day");
  }

  const waiting = $derived(trip.wait.shown);
  const DIFFERS = [
    ["date", "Date"],
    ["begins_min", "From"],
    ["ends_min", "Back"],
    ["species", "Fish"],
    ["season", "Season"],
    ["people", "People"],
    ["holes_each", "Holes at each place"],
    ["places", "Places"],
  ] as const;
  const flat = (day: object) =>
    Object.fromEntries(
      Object.entries(day).map(([name, value]) => [
        name,
        Array.isArray(value) ? `${value.length}` : String(value),
      ]),
    ) as Record<string, string>;
</script>

{#if !trip.ready}
  <main class="trip message">
    <Trouble words={trip.trouble} />
    {#if !trip.trouble}<p>Opening the lake.</p>{/if}
  </main>
{:else if !trip.lake || !trip.day || adding}
  <main class="trip first">
    <NewLake done={finished} back={trip.lake ? () => (adding = false) : null} />
  </main>
{:else}
  <main class="trip">
    <div class="left">
      <div class="top">
        <h1>{trip.lake.name}</h1>
        {#if trip.lakes.length > 1}
          <label class="unseen" for="which-lake">Lake</label>
          <select
            id="which-lake"
            value={trip.lake.id}
            onchange={(event) =>
              attempt(() =>
                trip.open(trip.lakes.find((one) => one.id === Number(event.currentTarget.value))!),
              )}
          >
            {#each trip.lakes as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
          </select>
        {/if}
        <span class="grow"></span>
        <span class="soft" role="status">{trip.saved ? "" : "Keeping the day…"}</span>
        <button class="primary" onclick={() => window.print()}>Print the day</button>
      </div>
      <LakeMap {touched} {shoreDrawn} />
      <Here put={() => go("lake")} />
    </div>
    <div class="right" class:old={waiting}>
      <Trouble words={trip.trouble || said} />
      <Waiting wait={trip.wait} words="Drawing the lake" />
      {#if trip.theirs && trip.day}
        <BothVersions
          what="This day"
          rows={differences(DIFFERS, flat(trip.day), flat(trip.theirs.day))}
          keep={() => attempt(() => trip.keepMine())}
          take={() => attempt(() => trip.takeTheirs())}
        />
      {/if}
      <Before {go} />
      <Tabs id="trip-part" label="The trip" tabs={inSight("trip", part)} current={part} {address} />
      <div class="panel" {...panelOf("trip-part", part)}>
        {#if part === "day"}
          <DayPanel />
        {:else if part === "walk"}
          <WalkPanel />
        {:else if part === "power"}
          <PowerPanel />
        {:else if part === "rig"}
          <RigPanel />
        {:else if part === "along"}
          <AlongPanel />
        {:else if part === "crew"}
          <CrewPanel />
        {:else}
          <LakePanel another={() => (adding = true)} />
        {/if}
        <Sources of="trip" />
      </div>
    </div>
  </main>
  {#key prefs.system}<PrintSheet />{/key}
{/if}

<style>
  .trip {
    grid-column: 1 / -1;
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(400px, 36%);
    gap: 12px;
    padding: 10px 14px;
    min-height: 0;
    min-width: 0;
  }

  .first,
  .message {
    display: block;
    overflow: auto;
  }

  .left {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr) auto auto;
    gap: 6px;
    min-width: 0;
    min-height: 0;
  }

  .top {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 10px;
  }

  .grow {
    flex: 1;
  }

  .right {
    display: flex;
    flex-direction: column;
    min-height: 0;
    min-width: 0;
    overflow: auto;
  }

  .panel {
    display: grid;
    gap: 12px;
    align-content: start;
    padding: 10px 2px 16px;
  }

  @media (max-width: 760px) {
    .trip {
      display: flex;
      flex-direction: column;
      overflow: auto;
      padding: 8px;
    }

    .left,
    .right {
      flex: none;
    }

    .left {
      grid-template-rows: auto min(52dvh, 110vw) auto auto;
    }

    .right {
      overflow: visible;
    }
  }

  @media (max-width: 760px) and (max-height: 520px) {
    .left {
      grid-template-rows: auto 78dvh auto auto;
    }
  }

  @media print {
    .trip {
      display: none;
    }
  }
</style>
