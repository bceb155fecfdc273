<script lang="ts">
  // Range and bottom window: which water is in the picture, and how much of it one row stands for.
  import type { Settings, Tuning, Unit } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import Stepper from "../../lib/controls/Stepper.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length, small, trim, toDepth, depthUnit } from "../../lib/units";

  let {
    unit,
    settings,
    tuning,
    change,
  }: {
    unit: Unit;
    settings: Settings;
    tuning: Tuning | null;
    change: (change: Partial<Settings>) => void;
  } = $props();

  const at = $derived(unit.ranges_m.findIndex((one) => Math.abs(one - settings.range_m) < 1e-3));
  const windows = $derived([
    { value: 0, label: "Full column" },
    ...unit.bottom_windows_m.map((m) => ({ value: m, label: `Bottom ${trim(toDepth(m, prefs.system), 1)}` })),
  ]);
</script>

<section class="control" aria-labelledby="range-name">
  <div class="line">
    <h2 id="range-name">Range</h2>
    <Stepper
      name="range"
      less={() => change({ range_m: unit.ranges_m[at - 1]! })}
      more={() => change({ range_m: unit.ranges_m[at + 1]! })}
      atLeast={at <= 0}
      atMost={at >= unit.ranges_m.length - 1}
    >
      <output class="figures">{depth(settings.range_m, prefs.system)}</output>
    </Stepper>
  </div>
  <Choice
    name="Window, {depthUnit(prefs.system)}"
    options={windows}
    value={settings.bottom_window_m}
    choose={(bottom_window_m) => change({ bottom_window_m })}
  />
  {#if tuning}
    <p class="does">
      One row is <b class="figures">{small(tuning.row_height_m, prefs.system)}</b>; marks part at
      <b class="figures">{small(tuning.resolution_m, prefs.system)}</b>. Cone
      <b class="figures">{length(tuning.cone_at_lure_m, prefs.system)}</b> at the lure,
      <b class="figures">{length(tuning.cone_at_bottom_m, prefs.system)}</b> at the bottom.
    </p>
  {/if}
</section>

<style>
  .control {
    display: grid;
    gap: 6px;
  }

  .line {
    display: flex;
    justify-content: space-between;
    align-items: center;
  }

  output {
    min-width: 7ch;
    text-align: center;
    font-size: 1.15rem;
    font-weight: 700;
  }

  .does {
    font-size: 0.88rem;
    color: var(--soft);
  }

  .does b {
    color: var(--ink);
    font-weight: 600;
  }
</style>
