<script lang="ts">
  // What today has told at this hole: the rise line, where bites came, the last touches.
  import { timeOf } from "../../lib/when";
  import type { Hole, HoleLine, StrikeSheet } from "../../lib/api/types";
  import RiseFigures from "../../lib/bore/RiseFigures.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth } from "../../lib/units";

  let {
    hole,
    sheet,
    line,
    label,
  }: {
    hole: Hole;
    sheet: StrikeSheet | null;
    line: HoleLine | null;
    label: (kind: string) => string;
  } = $props();
</script>

<section aria-label="Today">
  <h2>Today at {hole.name}</h2>
  <p>
    {#if line?.line}
      Rise line: <RiseFigures line={line.line} />, from {line.line.fish} fish.
    {:else}
      Rise line: not known yet. Touch <b>Turned here</b> when a fish stops following.
    {/if}
    {#if sheet?.best_depth_m}
      Bites came at about <b class="figures">{depth(sheet.best_depth_m, prefs.system)}</b>: that is your aim
      line.
    {/if}
  </p>
  {#if sheet && sheet.touches.length > 0}
    <ul class="lines">
      {#each sheet.touches.slice(0, 8) as one (one.id)}
        <li>
          <span class="figures">{timeOf(one.at)}</span>
          <b>{label(one.kind)}</b>
          {one.depth_m === null ? "" : `at ${depth(one.depth_m, prefs.system)}, `}{one.trying}
        </li>
      {/each}
    </ul>
  {/if}
  <p class="soft">
    Limits, seasons and how a fish is to be handled are for local rules to say. Fish from deep water that are
    let go may not live: stop, or move, when you have what you may keep. Keep the hook off your hands with
    gloves on.
  </p>
</section>

<style>
</style>
