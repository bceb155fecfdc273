<script lang="ts">
  // The readings of a calibration: a line each, as typed, with what the fit says of it.
  import type { Fit, Profile } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { depthUnit, signed } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import type { Row } from "./readings";

  let {
    rows = $bindable(),
    judged,
    steps,
  }: {
    rows: Row[];
    judged: ReadonlyMap<Row, Fit["judged"][number] | null>;
    steps: Profile["ladders"][number]["steps"];
  } = $props();
</script>

<div class="scroll">
  <table>
    <thead>
      <tr>
        <th scope="col">Lure</th>
        <th scope="col">Depth, {depthUnit(prefs.system)}</th>
        <th scope="col">Its mark</th>
        <th scope="col">Gain</th>
        <th scope="col">What the fit says</th>
        <th scope="col"><span class="unseen">Remove</span></th>
      </tr>
    </thead>
    <tbody>
      {#each rows as row, i (i)}
        {@const one = judged.get(row)}
        <tr class:out={one && !one.used}>
          <td data-name="Lure">
            <select aria-label="Lure of reading {i + 1}" bind:value={row.lure}>
              {#each world.lures as lure (lure.id)}<option value={String(lure.id)}>{lure.name}</option>{/each}
            </select>
          </td>
          <td data-name="Depth, {depthUnit(prefs.system)}"
            ><input
              aria-label="Depth of reading {i + 1}"
              inputmode="decimal"
              bind:value={row.depth}
              oninput={() => (row.exact = null)}
            /></td
          >
          <td data-name="Its mark">
            <select aria-label="Mark of reading {i + 1}" bind:value={row.colour}>
              {#each steps as step, k (k)}
                <option value={String(k)}>{k === 0 ? "just disappears" : `just turns ${step.name}`}</option>
              {/each}
            </select>
          </td>
          <td data-name="Gain"
            ><input aria-label="Gain of reading {i + 1}" inputmode="decimal" bind:value={row.gain} /></td
          >
          <td class="says" data-testid="judged">
            {#if one}
              {#if one.used}<span class="figures">{signed(one.residual_db, 1)} dB</span>
              {:else}<b>left out:</b> {one.why}{/if}
            {/if}
          </td>
          <td>
            <button
              aria-label="Remove reading {i + 1}"
              onclick={() => (rows = rows.filter((_, k) => k !== i))}>×</button
            >
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
</div>

<style>
  .scroll {
    overflow-x: auto;
  }

  table {
    border-collapse: collapse;
    width: 100%;
  }

  th {
    font-size: 0.88rem;
    text-align: left;
    color: var(--soft);
    padding: 2px 6px;
  }

  td {
    padding: 3px 4px;
    vertical-align: middle;
  }

  td input {
    width: 84px;
    font-family: var(--figures);
  }

  td select {
    width: 100%;
    min-width: 150px;
    max-width: 210px;
  }

  .says {
    font-size: 0.92rem;
    min-width: 110px;
  }

  tr.out .says {
    color: var(--stop);
  }

  @media (max-width: 1000px) {
    thead {
      display: none;
    }

    tr {
      display: grid;
      grid-template-columns: 1fr 1fr;
      padding: 6px 0;
      border-bottom: 1.5px solid var(--line);
    }

    td[data-name]::before {
      content: attr(data-name);
      display: block;
      font-size: 0.85rem;
      color: var(--soft);
    }

    td input,
    td select {
      width: 100%;
      min-width: 0;
    }
  }
</style>
