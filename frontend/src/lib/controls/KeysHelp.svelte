<script lang="ts">
  // Which key does what, over the picture.
  import type { Key } from "../keys";
  import Dialog from "../overlay/Dialog.svelte";

  let { keys, close }: { keys: readonly Key[]; close: () => void } = $props();
  const listed = $derived(keys.filter((one) => one.keys));
</script>

<Dialog label="Keys" {close}>
  <h2>Keys</h2>
  <dl>
    {#each listed as key (key.keys)}
      <dt class="figures">{key.keys}</dt>
      <dd>{key.does}</dd>
    {/each}
  </dl>
  <button onclick={close}>Close</button>
</Dialog>

<style>
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 4px 16px;
    margin: 10px 0;
  }

  dt {
    font-weight: 700;
  }

  dd {
    margin: 0;
  }
</style>
