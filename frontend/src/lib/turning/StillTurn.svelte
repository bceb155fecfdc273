<script lang="ts">
  // One turn of a picture that turns, as a drill shows it: what is asked about is ringed, places to drill are named.
  import type { SweepPicture } from "../api/types";
  import { unpack } from "../picture/history";
  import { prefs } from "../prefs.svelte";
  import Dial from "./Dial.svelte";
  import { BEARINGS, BINS, PixelMap, placeOf, rampOf, type Shown } from "./turning";

  let { picture, label }: { picture: SweepPicture; label: string } = $props();

  let canvas: HTMLCanvasElement;
  let wide = $state(300);
  let high = $state(300);
  const side = $derived(Math.max(Math.min(wide, high), 120));
  const shown: Shown = $derived({
    way: "round",
    measure: "water",
    range: picture.range_m,
    down: picture.bottom_depth_m - picture.head_depth_m,
  });
  const levels = $derived(unpack(picture.levels).slice(-BEARINGS * BINS));

  $effect(() => {
    const size = Math.round(Math.min(side * (window.devicePixelRatio || 1), 620));
    canvas.width = canvas.height = size;
    const paper = canvas.getContext("2d")!;
    const image = paper.createImageData(size, size);
    const seen = new Float64Array(BEARINGS);
    new PixelMap(size, size, shown, BEARINGS, BINS).paint(
      image,
      levels,
      seen,
      0,
      1,
      rampOf(prefs.theme, picture.steps),
    );
    paper.putImageData(image, 0, 0);
  });

  const at = (bearing: number, away: number) => {
    const [x, y] = placeOf(bearing, away, shown);
    return { x: x * side, y: y * side };
  };
  const arrow = $derived(picture.arrow && at(picture.arrow[0]!, picture.arrow[1]!));
  const holes = $derived(picture.holes.map(([bearing, away]) => at(bearing!, away!)));
</script>

<div class="holder" bind:clientWidth={wide} bind:clientHeight={high}>
  <div class="picture" style:width="{side}px" style:height="{side}px" role="img" aria-label={label}>
    <canvas bind:this={canvas} style:width="{side}px" style:height="{side}px"></canvas>
    <svg viewBox="0 0 {side} {side}" aria-hidden="true">
      <Dial {shown} width={side} height={side} />
      {#if arrow}<circle cx={arrow.x} cy={arrow.y} r={Math.max(side * 0.06, 22)} class="asked" />{/if}
      {#each holes as hole, k (k)}
        <circle cx={hole.x} cy={hole.y} r="14" class="place" />
        <text x={hole.x} y={hole.y + 6}>{"ABC"[k]}</text>
      {/each}
    </svg>
  </div>
</div>

<style>
  .holder {
    display: grid;
    place-items: center;
    min-width: 0;
    min-height: 0;
    overflow: hidden;
  }

  .picture {
    position: relative;
  }

  canvas {
    display: block;
    border-radius: 50%;
    background: var(--water);
  }

  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }

  .asked {
    fill: none;
    stroke: var(--action);
    stroke-width: 3;
  }

  .place {
    fill: var(--panel);
    stroke: var(--stop);
    stroke-width: 2.5;
  }

  text {
    font: 700 17px var(--figures);
    text-anchor: middle;
    fill: var(--ink);
  }
</style>
