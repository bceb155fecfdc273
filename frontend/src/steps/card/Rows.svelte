<script lang="ts">
  // Lines of a card: name, value, what it does; what changed a moment ago is marked with what it was.
  import type { Line } from "./lines";

  let {
    lines,
    before = {},
    wide = false,
  }: {
    lines: readonly Line[];
    /** What changed lines said before, by key; "" where only what it does changed. */
    before?: Record<string, string>;
    /** Whether they have the whole width of the printed page. */
    wide?: boolean;
  } = $props();
</script>

<dl class="rows" class:wide>
  {#each lines as line (line.key)}
    <div class="row" class:changed={before[line.key] !== undefined} data-testid="line-{line.key}">
      <dt>{line.name}</dt>
      <dd>
        <b class="figures">{line.value}</b>
        {#if before[line.key]}<span class="was">was {before[line.key]}</span>{/if}
        {#if line.does}<span class="does">{line.does}</span>{/if}
      </dd>
    </div>
  {/each}
</dl>

<style>
  .rows {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
    gap: 0 22px;
    margin: 4px 0 0;
  }

  .row {
    display: grid;
    align-content: start;
    padding: 5px 0 6px 8px;
    border-bottom: 1.5px solid var(--line);
    border-left: 5px solid transparent;
  }

  .row.changed {
    border-left-color: var(--action);
  }

  dt {
    font-size: 0.9rem;
    color: var(--soft);
    line-height: 1.2;
  }

  dd {
    margin: 0;
    line-height: 1.2;
  }

  b {
    font-size: 1.3rem;
  }

  .was {
    margin-left: 8px;
    color: var(--action);
    font-size: 0.9rem;
    font-weight: 600;
  }

  .does {
    display: block;
    font-size: 0.92rem;
    color: var(--soft);
  }

  /* On a phone, at arm's length: one line each, the value large at the right. */
  @media (max-width: 760px) {
    .rows {
      grid-template-columns: minmax(0, 1fr);
    }

    .row {
      grid-template-columns: auto 1fr;
      align-items: baseline;
      gap: 0 10px;
      padding: 7px 0 7px 8px;
    }

    dt {
      font-size: 1rem;
    }

    dd {
      display: contents;
    }

    b {
      font-size: 1.75rem;
      text-align: right;
    }

    .does,
    .was {
      grid-column: 1 / -1;
      margin-left: 0;
      font-size: 1rem;
    }
  }

  @media print {
    .rows {
      grid-template-columns: repeat(2, 1fr);
      gap: 0 10pt;
    }

    .rows.wide {
      grid-template-columns: repeat(4, 1fr);
    }

    .row {
      padding: 1.5pt 0;
      border-left: 0;
      break-inside: avoid;
    }

    .was {
      display: none;
    }

    dt,
    .does {
      font-size: 7pt;
      line-height: 1.15;
    }

    b {
      font-size: 11pt;
    }
  }
</style>
