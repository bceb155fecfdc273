<script lang="ts">
  // Which unit hangs on which battery, when that is dead, and what would keep it alive; the batteries and their record.
  import { api, ok, words } from "../../lib/api/client";
  import type { Battery, BatteryFields, TripDay } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import Measured from "../../lib/controls/Measured.svelte";
  import NumberKnob from "../../lib/controls/NumberKnob.svelte";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { undo } from "../../lib/undo.svelte";
  import { plainMeasure as plain, sentence, trim } from "../../lib/units";
  import { when } from "../../lib/when";
  import { world } from "../../lib/world.svelte";
  import BatteryForm from "./BatteryForm.svelte";
  import { batteryFields, trip } from "./trip.svelte";

  type Powered = TripDay["powered"][number];
  const system = $derived(prefs.system);
  const day = $derived(trip.day!);
  const say = (one: { text: string; values: Parameters<typeof sentence>[1] }) =>
    sentence(one.text, one.values, system);

  let trouble = $state("");

  async function attempt(work: () => Promise<unknown>) {
    trouble = "";
    try {
      await work();
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const set = (k: number, patch: Partial<Powered>) =>
    trip.set({ powered: day.powered.map((one, i) => (i === k ? { ...one, ...patch } : one)) });
  const add = () =>
    trip.set({
      powered: [
        ...day.powered,
        {
          unit: world.units[0]!.id,
          battery: trip.batteries[0]!.id,
          brightness: 1,
          extra_a: 0,
          turned_down: null,
        },
      ],
    });
  function drop(k: number) {
    const before = day.powered;
    void trip.set({ powered: before.filter((_, i) => i !== k) });
    undo.here("The unit is off the list.", () => trip.set({ powered: before }));
  }

  const NEW: BatteryFields = {
    name: "Battery",
    chemistry: "lithium iron phosphate",
    capacity_ah: 7,
    rated_hours: 20,
    nominal_v: 12,
    charges: 0,
    spare: false,
  };
  let form: { id: number | null; version: number; fields: BatteryFields } | null = $state(null);

  const note = (battery: Battery, what: "charged" | "volts", volts: number | null) =>
    attempt(async () => {
      const at = new Date().toISOString();
      await ok(
        api.POST("/api/batteries/{row_id}/notes", {
          params: { path: { row_id: battery.id } },
          body: { at, what, volts },
        }),
      );
      metered = null;
      await trip.loadKit();
    });

  const remove = (battery: Battery) =>
    attempt(async () => {
      const removed = await ok(
        api.DELETE("/api/batteries/{row_id}", { params: { path: { row_id: battery.id } } }),
      );
      await undo.kept(`${battery.name} is removed.`, removed, () => trip.loadKit());
    });

  /** What the volts that are typed mean: how full, and for how long in this cold. */
  let metering = 0;
  let fullness: { low: number; high: number; from: number; to: number } | null = $state(null);
  async function meter(battery: Battery, value: number | null) {
    volts = value;
    fullness = null;
    if (value === null) return;
    const mine = ++metering;
    const unit = trip.day?.powered.find((one) => one.battery === battery.id);
    const profile = (unit && trip.unitOf(unit)) ?? world.units[0];
    const draw_a = Math.max(
      (profile?.draw_a ?? 0.3) + (profile?.light_a ?? 0.3) + (unit?.extra_a ?? 0),
      0.005,
    );
    try {
      const { charged, hours } = await ok(
        api.POST("/api/trip/volts", {
          body: { battery: batteryFields(battery), volts: value, draw_a, temperature_c: day.temperature_c },
        }),
      );
      if (mine === metering)
        fullness = { low: charged.low, high: charged.high, from: hours.low, to: hours.high };
    } catch (problem) {
      trouble = words(problem);
    }
  }

  let metered: number | null = $state(null); // which battery a volt meter is at
  let volts: number | null = $state(null);

  const lights = [
    { value: 0, label: "as it is" },
    { value: 0.5, label: "half" },
    { value: 0.3, label: "a third" },
    { value: 0.1, label: "lowest" },
  ];
</script>

<Trouble words={trouble} />
{#each day.powered as one, k (k)}
  {@const found = trip.alive[k]}
  <section class="unit" class:dead={found?.lives === "no"} aria-label="Unit {k + 1}">
    <div class="row">
      <label class="field"
        >Unit
        <select value={one.unit} onchange={(event) => set(k, { unit: Number(event.currentTarget.value) })}>
          {#each world.units as unit (unit.id)}<option value={unit.id}>{unit.name}</option>{/each}
        </select></label
      >
      <label class="field"
        >Battery
        <select
          value={one.battery}
          onchange={(event) => set(k, { battery: Number(event.currentTarget.value) })}
        >
          {#each trip.batteries as battery (battery.id)}<option value={battery.id}>{battery.name}</option
            >{/each}
        </select></label
      >
    </div>
    {#if found}
      <p class="words"><strong>{say(found.said)}</strong></p>
      {#each found.helps as help (help.text)}<p class="help">{say(help)}</p>{/each}
    {:else if !trip.batteryOf(one) || !trip.unitOf(one)}
      <p>This unit or battery is not here any more. Choose another.</p>
    {/if}
    <NumberKnob
      name="Screen's light"
      value={one.brightness}
      low={0}
      high={1}
      step={0.1}
      show={(value) => `${Math.round(100 * value)} %`}
      change={(brightness) => set(k, { brightness })}
    />
    <p class="name">After sunset</p>
    <Choice
      name="Light after sunset"
      options={lights}
      value={one.turned_down ?? 0}
      choose={(value) => set(k, { turned_down: value === 0 ? null : value })}
    />
    <Measured
      id="extra-{k}"
      name="What else hangs on it"
      measure={plain("A", 2)}
      value={one.extra_a}
      low={0}
      high={50}
      hint="A head that turns, a telephone, a lamp."
      change={(extra_a) => extra_a !== null && set(k, { extra_a })}
    />
    <RemoveButton what="Remove unit {k + 1} from the list" remove={() => drop(k)} />
  </section>
{:else}
  <p>No unit is on a battery yet. {trip.batteries.length === 0 ? "Add a battery first." : ""}</p>
{/each}
{#if trip.batteries.length > 0 && world.units.length > 0}<button onclick={add}
    >Another unit on a battery</button
  >{/if}

<h2>Batteries</h2>
<ul class="lines">
  {#each trip.batteries as battery (battery.id)}
    <li>
      <b>{battery.name}</b>{battery.spare ? ", the spare" : ""}: {battery.chemistry},
      <span class="figures">{trim(battery.capacity_ah, 1)} Ah</span>, charged {battery.charges} times,
      {Math.round(100 * battery.left_by_age)} % of its capacity left.
      {#each battery.notes.slice(0, 2) as one (one.id)}
        <span class="soft"
          >{one.what === "charged" ? "Charged" : `${trim(one.volts ?? 0, 2)} V`}, {when(one.at)}.
        </span>
      {/each}
      <div class="button-row">
        <button onclick={() => note(battery, "charged", null)}
          >Charged now<span class="unseen">: {battery.name}</span></button
        >
        <button
          onclick={() => {
            metered = metered === battery.id ? null : battery.id;
            volts = null;
            fullness = null;
          }}
          aria-expanded={metered === battery.id}
          >Read volts<span class="unseen"> of {battery.name}</span></button
        >
        <button
          onclick={() =>
            (form = { id: battery.id, version: battery.version, fields: batteryFields(battery) })}
          >Change<span class="unseen"> {battery.name}</span></button
        >
        <RemoveButton what="Remove {battery.name}" remove={() => remove(battery)} />
      </div>
      {#if metered === battery.id}
        <form
          class="button-row"
          onsubmit={(event) => {
            event.preventDefault();
            if (volts !== null) void note(battery, "volts", volts);
          }}
        >
          <Measured
            id="volts-{battery.id}"
            name="Volts, some hours after charging"
            measure={plain("V", 2)}
            value={volts}
            low={battery.nominal_v / 2}
            high={battery.nominal_v * 1.5}
            change={(value) => void meter(battery, value)}
          />
          {#if fullness}
            <p role="status">
              {Math.round(100 * fullness.low)} to {Math.round(100 * fullness.high)} % full: {trim(
                fullness.from,
                1,
              )}
              to {trim(fullness.to, 1)} hours with the screen full on, in that cold.
            </p>
          {/if}
          <button class="primary">Note it</button>
        </form>
      {/if}
    </li>
  {/each}
</ul>
{#if form}
  <BatteryForm {...form} done={() => (form = null)} />
{:else}
  <button onclick={() => (form = { id: null, version: 0, fields: { ...NEW } })}>Add a battery</button>
{/if}
<ul class="cautions">
  {#each trip.batteryCautions as one (one)}<li>{one}</li>{/each}
</ul>

<style>
  .unit {
    display: grid;
    gap: 8px;
    padding: 10px;
    border-left: 6px solid var(--pine);
    background: var(--panel);
  }

  .dead {
    border-left-color: var(--stop);
  }

  .dead .words {
    color: var(--stop);
  }

  .help {
    padding-left: 10px;
    border-left: 4px solid var(--pine);
  }

  .row {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(140px, 1fr));
    gap: 10px;
  }

  .field,
  .name {
    font-weight: 600;
  }

  select {
    width: 100%;
    min-width: 0;
    font-weight: 400;
  }

  .cautions {
    margin: 0;
    padding-left: 20px;
    color: var(--soft);
    font-size: 0.92rem;
  }
</style>
