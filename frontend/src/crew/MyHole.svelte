<script lang="ts">
  // At which hole one stands: one of the lake's, or one drilled by paces from another.
  import { api, ok } from "../lib/api/client";
  import type { Board } from "../lib/api/types";
  import { compass } from "../steps/trip/compass";
  import { paced } from "../steps/trip/paces";

  let { board, act }: { board: Board; act: (work: () => Promise<unknown>) => Promise<void> } = $props();

  const TURNS = [0, 45, 90, 135, 180, 225, 270, 315];
  let name = $state("");
  let from = $state("");
  let paces = $state(10);
  let bearing = $state(0);
  const mine = $derived(board.me?.hole ?? null);
  const known = $derived(
    mine && !board.holes.some((one) => one.name === mine.name) ? [...board.holes, mine] : board.holes,
  );
  const begins = $derived(known.find((one) => one.name === from) ?? known[0]);

  const stand = (hole: { name: string; east_m: number; north_m: number } | null) =>
    act(() => ok(api.PUT("/api/crew/me", { body: { name: board.me!.name, hole } })));

  function drilled() {
    const [east_m, north_m] = paced([begins?.east_m ?? 0, begins?.north_m ?? 0], paces || 0, bearing);
    void stand({ name: name.trim(), east_m, north_m });
    name = "";
  }
</script>

{#if board.me}
  <section aria-label="My hole">
    <label class="field"
      >I am at
      <select
        value={mine?.name ?? ""}
        onchange={(event) => void stand(known.find((one) => one.name === event.currentTarget.value) ?? null)}
      >
        <option value="">no hole yet</option>
        {#each known as one (one.name)}<option value={one.name}>{one.name}</option>{/each}
      </select></label
    >
    <details>
      <summary>A hole of my own</summary>
      <div class="form">
        <label class="field">Its name <input bind:value={name} maxlength="60" autocomplete="off" /></label>
        <label class="field"
          >From
          <select bind:value={from}>
            {#each known as one (one.name)}<option value={one.name}>{one.name}</option>{:else}<option value=""
                >the landing</option
              >{/each}
          </select></label
        >
        <label class="field"
          >Paces <input type="number" inputmode="numeric" min="0" max="5000" bind:value={paces} /></label
        >
        <label class="field"
          >Direction
          <select bind:value={bearing}
            >{#each TURNS as one (one)}<option value={one}>{compass(one)} ({one}°)</option>{/each}</select
          ></label
        >
      </div>
      <button disabled={!name.trim() || known.some((one) => one.name === name.trim())} onclick={drilled}
        >I stand there</button
      >
    </details>
  </section>
{/if}

<style>
  .form {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px;
  }

  input,
  select {
    width: 100%;
  }
</style>
