<script lang="ts">
  // Reading the marks: a call sheet for the ice, drills for the eye, recordings to go back to.
  import { onMount } from "svelte";
  import type { Hole } from "../../lib/api/types";
  import CallSheet from "./CallSheet.svelte";
  import Drills from "./Drills.svelte";
  import Recordings from "./Recordings.svelte";

  let { hole }: { hole: Hole } = $props();

  const TABS = [
    { key: "sheet", name: "Call sheet" },
    { key: "drills", name: "Drills" },
    { key: "recordings", name: "Recordings" },
  ] as const;
  type Tab = (typeof TABS)[number]["key"];
  // The address is #/hole/ID/read/TAB, so that it can be kept.
  const fromAddress = (): Tab => {
    const [, tab] = /\/read\/(\w+)/.exec(location.hash) ?? [];
    return TABS.find((one) => one.key === tab)?.key ?? "sheet";
  };
  let tab: Tab = $state(fromAddress());

  onMount(() => {
    const read = () => (tab = fromAddress());
    window.addEventListener("hashchange", read);
    return () => window.removeEventListener("hashchange", read);
  });
</script>

<main class="read">
  <h1 class="unseen">Read the marks</h1>
  <nav class="tabs" aria-label="Read">
    {#each TABS as one (one.key)}
      <a href="#/hole/{hole.id}/read/{one.key}" aria-current={tab === one.key ? "page" : undefined}
        >{one.name}</a
      >
    {/each}
  </nav>
  {#if tab === "sheet"}
    <CallSheet {hole} />
  {:else if tab === "drills"}
    <Drills />
  {:else}
    <Recordings {hole} />
  {/if}
</main>

<style>
  .read {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    min-height: 0;
    min-width: 0;
  }

  .tabs {
    display: flex;
    border-bottom: 1.5px solid var(--line);
    background: var(--panel);
  }

  .tabs a {
    display: grid;
    place-items: center;
    min-height: var(--target);
    padding: 0 18px;
    color: var(--ink);
    text-decoration: none;
    border-bottom: 4px solid transparent;
  }

  .tabs a[aria-current="page"] {
    font-weight: 700;
    border-bottom-color: var(--action);
  }

  @media (max-width: 760px) {
    .tabs a {
      flex: 1;
      padding: 0 4px;
    }
  }
</style>
