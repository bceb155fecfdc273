<script lang="ts">
  // The watch clock: stay or go, until when, and how sure it is that nobody is here.
  import { search } from "./search.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { clock, sentence, trim } from "../../lib/units";

  // Who follows a school has little room: only what the clock says stays in sight, and that at the top.
  const follows = $derived(search.fixes.length > 0);
  const watch = $derived(search.watch);
  const left = $derived(watch ? Math.max(watch.go_at_s - search.watched, 0) : 0);
</script>

<section class="clock" aria-label="Watch clock" class:go={watch?.say === "go"}>
  <p class="say" role="status" data-testid="watch-says">
    {#if !watch}
      Looking.
    {:else if watch.say === "go"}
      Go: look elsewhere
    {:else}
      Stay {clock(left)} more
    {/if}
  </p>
  <p class="figures watched">
    {clock(search.watched)} watched,
    {search.seen === 0 ? "no school" : search.seen === 1 ? "1 school" : `${search.seen} schools`}
  </p>
  {#snippet count()}
    <div class="button-row">
      <button onclick={() => search.countSeen(1)}>Saw another school</button>
      <button onclick={() => search.countSeen(-1)} disabled={search.seen === 0}>One less</button>
    </div>
  {/snippet}
  {#if !follows}{@render count()}{/if}
  {#if watch}
    <details>
      <summary>Why</summary>
      {#if follows}{@render count()}{/if}
      <p>{sentence(watch.why.text, watch.why.values, prefs.system)}</p>
      <p class="soft">
        Chance that nobody is here: {trim(100 * watch.nobody_here, 0)} percent. Schools are taken to come by as
        they swim about, and this place to be like others of the lake until it has shown otherwise.
      </p>
    </details>
  {/if}
</section>

<style>
  .clock {
    display: grid;
    gap: 4px;
    padding: 8px 12px;
    border: 1.5px solid var(--line);
    border-left: 8px solid var(--pine);
    border-radius: 6px;
    background: var(--panel);
  }

  @media (min-width: 761px) {
    .clock {
      position: sticky;
      top: 0;
      z-index: 2;
    }
  }

  .go {
    border-left-color: var(--stop);
  }

  .say {
    font-size: 1.35rem;
    font-weight: 700;
  }

  summary {
    padding-left: 4px;
    min-height: 36px;
    line-height: 36px;
    cursor: pointer;
  }
</style>
