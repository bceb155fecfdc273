<script lang="ts">
  // The frame: steps along the top in working order, the bore down the left edge, one step's screen in between.
  import Moon from "@lucide/svelte/icons/moon";
  import Sun from "@lucide/svelte/icons/sun";
  import { onMount } from "svelte";
  import Bore from "./lib/bore/Bore.svelte";
  import UndoBar from "./lib/controls/UndoBar.svelte";
  import { listed } from "./lib/listed";
  import { toPage } from "./lib/overlay/focus";
  import { prefs } from "./lib/prefs.svelte";
  import { world } from "./lib/world.svelte";
  import Settings from "./Settings.svelte";
  import HoleChooser from "./HoleChooser.svelte";
  import Steps from "./Steps.svelte";

  $effect(() => {
    document.documentElement.dataset.theme = prefs.theme;
  });

  // Today's rise line belongs to the hole that is chosen.
  $effect(() => {
    if (world.ready && world.holeId !== null) void world.loadRiseLine();
  });

  /** Whether the first hole is written down in full. */
  let wholeForm = $state(false);

  // A step's page is fetched when it is opened, so that the first one is there soon; the rest when there is time.
  const PAGES = {
    welcome: () => import("./steps/hole/Welcome.svelte"),
    bench: () => import("./steps/bench/Bench.svelte"),
    card: () => import("./steps/card/CardStep.svelte"),
    gear: () => import("./steps/gear/Gear.svelte"),
    hole: () => import("./steps/hole/Hole.svelte"),
    log: () => import("./steps/log/Log.svelte"),
    search: () => import("./steps/search/Search.svelte"),
    read: () => import("./steps/read/Read.svelte"),
    strike: () => import("./steps/strike/Strike.svelte"),
    trip: () => import("./steps/trip/Trip.svelte"),
  };
  /** Steps that look at the water from above: no section of one hole stands beside them. */
  const FROM_ABOVE: readonly string[] = ["trip", "search"];
  const WHEN_IDLE_MS = 4000;

  onMount(() => {
    const rest = window.setTimeout(() => {
      for (const page of Object.values(PAGES)) page().catch(() => undefined); // asked for again when it is opened
    }, WHEN_IDLE_MS);
    void world.load();
    const read = () => world.readAddress();
    window.addEventListener("hashchange", read);
    return () => {
      window.clearTimeout(rest);
      window.removeEventListener("hashchange", read);
    };
  });
</script>

