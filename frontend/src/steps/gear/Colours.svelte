<script lang="ts">
  // The steps of a ladder, weakest first: name, colour by day and by night, and where each begins.
  import type { Ladder } from "../../lib/api/types";

  let {
    ladder = $bindable(),
    short = false,
  }: {
    ladder: Ladder;
    /** Whether only name and colour are asked, and steps can be added and taken away. */
    short?: boolean;
  } = $props();

  const MOST = 16;

  function more() {
    const last = ladder.steps.at(-1)!;
    const before = ladder.steps.at(-2);
    const begins = last.begins + (before ? last.begins - before.begins : 1);
    ladder.steps = [...ladder.steps, { ...last, name: `colour ${ladder.steps.length + 1}`, begins }];
  }
</script>

<div class="steps" class:short>
  {#each ladder.steps as step, k (k)}
    <label>
      <span class="unseen">Name of step {k + 1}</span>
      <input bind:value={step.name} maxlength="24" />
    </label>
    <label
      ><span class="unseen">{short ? "Colour" : "Day colour"} of {step.name}</span><input
        type="color"
        bind:value={step.rime}
        oninput={(event) => {
          // In the short form one colour is asked: by night it is the same.
          if (short) step.lantern = event.currentTarget.value;
        }}
      /></label
    >
    {#if !short}
      <label
        ><span class="unseen">Night colour of {step.name}</span><input
          type="color"
          bind:value={step.lantern}
        /></label
      >
      <label
        ><span class="unseen">{step.name} begins, in colour steps</span><input
          type="number"
          step="0.5"
          min="-3"
          max="40"
          bind:value={step.begins}
        /></label
      >
    {/if}
  {/each}
</div>
{#if short}
  <div class="count">
    <button
      type="button"
      disabled={ladder.steps.length <= 1}
      onclick={() => (ladder.steps = ladder.steps.slice(0, -1))}>One fewer</button
    >
    <button type="button" disabled={ladder.steps.length >= MOST} onclick={more}>One more</button>
  </div>
{/if}

<style>
  .steps {
    display: grid;
    grid-template-columns: minmax(0, 200px) 64px 64px 88px;
    gap: 6px;
  }

  .steps.short {
    grid-template-columns: repeat(auto-fill, minmax(100px, 1fr) 56px);
  }

  .steps input {
    width: 100%;
  }

  input[type="color"] {
    padding: 4px;
  }

  .count {
    display: flex;
    gap: 6px;
    margin-top: 6px;
  }

  /* On a phone the name has a line of its own, or it would be cut off. */
  @media (max-width: 760px) {
    .steps:not(.short) {
      grid-template-columns: 1fr 1fr 1fr;
    }

    .steps:not(.short) > label:nth-child(4n + 1) {
      grid-column: 1 / -1;
    }

    .steps.short {
      grid-template-columns: minmax(0, 1fr) 72px;
    }
  }
</style>
