<script lang="ts">
  // What a touched mark of the fan comes to: where to walk, how deep, how long, how high off the bottom.
  import type { Snippet } from "svelte";
  import type { FanMeasured } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence, small, way } from "../../lib/units";

  let {
    measured,
    touched,
    drill,
    more = null,
  }: {
    measured: FanMeasured | null;
    touched: boolean;
    drill: (() => void) | null;
    /** What else can be done with it. */
    more?: Snippet | null;
  } = $props();
</script>

{#if measured?.mark}
  <section class="measured" data-testid="measured">
    <h2>
      {way(measured.along_ice_m!.likely, prefs.system)} along the ice, {depth(
        measured.depth_m!.likely,
        prefs.system,
      )} down
    </h2>
    <p>{sentence(measured.to_do!.text, measured.to_do!.values, prefs.system)}</p>
    <p class="figures">
      {small(measured.length_m!.low, prefs.system)} to {small(measured.length_m!.high, prefs.system)} long, likely
      {small(measured.length_m!.likely, prefs.system)}{#if measured.off_bed_m !== null};
        {depth(measured.off_bed_m, prefs.system)} off the bottom{/if}
    </p>
    <p class="soft">
      If it is a fish. The span holds how long it is in 95 of 100 cases; the smear of the beam is taken out.
    </p>
    {#if drill || more}<div class="button-row">
        {#if drill}<button class="primary" onclick={drill}>Walk there and drill</button>{/if}
        {@render more?.()}
      </div>{/if}
  </section>
{:else if touched}
  <p data-testid="measured">
    Nothing stands out there. Touch a mark, wait until it shows again, or turn gain up.
  </p>
{:else}
  <p class="soft">
    Touch a mark: here stands how far it is along the ice, how deep, how long, and what to do.
  </p>
{/if}

<style>
  .measured {
    display: grid;
    gap: 6px;
  }
</style>
