<script lang="ts">
  // The shelter from above: holes to drag, who sits at them, and who is heard by whom, now or as planned.
  import type { Party, ShelterPlan } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { length, trim } from "../../lib/units";
  import { CLEAR } from "./shelter.svelte";

  let {
    party,
    plan,
    when,
    move,
  }: {
    party: Party;
    plan: ShelterPlan | null;
    when: "before" | "after";
    move: (hole: number, x_m: number, y_m: number) => void;
  } = $props();

  const STEPS = 20; // in a metre
  const STEP_M = 1 / STEPS;
  const HOLE_M = 0.24; // drawn larger than it is, to be taken hold of
  let drawing: SVGSVGElement;
  let held = $state<{ hole: number; x: number; y: number } | null>(null);

  const at = $derived(
    party.holes.map((one, h) => (held?.hole === h ? { x: held.x, y: held.y } : { x: one.x_m, y: one.y_m })),
  );
  const view = $derived.by(() => {
    // Of the holes as they are kept: under a finger that drags one the water stays where it is.
    const [xs, ys] = [party.holes.map((one) => one.x_m), party.holes.map((one) => one.y_m)];
    const room = 1.1;
    const wide = Math.max(Math.max(...xs) - Math.min(...xs), 3) + 2 * room;
    const high = Math.max(Math.max(...ys) - Math.min(...ys), 2) + 2 * room;
    const [x, y] = [(Math.max(...xs) + Math.min(...xs)) / 2, (Math.max(...ys) + Math.min(...ys)) / 2];
    return { left: x - wide / 2, top: -y - high / 2, wide, high };
  });
  const font = $derived(Math.max(view.wide, view.high * 1.2) / 24);
  const bar = $derived(prefs.system === "feet" ? 0.3048 * 3 : 1);

  const states = $derived(plan?.seats.map((one) => one[when]) ?? []);
  const holeOf = (k: number) => (states[k] ? states[k].hole : (party.seats[k]?.hole ?? null));
  const seatAt = (h: number) => party.seats.findIndex((_, k) => holeOf(k) === h);
  const words = (k: number) => {
    const share = states[k]?.share;
    return share == null ? "" : share > CLEAR ? `${trim(100 * share, 1)} % lit` : "clear";
  };
  const heard = $derived(
    (when === "before" ? plan?.heard_before : plan?.heard_after)?.filter((one) => one.share > CLEAR / 4) ??
      [],
  );
  const said = (h: number) => {
    const k = seatAt(h);
    const who = k < 0 ? "nobody" : `${party.seats[k]!.name}, ${words(k) || "not planned yet"}`;
    return `Hole ${h + 1}: ${who}. Arrow keys move it by ${length(STEP_M, prefs.system)}`;
  };

  function place(event: PointerEvent) {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      drawing.getScreenCTM()!.inverse(),
    );
    return { x: snapped(point.x), y: snapped(-point.y) };
  }

  const snapped = (m: number) => Math.round(Math.min(Math.max(m, -25), 25) * STEPS) / STEPS;

  function key(event: KeyboardEvent, h: number) {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    const one = party.holes[h]!;
    move(h, snapped(one.x_m + by[0]! * STEP_M), snapped(one.y_m + by[1]! * STEP_M));
  }

  function take(event: PointerEvent, h: number) {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    held = { hole: h, ...place(event) };
  }

  function letGo() {
    if (!held) return;
    const { hole, x, y } = held;
    held = null;
    move(hole, x, y);
  }

  /** A line from who is heard to who hears it, short of both holes. */
  function line(of: number, by: number) {
    const [a, b] = [at[holeOf(of) ?? -1], at[holeOf(by) ?? -1]];
    if (!a || !b) return null;
    const far = Math.hypot(b.x - a.x, b.y - a.y);
    const [ux, uy] = [(b.x - a.x) / far, (b.y - a.y) / far];
    const [side, short] = [0.06, HOLE_M * 1.35];
    return {
      x1: a.x + ux * short - uy * side,
      y1: -(a.y + uy * short + ux * side),
      x2: b.x - ux * short * 1.25 - uy * side,
      y2: -(b.y - uy * short * 1.25 + ux * side),
    };
  }
