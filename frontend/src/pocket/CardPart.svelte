<script lang="ts">
  // The hole card for a depth: the gain largest, then every knob; and what to turn when the light goes.
  import { prefs } from "../lib/prefs.svelte";
  import { sentence, timeOfDay, trim } from "../lib/units";
  import Rows from "../steps/card/Rows.svelte";
  import { numberLines, settingLines } from "../steps/card/lines";
  import type { Chosen } from "./chosen.svelte";
  import Choices from "./Choices.svelte";
  import Depth from "./Depth.svelte";
  import type { Sheet } from "./told";

  let { sheet, chosen }: { sheet: Sheet; chosen: Chosen } = $props();

  const there = $derived(chosen.card);
  const sun = $derived(sheet.told.plan.sun);
  const when = $derived<Record<string, number | null>>({ dusk: sun.sunset_min, night: sun.dusk_min });
  const later = $derived(
    chosen.lights.flatMap(({ light, card }) => {
      if (light === "day" || !card || !there) return [];
      const at = when[light] ?? null;
      const gain = trim(card.card.settings.gain, 1);
      return [
        `${light === "dusk" ? "Dusk" : "Dark"}${at === null ? "" : `, ${timeOfDay(at)}`}: gain ${gain}`,
      ];
    }),
  );
</script>

<Depth {sheet} {chosen} />
<Choices {sheet} {chosen} />
{#if there}
  <section data-testid="pocket-card" aria-label="The card">
    <p class="gain">Gain <b class="figures">{trim(there.card.settings.gain, 1)}</b></p>
    {#if later.length > 0}<p class="later">{later.join(". ")}.</p>{/if}
    {#if !there.card.gains.open}
      <p class="closed">
        {there.said.length > 0
          ? "No gain shows this lure and keeps the water dark. What helps, most first:"
          : "The window is closed."}
        {#each there.said as one, k (k)}<span>{sentence(one.text, one.values, prefs.system)}</span>{/each}
      </p>
    {/if}
    <Rows lines={settingLines(there.card, prefs.system).filter((one) => one.key !== "gain")} />
    <details>
      <summary>The numbers behind it</summary>
      <Rows lines={numberLines(there.card, prefs.system)} />
    </details>
  </section>
{:else}
  <p class="closed" role="status">
    No card: this unit does not reach so deep, or the ice leaves no water to fish.
  </p>
{/if}

<style>
  .gain {
    font-size: 1.4rem;
  }

  .gain b {
    font-size: 3rem;
    line-height: 1;
  }

  .later {
    font-weight: 700;
  }

  .closed {
    padding: 6px 10px;
    border-left: 6px double var(--stop);
    background: var(--panel);
  }

  .closed span {
    display: block;
  }
</style>
