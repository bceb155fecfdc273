<script lang="ts">
  // A clip on a canvas. It knows no clock: whoever shows it moves the play head.
  import { onMount } from "svelte";
  import type { Ladder, Pings } from "../api/types";
  import { prefs } from "../prefs.svelte";
  import { depth } from "../units";
  import { ClipPaper, type Marked, ROD, UNMARKED } from "./clip";
  import { readInks } from "./inks";

  let {
    pings,
    ladder,
    light = 1,
    time,
    across,
    line = null,
    marked = UNMARKED,
    label,
    point = null,
  }: {
    pings: Pings;
    ladder: Ladder;
    light?: number;
    time: number;
    across: number;
    /** What the hand did: line taken in at each ping [m]; null for no strip. */
    line?: readonly number[] | null;
    marked?: Marked;
    label: string;
    /** Called with a range [m] when the picture is touched. */
    point?: ((range: number) => void) | null;
  } = $props();

  let canvas: HTMLCanvasElement;
  let width = $state(0);
  let height = $state(0);
  let hover = $state(0);

  const paper = $derived(new ClipPaper(pings, ladder, light));
  const box = $derived({ left: 0, top: 0, width, height: height - (line ? ROD : 0) });

  $effect(() => {
    document.documentElement.dataset.theme = prefs.theme;
    paper.colour(prefs.theme);
    paint();
  });

  $effect(() => paint());

  function paint() {
    const p = canvas.getContext("2d", { alpha: false })!;
    const dpr = window.devicePixelRatio || 1;
    if (width === 0 || box.height <= 0) return;
    if (canvas.width !== Math.round(width * dpr) || canvas.height !== Math.round(height * dpr)) {
      canvas.width = Math.round(width * dpr);
      canvas.height = Math.round(height * dpr);
    }
    p.setTransform(dpr, 0, 0, dpr, 0, 0);
    const inks = readInks();
    paper.paint(p, box, time, across, marked, inks, prefs.system);
    if (line) paper.paintRod(p, { left: 0, top: box.height, width, height: ROD }, line, time, across, inks);
  }

  onMount(() => {
    hover = Math.max(pings.top_m[0] ?? 0, 0) + 0.5 * ((pings.bottom_m[0] ?? 1) - (pings.top_m[0] ?? 0));
  });

  function press(event: PointerEvent) {
    if (!point) return;
    const y = event.clientY - canvas.getBoundingClientRect().top;
    if (y < box.height) point(Math.max(paper.rangeAt(y, box, time), 0));
  }

  // By keys: up and down move a line, Enter answers with it.
  function keydown(event: KeyboardEvent) {
    if (!point) return;
    const k = paper.at(time);
    const [top, bottom] = [pings.top_m[k]!, pings.bottom_m[k]!];
    const step = (bottom - top) / 80;
    if (event.key === "ArrowUp") hover = Math.max((marked.pointed ?? hover) - step, top);
    else if (event.key === "ArrowDown") hover = Math.min((marked.pointed ?? hover) + step, bottom);
    else return;
    event.preventDefault();
    event.stopPropagation();
    point(hover);
  }
</script>

<div class="clip" bind:clientWidth={width} bind:clientHeight={height}>
  <canvas
    bind:this={canvas}
    class:pointing={point}
    onpointerdown={press}
    onkeydown={keydown}
    tabindex={point ? 0 : undefined}
    role={point ? "slider" : "img"}
    aria-label={label}
    aria-valuenow={point ? (marked.pointed ?? hover) : undefined}
    aria-valuemin={point ? 0 : undefined}
    aria-valuemax={point ? (pings.bottom_m[0] ?? 0) : undefined}
    aria-valuetext={point ? depth(marked.pointed ?? hover, prefs.system) : undefined}>{label}</canvas
  >
</div>

<style>
  .clip {
    position: relative;
    min-width: 0;
    min-height: 0;
    overflow: hidden;
  }

  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }

  canvas.pointing {
    cursor: crosshair;
    touch-action: none;
  }
</style>
