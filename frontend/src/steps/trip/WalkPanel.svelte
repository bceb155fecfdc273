<script lang="ts">
  // The walk as a table: what the map shows, for whoever cannot see it, and for the hand that would rather press.
  import { api, ok, words } from "../../lib/api/client";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { undo } from "../../lib/undo.svelte";
  import { depth, sentence, small, span, timeOfDay, trim, way } from "../../lib/units";
  import { compass } from "./compass";
  import { letter, trip } from "./trip.svelte";

  const system = $derived(prefs.system);
  const plan = $derived(trip.plan);
  const places = $derived(trip.day?.places ?? []);
  const legs = $derived(plan?.planned.legs ?? []);
  const say = (one: { text: string; values: Parameters<typeof sentence>[1] }) =>
    sentence(one.text, one.values, system);
  const warned = (k: number) => (plan?.warnings ?? []).filter((one) => one.at === k);
  const left = $derived(places.flatMap((one, k) => (one.out ? [k] : [])));
  const late = $derived(plan?.planned.no_time ?? []);
  let trouble = $state("");

  async function noteHole(k: number) {
    const one = places[k]!;
    const typed = Number(deepest.replace(",", "."));
    const depth_m = system === "feet" ? typed * 0.3048 : typed;
    try {
      await ok(
        api.POST("/api/lakes/{lake_id}/soundings", {
          params: { path: { lake_id: trip.lake!.id } },
          body: {
            soundings: [
              {
                east_m: one.east_m,
                north_m: one.north_m,
                depth_m,
                how: "drilled hole",
                at: new Date().toISOString(),
                bottom: "",
              },
            ],
          },
        }),
      );
      drilling = null;
      deepest = "";
      trouble = "";
      await trip.groundChanged();
    } catch (problem) {
      trouble = words(problem);
    }
  }

  /** A file of the day: what stands here is kept first, for it is made of what is kept. */
  async function give(what: "waypoints" | "calendar") {
    await trip.keep();
    const link = document.createElement("a");
    link.href = `/api/lakes/${trip.lake!.id}/${what}`;
    link.download = "";
    link.click();
  }

  let drilling: number | null = $state(null);
  let deepest = $state("");

  function remove(k: number) {
    const before = places;
    void trip.set({ places: places.filter((_, i) => i !== k) });
    trip.chosen = null;
    undo.here(`Place ${before[k]!.name || letter(k)} is gone.`, () => trip.set({ places: before }));
  }
</script>

