<script lang="ts">
  // The photo with what is laid over it, to be dragged by finger or moved by keys under a magnifier; and a place to be
  // touched for its colour.
  import { onMount } from "svelte";
  import { readInks } from "../../../lib/picture/inks";
  import { prefs } from "../../../lib/prefs.svelte";
  import type { Laid, Photo, Point } from "./photo.svelte";

  let { photo, laid, pointing, pick }: {
    photo: Photo;
    laid: Laid;
    /** What is being pointed at, in words; null for what is laid over it. */
    pointing: string | null;
    pick: (at: Point) => void;
  } = $props(); // prettier-ignore

  const LENS = 132; // px
  const TIMES = 4;

  let canvas: HTMLCanvasElement;
  let lens: HTMLCanvasElement;
  let width = $state(0);
  let room = $state(0);
  let held = $state<number | null>(null);
  let spot = $state<Point | null>(null);

  const scale = $derived(Math.min(width / photo.pixels.width, room / photo.pixels.height) || 0);
  const wide = $derived(Math.round(photo.pixels.width * scale));
  const high = $derived(Math.round(photo.pixels.height * scale));
  const looked = $derived<Point | null>(
    pointing ? spot : held === null ? null : (laid.handles[held]?.at ?? null),
  );
  /** The magnifier stands where what it shows does not. */
  const right = $derived(looked !== null && looked[0] * scale < wide / 2);

  onMount(() => (spot = [photo.pixels.width / 2, photo.pixels.height / 2]));

  $effect(() => {
    document.documentElement.dataset.theme = prefs.theme;
    const dpr = window.devicePixelRatio || 1;
    if (!wide || !high) return;
    canvas.width = Math.round(wide * dpr);
    canvas.height = Math.round(high * dpr);
    const paper = canvas.getContext("2d", { alpha: false })!;
    paper.drawImage(photo.pixels, 0, 0, canvas.width, canvas.height);
    paper.setTransform(dpr, 0, 0, dpr, 0, 0);
    inked(paper, 5, 2, () => {
      for (const line of laid.lines) {
        line.forEach(([x, y], k) =>
          k ? paper.lineTo(x * scale, y * scale) : paper.moveTo(x * scale, y * scale),
        );
      }
    });
  });

  /** Lines that are seen over anything: a thin one in the action's colour on a thick one of the panel's. */
  function inked(paper: CanvasRenderingContext2D, thick: number, thin: number, draw: () => void) {
    const inks = readInks();
    for (const [ink, wide] of [
      [inks.panel, thick],
      [inks.action, thin],
    ] as const) {
      paper.strokeStyle = ink;
      paper.lineWidth = wide;
      paper.beginPath();
      draw();
      paper.stroke();
    }
  }

  $effect(() => {
    if (!looked) return;
    const dpr = window.devicePixelRatio || 1;
    lens.width = lens.height = Math.round(LENS * dpr);
    const paper = lens.getContext("2d", { alpha: false })!;
    const inks = readInks();
    paper.fillStyle = inks.panel;
    paper.fillRect(0, 0, lens.width, lens.height);
    const part = LENS / (scale * TIMES);
    paper.imageSmoothingEnabled = false;
    paper.drawImage(
      photo.pixels, looked[0] - part / 2, looked[1] - part / 2, part, part, 0, 0, lens.width, lens.height,
    ); // prettier-ignore
    paper.setTransform(dpr, 0, 0, dpr, 0, 0);
    inked(paper, 4, 1.5, () => {
      paper.moveTo(LENS / 2, 0);
      paper.lineTo(LENS / 2, LENS);
      paper.moveTo(0, LENS / 2);
      paper.lineTo(LENS, LENS / 2);
    });
  });

  const place = (event: PointerEvent): Point => {
    const box = canvas.getBoundingClientRect();
    return [(event.clientX - box.left) / scale, (event.clientY - box.top) / scale];
  };

  const STEPS: Record<string, Point> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };

  /** By keys a place moves by a pixel of the screen, by ten with Shift. */
  function stepped(event: KeyboardEvent, from: Point): Point | null {
    const step = STEPS[event.key];
    if (!step) return null;
    event.preventDefault();
    const by = (event.shiftKey ? 10 : 1) / scale;
    return [from[0] + step[0] * by, from[1] + step[1] * by];
  }

  function touch(event: PointerEvent) {
    if (!pointing) return;
    spot = place(event);
    pick(spot);
  }
