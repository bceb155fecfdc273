<script lang="ts">
  // Where the numbers of a page come from, at one touch.
  import Dialog from "../overlay/Dialog.svelte";
  import { type Page, SOURCES } from "../sources";

  let { of }: { of: Page } = $props();
  let open = $state(false);
</script>

<button type="button" class="sources" onclick={() => (open = true)}>Where the numbers come from</button>
{#if open}
  <Dialog label="Where the numbers come from" close={() => (open = false)}>
    <h2>Where the numbers come from</h2>
    <dl>
      {#each SOURCES[of] as { number, from } (number)}
        <dt>{number}</dt>
        <dd>{from}</dd>
      {/each}
    </dl>
    <button onclick={() => (open = false)}>Close</button>
  </Dialog>
{/if}

<style>
  .sources {
    justify-self: start;
    align-self: start;
    padding: 0 6px;
    border-color: transparent;
    background: none;
    color: var(--soft);
    font-size: 0.88rem;
    text-decoration: underline dotted;
    text-underline-offset: 4px;
  }

  dl {
    margin: 10px 0;
  }

  dt {
    font-weight: 700;
  }

  dd {
    margin: 0 0 10px;
    color: var(--soft);
  }

  @media print {
    .sources {
      display: none;
    }
  }
</style>
