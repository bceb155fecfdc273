<script lang="ts">
  // The living picture: one canvas, painted at the display's rate from whatever frames have come. Touch a mark to be
  // told what it is; drag the aim line.
  import { onMount } from "svelte";
  import { api, ok } from "../api/client";
  import type { Bench, Frame, Mark } from "../api/types";
  import type { BenchStream } from "../live/stream.svelte";
  import { prefs } from "../prefs.svelte";
  import { depth, sentence } from "../units";
  import { markName } from "./names";
  import { type Look, Painter, type Placed } from "./painter";
  import Parts from "./Parts.svelte";

  let {
    bench,
    stream,
    look,
    placed = { strikes: [], rise: null },
    edit = null,
    aim,
    pings = $bindable(0),
  }: {
    bench: Bench;
    stream: BenchStream;
    look: Omit<Look, "theme" | "system">;
    /** Strikes and rise line, on the picture's own depths. */
    placed?: Placed;
    /** Called with the field of the Hole step that a touched part of the section stands for; null where none does. */
    edit?: ((field: string) => void) | null;
    /** Put the aim line at this depth [m]. */
    aim: (depth: number) => void;
    /** How many pings are remembered. */
    pings?: number;
  } = $props();

  let canvas: HTMLCanvasElement;
  let holder: HTMLDivElement = $state()!;
  let painter: Painter | null = $state(null);
  let mark: (Mark & { x: number; y: number }) | null = $state(null);
  let dragging = false;
  /** The picture's depth axis, for what stands over the canvas. */
  let stand = $state({ top: 0, bottom: 1, column: 0 });

  const whole = $derived({ ...look, theme: prefs.theme, system: prefs.system });

  $effect(() => {
    // The theme's colours are in place only after the document has it.
    document.documentElement.dataset.theme = prefs.theme;
    painter?.setLook(whole);
  });

  $effect(() => {
    painter?.setPlaced(placed);
  });

  $effect(() => {
    if (stream.tuning) painter?.setTuning(stream.tuning);
  });

  $effect(() => {
    if (stream.scene) painter?.setScene(stream.scene);
  });

  $effect(() => {
    if (!look.truth) mark = null;
  });

  onMount(() => {
    const made = new Painter(canvas, bench.scene, bench.unit, bench.frame_s * 1000);
    made.setLook(whole);
    painter = made;
    // The water before: half a minute of it, so that the first look is at a living picture.
    if (bench.past) made.take(structuredClone($state.snapshot(bench.past)) as Frame, performance.now());
    pings = made.remembered;
    const stopListening = stream.onFrame((frame) => {
      made.take(frame, performance.now());
      pings = made.remembered;
    });
    const watch = new ResizeObserver(() =>
      made.resize(holder.clientWidth, holder.clientHeight, window.devicePixelRatio || 1),
    );
    watch.observe(holder);
    // Who asks for less motion gets the frames as they come, without the gliding in between.
    const calm = window.matchMedia("(prefers-reduced-motion: reduce)");
    let painted = 0;
    let request = requestAnimationFrame(function again(at) {
      if (!calm.matches) made.paint(at);
      else if (at - painted >= bench.frame_s * 1000 - 5) {
        painted = at;
        made.paint(Number.POSITIVE_INFINITY);
      }
      const now = made.stand;
      if (now.top !== stand.top || now.bottom !== stand.bottom || now.column !== stand.column) stand = now;
      request = requestAnimationFrame(again);
    });
    return () => {
      cancelAnimationFrame(request);
      watch.disconnect();
      stopListening();
    };
  });

  // The reader's names, at the old end of each mark's line so that the newest pings stay in sight.
  const names = $derived.by(() => {
    let free = 20;
    return (stream.reading?.marks ?? []).flatMap((mark) => {
      const at = mark.hidden ? null : painter?.placeOf(mark.range_m);
      if (!at) return [];
      const y = Math.max(at[1], free);
      free = y + 20;
      return [{ id: mark.track, kind: mark.kind, text: markName(mark, prefs.system), x: at[0] - 46, y }];
    });
  });

  function place(event: PointerEvent): [number, number] {
    const box = canvas.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  }

  function press(event: PointerEvent) {
    const [, y] = place(event);
    const line = painter?.aimLine(stream.targetDepth);
    if (line == null || Math.abs(line - y) > 18) return;
    dragging = true;
    canvas.setPointerCapture(event.pointerId);
    event.preventDefault();
  }

  function move(event: PointerEvent) {
    if (dragging && painter) aim(Math.max(painter.depthAt(place(event)[1]), 0.05));
  }

  async function release(event: PointerEvent) {
    if (dragging) {
      dragging = false;
      return;
    }
    if (!painter || !look.truth) return;
    const [x, y] = place(event);
    const touch = painter.touched(x, y);
    if (!touch) return;
    const ping = painter.pingNumber(touch.back);
    try {
      const found = await ok(
        api.GET("/api/benches/{bench_id}/mark", {
          params: { path: { bench_id: bench.id }, query: { range_m: Number(touch.range.toFixed(3)), ping } },
        }),
      );
      mark = { ...found, x, y };
    } catch {
      mark = null; // the bench has just been freed, or that ping is forgotten: nothing to say
    }
  }

  const said = $derived(
    stream.lureDepth === null
      ? "Sonar picture, waiting for the first ping"
      : !look.truth
        ? "Sonar picture, the true section hidden"
        : `Sonar picture beside the true section of the hole. Lure at ${depth(stream.lureDepth, prefs.system)}, ` +
          `bottom at ${depth(stream.scene?.bottom_depth_m ?? bench.scene.bottom_depth_m, prefs.system)}.`,
  );
