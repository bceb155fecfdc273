<script lang="ts">
  // The strike: runs to play, the cadence lab, and a sheet for the ice.
  import { onMount } from "svelte";
  import { inSight, type Panel, PANELS } from "../../lib/panels";
  import { panelOf } from "../../lib/controls/panel";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import type { Hole, RunWanted } from "../../lib/api/types";
  import Debrief from "./Debrief.svelte";
  import Lab from "./Lab.svelte";
  import Play from "./Play.svelte";
  import Runs from "./Runs.svelte";
  import Sheet from "./Sheet.svelte";

  let { hole }: { hole: Hole } = $props();

  type Place = { tab: Panel<"strike">; run: number | null };
  // The address is #/hole/ID/strike/TAB, or /strike/runs/ID for a debrief, so that it can be kept.
  const fromAddress = (): Place => {
    const [, tab, run] = /\/strike\/(\w+)(?:\/(\d+))?/.exec(location.hash) ?? [];
    return {
      tab: PANELS.strike.find((one) => one.key === tab)?.key ?? "runs",
      run: run ? Number(run) : null,
    };
  };
  let place: Place = $state(fromAddress());
  let playing = $state<RunWanted | null>(null);

  onMount(() => {
    const read = () => {
      place = fromAddress();
      playing = null;
    };
    window.addEventListener("hashchange", read);
    return () => window.removeEventListener("hashchange", read);
  });

  const address = (tab: string) => `#/hole/${hole.id}/strike/${tab}`;

  function over(id: number) {
    playing = null;
    if (place.run === id) return;
    location.hash = address(`runs/${id}`);
  }
</script>

{#if playing}
  {#key playing}
    <Play wanted={playing} {over} leave={() => (playing = null)} />
  {/key}
{:else}
  <main class="strike">
    <h1 class="unseen">The strike</h1>
    <Tabs id="strike" label="Strike" tabs={inSight("strike", place.tab)} current={place.tab} {address} />
    <div class="panel" {...panelOf("strike", place.tab)}>
      {#if place.tab === "runs" && place.run !== null}
        {#key place.run}
          <Debrief id={place.run} play={(wanted) => (playing = wanted)} all={address("runs")} />
        {/key}
      {:else if place.tab === "runs"}
        <Runs {hole} play={(wanted) => (playing = wanted)} debrief={(id) => address(`runs/${id}`)} />
      {:else if place.tab === "lab"}
        <Lab {hole} />
      {:else}
        <Sheet {hole} />
      {/if}
    </div>
  </main>
{/if}

<style>
  .strike {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    min-height: 0;
    min-width: 0;
  }

  .panel {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    min-height: 0;
  }
</style>
