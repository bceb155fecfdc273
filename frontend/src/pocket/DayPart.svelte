<script lang="ts">
  // The day's walk: each place with its way, why, and what to mind; a touch on one is where one stands.
  import { prefs } from "../lib/prefs.svelte";
  import { depth, sentence, timeOfDay, trim, way } from "../lib/units";
  import { compass } from "../steps/trip/compass";
  import { PACE_M } from "../steps/trip/paces";
  import type { Chosen } from "./chosen.svelte";
  import { spotsOf } from "./spots";
  import type { Notes } from "./notes.svelte";
  import type { Said, Sheet } from "./told";

  let { sheet, notes, chosen }: { sheet: Sheet; notes: Notes; chosen: Chosen } = $props();

  const { day, plan, judged, degrees } = $derived(sheet.told);
  const system = $derived(prefs.system);
  const say = (one: Said) => sentence(one.text, one.values, system);
  const band = $derived(plan.bands[0]);
  const spots = $derived(spotsOf(sheet.told, notes));

  function stand(n: number) {
    const spot = spots[n]!;
    chosen.spot = spot.name;
    if (spot.depth_m) chosen.depth_m = spot.depth_m;
  }
</script>

<p>
  {timeOfDay(day.begins_min)} to {timeOfDay(day.ends_min)}, {day.species}, {day.season}.
  {#if band}Fish {depth(band.from_m, system)} to {depth(band.to_m, system)}.{/if}
  {#if plan.sun.sunset_min !== null}Sunset {timeOfDay(plan.sun.sunset_min)}.{/if}
</p>
<p class="back">
  Back by {timeOfDay(day.ends_min)}. {day.told ? `Knows the plan: ${day.told}.` : "Tell someone ashore."}
</p>
<ol aria-label="The walk">
  {#each plan.planned.legs as leg, n (n)}
    {@const place = leg.to === null ? null : day.places[leg.to]}
    {@const known = leg.to === null ? undefined : judged[leg.to]}
    <li class:here={place && chosen.spot === `Place ${place.name}`}>
      <h2>
        {place ? `Place ${place.name}` : "Back"}: {way(leg.distance_m, system)}
        {compass(leg.bearing_deg)} ({trim(leg.bearing_deg, 0)}°)
      </h2>
      <p>
        {trim(leg.distance_m / PACE_M, 0)} paces; there at {timeOfDay(leg.arrives_min)}{known
          ? `; about ${depth(known.depth_m, system)} deep`
          : ""}.
      </p>
      {#if leg.to !== null && degrees?.[leg.to]}
        <p class="figures soft">{degrees[leg.to]!.map((one) => one.toFixed(5)).join(", ")}</p>
      {/if}
      {#if known}
        <ul>
          {#each known.why.slice(1) as one, k (k)}<li>{say(one)}</li>{/each}
        </ul>
      {/if}
      {#each plan.warnings.filter((one) => one.at === n) as one, k (k)}<p class="mind">
          {say(one.said)}
        </p>{/each}
      {#if place}
        <button aria-label="I stand here: place {place.name}" onclick={() => stand(n)}>I stand here</button>
      {/if}
    </li>
  {/each}
</ol>
<ul class="cautions">
  {#each plan.cautions as one (one)}<li>{one}</li>{/each}
</ul>

<style>
  .back {
    margin-top: 6px;
    font-weight: 700;
  }

  ol {
    display: grid;
    gap: 10px;
    margin: 12px 0;
    padding: 0;
    list-style: none;
  }

  ol > li {
    display: grid;
    gap: 4px;
    padding: 10px 12px;
    border-left: 6px solid var(--line);
    background: var(--panel);
  }

  ol > li.here {
    border-left-color: var(--pine);
  }

  ul {
    margin: 4px 0 0;
    padding-left: 18px;
  }

  .mind {
    padding-left: 8px;
    border-left: 6px double var(--stop);
  }

  .cautions {
    font-size: 0.95rem;
  }
</style>
