<script lang="ts">
  // Where next: holes and hours worth a return, and places like those that worked, each with its reason and its way
  // into the coming day.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { Elsewhere, Lake, Returns } from "../../lib/api/types";
  import Sources from "../../lib/controls/Sources.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence } from "../../lib/units";
  import { when } from "../../lib/when";
  import { world } from "../../lib/world.svelte";
  import EvidenceMap from "./EvidenceMap.svelte";
  import { intoTheDay } from "./into_the_day";
  import { rate } from "./words";

  let returns = $state<Returns | null>(null);
  let elsewhere = $state<Elsewhere | null>(null);
  let lakes = $state<Lake[]>([]);
  let trouble = $state("");
  let said = $state("");

  const tomorrow = new Date(Date.now() + 86_400_000);
  let day = $state(
    `${tomorrow.getFullYear()}-${String(tomorrow.getMonth() + 1).padStart(2, "0")}-${String(tomorrow.getDate()).padStart(2, "0")}`,
  );

  onMount(async () => {
    try {
      [returns, elsewhere, { lakes }] = await Promise.all([
        ok(api.GET("/api/log/returns")),
        ok(api.GET("/api/log/elsewhere")),
        ok(api.GET("/api/lakes")),
      ]);
    } catch (problem) {
      trouble = words(problem);
    }
  });

  const say = (one: Returns["returns"][number]["why"]) => sentence(one.text, one.values, prefs.system);

  async function take(lakeId: number, name: string, east_m: number, north_m: number) {
    try {
      said = await intoTheDay(lakeId, {
        name: name.slice(0, 60),
        east_m,
        north_m,
        worth: 8,
        wanted: true,
        out: false,
      });
      trouble = "";
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const mapped = $derived(
    lakes
      .map((lake) => ({
        lake,
        holes: (returns?.holes ?? []).filter((one) => one.lake_id === lake.id && one.east_m !== null),
        places: (elsewhere?.places ?? []).filter((one) => one.lake_id === lake.id),
      }))
      .filter((one) => one.holes.length + one.places.length > 0),
  );
</script>

<section class="next" aria-label="Where next">
  <Trouble words={trouble} />
  <p class="said" role="status">
    {said}
    {#if said}<a class="button" href="#/hole/{world.holeId ?? 0}/trip/day">See the day</a>{/if}
  </p>
  {#if !returns && !trouble}<p class="soft" role="status">Reading the log and the lakes.</p>{/if}
  <div class="columns">
    <div>
      <h2>Worth a return</h2>
      {#if returns && returns.returns.length === 0}
        <p>
          No hole has shown yet that it brings more than your others: it takes two bites at one, and hours at
          some. Until then the map and the band of depths are the better guide.
        </p>
      {/if}
      <ul class="lines">
        {#each returns?.returns ?? [] as one (one.hole)}
          <li>
            <p class="name">
              <b>{one.name}</b>
              {one.water} <span class="figures">{rate(one.rate.low)} to {rate(one.rate.high)}</span> an hour
            </p>
            <p>{say(one.why)}</p>
            <p class="soft">Fished last {when(one.last_at, true)}.</p>
            {#if one.hole_id !== null}
              <div class="button-row">
                {#if one.lake_id !== null && one.east_m !== null && one.north_m !== null}
                  <button
                    class="primary"
                    onclick={() => void take(one.lake_id!, one.name, one.east_m!, one.north_m!)}
                    >Into the coming day</button
                  >
                  <a class="button" href="/api/log/returns/{one.hole_id}/waypoint" download>Waypoint</a>
                {/if}
                <a class="button" href="/api/log/returns/{one.hole_id}/calendar?date={day}" download
                  >Calendar entry</a
                >
              </div>
            {/if}
          </li>
        {/each}
      </ul>
      {#if (returns?.returns.length ?? 0) > 0}
        <label class="day">Calendar entries for <input type="date" bind:value={day} /></label>
      {/if}

      <h2>Elsewhere: places like those that worked</h2>
      {#if elsewhere && elsewhere.places.length === 0}
        <p>
          Nothing to take elsewhere yet: it takes a few hours at holes that were placed on a lake, and kinds
          of places that brought more than others.
        </p>
      {/if}
      <ul class="lines">
        {#each elsewhere?.places ?? [] as one, k (k)}
          <li>
            <p class="name">
              <b>{one.lake}, {depth(one.depth_m, prefs.system)} deep</b>
              <span class="figures">{rate(one.rate.low)} to {rate(one.rate.high)}</span> an hour
            </p>
            <p>{say(one.why)}</p>
            <div class="button-row">
              <button
                onclick={() => void take(one.lake_id, `Like what worked ${k + 1}`, one.east_m, one.north_m)}
                >Into the coming day</button
              >
            </div>
          </li>
        {/each}
      </ul>
      <p class="soft">
        A log says where you fished, not where fish are. Ice changes from day to day: measure it as you go,
        and keep to what local rules close or protect.
      </p>
    </div>
    <div class="maps">
      {#each mapped as one (one.lake.id)}<EvidenceMap {...one} />{/each}
    </div>
  </div>
  <Sources of="log" />
</section>

<style>
  .next {
    display: grid;
    align-content: start;
    gap: 8px;
    padding: 12px 20px;
    overflow-y: auto;
    min-height: 0;
  }

  .columns {
    display: grid;
    grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
    gap: 10px 36px;
    align-items: start;
  }

  .said {
    display: flex;
    align-items: center;
    gap: 12px;
    color: var(--pine);
    font-weight: 600;
  }

  .said:not(:has(a)) {
    display: none;
  }

  .name {
    font-size: 1.05rem;
  }

  .lines > li {
    display: grid;
    gap: 4px;
    padding: 8px 0;
  }

  h2:not(:first-child) {
    margin-top: 20px;
  }

  .day {
    display: inline-flex;
    align-items: center;
    gap: 8px;
    margin-top: 8px;
    color: var(--soft);
  }

  input {
    min-height: var(--target);
  }

  @media (max-width: 760px) {
    .next {
      padding: 10px;
    }

    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
