<script lang="ts">
  // A grip to lift with: press and push up, a little for slowly and more for faster; pull down to let it sink; tap for
  // a twitch; let go to hold. By keys: Up, Down, Shift for faster, Space.
  import { prefs } from "../../lib/prefs.svelte";
  import { depthUnit, toDepth, trim } from "../../lib/units";
  import { DRAWS, LOWER_SLOW, speedOf } from "../../lib/hand";

  let {
    speed,
    lift,
    twitch,
  }: {
    /** The hand's speed now [m/s, up]. */
    speed: number;
    lift: (speed: number) => void;
    twitch: () => void;
  } = $props();

  const TAP_MS = 180;
  const TALL = 176;
  const SCALE = 0.35;
  let from: number | null = $state(null);
  let began = 0;
  let moved = false;

  function down(event: PointerEvent) {
    event.preventDefault();
    try {
      (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    } catch {
      /* a synthetic pointer has nothing to capture */
    }
    from = event.clientY;
    began = performance.now();
    moved = false;
  }

  function move(event: PointerEvent) {
    if (from === null) return;
    const wanted = speedOf(from - event.clientY);
    if (wanted !== 0) moved = true;
    if (wanted !== speed) lift(wanted);
  }

  function up() {
    if (from === null) return;
    from = null;
    if (moved) lift(0);
    else if (performance.now() - began < TAP_MS) twitch();
  }

  // The gauge is stretched near rest, where the difference between drawing and losing a fish lies.
  const place = (value: number) => {
    const share = Math.sign(value) * Math.min(Math.abs(value) / SCALE, 1) ** 0.4;
    return TALL / 2 - share * (TALL / 2 - 12);
  };
  const said = $derived(
    speed === 0
      ? "holding"
      : speed > 0
        ? `up ${trim(toDepth(speed, prefs.system), 2)} ${depthUnit(prefs.system)}/s`
        : speed > LOWER_SLOW - 1e-6
          ? "down slowly"
          : "sinking",
  );
</script>

<div class="gauge">
  <button
    class="grip"
    class:held={from !== null || speed !== 0}
    aria-label="Grip: push up to lift, pull down to lower, tap to twitch. Now {said}"
    onpointerdown={down}
    onpointermove={move}
    onpointerup={up}
    onpointercancel={up}
    oncontextmenu={(event) => event.preventDefault()}
  >
    <span class="figures">{said}</span>
  </button>
  <!-- Beside the button, not in it: what a gauge is labelled with is no part of the button's name. -->
  <svg viewBox="0 0 150 {TALL}" aria-hidden="true">
    <line class="rail" x1="112" x2="112" y1="12" y2={TALL - 12} />
    <rect class="draws" x="104" width="16" y={place(DRAWS[1])} height={place(DRAWS[0]) - place(DRAWS[1])} />
    <text class="name" x="98" y={place(0.022) + 4}>draws</text>
    <text class="name" x="98" y={place(0.2) + 4}>too fast</text>
    <text class="name" x="98" y={place(0) + 5}>hold</text>
    <text class="name" x="98" y={place(-0.2) + 4}>sinks</text>
    <path class="now" d="M124 {place(speed)}l16 -9v18z" />
  </svg>
</div>

<style>
  .gauge {
    display: grid;
    justify-items: center;
  }

  .gauge > * {
    grid-area: 1 / 1;
  }

  .grip {
    display: grid;
    align-items: end;
    justify-items: center;
    width: 100%;
    padding: 188px 0 6px;
    touch-action: none;
    user-select: none;
    cursor: ns-resize;
  }

  .held {
    border-color: var(--action);
  }

  svg {
    width: 100%;
    max-width: 150px;
    height: 176px;
    margin-top: 8px;
    pointer-events: none;
  }

  .rail {
    stroke: var(--soft);
    stroke-width: 2;
  }

  .draws {
    fill: var(--band);
    stroke: var(--pine);
    stroke-width: 1.5;
  }

  .name {
    fill: var(--soft);
    font: 600 13px var(--words);
    text-anchor: end;
  }

  .now {
    fill: var(--action);
  }
</style>