</script>

<div
  class="picture"
  bind:this={holder}
  data-axis-top={stand.top.toFixed(3)}
  data-axis-bottom={stand.bottom.toFixed(3)}
  data-strikes={placed.strikes.length}
  data-rise={placed.rise?.depth_m.toFixed(2)}
>
  <canvas
    bind:this={canvas}
    onpointerdown={press}
    onpointermove={move}
    onpointerup={release}
    onpointercancel={() => (dragging = false)}>{said}</canvas
  >
  {#if stream.scene && stand.column > 0}
    <Parts scene={stream.scene} {stand} {edit} />
  {/if}
  {#each names as name (name.id)}
    <span class="named" class:lure={name.kind === "lure"} style:left="{name.x}px" style:top="{name.y}px"
      >{name.text}</span
    >
  {/each}
  {#if mark}
    <div
      class="mark"
      class:low={mark.y > holder.clientHeight / 2}
      role="status"
      style:left="{Math.min(Math.max(mark.x, 8), Math.max(holder.clientWidth - 268, 8))}px"
      style:top="{mark.y}px"
      data-testid="mark"
    >
      <p class="finding">{sentence(mark.finding, mark.values, prefs.system)}</p>
      <p class="reason">{sentence(mark.reason, mark.values, prefs.system)}</p>
      <button onclick={() => (mark = null)}>Close</button>
    </div>
  {/if}
</div>

<style>
  .picture {
    position: relative;
    min-height: 0;
    min-width: 0;
    overflow: hidden;
  }

  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    touch-action: none;
    cursor: crosshair;
  }

  .named {
    position: absolute;
    transform: translate(-100%, -50%);
    padding: 0 5px;
    border-radius: 3px;
    background: var(--panel);
    border-left: 4px solid var(--pine);
    font-size: 0.82rem;
    font-weight: 600;
    white-space: nowrap;
    pointer-events: none;
    opacity: 0.94;
  }

  .named.lure {
    border-left-color: var(--action);
  }

  .mark {
    position: absolute;
    width: 260px;
    max-width: calc(100% - 16px);
    margin-top: 12px;
    padding: 10px 12px;
    border: 2px solid var(--action);
    border-radius: 8px;
    background: var(--panel);
    font-size: 0.92rem;
    line-height: 1.3;
  }

  .mark.low {
    transform: translateY(calc(-100% - 24px));
  }

  .finding {
    font-weight: 700;
  }

  .reason {
    margin: 4px 0 8px;
    color: var(--soft);
  }
</style>
