<script lang="ts">
  // What is known at the hole, in the order in which it becomes known. Empty or "not known" is fine: the card assumes.
  import type { CardWanted } from "../../lib/api/types";
  import type { Option } from "../../lib/controls/options";
  import { prefs } from "../../lib/prefs.svelte";
  import { depthUnit, fromDepth, toDepth, trim } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import {
    BOTTOMS,
    CLARITIES,
    FOR,
    fromText,
    ICES,
    LIGHTS,
    LIVELINESS,
    NUMBERS,
    type NumberKey,
    toText,
  } from "./known";

  let {
    hole_id,
    wanted,
    refused,
    change,
  }: {
    hole_id: number;
    wanted: CardWanted;
    refused: Record<string, string>;
    change: (wanted: CardWanted) => void;
  } = $props();

  let text = $state((() => toText(wanted, prefs.system))());
  let shownFor = "";
  // Other units, or "depth alone": the text starts again from the values.
  $effect(() => {
    const key = `${prefs.system}`;
    if (key === shownFor) return;
    shownFor = key;
    text = toText(wanted, prefs.system);
  });

  const read = $derived(fromText(text, wanted, prefs.system));
  const problems = $derived({ ...refused, ...read.problems });
  const company = $derived(wanted.neighbours === null ? "" : String(wanted.neighbours.length));
  const away = $derived(wanted.neighbours?.[0]?.distance_m ?? 3);
  let theirs = $state("");

  function typed(key: NumberKey, value: string) {
    text[key] = value;
    const now = fromText(text, wanted, prefs.system);
    if (Object.keys(now.problems).length === 0) change({ ...wanted, ...now.numbers });
  }

  function chosen(key: keyof CardWanted, value: string) {
    change({ ...wanted, [key]: value === "" ? null : value });
  }

  /** So many others, so far away; what they are is a unit of the list, or one like the reader's own. */
  function others(count: string, distance: number, unitId: string) {
    theirs = unitId;
    if (count === "") return change({ ...wanted, neighbours: null });
    const own = world.units.find((one) => one.id === (wanted.unit_id ?? world.units[0]?.id));
    const unit = world.units.find((one) => String(one.id) === unitId) ?? own;
    const beam = unit?.beams[0];
    change({
      ...wanted,
      neighbours: Array.from({ length: Number(count) }, (_, i) => ({
        distance_m: distance + 0.4 * i,
        frequency_hz: beam?.frequency_hz ?? 200e3,
        width_deg: beam?.width_deg ?? 12,
        power_w: Math.max(...(unit?.powers_w ?? [60])),
        // No two units ping in step: each a little off its nominal rate.
        ping_interval_s: Math.min(Math.max((1 / (unit?.ping_rate_hz ?? 20)) * (0.94 + 0.05 * i), 0.01), 1),
      })),
    });
  }

  /** Forget everything but the depth: what a card is worth that knows no more. */
  function depthAlone() {
    const { depth_m, depth_is, unit_id, lure_id, school, view } = wanted;
    const bare: CardWanted = {
      depth_m,
      depth_is,
      unit_id,
      lure_id,
      school,
      view,
      ice_thickness_m: null,
      ice_kind: null,
      snow_m: null,
      slush_m: null,
      face_depth_m: null,
      hole_diameter_m: 0.2,
      temperature_c: 1,
      bottom_kind: null,
      clarity: null,
      light: null,
      liveliness: null,
      weed_height_m: null,
      second_lure_id: null,
      lure_depth_m: null,
      lure_gap_m: 0.15,
      species: null,
      fish_length_m: null,
      neighbours: null,
      holes: 1,
      window_m: null,
    };
    text = toText(bare, prefs.system);
    change(bare);
  }
</script>

