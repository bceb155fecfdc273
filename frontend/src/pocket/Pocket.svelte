<script lang="ts">
  // The pocket sheet: one page in a phone, without a program and without a network, for gloves and one hand.
  import Tabs from "../lib/controls/Tabs.svelte";
  import { panelOf } from "../lib/controls/panel";
  import { prefs } from "../lib/prefs.svelte";
  import CallPart from "./CallPart.svelte";
  import CardPart from "./CardPart.svelte";
  import { Chosen } from "./chosen.svelte";
  import DayPart from "./DayPart.svelte";
  import MorePart from "./MorePart.svelte";
  import NotesPart from "./NotesPart.svelte";
  import { Notes } from "./notes.svelte";
  import { Sheet } from "./told";

  const PARTS = [
    { key: "day", name: "Day" },
    { key: "card", name: "Card" },
    { key: "call", name: "Call" },
    { key: "notes", name: "Notes" },
    { key: "more", name: "More" },
  ] as const;
  type Part = (typeof PARTS)[number]["key"];

  // A part may hold nothing that can be focused, and has to be scrolled by keys all the same.
  const focusable = { tabindex: 0 };
  let part: Part = $state("day");
  let sheet: Sheet | null = $state.raw(null);
  let notes: Notes | null = $state.raw(null);
  let chosen: Chosen | null = $state.raw(null);
  let trouble = $state("");

  Sheet.read().then(
    (read) => {
      if (!localStorageHas("hollow-glint units")) prefs.setSystem(read.told.units);
      sheet = read;
      notes = new Notes(read.told);
      chosen = new Chosen(read);
    },
    () => (trouble = "This sheet cannot be read: it is cut short, or this browser is too old. Make it anew."),
  );

  function localStorageHas(key: string): boolean {
    try {
      return localStorage.getItem(key) !== null;
    } catch {
      return false;
    }
  }

  $effect(() => {
    document.documentElement.dataset["theme"] = prefs.theme;
  });
</script>

<div class="pocket">
  {#if sheet && notes && chosen}
    <header>
      <h1>{sheet.told.lake.name} <small>{sheet.told.day.date}</small></h1>
      <button
        aria-label={prefs.system === "feet" ? "Units: ft; turn to metres" : "Units: m; turn to feet"}
        onclick={() => prefs.setSystem(prefs.system === "feet" ? "metric" : "feet")}
        >{prefs.system === "feet" ? "ft" : "m"}</button
      >
      <button
        aria-label={prefs.theme === "rime" ? "Day colours; turn to night" : "Night colours; turn to day"}
        onclick={() => prefs.setTheme(prefs.theme === "rime" ? "lantern" : "rime")}
        >{prefs.theme === "rime" ? "Day" : "Night"}</button
      >
    </header>
    <main>
      <div {...panelOf("part", part)} {...focusable}>
        {#if notes.trouble}<p class="trouble" role="alert">{notes.trouble}</p>{/if}
        {#if part === "day"}<DayPart {sheet} {notes} {chosen} />
        {:else if part === "card"}<CardPart {sheet} {chosen} />
        {:else if part === "call"}<CallPart {sheet} {chosen} />
        {:else if part === "notes"}<NotesPart {sheet} {notes} {chosen} />
        {:else}<MorePart {sheet} {chosen} />{/if}
      </div>
    </main>
    <nav>
      <Tabs id="part" label="Parts of the sheet" tabs={PARTS} current={part} choose={(to) => (part = to)} />
    </nav>
  {:else}
    <p class="trouble" role="status">{trouble || "Unfolding the sheet."}</p>
  {/if}
</div>

<style>
  :global(#sheet) {
    height: 100%;
  }

  .pocket {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr) auto;
    grid-template-columns: minmax(0, 1fr);
    height: 100%;
    max-width: 720px;
    margin: 0 auto;
  }

  header {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 6px 12px;
    border-bottom: 1.5px solid var(--line);
  }

  h1 {
    flex: 1;
    line-height: 1.15;
  }

  small {
    display: block;
    font-size: 0.9rem;
    font-weight: 400;
    color: var(--soft);
  }

  main {
    overflow-y: auto;
    padding: 12px 12px 24px;
  }

  nav {
    border-top: 1.5px solid var(--line);
    background: var(--panel);
  }

  nav :global(.tabs) {
    display: grid;
    grid-template-columns: repeat(5, 1fr);
  }

  .trouble {
    padding: 10px 12px;
    border-left: 6px double var(--stop);
    background: var(--panel);
  }
</style>
