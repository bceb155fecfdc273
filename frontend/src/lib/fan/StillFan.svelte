<script lang="ts">
  // A fan's picture as a drill shows it, or a few of them one after another, round and round until they are held.
  import type { FanFilm } from "../api/types";
  import { unpack } from "../picture/history";
  import { prefs } from "../prefs.svelte";
  import { depth, fromDepth, toDepth, trim, way } from "../units";
  import { cellsOf, clearOfCorner, coloursOf, paint } from "./fan";

  let { film, label }: { film: FanFilm; label: string } = $props();

  const SHOWS_MS = 550;
  const LARGEST = 700;
  const MOST_STRETCH = 1.8; // depths, on a narrow screen

  let canvas: HTMLCanvasElement;
  let wide = $state(300);
  let high = $state(300);
  let at = $state(0);
  let held = $state(window.matchMedia("(prefers-reduced-motion: reduce)").matches);

  const span = $derived(film.ahead_m + film.behind_m);
  const scale = $derived(Math.max(Math.min(wide / span, high / film.deep_m), 2));
  const tall = $derived(Math.max(Math.min((wide / span) * MOST_STRETCH, high / film.deep_m), scale));
  const [width, height] = $derived([span * scale, film.deep_m * tall]);
  const px = (ahead: number) => (ahead + film.behind_m) * scale;
  const py = (deep: number) => deep * tall;
  const levels = $derived(unpack(film.levels));
  const day = $derived(prefs.theme === "rime" ? 0 : 1);

  $effect(() => {
    if (held || film.pictures < 2) return;
    const timer = window.setInterval(() => (at = (at + 1) % film.pictures), SHOWS_MS);
    return () => window.clearInterval(timer);
  });

  const pixels = $derived.by(() => {
    const shown = Math.min(LARGEST / Math.max(width, height), window.devicePixelRatio || 1);
    return [Math.max(Math.round(width * shown), 1), Math.max(Math.round(height * shown), 1)] as const;
  });
  const cells = $derived(
    cellsOf(...pixels, {
      beams: film.beams_deg,
      bins: film.bins,
      reach: film.reach_m,
      depth: film.head_depth_m,
      ahead: film.ahead_m,
      behind: film.behind_m,
      deep: film.deep_m,
    }),
  );
  $effect(() => {
    const [x, y] = pixels;
    if (canvas.width !== x || canvas.height !== y) [canvas.width, canvas.height] = [x, y];
    const paper = canvas.getContext("2d")!;
    const image = paper.createImageData(x, y);
    const each = film.beams_deg.length * film.bins;
    const ground = day === 0 ? "#c9d5d6" : "#33424a";
    const colours = coloursOf(film.dark[day]!, film.colours[day]!, film.steps, ground);
    paint(image, cells, levels.subarray(at * each, (at + 1) * each), colours);
    paper.putImageData(image, 0, 0);
  });

  /** Numbers on an edge, in whole feet or metres. */
  function numbers(from: number, to: number) {
    const [low, far] = [toDepth(from, prefs.system), toDepth(to, prefs.system)];
    const step = [1, 2, 5, 10, 15, 20].find((one) => (far - low) / one <= 7) ?? 30;
    const found = [];
    for (let one = Math.ceil(low / step) * step; one <= far; one += step) found.push(one);
    return found;
  }
  const lines = (from: number, to: number) => {
    if (film.square_m <= 0) return [];
    const count = Math.floor(to / film.square_m) - Math.ceil(from / film.square_m) + 1;
    return Array.from({ length: count }, (_, k) => (Math.ceil(from / film.square_m) + k) * film.square_m);
  };
  const ends = $derived(
    film.seams_deg.map((deg) => {
      const turn = (deg * Math.PI) / 180;
      return {
        x: film.reach_m * Math.cos(turn),
        z: film.head_depth_m + film.reach_m * Math.sin(turn),
      };
    }),
  );
</script>

