<script lang="ts">
  // How the head hangs and is set, or by hand what one's own unit is set to; and how one walks and drills.
  import Choice from "../../lib/controls/Choice.svelte";
  import Measured from "../../lib/controls/Measured.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { deepMeasure, plainMeasure, trim, way } from "../../lib/units";
  import HeadingCheck from "./HeadingCheck.svelte";
  import type { LookStream } from "./look.svelte";
  import { RANGES_M, search } from "./search.svelte";

  let { look, set }: { look: LookStream | null; set: (change: Record<string, number>) => void } = $props();

  const hang = $derived(look?.hang ?? null);
  const ranges = $derived(RANGES_M.map((value) => ({ value, label: way(value, prefs.system) })));
  const deep = deepMeasure(1);
  const minutes = {
    ...plainMeasure("min", 1),
    show: (s: number) => trim(s / 60, 1),
    read: (min: number) => min * 60,
  };
  const full = $derived(!hang || (hang.to_deg - hang.from_deg) % 360 === 0);

  function sector() {
    if (!full) return set({ from_deg: 0, to_deg: 360 });
    const bearing = search.touched?.bearing ?? 0;
    set({ from_deg: (bearing + 315) % 360, to_deg: (bearing + 45) % 360 });
  }
</script>

<section class="set">
  <h2>How far it listens</h2>
  <Choice
    name="How far it listens"
    options={ranges}
    value={search.byHand ? search.own.range_m : (hang?.range_m ?? 20)}
    choose={(range_m) => (search.byHand ? search.change({ range_m }) : set({ range_m }))}
  />
  {#if hang}
    <label for="look-gain">Gain <span class="figures">{trim(hang.gain_db, 0)}</span></label>
    <input
      id="look-gain"
      type="range"
      min="0"
      max="60"
      step="1"
      value={hang.gain_db}
      onchange={(event) => set({ gain_db: Number(event.currentTarget.value) })}
    />
    <p class="soft">Turn it down until the bed is dim: what swims stands out, and shadows go black.</p>
    <button onclick={sector} aria-pressed={!full}>
      {full ? "Look only a quarter round what was touched" : "Look all round again"}
    </button>
    <p class="soft">
      {full
        ? "A quarter comes round four times as often."
        : "The rest of the picture is as old as it is pale."}
    </p>
    <Measured
      id="look-depth"
      name="Head hangs at"
      measure={deep}
      value={hang.depth_m}
      low={0.1}
      high={20}
      change={(value) => value !== null && set({ depth_m: value })}
    />
  {:else}
    <Measured
      id="hand-bottom"
      name="Depth of the water"
      measure={deep}
      value={search.own.bottom_m}
      low={1}
      high={60}
      change={(value) => value !== null && search.change({ bottom_m: value })}
    />
    <Measured
      id="hand-head"
      name="Head hangs at"
      measure={deep}
      value={search.own.head_m}
      low={0.1}
      high={20}
      change={(value) => value !== null && search.change({ head_m: value })}
    />
    <Measured
      id="hand-twelve"
      name="Twelve points to"
      measure={plainMeasure("° from north", 0)}
      value={search.own.twelve_deg}
      low={0}
      high={360}
      hint="Where the handle points when the picture shows twelve"
      change={(value) => value !== null && search.change({ twelve_deg: value % 360 })}
    />
  {/if}
  <Measured
    id="fish-depth"
    name="Fish hang at"
    measure={deep}
    value={search.fishDepth}
    low={0.1}
    high={search.bottom}
    empty
    hint="Leave it empty where you do not know: then distances are spans"
    change={(value) => (search.fishDepth = value)}
  />
  {#if search.byHand}<HeadingCheck />{/if}
  <h2>You</h2>
  <Measured
    id="walk-speed"
    name="You walk"
    measure={{
      ...deep,
      unit: (system) => `${deep.unit(system)} a minute`,
      show: (v, s) => trim(deep.read(1, s) ? (v * 60) / deep.read(1, s) : v, 0),
      read: (v, s) => deep.read(v, s) / 60,
    }}
    value={search.own.walk_m_s}
    low={0.1}
    high={4}
    change={(value) => value !== null && search.change({ walk_m_s: value })}
  />
  <Measured
    id="ready"
    name="Drill and rig one hole"
    measure={minutes}
    value={search.own.ready_s}
    low={0}
    high={3600}
    change={(value) => value !== null && search.change({ ready_s: value })}
  />
  <Measured
    id="stay"
    name="Then you fish there for"
    measure={minutes}
    value={search.own.stay_s}
    low={60}
    high={36000}
    change={(value) => value !== null && search.change({ stay_s: value })}
  />
  <Measured
    id="move"
    name="Moving to look elsewhere takes"
    measure={minutes}
    value={search.own.move_s}
    low={30}
    high={36000}
    change={(value) => value !== null && search.change({ move_s: value })}
  />
</section>

<style>
  .set {
    display: grid;
    gap: 8px;
  }

  label {
    font-weight: 600;
  }

  input[type="range"] {
    width: 100%;
    min-height: var(--target);
  }
</style>
