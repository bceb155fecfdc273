<script lang="ts">
  // What is under the hole and how the transducer hangs in it: all of it may be changed, and the picture answers.
  import { constants, limits } from "../../lib/api/limits";
  import type { Scene } from "../../lib/api/types";
  import ListKnob from "../../lib/controls/ListKnob.svelte";
  import NumberKnob from "../../lib/controls/NumberKnob.svelte";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import { undo } from "../../lib/undo.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length, small } from "../../lib/units";
  import { BOTTOMS, CLARITIES } from "../hole/fields";

  let {
    scene,
    blind,
    change,
  }: {
    scene: Scene;
    /** Whether an exercise keeps back what is under the hole. */
    blind: boolean;
    change: (change: Partial<Scene>) => void;
  } = $props();

  const { foot: FOOT, inch: INCH } = constants;
  const spans = limits.SceneFields;
  const m = (value: number) => length(value, prefs.system);
  const deep = (value: number) => depth(value, prefs.system);
  const PLANKTON = spans.plankton.choices.map((one) => one.value);
  const SPECIES = limits.ShoalFields.species.choices;
  const SCHOOLS = limits.ShoalFields.form.choices;
  const STRUCTURES = limits.StructureFields.kind.choices;
  const clock = (hour: number) =>
    `${Math.floor(hour)}:${String(Math.round((hour % 1) * 60)).padStart(2, "0")}`;
  const most = $derived(Math.max(scene.bottom_depth_m - 0.3, 0.3));
  let species = $state<(typeof SPECIES)[number]["value"]>("bait");
  let form = $state<(typeof SCHOOLS)[number]["value"]>("ball");
  let structure = $state<(typeof STRUCTURES)[number]["value"]>("boulder");

  function addNeighbour() {
    const interval = 0.0471 + 0.0043 * scene.neighbours.length;
    const one = {
      distance_m: 2.5,
      frequency_hz: 200e3,
      width_deg: 12,
      power_w: 60,
      ping_interval_s: interval,
    };
    change({ neighbours: [...scene.neighbours, one] });
  }

  const without = <T,>(list: readonly T[], at: number) => list.filter((_, i) => i !== at);
  /** One of a list in the water is gone, and can be brought back. */
  function take(what: string, by: Partial<Scene>) {
    const before = Object.fromEntries(Object.keys(by).map((key) => [key, scene[key as keyof Scene]]));
    change(by);
    undo.here(`${what} is gone from the water.`, () => change(before));
  }
  const swapped = <T,>(list: readonly T[], at: number, by: Partial<T>) =>
    list.map((one, i) => (i === at ? { ...one, ...by } : one));
</script>

<section class="stack">
  <h2>How it hangs</h2>
  <NumberKnob
    name="Face below the surface"
    value={scene.face_depth_m}
    low={spans.face_depth_m.min}
    high={Math.min(most, spans.face_depth_m.max)}
    step={INCH * 2}
    show={(v) => small(v, prefs.system)}
    change={(face_depth_m) => change({ face_depth_m })}
  />
  <NumberKnob
    name="Off plumb"
    value={scene.tilt_deg}
    low={spans.tilt_deg.min}
    high={spans.tilt_deg.max}
    step={1}
    show={(v) => `${v.toFixed(0)}°`}
    change={(tilt_deg) => change({ tilt_deg })}
  />
  <div class="pair">
    <button aria-pressed={scene.face_wet} onclick={() => change({ face_wet: !scene.face_wet })}
      >{scene.face_wet ? "Face is wet" : "Face is dry"}</button
    >
    <button aria-pressed={scene.on_float} onclick={() => change({ on_float: !scene.on_float })}
      >{scene.on_float ? "On its float" : "Swings free"}</button
    >
  </div>