<Trouble words={trouble} />
{#if plan}
  {#each plan.planned.said as one, k (k)}<p class="said">{say(one)}</p>{/each}
  {#if !trip.map?.grid}
    <p>Places are proposed as soon as some depths are known: see Lake.</p>
  {:else if places.length === 0}
    <p>No water lies in that band with any likelihood. Choose another band, or sound more of the lake.</p>
  {/if}
  <ol class="legs" aria-label="The walk">
    {#each legs as leg, n (n)}
      {@const k = leg.to}
      <li class:chosen={k !== null && trip.chosen === k}>
        <p class="way figures">
          {way(leg.distance_m, system)}
          {compass(leg.bearing_deg)}
          {trim(leg.bearing_deg, 0)}°, {span(leg.walk_min)}
        </p>
        {#if k === null}
          <p><strong>Back at {timeOfDay(leg.arrives_min)}</strong></p>
        {:else}
          {@const judged = trip.judged[k]}
          <p>
            <strong>{places[k]?.name || letter(k)}</strong>
            {timeOfDay(leg.arrives_min)} to {timeOfDay(leg.arrives_min + leg.stay_min)}{leg.light === "day"
              ? ""
              : leg.light === "dusk"
                ? ", half dark"
                : ", dark"}
          </p>
          {#if judged}
            <p class="why">
              {judged.why.map(say).join(" ")}
            </p>
          {/if}
          <div class="button-row">
            <button onclick={() => trip.setPlace(k, { out: true, wanted: false })}
              >Leave out<span class="unseen"> {places[k]?.name}</span></button
            >
            <button
              onclick={() => {
                drilling = drilling === k ? null : k;
                deepest = "";
              }}
              aria-expanded={drilling === k}
              >Drilled here<span class="unseen"> at {places[k]?.name}</span></button
            >
          </div>
          {#if drilling === k}
            <form
              class="drilled"
              onsubmit={(event) => {
                event.preventDefault();
                void noteHole(k);
              }}
            >
              <label for="drilled-depth">Depth, {system === "feet" ? "ft" : "m"}</label>
              <input
                id="drilled-depth"
                inputmode="decimal"
                autocomplete="off"
                bind:value={deepest}
                required
              />
              <button class="primary">Put it on the map</button>
            </form>
          {/if}
        {/if}
        {#each warned(n) as one (one.said.text)}<p class="beware">{say(one.said)}</p>{/each}
      </li>
    {/each}
  </ol>
  {#if late.length > 0 || left.length > 0}
    <h2>Not today</h2>
    <ul class="lines">
      {#each [...late, ...left] as k (k)}
        <li class="other">
          <span
            ><b>{places[k]?.name || letter(k)}</b>
            {late.includes(k) ? "does not fit the day" : "left out"}{trip.judged[k]
              ? `; about ${depth(trip.judged[k].depth_m, system)} deep`
              : ""}</span
          >
          <span class="button-row">
            {#if left.includes(k)}
              <button onclick={() => trip.setPlace(k, { out: false, wanted: true })}
                >Take in<span class="unseen"> {places[k]?.name}</span></button
              >
            {/if}
            <RemoveButton what="Remove {places[k]?.name}" remove={() => remove(k)} />
          </span>
        </li>
      {/each}
    </ul>
  {/if}
  {#if trip.others.length > 0}
    <h2>Other places</h2>
    <ul class="lines">
      {#each trip.others as one (`${one.east_m} ${one.north_m}`)}
        <li class="other">
          <span>{one.why.map(say).join(" ")}</span>
          <button onclick={() => trip.takeIn(one)}>Take in</button>
        </li>
      {/each}
    </ul>
  {/if}
  {#if trip.teach.length > 0}
    <h2>Where one more hole teaches most</h2>
    <ul class="lines" aria-label="Where one more hole teaches most">
      {#each trip.teach.slice(0, 3) as one (`${one.east_m} ${one.north_m}`)}
        <li class="other">
          <span>{say(one.why)}</span>
          <button onclick={() => trip.takeIn(one)}>Take in</button>
        </li>
      {/each}
    </ul>
  {/if}
  <div class="button-row">
    <button onclick={() => trip.proposeAnew()} disabled={trip.starts.length === 0}>Propose anew</button>
    <button onclick={() => give("waypoints")}>Waypoints, GPX</button>
    <button onclick={() => give("calendar")}>Calendar, ICS</button>
  </div>
  <details>
    <summary>What public guidance says of ice</summary>
    <p>
      Safety authorities in general name these for new, clear ice, and differ; white ice counts half. Your
      local authority's word goes first, and no thickness is safe.
    </p>
    <ul class="lines">
      {#each plan.guidance as one (one.use)}
        <li>
          {one.use}: {small(one.least_m, system)}{one.fullest_m > one.least_m
            ? ` to ${small(one.fullest_m, system)}`
            : " and more"}
        </li>
      {/each}
    </ul>
  </details>
  <ul class="cautions">
    {#each plan.cautions as one (one)}<li>{one}</li>{/each}
  </ul>
{/if}

<style>
  .said:first-of-type {
    font-size: 1.1rem;
    font-weight: 600;
  }

  .legs {
    display: grid;
    gap: 8px;
    margin: 0;
    padding: 0;
    list-style: none;
  }

  .legs > li {
    display: grid;
    gap: 3px;
    padding: 8px 10px;
    border-left: 6px solid var(--line);
    background: var(--panel);
  }

  .legs > .chosen {
    border-left-color: var(--action);
  }

  .way,
  .why {
    color: var(--soft);
    font-size: 0.92rem;
  }

  .beware {
    padding-left: 10px;
    border-left: 4px solid var(--stop);
    font-weight: 600;
    font-size: 0.95rem;
  }

  .other {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 4px 12px;
  }

  .other > span:first-child {
    flex: 1 1 200px;
  }

  .drilled {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
  }

  .drilled input {
    width: 110px;
    font: 600 1.1rem var(--figures);
  }

  .cautions {
    margin: 0;
    padding-left: 20px;
    color: var(--soft);
    font-size: 0.92rem;
  }
</style>
