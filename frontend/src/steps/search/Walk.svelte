<script lang="ts">
  // The walk to the new hole: the water's clock runs while one walks and drills, faster here than on the ice.
  import { clock, way } from "../../lib/units";
  import { prefs } from "../../lib/prefs.svelte";
  import { paces } from "./words";

  let {
    away,
    takes,
    arrive,
    back,
  }: {
    away: number;
    takes: number;
    arrive: () => void;
    /** Null where one has set out for good. */
    back: (() => void) | null;
  } = $props();

  const SHOWN_S = 8;
  let gone = $state(0);

  $effect(() => {
    const began = performance.now();
    const timer = window.setInterval(() => {
      gone = Math.min((performance.now() - began) / 1000 / SHOWN_S, 1);
      if (gone >= 1) {
        window.clearInterval(timer);
        arrive();
      }
    }, 100);
    return () => window.clearInterval(timer);
  });
</script>

<section class="walk" role="status" data-testid="walk">
  <h1>Walking {way(away, prefs.system)}, then drilling</h1>
  <p class="figures time">{clock(gone * takes)} of {clock(takes)}</p>
  <progress value={gone} max="1" aria-label="The walk"></progress>
  <p>
    {paces(away)}. The school swims on meanwhile: the clock runs for it as it does for you, here in seconds.
  </p>
  <p class="soft">
    New ice under new feet: check its thickness at the hole, and turn back where it is thinner than you trust.
  </p>
  <div class="button-row">
    <button class="primary" onclick={arrive}>Be there now</button>
    {#if back}<button onclick={back}>Stay here</button>{/if}
  </div>
</section>

<style>
  .walk {
    display: grid;
    gap: 10px;
    align-content: center;
    justify-items: start;
    padding: 24px;
    max-width: 34rem;
    margin: 0 auto;
  }

  .time {
    font-size: 1.6rem;
  }

  progress {
    width: 100%;
    height: 18px;
  }
</style>
