<script lang="ts">
  // The knobs that hands reach for less often, by that order; what the unit lacks is not here.
  import type { Profile, Settings, Tuning } from "../../lib/api/types";
  import ListKnob from "../../lib/controls/ListKnob.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length, small, trim } from "../../lib/units";

  let {
    unit,
    settings,
    tuning,
    change,
  }: {
    unit: Profile;
    settings: Settings;
    tuning: Tuning | null;
    change: (change: Partial<Settings>) => void;
  } = $props();

  const steps = $derived(
    unit.rejections.map((_, i) => (i === 0 ? "off" : `${i} of ${unit.rejections.length - 1}`)),
  );
  const rejectionDoes = $derived(
    tuning
      ? `Neighbours light ${trim(tuning.neighbour_percent, 1)} percent. The picture lags ${trim(tuning.lag_s, 2)} s ` +
          `at ${trim(tuning.ping_rate_hz, 0)} pings a second.`
      : "",
  );
  const most = $derived(Math.max(...unit.powers_w));
  const powerDoes = $derived.by(() => {
    const less = 10 * Math.log10(most / unit.powers_w[settings.power]!);
    return less < 0.05
      ? "All it has."
      : `Every echo is ${trim(less, 1)} dB weaker than at ${trim(most, 1)} W.`;
  });
  const blanked = $derived(unit.blanking_m[settings.blanking] ?? 0);
</script>

{#if unit.rejections.length > 1}
  <section>
    <ListKnob
      name="Interference rejection"
      options={steps}
      at={settings.rejection}
      choose={(rejection) => change({ rejection })}
      does={rejectionDoes}
      testid="rejection"
    />
  </section>
{/if}
{#if unit.beams.length > 1}
  <section>
    <ListKnob
      name="Beam"
      options={unit.beams.map((one) => one.name)}
      at={settings.beam}
      choose={(beam) => change({ beam })}
      does={tuning
        ? `${trim(unit.beams[settings.beam]!.width_deg, 0)}°: ${length(tuning.cone_at_lure_m, prefs.system)} wide at the lure, ` +
          `${length(tuning.cone_at_bottom_m, prefs.system)} at the bottom.`
        : ""}
    />
  </section>
{/if}
{#if unit.powers_w.length > 1 || unit.pulses.length > 1}
  <section class="stack">
    {#if unit.powers_w.length > 1}
      <ListKnob
        name="Power"
        options={unit.powers_w.map((w) => `${trim(w, 1)} W`)}
        at={settings.power}
        choose={(power) => change({ power })}
        does={powerDoes}
      />
    {/if}
    {#if unit.pulses.length > 1}
      <ListKnob
        name="Pulse"
        options={unit.pulses.map((one) => one.name)}
        at={settings.pulse}
        choose={(pulse) => change({ pulse })}
        does={tuning ? `Marks part at ${small(tuning.parted_m, prefs.system)}.` : ""}
      />
    {/if}
  </section>
{/if}
{#if unit.tvg_db_decade.length > 1 || unit.blanking_m.length > 1 || unit.noise_filters.length > 1}
  <section class="stack">
    {#if unit.tvg_db_decade.length > 1}
      <ListKnob
        name="Time-varied gain"
        options={unit.tvg_db_decade.map((db, i) => (db === 0 ? "off" : String(i)))}
        at={settings.tvg}
        choose={(tvg) => change({ tvg })}
        does={settings.tvg > 0
          ? `Takes ${trim(unit.tvg_db_decade[settings.tvg]! * Math.log10(((2 / 3) * settings.range_m) / 1), 0)} dB off at ${length(1, prefs.system)}; deep water keeps all.`
          : "Near water answers loudest; this turns it down."}
      />
    {/if}
    {#if unit.blanking_m.length > 1}
      <ListKnob
        name="Surface blanking"
        options={unit.blanking_m.map((m) => (m === 0 ? "off" : depth(m, prefs.system)))}
        at={settings.blanking}
        choose={(blanking) => change({ blanking })}
        does={blanked > 0 ? `Hides everything in the top ${depth(blanked, prefs.system)}, fish and all.` : ""}
      />
    {/if}
    {#if unit.noise_filters.length > 1}
      <ListKnob
        name="Noise filter"
        options={unit.noise_filters.map((bins, i) => (bins === 1 ? "off" : String(i)))}
        at={settings.noise_filter}
        choose={(noise_filter) => change({ noise_filter })}
        does={settings.noise_filter > 0 ? "Evens out specks, and thin marks with them." : ""}
      />
    {/if}
  </section>
{/if}

<style>
  .stack {
    display: grid;
    gap: 8px;
  }
</style>
