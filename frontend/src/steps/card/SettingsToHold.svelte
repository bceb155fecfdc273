<script lang="ts">
  // The settings themselves: line by line, the gain in its window, what would open a closed one, what is not known.
  import type { HoleCard, Said } from "../../lib/api/types";
  import RiseFigures from "../../lib/bore/RiseFigures.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length, trim } from "../../lib/units";
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
  // Height off the bottom is what travels from one depth to another, and only as a guess; where it has no room, nothing.
  const there = $derived(world.hole?.bottom_depth_m ?? 0);
  const sameDepth = $derived(Math.abs(there - made.numbers.true_depth_m) < 0.5);
  const rise = $derived.by(() => {
    const line = world.riseLine;
    if (!line || there === 0) return null;
    const here = made.numbers.true_depth_m - (there - line.depth_m);
    return sameDepth || here > made.face_depth_m + 0.3 ? line : null;
  });
</script>

<section class="settings" aria-label="Settings">
  <Rows lines={settingLines(made, prefs.system)} {before} wide />
  <GainBand unit={made.unit} gain={made.settings.gain} gains={made.gains} />
  {#if !made.gains.open}
    <p class="closed">
      No setting shows this lure in quiet water here{made.gains.width_db !== null && made.gains.width_db < 0
        ? `: the window is closed by ${trim(-made.gains.width_db, 1)} dB`
        : ": the window is narrower than one step of the knob"}. At the gain above most is to be seen of the
      lure for what lights up.
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
  {#if rise}
    <p data-testid="rise-line">
      {#if sameDepth}
        Rise line in the last hours: <RiseFigures line={rise} />, from {rise.fish} fish. Lifting beyond it loses
        them.
      {:else}
        Over {depth(there, prefs.system)} of water {rise.fish} fish came to {length(
          there - rise.depth_m,
          prefs.system,
        )} off the bottom in the last hours. If they keep that height here, their line is about
        <b class="figures">{depth(made.numbers.true_depth_m - (there - rise.depth_m), prefs.system)}</b>; it
        is a guess until fish have come here.
      {/if}
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
