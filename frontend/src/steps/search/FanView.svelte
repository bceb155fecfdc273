<script lang="ts">
  // The fan's picture: ahead to the right, the hole's own depth down its left part, with net, numbers, what was touched
  // and, where it is wanted, the truth laid over it. A touch, or Enter where the arrows have led the cross, measures.
  import { onMount } from "svelte";
  import type { FanMeasured, FanReading } from "../../lib/api/types";
  import { cellsOf, clearOfCorner, coloursOf, type FanShape, paint } from "../../lib/fan/fan";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, fromDepth, length, toDepth, trim, way } from "../../lib/units";
  import type { FanStream } from "./ahead.svelte";

  let {
    fan,
    measured,
    touch,
    truth,
    reading = null,
  }: {
    fan: FanStream;
    measured: FanMeasured | null;
    touch: (ahead_m: number, depth_m: number) => void;
    truth: boolean;
    /** While one fishes: the lures and the fish that are seen. */
    reading?: FanReading | null;
  } = $props();

  const MOST_NAMED = 6; // more would hide the picture
  const LARGEST = 900; // pixels a side: more shows nothing more
  let canvas: HTMLCanvasElement;
  let wide = $state(400);
  let high = $state(300);
  let cross = $state<{ x: number; z: number } | null>(null);

  const day = $derived(prefs.theme === "rime" ? 0 : 1);
  const settings = $derived(fan.frame?.settings ?? null);
  const span = $derived(settings ? settings.ahead_m + settings.behind_m : 1);
  const deep = $derived(settings?.deep_m ?? 1);
  // True to scale where there is room; on a narrow screen a metre down is drawn longer than one ahead, and it is said.
  const MOST_STRETCH = 2.5;
  const scale = $derived(Math.max(Math.min(wide / span, high / deep), 2));
  const tall = $derived(
    Math.max(Math.min((wide / span) * MOST_STRETCH, Math.min(high, 0.9 * wide) / deep), scale),
  );
  const width = $derived(span * scale);
  const height = $derived(deep * tall);
  const behind = $derived(settings?.behind_m ?? 0);
  const px = (ahead_m: number) => (ahead_m + behind) * scale;
  const py = (depth_m: number) => depth_m * tall;

  let cells: Int32Array | null = null;
  let image: ImageData | null = null;
  let laid = "";
  let due = false;

  function layOut(shape: FanShape) {
    const shown = Math.min(LARGEST / Math.max(width, height), window.devicePixelRatio || 1);
    const [x, y] = [Math.max(Math.round(width * shown), 1), Math.max(Math.round(height * shown), 1)];
    const key = [
      x,
      y,
      shape.beams[0],
      shape.reach,
      shape.depth,
      shape.ahead,
      shape.behind,
      shape.deep,
    ].join();
    if (key === laid) return;
    laid = key;
    canvas.width = x;
    canvas.height = y;
    cells = cellsOf(x, y, shape);
    image = canvas.getContext("2d")!.createImageData(x, y);
  }

  function draw() {
    due = false;
    const frame = fan.frame;
    if (!frame || !fan.fan || !canvas) return;
    const { ahead_m, behind_m, deep_m } = frame.settings;
    layOut({
      beams: frame.beams_deg,
      bins: fan.fan.bins,
      reach: frame.reach_m,
      depth: frame.hang.depth_m,
      ahead: ahead_m,
      behind: behind_m,
      deep: deep_m,
    });
    const ground = day === 0 ? "#c9d5d6" : "#33424a";
    paint(
      image!,
      cells!,
      fan.levels,
      coloursOf(frame.dark[day]!, frame.colours[day]!, fan.fan.steps, ground),
    );
    canvas.getContext("2d")!.putImageData(image!, 0, 0);
    canvas.dataset.frames = String(Number(canvas.dataset.frames ?? 0) + 1);
  }

  const soon = () => {
    if (due) return;
    due = true;
    requestAnimationFrame(draw);
  };

  $effect(() => {
    void [width, height, day];
    soon();
  });
  $effect(() => {
    const mine = fan;
    mine.changed = soon;
    return () => (mine.changed = () => undefined);
  });
  onMount(soon);

  function press(event: MouseEvent) {
    const box = canvas.getBoundingClientRect();
    ask(
      ((event.clientX - box.left) / box.width) * span - behind,
      ((event.clientY - box.top) / box.height) * deep,
    );
  }

  function ask(x: number, z: number) {
    cross = { x, z };
    touch(x, z);
  }

  function key(event: KeyboardEvent) {
    const now = cross ?? { x: span / 3, z: deep / 2 };
    const step = span / 60;
    const to = {
      ArrowLeft: { ...now, x: now.x - step },
      ArrowRight: { ...now, x: now.x + step },
      ArrowUp: { ...now, z: now.z - step },
      ArrowDown: { ...now, z: now.z + step },
    }[event.key];
    if (to) {
      cross = {
        x: Math.min(Math.max(to.x, -behind), span - behind),
        z: Math.min(Math.max(to.z, 0), deep),
      };
      event.preventDefault();
    } else if (event.key === "Enter" && cross) {
      ask(cross.x, cross.z);
      event.preventDefault();
    }
  }

  const frame = $derived(fan.frame);
  const step = (values: number[]) => (values.length > 1 ? values[1]! - values[0]! : 1);
  /** Numbers on an edge, in whole feet or metres near those that the program names. */
  const marks = (values: number[], from: number, to: number) => {
    const each = Math.max(Math.round(toDepth(step(values), prefs.system) / 5) * 5, 1);
    const unit = prefs.system === "feet" ? each : step(values);
    const first = Math.ceil(toDepth(from, prefs.system) / unit - 1e-9) * unit;
    const found = [];
    for (let at = first; at <= toDepth(to, prefs.system) + 1e-9; at += unit) found.push(at);
    return values.length > 0 ? found : [];
  };
  const across = $derived(
    frame ? marks(frame.numbers_ahead_m, -frame.settings.behind_m, frame.settings.ahead_m) : [],
  );
  const down = $derived(
    frame
      ? clearOfCorner(
          marks(frame.numbers_deep_m, 0, frame.settings.deep_m),
          (at) => py(fromDepth(at, prefs.system)),
          height,
        )
      : [],
  );

  /** Fish as they truly are, in the plane; those well beside it are left out. */
  const truly = $derived.by(() => {
    if (!truth || !fan.truth || !frame) return [];
    const turn = ((frame.hang.aim_deg + frame.hang.off_deg) * Math.PI) / 180;
    const thick = ((fan.fan?.head.thickness_deg ?? 18) * Math.PI) / 180;
    return [...fan.truth.groups.map((group) => group.fish), fan.truth.at_the_hole].flatMap((fish) =>
      fish.flatMap(([e, n, z]) => {
        const along = e! * Math.sin(turn) + n! * Math.cos(turn);
        const aside = e! * Math.cos(turn) - n! * Math.sin(turn);
        return Math.abs(aside) < Math.hypot(along, z!) * Math.sin(thick) ? [{ x: along, z: z! }] : [];
      }),
    );
  });
  const seams = $derived(
    truth && frame && fan.fan
      ? fan.fan.head.seams_deg.map((off) => {
          const middle = frame.beams_deg[0]! - fan.fan!.head.fan_deg / -2 + off;
          const at = (middle * Math.PI) / 180;
          return { x: frame.reach_m * Math.cos(at), z: frame.hang.depth_m + frame.reach_m * Math.sin(at) };
        })
      : [],
  );
