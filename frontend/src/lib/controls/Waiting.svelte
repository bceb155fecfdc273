<script lang="ts">
  // Word that something is being worked out, and how far it is where that is known. Nothing for the first moment.
  import type { Wait } from "../wait.svelte";

  let { wait, words }: { wait: Wait; words: string } = $props();
</script>

{#if wait.shown}
  <div class="waiting" role="status" data-testid="waiting">
    <span>{words}</span>
    {#if wait.share === null}
      <progress aria-label={words}></progress>
    {:else}
      <progress aria-label={words} max="1" value={wait.share}></progress>
      <span class="figures">{Math.round(100 * wait.share)} %</span>
    {/if}
  </div>
{/if}

<style>
  .waiting {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 12px;
    min-height: 28px;
    font-weight: 600;
  }

  progress {
    flex: 1 1 120px;
    max-width: 360px;
    height: 12px;
    accent-color: var(--pine);
  }
</style>
