<script lang="ts">
  // How each skill has gone, run by run: well done, of how many.
  import type { Run } from "../../lib/api/types";

  let { runs }: { runs: readonly Run[] } = $props();

  const MOST = 20;
  const WIDE = 200;
  const TALL = 34;

  interface Line {
    skill: string;
    shares: number[];
    good: number;
    of: number;
  }

  const lines = $derived.by((): Line[] => {
    const found: Record<string, Line> = {};
    for (const run of runs.slice(0, MOST).toReversed())
      for (const { skill, good, of } of run.skills) {
        if (of <= 0) continue;
        const line = (found[skill] ??= { skill, shares: [], good: 0, of: 0 });
        line.shares.push(good / of);
        line.good += good;
        line.of += of;
      }
    return Object.values(found);
  });
  const x = (k: number, of: number) => (of < 2 ? WIDE / 2 : 6 + (k * (WIDE - 12)) / (of - 1));
  const y = (share: number) => 5 + (1 - share) * (TALL - 10);
  const percent = (share: number) => `${Math.round(100 * share)} %`;
</script>

{#if lines.length > 0}
  <h2>Your skills, run by run</h2>
  <p class="soft">High is well done; the newest run is at the right.</p>
  <ul>
    {#each lines as line (line.skill)}
      <li>
        <span>{line.skill}</span>
        <svg
          viewBox="0 0 {WIDE} {TALL}"
          role="img"
          aria-label="{line.skill}: {percent(line.good / line.of)} over {line.shares.length} runs"
        >
          <line class="base" x1="0" x2={WIDE} y1={y(0)} y2={y(0)} />
          <polyline points={line.shares.map((one, k) => `${x(k, line.shares.length)},${y(one)}`).join(" ")} />
          {#each line.shares as share, k (k)}
            <circle cx={x(k, line.shares.length)} cy={y(share)} r="3" />
          {/each}
        </svg>
        <b class="figures">{percent(line.good / line.of)}</b>
      </li>
    {/each}
  </ul>
{/if}

<style>
  ul {
    margin: 6px 0 18px;
    padding: 0;
    list-style: none;
  }

  li {
    display: grid;
    grid-template-columns: minmax(0, 5fr) minmax(0, 4fr) 56px;
    gap: 8px;
    align-items: center;
    border-bottom: 1.5px solid var(--line);
  }

  svg {
    width: 100%;
    height: 34px;
  }

  polyline {
    fill: none;
    stroke: var(--pine);
    stroke-width: 2;
  }

  circle {
    fill: var(--pine);
  }

  .base {
    stroke: var(--line);
    stroke-width: 1.5;
  }

  b {
    text-align: right;
  }
</style>
