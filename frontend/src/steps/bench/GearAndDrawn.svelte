<script lang="ts">
  // Under the knobs: which unit and lure, what is drawn beside the echo, what is kept, and what the colours mean.
  import Sources from "../../lib/controls/Sources.svelte";
  import type { Bench, Settings } from "../../lib/api/types";
  import type { BenchStream } from "../../lib/live/stream.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { small, trim } from "../../lib/units";
  import { type Practice, world } from "../../lib/world.svelte";

  let {
    stream,
    bench,
    settings,
    practice,
    unitId = $bindable(),
    lureId = $bindable(),
    fishLength = $bindable(),
    reads = $bindable(),
    truth = $bindable(),
    help = $bindable(),
    blind,
    held,
    hold,
    keep,
  }: {
    stream: BenchStream;
    bench: Bench;
    settings: Settings;
    practice: Practice | null;
    unitId: number | null;
    lureId: number | null;
    fishLength: number;
    reads: boolean;
    truth: boolean;
    help: boolean;
    /** Whether an exercise keeps the truth back until its aim is met. */
    blind: boolean;
    held: number | null;
    hold: (back: number | null) => void;
    keep: () => Promise<void>;
  } = $props();

  const FISH_LENGTHS = [0.15, 0.3, 0.5];
</script>

<section class="more" aria-label="Gear and what is drawn">
  {#if practice?.kind !== "exercise"}
    <label
      >Unit
      <select bind:value={unitId}>
        {#if practice?.kind === "scene"}<option value={null}>{bench.unit.name} (the scene's)</option>{/if}
        {#each world.units as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select>
    </label>
    <label
      >Lure
      <select bind:value={lureId}>
        {#if practice?.kind === "scene"}<option value={null}>{bench.lure.name} (the scene's)</option>{/if}
        {#each world.lures as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select>
    </label>
  {/if}
  <label
    >Fish drawn for
    <select
      value={fishLength}
      onchange={(event) => {
        fishLength = Number(event.currentTarget.value);
        stream.send({ fish_length_m: fishLength });
      }}
    >
      {#each FISH_LENGTHS as one (one)}<option value={one}>{small(one, prefs.system)}</option>{/each}
    </select>
  </label>
  <button
    class="foot"
    aria-pressed={reads}
    onclick={() => {
      reads = !reads;
      stream.read(reads);
    }}>{reads ? "Stop naming marks" : "Name the marks"}</button
  >
  <button class="foot" onclick={keep}>Keep the last minutes</button>
  <button class="foot" disabled={blind} aria-pressed={truth && !blind} onclick={() => (truth = !truth)}
    >{blind ? "Truth: after the aim" : truth ? "Hide truth" : "Show truth"}</button
  >
  <button class="foot" aria-pressed={held !== null} onclick={() => hold(held === null ? 0 : null)}
    >{held === null ? "Freeze" : "Resume"}</button
  >
  <button class="keys foot" onclick={() => (help = !help)}>Keys</button>
</section>
<p class="legend">
  <span class="swatch lure"></span>where this lure is seen
  <span class="swatch fish"></span>where a fish that long is seen
  <span class="swatch dead"></span>hidden in the bottom echo
</p>
<p class="unit">
  {bench.unit.name}, {bench.unit.beams[settings.beam]!.name}{#if bench.unit.calibrated && stream.tuning},
    calibrated from {bench.unit.calibrated.readings} readings: its floor is sure to ±{trim(
      2 * stream.tuning.gain_window.floor_sd,
      1,
    )}{/if}. Touch a mark to be told what it is.
</p>
<Sources of="bench" />

<style>
  .foot {
    align-self: end;
  }

  .more {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6px 10px;
  }

  .more label {
    display: grid;
    min-width: 0;
    font-size: 0.88rem;
    color: var(--soft);
  }

  .more select {
    width: 100%;
    min-width: 0;
    text-overflow: ellipsis;
    color: var(--ink);
    font-size: 1rem;
  }

  .legend,
  .unit {
    font-size: 0.84rem;
    color: var(--soft);
  }

  .legend {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 2px 8px;
    align-items: center;
  }

  .swatch {
    width: 26px;
    height: 14px;
    border: 1.5px solid;
  }

  .swatch.lure {
    border-color: var(--zone);
    background: color-mix(in srgb, var(--zone) 22%, var(--water));
  }

  .swatch.fish {
    border-color: var(--fish-zone);
    background: color-mix(in srgb, var(--fish-zone) 16%, var(--water));
  }

  .swatch.dead {
    border-color: var(--earth-line);
    background: repeating-linear-gradient(135deg, transparent 0 4px, var(--earth-line) 4px 5.5px);
  }

  @media (max-width: 760px) {
    .keys {
      display: none;
    }
  }
</style>
