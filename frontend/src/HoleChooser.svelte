<script lang="ts">
  // The hole that everything is about. Of thousands the newest are in the list, and any is found by a word of its name.
  import { found, listed } from "./lib/listed";
  import Dialog from "./lib/overlay/Dialog.svelte";
  import { world } from "./lib/world.svelte";

  const FIND = "find";

  let finding = $state(false);
  let text = $state("");

  const named = (hole: { name: string; water: string }) =>
    `${hole.name}${hole.water ? `, ${hole.water}` : ""}`;
  const near = $derived(listed(world.holes, world.holeId));
  const matches = $derived(finding ? found(world.holes, text) : []);

  function choose(select: HTMLSelectElement) {
    if (select.value !== FIND) return world.go(world.step, Number(select.value));
    select.value = `${world.holeId}`;
    text = "";
    finding = true;
  }

  function take(id: number) {
    finding = false;
    world.go(world.step, id);
  }
</script>

<svelte:window onhashchange={() => (finding = false)} />

<label>
  <span class="unseen">Hole</span>
  <select value={world.holeId} onchange={(event) => choose(event.currentTarget)}>
    {#each near as hole (hole.id)}
      <option value={hole.id}>{named(hole)}</option>
    {/each}
    {#if near.length < world.holes.length}
      <option value={FIND}>Find one of {world.holes.length}</option>
    {/if}
  </select>
</label>

{#if finding}
  <Dialog label="Find a hole" close={() => (finding = false)}>
    <label class="find">
      A word of its name or its water
      <!-- No search field to the browser: Escape closes the dialog, and does not empty the field first. -->
      <input type="text" role="searchbox" bind:value={text} />
    </label>
    <ul>
      {#each matches as hole (hole.id)}
        <li><button onclick={() => take(hole.id)}>{named(hole)}</button></li>
      {:else}
        <li>No hole is called so.</li>
      {/each}
    </ul>
    <button onclick={() => (finding = false)}>Close</button>
  </Dialog>
{/if}

<style>
  select {
    max-width: 260px;
    width: 100%;
    text-overflow: ellipsis;
  }

  .find {
    display: grid;
    gap: 4px;
  }

  ul {
    display: grid;
    gap: 6px;
    margin: 14px 0 0;
    padding: 0;
    list-style: none;
    height: min(50dvh, 360px);
    align-content: start;
    overflow-y: auto;
  }

  li button {
    width: 100%;
    text-align: left;
  }

  @media (max-width: 760px) {
    label:not(.find) {
      flex: 1;
      min-width: 0;
    }
  }
</style>
