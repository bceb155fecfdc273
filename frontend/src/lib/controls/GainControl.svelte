<script lang="ts">
  // Gain, with its window drawn on the scale: where the lure begins to show, where the water begins to light.
  import type { Profile, Tuning } from "../api/types";
  import { trim } from "../units";
  import Stepper from "./Stepper.svelte";

  let {
    unit,
    gain,
    tuning,
    change,
  }: { unit: Profile; gain: number; tuning: Tuning | null; change: (gain: number) => void } = $props();

  const scale = $derived(unit.gain);
  const limits = $derived(tuning?.gain_window ?? null);
  const percent = (value: number) =>
    Math.min(Math.max((100 * (value - scale.minimum)) / (scale.maximum - scale.minimum), 0), 100);
  const floor = $derived(limits && limits.floor !== null && !limits.buried ? limits.floor : null);
  const open = $derived(limits && floor !== null && floor < limits.ceiling);
  const floorSaid = $derived(
    floor === null ? "?" : floor < scale.minimum ? `below ${trim(scale.minimum, 1)}` : trim(floor, 1),
  );
  const where = $derived.by(() => {
    if (!limits) return "";
    if (limits.floor === null) return "Lower the lure to see where it begins to show.";
    if (limits.buried) return "A stronger echo covers the lure here.";
    if (!open) return `Window closed by ${trim(-(limits.width_db ?? 0), 1)} dB.`;
    if (gain < limits.floor) return "Below the floor: the lure is lost.";
    if (gain > limits.ceiling) return "Above the ceiling: the water lights.";
    return `Inside the window, ${trim(limits.width_db ?? 0, 0)} dB wide.`;
  });

  function set(value: number) {
    const steps = Math.round((value - scale.minimum) / scale.step);
    change(Math.min(Math.max(scale.minimum + steps * scale.step, scale.minimum), scale.maximum));
  }
</script>

<section class="control" aria-labelledby="gain-name">
  <h2 id="gain-name" class="unseen">Gain</h2>
  <div class="head">
    <p class="name" aria-hidden="true">Gain</p>
    <p class="where" class:off={floor !== null && open && (gain < floor || gain > limits!.ceiling)}>
      {where}
    </p>
  </div>
  <Stepper
    name="gain"
    less={() => set(gain - scale.step)}
    more={() => set(gain + scale.step)}
    atLeast={gain <= scale.minimum}
    atMost={gain >= scale.maximum}
  >
    <output class="figures">{trim(gain, 1)}</output>
  </Stepper>
  <div class="scale">
    <div class="rail" aria-hidden="true">
      {#if limits && open}
        <div
          class="window"
          style:left="{percent(floor!)}%"
          style:width="{percent(limits.ceiling) - percent(floor!)}%"
        ></div>
      {/if}
      {#if limits}
        <div class="bright" style:left="{percent(limits.ceiling)}%"></div>
      {/if}
    </div>
    <input
      type="range"
      min={scale.minimum}
      max={scale.maximum}
      step={scale.step}
      value={gain}
      aria-label="Gain"
      aria-valuetext="{trim(gain, 1)}. {where}"
      oninput={(event) => set(Number(event.currentTarget.value))}
    />
  </div>
  <div class="ends">
    <span>lure shows from <b class="figures" data-testid="floor">{floorSaid}</b></span>
    <span
      >water lights at <b class="figures" data-testid="ceiling">{limits ? trim(limits.ceiling, 1) : "?"}</b
      ></span
    >
  </div>
</section>

<style>
  .control {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 2px 14px;
    align-items: center;
  }

  .head {
    grid-column: 2;
    grid-row: 1;
    line-height: 1.25;
  }

  .control > :global(.stepper) {
    grid-column: 1;
    grid-row: 1;
  }

  .name {
    font-weight: 700;
    font-size: 1.05rem;
  }

  .where {
    color: var(--soft);
    font-size: 0.88rem;
  }

  .where.off {
    color: var(--stop);
    font-weight: 600;
  }

  output {
    min-width: 2.4ch;
    text-align: center;
    font-size: 1.5rem;
    font-weight: 700;
  }

  .scale {
    grid-column: 1 / -1;
    position: relative;
    height: var(--target);
  }

  .rail {
    /* The band and the hatch are what it shows: a palette of the reader's own must not take them away. */
    forced-color-adjust: none;
    position: absolute;
    inset: calc(50% - 10px) 8px;
    height: 20px;
    border: 1.5px solid var(--ink);
    border-radius: 4px;
    background: var(--panel);
    overflow: hidden;
  }

  .window {
    position: absolute;
    inset-block: 0;
    background: var(--band);
    border-inline: 2.5px solid var(--pine);
  }

  .bright {
    position: absolute;
    inset-block: 0;
    right: 0;
    background: repeating-linear-gradient(
      135deg,
      transparent 0 4px,
      color-mix(in srgb, var(--stop) 55%, transparent) 4px 6px
    );
  }

  input {
    position: absolute;
    inset: 0;
    width: 100%;
    min-height: 0;
    height: 100%;
    margin: 0;
    padding: 0;
    border: 0;
    background: none;
    appearance: none;
    cursor: pointer;
  }

  input::-webkit-slider-thumb {
    appearance: none;
    width: 16px;
    height: 40px;
    border: 3px solid var(--panel);
    border-radius: 6px;
    background: var(--action);
    box-shadow: 0 0 0 1.5px var(--ink);
    forced-color-adjust: none;
  }

  input::-moz-range-thumb {
    width: 10px;
    height: 34px;
    border: 3px solid var(--panel);
    border-radius: 6px;
    background: var(--action);
    box-shadow: 0 0 0 1.5px var(--ink);
  }

  .ends {
    grid-column: 1 / -1;
    display: flex;
    justify-content: space-between;
    font-size: 0.88rem;
    color: var(--soft);
  }

  .ends b {
    color: var(--ink);
  }
</style>
