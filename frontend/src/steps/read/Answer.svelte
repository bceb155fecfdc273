<script lang="ts">
  // What a mark can be, likeliest first: why, where it truly is, how long, and what to do.
  import type { CallSheet } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length, sentence } from "../../lib/units";

  let {
    sheet,
    words,
    none,
    percent,
  }: {
    sheet: CallSheet | null;
    /** Names of the ladder's steps, weakest first. */
    words: readonly string[];
    /** Whether to say, while there is no answer, that it comes here. */
    none: boolean;
    percent: (share: number) => string;
  } = $props();

  const best = $derived(sheet?.calls[0] ?? null);
</script>

{#if sheet && best}
  {#if !sheet.fits}
    <p class="badly">Nothing fits this well. Look again, or change one touch.</p>
  {/if}
  <div class="first">
    <h2>
      {best.kind[0]!.toUpperCase() + best.kind.slice(1)} <b class="figures">{percent(best.chance)}</b>
    </h2>
    <p class="do">{best.do}</p>
    {#if best.depth_m && best.likely_length_m && best.region}
      <p>
        Truly between {depth(best.depth_m[0], prefs.system)} and {depth(best.depth_m[1], prefs.system)} below the
        surface. About {length(best.likely_length_m[0], prefs.system)} long if it is {best.under_the_hole_m !==
        null
          ? "under the hole"
          : `${length(best.region.aside_m[0] ?? 0, prefs.system)} aside`}, {length(
          best.likely_length_m[1],
          prefs.system,
        )} if it is {length(best.region.aside_m.at(-1) ?? 0, prefs.system)} aside.
      </p>
    {/if}
    <ul>
      {#each best.because as why, k (k)}
        <li>{sentence(why.text, why.values, prefs.system, words)}</li>
      {/each}
    </ul>
  </div>
  <ol class="lines others" start="2">
    {#each sheet.calls.slice(1) as call (call.kind)}
      <li>
        <b>{call.kind}</b> <span class="figures">{percent(call.chance)}</span>
        {#if call.because[0]}
          <small>{sentence(call.because[0].text, call.because[0].values, prefs.system, words)}</small>
        {/if}
      </li>
    {/each}
  </ol>
{:else if none}
  <p class="lead">The answer comes here: what it can be, where it truly is, and what to do.</p>
{/if}

<style>
  .lead {
    color: var(--soft);
  }

  .first {
    display: grid;
    gap: 6px;
    border-left: 6px solid var(--pine);
    padding-left: 12px;
  }

  .first h2 {
    display: flex;
    justify-content: space-between;
    font-size: 1.3rem;
  }

  .do {
    font-weight: 700;
    color: var(--action);
    font-size: 1.05rem;
    line-height: 1.3;
  }

  .first ul {
    margin: 0;
    padding-left: 18px;
    color: var(--soft);
    font-size: 0.92rem;
  }

  .others small {
    display: block;
    color: var(--soft);
  }

  .badly {
    padding: 8px 10px;
    border: 2px solid var(--stop);
    border-radius: 6px;
    font-weight: 700;
  }
</style>