</section>
<section class="stack">
  <h2>Ice</h2>
  <NumberKnob
    name="Thickness"
    value={scene.ice_thickness_m}
    low={spans.ice_thickness_m.min}
    high={Math.min(most, spans.ice_thickness_m.max)}
    step={INCH * 2}
    show={(v) => small(v, prefs.system)}
    change={(ice_thickness_m) => change({ ice_thickness_m })}
  />
  <NumberKnob
    name="Slush in the hole"
    value={scene.slush_m}
    low={spans.slush_m.min}
    high={spans.slush_m.max}
    step={INCH * 2}
    show={(v) => small(v, prefs.system)}
    change={(slush_m) => change({ slush_m })}
  />
  <NumberKnob
    name="Hole"
    value={scene.hole_diameter_m}
    low={spans.hole_diameter_m.min}
    high={spans.hole_diameter_m.max}
    step={INCH * 2}
    show={(v) => small(v, prefs.system)}
    change={(hole_diameter_m) => change({ hole_diameter_m })}
  />
</section>
{#if blind}
  <p class="yours">What is under the hole is yours to find.</p>
{:else}
  <section class="stack">
    <h2>Water</h2>
    <ListKnob
      name="Clarity"
      options={CLARITIES.map((one) => one.label)}
      at={CLARITIES.findIndex((one) => one.value === scene.clarity)}
      choose={(at) => change({ clarity: CLARITIES[at]!.value })}
    />
    <ListKnob
      name="Plankton"
      options={PLANKTON}
      at={PLANKTON.indexOf(scene.plankton)}
      choose={(at) => change({ plankton: PLANKTON[at]! })}
    />
    <NumberKnob
      name="Time of day"
      value={scene.hour}
      low={spans.hour.min}
      high={spans.hour.max}
      step={0.5}
      show={clock}
      change={(hour) => change({ hour })}
    />
    <NumberKnob
      name="Silt stirred up"
      value={scene.silt}
      low={spans.silt.min}
      high={spans.silt.max}
      step={0.1}
      show={(v) => `${Math.round(100 * v)} %`}
      change={(silt) => change({ silt })}
    />
  </section>
  <section class="stack">
    <h2>Bottom</h2>
    <NumberKnob
      name="Depth"
      value={scene.bottom_depth_m}
      low={1}
      high={spans.bottom_depth_m.max}
      step={FOOT}
      show={deep}
      change={(bottom_depth_m) => change({ bottom_depth_m })}
    />
    <ListKnob
      name="Made of"
      options={BOTTOMS.map((one) => one.label)}
      at={BOTTOMS.findIndex((one) => one.value === scene.bottom_kind)}
      choose={(at) => change({ bottom_kind: BOTTOMS[at]!.value })}
    />
    <NumberKnob
      name="Slope"
      value={scene.slope_deg}
      low={spans.slope_deg.min}
      high={spans.slope_deg.max}
      step={1}
      show={(v) => `${v.toFixed(0)}°`}
      change={(slope_deg) => change({ slope_deg })}
    />
    <NumberKnob
      name="Weeds, height"
      value={scene.weed_height_m}
      low={spans.weed_height_m.min}
      high={Math.min(5, most - 1)}
      step={FOOT / 2}
      show={m}
      change={(weed_height_m) => change({ weed_height_m })}
    />
    {#if scene.weed_height_m > 0}
      <NumberKnob
        name="Weeds, density"
        value={scene.weed_density}
        low={spans.weed_density.min}
        high={spans.weed_density.max}
        step={0.1}
        show={(v) => `${Math.round(100 * v)} %`}
        change={(weed_density) => change({ weed_density })}
      />
    {/if}
    {#each scene.structures as one, i (i)}
      <div class="row">
        <span
          >{one.kind === "brush" ? "Brush pile" : one.kind === "log" ? "Log" : "Boulder"}, {m(one.height_m)} high,
          {m(Math.abs(one.aside_m))} aside</span
        >
        <RemoveButton
          what="Remove this"
          remove={() => take("What lay there", { structures: without(scene.structures, i) })}
        />
      </div>
    {/each}
    {#if scene.structures.length < 4}
      <div class="add">
        <select bind:value={structure} aria-label="Kind of structure">
          {#each STRUCTURES as { value, label } (value)}<option {value}>{label}</option>{/each}
        </select>
        <button
          onclick={() =>
            change({
              structures: [
                ...scene.structures,
                { kind: structure, aside_m: 0.6 * (scene.structures.length % 2 ? -1 : 1), height_m: 0.8 },
              ],
            })}>Add structure</button
        >
      </div>
    {/if}
  </section>
  <section class="stack">
    <h2>Neighbours</h2>
    {#each scene.neighbours as one, i (i)}
      <div class="row">
        <NumberKnob
          name="Unit at"
          value={one.distance_m}
          low={0.5}
          high={30}
          step={0.5}
          show={m}
          change={(distance_m) => change({ neighbours: swapped(scene.neighbours, i, { distance_m }) })}
        />
        <RemoveButton
          what="Remove this neighbour"
          remove={() => take("The neighbour", { neighbours: without(scene.neighbours, i) })}
        />
      </div>
      <NumberKnob
        name="Its frequency"
        value={one.frequency_hz / 1000}
        low={50}
        high={455}
        step={5}
        show={(v) => `${v.toFixed(0)} kHz`}
        change={(khz) => change({ neighbours: swapped(scene.neighbours, i, { frequency_hz: khz * 1000 }) })}
      />
    {/each}
    {#if scene.neighbours.length < 6}<button onclick={addNeighbour}>Add a neighbour's unit</button>{/if}
  </section>
  <section class="stack">
    <h2>Fish and company</h2>
    <NumberKnob
      name="Fish that may come at once"
      value={scene.visitors}
      low={spans.visitors.min}
      high={spans.visitors.max}
      step={1}
      show={(v) => v.toFixed(0)}
      change={(visitors) => change({ visitors })}
    />
    {#each scene.shoals as one, i (i)}
      <div class="row">
        <span
          >{one.count}
          {one.species}, {SCHOOLS.find((form) => form.value === one.form)?.label}, at {deep(
            one.depth_m,
          )}</span
        >
        <RemoveButton
          what="Remove this school"
          remove={() => take("The school", { shoals: without(scene.shoals, i) })}
        />
      </div>
    {/each}
    {#if scene.shoals.length < 6}
      <div class="add">
        <select bind:value={species} aria-label="Species">
          {#each SPECIES as { value, label } (value)}<option {value}>{label}</option>{/each}
        </select>
        <select bind:value={form} aria-label="School">
          {#each SCHOOLS as { value, label } (value)}<option {value}>{label}</option>{/each}
        </select>
        <button
          onclick={() =>
            change({
              shoals: [
                ...scene.shoals,
                { species, form, count: species === "bait" ? 20 : 4, depth_m: 0.65 * scene.bottom_depth_m },
              ],
            })}>Add</button
        >
      </div>
    {/if}
    <NumberKnob
      name="Second hole, away"
      value={scene.second_hole_m}
      low={0}
      high={spans.second_hole_m.max}
      step={0.3}
      show={(v) => (v < 0.3 ? "none" : m(v))}
      change={(v) => change(v < 0.3 ? { second_hole_m: 0, hung: [] } : { second_hole_m: v })}
    />
    {#if scene.second_hole_m > 0}
      {#each scene.hung as one, i (i)}
        <div class="row">
          <span>{one.kind === "camera" ? "Camera" : "Dead stick"} at {deep(one.depth_m)}</span>
          <RemoveButton
            what="Remove this"
            remove={() => take("What hung there", { hung: without(scene.hung, i) })}
          />
        </div>
      {/each}
      {#if scene.hung.length < 2}
        <div class="pair">
          <button
            onclick={() =>
              change({ hung: [...scene.hung, { kind: "dead stick", depth_m: 0.8 * scene.bottom_depth_m }] })}
            >Hang a dead stick</button
          >
          <button
            onclick={() =>
              change({ hung: [...scene.hung, { kind: "camera", depth_m: 0.6 * scene.bottom_depth_m }] })}
            >Hang a camera</button
          >
        </div>
      {/if}
    {/if}
  </section>
{/if}

<style>
  .stack {
    display: grid;
    gap: 6px;
  }

  .pair,
  .add {
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: 1fr;
    gap: 6px;
  }

  .pair button {
    padding: 0 6px;
    line-height: 1.15;
  }

  .row {
    display: grid;
    grid-template-columns: 1fr auto;
    align-items: center;
    gap: 8px;
  }
</style>
