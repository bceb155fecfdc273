<script lang="ts">
  // Which key does what, over the picture.
  import type { Key } from "../keys";

  let { keys, close }: { keys: readonly Key[]; close: () => void } = $props();
  const listed = $derived(keys.filter((one) => one.keys));
</script>

<div class="help" role="dialog" aria-label="Keys">
  <h2>Keys</h2>
  <dl>
    {#each listed as key (key.keys)}
      <dt class="figures">{key.keys}</dt>
      <dd>{key.does}</dd>
    {/each}
  </dl>
  <button onclick={close}>Close</button>
</div>

<style>
  .help {
    position: absolute;
    inset: 16px auto auto 16px;
    max-width: calc(100% - 32px);
    padding: 16px;
    border: 1.5px solid var(--ink);
    border-radius: 8px;
    background: var(--panel);
  }

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