<div class="fan-film">
  <div class="holder" bind:clientWidth={wide} bind:clientHeight={high}>
    <div class="sheet" style:width="{width}px" style:height="{height}px" role="img" aria-label={label}>
      <canvas bind:this={canvas}></canvas>
      <svg viewBox="0 0 {width} {height}" aria-hidden="true">
        {#each lines(-film.behind_m, film.ahead_m) as x (x)}
          <line class="net" x1={px(x)} x2={px(x)} y1="0" y2={height} />
        {/each}
        {#each lines(0, film.deep_m) as z (z)}
          <line class="net" x1="0" x2={width} y1={py(z)} y2={py(z)} />
        {/each}
        {#each ends as end, k (k)}
          <line class="seam" x1={px(0)} y1={py(film.head_depth_m)} x2={px(end.x)} y2={py(end.z)} />
        {/each}
        <rect class="ice" x="0" y="0" {width} height={py(film.ice_m)} />
        <circle class="head" cx={px(0)} cy={py(film.head_depth_m)} r="6" />
        {#if film.ring}<circle class="asked" cx={px(film.ring[0]!)} cy={py(film.ring[1]!)} r="20" />{/if}
        {#each film.places as [x, z], k (k)}
          <!-- From below in open water, where a jig is lifted away from it; from above at the bed. -->
          {@const way = z! < 0.65 * film.deep_m ? 1 : -1}
          <path class="pointer" d="M{px(x!)} {py(z!) + 34 * way}v{-20 * way}" />
          <circle class="place" cx={px(x!)} cy={py(z!) + 44 * way} r="13" />
          <text x={px(x!)} y={py(z!) + 44 * way + 5}>{"ABC"[k]}</text>
        {/each}
        {#each numbers(-film.behind_m, film.ahead_m) as one (one)}
          <text class="number" x={px(fromDepth(one, prefs.system))} y={height - 5}>{trim(one, 0)}</text>
        {/each}
        {#each clearOfCorner(numbers(0, film.deep_m).slice(1), (one) => py(fromDepth(one, prefs.system)), height) as one (one)}
          <text class="number edge" x={width - 5} y={py(fromDepth(one, prefs.system)) + 4}
            >{trim(one, 0)}</text
          >
        {/each}
      </svg>
    </div>
  </div>
  <p class="under">
    <span class="soft figures"
      >Ahead to {way(film.ahead_m, prefs.system)}, {depth(film.deep_m, prefs.system)} deep</span
    >
    {#if film.pictures > 1}
      <span class="figures">{at + 1} of {film.pictures}</span>
      <button onclick={() => (held = !held)}>{held ? "Play" : "Hold"}</button>
      <button disabled={!held} aria-label="One picture on" onclick={() => (at = (at + 1) % film.pictures)}
        >▶</button
      >
    {/if}
  </p>
</div>

<style>
  .fan-film {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto;
    gap: 4px;
    min-height: 0;
    height: 100%;
  }

  .holder {
    min-width: 0;
    min-height: 180px;
    overflow: hidden;
    display: grid;
    place-items: start center;
  }

  .sheet {
    position: relative;
    overflow: hidden;
    border: 1.5px solid var(--ink);
    border-radius: 4px;
    background: var(--ground);
  }

  canvas,
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    forced-color-adjust: none;
  }

  .net {
    stroke: var(--soft);
    stroke-dasharray: 2 5;
  }

  .seam {
    stroke: var(--action);
    stroke-width: 1.5;
    stroke-dasharray: 8 6;
  }

  .ice {
    fill: var(--ice-edge);
    opacity: 0.5;
  }

  .head {
    fill: var(--action);
    stroke: var(--panel);
    stroke-width: 2;
  }

  .asked {
    fill: none;
    stroke: var(--action);
    stroke-width: 3;
  }

  .pointer {
    stroke: var(--action);
    stroke-width: 2.5;
  }

  .place {
    fill: var(--panel);
    stroke: var(--action);
    stroke-width: 2.5;
  }

  text {
    fill: var(--ink);
    font-weight: 700;
    font-size: 15px;
    text-anchor: middle;
  }

  .number {
    font-size: 13px;
    font-weight: 600;
    paint-order: stroke;
    stroke: var(--panel);
    stroke-width: 3px;
  }

  .edge {
    text-anchor: end;
  }

  .under {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 10px;
    padding: 0 10px 6px;
    font-size: 0.9rem;
  }

  .under .soft {
    flex: 1;
  }
</style>
