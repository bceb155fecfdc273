<script lang="ts">
  // Where to set the shelter down: places and turns from which its lines reach the best mix, against where it stands.
  import { api, ifMatch, ok, words } from "../../lib/api/client";
  import type { Party, Said, ShelterPlaces, TripDay } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence, trim, way } from "../../lib/units";
  import { Wait } from "../../lib/wait.svelte";
  import { compass } from "../trip/compass";

  let { holeId, party, turn }: { holeId: number; party: Party; turn: (deg: number) => void } = $props();

  type Spot = ShelterPlaces["places"][number];
  const TURNS = [0, 45, 90, 135, 180, 225, 270, 315].map((value) => ({ value, label: compass(value) }));
  const MOST_WORTH = 14; // 10 for the holes themselves, 4 for the mix
  const WANTED = 5; // worth of a place that a person puts in; it is judged anew when the day is looked at

  let told: ShelterPlaces | null = $state.raw(null);
  let asked: Party | null = $state.raw(null);
  let trouble = $state("");
  let done = $state("");
  const wait = new Wait();

  const old = $derived(asked !== party);
  const spots = $derived.by(() => {
    if (!told) return [];
    const found = told.places.map((one, k) => ({ one, name: `Place ${String.fromCharCode(65 + k)}` }));
    return told.stands ? [...found, { one: told.stands, name: "Where you stand" }] : found;
  });
  const write = (one: Said) => sentence(one.text, one.values, prefs.system);
  const clockOf = (min: number) => sentence("{at}", { at: { value: min, unit: "clock" } }, prefs.system);

  async function look() {
    const body = { holes: party.holes, people: party.seats.length, turn_deg: party.turn_deg, count: 3 };
    const of = party;
    trouble = done = "";
    try {
      const params = { path: { hole_id: holeId } };
      told = (await wait.during((headers) =>
        ok(api.POST("/api/holes/{hole_id}/party/places", { params, body, headers })),
      )) as ShelterPlaces;
      asked = of;
    } catch (problem) {
      trouble = words(problem);
    }
  }

  /** Onto the planned day, as a place that a person wants. */
  async function onTrip(spot: Spot, name: string) {
    const lake_id = told!.lake_id!;
    trouble = done = "";
    try {
      const kept = await ok(api.GET("/api/lakes/{lake_id}/day", { params: { path: { lake_id } } }));
      const { id: _, version, ...day } = kept;
      const { east_m, north_m } = spot.placing;
      const place = {
        name: `Shelter ${name.slice(-1)}`,
        east_m,
        north_m,
        worth: WANTED,
        wanted: true,
        out: false,
      };
      const body: TripDay = { ...(day as TripDay), places: [...(day as TripDay).places, place] };
      await ok(
        api.PUT("/api/lakes/{lake_id}/day", {
          params: { path: { lake_id }, header: ifMatch(version) },
          body,
        }),
      );
      done = `${place.name} is a place of the planned day: find it on the map under Trip.`;
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const turnTo = ({ placing }: Spot) =>
    `Turn the top to ${compass(placing.turn_deg)} (${trim(placing.turn_deg, 0)}°).`;
  /** Of depths that were drawn by chance: it is never certain. */
  const chance = (share: number) =>
    share > 0.99 ? "over 99 %" : share < 0.01 ? "under 1 %" : `${trim(100 * share, 0)} %`;

  const room = $derived(
    Math.max(...party.holes.map((one) => Math.hypot(one.x_m, one.y_m)), 1) + 0.7, // with the numbers' own room
  );
  const turned = (one: Spot) =>
    one.holes.map((hole) => ({ x: hole.east_m - one.placing.east_m, y: one.placing.north_m - hole.north_m }));
</script>

<section aria-label="Where to set it down" data-testid="shelter-spots">
  <h2>Where to set it down</h2>
  <p class="soft">Tries your holes all over the lake, in every turn, for the hours that are planned.</p>
  <p class="turn">The top of the drawing points to</p>
  <div class="turns">
    <Choice name="The top of the drawing points to" options={TURNS} value={party.turn_deg} choose={turn} />
  </div>
  <div class="acts">
    <button class="primary" onclick={look}>{told && old ? "Look again" : "Look for a better place"}</button>
  </div>
  <Waiting {wait} words="Trying the shelter all over the lake" />
  <Trouble words={trouble} />
  <p role="status">{done}</p>
  {#if told && told.lake_id === null}
    <p class="word">This hole lies on no lake yet. Say where under Trip, Lake, Hole.</p>
  {:else if told && !told.stands}
    <p class="word">Nothing was sounded on {told.lake} yet. Put depths on its map under Trip, Lake.</p>
  {:else if told && told.band && told.hours}
    <div class:old aria-busy={old}>
      <p>
        {told.lake}, {told.hours.date}, {clockOf(told.hours.begins_min)} to {clockOf(told.hours.ends_min)},
        fishing
        {depth(told.band.from_m, prefs.system)} to {depth(told.band.to_m, prefs.system)}.
      </p>
      <ol class="spots" aria-label="Places for the shelter, best first">
        {#each spots as { one, name } (name)}
          <li class:stands={one === told.stands}>
            <svg viewBox="{-room} {-room} {2 * room} {2 * room}" aria-hidden="true">
              {#each turned(one) as hole, h (h)}
                <circle cx={hole.x} cy={hole.y} r={room / 6.5} />
                <text x={hole.x} y={hole.y + room / 14} font-size={room / 5}>{h + 1}</text>
              {/each}
              <path d="M0 {-room * 0.96}l{room * 0.07} {room * 0.2}h{-room * 0.14}Z" />
            </svg>
            <div>
              <h3>
                {name}{#if one !== told.stands}: {way(one.away_m, prefs.system)}
                  {compass(one.bearing_deg)} ({trim(one.bearing_deg, 0)}°){/if}
              </h3>
              <p>
                {#if one !== told.stands}{turnTo(one)}{/if}
                Worth <b class="figures">{trim(one.worth, 1)}</b> of {MOST_WORTH}.
                {#if one.better !== null}Better than where you stand with a chance of
                  <b class="figures">{chance(one.better)}</b>.{/if}
              </p>
              <ul>
                {#each one.why as said, k (k)}<li>{write(said)}</li>{/each}
              </ul>
              {#each [...one.beware, ...one.ice_said] as said, k (k)}<p class="beware">
                  {write(said)}
                </p>{/each}
              <p class:beware={one.load.beyond}>{write(one.load.said)}</p>
              {#if one !== told.stands}
                <div class="acts">
                  <button onclick={() => onTrip(one, name)} aria-label="Onto the trip's map: {name}"
                    >Onto the trip's map</button
                  >
                </div>
              {/if}
            </div>
          </li>
        {/each}
      </ol>
      <ul class="cautions">
        {#each told.cautions as one (one)}<li>{one}</li>{/each}
      </ul>
    </div>
  {/if}
</section>

<style>
  section {
    display: grid;
    gap: 8px;
    margin-top: 14px;
  }

  .turn {
    margin-bottom: -4px;
  }

  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }

  .spots {
    display: grid;
    gap: 12px;
    margin: 8px 0;
    padding: 0;
    list-style: none;
  }

  .spots > li {
    display: grid;
    grid-template-columns: 96px minmax(0, 1fr);
    gap: 12px;
    padding: 10px 12px;
    border-left: 6px solid var(--pine);
    background: var(--panel);
  }

  .spots > li.stands {
    border-left-style: dotted;
  }

  .spots ul {
    margin: 4px 0;
    padding-left: 18px;
  }

  svg {
    width: 96px;
    height: 96px;
    border: 1.5px solid var(--line);
    border-radius: 6px;
    background: var(--water);
  }

  circle {
    fill: var(--ice);
    stroke: var(--pine);
    stroke-width: 0.05;
  }

  text {
    fill: var(--ink);
    text-anchor: middle;
  }

  path {
    fill: var(--action);
  }

  .beware,
  .word {
    padding: 4px 10px;
    border-left: 6px double var(--stop);
  }

  .word {
    border-left: 6px solid var(--action);
    background: var(--panel);
  }

  .old {
    opacity: 0.6;
  }

  .cautions {
    margin: 12px 0 0;
    padding-left: 18px;
    font-size: 0.92rem;
  }

  @media (max-width: 760px) {
    .turns :global(.choice) {
      display: grid;
      grid-template-columns: repeat(4, 1fr);
    }

    .spots > li {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
