<script lang="ts">
  // One thing at a time: the finding, the number behind it, the one change, and a button that makes it.
  import type { Settings, Tuning } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence, trim } from "../../lib/units";

  let {
    tuning,
    event,
    change,
  }: { tuning: Tuning | null; event: string | null; change: (change: Partial<Settings>) => void } = $props();

  const worst = $derived(tuning?.verdicts[0] ?? null);
  const button = $derived.by(() => {
    const to = worst?.change;
    if (!to) return null;
    return to.setting === "gain"
      ? `Set gain ${trim(to.value, 1)}`
      : `Set range ${depth(to.value, prefs.system)}`;
  });
</script>

<section class="coach" class:wrong={worst && !event} aria-label="Coach" data-testid="coach">
  <div role="status">
    {#if event}
      <p class="finding">{event}</p>
    {:else if worst}
      <p class="finding">{sentence(worst.finding, worst.values, prefs.system)}</p>
      <p class="reason">{sentence(worst.reason, worst.values, prefs.system)}</p>
    {:else if tuning?.gain_window.floor === null}
      <p class="finding">Lower the lure until it comes out of the ringing at the top.</p>
      <p class="reason">Then its gain window appears on the gain scale.</p>
    {:else if tuning}
      <p class="finding">Nothing to change.</p>
      <p class="reason">
        The lure shows, the water is quiet, and the range is the smallest that holds the bottom.
      </p>
    {/if}
  </div>
  {#if !event && worst?.change && button}
    <button class="primary" onclick={() => change({ [worst.change!.setting]: worst.change!.value })}
      >{button}</button
    >
  {/if}
</section>

<style>
  .coach {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 16px;
    min-height: 68px;
    padding: 8px 16px;
    border-top: 1.5px solid var(--line);
    border-left: 6px solid var(--pine);
    background: var(--panel);
  }

  .coach.wrong {
    border-left-color: var(--action);
  }

  .finding {
    font-weight: 700;
    line-height: 1.25;
  }

  .reason {
    color: var(--soft);
    font-size: 0.92rem;
    line-height: 1.3;
  }

  button {
    white-space: nowrap;
  }

  @media (max-width: 760px) {
    .coach {
      padding: 6px 10px;
      gap: 8px;
      min-height: 76px;
    }

    .finding {
      font-size: 0.95rem;
    }

    .reason {
      font-size: 0.85rem;
    }

    button {
      white-space: normal;
      line-height: 1.15;
      flex: 0 0 92px;
      padding: 0 6px;
    }
  }
</style>
