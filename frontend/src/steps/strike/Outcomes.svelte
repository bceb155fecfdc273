<script lang="ts">
  // How the fish answered each pattern: came, took, and what the share that took may really be.
  import type { LabOutcome } from "../../lib/api/types";
  import { trim } from "../../lib/units";

  let { ranked, wordsOf }: { ranked: readonly LabOutcome[]; wordsOf: (key: string) => string } = $props();

  const said = (one: LabOutcome) =>
    `${one.pattern}: ${one.took} of ${one.fish} took, between ${Math.round(100 * one.low)} and ${Math.round(100 * one.high)} percent`;
</script>

<ul class="outcomes">
  {#each ranked as one (one.pattern)}
    <li>
      <span><b>{one.pattern}</b><small>{wordsOf(one.pattern)}</small></span>
      <svg viewBox="0 0 200 26" preserveAspectRatio="none" role="img" aria-label={said(one)}>
        <rect class="all" width="200" height="26" />
        <rect class="came" width={(200 * one.came) / one.fish} height="26" />
        <rect class="took" width={200 * one.share} height="26" />
        <rect class="span" x={200 * one.low} y="11" width={200 * (one.high - one.low)} height="4" />
      </svg>
      <span class="figures count">{one.took}<small>of {one.fish}</small></span>
      <span class="figures time">{one.median_s === null ? "" : `${trim(one.median_s, 0)} s`}</span>
    </li>
  {/each}
</ul>

<style>
  .outcomes {
    margin: 8px 0;
    padding: 0;
    list-style: none;
  }

  small {
    display: block;
    font-size: 0.85rem;
    font-weight: 400;
    color: var(--soft);
  }

  .outcomes li {
    display: grid;
    grid-template-columns: minmax(0, 5fr) minmax(0, 6fr) 58px 44px;
    gap: 8px;
    align-items: center;
    padding: 5px 0;
    border-bottom: 1.5px solid var(--line);
    line-height: 1.2;
  }

  .outcomes svg {
    width: 100%;
    height: 26px;
  }

  .all {
    fill: var(--line);
  }

  .came {
    fill: var(--band);
  }

  .took {
    fill: var(--pine);
  }

  .span {
    fill: var(--ink);
    stroke: var(--panel);
    stroke-width: 1;
    vector-effect: non-scaling-stroke;
  }

  .count {
    text-align: right;
    font-weight: 700;
    font-size: 1.1rem;
  }

  .time {
    text-align: right;
    color: var(--soft);
  }

  @media (max-width: 760px) {
    .outcomes small:not(.count small) {
      display: none;
    }

    .outcomes li {
      grid-template-columns: minmax(0, 4fr) minmax(0, 4fr) 46px 40px;
    }
  }
</style>
