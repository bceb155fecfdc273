<script lang="ts">
  // What the day of a run truly was, and with what it was fished: told only when the run is over.
  import type { RunWhole } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, trim } from "../../lib/units";

  let { run, id }: { run: RunWhole; id: number } = $props();

  const quarrel = (value: number, yes: string, no: string) =>
    value > 0.25 ? yes : value < -0.25 ? no : "made little difference";
</script>

<section aria-label="The day">
  <h3>The day, as it was</h3>
  <p>
    A {run.mood} day. No fish came above
    <b class="figures">{depth(run.true_line_m, prefs.system)}</b>{#if run.line && run.line.fish > 2}; from the {run
        .line.fish} that came you could have said {depth(run.line.depth_m, prefs.system)}, somewhere from
      {depth(Math.min(run.line.low_m, run.line.high_m), prefs.system)} to {depth(
        Math.max(run.line.low_m, run.line.high_m),
        prefs.system,
      )}{/if}. A lure in the face
    {quarrel(run.face, "drew them", "drove them off")}; pounding {quarrel(run.pounding, "helped", "hurt")}.
  </p>
  <p class="soft">
    {run.lure.name}, {run.unit.name}, gain {trim(run.settings.gain, 1)} to begin with.
    <a href="/api/runs/{id}/file" download="run-{id}.json">Run file</a>
  </p>
</section>

<style>
  h3 {
    font-size: 0.95rem;
  }

  .soft a {
    color: inherit;
  }
</style>
