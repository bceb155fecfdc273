<script lang="ts">
  // The day: which, from when to when, for whom and what, over what ice and snow; and the band that comes of it.
  import { limits } from "../../lib/api/limits";
  import type { TripDay } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import Measured from "../../lib/controls/Measured.svelte";
  import NumberKnob from "../../lib/controls/NumberKnob.svelte";
  import { options } from "../../lib/controls/options";
  import { prefs } from "../../lib/prefs.svelte";
  import { deepMeasure, depth, sentence, shortMeasure, timeOfDay, warmMeasure } from "../../lib/units";
  import BandTable from "./BandTable.svelte";
  import { trip } from "./trip.svelte";

  const FIELDS = limits.TripDayFields;
  const SEASONS = options(FIELDS.season.choices);
  const LIGHTS = options(FIELDS.light.choices);
  const SPECIES = ["whitefish", "burbot", "char", "grayling"];
  const day = $derived(trip.day!);
  const system = $derived(prefs.system);
  const set = (patch: Partial<TripDay>) => void trip.set(patch);

  const clock = (minutes: number) => timeOfDay(minutes).padStart(5, "0");
  function time(text: string, field: "begins_min" | "ends_min") {
    const [hours, minutes] = text.split(":").map(Number);
    if (hours === undefined || minutes === undefined || Number.isNaN(hours + minutes)) return;
    const value = 60 * hours + minutes;
    const other = field === "begins_min" ? day.ends_min : day.begins_min;
    wrong =
      field === "begins_min"
        ? value >= other
          ? "Begin before you are back."
          : ""
        : value <= other
          ? "Be back after you begin."
          : "";
    if (!wrong) set({ [field]: value });
  }
  let wrong = $state("");
  let table = $state(false);

  const own = $derived(day.band_m.length === 2 ? (day.band_m as [number, number]) : null);
  const sun = $derived(trip.plan?.sun);
  const sunWords = $derived.by(() => {
    if (!sun) return "";
    if (trip.lake?.latitude === null)
      return "Say where the lake lies, under Lake: then sunrise and dusk stand here.";
    if (sun.sunrise_min === null || sun.sunset_min === null)
      return sun.noon_up ? "The sun does not set on that day." : "The sun does not rise on that day.";
    const dusk = sun.dusk_min === null ? "" : `, dark from ${timeOfDay(sun.dusk_min)}`;
    return `Sun from ${timeOfDay(sun.sunrise_min)} to ${timeOfDay(sun.sunset_min)}${dusk}.`;
  });
  const meters = deepMeasure(1);

  function band(at: 0 | 1, value: number | null) {
    const now: [number, number] = own ?? [trip.band?.from_m ?? 3, trip.band?.to_m ?? 8];
    if (value === null) return set({ band_m: [] });
    now[at] = value;
    bandWrong = now[0] >= now[1] ? "The shallow end must be above the deep one." : "";
    if (!bandWrong) set({ band_m: [...now] });
  }
  let bandWrong = $state("");
</script>

<div class="row">
  <div class="field">
    <label for="trip-date">Date</label>
    <input
      id="trip-date"
      type="date"
      value={day.date}
      onchange={(event) => event.currentTarget.value && set({ date: event.currentTarget.value })}
    />
  </div>
  <div class="field">
    <label for="trip-from">From</label>
    <input
      id="trip-from"
      type="time"
      value={clock(day.begins_min)}
      onchange={(event) => time(event.currentTarget.value, "begins_min")}
    />
  </div>
  <div class="field">
    <label for="trip-to">Back by</label>
    <input
      id="trip-to"
      type="time"
      value={clock(day.ends_min)}
      onchange={(event) => time(event.currentTarget.value, "ends_min")}
    />
  </div>
