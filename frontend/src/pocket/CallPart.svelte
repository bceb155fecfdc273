<script lang="ts">
  // The call sheet: where a mark stands and what it looks like, and what it can be, likeliest first.
  import Choice from "../lib/controls/Choice.svelte";
  import Measured from "../lib/controls/Measured.svelte";
  import { prefs } from "../lib/prefs.svelte";
  import { deepMeasure, depth, small, trim } from "../lib/units";
  import { callsOf, type Mark } from "./calls";
  import type { Chosen } from "./chosen.svelte";
  import Choices from "./Choices.svelte";
  import Depth from "./Depth.svelte";
  import type { Sheet } from "./told";

  let { sheet, chosen }: { sheet: Sheet; chosen: Chosen } = $props();

  const { touches, depths } = $derived(sheet.told.cards);
  const there = $derived(chosen.card);
  const ladder = $derived(there ? there.card.unit.ladders[there.card.settings.ladder]!.steps : []);
  const deepest = $derived(
    there ? sheet.shape(chosen.c, chosen.nearest.k)[1] * depths.step_m : depths.step_m,
  );
  let shown: number | null = $state(null);
  const shown_m = $derived(Math.min(shown ?? there?.lureShown_m ?? 1, deepest));
  let colour = $state(0);
  const step = $derived(Math.min(colour || Math.ceil(ladder.length / 2), Math.max(ladder.length, 1)));
  let look: Omit<Mark, "shown_m" | "colour"> = $state({
    thickness: "as the lure",
    motion: "still",
    change: "steady",
    near: "open water",
    bottom: null,
  });

  const AXES = [
    { key: "motion", name: "How it moves" },
    { key: "thickness", name: "How thick it is" },
    { key: "change", name: "Its colour is" },
    { key: "near", name: "Where it stands" },
  ] as const;
  const seen = $derived({ ...look, shown_m, colour: step });
  const calls = $derived(there ? callsOf(sheet, chosen.c, chosen.nearest.k, seen) : []);
  const listed = (words: readonly string[]) => words.map((value) => ({ value, label: value }));
</script>

<Depth {sheet} {chosen} />
{#if there}
  <section class="answer" aria-label="What it can be" data-testid="pocket-calls" aria-live="polite">
    {#each calls.slice(0, 4) as one, n (one.kind)}
      <div class="call" class:first={n === 0}>
        <p><b>{one.kind}</b> <span class="figures">{trim(100 * one.chance, 0)} %</span></p>
        {#if n === 0}
          <p class="do">{one.do}</p>
          {#if one.fish}
            <p>
              {small(one.fish.shortest_m, prefs.system)} to {small(one.fish.longest_m, prefs.system)} long, up to
              {depth(one.fish.aside_m, prefs.system)} aside.
            </p>
          {/if}
          {#if one.because}<p class="soft">{one.because}</p>{/if}
        {/if}
      </div>
    {:else}<p>That lies off the scale of this card.</p>{/each}
  </section>
  <Measured
    id="shown"
    name="The mark shows at"
    measure={deepMeasure(1)}
    value={shown_m}
    low={depths.step_m}
    high={deepest}
    change={(value) => (shown = value)}
  />
  <p class="soft">
    As the unit shows it, from the transducer. The lure shows at {depth(there.lureShown_m, prefs.system)}, the
    bottom at
    {depth(there.card.numbers.displayed_depth_m, prefs.system)}.
  </p>
  <h2>Its strongest colour</h2>
  <Choice
    name="Its strongest colour"
    options={ladder.map((one, n) => ({ value: n + 1, label: one.name }))}
    value={step}
    choose={(to) => (colour = to)}
  />
  {#each AXES as { key, name } (key)}
    <h2>{name}</h2>
    <Choice
      {name}
      options={listed(touches.axes[key])}
      value={look[key]}
      choose={(to) => (look = { ...look, [key]: to })}
    />
  {/each}
  <h2>The bottom looks</h2>
  <Choice
    name="The bottom looks"
    options={[{ value: "", label: "not looked" }, ...listed(touches.bottoms)]}
    value={look.bottom ?? ""}
    choose={(to) => (look = { ...look, bottom: to === "" ? null : to })}
  />
{/if}
<Choices {sheet} {chosen} />

<style>
  .answer {
    display: grid;
    gap: 4px;
    margin: 10px 0;
  }

  .call {
    padding: 4px 10px;
    border-left: 6px solid var(--line);
    background: var(--panel);
  }

  .call.first {
    border-left-color: var(--action);
    font-size: 1.15rem;
  }

  .call b::first-letter {
    text-transform: uppercase;
  }

  .do {
    font-weight: 700;
  }

  h2 {
    margin-top: 10px;
  }
</style>
