<script lang="ts">
  // Range and window: which water is in the picture, and how much of it one row stands for.
  import { constants } from "../../lib/api/limits";
  import type { Profile, Settings, Tuning } from "../../lib/api/types";
  import Stepper from "../../lib/controls/Stepper.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length, small, trim, toDepth, depthUnit } from "../../lib/units";

  let {
    unit,
    settings,
    tuning,
    lureRange,
    change,
    kick,
  }: {
    unit: Profile;
    settings: Settings;
    tuning: Tuning | null;
    /** Range of the lure from the face [m], where a free window opens. */
    lureRange: number;
    change: (change: Partial<Settings>) => void;
    kick: () => void;
  } = $props();

  const { foot: FOOT } = constants;
  const at = $derived(unit.ranges_m.findIndex((one) => Math.abs(one - settings.range_m) < 1e-3));
  const [low, high] = $derived([unit.ranges_m[0]!, unit.ranges_m.at(-1)!]);
  const tall = (m: number) => trim(toDepth(m, prefs.system), 1);
  const chosen = $derived(
    settings.free_window_m > 0
      ? `free ${settings.free_window_m}`
      : settings.bottom_window_m > 0
        ? `bottom ${settings.bottom_window_m}`
        : "full",
  );

  function step(direction: 1 | -1) {
    if (unit.free_range) {
      const by = settings.range_m < 18 ? 2 * FOOT : 10 * FOOT;
      change({ range_m: Math.min(Math.max(settings.range_m + direction * by, low), high) });
    } else change({ range_m: unit.ranges_m[at + direction]! });
  }

  function choose(value: string) {
    const [kind, height] = value.split(" ");
    const m = Number(height ?? 0);
    change({
      bottom_window_m: kind === "bottom" ? m : 0,
      free_window_m: kind === "free" ? m : 0,
      ...(kind === "free" ? { free_window_top_m: Math.max(lureRange - 0.6 * m, 0) } : {}),
    });
  }

  const slide = (direction: 1 | -1) =>
    change({
      free_window_top_m: Math.max(settings.free_window_top_m + direction * 0.25 * settings.free_window_m, 0),
    });
</script>

<section class="control" aria-labelledby="range-name">
  <div class="line">
    <h2 id="range-name">Range</h2>
    <Stepper
      name="range"
      less={() => step(-1)}
      more={() => step(1)}
      atLeast={settings.auto_range || settings.range_m <= low + 1e-3}
      atMost={settings.auto_range || settings.range_m >= high - 1e-3}
    >
      <output class="figures">{depth(settings.range_m, prefs.system)}</output>
    </Stepper>
  </div>
  {#if unit.auto_range}
    <div class="pair">
      <button aria-pressed={settings.auto_range} onclick={() => change({ auto_range: !settings.auto_range })}
        >Automatic</button
      >
      <button disabled={!settings.auto_range} onclick={kick}>Look for the bottom anew</button>
    </div>
  {/if}
  {#if unit.bottom_windows_m.length + unit.free_windows_m.length > 0}
    <div class="choice" role="group" aria-label="Window, {depthUnit(prefs.system)}">
      <button aria-pressed={chosen === "full"} onclick={() => choose("full")}>Full column</button>
      {#each unit.bottom_windows_m as m (m)}
        <button aria-pressed={chosen === `bottom ${m}`} onclick={() => choose(`bottom ${m}`)}
          >Bottom {tall(m)}</button
        >
      {/each}
      {#each unit.free_windows_m as m (m)}
        <button aria-pressed={chosen === `free ${m}`} onclick={() => choose(`free ${m}`)}
          >Free {tall(m)}</button
        >
      {/each}
    </div>
  {/if}
  {#if settings.free_window_m > 0}
    <div class="pair">
      <button onclick={() => slide(-1)}>Window up</button>
      <button onclick={() => slide(1)}>Window down</button>
    </div>
  {/if}
  {#if unit.window_beside && chosen !== "full"}
    <button aria-pressed={settings.beside} onclick={() => change({ beside: !settings.beside })}
      >Window beside the full column</button
    >
  {/if}
  {#if tuning}
    <p class="does">
      One row is <b class="figures">{small(tuning.row_height_m, prefs.system)}</b>; marks part at
      <b class="figures">{small(tuning.parted_m, prefs.system)}</b>. Cone
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

  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6px;
  }

  .pair button {
    padding: 0 6px;
    line-height: 1.15;
  }

  .choice {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 6px;
  }

  .choice button {
    padding: 0 4px;
    line-height: 1.15;
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
