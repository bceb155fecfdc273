<script lang="ts">
  // The unit's column as it stands before the angler: touched, or moved along by keys, where the mark is.
  import type { CallSheet, Hole, Observation } from "../../lib/api/types";
  import { tickStep, ticks } from "../../lib/picture/axis";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, depthUnit, fromDepth } from "../../lib/units";

  let {
    hole,
    sheet,
    shown,
    colours,
    mark,
    bottom,
    face,
    place,
  }: {
    hole: Hole;
    sheet: CallSheet | null;
    /** Where the mark stands [m from the face], null until it is touched. */
    shown: number | null;
    colours: string[];
    mark: { colour: number; thickness: Observation["thickness"] };
    /** Range of the column's end [m]. */
    bottom: number;
    /** How deep the face hangs [m]: the unit's column begins there, beside the truth that begins at the surface. */
    face: number;
    place: (range: number) => void;
  } = $props();

  let height = $state(400);
  const y = (range: number) => (range / bottom) * height;

  function press(event: PointerEvent & { currentTarget: Element }) {
    const box = event.currentTarget.getBoundingClientRect();
    place(((event.clientY - box.top) / box.height) * bottom);
  }

  function keydown(event: KeyboardEvent) {
    const step = fromDepth(tickStep(bottom, prefs.system), prefs.system) / 4;
    const now = shown ?? bottom / 2;
    if (event.key === "ArrowUp") place(now - step);
    else if (event.key === "ArrowDown") place(now + step);
    else return;
    event.preventDefault();
  }
</script>

<section class="sketch" aria-label="What you see" style:grid-template-rows="{face}fr {bottom}fr">
  <p class="scale">shown, {depthUnit(prefs.system)}</p>
  <div
    class="column"
    role="slider"
    tabindex="0"
    aria-label="Where the mark stands on your unit's scale"
    aria-orientation="vertical"
    aria-valuemin={0}
    aria-valuemax={bottom}
    aria-valuenow={shown ?? 0}
    aria-valuetext={shown === null ? "not touched yet" : depth(shown, prefs.system)}
    bind:clientHeight={height}
    onpointerdown={press}
    onkeydown={keydown}
    data-testid="column"
    style:background={colours[0]}
  >
    {#if sheet}
      <i class="bed" style:top="{y(sheet.bottom_range_m)}px" style:background={colours.at(-1)}></i>
      {#if sheet.lure_depth_m !== null}
        <i
          class="lure"
          style:top="{y(sheet.lure_depth_m - hole.face_depth_m)}px"
          style:background={colours[Math.min(2, colours.length - 1)]}
        ></i>
      {/if}
    {/if}
    {#each [...ticks({ top: 0, bottom }, prefs.system)].slice(1) as [at, text] (text)}
      <span class="tick figures" style:top="{y(at)}px">{text}</span>
    {/each}
    {#if shown !== null}
      <i
        class="mark {mark.thickness.replaceAll(' ', '-')}"
        style:top="{y(shown)}px"
        style:background={colours[mark.colour]}
      ></i>
    {/if}
    {#if shown === null}<p class="hint">Touch where the mark stands</p>{/if}
  </div>
</section>

<style>
  .sketch {
    position: relative;
    display: grid;
    border-right: 1.5px solid var(--line);
  }

  .column {
    position: relative;
    cursor: crosshair;
    touch-action: none;
    min-height: 200px;
    overflow: hidden;
  }

  .column i {
    position: absolute;
    left: 34px;
    right: 10px;
  }

  .bed {
    bottom: 0;
  }

  .column .lure {
    height: 4px;
  }

  .mark {
    outline: 2.5px solid var(--action);
  }

  .thin {
    height: 3px;
  }

  .as-the-lure {
    height: 7px;
  }

  .thicker {
    height: 14px;
  }

  .band {
    height: 52px;
  }

  .tick {
    position: absolute;
    left: 0;
    transform: translateY(-50%);
    padding: 0 4px;
    font-size: 0.75rem;
    background: var(--panel);
  }

  .hint {
    position: absolute;
    top: 40%;
    left: 34px;
    right: 8px;
    padding: 8px;
    border: 2px solid var(--action);
    border-radius: 6px;
    background: var(--panel);
    font-weight: 700;
    line-height: 1.2;
    text-align: center;
    pointer-events: none;
  }

  .scale {
    position: relative;
    z-index: 1;
    height: 0;
    padding: 1px 6px;
    font: 600 11px/1.4 var(--figures);
    color: var(--soft);
  }

  @media (max-width: 760px) {
    .sketch {
      position: sticky;
      top: 0;
      height: calc(100dvh - 250px);
    }

    .column i {
      left: 26px;
      right: 6px;
    }

    .hint {
      left: 4px;
      right: 4px;
      font-size: 0.85rem;
    }
  }
</style>
