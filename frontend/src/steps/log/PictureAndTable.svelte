<script lang="ts">
  // A picture of the log and, beside it, what it shows in numbers: a name, the number, and what that rests on.
  import type { Snippet } from "svelte";

  let {
    caption,
    rows,
    children,
  }: { caption: string; rows: { name: string; value: string; rests: string }[]; children: Snippet } =
    $props();
</script>

<div class="pictures">
  {@render children()}
  <table>
    <caption>{caption}</caption>
    <tbody>
      {#each rows as one (one.name)}
        <tr>
          <th scope="row">{one.name}</th>
          <td class="figures value">{one.value}</td>
          <td class="soft">{one.rests}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</div>

<style>
  .pictures {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(min(100%, 460px), 1fr));
    gap: 14px 36px;
    margin-top: 8px;
    align-items: start;
  }

  table {
    border-collapse: collapse;
    width: 100%;
  }

  caption {
    text-align: left;
    font-weight: 700;
    padding-bottom: 2px;
  }

  th,
  td {
    padding: 4px 6px;
    text-align: left;
    font-weight: 400;
    border-bottom: 1.5px solid var(--line);
    line-height: 1.2;
  }

  th {
    width: 34%;
  }

  .value {
    text-align: right;
    font-weight: 700;
    white-space: nowrap;
  }

  @media (max-width: 760px) {
    th,
    td {
      padding: 4px 3px;
    }
  }
</style>
