<script lang="ts">
  // The spine: the current hole as a vertical section, on every screen without a picture of the column, whose first
  // column it is there. Touch a part to edit it.
  import { ticks } from "../picture/axis";
  import { prefs } from "../prefs.svelte";
  import { depth, small } from "../units";
  import { world } from "../world.svelte";
  import Ground from "./Ground.svelte";

  let height = $state(600);
  let width = $state(96);

  const hole = $derived(world.draft ?? world.section ?? world.hole);
  const narrow = $derived(width < 70);
  // A share of the height is left under the bottom for its texture.
  const scale = $derived(hole ? (height * 0.92) / hole.bottom_depth_m : 1);
  const y = $derived((m: number) => m * scale);
  const middle = $derived(width / 2);
  // Drawn wider than it is, or it would be a hair: the Bench has the section at true scale.
  const half = $derived(Math.min(16, width * 0.2));
  const ice = $derived(hole ? Math.max(y(hole.ice_thickness_m), 3) : 0);
  const face = $derived(hole ? Math.max(y(hole.face_depth_m), 4) : 0);
  const bottom = $derived(hole ? y(hole.bottom_depth_m) : height);
  // Its own ticks, clear of what is written at both ends.
  const figures = $derived(
    hole
      ? [...ticks({ top: 0, bottom: hole.bottom_depth_m }, prefs.system)].filter(
          ([at]) => y(at) > Math.max(ice + 12, 34) && y(at) < Math.min(bottom, height - 30) - 12,
        )
      : [],
  );
  const lure = $derived(world.lureDepth === null ? null : y(world.lureDepth));
</script>

<aside class="bore" aria-label="The hole, as a section" bind:clientHeight={height} bind:clientWidth={width}>
  {#if hole}
    <svg {width} {height} aria-hidden="true">
      <Ground id="bore" kind={hole.bottom_kind} />
      <rect class="water" {width} height={bottom} />
      <rect class="ice" {width} height={ice} />
      <rect class="hole" x={middle - half} y="0" width={half * 2} height={ice} />
      <line class="ice-edge" x1="0" x2={middle - half} y1={ice} y2={ice} />
      <line class="ice-edge" x1={middle + half} x2={width} y1={ice} y2={ice} />
      <rect y={bottom} {width} fill="url(#bore-ground)" height={height - bottom} />
      <line class="bottom" x1="0" x2={width} y1={bottom} y2={bottom} />
      <line class="cable" x1={middle - 5} x2={middle - 5} y1="0" y2={face - 8} />
      <path class="transducer" d="M{middle - 10} {face - 8}h10l-2 8h-6z" />
      {#each figures as [at, text] (text)}
        <line class="tick" x1={width - 5} x2={width} y1={y(at)} y2={y(at)} />
        <text x={width - 8} y={y(at) + 4}>{text}</text>
      {/each}
      {#if lure !== null}
        <line class="line" x1={middle + 4} x2={middle + 4} y1="0" y2={lure} />
        <path class="lure" d="M{middle + 4} {lure - 6}l5 6-5 6-5-6z" />
      {/if}
      {#each world.draft ? [] : world.strikesHere as strike (strike.id)}
        <circle class="strike" cx={narrow ? 8 : 14} cy={y(strike.depth_m)} r="4.5" />
      {/each}
      {#if world.riseLine && !world.draft}
        {@const high = y(world.riseLine.high_m)}
        <rect class="rise-span" y={high} {width} height={Math.max(y(world.riseLine.low_m) - high, 2)} />
        <line class="rise" x1="0" x2={width} y1={y(world.riseLine.depth_m)} y2={y(world.riseLine.depth_m)} />
      {/if}
      {#if world.window}
        {@const top = y(world.window.top)}
        {@const end = Math.min(y(world.window.bottom), height - 2)}
        <path class="bracket" d="M9 {top}H3V{end}H9" />
      {/if}
    </svg>
    <button
      class="part"
      style:top="0"
      onclick={() => world.go("hole", world.holeId, "ice_thickness_m")}
      aria-label="Ice {small(hole.ice_thickness_m, prefs.system)}. Edit"
    >
      <span>{small(hole.ice_thickness_m, prefs.system)}</span>
    </button>
    <button
      class="part"
      style:top="{Math.max(face + 2, 44)}px"
      onclick={() => world.go("hole", world.holeId, "face_depth_m")}
      aria-label="Transducer face at {small(hole.face_depth_m, prefs.system)}. Edit"
    >
      <span class="unseen">face</span>
    </button>
    {#if world.riseLine && !world.draft && !narrow}
      <span class="rise-name" style:top="{y(world.riseLine.depth_m) + 2}px">rise line</span>
    {/if}
    <button
      class="part foot"
      onclick={() => world.go("hole", world.holeId, "bottom_depth_m")}
      aria-label="Bottom at {depth(hole.bottom_depth_m, prefs.system)}, {hole.bottom_kind}. Edit"
    >
      <span>{depth(hole.bottom_depth_m, prefs.system)}</span>
    </button>
  {/if}
</aside>

<style>
  .bore {
    position: relative;
    width: 92px;
    height: 100%;
    overflow: hidden;
    border-right: 1.5px solid var(--line);
    background: var(--water);
  }

  .tick {
    stroke: var(--soft);
  }

  text {
    fill: var(--soft);
    font: 600 11px var(--figures);
    text-anchor: end;
  }

  svg {
    position: absolute;
    inset: 0;
  }

  .water,
  .hole {
    fill: var(--water);
  }

  .ice {
    fill: var(--ice);
  }

  .ice-edge,
  .bottom {
    stroke: var(--ice-edge);
    stroke-width: 1.5;
  }

  .bottom {
    stroke: var(--earth-line);
    stroke-width: 2.5;
  }

  .cable,
  .line {
    stroke: var(--soft);
    stroke-width: 1;
  }

  .transducer {
    fill: var(--ink);
  }

  .lure {
    fill: var(--action);
  }

  .rise-name {
    position: absolute;
    right: 3px;
    padding: 0 3px;
    border-radius: 3px;
    background: var(--panel);
    color: var(--pine);
    font-size: 0.75rem;
    font-weight: 600;
  }

  .bracket {
    fill: none;
    stroke: var(--action);
    stroke-width: 3;
  }

  .part {
    position: absolute;
    left: 0;
    width: 100%;
    padding: 2px 6px;
    border: 0;
    border-radius: 0;
    background: none;
    font: 600 0.8rem/1 var(--figures);
    text-align: left;
    display: grid;
    align-items: start;
  }

  .part:hover:not(:disabled) {
    background: color-mix(in srgb, var(--action) 16%, transparent);
  }

  .part:focus-visible {
    outline-offset: -3px;
  }

  .part span:not(.unseen) {
    justify-self: start;
    padding: 3px 4px;
    border-radius: 4px;
    background: var(--panel);
    white-space: nowrap;
  }

  .foot {
    bottom: 0;
    align-items: end;
  }

  @media (max-width: 760px) {
    .bore {
      width: 56px;
    }

    .part {
      padding: 2px 1px;
      font-size: 0.72rem;
    }

    .part span:not(.unseen) {
      padding: 3px 2px;
    }
  }
</style>
