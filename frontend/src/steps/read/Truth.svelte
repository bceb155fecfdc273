<script lang="ts">
  // The hole as it truly is: what was where, or the region where a fish can be. Beside a picture it stands on the
  // picture's depth axis.
  import type { RiseLine, Section, TrueMark } from "../../lib/api/types";
  import Ground from "../../lib/bore/Ground.svelte";
  import { ticks } from "../../lib/picture/axis";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, depthUnit, length } from "../../lib/units";

  type Region = { aside_m: number[]; top_m: number[]; bottom_m: number[] };

  let {
    id,
    section,
    marks = [],
    region = null,
    lure = null,
    span = null,
    foot = 0,
    strikes = [],
    rise = null,
  }: {
    id: string;
    section: Section;
    marks?: readonly TrueMark[];
    region?: Region | null;
    lure?: number | null;
    /** Depths of its edges [m]: the axis of the picture it stands beside; by itself it ends a little under the bottom. */
    span?: { top: number; bottom: number } | null;
    /** What is left free under it, where the picture has something else [px]. */
    foot?: number;
    strikes?: readonly number[];
    rise?: RiseLine | null;
  } = $props();

  let width = $state(200);
  let height = $state(300);

  const axis = $derived(span ?? { top: 0, bottom: section.bottom_depth_m / 0.93 });
  const tall = $derived(Math.max(height - foot, 1));
  const scale = $derived(tall / (axis.bottom - axis.top));
  const y = $derived((m: number) => (m - axis.top) * scale);
  const middle = $derived((width + 30) / 2);
  // As wide as it is deep, unless that would leave the region outside: then its sides are drawn in.
  const wide = $derived(
    Math.min(
      scale,
      (middle - 36) /
        Math.max(...(region?.aside_m ?? []), ...marks.map((one) => Math.abs(one.aside_m)), 0.01),
    ),
  );
  const x = $derived((m: number) => middle + m * wide);
  const ice = $derived(Math.max(y(section.ice_thickness_m), 0));
  const face = $derived(Math.max(y(section.face_depth_m), 6));
  const bottom = $derived(y(section.bottom_depth_m));
  // The region on both sides: nobody can say on which the fish is.
  const outline = $derived.by(() => {
    if (!region) return "";
    const { aside_m, top_m, bottom_m } = region;
    const down = aside_m.map((a, i) => [a, top_m[i]!] as const);
    const back = aside_m.map((a, i) => [a, bottom_m[i]!] as const).reverse();
    const path = (side: 1 | -1) =>
      "M" +
      [...down, ...back].map(([a, d]) => `${x(side * a).toFixed(1)} ${y(d).toFixed(1)}`).join("L") +
      "Z";
    return path(1) + path(-1);
  });
  // Labels one under the other where marks stand close together.
  const labels = $derived.by(() => {
    const ground = bottom - 5;
    let free = 30;
    return [...marks]
      .sort((a, b) => a.depth_m - b.depth_m)
      .map((mark) => {
        let at = Math.min(Math.max(y(mark.depth_m) + 4, free), tall - 6);
        // A label at the bottom stands above its line, not across it.
        if (at > ground && at < ground + 16 && free <= ground) at = ground;
        free = at + 17;
        return { mark, at };
      });
  });
  // To the left of the hole's axis where there is room for them there.
  const named = $derived(middle > 126 ? { x: middle - 12, anchor: "end" } : { x: 40, anchor: "start" });
  const said = $derived(
    marks
      .map(
        (one) =>
          `${one.label} at ${depth(one.depth_m, prefs.system)}, ${length(one.aside_m, prefs.system)} aside`,
      )
      .join("; "),
  );
</script>

<div
  class="truth"
  bind:clientWidth={width}
  bind:clientHeight={height}
  role="img"
  aria-label={said || "The hole as a section"}
