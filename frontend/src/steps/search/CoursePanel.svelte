<script lang="ts">
  // A school's course from its fixes, and the hole, or holes, past which it most likely comes in time.
  import type { Drilling } from "../../lib/api/types";
  import Stepper from "../../lib/controls/Stepper.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { clock, sentence, signed, toDepth, depthUnit, trim, way } from "../../lib/units";
  import { search } from "./search.svelte";
  import { clockOf, compassOf, paces } from "./words";

  let { twelve, drill }: { twelve: number; drill: ((hole: Drilling["holes"][number]) => void) | null } =
    $props();

  const turn = (east: number, north: number) => ((Math.atan2(east, north) * 180) / Math.PI + 360) % 360;
  const speed = (m_s: number) => trim(toDepth(m_s, prefs.system) * 60, 0);
  const course = $derived(search.course);
  const drilling = $derived(search.drilling);
  const half = $derived(course ? (course.heading_deg.high - course.heading_deg.low) / 2 : 0);
</script>

<section class="course" aria-label="Course">
  <h2>Where it goes</h2>
  {#if search.fixes.length === 0}
    <p class="soft">Touch a school and follow it; touch it again a turn later. Two fixes make a course.</p>
  {:else}
    <details class="fixes">
      <summary>
        {search.fixes.length === 1 ? "1 fix" : `${search.fixes.length} fixes`}, the newest
        {clock(Math.max(search.now - search.fixes.at(-1)!.time_s, 0))} old
      </summary>
      <ol>
        {#each search.fixes as fix, k (k)}
          <li>
            <span class="figures">
              {k + 1}. {clockOf(fix.bearing_deg - twelve)}, {way(fix.range_m, prefs.system)}
            </span>
            <button onclick={() => search.drop(k)} aria-label="Take fix {k + 1} back">Take back</button>
          </li>
        {/each}
      </ol>
    </details>
    {#if search.fixes.length === 1}
      <p>One fix. Wait a turn, touch it again: then it has a course.</p>
    {/if}
  {/if}
  <Trouble words={search.trouble} />
  {#if course && drilling}
    <p class="goes" data-testid="course">
      It swims towards {clockOf(course.heading_deg.likely - twelve)} ({compassOf(course.heading_deg.likely)}), {speed(
        course.speed_m_s.likely,
      )}
      {depthUnit(prefs.system)} a minute
    </p>
    <p class="soft">
      Nine in ten: {speed(course.speed_m_s.low)} to {speed(course.speed_m_s.high)}
      {depthUnit(prefs.system)} a minute, heading within {signed(half, 0).replace("+", "±")}°. One more fix
      makes it surer.
    </p>
    <div class="holes" data-testid="drilling" class:late={drilling.let_it_go}>
      <p class="say">
        {drilling.let_it_go ? "Too late: let it go" : `Drill here: ${trim(100 * drilling.chance, 0)} in 100`}
      </p>
      {#if !drilling.let_it_go}
        <ul>
          {#each drilling.holes as hole, k (k)}
            {@const away = Math.hypot(hole.east_m, hole.north_m)}
            <li>
              <span>
                <strong
                  >{way(away, prefs.system)} at {clockOf(turn(hole.east_m, hole.north_m) - twelve)}</strong
                >,
                {paces(away)}; ready in {clock(hole.ready_at_s - search.now)}{hole.comes_at_s
                  ? `, it comes by about ${clock(hole.comes_at_s.likely - search.now)} from now`
                  : ""}
              </span>
              {#if drill}
                <button class="primary" onclick={() => drill(hole)}
                  >{drilling.holes.length > 1 ? `Drill hole ${k + 1}` : "Walk there and drill"}</button
                >
              {/if}
            </li>
          {/each}
        </ul>
      {/if}
      <p class="soft">{sentence(drilling.why.text, drilling.why.values, prefs.system)}</p>
    </div>
  {/if}
  {#if search.fixes.length > 0}
    <div class="row">
      <span>Holes to drill</span>
      <Stepper
        name="holes to drill"
        less={() => search.change({ holes: search.own.holes - 1 })}
        more={() => search.change({ holes: search.own.holes + 1 })}
        atLeast={search.own.holes <= 1}
        atMost={search.own.holes >= 3}><span class="figures count">{search.own.holes}</span></Stepper
      >
      <button onclick={() => search.forget()}>Another school</button>
    </div>
  {/if}
</section>

<style>
  .course {
    display: grid;
    gap: 6px;
  }

  ol,
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    display: grid;
    gap: 4px;
  }

  li,
  .row {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 4px 10px;
  }

  .goes,
  .say {
    font-weight: 700;
    font-size: 1.1rem;
  }

  .holes {
    display: grid;
    gap: 4px;
    padding: 8px 12px;
    border: 1.5px solid var(--line);
    border-left: 8px solid var(--stop);
    border-radius: 6px;
    background: var(--panel);
  }

  .late {
    border-left-color: var(--line);
  }

  summary {
    min-height: 36px;
    line-height: 36px;
    cursor: pointer;
  }

  .count {
    min-width: 1.5em;
    text-align: center;
  }
</style>
