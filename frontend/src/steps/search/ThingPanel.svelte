<script lang="ts">
  // What was touched: what it can be and why, where it lies along the ice, and what to do with it.
  import type { Fix } from "../../lib/api/types";
  import { search } from "./search.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence, trim, way } from "../../lib/units";
  import { between, clockOf, compassOf, KINDS, paces } from "./words";

  let {
    twelve,
    mark = null,
    aim = null,
  }: {
    twelve: number;
    /** Searching for real: marks it as a school. */
    mark?: ((fix: Fix) => void) | null;
    /** Where the fan marks: aims it at what was touched. */
    aim?: ((fix: Fix) => void) | null;
  } = $props();

  const touched = $derived(search.touched);
  const first = $derived(touched?.kinds[0] ?? null);
  const swims = $derived(first !== null && first.kind !== "standing");
</script>

{#if !touched}
  <p class="soft">Touch a mark on the picture: here stands what it can be and how far it is along the ice.</p>
{:else}
  <section class="thing" data-testid="thing">
    {#if touched.ice}
      <h2>
        {clockOf(touched.bearing - twelve)},
        {#if touched.ice.low_m === null || touched.ice.high_m === null}
          nowhere
        {:else}
          {between(touched.ice.low_m, touched.ice.high_m, prefs.system)} along the ice
        {/if}
      </h2>
      {#if touched.ice.low_m !== null && touched.ice.high_m !== null}
        <p class="figures">
          {paces((touched.ice.low_m + touched.ice.high_m) / 2)}, {compassOf(touched.bearing)};
          {way(touched.range, prefs.system)} in the picture
        </p>
      {/if}
      <p class="soft">{sentence(touched.ice.why.text, touched.ice.why.values, prefs.system)}</p>
    {/if}
    {#if touched.kinds.length > 0}
      <ul class="kinds">
        {#each touched.kinds.filter((one, k) => k === 0 || one.chance >= 0.02) as one, k (one.kind)}
          <li class:first={k === 0}>
            <span class="bar" style:width="{100 * one.chance}%"></span>
            <strong>{KINDS[one.kind]}</strong>
            <span class="figures">{trim(100 * Math.min(one.chance, 0.99), 0)} %</span>
            {#if k === 0}
              <span class="why"
                >{one.why.map((why) => sentence(why.text, why.values, prefs.system)).join(" ")}</span
              >
            {/if}
          </li>
        {/each}
      </ul>
    {/if}
    {#if touched.fix}
      <div class="button-row">
        {#if aim}
          <button class:primary={swims} onclick={() => aim(touched.fix!)}>Aim the fan at it</button>
        {:else if mark}
          <button class:primary={swims} onclick={() => mark(touched.fix!)}>Mark it: a school</button>
        {:else}
          <button class:primary={swims} onclick={() => search.take(touched.fix!)}>
            {search.fixes.length === 0
              ? "Follow it: first fix"
              : `Same school: fix ${search.fixes.length + 1}`}
          </button>
        {/if}
      </div>
    {:else}
      <p>There is no mark. Touch one, or turn the gain up.</p>
    {/if}
  </section>
{/if}

<style>
  .thing {
    display: grid;
    gap: 6px;
  }

  .kinds {
    list-style: none;
    margin: 0;
    padding: 0;
    display: grid;
    gap: 3px;
  }

  li {
    position: relative;
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 0 10px;
    padding: 3px 8px;
    border-radius: 4px;
    overflow: hidden;
  }

  .bar {
    position: absolute;
    inset: 0 auto 0 0;
    background: var(--band);
    z-index: 0;
  }

  li > :not(.bar) {
    position: relative;
    z-index: 1;
  }

  .why {
    grid-column: 1 / -1;
    font-size: 0.92rem;
  }
</style>
