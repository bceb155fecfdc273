<script lang="ts">
  // The settings themselves: line by line, the gain in its window, what would open a closed one, what is not known.
  import type { HoleCard, Said } from "../../lib/api/types";
  import RiseFigures from "../../lib/bore/RiseFigures.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { trim } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import GainBand from "./GainBand.svelte";
  import { NAMES } from "./known";
  import { settingLines } from "./lines";
  import Rows from "./Rows.svelte";

  let {
    made,
    before,
    write,
  }: { made: HoleCard; before: Record<string, string>; write: (one: Said) => string } = $props();

  const costly = $derived(made.unknowns.filter((one) => one.cost_db > 0.5));
</script>

<section class="settings" aria-label="Settings">
  <Rows lines={settingLines(made, prefs.system)} {before} wide />
  <GainBand unit={made.unit} gain={made.settings.gain} gains={made.gains} />
  {#if !made.gains.open}
    <p class="closed">
      No setting shows this lure in quiet water here{made.gains.width_db !== null && made.gains.width_db < 0
        ? `: the window is closed by ${trim(-made.gains.width_db, 1)} dB`
        : ": the window is narrower than one step of the knob"}. The gain above is the least that shows the
      lure.
    </p>
    {#if made.remedies.length > 0}
      <ol class="openings lines" aria-label="What would open the window">
        {#each made.remedies as one, i (i)}
          <li>
            <b class="figures">+{trim(one.gain_db, 1)} dB</b>
            {write(one.what)}{one.opens ? ": opens it" : ""}
          </li>
        {/each}
      </ol>
    {/if}
  {/if}
  {#if world.riseLine && !world.riseOfRun}
    <p data-testid="rise-line">
      Rise line today: <RiseFigures line={world.riseLine} />, from {world.riseLine.fish} fish. Lifting beyond it
      loses them.
    </p>
  {/if}
  {#if costly.length > 0}
    <p class="unknown" data-testid="unknown">
      Not known, and it may cost most: {costly
        .map((one) => `${NAMES[one.name]} (${trim(one.cost_db, 0)} dB; taken as ${one.assumed})`)
        .join(", ")}.
      {made.gains.firm
        ? "The gain is chosen to hold whatever they turn out to be."
        : "No one gain holds whatever they turn out to be."}
    </p>
  {/if}
</section>

<style>
  .closed {
    margin-top: 8px;
    padding: 8px 12px;
    border-left: 6px solid var(--action);
    background: var(--panel);
    font-weight: 600;
  }

  .unknown {
    font-size: 0.92rem;
    color: var(--soft);
  }

  @media print {
    .unknown {
      font-size: 7pt;
      line-height: 1.15;
    }

    .closed {
      padding: 3pt 5pt;
      border: 1pt solid;
      background: none;
      font-size: 7.2pt;
    }
  }
</style>
