<script lang="ts">
  // The living picture: one canvas, painted at the display's rate from whatever frames have come.
  import { onMount } from "svelte";
  import type { Bench } from "../api/types";
  import type { BenchStream } from "../live/stream.svelte";
  import { prefs } from "../prefs.svelte";
  import { depth } from "../units";
  import { Painter } from "./painter";

  let { bench, stream, truth }: { bench: Bench; stream: BenchStream; truth: boolean } = $props();

  let canvas: HTMLCanvasElement;
  let holder: HTMLDivElement;
  let painter: Painter | null = $state(null);

  $effect(() => {
    // The theme's colours are in place only after the document has it.
    document.documentElement.dataset.theme = prefs.theme;
    painter?.setLook({ theme: prefs.theme, system: prefs.system, truth });
  });

  $effect(() => {
    if (stream.tuning) painter?.setTuning(stream.tuning);
  });

  onMount(() => {
    const made = new Painter(canvas, bench.hole, bench.unit.colours, bench.unit.rows, bench.frame_s * 1000);
    made.setLook({ theme: prefs.theme, system: prefs.system, truth });
    painter = made;
    const stopListening = stream.onFrame((frame) => made.take(frame, performance.now()));
    const watch = new ResizeObserver(() =>
      made.resize(holder.clientWidth, holder.clientHeight, window.devicePixelRatio || 1),
    );
    watch.observe(holder);
    let request = requestAnimationFrame(function again(at) {
      made.paint(at);
      request = requestAnimationFrame(again);
    });
    return () => {
      cancelAnimationFrame(request);
      watch.disconnect();
      stopListening();
    };
  });

  const said = $derived(
    stream.lureDepth === null
      ? "Sonar picture, waiting for the first ping"
      : `Sonar picture beside the true section of the hole. Lure at ${depth(stream.lureDepth, prefs.system)}, ` +
          `bottom at ${depth(bench.hole.bottom_depth_m, prefs.system)}.`,
  );
</script>

<div class="picture" bind:this={holder}>
  <canvas bind:this={canvas}>{said}</canvas>
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
  }
</style>
