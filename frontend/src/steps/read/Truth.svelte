<script lang="ts">
  // The hole as it truly is, at one scale: what was where, or the region where a fish can be.
  import type { Section, TrueMark } from "../../lib/api/types";
  import Ground from "../../lib/bore/Ground.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length } from "../../lib/units";

  type Region = { aside_m: number[]; top_m: number[]; bottom_m: number[] };

  let {
    id,
    section,
    marks = [],
    region = null,
    lure = null,
  }: {
    id: string;
    section: Section;
    marks?: readonly TrueMark[];
    region?: Region | null;
    lure?: number | null;
  } = $props();

  let width = $state(200);
  let height = $state(300);

  const scale = $derived((height * 0.93) / section.bottom_depth_m);
  const y = $derived((m: number) => m * scale);
  const middle = $derived(width / 2);
  const x = $derived((m: number) => middle + m * scale);
  const ice = $derived(y(section.ice_thickness_m));
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
    let free = 14;
    return [...marks]
      .sort((a, b) => a.depth_m - b.depth_m)
      .map((mark) => {
        let at = Math.min(Math.max(y(mark.depth_m) + 4, free), height - 6);
        // A label at the bottom stands above its line, not across it.
        if (at > ground && at < ground + 16 && free <= ground) at = ground;
        free = at + 17;
        return { mark, at };
      });
  });
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
    <rect class="water" {width} {height} />
    <rect class="ice" {width} height={ice} />
    <rect class="water" x={middle - 9} width="18" height={ice} />
    <rect y={bottom} {width} fill="url(#{id}-ground)" height={height - bottom} />
    <line class="bottom" x1="0" x2={width} y1={bottom} y2={bottom} />
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
    <line class="cable" x1={middle} x2={middle} y1="0" y2={face - 7} />
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
        <text x="6" y={at}>{mark.label} {depth(mark.depth_m, prefs.system)}</text>
      {/if}
    {/each}
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

  text {
    fill: var(--ink);
    font: 600 13px var(--words);
    paint-order: stroke;
    stroke: var(--water);
    stroke-width: 4px;
  }
</style>
