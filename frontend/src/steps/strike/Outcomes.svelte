<script lang="ts">
  // How the fish answered each pattern: came, took, and what the share that took may really be.
  import type { LabOutcome } from "../../lib/api/types";
  import ShareBar from "../../lib/controls/ShareBar.svelte";
  import { trim } from "../../lib/units";

  let { ranked, wordsOf }: { ranked: readonly LabOutcome[]; wordsOf: (key: string) => string } = $props();

  const said = (one: LabOutcome) =>
    `${one.pattern}: ${one.took} of ${one.fish} took, between ${Math.round(100 * one.low)} and ${Math.round(100 * one.high)} percent`;
</script>

<ul class="outcomes">
  {#each ranked as one (one.pattern)}
    <li>
      <span><b>{one.pattern}</b><small>{wordsOf(one.pattern)}</small></span>
      <div class="bar">
        <ShareBar
          share={one.share}
          low={one.low}
          high={one.high}
          pale={one.came / one.fish}
          label={said(one)}
        />
      </div>
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

  .bar {
    height: 26px;
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
