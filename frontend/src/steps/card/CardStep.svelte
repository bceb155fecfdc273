<script lang="ts">
  // Settings for this hole: for one unit, or for everyone in the shelter over it.
  import { onMount } from "svelte";
  import type { Hole } from "../../lib/api/types";
  import { panelOf } from "../../lib/controls/panel";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import { inSight, type Panel, PANELS } from "../../lib/panels";
  import Card from "./Card.svelte";
  import Shelter from "./Shelter.svelte";

  let { hole }: { hole: Hole } = $props();

  const fromAddress = (): Panel<"card"> => {
    const [, tab] = /\/card\/(\w+)/.exec(location.hash) ?? [];
    return PANELS.card.find((one) => one.key === tab)?.key ?? "card";
  };
  let tab: Panel<"card"> = $state(fromAddress());

  onMount(() => {
    const read = () => (tab = fromAddress());
    window.addEventListener("hashchange", read);
    return () => window.removeEventListener("hashchange", read);
  });
</script>

<main class="card-step">
  <Tabs
    id="card"
    label="Settings for"
    tabs={inSight("card", tab)}
    current={tab}
    address={(key) => `#/hole/${hole.id}/card/${key}`}
  />
  <div class="panel" {...panelOf("card", tab)}>
    {#if tab === "card"}<Card {hole} />{:else}<Shelter {hole} />{/if}
  </div>
</main>

<style>
  .card-step {
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
    .card-step {
      display: block;
    }

    .card-step > :global(.tabs) {
      display: none;
    }
  }
</style>
