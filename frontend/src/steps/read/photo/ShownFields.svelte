<script lang="ts">
  // What is said of a photographed screen, whatever its shape.
  import type { Snippet } from "svelte";
  import Measured from "../../../lib/controls/Measured.svelte";
  import { deepMeasure, plainMeasure } from "../../../lib/units";
  import { world } from "../../../lib/world.svelte";
  import LadderTouch from "./LadderTouch.svelte";
  import type { Shown } from "./shown.svelte";

  let { shown, ends, pointing, point, children }: {
    shown: Shown;
    /** What the depths are of: the picture's two ends, in words. */
    ends: readonly [string, string];
    pointing: number | null;
    point: (step: number | null) => void;
    /** What is said of this shape of screen alone. */
    children: Snippet;
  } = $props(); // prettier-ignore
</script>

<div class="pair">
  <Measured
    id="photo-top"
    name={ends[0]}
    measure={deepMeasure(1)}
    value={shown.top}
    low={0}
    high={190}
    change={(value) => value !== null && (shown.top = value)}
  /><!-- prettier-ignore -->
  <Measured id="photo-bottom" name={ends[1]} measure={deepMeasure(1)} value={shown.bottom} low={0.5} high={200}
    change={(value) => value !== null && (shown.bottom = value)} /><!-- prettier-ignore -->
</div>
{@render children()}
<div class="field">
  <label for="photo-unit">Unit</label>
  <select id="photo-unit" bind:value={shown.unitId} onchange={() => (shown.ladderAt = 0)}>
    {#each world.units as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
  </select>
</div>
{#if shown.unit && shown.unit.ladders.length > 1}
  <div class="field">
    <label for="photo-ladder">Colours</label>
    <select id="photo-ladder" bind:value={shown.ladderAt}>
      {#each shown.unit.ladders as one, k (k)}<option value={k}>{one.name}</option>{/each}
    </select>
  </div>
{/if}
{#if shown.ladder}
  <p class="soft">
    {shown.pointedBefore
      ? "These are the colours you pointed at before."
      : "Point at each colour once: press it here, then touch it in the photo."}
  </p>
  <LadderTouch ladder={shown.ladder} seen={shown.seen} at={pointing} choose={point} />
{/if}
<div class="field">
  <label for="photo-lure">Lure</label>
  <select id="photo-lure" bind:value={shown.lureId}>
    <option value={null}>I do not know</option>
    {#each world.lures as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
  </select>
</div>
{#if shown.unit}
  <Measured
    id="photo-gain"
    name="Gain"
    measure={plainMeasure("", 1)}
    value={shown.gain}
    low={shown.unit.gain.minimum}
    high={shown.unit.gain.maximum}
    empty
    hint="If you know it: sizes of fish hang on it"
    change={(value) => (shown.gain = value)}
  />
{/if}
<label class="tick"
  ><input type="checkbox" bind:checked={shown.keep} /> Keep the photo beside the recording</label
>

<style>
  .soft {
    color: var(--soft);
  }

  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px;
  }

  .field {
    display: grid;
    gap: 2px;
  }

  label {
    font-weight: 600;
  }

  .tick {
    display: flex;
    align-items: center;
    gap: 10px;
    min-height: 44px;
    font-weight: 400;
  }

  @media (max-width: 1000px) {
    .tick {
      min-height: 56px;
    }
  }
</style>
