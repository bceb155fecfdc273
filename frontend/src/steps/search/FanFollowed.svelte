<script lang="ts">
  // What is known of a thing that was touched twice and more: whether it comes, which turn has it in the plane, which way it
  // swims, and the hole to be at before it.
  import type { Drilling } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { clock, depthUnit, sentence, signed, toDepth, trim, way } from "../../lib/units";
  import type { Followed } from "./followed.svelte";
  import { compassOf, paces } from "./words";

  let {
    followed,
    now,
    drill,
  }: {
    followed: Followed;
    now: number;
    /** Null where one looks down already. */
    drill: ((hole: Drilling["holes"][number]) => void) | null;
  } = $props();

  const MOST_OFF_DEG = 60; // a heading that is known no better is none
  const speed = (m_s: number) => trim(toDepth(m_s, prefs.system) * 60, 0);
  const course = $derived(followed.course);
  const drilling = $derived(followed.drilling);
  const half = $derived(course ? (course.heading_deg.high - course.heading_deg.low) / 2 : 0);
  const hole = $derived(drilling?.let_it_go ? null : (drilling?.holes[0] ?? null));
  const bearing = (east: number, north: number) => ((Math.atan2(east, north) * 180) / Math.PI + 360) % 360;
</script>

{#if followed.comes}
  <p data-testid="comes">{sentence(followed.comes.said.text, followed.comes.said.values, prefs.system)}</p>
{/if}
{#if followed.toTurn}
  <p data-testid="to-turn">
    {#if Math.abs(followed.toTurn.turn_deg) < 1.5}
      It is in the plane: leave the handle.
    {:else}
      Turn the handle {trim(Math.abs(followed.toTurn.turn_deg), 0)}° to the {followed.toTurn.turn_deg > 0
        ? "right"
        : "left"} to have it in the plane, give or take {trim(followed.toTurn.sd_deg, 0)}°.
    {/if}
  </p>
{:else}
  <p class="soft">
    Turn the handle by 5° and touch it again: then it is told how far to turn to keep it. Touched again some
    seconds later it has a course.
  </p>
{/if}
{#if course && drilling && drill}
  <section class="goes" data-testid="fan-course" aria-labelledby="goes-name">
    <h2 id="goes-name">Where it goes</h2>
    {#if half > MOST_OFF_DEG}
      <p>Not known yet: touch it again some seconds later.</p>
    {:else}
      <p>
        Towards {compassOf(course.heading_deg.likely)}, {speed(course.speed_m_s.likely)}
        {depthUnit(prefs.system)} a minute.
        <span class="soft"
          >Nine in ten: {speed(course.speed_m_s.low)} to {speed(course.speed_m_s.high)}, heading within {signed(
            half,
            0,
          ).replace("+", "±")}°.</span
        >
      </p>
      {#if !hole}
        <p><strong>Too late, or not known well enough: touch it again, or let it go.</strong></p>
      {:else}
        <p>
          <strong
            >{way(Math.hypot(hole.east_m, hole.north_m), prefs.system)} with the handle at {trim(
              bearing(hole.east_m, hole.north_m),
              0,
            )}°</strong
          >, {paces(Math.hypot(hole.east_m, hole.north_m))}: ready in {clock(hole.ready_at_s - now)}, and it
          comes by with {trim(100 * drilling.chance, 0)} in 100.
        </p>
        <div class="button-row">
          <button class="primary" onclick={() => drill(hole)}>Walk ahead of it</button>
        </div>
      {/if}
      <p class="soft">{sentence(drilling.why.text, drilling.why.values, prefs.system)}</p>
    {/if}
  </section>
{/if}

<style>
  .goes {
    display: grid;
    gap: 6px;
  }
</style>
