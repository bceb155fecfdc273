<script lang="ts">
  // The fan's gain with its window drawn on the scale, and the coach: the finding, the number, the one change.
  import type { FanAdvice } from "../../lib/api/types";
  import { limits } from "../../lib/api/limits";
  import Stepper from "../../lib/controls/Stepper.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence, trim } from "../../lib/units";

  let {
    gain,
    advice,
    set,
    make,
  }: {
    gain: number;
    advice: FanAdvice | null;
    set: (gain: number) => void;
    make: (change: { setting: string; value: number | boolean }) => void;
  } = $props();

  const { min, max } = limits.FanSettingsFields.gain_db;
  const percent = (value: number) => Math.min(Math.max((100 * (value - min)) / (max - min), 0), 100);
  const bounded = (value: number) => set(Math.min(Math.max(Math.round(value), min), max));
  const window = $derived(advice?.window ?? null);
  const worst = $derived(advice?.verdicts[0] ?? null);
  const rest = $derived(advice?.verdicts.slice(1, 4) ?? []);

  function does({ setting, value }: { setting: string; value: number | boolean }): string {
    const at = Number(value);
    switch (setting) {
      case "gain_db":
        return `Set gain ${trim(at, 0)}`;
      case "depth_m":
        return `Hang it at ${depth(at, prefs.system)}`;
      case "ahead_m":
        return `Reach ${depth(at, prefs.system)}`;
      case "aim_deg":
        return `Turn to ${trim(at, 0)}°`;
      case "looks_down":
        return "Turn it down";
      case "levelling":
        return "Turn levelling on";
      case "roll_deg":
        return "Hang it plumb";
      case "off_deg":
        return "Bring into line";
      case "repeats":
        return "Reject repeats";
      case "damping_m":
        return at === 0 ? "Damping off" : `Damp to ${depth(at, prefs.system)}`;
      case "weak_steps":
        return "Show all steps";
      case "strong_db":
        return `Contrast ${trim(at, 0)} dB`;
      case "clutter":
        return at === 0 ? "Clutter off" : `Clutter ${at}`;
      case "tails":
        return at === 0 ? "Tails off" : `Tails ${at}`;
      case "screen":
        return `Light ${trim(100 * at, 0)} %`;
      default:
        return "Change it";
    }
  }
</script>

<section class="coach" class:wrong={worst} aria-label="Coach" data-testid="fan-coach">
  {#if !advice}
    <p class="soft">Listening.</p>
  {:else if !worst}
    <p><strong>Nothing to change.</strong> Touch a mark to measure it.</p>
  {:else}
    <div role="status">
      <p><strong>{sentence(worst.finding, worst.values, prefs.system)}</strong></p>
      <p class="soft">{sentence(worst.reason, worst.values, prefs.system)}</p>
    </div>
    {#if worst.change}
      <button class="primary" onclick={() => make(worst.change!)}>{does(worst.change)}</button>
    {/if}
    {#each rest as one (one.code)}
      <p class="rest soft">{sentence(one.finding, one.values, prefs.system)}</p>
    {/each}
  {/if}
</section>

<section class="gain" aria-label="Gain">
  <p class="name">Gain</p>
  <Stepper
    name="gain"
    less={() => bounded(gain - 1)}
    more={() => bounded(gain + 1)}
    atLeast={gain <= min}
    atMost={gain >= max}
  >
    <output class="figures">{trim(gain, 0)}</output>
  </Stepper>
  <div class="scale">
    <div class="rail" aria-hidden="true">
      {#if window?.is_open}
        <div
          class="open"
          style:left="{percent(window.floor)}%"
          style:width="{percent(window.ceiling) - percent(window.floor)}%"
        ></div>
      {/if}
      {#if window}<div class="bright" style:left="{percent(window.ceiling)}%"></div>{/if}
    </div>
    <input
      type="range"
      {min}
      {max}
      step="1"
      value={gain}
      aria-label="Gain"
      oninput={(event) => bounded(Number(event.currentTarget.value))}
    />
  </div>
  {#if advice?.costs.gain}
    <p class="soft">{sentence(advice.costs.gain.text, advice.costs.gain.values, prefs.system)}</p>
  {/if}
</section>

<style>
  .coach {
    display: grid;
    gap: 6px;
    padding: 10px 12px;
    border-left: 6px solid var(--pine);
    background: var(--panel);
    border-radius: 4px;
  }

  .coach.wrong {
    border-left-color: var(--action);
  }

  .coach button {
    justify-self: start;
  }

  .rest {
    border-top: 1px solid var(--line, var(--ice-edge));
    padding-top: 4px;
    font-size: 0.9rem;
  }

  .gain {
    display: grid;
    grid-template-columns: 1fr auto;
    align-items: center;
    gap: 2px 10px;
  }

  .name {
    font-weight: 700;
    font-size: 1.05rem;
  }

  output {
    min-width: 3ch;
    text-align: center;
    font-size: 1.4rem;
    font-weight: 700;
  }

  .scale,
  .gain > .soft {
    grid-column: 1 / -1;
  }

  .scale {
    position: relative;
    height: var(--target);
  }

  .rail {
    forced-color-adjust: none;
    position: absolute;
    inset: calc(50% - 8px) 0;
    height: 16px;
    border: 1.5px solid var(--ink);
    border-radius: 4px;
    background: var(--panel);
    overflow: hidden;
  }

  .open {
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
    height: 100%;
    margin: 0;
    opacity: 0.95;
  }
</style>