{#snippet number(key: NumberKey)}
  {@const kind = NUMBERS[key]}
  <div class="field">
    <label for="known-{key}">{kind.name} <span class="unit">{kind.unit(prefs.system)}</span></label>
    <input
      id="known-{key}"
      class="figures"
      inputmode="decimal"
      autocomplete="off"
      placeholder={kind.needed ? "" : "not known"}
      value={text[key]}
      oninput={(event) => typed(key, event.currentTarget.value)}
      aria-invalid={problems[key] ? true : undefined}
      aria-describedby="known-{key}-hint"
    />
    <p id="known-{key}-hint" class:problem={problems[key]}>{problems[key] ?? kind.hint}</p>
  </div>
{/snippet}

{#snippet choice(key: keyof CardWanted, name: string, options: Option<string>[])}
  <div class="field">
    <label for="known-{key}">{name}</label>
    <select
      id="known-{key}"
      value={wanted[key] === null ? "" : String(wanted[key])}
      onchange={(event) => chosen(key, event.currentTarget.value)}
    >
      {#each options as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
    </select>
    {#if problems[key]}<p class="problem">{problems[key]}</p>{/if}
  </div>
{/snippet}

<section class="known" aria-label="What is known here">
  <h2>What you know here</h2>
  <p class="photo">
    Does your unit show something now? <a href="#/hole/{hole_id}/read/photo">Read a photo of its screen</a>:
    it tells what to change.
  </p>
  <div class="pair">
    {@render number("depth_m")}
    <div class="field">
      <label for="known-depth_is">Depth is</label>
      <select
        id="known-depth_is"
        value={wanted.depth_is}
        onchange={(event) =>
          change({ ...wanted, depth_is: event.currentTarget.value as "true" | "displayed" })}
      >
        <option value="true">true depth</option>
        <option value="displayed">as displayed</option>
      </select>
    </div>
    {@render number("ice_thickness_m")}
    {@render choice("ice_kind", "Kind of ice", ICES)}
    {@render number("snow_m")}
    {@render number("slush_m")}
    {@render number("face_depth_m")}
    {@render choice("bottom_kind", "Bottom", BOTTOMS)}
    {@render choice("clarity", "Water", CLARITIES)}
    {@render choice("light", "Light", LIGHTS)}
    {@render choice("liveliness", "Life in it", LIVELINESS)}
    {@render number("weed_height_m")}
    <div class="field">
      <label for="known-unit">Unit</label>
      <select
        id="known-unit"
        value={String(wanted.unit_id ?? world.units[0]?.id ?? "")}
        onchange={(event) =>
          change({ ...wanted, unit_id: Number(event.currentTarget.value), window_m: null })}
      >
        {#each world.units as one (one.id)}<option value={String(one.id)}>{one.name}</option>{/each}
      </select>
    </div>
    <div class="field">
      <label for="known-lure">Lure</label>
      <select
        id="known-lure"
        value={String(wanted.lure_id ?? "")}
        onchange={(event) =>
          change({
            ...wanted,
            lure_id: event.currentTarget.value ? Number(event.currentTarget.value) : null,
          })}
      >
        <option value="">a 5 mm tungsten jig</option>
        {#each world.lures as one (one.id)}<option value={String(one.id)}>{one.name}</option>{/each}
      </select>
    </div>
    <div class="field">
      <label for="known-second">Second lure</label>
      <select
        id="known-second"
        value={String(wanted.second_lure_id ?? "")}
        onchange={(event) =>
          change({
            ...wanted,
            second_lure_id: event.currentTarget.value ? Number(event.currentTarget.value) : null,
          })}
      >
        <option value="">none</option>
        {#each world.lures as one (one.id)}<option value={String(one.id)}>{one.name}</option>{/each}
      </select>
    </div>
    {@render number("lure_depth_m")}
    {@render choice("species", "For", FOR)}
    {@render number("fish_length_m")}
    <div class="field">
      <label for="known-company">Other units</label>
      <select
        id="known-company"
        value={company}
        onchange={(event) => others(event.currentTarget.value, away, theirs)}
      >
        <option value="">not known</option>
        <option value="0">none</option>
        {#each [1, 2, 3, 4, 5, 6, 7, 8] as count (count)}<option value={String(count)}>{count}</option>{/each}
      </select>
    </div>
    {#if wanted.neighbours && wanted.neighbours.length > 0}
      <div class="field">
        <label for="known-away">How near <span class="unit">{depthUnit(prefs.system)}</span></label>
        <input
          id="known-away"
          class="figures"
          inputmode="decimal"
          value={trim(toDepth(away, prefs.system), 1)}
          onchange={(event) => {
            const m = fromDepth(Number(event.currentTarget.value), prefs.system);
            if (m >= 0.2 && m <= 45) others(company, m, theirs);
            else event.currentTarget.value = trim(toDepth(away, prefs.system), 1);
          }}
        />
      </div>
      <div class="field">
        <label for="known-theirs">What they are</label>
        <select
          id="known-theirs"
          value={theirs}
          onchange={(event) => others(company, away, event.currentTarget.value)}
        >
          <option value="">like mine</option>
          {#each world.units as one (one.id)}<option value={String(one.id)}>{one.name}</option>{/each}
        </select>
      </div>
    {/if}
    <div class="field">
      <label for="known-holes">Holes</label>
      <select
        id="known-holes"
        value={String(wanted.holes)}
        onchange={(event) => change({ ...wanted, holes: Number(event.currentTarget.value) })}
      >
        <option value="1">one</option>
        <option value="2">two</option>
      </select>
    </div>
    {@render number("temperature_c")}
  </div>
  <button onclick={depthAlone}>Forget all but the depth</button>
</section>

<style>
  .photo a {
    color: var(--action);
    font-weight: 600;
  }

  .known {
    display: grid;
    gap: 8px;
  }

  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px 10px;
  }

  .field {
    min-width: 0;
  }

  label {
    font-size: 0.92rem;
    font-weight: 600;
    line-height: 1.2;
  }

  .unit {
    font-weight: 400;
    color: var(--soft);
  }

  input,
  select {
    width: 100%;
    min-width: 0;
  }

  select {
    text-overflow: ellipsis;
  }

  input::placeholder {
    color: var(--soft);
    font: 400 0.95rem var(--words);
    opacity: 1;
  }

  input[aria-invalid="true"] {
    border-color: var(--stop);
    border-width: 2.5px;
  }

  p {
    font-size: 0.82rem;
    line-height: 1.2;
    color: var(--soft);
  }

  p:empty {
    display: none;
  }

  .problem {
    color: var(--stop);
    font-weight: 600;
  }
</style>
