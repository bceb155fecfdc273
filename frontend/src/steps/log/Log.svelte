<script lang="ts">
  // The Log: the outings, what they teach, where to go next, this hole, and everything in and out.
  import { onMount } from "svelte";
  import type { Hole } from "../../lib/api/types";
  import { panelOf } from "../../lib/controls/panel";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import { inSight, type Panel, PANELS } from "../../lib/panels";
  import Files from "./Files.svelte";
  import HoleCore from "./HoleCore.svelte";
  import OutingPage from "./OutingPage.svelte";
  import Outings from "./Outings.svelte";
  import Teaches from "./Teaches.svelte";
  import WhereNext from "./WhereNext.svelte";

  let { hole }: { hole: Hole } = $props();

  type Place = { tab: Panel<"log">; outing: number | null };
  // The address is #/hole/ID/log/TAB, or /log/outings/ID for one outing, so that it can be kept.
  const fromAddress = (): Place => {
    const [, tab, outing] = /\/log\/(\w+)(?:\/(\d+))?/.exec(location.hash) ?? [];
    return {
      tab: PANELS.log.find((one) => one.key === tab)?.key ?? "outings",
      outing: outing ? Number(outing) : null,
    };
  };
  let place: Place = $state(fromAddress());

  onMount(() => {
    const read = () => (place = fromAddress());
    window.addEventListener("hashchange", read);
    return () => window.removeEventListener("hashchange", read);
  });

  const address = (tab: string) => `#/hole/${hole.id}/log/${tab}`;
</script>

<main class="log">
  <h1 class="unseen">The log</h1>
  <Tabs id="log" label="Log" tabs={inSight("log", place.tab)} current={place.tab} {address} />
  <div class="panel" {...panelOf("log", place.tab)}>
    {#if place.tab === "outings" && place.outing !== null}
      {#key place.outing}<OutingPage id={place.outing} all={address("outings")} />{/key}
    {:else if place.tab === "outings"}
      <Outings open={(id) => address(`outings/${id}`)} />
    {:else if place.tab === "teaches"}
      <Teaches />
    {:else if place.tab === "next"}
      <WhereNext />
    {:else if place.tab === "hole"}
      {#key hole.id}<HoleCore {hole} />{/key}
    {:else}
      <Files />
    {/if}
  </div>
</main>

<style>
  .log {
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

  @media print {
    .log {
      display: block;
    }
  }
</style>
