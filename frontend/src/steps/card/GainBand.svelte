<script lang="ts">
  // The gain knob from end to end, with the window on it: the whole one, the firm one inside it, and where to stand.
  import type { HoleCard, Profile } from "../../lib/api/types";
  import { trim } from "../../lib/units";

  let { unit, gain, gains }: { unit: Profile; gain: number; gains: HoleCard["gains"] } = $props();

  const scale = $derived(unit.gain);
  const percent = (value: number) =>
    Math.min(Math.max((100 * (value - scale.minimum)) / (scale.maximum - scale.minimum), 0), 100);
  const floor = $derived(gains.floor ?? scale.maximum);
  const said = $derived(
    gains.floor === null
      ? "The lure is covered by a stronger echo."
      : `Gain ${trim(gain, 1)} of ${trim(scale.minimum, 1)} to ${trim(scale.maximum, 1)}; the lure shows from ${trim(
          floor,
          1,
        )}, the water lights at ${trim(gains.ceiling, 1)}.`,
  );
</script>

<div class="band" role="img" aria-label={said}>
  <div class="rail">
    {#if gains.floor !== null && gains.ceiling > floor}
      <div
        class="window"
        style:left="{percent(floor)}%"
        style:width="{percent(gains.ceiling) - percent(floor)}%"
      ></div>
      {#if gains.firm && gains.firm_floor !== null}
        <div
          class="firm"
          style:left="{percent(gains.firm_floor)}%"
          style:width="{percent(gains.firm_ceiling) - percent(gains.firm_floor)}%"
        ></div>
      {/if}
    {/if}
    <div class="bright" style:left="{percent(gains.ceiling)}%"></div>
    <div class="stand" style:left="{percent(gain)}%"></div>
  </div>
  <div class="ends figures">
    <span>{trim(scale.minimum, 1)}</span>
    <span class="key"
      ><i class="swatch firm"></i>holds whatever is not known <i class="swatch window"></i>holds as assumed
      <i class="swatch bright"></i>water lights</span
    >
    <span>{trim(scale.maximum, 1)}</span>
  </div>
</div>

<style>
  .band {
    forced-color-adjust: none;
    margin-top: 12px;
  }

  .rail {
    position: relative;
    height: 22px;
    border: 1.5px solid var(--ink);
    border-radius: 4px;
    background: var(--panel);
    overflow: visible;
  }

  .rail > div {
    position: absolute;
    top: 0;
    bottom: 0;
  }

  .window {
    background: var(--band);
    border-inline: 1.5px solid var(--pine);
  }

  .firm {
    background: var(--pine);
  }

  .bright {
    right: 0;
    background: repeating-linear-gradient(135deg, transparent 0 5px, var(--stop) 5px 6.5px);
    opacity: 0.75;
  }

  .stand {
    width: 9px;
    margin-left: -4.5px;
    top: -6px !important;
    bottom: -6px !important;
    border: 2px solid var(--panel);
    border-radius: 4px;
    background: var(--action);
    outline: 2px solid var(--ink);
  }

  .ends {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    margin-top: 8px;
    font-size: 0.85rem;
  }

  .key {
    font-family: var(--words);
    color: var(--soft);
    text-align: center;
  }

  .swatch {
    position: relative;
    display: inline-block;
    width: 18px;
    height: 11px;
    margin: 0 4px 0 8px;
    border: 1px solid var(--ink);
    vertical-align: baseline;
  }

  @media print {
    .rail,
    .swatch {
      print-color-adjust: exact;
    }

    .firm {
      background: #555;
    }

    .window {
      background: #ccc;
      border-color: #000;
    }

    .stand {
      background: #000;
    }

    .bright {
      background: repeating-linear-gradient(135deg, transparent 0 5px, #000 5px 6px);
    }
  }
</style>
