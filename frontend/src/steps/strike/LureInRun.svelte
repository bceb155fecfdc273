<script lang="ts">
  // Where the lure is in a run, the level's depth at one touch, and a note of where a fish turned.
  import type { Bench, Scene } from "../../lib/api/types";
  import RiseFigures from "../../lib/bore/RiseFigures.svelte";
  import type { BenchStream } from "../../lib/live/stream.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length } from "../../lib/units";
  import type { TurnedHere } from "./turned.svelte";

  let {
    stream,
    bench,
    scene,
    turned,
    goDown,
  }: { stream: BenchStream; bench: Bench; scene: Scene; turned: TurnedHere; goDown: () => void } = $props();

  const goal = $derived(bench.run?.goal_m ?? 0);
  const at = $derived(stream.lureDepth);
</script>

<p class="where">
  <span>{bench.lure.name}</span>
  <b class="figures" data-testid="lure-depth">{at === null ? "" : depth(at, prefs.system)}</b>
  <span class="soft"
    >{at === null ? "" : `${length(scene.bottom_depth_m - at, prefs.system)} off bottom`}</span
  >
</p>
<div class="moves">
  <button onclick={goDown}
    >{(at ?? 0) > goal + 0.05 ? "Raise" : "Lower"} to {depth(goal, prefs.system)}</button
  >
  <button onclick={() => void turned.note()}>A fish turned here</button>
</div>
{#if turned.heights_m.length > 0}
  <p class="soft">
    {turned.heights_m.length} noted.
    {#if turned.line}Fish come to <RiseFigures line={turned.line} />.{/if}
  </p>
{/if}

<style>
  .where {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 8px;
    align-items: baseline;
    white-space: nowrap;
    font-size: 0.92rem;
  }

  .where span {
    overflow: hidden;
    text-overflow: ellipsis;
  }

  .where b {
    font-size: 1.15rem;
  }

  .moves {
    display: grid;
    gap: 10px;
  }

  @media (max-width: 760px) {
    /* In the grid of a run's controls: right under the eyes, before anything else. */
    .moves {
      grid-row: 4;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
    }

    .moves button {
      padding: 0 4px;
    }

    .where {
      grid-row: 5;
    }
  }
</style>
