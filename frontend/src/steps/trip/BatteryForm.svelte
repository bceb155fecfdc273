<script lang="ts">
  // One battery as it is typed, with how long it would give a unit in the cold of the day.
  import { untrack } from "svelte";
  import { api, ifMatch, ok, words } from "../../lib/api/client";
  import { limits } from "../../lib/api/limits";
  import type { BatteryFields } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import Measured from "../../lib/controls/Measured.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { plainMeasure as plain, trim } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import { trip } from "./trip.svelte";

  let {
    id,
    version,
    fields: given,
    done,
  }: {
    /** Null for a new one. */
    id: number | null;
    version: number;
    fields: BatteryFields;
    done: () => void;
  } = $props();

  const FIELDS = limits.BatteryFields;
  const fields = $state(untrack(() => ({ ...given })));
  let trouble = $state("");
  const day = $derived(trip.day!);

  async function save() {
    trouble = "";
    try {
      if (id === null) await ok(api.POST("/api/batteries", { body: fields }));
      else {
        const params = { path: { row_id: id }, header: ifMatch(version) };
        await ok(api.PUT("/api/batteries/{row_id}", { params, body: fields }));
      }
      await trip.loadKit();
      done();
    } catch (problem) {
      trouble = words(problem);
    }
  }

  /** A full one at its rated draw in this cold, so that a number stands there as it is typed. */
  let hours: { low: number; likely: number; high: number } | null = $state(null);
  let typing = 0;
  $effect(() => {
    const mine = ++typing;
    const { chemistry, capacity_ah, rated_hours } = fields;
    const draw_a = world.units[0] ? world.units[0].draw_a + world.units[0].light_a : 0.5;
    void ok(
      api.POST("/api/trip/power", {
        body: {
          chemistry,
          capacity_ah,
          rated_hours,
          draw_a: Math.max(draw_a, 0.005),
          temperature_c: day.temperature_c,
        },
      }),
    )
      .then((answer) => mine === typing && (hours = answer.hours))
      .catch(() => (hours = null));
  });
</script>

<Trouble words={trouble} />
<form
  class="battery"
  onsubmit={(event) => {
    event.preventDefault();
    void save();
  }}
>
  <label class="field">Name <input bind:value={fields.name} maxlength={FIELDS.name.longest} required /></label
  >
  <Choice
    name="Kind"
    options={[
      { value: "lead" as const, label: "Lead" },
      { value: "lithium iron phosphate" as const, label: "Lithium iron phosphate" },
    ]}
    value={fields.chemistry}
    choose={(chemistry) => (fields.chemistry = chemistry)}
  />
  <div class="row">
    <Measured
      id="battery-ah"
      name="Capacity"
      measure={plain("Ah", 1)}
      value={fields.capacity_ah}
      low={FIELDS.capacity_ah.min}
      high={FIELDS.capacity_ah.max}
      change={(value) => value !== null && (fields.capacity_ah = value)}
    />
    <Measured
      id="battery-v"
      name="Called"
      measure={plain("V", 1)}
      value={fields.nominal_v}
      low={FIELDS.nominal_v.min}
      high={FIELDS.nominal_v.max}
      change={(value) => value !== null && (fields.nominal_v = value)}
    />
    <Measured
      id="battery-charges"
      name="Times charged"
      measure={plain("", 0)}
      value={fields.charges}
      low={0}
      high={FIELDS.charges.max}
      change={(value) => value !== null && (fields.charges = Math.round(value))}
    />
    <Measured
      id="battery-rated"
      name="Rated over"
      measure={plain("hours", 1)}
      value={fields.rated_hours}
      low={FIELDS.rated_hours.min}
      high={FIELDS.rated_hours.max}
      change={(value) => value !== null && (fields.rated_hours = value)}
    />
  </div>
  <label class="tick-line"
    ><input type="checkbox" bind:checked={fields.spare} /> It comes along as a spare, warm</label
  >
  {#if hours}
    <p>
      New and full it would give {world.units[0]?.name ?? "a unit"}
      {trim(hours.low, 1)} to {trim(hours.high, 1)} hours in that cold, likely {trim(hours.likely, 1)}.
    </p>
  {/if}
  <div class="button-row">
    <button class="primary">Keep the battery</button>
    <button type="button" onclick={done}>Leave it</button>
  </div>
</form>

<style>
  .battery {
    display: grid;
    gap: 10px;
    padding: 10px;
    border: 1.5px solid var(--line);
    border-radius: 6px;
  }

  .row {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(140px, 1fr));
    gap: 10px;
  }

  .field {
    font-weight: 600;
  }

  .field input {
    width: 100%;
    min-width: 0;
    font-weight: 400;
  }
</style>
