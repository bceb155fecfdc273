<script lang="ts">
  // The water of a scene from above, as a map knows it: lines of equal depth, the holes so far and how far one looked from
  // each. While one searches a touch, or Enter where the arrows have led the cross, chooses the next hole; what is drawn
  // over it comes from whoever shows it.
  import type { Snippet } from "svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, way } from "../../lib/units";

  let {
    half,
    lines,
    holes,
    thick = 16,
    chosen = null,
    choose = null,
    over = null,
  }: {
    /** The water reaches so far to each side of the first hole [m]. */
    half: number;
    lines: { depth_m: number; line: number[][] }[];
    /** The holes so far, how far one looked all round from each, and where a fan was aimed from it. */
    holes: { east: number; north: number; range: number; aims?: { deg: number; range: number }[] }[];
    /** How thick the fan is [degrees]. */
    thick?: number;
    chosen?: { east: number; north: number } | null;
    choose?: ((east: number, north: number) => void) | null;
    over?: Snippet | null;
  } = $props();

  const STEP_M = 2;
  const TOUCH_M = 3;
  const path = (line: number[][]) => `M${line.map(([e, n]) => `${e} ${-n!}`).join("L")}`;
  function wedge({ east, north }: { east: number; north: number }, aim: { deg: number; range: number }) {
    const ends = [-thick / 2, thick / 2].map((off) => ((aim.deg + off) * Math.PI) / 180);
    const [from, to] = ends.map(
      (at) => `${east + aim.range * Math.sin(at)} ${-north - aim.range * Math.cos(at)}`,
    );
    return `M${east} ${-north}L${from}A${aim.range} ${aim.range} 0 0 1 ${to}Z`;
  }
  const scale = $derived(prefs.system === "feet" ? 30.48 : 30);
  /** The longest line of each depth carries its number. */
  const labels = $derived.by(() => {
    const depths = [...new Set(lines.map((one) => one.depth_m))];
    return depths.flatMap((depth_m) => {
      const [longest] = lines
        .filter((one) => one.depth_m === depth_m && one.line.length > 11)
        .sort((a, b) => b.line.length - a.line.length);
      return longest ? [{ depth_m, at: longest.line[Math.floor(longest.line.length / 3)]! }] : [];
    });
  });

  function press(event: MouseEvent) {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const east = ((event.clientX - box.left) / box.width - 0.5) * 2 * half;
    const north = (0.5 - (event.clientY - box.top) / box.height) * 2 * half;
    // Who touches a hole means that hole; keys go on past it.
    const there = holes.find((one) => Math.hypot(one.east - east, one.north - north) < TOUCH_M);
    choose?.(there?.east ?? east, there?.north ?? north);
  }

  function key(event: KeyboardEvent) {
    const [e, n] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
      event.key
    ] ?? [0, 0];
    if (!e && !n) return;
    const from = chosen ?? holes.at(-1) ?? { east: 0, north: 0 };
    choose?.(from.east + e! * STEP_M, from.north + n! * STEP_M);
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<div class="map">
  <svg viewBox="{-half} {-half} {2 * half} {2 * half}" aria-hidden="true">
    {#each holes as hole, k (k)}
      <circle cx={hole.east} cy={-hole.north} r={hole.range} class="looked" />
      {#each hole.aims ?? [] as aim (aim.deg)}
        <path d={wedge(hole, aim)} class="looked aimed" />
      {/each}
    {/each}
    {#each lines as one, k (k)}<path d={path(one.line)} class="line" />{/each}
    {#each labels as { depth_m, at } (depth_m)}
      <text class="deep" x={at[0]} y={-at[1]!}>{depth(depth_m, prefs.system)}</text>
    {/each}
    {@render over?.()}
    {#each holes as hole, k (k)}
      <circle cx={hole.east} cy={-hole.north} r="2.6" class="hole" class:last={k === holes.length - 1} />
      <text x={hole.east + 3.6} y={-hole.north + 1.6}>{k + 1}</text>
    {/each}
    {#if chosen}
      <path class="chosen" d="M{chosen.east - 4} {-chosen.north}h8M{chosen.east} {-chosen.north - 4}v8" />
    {/if}
    <path class="rule" d="M{-half + 4} {half - 4}h{scale}m0 -1.5v3m{-scale} -3v3" />
    <text x={-half + 4} y={half - 7}>{way(scale, prefs.system)}</text>
    <path class="rule" d="M{half - 7} {-half + 13}v-9l-2 4m2 -4l2 4" />
    <text x={half - 13} y={-half + 12}>N</text>
  </svg>
  {#if choose}
    <button
      class="face"
      aria-label="The water from above. Arrows choose where to drill next."
      data-testid="water-map"
      onclick={press}
      onkeydown={key}
    ></button>
  {/if}
</div>

<style>
  .map {
    position: relative;
    width: 100%;
    max-width: min(100%, 78dvh);
    justify-self: center;
    aspect-ratio: 1;
  }

  svg {
    width: 100%;
    height: 100%;
    display: block;
    background: var(--water);
    border: 1.5px solid var(--line);
    border-radius: 6px;
  }

  .face {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    background: none;
    border: 0;
    padding: 0;
    cursor: crosshair;
    touch-action: manipulation;
  }

  .looked {
    fill: var(--panel);
    stroke: var(--ice-edge);
    stroke-width: 0.5;
  }

  .aimed {
    stroke: none;
  }

  .line {
    fill: none;
    stroke: var(--ice-edge);
    stroke-width: 0.35;
  }

  text {
    font: 700 4.6px var(--figures);
    fill: var(--ink);
    paint-order: stroke;
    stroke: var(--panel);
    stroke-width: 1.2px;
    stroke-linejoin: round;
  }

  .deep {
    font-weight: 400;
    font-size: 3.6px;
  }

  .hole {
    fill: var(--panel);
    stroke: var(--ink);
    stroke-width: 0.9;
  }

  .last {
    fill: var(--ink);
  }

  .chosen {
    fill: none;
    stroke: var(--stop);
    stroke-width: 1.4;
  }

  .rule {
    fill: none;
    stroke: var(--ink);
    stroke-width: 0.7;
  }
</style>
