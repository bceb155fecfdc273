<script lang="ts">
  // Rules of thumb beside the card's own result, and why where they differ.
  import type { HoleCard, Said } from "../../lib/api/types";

  let { made, write }: { made: HoleCard; write: (one: Said) => string } = $props();
</script>

<section class="rules" aria-label="Rules of thumb">
  <h2>Rules of thumb, beside this</h2>
  <ul class="lines">
    {#each made.rules as one (one.key)}
      <li class:differs={!one.agrees}>
        <b>{one.agrees ? "As they say" : "Not here"}:</b>
        {write(one.thumb)} <span class="ours">{write(one.ours)}</span>
        <span class="does">{write(one.why)}</span>
      </li>
    {/each}
  </ul>
</section>

<style>
  .ours {
    font-weight: 600;
  }

  .does {
    display: block;
    font-size: 0.92rem;
    color: var(--soft);
  }

  @media print {
    .does {
      font-size: 7pt;
      line-height: 1.15;
    }
  }
</style>
