<script lang="ts">
  // What lies on the bed and in the ice, each as a small sign at its place: to be seen, not to be moved.
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, trim } from "../../lib/units";
  import { GLYPHS } from "./glyphs";
  import { trip } from "./trip.svelte";

  let {
    put,
    inSight,
  }: {
    /** The style that puts something at a place. */
    put: (east: number, north: number) => string;
    inSight: (east: number, north: number) => boolean;
  } = $props();

  const system = $derived(prefs.system);
</script>

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
    )}<span class="unseen">{system === "feet" ? " in" : " cm"}, {one.kind}, measured on {one.at}</span></span
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

<style>
  span,
  .glyph {
    position: absolute;
    left: 0;
    top: 0;
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

  .landing {
    width: 18px;
    height: 18px;
    margin: -9px 0 0 -9px;
    background: var(--action);
    border: 3px solid var(--panel);
    outline: 2px solid var(--action);
  }

  .teach::before,
  .teach::after {
    content: "";
    position: absolute;
    background: var(--ink);
  }

  .teach::before {
    left: 50%;
    top: 2px;
    bottom: 2px;
    width: 3px;
    margin-left: -1.5px;
  }

  .teach::after {
    top: 50%;
    left: 2px;
    right: 2px;
    height: 3px;
    margin-top: -1.5px;
  }
</style>
