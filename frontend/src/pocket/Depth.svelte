<script lang="ts">
  // The depth that card and call are asked for: a large number with a thumb's keys for a step down and up.
  import Measured from "../lib/controls/Measured.svelte";
  import { prefs } from "../lib/prefs.svelte";
  import { deepMeasure, depth } from "../lib/units";
  import type { Chosen } from "./chosen.svelte";
  import type { Sheet } from "./told";

  let { sheet, chosen }: { sheet: Sheet; chosen: Chosen } = $props();

  const { first_m, step_m } = $derived(sheet.told.cards.depths);
  const step = (by: number) =>
    (chosen.depth_m = Math.min(Math.max(chosen.nearest.depth_m + by * step_m, first_m), sheet.deepest_m));
</script>

<div class="depth">
  <button aria-label="Shallower" onclick={() => step(-1)}>−</button>
  <Measured
    id="depth"
    name="Depth of the water"
    measure={deepMeasure(1)}
    value={chosen.depth_m}
    low={first_m}
    high={sheet.deepest_m}
    change={(value) => value !== null && (chosen.depth_m = value)}
  />
  <button aria-label="Deeper" onclick={() => step(1)}>+</button>
</div>
{#if Math.abs(chosen.nearest.depth_m - chosen.depth_m) > 0.02}
  <p class="soft">
    Worked out for {depth(chosen.nearest.depth_m, prefs.system)}, the nearest that stands on this sheet.
  </p>
{/if}

<style>
  .depth {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto;
    gap: 8px;
    align-items: end;
  }

  .depth :global(input) {
    width: 100%;
    font-size: 1.5rem;
    font-weight: 700;
    text-align: center;
  }

  button {
    width: 72px;
    font-size: 1.6rem;
    font-weight: 700;
  }
</style>
