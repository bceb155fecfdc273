<script lang="ts">
  // The fan's card where one was taken along, the rig test, and what keeps people safe.
  import Choice from "../lib/controls/Choice.svelte";
  import { prefs } from "../lib/prefs.svelte";
  import { depth, sentence } from "../lib/units";
  import { failedOf } from "../steps/trip/rig";
  import { NAMES, valueOf } from "../steps/search/fan";
  import type { Chosen } from "./chosen.svelte";
  import type { Sheet } from "./told";

  let { sheet, chosen }: { sheet: Sheet; chosen: Chosen } = $props();

  const { fan, rig, plan, made_at, along } = $derived(sheet.told);
  let job: "search" | "fish" = $state("search");
  const light = $derived(along.lights[chosen.at.light]!);
  const there = $derived(
    fan?.cards
      .filter((one) => one.job === job && one.light === light)
      .reduce((best, one) =>
        Math.abs(one.depth_m - chosen.depth_m) < Math.abs(best.depth_m - chosen.depth_m) ? one : best,
      ),
  );
  const failed = $derived(failedOf(rig.items));
</script>

{#if fan && there}
  <section aria-label="The fan's card" data-testid="pocket-fan">
    <h2>{fan.name}, {depth(there.depth_m, prefs.system)} of water, {light}</h2>
    <Choice
      name="What for"
      options={[
        { value: "search", label: "Find fish" },
        { value: "fish", label: "Watch lure and fish" },
      ]}
      value={job}
      choose={(to) => (job = to)}
    />
    {#if there.card}
      {@const card = there.card}
      <p>
        Head {depth(card.hang.depth_m, prefs.system)} down, looks {card.hang.mounting}. The depth is the
        card's, to the nearest that stands here.
      </p>
      <dl>
        {#each fan.controls as control (control)}
          <div>
            <dt>{NAMES[control]}</dt>
            <dd class="figures">{valueOf(control, card.settings, prefs.system)}</dd>
          </div>
        {/each}
      </dl>
      {#each card.later as one, k (k)}<p>{sentence(one.text, one.values, prefs.system)}</p>{/each}
    {:else}<p>The ice leaves too little water for it.</p>{/if}
  </section>
{/if}
<section aria-label="Rig test">
  <h2>Rig test</h2>
  {#each failed as one (`${one.item.id} ${one.check}`)}
    <p class="mind"><b>{one.item.name}</b> failed "{one.check}" and was not retested. {one.note}</p>
  {/each}
  <ul>
    {#each rig.checks as one (one.name)}<li>{one.words}: {one.right}</li>{/each}
  </ul>
</section>
<section aria-label="Cautions">
  <h2>Ice, cold, fire</h2>
  <ul>
    {#each plan.cautions as one (one)}<li>{one}</li>{/each}
  </ul>
  <h2>Public guidance, new clear ice</h2>
  <ul>
    {#each plan.guidance as one (one.use)}<li>
        {one.use}: {depth(one.least_m, prefs.system)} at least
      </li>{/each}
  </ul>
  <p class="soft">From memory; authorities differ, and their own word goes before it. No ice is safe ice.</p>
</section>
<p class="soft">
  Worked out {made_at.slice(0, 16).replace("T", " ")} UTC for {along.bottom_kind} bottom, {along.liveliness} life
  in the water. Nothing leaves this phone but the file that you save or share.
</p>

<style>
  section {
    margin-bottom: 16px;
  }

  dl > div {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    padding: 6px 0;
    border-bottom: 1.5px solid var(--line);
  }

  dd {
    margin: 0;
    font-weight: 700;
  }

  ul {
    margin: 4px 0 8px;
    padding-left: 18px;
  }

  .mind {
    padding-left: 8px;
    border-left: 6px double var(--stop);
  }
</style>
