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
  <table class="findings">
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

  th {
    width: 34%;
  }

  td.value {
    text-align: right;
    font-weight: 700;
    white-space: nowrap;
  }
</style>
