<script lang="ts">
  // The picture of a look around, from above or unrolled, and what is known of it drawn on it: where a touched thing can
  // be along the ice, fixes, course, holes. A touch, or Enter where the arrows have led the cross, asks what a thing is.
  import { onMount } from "svelte";
  import type { Fix, LookTruth } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { way as wayOf } from "../../lib/units";
  import type { LookStream } from "./look.svelte";
  import Dial from "../../lib/turning/Dial.svelte";
  import {
    BEARINGS,
    BINS,
    drawnAt,
    heardAt,
    PixelMap,
    placeOf,
    pointAt,
    rampOf,
    reach,
    type Shown,
  } from "../../lib/turning/turning";
  import { search } from "./search.svelte";
  import { clockOf } from "./words";

  let {
    look,
    shown,
    touch,
    truth,
    twelve,
  }: {
    /** Null by hand: the circle is empty. */
    look: LookStream | null;
    shown: Shown;
    touch: (bearing: number, range: number) => void;
    truth: LookTruth | null;
    /** Where twelve points [degrees from north]. */
    twelve: number;
  } = $props();

  const LARGEST = 620; // pixels a side: more shows nothing more

  let canvas: HTMLCanvasElement;
  let wide = $state(300);
  let high = $state(300);
  let cross = $state<{ bearing: number; away: number } | null>(null);

  const side = $derived(Math.max(Math.min(wide, high), 120));
  const width = $derived(shown.way === "round" ? side : Math.max(wide, 120));
  const height = $derived(shown.way === "round" ? side : Math.max(high, 120));
  const far = $derived(reach(shown));

  const colours = $derived(rampOf(prefs.theme, look?.look?.steps ?? 31));

  let map: PixelMap | null = null;
  let image: ImageData | null = null;
  let due = false;

  function layOut() {
    const scale = Math.min(LARGEST / Math.max(width, height), window.devicePixelRatio || 1);
    const [x, y] = [Math.round(width * scale), Math.round(height * scale)];
    canvas.width = x;
    canvas.height = y;
    map = new PixelMap(x, y, shown, BEARINGS, BINS);
    image = canvas.getContext("2d")!.createImageData(x, y);
  }

  function paint() {
    due = false;
    if (!map || !image || !canvas) return; // a frame that was asked for before the page went
    const paper = canvas.getContext("2d")!;
    const levels = look && look.levels.length > 0 ? look.levels : new Uint8Array(BEARINGS * BINS);
    const seen =
      look && look.seen.length > 0 ? look.seen : new Float64Array(BEARINGS).fill(Number.NEGATIVE_INFINITY);
    map.paint(image, levels, seen, look?.now ?? 0, look?.turnS ?? 1, colours);
    paper.putImageData(image, 0, 0);
  }

  const soon = () => {
    if (due) return;
    due = true;
    requestAnimationFrame(paint);
  };

  $effect(() => {
    void [width, height, shown.way, shown.measure, shown.range, shown.down];
    layOut();
    soon();
  });
  $effect(() => {
    void colours;
    soon();
  });
  $effect(() => {
    if (!look) return soon();
    const mine = look;
    mine.changed = soon;
    return () => (mine.changed = () => undefined);
  });

  onMount(() => {
    layOut();
    soon();
  });

  function press(event: MouseEvent) {
    const box = canvas.getBoundingClientRect();
    const at = pointAt((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height, shown);
    if (at.away > far) return;
    cross = at;
    touch((at.bearing + twelve) % 360, heardAt(at.away, shown));
  }

  const TURN_DEG = 3;
  function key(event: KeyboardEvent) {
    const now = cross ?? { bearing: 0, away: far / 2 };
    const step = far / 40;
    const to = {
      ArrowLeft: { ...now, bearing: (now.bearing + 360 - TURN_DEG) % 360 },
      ArrowRight: { ...now, bearing: (now.bearing + TURN_DEG) % 360 },
      ArrowUp: { ...now, away: Math.min(now.away + step, far) },
      ArrowDown: { ...now, away: Math.max(now.away - step, 0) },
    }[event.key];
    if (to) cross = to;
    else if (event.key === "Enter" || event.key === " ")
      touch((now.bearing + twelve) % 360, heardAt(now.away, shown));
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** A place along the ice [m] as pixels: what is walked to is drawn as far off as it is, whatever the sound's way. */
  function pixel(bearing: number, along: number): [number, number] {
    const [x, y] = placeOf(bearing - twelve, along, shown);
    return [x * width, y * height];
  }
  const polar = (east: number, north: number): [number, number] => [
    ((Math.atan2(east, north) * 180) / Math.PI + 360) % 360,
    Math.hypot(east, north),
  ];
  const atPlace = (east: number, north: number) => pixel(...polar(east, north));

  /** Where a fix is drawn: where it was touched. */
  function fixAt(fix: Fix): [number, number] | null {
    const drawn = drawnAt(fix.range_m, shown);
    if (drawn === null) return null;
    const [x, y] = placeOf(fix.bearing_deg - twelve, drawn, shown);
    return [x * width, y * height];
  }

  const arc = $derived.by(() => {
    const ice = search.touched?.ice;
    if (!search.touched || ice?.low_m == null || ice.high_m == null) return "";
    const { bearing } = search.touched;
    const half = 6;
    const line = (along: number, from: number, to: number) =>
      Array.from({ length: 9 }, (_, k) => pixel(bearing + from + ((to - from) * k) / 8, along));
    const points = [
      ...line(ice.low_m, -half, half),
      ...line(Math.max(ice.high_m, ice.low_m + 0.2), half, -half),
    ];
    return `M${points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z`;
  });

  const course = $derived.by(() => {
    const found = search.course;
    if (!found) return null;
    const { east_m, north_m, east_sd_m, north_sd_m, correlation } = found.there;
    const speed = found.speed_m_s.likely;
    const rad = (found.heading_deg.likely * Math.PI) / 180;
    const ahead = Array.from({ length: 13 }, (_, k) => {
      const t = k * 15;
      return atPlace(east_m + Math.sin(rad) * speed * t, north_m + Math.cos(rad) * speed * t);
    });
    // Nine in ten lie within 2.15 deviations of a normal ellipse.
    const mixed = correlation * east_sd_m * north_sd_m;
    const root = north_sd_m > 0 ? Math.sqrt(Math.max(east_sd_m ** 2 - (mixed / north_sd_m) ** 2, 0)) : 0;
    const rim = Array.from({ length: 25 }, (_, k) => {
      const a = (k / 24) * 2 * Math.PI;
      const north = north_sd_m * Math.sin(a);
      const east = root * Math.cos(a) + (north_sd_m > 0 ? (mixed / north_sd_m) * Math.sin(a) : 0);
      return atPlace(east_m + 2.15 * east, north_m + 2.15 * north);
    });
    const path = (points: [number, number][]) =>
      points.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join(" ");
    return { ahead: path(ahead), end: ahead[12]!, rim: path(rim), at: atPlace(east_m, north_m) };
  });
  // A hole beyond the picture stands at its rim, with the way to it.
  const holes = $derived(
    (search.drilling?.let_it_go ? [] : (search.drilling?.holes ?? [])).map((one) => {
      const [bearing, away] = polar(one.east_m, one.north_m);
      const beyond = away > far * 0.95;
      const [x, y] = pixel(bearing, Math.min(away, far * 0.78));
      return { x, y, beyond, words: wayOf(away, prefs.system) };
    }),
  );
  // Where the head looks just now: a wedge at the rim, and what is older is paler. No hand that sweeps is needed.
  const newest = $derived.by(() => {
    void look?.now;
    if (!look?.live) return "";
    const bearing = (look.newest * 360) / BEARINGS;
    const at = (turn: number, away: number) =>
      placeOf(bearing + turn, away, shown)
        .map((one, k) => (one * (k ? height : width)).toFixed(1))
        .join(" ");
    return `M${at(0, far * 0.955)}L${at(-2.2, far)}L${at(2.2, far)}Z`;
  });
  const crossAt = $derived.by(() => {
    if (!cross) return null;
    const [x, y] = placeOf(cross.bearing, cross.away, shown);
    return [x * width, y * height] as const;
  });
  const said = $derived(
    cross
      ? `${clockOf(cross.bearing)}, ${wayOf(heardAt(cross.away, shown), prefs.system)} through the water`
      : "Arrows move the cross, Enter asks what is there",
  );
</script>

<div class="holder" bind:clientWidth={wide} bind:clientHeight={high}>
  <div class="picture" style:width="{width}px" style:height="{height}px" data-way={shown.way}>
    <canvas bind:this={canvas} style:width="{width}px" style:height="{height}px" aria-hidden="true"></canvas>
    <svg viewBox="0 0 {width} {height}" aria-hidden="true">
      <Dial {shown} {width} {height} />
      {#if newest}<path class="newest" d={newest} />{/if}
      {#if truth}
        {#each truth.groups as group, g (g)}
          {#each group.fish as [east, north], k (k)}
            {@const [x, y] = atPlace(east!, north!)}
            <circle cx={x} cy={y} r="2.2" class="fish" />
          {/each}
        {/each}
      {/if}
      {#if arc}<path d={arc} class="arc" />{/if}
      {#if course}
        <polygon points={course.rim} class="ellipse" />
        <polyline points={course.ahead} class="course" />
        <circle cx={course.end[0]} cy={course.end[1]} r="4" class="end" />
        <circle cx={course.at[0]} cy={course.at[1]} r="4" class="now" />
      {/if}
      {#each search.fixes as fix, k (k)}
        {@const at = fixAt(fix)}
        {#if at}
          <circle cx={at[0]} cy={at[1]} r="10" class="fix" />
          <text class="count" x={at[0]} y={at[1] + 5}>{k + 1}</text>
        {/if}
      {/each}
      {#each holes as hole, k (k)}
        <path class="drill" d="M{hole.x - 12} {hole.y}h24M{hole.x} {hole.y - 12}v24" />
        <circle cx={hole.x} cy={hole.y} r="9" class="drill" />
        {#if hole.beyond}<text class="hour away" x={hole.x} y={hole.y + 30}>{hole.words} off</text>{/if}
      {/each}
      {#if crossAt}<path
          class="cross"
          d="M{crossAt[0] - 16} {crossAt[1]}h10m12 0h10M{crossAt[0]} {crossAt[1] - 16}v10m0 12v10"
        />{/if}
    </svg>
    <button class="face" aria-label="The picture. {said}" data-testid="round" onclick={press} onkeydown={key}
    ></button>
  </div>
</div>

<style>
  .holder {
    min-width: 0;
    min-height: 0;
    display: grid;
    place-items: center;
    overflow: hidden;
  }

  .picture {
    position: relative;
  }

  .picture[data-way="round"] canvas {
    border-radius: 50%;
  }

  canvas {
    display: block;
    background: var(--water);
  }

  svg,
  .face {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }

  svg {
    pointer-events: none;
    overflow: hidden;
  }

  .face {
    background: none;
    border: 0;
    border-radius: 0;
    padding: 0;
    min-height: 0;
    cursor: crosshair;
    touch-action: manipulation;
  }

  .picture[data-way="round"] .face {
    border-radius: 50%;
  }

  .hour,
  .count {
    font: 700 15px var(--figures);
    fill: var(--ink);
    text-anchor: middle;
    paint-order: stroke;
    stroke: var(--ground);
    stroke-width: 4px;
    stroke-linejoin: round;
  }

  .count {
    stroke: none;
    font-size: 13px;
    fill: var(--on-action);
  }

  .away {
    fill: var(--stop);
  }

  .newest {
    fill: var(--action);
    stroke: var(--panel);
    stroke-width: 1;
  }

  .fish {
    fill: var(--pine);
    stroke: var(--panel);
    stroke-width: 0.7;
  }

  .arc {
    fill: var(--action);
    fill-opacity: 0.3;
    stroke: var(--action);
    stroke-width: 2;
  }

  .ellipse {
    fill: var(--pine);
    fill-opacity: 0.18;
    stroke: var(--pine);
    stroke-dasharray: 5 4;
    stroke-width: 1.5;
  }

  .course {
    fill: none;
    stroke: var(--pine);
    stroke-width: 3;
    stroke-dasharray: 9 5;
  }

  .end,
  .now {
    fill: var(--pine);
    stroke: var(--panel);
    stroke-width: 1.5;
  }

  .end {
    fill: var(--panel);
    stroke: var(--pine);
    stroke-width: 2.5;
  }

  .fix {
    fill: var(--action);
    stroke: var(--panel);
    stroke-width: 1.5;
  }

  .drill {
    fill: none;
    stroke: var(--stop);
    stroke-width: 3.5;
  }

  .cross {
    fill: none;
    stroke: var(--action);
    stroke-width: 2.5;
  }
</style>
