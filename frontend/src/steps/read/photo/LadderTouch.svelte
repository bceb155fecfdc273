<script lang="ts">
  // The ladder's steps with the colours they have on the user's own screen, each to be pointed at once.
  import type { Ladder } from "../../../lib/api/types";

  let {
    ladder,
    seen,
    at,
    choose,
  }: {
    ladder: Ladder;
    /** Dark water first, then each step, weakest first. */
    seen: readonly string[];
    /** Which is being pointed at; null for none. */
    at: number | null;
    choose: (step: number | null) => void;
  } = $props();

  const names = $derived(["dark water", ...ladder.steps.map((step) => step.name)]);
</script>

<ul>
  {#each names as name, k (k)}
    <li>
      <button type="button" aria-pressed={at === k} onclick={() => choose(at === k ? null : k)}>
        <svg viewBox="0 0 10 10" aria-hidden="true"><rect width="10" height="10" fill={seen[k]} /></svg>
        {name}
      </button>
    </li>
  {/each}
</ul>

<style>
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    padding: 0;
    margin: 0;
    list-style: none;
  }

  button {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 0 10px;
  }

  svg {
    width: 26px;
    height: 26px;
    border: 1.5px solid var(--line);
  }
</style>
