<script lang="ts">
  // Settings against clarity: where the gain stood on stays with a bite, by the water it was in.
  import { onMount } from "svelte";
  import { api, ok } from "../../lib/api/client";
  import type { WorkedGains } from "../../lib/api/types";
  import { trim } from "../../lib/units";
  import Chart from "./Chart.svelte";

  let gains = $state<WorkedGains>([]);

  onMount(() => {
    void ok(api.GET("/api/log/gains"))
      .then((answer) => (gains = answer.gains))
      .catch(() => undefined); // the page above says when the program does not answer
  });

  const waters = $derived([...new Set(gains.map((one) => one.clarity))]);
  const units = $derived([...new Set(gains.map((one) => one.unit))]);
  // What stands on the same place stands beside it.
  const beside = (k: number) => 0.28 * (((k * 7) % 11) / 5 - 1);
</script>

{#if gains.length > 0}
  <h2>Gain that worked, by the water</h2>
  {#each units as unit (unit)}
    {@const mine = gains.filter((one) => one.unit === unit)}
    <div class="pictures">
      <Chart
        label="{unit}: gain on stays with a bite"
        x="water"
        y="gain"
        xTicks={waters}
        points={[
          {
            name: "a stay",
            colour: "--pine",
            x: mine.map((one, k) => waters.indexOf(one.clarity) + beside(k)),
            y: mine.map((one) => one.gain),
          },
        ]}
      />
      <table>
        <caption>Gain that worked on {unit}</caption>
        <tbody>
          {#each waters as water (water)}
            {@const there = mine.filter((one) => one.clarity === water).map((one) => one.gain)}
            {#if there.length > 0}
              <tr>
                <th scope="row">{water}</th>
                <td class="figures">{trim(Math.min(...there), 1)} to {trim(Math.max(...there), 1)}</td>
                <td class="soft">{there.length} stays</td>
              </tr>
            {/if}
          {/each}
        </tbody>
      </table>
    </div>
  {/each}
{/if}

<style>
  h2 {
    margin-top: 20px;
  }

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
  }

  th,
  td {
    padding: 4px 6px;
    text-align: left;
    font-weight: 400;
    border-bottom: 1.5px solid var(--line);
  }
</style>