{#snippet notThere()}
  <main class="message">
    <h1>This page could not be fetched</h1>
    <p>The program has stopped, or was renewed since this tab was opened.</p>
    <button class="primary" onclick={() => location.reload()}>Load it anew</button>
  </main>
{/snippet}

<div class="frame">
  <header>
    <button class="skip" onclick={toPage}>Skip to the page</button>
    <p class="name">Hollow Glint</p>
    <Steps />
    <div class="chooser">
      {#if world.holes.length > 0}
        <HoleChooser />
      {/if}
      <button
        class="toggle figures"
        onclick={() => prefs.setSystem(prefs.system === "feet" ? "metric" : "feet")}
        aria-label={prefs.system === "feet" ? "Units: ft. Change to metres" : "Units: m. Change to feet"}
      >
        {prefs.system === "feet" ? "ft" : "m"}
      </button>
      <button
        class="toggle"
        onclick={() => prefs.setTheme(prefs.theme === "rime" ? "lantern" : "rime")}
        aria-label={prefs.theme === "rime" ? "Theme: day. Change to night" : "Theme: night. Change to day"}
      >
        {#if prefs.theme === "rime"}<Sun size={20} aria-hidden="true" />{:else}<Moon
            size={20}
            aria-hidden="true"
          />{/if}
      </button>
      <Settings />
    </div>
  </header>

  <div class="body">
    {#if world.trouble}
      <main class="message">
        <h1>The program does not answer</h1>
        <p>{world.trouble}</p>
        <button class="primary" onclick={() => world.load()}>Try again</button>
      </main>
    {:else if !world.ready}
      <main class="message"><p>Opening the hole.</p></main>
    {:else}
      {#if !world.lost && !world.pictured && !FROM_ABOVE.includes(world.step) && world.holes.length + (wholeForm ? 1 : 0) > 0}
        <div class="spine" class:needed={world.step === "hole"}><Bore /></div>
      {/if}
      {#if world.lost}
        <main class="message">
          <h1>Hole {world.lost} is not here</h1>
          <p>It was removed, or the address is of another data folder. Choose one of your holes.</p>
          <ul class="choices">
            {#each listed(world.holes, null) as hole (hole.id)}
              <li><a class="button" href="#/hole/{hole.id}/{world.step}">{hole.name}</a></li>
            {/each}
          </ul>
        </main>
      {:else if world.holes.length === 0 && !wholeForm && world.needsHole}
        {#await PAGES.welcome() then { default: Welcome }}
          <Welcome whole={() => (wholeForm = true)} />
        {:catch}{@render notThere()}{/await}
      {:else if world.step === "trip"}
        {#await PAGES.trip() then { default: Trip }}<Trip />{:catch}{@render notThere()}{/await}
      {:else if world.step === "search"}
        {#await PAGES.search() then { default: Search }}<Search />{:catch}{@render notThere()}{/await}
      {:else if world.step === "bench" && (world.hole || world.practice?.kind === "drilled")}
        {#await PAGES.bench() then { default: Bench }}
          {#key `${world.holeId} ${JSON.stringify(world.practice)}`}
            <Bench hole={world.hole} practice={world.practice} />
          {/key}
        {:catch}{@render notThere()}{/await}
      {:else if world.step === "card" && world.hole}
        {#await PAGES.card() then { default: CardStep }}
          {#key world.hole.id}<CardStep hole={world.hole} />{/key}
        {:catch}{@render notThere()}{/await}
      {:else if world.step === "read" && world.hole}
        {#await PAGES.read() then { default: Read }}
          {#key world.hole.id}<Read hole={world.hole} />{/key}
        {:catch}{@render notThere()}{/await}
      {:else if world.step === "strike" && world.hole}
        {#await PAGES.strike() then { default: Strike }}
          {#key world.hole.id}<Strike hole={world.hole} />{/key}
        {:catch}{@render notThere()}{/await}
      {:else if world.step === "gear"}
        {#await PAGES.gear() then { default: Gear }}<Gear />{:catch}{@render notThere()}{/await}
      {:else if world.step === "log" && world.hole}
        {#await PAGES.log() then { default: Log }}<Log
            hole={world.hole}
          />{:catch}{@render notThere()}{/await}
      {:else}
        {#await PAGES.hole() then { default: HoleStep }}<HoleStep />{:catch}{@render notThere()}{/await}
      {/if}
    {/if}
  </div>
  <UndoBar />
</div>

<style>
  .choices {
    display: grid;
    gap: 8px;
    padding: 0;
    list-style: none;
  }

  /* Seen only while the keyboard is on it. */
  .skip {
    position: absolute;
    left: 8px;
    top: 4px;
    z-index: 10;
  }

  .skip:not(:focus-visible) {
    width: 1px;
    min-width: 0;
    height: 1px;
    min-height: 0;
    padding: 0;
    overflow: hidden;
    clip-path: inset(50%);
  }

  .frame :global(main:focus) {
    outline: none;
  }

  .frame {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr) auto;
    height: 100dvh;
  }

  header {
    display: flex;
    align-items: center;
    gap: 20px;
    padding: 4px 16px;
    border-bottom: 1.5px solid var(--line);
    background: var(--panel);
    min-width: 0;
  }

  .name {
    font-weight: 700;
    font-size: 1.05rem;
    white-space: nowrap;
  }

  .chooser {
    display: flex;
    gap: 8px;
    align-items: center;
    min-width: 0;
  }

  .toggle {
    display: grid;
    place-items: center;
    padding: 0 8px;
  }

  .body {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    min-height: 0;
    position: relative; /* or what is placed absolutely within would lengthen the page */
    overflow: clip; /* not hidden: what is hidden can still be scrolled to, and the foot would leave its place */
  }

  .spine {
    min-height: 0;
  }

  /* Where a picture of the column stands, the bore is its first column and takes no place of its own. */
  .body > :global(main) {
    grid-column: 2;
  }

  .body > .message {
    grid-column: 1 / -1;
    display: grid;
    align-content: center;
    justify-items: center;
    gap: 12px;
    padding: 24px;
  }

  @media print {
    .frame {
      display: block;
      height: auto;
    }

    header,
    .spine {
      display: none;
    }

    .body {
      display: block;
    }
  }

  @media (max-width: 920px) {
    .name {
      display: none;
    }
  }

  @media (max-width: 760px) {
    .frame {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: auto minmax(0, 1fr) auto auto;
    }

    header {
      display: contents;
    }

    .name {
      display: none;
    }

    .chooser {
      grid-row: 1;
      justify-content: end;
      padding: 4px 8px;
      border-bottom: 1.5px solid var(--line);
      background: var(--panel);
    }

    .body {
      grid-row: 2;
    }

    .frame > :global(.undo) {
      grid-row: 3;
    }

    /* Where it says nothing that is not on the page, it takes no width. */
    .spine:not(.needed) {
      display: none;
    }
  }
</style>