</div>
{#if wrong}<p class="wrong" role="alert">{wrong}</p>{/if}
<p class="sun">{sunWords}</p>

<Choice name="Season" options={SEASONS} value={day.season} choose={(season) => set({ season })} />
<div class="row">
  <div class="field">
    <label for="trip-fish">Fish</label>
    <input
      id="trip-fish"
      list="trip-fishes"
      value={day.species}
      maxlength={FIELDS.species.longest}
      onchange={(event) =>
        event.currentTarget.value.trim() && set({ species: event.currentTarget.value.trim() })}
    />
    <datalist id="trip-fishes">
      {#each SPECIES as one (one)}<option value={one}></option>{/each}
    </datalist>
  </div>
  <div class="field wide">
    <span class="name">Light</span>
    <Choice name="Light" options={LIGHTS} value={day.light} choose={(light) => set({ light })} />
  </div>
</div>

<section class="band" aria-label="The band">
  {#each trip.plan?.bands ?? [] as one, k (one.by)}
    <p class:used={k === 0}>
      {#if k === 0}<strong>{depth(one.from_m, system)} to {depth(one.to_m, system)}.</strong>{:else}Or:{/if}
      {sentence(one.why.text, one.why.values, system)}
      {#if k > 0}
        <button onclick={() => set({ band_m: [one.from_m, one.to_m] })}
          >Use {depth(one.from_m, system)} to {depth(one.to_m, system)}</button
        >
      {/if}
    </p>
  {/each}
  <details>
    <summary>A band of your own</summary>
    <div class="row">
      <Measured
        id="band-from"
        name="Shallow end"
        measure={meters}
        value={own?.[0] ?? null}
        low={0}
        high={60}
        empty
        change={(value) => band(0, value)}
      />
      <Measured
        id="band-to"
        name="Deep end"
        measure={meters}
        value={own?.[1] ?? null}
        low={0}
        high={60}
        empty
        change={(value) => band(1, value)}
      />
    </div>
    {#if bandWrong}<p class="wrong" role="alert">{bandWrong}</p>{/if}
    <div class="buttons">
      {#if own}<button onclick={() => set({ band_m: [] })}>Back to what is proposed</button>{/if}
      <button onclick={() => (table = true)}>The table of starting depths</button>
    </div>
  </details>
</section>

<NumberKnob
  name="People"
  value={day.people}
  low={FIELDS.people.min}
  high={FIELDS.people.max}
  step={1}
  show={String}
  change={(people) => set({ people })}
/>
<NumberKnob
  name="Holes at each place"
  value={day.holes_each}
  low={FIELDS.holes_each.min}
  high={FIELDS.holes_each.max}
  step={1}
  show={String}
  change={(holes_each) => set({ holes_each })}
/>
<NumberKnob
  name="Minutes at a hole"
  value={day.looking_min}
  low={5}
  high={FIELDS.looking_min.max}
  step={5}
  show={(value) => `${value}`}
  change={(looking_min) => set({ looking_min })}
/>
<div class="row">
  <div class="field">
    <label for="trip-snow">Snow</label>
    <select
      id="trip-snow"
      value={day.snow}
      onchange={(event) => set({ snow: event.currentTarget.value as TripDay["snow"] })}
    >
      {#each options(FIELDS.snow.choices) as one (one.value)}<option value={one.value}>{one.label}</option
        >{/each}
    </select>
  </div>
  <div class="field">
    <label for="trip-auger">Auger</label>
    <select
      id="trip-auger"
      value={day.auger}
      onchange={(event) => set({ auger: event.currentTarget.value as TripDay["auger"] })}
    >
      {#each options(FIELDS.auger.choices) as one (one.value)}<option value={one.value}>{one.label}</option
        >{/each}
    </select>
  </div>
</div>
<div class="row">
  <Measured
    id="trip-ice"
    name="Ice to drill"
    measure={shortMeasure}
    value={day.ice_m}
    low={FIELDS.ice_m.min}
    high={FIELDS.ice_m.max}
    change={(ice_m) => ice_m !== null && set({ ice_m })}
  />
  <Measured
    id="trip-cold"
    name="Air"
    measure={warmMeasure}
    value={day.temperature_c}
    low={FIELDS.temperature_c.min}
    high={FIELDS.temperature_c.max}
    change={(temperature_c) => temperature_c !== null && set({ temperature_c })}
  />
</div>
<div class="field">
  <label for="trip-told">Who knows the plan and when you are back</label>
  <input
    id="trip-told"
    value={day.told}
    maxlength={FIELDS.told.longest}
    onchange={(event) => set({ told: event.currentTarget.value.trim() })}
  />
</div>
{#if table}<BandTable close={() => (table = false)} />{/if}

<style>
  .row {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(130px, 1fr));
    gap: 10px;
  }

  .wide {
    grid-column: span 2;
  }

  label,
  .name {
    font-weight: 600;
  }

  input,
  select {
    width: 100%;
    min-width: 0;
  }

  .sun {
    color: var(--soft);
  }

  .band {
    display: grid;
    gap: 6px;
    padding: 8px 12px;
    border-left: 6px solid var(--pine);
    background: var(--panel);
  }

  .band p:not(.used) {
    color: var(--soft);
  }

  .band strong {
    font-size: 1.25rem;
  }

  .buttons {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    margin-top: 8px;
  }

  .wrong {
    color: var(--stop);
    font-weight: 600;
  }
</style>
