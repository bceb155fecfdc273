<script lang="ts">
  // Under a picture that is played again: play or pause, where it stands, and what else belongs there.
  import type { Snippet } from "svelte";
  import type { Playhead } from "../playhead.svelte";

  let {
    head,
    from = 0,
    to,
    name,
    says,
    short = false,
    children,
  }: {
    head: Playhead;
    /** Where it begins and ends [s]. */
    from?: number;
    to: number;
    name: string;
    /** Where it stands, in figures. */
    says: string;
    /** So short that it is played again rather than paused. */
    short?: boolean;
    children?: Snippet;
  } = $props();
</script>

<div class="play-bar">
  {#if short}
    <button onclick={() => head.play(from)}>Play again</button>
  {:else}
    <button class="primary" onclick={() => head.toggle(from)}>{head.running ? "Pause" : "Play"}</button>
  {/if}
  <input
    type="range"
    min={from}
    max={to}
    step="0.05"
    value={head.time}
    aria-label={name}
    oninput={(event) => head.stop(Number(event.currentTarget.value))}
  />
  <span class="figures">{says}</span>
  {@render children?.()}
</div>

<style>
  .play-bar {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 10px;
    align-items: center;
    padding: 6px 10px;
    border-top: 1.5px solid var(--line);
  }

  input {
    flex: 1 1 120px;
    min-width: 60px;
    padding: 0;
    accent-color: var(--action);
  }

  /* So that three more buttons stand in one line under it. */
  @media (max-width: 760px) {
    .play-bar > :global(button) {
      padding: 0 8px;
    }
  }
</style>
