<script lang="ts">
  // The lake from above: the drawing under, what can be touched over it. It is dragged, pinched, wheeled or keyed.
  import Minus from "@lucide/svelte/icons/minus";
  import Plus from "@lucide/svelte/icons/plus";
  import Maximize from "@lucide/svelte/icons/maximize";
  import { onMount } from "svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, toDepth, trim, way } from "../../lib/units";
  import MapKey from "./MapKey.svelte";
  import { drawing, paint, readColours } from "./painter";
  import Signs from "./Signs.svelte";
  import { letter, trip } from "./trip.svelte";
  import { type Bounds, moved, scaleBar, toPixel, toPlace, type View, whole, zoomed } from "./view";

  let {
    touched,
    shoreDrawn,
  }: {
    /** A place was touched, with whatever is in hand. */
    touched: (east: number, north: number) => void;
    /** A line was drawn round the lake. */
    shoreDrawn: (line: [number, number][]) => void;
  } = $props();

  let box: HTMLElement;
  let sheet: HTMLElement;
  let canvas: HTMLCanvasElement;
  let size = $state({ width: 0, height: 0 });
  let view: View = $state({ east: 0, north: 0, scale: 0.5 });
  let drawn: [number, number][] = $state([]); // a shore that is being drawn
  let frames = 0; // how often it was painted: told to those who measure

  const system = $derived(prefs.system);
  const lake = $derived(trip.lake);
  const places = $derived(trip.day?.places ?? []);
  const what = $derived(drawing(lake?.shore_m ?? [], trip.map));

  const bounds = $derived.by((): Bounds | null => {
    const east: number[] = [];
    const north: number[] = [];
    const add = (e: number, n: number) => {
      east.push(e);
      north.push(n);
    };
    const shore = lake?.shore_m ?? [];
    for (let i = 0; i + 1 < shore.length; i += 2) add(shore[i]!, shore[i + 1]!);
    const grid = trip.map?.grid;
    if (shore.length === 0 && grid) {
      add(grid.west_m, grid.south_m);
      add(grid.west_m + grid.cell_m * (grid.columns - 1), grid.south_m + grid.cell_m * (grid.rows - 1));
    }
    for (const one of trip.things?.holes ?? []) add(one.east_m, one.north_m);
    add(...trip.start);
    if (east.length < 2) return null;
    return {
      west: Math.min(...east),
      south: Math.min(...north),
      east: Math.max(...east),
      north: Math.max(...north),
    };
  });

  function fit() {
    view = bounds ? whole(bounds, size) : { east: trip.start[0], north: trip.start[1], scale: 1 };
    byHand = false;
  }

  /** Whether somebody has moved it since it was seen whole. */
  let byHand = false;
  function look(next: View) {
    view = next;
    byHand = true;
  }

  // A lake that is opened is seen whole; afterwards it stays where it was put.
  let shownLake = "";
  $effect(() => {
    if (size.width === 0 || !lake || !trip.things) return;
    // A lake without a shore is as large as the sheet that was sounded, which comes with its map.
    const now = `${lake.id} ${lake.shore_m.length > 0 || Boolean(trip.map?.grid)}`;
    if (shownLake === now) return;
    shownLake = now;
    fit();
  });

  const colours = $derived.by(() => {
    void prefs.theme;
    return readColours();
  });

  let asked = 0;
  $effect(() => {
    void [
      view,
      size,
      what,
      colours,
      system,
      trip.shownOrder,
      trip.held,
      trip.start,
      drawn,
      trip.things,
      places,
    ];
    // Whatever changes until then is drawn with it.
    if (!asked) asked = requestAnimationFrame(draw);
  });

  function draw() {
    asked = 0;
    if (!canvas || size.width === 0) return;
    const ratio = window.devicePixelRatio || 1;
    const [width, height] = [Math.round(size.width * ratio), Math.round(size.height * ratio)];
    if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height];
    const paper = canvas.getContext("2d")!;
    paint(paper, what, view, size, colours, ratio, (m) => trim(toDepth(m, system), 0));
    soundings(paper);
    walk(paper);
    if (drawn.length > 1) line(paper, drawn, 3, []);
    canvas.dataset.frames = String(++frames);
  }

  function soundings(paper: CanvasRenderingContext2D) {
    paper.fillStyle = colours.soft;
    const r = view.scale > 0.4 ? 2.2 : 1.4;
    for (const one of trip.things?.soundings ?? []) {
      const [x, y] = toPixel(view, size, one.east_m, one.north_m);
      if (x < 0 || y < 0 || x > size.width || y > size.height) continue;
      paper.fillRect(x - r, y - r, 2 * r, 2 * r);
    }
  }

  const at = (k: number): [number, number] =>
    trip.held?.k === k
      ? [trip.held.east, trip.held.north]
      : [places[k]?.east_m ?? 0, places[k]?.north_m ?? 0];

  function walk(paper: CanvasRenderingContext2D) {
    if (trip.shownOrder.length === 0) return;
    line(paper, [trip.start, ...trip.shownOrder.map(at), trip.start], 2.5, [9, 6]);
  }

  function line(
    paper: CanvasRenderingContext2D,
    through: readonly [number, number][],
    width: number,
    dash: number[],
  ) {
    paper.beginPath();
    through.forEach(([e, n], i) => {
      const [x, y] = toPixel(view, size, e, n);
      if (i === 0) paper.moveTo(x, y);
      else paper.lineTo(x, y);
    });
    paper.setLineDash(dash);
    paper.lineWidth = width;
    paper.strokeStyle = getComputedStyle(box).getPropertyValue("--action");
    paper.stroke();
    paper.setLineDash([]);
  }

  const put = (east: number, north: number) => {
    const [x, y] = toPixel(view, size, east, north);
    return `transform: translate(${x}px, ${y}px)`;
  };
  const inSight = (east: number, north: number) => {
    const [x, y] = toPixel(view, size, east, north);
    return x > 0 && y > 0 && x < size.width && y < size.height;
  };

  // Fingers on the sheet: one moves it, two bring it nearer.
  let fingers: { id: number; x: number; y: number }[] = [];
  const others =
    (event: PointerEvent) =>
    ({ id }: { id: number }) =>
      id !== event.pointerId;
  let travelled = 0;
  const local = (event: PointerEvent | WheelEvent) => {
    const rect = box.getBoundingClientRect();
    return { x: event.clientX - rect.left, y: event.clientY - rect.top };
  };

  function down(event: PointerEvent) {
    if (event.button > 0) return;
    sheet.setPointerCapture(event.pointerId);
    fingers = [...fingers.filter(others(event)), { id: event.pointerId, ...local(event) }];
    if (fingers.length === 1) travelled = 0;
    if (trip.tool === "shore") drawn = [toPlace(view, size, ...xy(local(event)))];
  }

  const xy = ({ x, y }: { x: number; y: number }): [number, number] => [x, y];

  function move(event: PointerEvent) {
    const before = fingers.find(({ id }) => id === event.pointerId);
    if (!before) return;
    const now = local(event);
    travelled += Math.hypot(now.x - before.x, now.y - before.y);
    if (fingers.length === 2) {
      const other = fingers.find(others(event))!;
      const factor =
        Math.hypot(now.x - other.x, now.y - other.y) /
        Math.max(Math.hypot(before.x - other.x, before.y - other.y), 1);
      const middle = { x: (now.x + other.x) / 2, y: (now.y + other.y) / 2 };
      look(
        moved(zoomed(view, size, factor, middle.x, middle.y), (now.x - before.x) / 2, (now.y - before.y) / 2),
      );
    } else if (trip.tool === "shore") {
      drawn = [...drawn, toPlace(view, size, now.x, now.y)];
    } else {
      look(moved(view, now.x - before.x, now.y - before.y));
    }
    fingers = fingers.map((one) => (one.id === event.pointerId ? { id: one.id, ...now } : one));
  }

  function up(event: PointerEvent) {
    const there = fingers.find(({ id }) => id === event.pointerId);
    fingers = fingers.filter(others(event));
    if (!there || event.type === "pointercancel") return;
    if (trip.tool === "shore" && drawn.length > 3) {
      shoreDrawn(drawn);
      drawn = [];
    } else if (travelled < 8) touched(...toPlace(view, size, there.x, there.y));
  }

  function wheel(event: WheelEvent) {
    event.preventDefault();
    const { x, y } = local(event);
    look(zoomed(view, size, Math.exp(-event.deltaY / 400), x, y));
  }

  const nearer = (factor: number) => look(zoomed(view, size, factor, size.width / 2, size.height / 2));
  const STEP = 60;

  function key(event: KeyboardEvent) {
    if (event.ctrlKey || event.altKey || event.metaKey || event.target !== sheet) return;
    const pan = { ArrowLeft: [STEP, 0], ArrowRight: [-STEP, 0], ArrowUp: [0, STEP], ArrowDown: [0, -STEP] }[
      event.key
    ];
    if (pan) look(moved(view, pan[0]!, pan[1]!));
    else if (event.key === "+" || event.key === "=") nearer(1.3);
    else if (event.key === "-") nearer(1 / 1.3);
    else if (event.key === "0") fit();
    else if (event.key === "Enter") touched(view.east, view.north);
    else return;
    event.preventDefault();
  }

  // A place of the day under the finger.
  let grabbed: { k: number; x: number; y: number; moved: boolean } | null = null;

  /** Where fingertips overlap, the place whose middle is nearest is meant. */
  function nearestPlace(x: number, y: number, under: number): number {
    const away = places.map((one) => {
      const [px, py] = toPixel(view, size, one.east_m, one.north_m);
      return Math.hypot(px - x, py - y);
    });
    return away.reduce((best, one, k) => (one < away[best]! ? k : best), under);
  }

  function grab(event: PointerEvent, k: number) {
    if (event.button > 0) return;
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    const there = local(event);
    grabbed = { k: nearestPlace(there.x, there.y, k), ...there, moved: false };
  }

  function drag(event: PointerEvent) {
    if (!grabbed) return;
    const now = local(event);
    if (!grabbed.moved && Math.hypot(now.x - grabbed.x, now.y - grabbed.y) < 6) return;
    grabbed.moved = true;
    void trip.hold(grabbed.k, ...toPlace(view, size, now.x, now.y));
  }

  function drop(event: PointerEvent) {
    const held = grabbed;
    grabbed = null;
    if (!held) return;
    if (!held.moved) return void (trip.chosen = held.k);
    const { x, y } = local(event);
    const inside = x >= 0 && y >= 0 && x <= size.width && y <= size.height;
    trip.chosen = held.k;
    void trip.letGo(inside && trip.under(...toPlace(view, size, x, y)) !== null);
  }

  const BY_KEY_M = 5;

  function placeKey(event: KeyboardEvent, k: number) {
    const step = event.shiftKey ? 1 : BY_KEY_M;
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    const one = places[k]!;
    if (by) void trip.movePlace(k, one.east_m + by[0]! * step, one.north_m + by[1]! * step);
    else if (event.key === "Delete" || event.key === "Backspace")
      void trip.setPlace(k, { out: true, wanted: false });
    else if (event.key === "Enter" && one.out) void trip.setPlace(k, { out: false, wanted: true });
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  const turn = $derived(new Map(trip.shownOrder.map((k, n) => [k, n + 1])));
  const told = (k: number) => {
    const one = places[k]!;
    const under = trip.under(one.east_m, one.north_m);
    const n = turn.get(k);
    const where = under ? `, about ${depth(under.depth_m, system)} deep` : "";
    const state = one.out ? "left out" : n ? `number ${n} of the walk` : "no time for it";
    return `Place ${one.name || letter(k)}: ${state}${where}. Arrows move it, Delete leaves it out.`;
  };

  const bar = $derived(system === "feet" ? { unit: "ft", m: 0.3048 } : { unit: "m", m: 1 });
  const rule = $derived(scaleBar(view, bar.m, 150));

  onMount(() => {
    const watch = new ResizeObserver(() => {
      const next = { width: box.clientWidth, height: box.clientHeight };
      const before = size.width;
      const first = before === 0;
      size = next;
      if (first || !shownLake) return;
      // As it was seen: whole, or as near as it was put.
      if (byHand) view = { ...view, scale: (view.scale * next.width) / before };
      else fit();
    });
    watch.observe(box);
    return () => watch.disconnect();
  });
</script>

<div
  class="map"
  bind:this={box}
  class:small={size.width < 480}
  class:drawing={trip.tool !== "look"}
  data-testid="lake-map"
>
  <button
    class="sheet"
    type="button"
    bind:this={sheet}
    aria-roledescription="map"
    aria-label="{lake?.name ??
      'Lake'} from above, north up. Arrows move it, plus and minus bring it nearer, 0 shows all. The table beside it says the same."
    onpointerdown={down}
    onpointermove={move}
    onpointerup={up}
    onpointercancel={up}
    onwheel={wheel}
    onkeydown={key}
  >
    <canvas bind:this={canvas}></canvas>
  </button>

  <Signs {put} {inSight} />

  {#each trip.others as one (`${one.east_m} ${one.north_m}`)}
    {#if inSight(one.east_m, one.north_m)}
      <button
        class="place other"
        style={put(one.east_m, one.north_m)}
        aria-label="Take in another place, {depth(one.depth_m, system)} deep, worth {trim(
          one.worth,
          1,
        )} of 10"
        onclick={() => trip.takeIn(one)}
      ></button>
    {/if}
  {/each}
  {#each places as one, k (k)}
    {#if trip.held?.k === k || inSight(one.east_m, one.north_m)}
      <button
        class="place"
        class:out={one.out}
        class:late={!one.out && !turn.has(k)}
        class:chosen={trip.chosen === k}
        style={put(...at(k))}
        aria-label={told(k)}
        onpointerdown={(event) => grab(event, k)}
        onpointermove={drag}
        onpointerup={drop}
        onpointercancel={drop}
        onfocus={() => (trip.chosen = k)}
        onkeydown={(event) => placeKey(event, k)}
      >
        {one.name || letter(k)}
      </button>
    {/if}
  {/each}

  <div class="near">
    <button onclick={() => nearer(1.5)} aria-label="Nearer"><Plus size={22} aria-hidden="true" /></button>
    <button onclick={() => nearer(1 / 1.5)} aria-label="Farther"
      ><Minus size={22} aria-hidden="true" /></button
    >
    <button onclick={fit} aria-label="The whole lake"><Maximize size={20} aria-hidden="true" /></button>
  </div>
  <div class="rule" aria-hidden="true">
    <svg viewBox="0 0 16 26" width="16" height="26"><path d="M8 1 14 25 8 19 2 25z" /></svg>
    <span class="figures" style="width: {rule.pixels}px">{rule.length} {bar.unit}</span>
  </div>
  {#if trip.map && !trip.map.grid}
    <p class="nothing">Nothing is sounded here yet. Type three depths, or take a file in, under Lake.</p>
  {/if}
</div>
<MapKey />
<p class="unseen" role="status">
  {trip.plan ? `${turn.size} places, ${way(trip.plan.planned.distance_m, system)} to walk.` : ""}
</p>

<style>
  .map {
    position: relative;
    min-height: 0;
    overflow: clip;
    border: 1.5px solid var(--line);
    border-radius: 6px;
    touch-action: none;
    user-select: none;
  }

  .sheet,
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }

  .sheet {
    padding: 0;
    border: 0;
    background: none;
    cursor: grab;
    touch-action: none;
  }

  .sheet:focus-visible {
    outline-offset: -3px;
  }

  /* A line goes over what stands in its way. */
  .drawing .place {
    pointer-events: none;
  }

  .drawing .sheet {
    cursor: crosshair;
  }

  .place {
    position: absolute;
    left: 0;
    top: 0;
  }

  .place {
    display: grid;
    place-items: center;
    width: var(--target);
    height: var(--target);
    min-height: 0;
    min-width: 0;
    margin: calc(var(--target) / -2) 0 0 calc(var(--target) / -2);
    padding: 0;
    border: 0;
    background: none;
    color: var(--on-action);
    font-weight: 700;
    cursor: grab;
    touch-action: none;
    isolation: isolate;
  }

  .place::before {
    content: "";
    position: absolute;
    z-index: -1;
    left: calc(50% - 15px);
    top: calc(50% - 15px);
    width: 30px;
    height: 30px;
    border: 2.5px solid var(--panel);
    border-radius: 50%;
    background: var(--action);
    outline: 2px solid var(--action);
    box-sizing: border-box;
  }

  .small .place:not(.other)::before {
    left: calc(50% - 12px);
    top: calc(50% - 12px);
    width: 24px;
    height: 24px;
  }

  .small .place {
    font-size: 0.85rem;
  }

  .place.chosen::before {
    outline-width: 4px;
    outline-color: var(--ink);
  }

  .place.out,
  .place.late {
    color: var(--ink);
  }

  .place.out::before,
  .place.late::before {
    background: var(--panel);
    border-color: var(--panel);
    outline: 2px dashed var(--soft);
  }

  .place.other::before {
    background: color-mix(in srgb, var(--panel) 70%, transparent);
    border-color: var(--panel);
    outline: 2.5px solid var(--action);
  }

  .place.other::before {
    left: calc(50% - 9px);
    top: calc(50% - 9px);
    width: 18px;
    height: 18px;
  }

  .near {
    position: absolute;
    right: 8px;
    top: 8px;
    display: grid;
    gap: 6px;
  }

  .near button {
    display: grid;
    place-items: center;
    padding: 0;
  }

  .rule {
    position: absolute;
    left: 12px;
    bottom: 8px;
    display: flex;
    align-items: end;
    gap: 10px;
    pointer-events: none;
  }

  .rule path {
    fill: var(--ink);
  }

  .rule span {
    border: solid var(--ink);
    border-width: 0 2px 2px;
    font-size: 0.85rem;
    text-align: center;
    white-space: nowrap;
  }

  .nothing {
    position: absolute;
    left: 16px;
    right: 80px;
    top: 12px;
    padding: 8px 12px;
    background: var(--panel);
    border-left: 6px solid var(--action);
  }
</style>
