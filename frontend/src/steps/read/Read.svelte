<script lang="ts">
  // Reading the marks: a call sheet for the ice, drills for the eye, recordings to go back to, photos of one's own screen.
  import { onMount } from "svelte";
  import { inSight, type Panel, PANELS } from "../../lib/panels";
  import { panelOf } from "../../lib/controls/panel";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import type { Hole } from "../../lib/api/types";
  import CallSheet from "./CallSheet.svelte";
  import Drills from "./Drills.svelte";
  import PhotoPanel from "./photo/PhotoPanel.svelte";
  import Recordings from "./Recordings.svelte";

  let { hole }: { hole: Hole } = $props();

  // The address is #/hole/ID/read/TAB, so that it can be kept.
  const fromAddress = (): Panel<"read"> => {
    const [, tab] = /\/read\/(\w+)/.exec(location.hash) ?? [];
    return PANELS.read.find((one) => one.key === tab)?.key ?? "sheet";
  };
  let tab: Panel<"read"> = $state(fromAddress());

  onMount(() => {
    const read = () => (tab = fromAddress());
    window.addEventListener("hashchange", read);
    return () => window.removeEventListener("hashchange", read);
  });
</script>

<main class="read">
  <h1 class="unseen">Read the marks</h1>
  <Tabs
    id="read"
    label="Read"
    tabs={inSight("read", tab)}
    current={tab}
    address={(key) => `#/hole/${hole.id}/read/${key}`}
  />
  <div class="panel" {...panelOf("read", tab)}>
    {#if tab === "sheet"}
      <CallSheet {hole} />
    {:else if tab === "drills"}
      <Drills />
    {:else if tab === "photo"}
      <PhotoPanel {hole} />
    {:else}
      <Recordings {hole} />
    {/if}
  </div>
</main>

<style>
  .read {
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
