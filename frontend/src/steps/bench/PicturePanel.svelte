<script lang="ts">
  // How the echo is painted: pictures, ladder, light, scroll; holding it still; the drawn helps.
  import type { PictureKind, Profile, Settings, Tuning } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import ListKnob from "../../lib/controls/ListKnob.svelte";
  import { css, ladderColours } from "../../lib/picture/ladder";
  import { prefs } from "../../lib/prefs.svelte";
  import { trim } from "../../lib/units";

  let {
    unit,
    settings,
    tuning,
    views,
    held,
    pings,
    change,
    hold,
  }: {
    unit: Profile;
    settings: Settings;
    tuning: Tuning | null;
    views: readonly PictureKind[];
    held: number | null;
    pings: number;
    change: (change: Partial<Settings>) => void;
    hold: (back: number | null) => void;
  } = $props();

  const NAMES: Record<PictureKind, string> = { strip: "Strip", trace: "Trace", ring: "Ring" };
  const kinds = $derived(unit.pictures.map((value) => ({ value, label: NAMES[value] })));
  const seconds = $derived([...kinds, { value: "none" as const, label: "None" }]);
  const ladder = $derived(unit.ladders[settings.ladder]!);
  const colours = $derived(ladderColours(ladder, prefs.theme, unit.brightness[settings.light] ?? 1).map(css));
</script>

<section class="stack">
  <h2>Pictures</h2>
  <Choice
    name="First picture"
    options={kinds}
    value={views[0]!}
    choose={(kind) => prefs.setPictures(kind, views[1] ?? "none")}
  />
  <Choice
    name="Second picture"
    options={seconds}
    value={views[1] ?? "none"}
    choose={(kind) => prefs.setPictures(views[0]!, kind)}
  />
</section>
<section class="stack">
  <h2>Hold it still</h2>
  {#if held === null}
    <button onclick={() => hold(0)}>Freeze</button>
  {:else}
    <div class="held">
      <button onclick={() => hold(Math.min(held + 20, pings - 1))} aria-label="Back twenty pings">−20</button>
      <button onclick={() => hold(Math.min(held + 1, pings - 1))} aria-label="Back one ping">−1</button>
      <button onclick={() => hold(Math.max(held - 1, 0))} aria-label="On one ping">+1</button>
      <button onclick={() => hold(Math.max(held - 20, 0))} aria-label="On twenty pings">+20</button>
      <button class="primary resume" onclick={() => hold(null)}>Resume</button>
    </div>
    <p class="does">
      Held <b class="figures" data-testid="held">{held}</b> pings back, of {pings} remembered (five minutes at most).
    </p>
  {/if}
</section>
<section class="stack">
  <ListKnob
    name="Ladder"
    options={unit.ladders.map((one) => one.name)}
    at={settings.ladder}
    choose={(at) => change({ ladder: at })}
    testid="ladder"
  />
  <ol class="steps" aria-label="Steps of the ladder, weakest first">
    {#each ladder.steps as step, i (step.name)}
      <li><span class="swatch" style:background={colours[i + 1]}></span>{step.name}</li>
    {/each}
  </ol>
  {#if unit.brightness.length > 1}
    <ListKnob
      name="Screen light"
      options={unit.brightness.map((share) => `${Math.round(100 * share)} %`)}
      at={settings.light}
      choose={(light) => change({ light })}
      does={tuning
        ? `The unit draws ${trim(tuning.draw_a, 2)} A: ${trim(7 / tuning.draw_a, 0)} hours on a fresh 7 Ah battery, fewer in the cold.`
        : ""}
    />
  {/if}
  {#if unit.scroll_speeds.length > 1}
    <ListKnob
      name="Scroll speed"
      options={unit.scroll_speeds.map((speed) => `${speed} a ping`)}
      at={settings.scroll}
      choose={(scroll) => change({ scroll })}
    />
  {/if}
</section>
<section class="pair">
  <button aria-pressed={prefs.grid} onclick={() => prefs.setGrid(!prefs.grid)}>Depth grid</button>
  <button aria-pressed={prefs.tails} onclick={() => prefs.setTails(!prefs.tails)}>Fading tails</button>
</section>

<style>
  .stack {
    display: grid;
    gap: 6px;
  }

  .held {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    gap: 6px;
  }

  .held button {
    padding: 0;
  }

  .held .resume {
    grid-column: 1 / -1;
  }

  .does {
    font-size: 0.86rem;
    color: var(--soft);
  }

  .steps {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 10px;
    margin: 0;
    padding: 0;
    list-style: none;
    font-size: 0.88rem;
  }

  .steps li {
    display: flex;
    gap: 5px;
    align-items: center;
  }

  .swatch {
    width: 18px;
    height: 14px;
    border: 1px solid var(--ink);
  }

  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6px;
  }
</style>
