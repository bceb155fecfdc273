<script lang="ts">
  // Moving on: only what to change from the last hole's card, what costs most to forget first.
  import type { HoleCard, KeptCard } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { changeInWords } from "./lines";

  let { made, from, changes }: { made: HoleCard; from: string; changes: KeptCard["changes"] } = $props();
</script>

<section class="changes" aria-label="Changes from the last hole">
  <h2>From {from}, change only</h2>
  {#if changes === null}
    <p>Another unit: set it from the card.</p>
  {:else if changes.length === 0}
    <p>Nothing: fish on.</p>
  {:else}
    <ol class="lines">
      {#each changes as one (one.setting)}
        {@const [name, now] = changeInWords(made, one.setting, one.now, prefs.system)}
        {@const [, was] = changeInWords(made, one.setting, one.was, prefs.system)}
        <li><b>{name}</b> <span class="figures">{was} → {now}</span></li>
      {/each}
    </ol>
  {/if}
</section>
