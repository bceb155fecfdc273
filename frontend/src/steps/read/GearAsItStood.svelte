<script lang="ts">
  // The unit, lure and knobs as they stood when the mark was seen.
  import { constants } from "../../lib/api/limits";
  import type { CallSheet, Hole, Unit } from "../../lib/api/types";
  import NumberKnob from "../../lib/controls/NumberKnob.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, trim } from "../../lib/units";
  import { world } from "../../lib/world.svelte";

  let {
    hole,
    unit,
    sheet,
    unitId = $bindable(),
    lureId = $bindable(),
    gain = $bindable(),
    lureDepth = $bindable(),
  }: {
    hole: Hole;
    unit: Unit;
    sheet: CallSheet | null;
    unitId: number;
    lureId: number | null;
    gain: number | null;
    lureDepth: number | null;
  } = $props();
</script>

<details class="gear">
  <summary>
    {unit.name}, {sheet ? `gain ${trim(sheet.settings.gain, 1)}` : ""}{#if sheet?.lure_depth_m != null}, lure
      at
      {depth(sheet.lure_depth_m, prefs.system)}{/if}{sheet?.calibrated ? ", calibrated" : ""}
  </summary>
  <label
    >Unit
    <select bind:value={unitId} onchange={() => (gain = null)}>
      {#each world.units as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
    </select>
  </label>
  <label
    >Lure
    <select bind:value={lureId}>
      <option value={null}>none in the water</option>
      {#each world.lures as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
    </select>
  </label>
  {#if sheet}
    <NumberKnob
      name="Gain as it stands"
      value={sheet.settings.gain}
      low={unit.gain.minimum}
      high={unit.gain.maximum}
      step={unit.gain.step}
      show={(value) => trim(value, 1)}
      change={(value) => (gain = value)}
    />
    {#if sheet.lure_depth_m !== null}
      <NumberKnob
        name="Lure at"
        value={sheet.lure_depth_m}
        low={hole.face_depth_m + 0.2}
        high={hole.bottom_depth_m}
        step={prefs.system === "feet" ? constants.foot / 2 : 0.1}
        show={(value) => depth(value, prefs.system)}
        change={(value) => (lureDepth = value)}
      />
    {/if}
  {/if}
</details>

<style>
  .gear {
    border-top: 1.5px solid var(--line);
    padding-top: 4px;
  }

  .gear summary {
    min-height: var(--target);
    align-content: center;
    cursor: pointer;
    color: var(--soft);
  }

  .gear label {
    display: grid;
    grid-template-columns: 90px 1fr;
    align-items: center;
    margin: 6px 0;
  }

  .gear select {
    min-width: 0;
  }
</style>
