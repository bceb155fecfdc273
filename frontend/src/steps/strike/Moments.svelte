<script lang="ts">
  // The decisive moments of a run in their order, each a button that goes there.
  import type { Judged } from "../../lib/api/types";
  import { NEUTRAL } from "./timeline";

  let {
    judged,
    chosen,
    choose,
    clock,
    said,
  }: {
    judged: readonly Judged[];
    chosen: number | null;
    choose: (k: number) => void;
    clock: (s: number) => string;
    said: (one: Judged) => string;
  } = $props();
</script>

<section aria-label="Moments">
  <h3>Decisive moments</h3>
  {#if judged.length === 0}<p class="soft">Nothing decisive happened: no fish came near the lure.</p>{/if}
  <ol class="moments">
    {#each judged as one, k (k)}
      <li>
        <button
          aria-pressed={chosen === k}
          onclick={() => choose(k)}
          class:good={one.is_good}
          class:neutral={NEUTRAL.has(one.code)}
        >
          <span class="mark figures">{k + 1}</span>
          <span class="figures at">{clock(one.time_s)}</span>
          <span class="text">{said(one)}</span>
        </button>
      </li>
    {/each}
  </ol>
</section>

<style>
  h3 {
    font-size: 0.95rem;
  }

  .moments {
    margin: 4px 0 0;
    padding: 0;
    list-style: none;
  }

  .moments button {
    display: grid;
    grid-template-columns: 26px 42px minmax(0, 1fr);
    gap: 6px;
    align-items: center;
    width: 100%;
    padding: 4px 8px;
    margin-top: 4px;
    text-align: left;
    line-height: 1.25;
  }

  .mark {
    display: grid;
    place-items: center;
    width: 22px;
    height: 22px;
    border-radius: 50%;
    background: var(--action);
    color: var(--on-action);
    font-size: 0.8rem;
  }

  .neutral .mark {
    background: var(--soft);
  }

  .good .mark {
    background: var(--pine);
    color: var(--panel);
  }
</style>