</script>

<svg
  bind:this={drawing}
  viewBox="{view.left} {view.top} {view.wide} {view.high}"
  role="group"
  aria-label="The shelter from above"
  data-testid="shelter-drawing"
>
  <defs>
    <marker id="heard" viewBox="0 0 8 8" refX="6" refY="4" markerWidth="4" markerHeight="4" orient="auto">
      <path d="M0 0 8 4 0 8Z" />
    </marker>
  </defs>
  {#each heard as one (`${one.by} ${one.of}`)}
    {@const drawn = line(one.of, one.by)}
    {#if drawn}
      <line
        {...drawn}
        class:lit={one.share > CLEAR}
        stroke-width={one.share > CLEAR ? font * Math.min(0.08 + 4 * one.share, 0.35) : font * 0.05}
        marker-end="url(#heard)"
      />
    {/if}
  {/each}
  {#each party.holes as _, h (h)}
    {@const k = seatAt(h)}
    {@const told = k < 0 ? "" : words(k)}
    <g
      transform="translate({at[h]!.x} {-at[h]!.y})"
      role="button"
      tabindex="0"
      aria-label={said(h)}
      class:lit={told.endsWith("lit")}
      class:empty={k < 0}
      onkeydown={(event) => key(event, h)}
      onpointerdown={(event) => take(event, h)}
      onpointermove={(event) => held?.hole === h && (held = { hole: h, ...place(event) })}
      onpointerup={letGo}
      onpointercancel={() => (held = null)}
    >
      <circle r={HOLE_M * 1.9} class="reach" />
      <circle r={HOLE_M} class="hole" />
    </g>
    <g transform="translate({at[h]!.x} {-at[h]!.y})" class:lit={told.endsWith("lit")} aria-hidden="true">
      <text class="figures" y={font * 0.36} font-size={font}>{h + 1}</text>
      {#if k >= 0}
        <text y={-HOLE_M - font * 0.5} font-size={font * 0.95} class="name">{party.seats[k]!.name}</text>
        <text y={HOLE_M + font * 1.15} font-size={font * 0.85}>{told}</text>
      {/if}
    </g>
  {/each}
  <g transform="translate({view.left + font} {view.top + view.high - font})" class="bar">
    <path d="M0 {-font / 4}V0H{bar}V{-font / 4}" stroke-width={font / 14} />
    <text x={bar / 2} y={-font * 0.4} font-size={font * 0.8}>{length(bar, prefs.system)}</text>
  </g>
</svg>

<style>
  svg {
    display: block;
    width: 100%;
    height: min(42vh, 400px);
    background: var(--water);
    border: 1.5px solid var(--line);
    border-radius: 6px;
    touch-action: pan-y;
    user-select: none;
  }

  g[role="button"] {
    cursor: grab;
    touch-action: none;
    outline: none;
  }

  .reach {
    fill: transparent;
  }

  g:focus-visible .reach {
    stroke: var(--action);
    stroke-width: 0.05;
  }

  .hole {
    fill: var(--ice);
    stroke: var(--pine);
    stroke-width: 0.05;
  }

  .lit .hole {
    stroke: var(--stop);
    stroke-width: 0.09;
    stroke-dasharray: 0.16 0.09;
  }

  .empty .hole {
    stroke: var(--ice-edge);
    stroke-width: 0.03;
  }

  text {
    fill: var(--ink);
    text-anchor: middle;
    pointer-events: none;
    /* Readable over the arrows. */
    paint-order: stroke;
    stroke: var(--water);
    stroke-width: 0.08;
  }

  .name {
    font-weight: 700;
  }

  text.figures {
    stroke: none;
  }

  .lit text:last-child {
    fill: var(--stop);
    font-weight: 700;
  }

  line {
    stroke: var(--ice-edge);
  }

  line.lit {
    stroke: var(--stop);
  }

  marker path {
    fill: context-stroke;
  }

  .bar path {
    fill: none;
    stroke: var(--soft);
  }
</style>
