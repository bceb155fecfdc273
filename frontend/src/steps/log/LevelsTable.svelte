<script lang="ts">
  // The levels of one thing: how much each brings, its span beside your usual, on what it rests, and what that says.
  import type { Spread } from "../../lib/api/types";
  import SpanBar from "./SpanBar.svelte";

  export interface Row {
    level: string;
    spread: Spread;
    says: "better" | "worse" | "no telling";
    /** What that says in words, and what it rests on. */
    sure: string;
    rests: string;
  }
  let {
    caption,
    heads,
    rows,
    most,
    usual,
    write,
  }: {
    caption: string;
    heads: readonly [string, string, string, string, string];
    rows: readonly Row[];
    /** Where the bars end, and the line through all of them. */
    most: number;
    usual: number;
    write: (value: number) => string;
  } = $props();

  const mark = (row: Row) => (row.says === "no telling" ? null : row.says);
</script>

<table class="findings">
  <caption>{caption}</caption>
  <thead class="unseen">
    <tr
      >{#each heads as head (head)}<th scope="col">{head}</th>{/each}</tr
    >
  </thead>
  <tbody>
    {#each rows as row (row.level)}
      <tr class={[mark(row)]}>
        <th scope="row">{row.level}</th>
        <td class="figures likely">{write(row.spread.likely)}</td>
        <td class="bar">
          <SpanBar spread={row.spread} {most} {usual} sure={mark(row)} />
          <span class="unseen">{write(row.spread.low)} to {write(row.spread.high)}</span>
        </td>
        <td class="soft rests">{row.rests}</td>
        <td class="says">{row.sure}</td>
      </tr>
    {/each}
  </tbody>
</table>

<style>
  tbody th {
    width: 34%;
  }

  .bar {
    width: 26%;
  }

  .rests {
    white-space: nowrap;
  }

  .says {
    width: 18%;
    font-size: 0.9rem;
    color: var(--soft);
  }

  .better .says {
    color: var(--pine);
    font-weight: 700;
  }

  .worse .says {
    color: var(--stop);
    font-weight: 700;
  }

  td.likely {
    text-align: right;
    font-weight: 700;
    white-space: nowrap;
  }

  @media (max-width: 760px) {
    .rests {
      display: none;
    }
  }
</style>
