<script lang="ts">
  // What the picture says while one fishes: contact, the nearest fish and its gap, and the one thing to do.
  import { untrack } from "svelte";
  import type { FanReading } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { length, sentence } from "../../lib/units";

  let { reading, event }: { reading: FanReading | null; event: string | null } = $props();

  const moment = $derived(reading?.moment ?? null);
  // A fish flickers: what was seen a moment ago still stands.
  const HOLDS_S = 1.5;
  let held = $state.raw<{ fish: FanReading["fish"][number]; at: number } | null>(null);
  $effect(() => {
    const [fish, at] = [reading?.fish[0], reading?.time_s ?? 0];
    untrack(() => {
      if (fish) held = { fish, at };
      else if (held && (at - held.at > HOLDS_S || at < held.at)) held = null;
    });
  });
  const nearest = $derived(held?.fish ?? null);
  const shows = $derived(reading?.lures[0]?.mark ?? null);
</script>

<section
  class="now"
  class:contact={reading?.touching}
  aria-label="What the picture says"
  data-testid="says-now"
>
  <p role="status">
    {#if event}
      <strong>{event}</strong>
    {:else if reading?.touching}
      <strong>A fish is at your lure.</strong> Eyes to the rod tip.
    {:else if moment}
      <strong>{sentence(moment.say.text, moment.say.values, prefs.system)}</strong>
      {moment.do}
    {:else if reading && !shows}
      <strong>Your lure does not show.</strong> See under Your holes what hides it.
    {:else if nearest}
      A fish is about. Hold still, or lift slowly.
    {:else}
      Nobody near. Lift the lure once in a while.
    {/if}
  </p>
  <p class="figures gap" data-testid="gap">
    {#if nearest}
      <b>{length(Math.abs(nearest.gap_m), prefs.system)}</b>
      {nearest.gap_m >= 0 ? "below" : "above"} the lure<br />
      <small>{length(nearest.apart_m, prefs.system)} away</small>
    {/if}
  </p>
</section>

<style>
  .now {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 4px 12px;
    align-items: center;
    min-height: 58px;
    padding: 6px 12px;
    border-left: 6px solid var(--pine);
    background: var(--panel);
    line-height: 1.25;
  }

  .contact {
    border-left-color: var(--action);
  }

  .gap {
    text-align: right;
  }

  .gap b {
    font-size: 1.25rem;
  }
</style>
