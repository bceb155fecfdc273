<script lang="ts">
  // Settings against clarity: where the gain stood on stays with a bite, by the water it was in.
  import { onMount } from "svelte";
  import { api, ok } from "../../lib/api/client";
  import type { WorkedGains } from "../../lib/api/types";
  import { trim } from "../../lib/units";
  import Chart from "./Chart.svelte";
  import PictureAndTable from "./PictureAndTable.svelte";

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
  const rowsOf = (mine: WorkedGains) =>
    waters.flatMap((water) => {
      const there = mine.filter((one) => one.clarity === water).map((one) => one.gain);
      const span = `${trim(Math.min(...there), 1)} to ${trim(Math.max(...there), 1)}`;
      return there.length > 0 ? [{ name: water, value: span, rests: `${there.length} stays` }] : [];
    });
</script>

{#if gains.length > 0}
  <h2>Gain that worked, by the water</h2>
  {#each units as unit (unit)}
    {@const mine = gains.filter((one) => one.unit === unit)}
    <PictureAndTable caption="Gain that worked on {unit}" rows={rowsOf(mine)}>
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
    </PictureAndTable>
  {/each}
{/if}

<style>
  h2 {
    margin-top: 20px;
  }
</style>
