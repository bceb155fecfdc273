<script lang="ts">
  // The runs: levels to play and how, the runs played, and how each skill has gone over time.
  import { onMount } from "svelte";
  import { undo } from "../../lib/undo.svelte";
  import { api, ok, words } from "../../lib/api/client";
  import Sources from "../../lib/controls/Sources.svelte";
  import { when } from "../../lib/when";
  import type { Hole, Run, RunWanted, StrikeChoices } from "../../lib/api/types";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, small } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import SkillLines from "./SkillLines.svelte";

  let {
    hole,
    play,
    debrief,
  }: { hole: Hole; play: (wanted: RunWanted) => void; debrief: (id: number) => string } = $props();

  let choices = $state<StrikeChoices | null>(null);
  let runs: Run[] = $state([]);
  let trouble = $state("");
  let mood = $state("");
  let start = $state<"card" | "spoiled">("card");
  let line = $state("braid");
  let here = $state(false);
  let unitId = $state<number | null>(null);

  onMount(() => void load());

  async function load() {
    try {
      [choices, { runs }] = await Promise.all([ok(api.GET("/api/runs/choices")), ok(api.GET("/api/runs"))]);
      trouble = "";
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function forget(run: Run) {
    try {
      const gone = await ok(api.DELETE("/api/runs/{run_id}", { params: { path: { run_id: run.id } } }));
      await undo.kept(`The run of ${when(run.started_at)} is removed.`, gone, load);
    } catch (problem) {
      trouble = words(problem);
    }
  }

  function begin(level: string) {
    play({
      level: level as RunWanted["level"],
      mood: (mood || null) as RunWanted["mood"],
      start,
      line: line as RunWanted["line"],
      hole_id: here ? hole.id : null,
      unit_id: unitId,
    });
  }

  const ended = (run: Run) =>
    run.outcome === "landed" ? `landed a ${small(run.landed_m, prefs.system)} ${run.species}` : run.outcome;
  const title = (key: string) => choices?.levels.find((one) => one.key === key)?.title ?? key;
</script>

<div class="runs">
  <Trouble words={trouble} />
  <section class="choose" aria-label="What to play">
    <h2>Play a run</h2>
    <p class="soft">
      A fish is on its way and the truth is hidden. Your eyes are on the sonar or on the rod tip, never on
      both. Land it, then see what really happened.
    </p>
    <div class="ways">
      <label
        >The fish's mood
        <select bind:value={mood}>
          <option value="">the level's own</option>
          {#each choices?.moods ?? [] as one (one.key)}<option value={one.key}>{one.key}</option>{/each}
        </select>
      </label>
      <label
        >First settings
        <select bind:value={start}>
          <option value="card">the hole card's</option>
          <option value="spoiled">spoiled: set them first</option>
        </select>
      </label>
      <label
        >Line
        <select bind:value={line}>
          {#each choices?.lines ?? [] as one (one.key)}<option value={one.key}>{one.key}</option>{/each}
        </select>
      </label>
      <label
        >Water
        <select bind:value={here}>
          <option value={false}>the level's own</option>
          <option value={true}>{hole.name}, {depth(hole.bottom_depth_m, prefs.system)}</option>
        </select>
      </label>
      <label
        >Unit
        <select bind:value={unitId}>
          <option value={null}>the level's own</option>
          {#each world.units as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
        </select>
      </label>
    </div>
    {#if mood}<p class="soft">
        {choices?.moods.find((one) => one.key === mood)?.words}.
      </p>{/if}
    <ol class="levels">
      {#each choices?.levels ?? [] as level, k (level.key)}
        <li>
          <span class="figures number">{k + 1}</span>
          <div>
            <b>{level.title}</b>
            <p class="soft">{level.teaches}</p>
          </div>
          <span class="figures done">{level.runs ? `${level.landed} of ${level.runs}` : "new"}</span>
          <button class="primary" onclick={() => begin(level.key)} aria-label="Play: {level.title}"
            >Play</button
          >
        </li>
      {/each}
    </ol>
  </section>
  <section aria-label="Runs played">
    <SkillLines {runs} />
    <h2>Runs played</h2>
    {#if runs.length === 0}
      <p class="soft">None yet. The first level takes less than a minute.</p>
    {:else}
      <ul class="lines">
        {#each runs as run (run.id)}
          <li>
            <a href={debrief(run.id)}
              ><b>{title(run.level)}</b>{run.branch_of !== null ? ", played on from a moment" : ""}</a
            >
            <span class="soft"
              >{when(run.started_at)}, {run.mood}:
              <span class:landed={run.outcome === "landed"}>{ended(run)}</span></span
            >
            <RemoveButton remove={() => void forget(run)} what="Remove the run of {when(run.started_at)}" />
          </li>
        {/each}
      </ul>
    {/if}
    <Sources of="runs" />
  </section>
</div>

<style>
  .runs {
    display: grid;
    grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
    gap: 24px;
    align-content: start;
    padding: 14px 16px;
    overflow-y: auto;
    min-height: 0;
  }

  .ways {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(122px, 1fr));
    gap: 8px;
    align-items: end;
    margin: 10px 0;
  }

  .ways label {
    display: grid;
    font-size: 0.88rem;
    color: var(--soft);
    min-width: 0;
  }

  .ways select {
    width: 100%;
    min-width: 0;
    color: var(--ink);
    font-size: 1rem;
    text-overflow: ellipsis;
  }

  .levels {
    margin: 8px 0 0;
    padding: 0;
    list-style: none;
  }

  .levels li {
    display: grid;
    grid-template-columns: 28px minmax(0, 1fr) auto auto;
    gap: 10px;
    align-items: center;
    padding: 6px 0;
    border-bottom: 1.5px solid var(--line);
  }

  .number {
    text-align: right;
    color: var(--soft);
  }

  .done {
    color: var(--soft);
    font-size: 0.9rem;
    white-space: nowrap;
  }

  .lines li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    align-items: center;
    gap: 0 8px;
  }

  .lines a {
    display: grid;
    align-items: center;
    min-height: 28px;
    color: var(--ink);
    grid-column: 1;
  }

  .lines .soft {
    grid-column: 1;
  }

  .lines :global(button) {
    grid-column: 2;
    grid-row: 1 / 3;
  }

  .landed {
    color: var(--pine);
    font-weight: 700;
  }

  h2 + .lines {
    margin-top: 4px;
  }

  @media (max-width: 760px) {
    .runs {
      grid-template-columns: minmax(0, 1fr);
      padding: 10px;
    }

    .levels li {
      grid-template-columns: 22px minmax(0, 1fr) auto;
    }

    .done {
      display: none;
    }
  }
</style>