</script>

<div class="frame" bind:clientWidth={wide} bind:clientHeight={high}>
  <div class="sheet" style:width="{width}px" style:height="{height}px">
    <button
      class="touch"
      aria-label="The fan's picture. Arrows lead a cross, Enter measures what is under it."
      onclick={(event) => event.detail > 0 && press(event)}
      onkeydown={key}
      data-testid="fan"
    >
      <canvas bind:this={canvas}></canvas>
    </button>
    {#if frame}
      <svg viewBox="0 0 {width} {height}" aria-hidden="true">
        {#each frame.lines_ahead_m as at (at)}<line
            class="net"
            x1={px(at)}
            x2={px(at)}
            y1={0}
            y2={height}
          />{/each}
        {#each frame.lines_deep_m as at (at)}<line
            class="net"
            y1={py(at)}
            y2={py(at)}
            x1={0}
            x2={width}
          />{/each}
        {#each seams as end, k (k)}
          <line class="seam" x1={px(0)} y1={py(frame.hang.depth_m)} x2={px(end.x)} y2={py(end.z)} />
        {/each}
        <rect class="ice" x={0} y={0} {width} height={py(frame.hang.ice_m)} />
        <circle class="head" cx={px(0)} cy={py(frame.hang.depth_m)} r="6" />
        {#each truly as one, k (k)}<circle class="true" cx={px(one.x)} cy={py(one.z)} r="5" />{/each}
        {#if reading}
          {#each reading.lures as lure, k (k)}
            {@const [x, y] = [px(lure.mark?.ahead_m ?? lure.ahead_m), py(lure.mark?.depth_m ?? lure.depth_m)]}
            <path class="lure" class:lost={!lure.mark} d="M{x - 11} {y}h8m6 0h8M{x} {y - 11}v8m0 6v8" />
            <text {x} y={y - 15} text-anchor="middle">{lure.is_yours ? "Lure" : "Theirs"}</text>
          {/each}
          {#each reading.fish.slice(0, MOST_NAMED) as fish, k (fish.number)}
            {@const [x, y] = [px(fish.mark.ahead_m), py(fish.mark.depth_m)]}
            <rect class="fish" x={x - 11} y={y - 9} width="22" height="18" rx="9" />
            {#if k === 0}<text {x} y={y + 24} text-anchor="middle"
                >{length(Math.abs(fish.gap_m), prefs.system)} {fish.gap_m >= 0 ? "below" : "above"}</text
              >{/if}
          {/each}
        {/if}
        {#if measured?.mark}
          <circle class="mark" cx={px(measured.mark.ahead_m)} cy={py(measured.mark.depth_m)} r="16" />
        {/if}
        {#if cross}
          <path class="cross" d="M{px(cross.x) - 9} {py(cross.z)}h18M{px(cross.x)} {py(cross.z) - 9}v18" />
        {/if}
        {#each across as at (at)}
          <text class="figures" x={px(fromDepth(at, prefs.system))} y={height - 5} text-anchor="middle"
            >{trim(at, 0)}</text
          >
        {/each}
        {#each down.slice(1) as at (at)}
          <text class="figures" x={width - 5} y={py(fromDepth(at, prefs.system)) + 4} text-anchor="end"
            >{trim(at, 0)}</text
          >
        {/each}
      </svg>
    {/if}
  </div>
</div>
{#if frame}
  <p class="under soft figures">
    {way(frame.settings.behind_m, prefs.system)} behind to {way(frame.settings.ahead_m, prefs.system)} ahead,
    {depth(frame.settings.deep_m, prefs.system)} deep{#if frame.heading_deg !== null}; the head looks to {trim(
        frame.heading_deg,
        0,
      )}°{/if}{#if tall > 1.05 * scale}; depths are drawn {trim(tall / scale, 1)} times as long{/if}
  </p>
{/if}

<style>
  .frame {
    position: relative;
    min-height: 220px;
    height: 100%;
    min-width: 0;
    overflow: hidden;
    display: grid;
    place-items: start center;
  }

  .sheet {
    position: relative;
    border: 1.5px solid var(--ink);
    border-radius: 4px;
    background: var(--ground);
    overflow: hidden;
  }

  .touch {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    padding: 0;
    border: 0;
    border-radius: 0;
    background: none;
    cursor: crosshair;
  }

  .touch:focus-visible {
    outline-offset: -4px;
  }

  svg {
    pointer-events: none;
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
    stroke-width: 1;
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

  .true,
  .mark {
    fill: none;
    stroke: var(--action);
    stroke-width: 2;
  }

  .mark {
    stroke-width: 3;
  }

  .lure {
    fill: none;
    stroke: var(--action);
    stroke-width: 3;
  }

  .lost {
    stroke-dasharray: 2 3;
  }

  .fish {
    fill: none;
    stroke: var(--pine);
    stroke-width: 2.5;
  }

  .cross {
    stroke: var(--ink);
    stroke-width: 2;
    fill: none;
  }

  text {
    fill: var(--ink);
    font-size: 13px;
    font-weight: 600;
    paint-order: stroke;
    stroke: var(--panel);
    stroke-width: 3px;
  }

  .under {
    font-size: 0.88rem;
  }
</style>