>
  <svg {width} {height} aria-hidden="true">
    <Ground {id} kind={section.bottom_kind} />
    <rect class="water" {width} height={tall} />
    <rect class="ice" {width} height={ice} />
    <rect class="water" x={middle - 9} width="18" height={ice} />
    {#if bottom < tall}
      <rect y={bottom} {width} fill="url(#{id}-ground)" height={tall - bottom} />
      <line class="bottom" x1="0" x2={width} y1={bottom} y2={bottom} />
    {/if}
    {#if section.weed_height_m > 0}
      {#each [0.1, 0.25, 0.4, 0.6, 0.75, 0.9] as share (share)}
        <line
          class="weed"
          x1={share * width}
          x2={share * width + 5}
          y1={bottom}
          y2={y(section.bottom_depth_m - section.weed_height_m)}
        />
      {/each}
    {/if}
    <line class="cable" x1={middle} x2={middle} y1="0" y2={Math.max(face - 7, 0)} />
    <path class="transducer" d="M{middle - 8} {face - 7}h16l-3 7h-10z" />
    {#if outline}<path class="region" d={outline} />{/if}
    {#if lure !== null}
      <line class="cable" x1={middle} x2={middle} y1={face} y2={y(lure)} />
      <path class="lure" d="M{middle} {y(lure) - 7}l6 7-6 7-6-7z" />
    {/if}
    {#each labels as { mark, at } (mark)}
      {#if mark.kind === "lure" || mark.kind === "dead stick"}
        <line class="cable" x1={x(mark.aside_m)} x2={x(mark.aside_m)} y1={ice} y2={y(mark.depth_m)} />
        <path class="lure" d="M{x(mark.aside_m)} {y(mark.depth_m) - 7}l6 7-6 7-6-7z" />
      {:else if mark.kind === "fish"}
        <ellipse class="fish" cx={x(mark.aside_m)} cy={y(mark.depth_m)} rx="11" ry="5" />
      {:else if mark.label === "bait"}
        {#each [[-26, -6], [-12, 5], [-3, -9], [8, 2], [17, -7], [27, 6]] as [right, down] (right)}
          <ellipse
            class="fish"
            cx={x(mark.aside_m) + (right ?? 0)}
            cy={y(mark.depth_m) + (down ?? 0)}
            rx="4"
            ry="2"
          />
        {/each}
      {/if}
      {#if mark.kind !== "bottom" || marks.length < 4}
        <text x={named.x} text-anchor={named.anchor} y={at}
          >{mark.label} {depth(mark.depth_m, prefs.system)}</text
        >
      {/if}
    {/each}
    {#if rise}
      <rect
        class="rise-span"
        y={y(rise.high_m)}
        {width}
        height={Math.max(y(rise.low_m) - y(rise.high_m), 2)}
      />
      <line class="rise" x1="0" x2={width} y1={y(rise.depth_m)} y2={y(rise.depth_m)} />
    {/if}
    {#each strikes as strike, i (i)}
      <circle class="strike" cx={width - 12} cy={y(strike)} r="4.5" />
    {/each}
    {#each [...ticks(axis, prefs.system)] as [at, text] (text)}
      {#if y(at) > 22 && y(at) < tall - 8}
        <line class="tick" x1="0" x2="5" y1={y(at)} y2={y(at)} />
        <text class="figure" x="8" y={y(at) + 4}>{text}</text>
      {/if}
    {/each}
    <text class="figure soft" x="6" y="13">true{width < 170 ? "" : " depth,"} {depthUnit(prefs.system)}</text>
  </svg>
</div>

<style>
  .truth {
    position: relative;
    min-width: 0;
    min-height: 0;
    overflow: hidden;
    background: var(--water);
  }

  svg {
    position: absolute;
    inset: 0;
  }

  .water {
    fill: var(--water);
  }

  .ice {
    fill: var(--ice);
    stroke: var(--ice-edge);
  }

  .bottom {
    stroke: var(--earth-line);
    stroke-width: 2.5;
  }

  .cable,
  .weed {
    stroke: var(--soft);
    stroke-width: 1.2;
  }

  .weed {
    stroke: var(--pine);
    stroke-width: 2;
  }

  .transducer {
    fill: var(--ink);
  }

  .lure {
    fill: var(--action);
  }

  .fish {
    fill: var(--pine);
  }

  .region {
    fill: var(--pine);
    fill-opacity: 0.35;
    stroke: var(--pine);
    stroke-width: 1.5;
  }

  .tick {
    stroke: var(--ink);
  }

  text.figure {
    font: 600 11px var(--figures);
  }

  text.soft {
    fill: var(--soft);
  }

  text {
    fill: var(--ink);
    font: 600 13px var(--words);
    paint-order: stroke;
    stroke: var(--water);
    stroke-width: 4px;
  }
</style>
