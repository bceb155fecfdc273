<script lang="ts">
  // Screens to keep: of a unit's views, which serve this day and in which order, and which to hide.
  import { api, ok, words } from "../../lib/api/client";
  import type { ViewKept } from "../../lib/api/types";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import { ownViews } from "./own_views";
  import { trip } from "./trip.svelte";

  let unitId: number | null = $state(trip.day?.powered[0]?.unit ?? world.units[0]?.id ?? null);
  let all: { view: string; words: string }[] = $state([]);
  let views: string[] = $state([]);
  let kept: ViewKept[] = $state([]);
  let trouble = $state("");
  const system = $derived(prefs.system);
  const called = (view: string) => all.find((one) => one.view === view)?.words ?? view;

  $effect(() => {
    const id = unitId;
    if (id === null) return;
    void ok(api.GET("/api/units/{unit_id}/views", { params: { path: { unit_id: id } } }))
      .then((answer) => {
        if (id !== unitId) return;
        all = answer.all;
        views = ownViews.of(id) ?? answer.of_unit;
      })
      .catch((problem: unknown) => (trouble = words(problem)));
  });

  const band = $derived(trip.band);
  const going = $derived(trip.order.length);
  const people = $derived(trip.day?.people ?? 1);
  let asked = 0;
  $effect(() => {
    if (!band) return;
    const mine = ++asked;
    void ok(
      api.POST("/api/trip/screens", {
        body: { views: views as "now"[], from_m: band.from_m, to_m: band.to_m, places: going, people },
      }),
    )
      .then((answer) => mine === asked && (kept = answer.views))
      .catch((problem: unknown) => (trouble = words(problem)));
  });

  function has(view: string, is: boolean) {
    views = all.map((one) => one.view).filter((one) => (one === view ? is : views.includes(one)));
    if (unitId !== null) ownViews.keep(unitId, views);
  }
</script>

<section aria-label="Screens to keep">
  <h2>Screens to keep</h2>
  <Trouble words={trouble} />
  {#if unitId === null}
    <p>Set up a unit under Gear: then it is said here which of its views to keep.</p>
  {:else}
    <label class="field"
      >Unit
      <select bind:value={unitId}>
        {#each world.units as unit (unit.id)}<option value={unit.id}>{unit.name}</option>{/each}
      </select></label
    >
    <ol>
      {#each kept.filter((one) => one.place !== null) as one (one.view)}
        <li><b>{called(one.view)}</b>: {sentence(one.why.text, one.why.values, system)}</li>
      {/each}
    </ol>
    {#if kept.some((one) => one.place === null)}
      <p><b>Hide for the day:</b></p>
      <ul>
        {#each kept.filter((one) => one.place === null) as one (one.view)}
          <li><b>{called(one.view)}</b>: {sentence(one.why.text, one.why.values, system)}</li>
        {/each}
      </ul>
    {/if}
    <details>
      <summary>Which views the unit has</summary>
      <p class="soft">Its profile tells of some; tick what it has besides.</p>
      {#each all as one (one.view)}
        <label class="tick-line"
          ><input
            type="checkbox"
            checked={views.includes(one.view)}
            onchange={(event) => has(one.view, event.currentTarget.checked)}
          />
          {one.words}</label
        >
      {/each}
    </details>
  {/if}
</section>

<style>
  section {
    display: grid;
    gap: 6px;
  }

  .field {
    font-weight: 600;
  }

  ol,
  ul {
    margin: 0;
    padding-left: 24px;
  }
</style>
