<script lang="ts">
  // For which unit, lure, water, light and company: what has one choice only is said, and takes no room.
  import type { Chosen } from "./chosen.svelte";
  import type { Combination, Sheet } from "./told";

  let { sheet, chosen }: { sheet: Sheet; chosen: Chosen } = $props();

  const { along } = $derived(sheet.told);
  const lists = $derived<{ key: keyof Combination; name: string; words: string[] }[]>([
    { key: "unit", name: "Unit", words: along.units.map((one) => one.name) },
    { key: "lure", name: "Lure", words: along.lures },
    { key: "clarity", name: "Water", words: along.clarities },
    { key: "light", name: "Light", words: along.lights },
    { key: "company", name: "Company", words: along.companies },
  ]);
  const fixed = $derived(lists.filter((one) => one.words.length === 1).map((one) => one.words[0]));
</script>

<div class="choices">
  {#each lists.filter((one) => one.words.length > 1) as { key, name, words } (key)}
    <label class="field"
      >{name}
      <select
        value={chosen.at[key]}
        onchange={(event) => chosen.set({ [key]: Number(event.currentTarget.value) })}
      >
        {#each words as one, n (n)}<option value={n}>{one}</option>{/each}
      </select></label
    >
  {/each}
</div>
{#if fixed.length > 0}<p class="soft">For {fixed.join(", ")}.</p>{/if}

<style>
  .choices {
    display: grid;
    grid-template-columns: repeat(2, minmax(0, 1fr));
    gap: 8px;
    margin: 8px 0;
  }

  select {
    width: 100%;
  }
</style>
