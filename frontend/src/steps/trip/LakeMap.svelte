<script lang="ts">
  // The lake from above: the drawing under, what can be touched over it. It is dragged, pinched, wheeled or keyed.
  import Minus from "@lucide/svelte/icons/minus";
  import Plus from "@lucide/svelte/icons/plus";
  import Maximize from "@lucide/svelte/icons/maximize";
  import { onMount } from "svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, depthUnit, toDepth, trim, way } from "../../lib/units";
  import { GLYPHS } from "./glyphs";
  import { drawing, paint, readColours } from "./painter";
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

  {#each trip.things?.structures ?? [] as one (one.id)}
    {#if inSight(one.east_m, one.north_m)}
      <svg
        class="glyph"
        class:thin={GLYPHS[one.kind].thin}
        viewBox="0 0 20 20"
        style={put(one.east_m, one.north_m)}
        role="img"
        aria-label="{one.kind}{one.note ? `: ${one.note}` : ''}"
      >
        <title>{one.kind}{one.note ? `: ${one.note}` : ""}</title>
        <path d={GLYPHS[one.kind].path} class:filled={GLYPHS[one.kind].filled} />
      </svg>
    {/if}
  {/each}
  {#each trip.things?.holes ?? [] as one (one.hole_id)}
    <span class="hole" style={put(one.east_m, one.north_m)} title="{one.name}, {depth(one.depth_m, system)}"
      ><span class="unseen">Hole {one.name}, {depth(one.depth_m, system)}</span></span
    >
  {/each}
  {#each trip.things?.ice ?? [] as one (one.id)}
    <span class="ice figures" style={put(one.east_m, one.north_m)}
      ><span class="unseen">Ice </span>{trim(
        system === "feet" ? one.thickness_m / 0.0254 : one.thickness_m * 100,
        0,
      )}<span class="unseen">{system === "feet" ? " in" : " cm"}, {one.kind}, measured on {one.at}</span
      ></span
    >
  {/each}
  {#each (trip.things?.fished ?? []).filter((one) => one.how === "left in autumn") as one (one.id)}
    <span class="autumn" style={put(one.east_m, one.north_m)} title="Left in autumn: {one.note}"
      ><span class="unseen">Fish were left here in autumn: {one.note}</span></span
    >
  {/each}
  {#each trip.teach.slice(0, 3) as one, k (`${one.east_m} ${one.north_m}`)}
    <span class="teach" style={put(one.east_m, one.north_m)} title="A hole here teaches most"
      ><span class="unseen">A hole here would teach most, number {k + 1}</span></span
    >
  {/each}
  <span class="landing" style={put(...trip.start)}><span class="unseen">The landing</span></span>

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
<ul class="key" aria-label="What the map shows">
  {#if trip.band}
    <li>
      <i class="solid"></i>{trim(toDepth(trip.band.from_m, system), 1)} to {depth(trip.band.to_m, system)},
      sure
    </li>
    <li><i class="hatched"></i>may be, a guess</li>
  {/if}
  <li><i class="edge"></i>edge, teeth downhill</li>
  <li><i class="dashed"></i>depth in {depthUnit(system)}, dashed where unsure</li>
  {#if (trip.things?.fished ?? []).some((one) => one.how === "left in autumn")}
    <li><i class="left"></i>fish left here in autumn</li>
  {/if}
  <li><i class="ring"></i>another place to take in</li>
  <li><i class="learn"></i>a hole here teaches most</li>
  {#if (trip.things?.ice.length ?? 0) > 0}<li>
      <i class="figure">6</i>ice, {system === "feet" ? "in" : "cm"}
    </li>{/if}
</ul>
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

  .drawing .sheet {
    cursor: crosshair;
  }

  .map > span,
  .map > .glyph,
  .place {
    position: absolute;
    left: 0;
    top: 0;
  }

  .map > span,
  .glyph {
    pointer-events: none;
  }

  .glyph {
    width: 22px;
    height: 22px;
    margin: -11px 0 0 -11px;
    overflow: visible;
  }

  .glyph path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.8;
    stroke-linecap: round;
    stroke-linejoin: round;
  }

  .glyph path.filled {
    fill: color-mix(in srgb, var(--ink) 35%, var(--water));
  }

  .glyph.thin path {
    stroke: var(--stop);
    stroke-width: 2.4;
  }

  .hole {
    width: 14px;
    height: 14px;
    margin: -7px 0 0 -7px;
    border: 3px solid var(--ink);
    border-radius: 50%;
    background: var(--ice);
  }

  .ice {
    margin: -10px 0 0 -10px;
    min-width: 20px;
    padding: 0 3px;
    border: 1.5px solid var(--ice-edge);
    background: var(--ice);
    color: var(--ink);
    font-size: 0.8rem;
    font-weight: 600;
    line-height: 18px;
    text-align: center;
  }

  .autumn::before {
    content: "";
    position: absolute;
    left: -7px;
    top: -7px;
    width: 14px;
    height: 14px;
    border: 3px solid var(--pine);
    background: var(--panel);
    rotate: 45deg;
  }

  .teach {
    width: 26px;
    height: 26px;
    margin: -13px 0 0 -13px;
  }

  .teach::before,
  .teach::after,
  .learn::before,
  .learn::after {
    content: "";
    position: absolute;
    background: var(--ink);
  }

  .teach::before,
  .learn::before {
    left: 50%;
    top: 2px;
    bottom: 2px;
    width: 3px;
    margin-left: -1.5px;
  }

  .teach::after,
  .learn::after {
    top: 50%;
    left: 2px;
    right: 2px;
    height: 3px;
    margin-top: -1.5px;
  }

  .landing {
    width: 18px;
    height: 18px;
    margin: -9px 0 0 -9px;
    background: var(--action);
    border: 3px solid var(--panel);
    outline: 2px solid var(--action);
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

  .place.other::before,
  .ring {
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

  .key {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 16px;
    margin: 0;
    padding: 4px 2px;
    list-style: none;
    font-size: 0.88rem;
    color: var(--soft);
  }

  .key li {
    display: flex;
    align-items: center;
    gap: 6px;
  }

  .key i {
    position: relative;
    flex: none;
    width: 22px;
    height: 14px;
  }

  .solid {
    background: var(--band);
    border: 2px solid var(--pine);
  }

  .hatched {
    background: repeating-linear-gradient(
      -45deg,
      color-mix(in srgb, var(--pine) 55%, transparent) 0 2.4px,
      transparent 2.4px 8px
    );
    border: 1.5px solid var(--line);
  }

  .edge::before {
    content: "";
    position: absolute;
    inset: 4px 0 auto;
    border-top: 2px solid var(--ink);
  }

  .edge::after {
    content: "";
    position: absolute;
    left: 7px;
    top: 6px;
    border: solid transparent;
    border-width: 7px 4px 0;
    border-top-color: var(--ink);
  }

  .dashed::before {
    content: "";
    position: absolute;
    inset: 6px 0 auto;
    border-top: 2px dashed var(--ice-edge);
  }

  .key .left {
    width: 11px;
    height: 11px;
    margin: 0 4px;
    border: 3px solid var(--pine);
    rotate: 45deg;
  }

  .key .ring {
    width: 12px;
    height: 12px;
    margin: 0 3px;
    border-radius: 50%;
  }

  .key .learn {
    width: 18px;
    height: 18px;
  }

  .key .figure {
    border: 1.5px solid var(--ice-edge);
    background: var(--ice);
    font: 600 0.75rem/12px var(--figures);
    text-align: center;
  }
</style>
