<script lang="ts">
  // Removing takes two touches: the first only asks.
  let { what, remove }: { what: string; remove: () => void } = $props();
  let asked = $state(false);
</script>

{#if asked}
  <span class="asked">
    <button
      type="button"
      class="yes"
      onclick={() => {
        asked = false;
        remove();
      }}>Yes, remove</button
    >
    <button type="button" onclick={() => (asked = false)}>Keep</button>
  </span>
{:else}
  <button type="button" aria-label={what} onclick={() => (asked = true)}>Remove</button>
{/if}

<style>
  .asked {
    display: inline-flex;
    gap: 6px;
  }

  .yes {
    border-color: var(--stop);
    color: var(--stop);
    font-weight: 700;
  }
</style>
