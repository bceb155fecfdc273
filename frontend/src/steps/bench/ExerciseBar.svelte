<script lang="ts">
  // The exercise in hand: its aim, a hint when asked, and when the aim is met what was learned and the next one.
  import type { Exercise } from "../../lib/api/types";
  import { world } from "../../lib/world.svelte";

  let { exercise, met }: { exercise: Exercise; met: boolean } = $props();

  let hint = $state(false);
  const at = $derived(world.exercises.findIndex((one) => one.key === exercise.key));
  const next = $derived(world.exercises[at + 1] ?? null);
</script>

<section class="bar" class:met aria-label="Exercise" data-testid="exercise">
  <div role="status">
    <p class="title">{at + 1}. {exercise.title}{met ? ": done" : ""}</p>
    <p>{met ? exercise.learned : exercise.aim}</p>
    {#if hint && !met}<p class="hint">{exercise.hint}</p>{/if}
  </div>
  {#if met && next}
    <button class="primary" onclick={() => world.practise({ kind: "exercise", key: next.key })}
      >Next: {next.title}</button
    >
  {:else if met}
    <button class="primary" onclick={() => world.practise(null)}>Back to the hole</button>
  {:else}
    <button aria-pressed={hint} onclick={() => (hint = !hint)}>Hint</button>
  {/if}
</section>

<style>
  .bar {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 12px;
    padding: 6px 14px;
    border-bottom: 1.5px solid var(--line);
    border-left: 6px solid var(--action);
    background: var(--panel);
    line-height: 1.25;
  }

  .bar.met {
    border-left-color: var(--pine);
  }

  .title {
    font-weight: 700;
  }

  .hint {
    color: var(--soft);
  }

  button {
    flex: 0 0 auto;
    max-width: 45%;
    line-height: 1.15;
  }
</style>
