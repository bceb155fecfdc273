<script lang="ts">
  // Where one came here from a look around: when the school that was followed should come by.
  import { world } from "../../lib/world.svelte";
  import { clock } from "../../lib/units";

  let { dueS, now }: { dueS: number; now: number } = $props();

  const left = $derived(dueS - now);
</script>

<section class="bar" aria-label="The school you followed" data-testid="due">
  <p role="status">
    {#if left > 0}
      <strong>The school should come by in about {clock(left)}.</strong> Hang the lure above where it swims, and
      hold it still.
    {:else}
      <strong>About now.</strong> It was due {clock(-left)} ago, give or take a few minutes: schools turn.
    {/if}
  </p>
  <button onclick={() => world.go("search")}>Look around again</button>
</section>

<style>
  .bar {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 12px;
    padding: 6px 14px;
    border-bottom: 1.5px solid var(--line);
    border-left: 6px solid var(--pine);
    background: var(--panel);
    line-height: 1.25;
  }

  button {
    flex: 0 0 auto;
    max-width: 45%;
    line-height: 1.15;
  }
</style>
