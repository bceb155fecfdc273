<script lang="ts">
  // The living picture: one canvas, painted at the display's rate from whatever frames have come. Touch a mark to be
  // told what it is; drag the aim line.
  import { onMount } from "svelte";
  import { api, ok } from "../api/client";
  import type { Bench, Frame, Mark } from "../api/types";
  import type { BenchStream } from "../live/stream.svelte";
  import { prefs } from "../prefs.svelte";
  import { depth, sentence } from "../units";
  import Marks from "./Marks.svelte";
  import Popover from "../overlay/Popover.svelte";
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
  let popover: ReturnType<typeof Popover> | undefined = $state();
  let marks: ReturnType<typeof Marks> | undefined = $state();
  let high = $state(0);
  let wide = $state(0);
  let margin = $state(0);
  const id = $props.id();
  let dragging = false;
  /** The picture's depth axis, for what stands over the canvas. */
  let stand = $state({ top: 0, bottom: 1, column: 0, right: 0 });

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

  const named = $derived(stream.reading !== null);
  $effect(() => {
    void wide; // a picture of another width has a margin of another
    margin = painter?.setMargin(named) ?? 0;
  });

  /** Walk the marks with the keys. */
  export const walk = () => marks?.walk();

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
      if (
        now.top !== stand.top ||
        now.bottom !== stand.bottom ||
        now.column !== stand.column ||
        now.right !== stand.right
      )
        stand = now;
      request = requestAnimationFrame(again);
    });
    return () => {
      cancelAnimationFrame(request);
      watch.disconnect();
      stopListening();
    };
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
    await explain(touch.range, painter.pingNumber(touch.back), x, y);
  }

  /** Say what made the mark at a range in a ping, beside where it stands on the canvas. */
  async function explain(range: number, ping: number, x: number, y: number) {
    try {
      const found = await ok(
        api.GET("/api/benches/{bench_id}/mark", {
          params: { path: { bench_id: bench.id }, query: { range_m: Number(range.toFixed(3)), ping } },
        }),
      );
      mark = { ...found, x, y };
      popover?.show();
    } catch {
      mark = null; // the bench has just been freed, or that ping is forgotten: nothing to say
    }
  }

  /** What the words about a mark leave in sight. */
  function aboutMark() {
    const box = canvas.getBoundingClientRect();
    const [x, y] = [box.left + (mark?.x ?? 0), box.top + (mark?.y ?? 0)];
    return { left: x - 20, right: x + 20, top: y - 20, bottom: y + 20 };
  }

  const ladder = $derived(bench.unit.ladders[stream.settings?.ladder ?? 0]);
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
  bind:clientHeight={high}
  bind:clientWidth={wide}
  data-axis-top={stand.top.toFixed(3)}
  data-axis-bottom={stand.bottom.toFixed(3)}
  data-margin={margin}
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
  {#if painter && ladder}
    <Marks
      bind:this={marks}
      {painter}
      {stream}
      {ladder}
      {named}
      room={margin > 0 && stand.right <= wide - margin ? stand.right : null}
      height={high}
      size="{wide} {high}"
      explain={look.truth && painter
        ? (range, x, y) => void explain(range, painter!.pingNumber(painter!.shownBack), x, y)
        : null}
    />
  {/if}
  <Popover
    bind:this={popover}
    id="{id}-mark"
    label="What the mark is"
    about={aboutMark}
    closed={() => (mark = null)}
  >
    {#if mark}
      <div role="status" data-testid="mark">
        <p class="finding">{sentence(mark.finding, mark.values, prefs.system)}</p>
        <p class="reason">{sentence(mark.reason, mark.values, prefs.system)}</p>
      </div>
    {/if}
  </Popover>
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

  .finding {
    font-weight: 700;
  }

  .reason {
    margin: 4px 0 0;
    color: var(--soft);
  }
</style>
