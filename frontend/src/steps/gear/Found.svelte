<script lang="ts">
  // What the readings say of a unit, how sure that is, and where one more would tell most.
  import type { Fit, Unit } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence, trim } from "../../lib/units";
  import FitPlot from "./FitPlot.svelte";

  let { found, unit, gains, use }: { found: Fit; unit: Unit; gains: number[]; use: () => Promise<void> } =
    $props();

  const NAMES: Record<string, string> = {
    db_per_step: "dB per gain step",
    colour_step_db: "dB between colours",
  };
</script>

<div class="found" data-testid="fit">
  <dl>
    <dt>First colour at the lowest gain</dt>
    <dd class="figures">
      {trim(found.first_colour_db, 1)} ± {trim(2 * found.first_colour_sd_db, 1)} dB
      <span>profile {trim(unit.gain.first_colour_db, 1)}</span>
    </dd>
    <dt>dB per gain step</dt>
    <dd class="figures">
      {trim(found.db_per_step, 3)} ± {trim(2 * found.db_per_step_sd, 3)}
      <span>profile {trim(unit.gain.db_per_step, 3)}</span>
    </dd>
    <dt>dB between colours</dt>
    <dd class="figures">
      {trim(found.colour_step_db, 2)} ± {trim(2 * found.colour_step_sd_db, 2)}
      <span>profile {trim(unit.colour_step_db, 2)}</span>
    </dd>
  </dl>
  <FitPlot fit={found} {unit} {gains} />
  <div class="next">
    {#if found.assumed.length > 0}
      <p>
        Assumed, for the readings do not fix it: {found.assumed
          .map((one) => NAMES[one] ?? one)
          .join(" and ")}.
      </p>
    {/if}
    {#if found.next_reading}
      <p>
        One more reading would tell most with this lure at <b
          >{depth(found.next_reading.depth_m, prefs.system)}</b
        >: the floor is sure to ±{trim(2 * found.next_reading.now_db, 1)} dB now, ±{trim(
          2 * found.next_reading.then_db,
          1,
        )} dB with it.
      </p>
    {/if}
    {#each found.doubts as doubt (doubt.text)}
      <p class="doubt">{sentence(doubt.text, doubt.values, prefs.system)}</p>
    {/each}
    {#if found.usable}
      {#each found.unseen as one, k (k)}
        <p>{sentence(one.text, one.values, prefs.system)}</p>
      {/each}
      <button class="primary" onclick={use}>Use this calibration</button>
    {/if}
  </div>
</div>

<style>
  .found {
    display: grid;
    grid-template-columns: minmax(200px, 1fr) minmax(240px, 1.2fr) minmax(200px, 1fr);
    gap: 12px 22px;
    align-items: start;
  }

  dl {
    margin: 0;
  }

  dt {
    font-size: 0.9rem;
    color: var(--soft);
  }

  dd {
    margin: 0 0 8px;
    font-size: 1.15rem;
    font-weight: 700;
  }

  dd span {
    display: block;
    font-size: 0.85rem;
    font-weight: 400;
    color: var(--soft);
  }

  .doubt {
    padding: 8px 12px;
    border-left: 6px solid var(--action);
    font-weight: 600;
  }

  .next {
    display: grid;
    gap: 8px;
  }

  @media (max-width: 1100px) {
    .found {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