</script>

<div class="board" bind:clientWidth={width} bind:clientHeight={room}>
  <div class="photo" style:width="{wide}px" style:height="{high}px">
    <canvas
      bind:this={canvas}
      data-testid="photo"
      class:pointing={pointing !== null}
      aria-label="Your photo, with what is laid over it"
      onpointerdown={touch}
      onpointermove={(event) => pointing && (spot = place(event))}
    ></canvas>
    {#if pointing && spot}
      <button
        class="spot"
        style:left="{spot[0] * scale}px"
        style:top="{spot[1] * scale}px"
        aria-label="Touch {pointing} here: arrows move, Enter takes it"
        onclick={() => spot && pick(spot)}
        onkeydown={(event) => {
          const to = spot && stepped(event, spot);
          if (to) spot = to;
        }}
      ></button>
    {:else}
      {#each laid.handles as handle, k (k)}
        <button
          class="handle"
          style:left="{handle.at[0] * scale}px"
          style:top="{handle.at[1] * scale}px"
          aria-label="{handle.name}: drag it, or move it by the arrows"
          onpointerdown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            held = k;
          }}
          onpointermove={(event) => held === k && event.buttons && laid.move(k, place(event))}
          onfocus={() => (held = k)}
          onkeydown={(event) => {
            const to = stepped(event, handle.at);
            if (to) laid.move(k, to);
          }}
          >{#if handle.short}<span>{handle.short}</span>{/if}</button
        >
      {/each}
    {/if}
    <canvas bind:this={lens} class="lens" class:right class:shown={looked !== null} aria-hidden="true"
    ></canvas>
  </div>
</div>

<style>
  .board {
    position: relative;
    display: grid;
    place-content: center;
    min-height: 0;
    min-width: 0;
    height: 100%;
    overflow: hidden;
  }

  .photo {
    position: relative;
    touch-action: none;
  }

  canvas {
    display: block;
    width: 100%;
    height: 100%;
  }

  canvas.pointing {
    cursor: crosshair;
  }

  .handle,
  .spot {
    position: absolute;
    width: 44px;
    height: 44px;
    min-height: 44px;
    padding: 0;
    transform: translate(-50%, -50%);
    border-radius: 50%;
    border: 3px solid var(--action);
    background: transparent;
    box-shadow:
      0 0 0 2px var(--ground),
      inset 0 0 0 2px var(--ground);
    cursor: grab;
    touch-action: none;
  }

  /* A handle that the magnifier stands over is still seen, and can be taken. */
  .handle {
    z-index: 1;
  }

  .handle span {
    position: absolute;
    top: 100%;
    left: 50%;
    transform: translateX(-50%);
    padding: 0 5px;
    border-radius: 4px;
    background: var(--panel);
    color: var(--ink);
    font-size: 0.8rem;
    white-space: nowrap;
    pointer-events: none;
  }

  .spot {
    width: 28px;
    min-width: 28px;
    height: 28px;
    min-height: 28px;
    pointer-events: none;
  }

  .lens {
    position: absolute;
    top: 6px;
    left: 6px;
    width: 132px;
    height: 132px;
    border-radius: 50%;
    border: 3px solid var(--action);
    visibility: hidden;
    pointer-events: none;
  }

  .lens.shown {
    visibility: visible;
  }

  .lens.right {
    left: auto;
    right: 6px;
  }

  @media (max-width: 760px) {
    .handle {
      width: 56px;
      height: 56px;
    }
  }
</style>
