<script lang="ts">
  // Changed here and elsewhere: both versions beside one another, and one to choose.
  import { onMount } from "svelte";
  import type { Difference } from "../differences";

  let {
    what,
    rows,
    keep,
    take,
  }: {
    what: string;
    rows: readonly Difference[];
    keep: () => void;
    take: () => void;
  } = $props();

  let box: HTMLElement;
  // It may stand below what is in sight, and nothing goes on without it.
  onMount(() => box.scrollIntoView({ block: "nearest" }));
</script>

<section class="both" bind:this={box} role="alert" aria-label="Both versions">
  <h2>{what} was changed elsewhere since you opened it</h2>
  <p>Nothing is saved yet. Look at both and keep one.</p>
  <table>
    <thead>
      <tr><th scope="col"></th><th scope="col">Yours</th><th scope="col">Kept now</th></tr>
    </thead>
    <tbody>
      {#each rows as row (row.name)}
        <tr><th scope="row">{row.name}</th><td>{row.mine || "empty"}</td><td>{row.theirs || "empty"}</td></tr>
      {:else}
        <tr><th scope="row">All</th><td colspan="2">the same in both</td></tr>
      {/each}
    </tbody>
  </table>
  <div class="acts">
    <button type="button" class="primary" onclick={keep}>Keep mine</button>
    <button type="button" onclick={take}>Take what is kept</button>
  </div>
</section>

<style>
  .both {
    display: grid;
    gap: 8px;
    margin: 12px 0;
    padding: 12px 16px;
    border: 3px solid var(--action);
    background: var(--panel);
    max-width: 640px;
  }

  table {
    border-collapse: collapse;
    width: 100%;
  }

  th,
  td {
    padding: 6px 12px 6px 0;
    text-align: left;
    vertical-align: top;
    overflow-wrap: anywhere;
    border-bottom: 1.5px solid var(--line);
  }

  th {
    font-weight: 600;
  }

  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
</style>
