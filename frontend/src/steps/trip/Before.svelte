<script lang="ts">
  // What has to be seen to before one goes: power, gear, ice. Each leads to where it is said in full.
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence } from "../../lib/units";
  import { failedOf } from "./rig";
  import { trip } from "./trip.svelte";

  let { go }: { go: (part: "power" | "rig" | "walk") => void } = $props();

  const system = $derived(prefs.system);
  const dead = $derived(
    trip.alive.flatMap((one, k) =>
      one && one.lives !== "yes"
        ? [{ name: trip.batteryOf(trip.day?.powered[k])?.name ?? "", said: one.said, helps: one.helps }]
        : [],
    ),
  );
  const failed = $derived(failedOf(trip.rig?.items ?? []));
  const ice = $derived(
    new Set((trip.plan?.warnings ?? []).filter((one) => one.kind !== "unmeasured").map(({ at }) => at)).size,
  );
</script>

{#if dead.length + failed.length + ice > 0}
  <ul aria-label="To see to before you go">
    {#each dead as one (one.name)}
      <li>
        <button onclick={() => go("power")}
          ><b>{one.name}</b>
          {sentence(one.said.text, one.said.values, system)}
          {#if one.helps.length > 0}<span class="soft">{one.helps.length} ways to keep it alive.</span
            >{/if}</button
        >
      </li>
    {/each}
    {#each failed as one (`${one.item.id} ${one.check}`)}
      <li>
        <button onclick={() => go("rig")}
          ><b>{one.item.name}</b> failed its rig test and was not retested.</button
        >
      </li>
    {/each}
    {#if ice > 0}
      <li>
        <button onclick={() => go("walk")}
          ><b>Ice</b> is thin, old or over moving water at {ice === 1 ? "one place" : `${ice} places`} of the walk.</button
        >
      </li>
    {/if}
  </ul>
{/if}

<style>
  ul {
    display: grid;
    gap: 2px;
    margin: 0 0 6px;
    padding: 0;
    list-style: none;
  }

  button {
    width: 100%;
    padding: 6px 12px;
    border: 0;
    border-left: 6px solid var(--stop);
    border-radius: 0;
    text-align: left;
    line-height: 1.25;
  }

  @media print {
    ul {
      display: none;
    }
  }
</style>
