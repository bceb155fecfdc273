<script lang="ts">
  // The Log: the hole as a core with its strikes at their depths, and the strikes in a list.
  import { onMount } from "svelte";
  import { kindWords } from "./forms";
  import { undo } from "../../lib/undo.svelte";
  import { api, ok, words } from "../../lib/api/client";
  import Sources from "../../lib/controls/Sources.svelte";
  import { when } from "../../lib/when";
  import type { HappenedHere, Hole, Run, Strike } from "../../lib/api/types";
  import Ground from "../../lib/bore/Ground.svelte";
  import Parts from "../../lib/picture/Parts.svelte";
  import { ticks } from "../../lib/picture/axis";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length, small, trim } from "../../lib/units";
  import { world } from "../../lib/world.svelte";

  let { hole }: { hole: Hole } = $props();

  let height = $state(500);
  let chosen = $state<number | null>(null);
  let said = $state("");

  let runs = $state<Run[]>([]);
  let happened = $state<HappenedHere[]>([]);

  onMount(() => {
    void ok(api.GET("/api/holes/{hole_id}/happenings", { params: { path: { hole_id: hole.id } } }))
      .then((answer) => (happened = answer.happened))
      .catch(() => undefined); // the strikes say when the program does not answer
  });
  const deep = $derived(happened.filter((one) => one.depth_m !== null));
  const count = (...kinds: HappenedHere["kind"][]) =>
    happened.filter((one) => kinds.includes(one.kind)).length;
  /** Where a note stands across the core: beside the others of its depth, the same each time. */
  const across = (id: number) => 47 + ((id * 37) % 57);

  onMount(() => {
    void ok(api.GET("/api/runs"))
      .then((answer) => (runs = answer.runs.slice(0, 12)))
      .catch(() => undefined); // the strikes say when the program does not answer
  });

  // The core is the hole's column here, with its ticks: no second one beside it.
  onMount(() => world.withPicture());

  /** Sets that failed and bites that were let go. */
  const missed = (run: Run) => {
    const set = run.skills.find((one) => one.skill === "set on the bite");
    return set ? set.of - set.good : 0;
  };

  const WIDTH = 240;
  const FOOT_AT = 0.92; // of the core's height: below it the ground is seen
  const strikes = $derived(world.strikesHere);
  const scale = $derived((height * FOOT_AT) / hole.bottom_depth_m);
  const number = $derived(new Map(strikes.map((one, i) => [one.id, strikes.length - i])));

  // Labels beside the core are kept a line apart; a leader runs to the true depth.
  const labels = $derived.by(() => {
    const sorted = [...strikes].sort((a, b) => a.depth_m - b.depth_m);
    let last = -Infinity;
    return sorted.map((strike) => {
      const at = strike.depth_m * scale;
      last = Math.max(at, last + 20);
      return { strike, at, label: Math.min(Math.max(last, 30), hole.bottom_depth_m * scale - 6) };
    });
  });

  const lureName = (id: number) => world.lures.find((one) => one.id === id)?.name ?? "";

  async function forget(strike: Strike) {
    try {
      const params = { path: { strike_id: strike.id } };
      const gone = await ok(api.DELETE("/api/strikes/{strike_id}", { params }));
      await undo.kept(`Strike ${number.get(strike.id)} is removed.`, gone, () => world.loadStrikes());
      said = "";
    } catch (problem) {
      said = words(problem);
    }
    await world.loadStrikes();
  }
</script>

<div class="hole-log">
  <section class="core" aria-label="The hole" bind:clientHeight={height}>
    <svg width={WIDTH} {height} aria-hidden="true">
      <Ground id="core" kind={hole.bottom_kind} />
      <rect class="water" x="40" width="70" height={hole.bottom_depth_m * scale} />
      <rect class="ice" x="40" width="70" height={hole.ice_thickness_m * scale} />
      <rect x="40" y={hole.bottom_depth_m * scale} width="70" {height} fill="url(#core-ground)" />
      <line class="edge" x1="40" x2="40" y1="0" y2={height} />
      <line class="edge" x1="110" x2="110" y1="0" y2={height} />
      {#each [...ticks({ top: 0, bottom: hole.bottom_depth_m }, prefs.system)] as [at, figure] (figure)}
        {#if at * scale > 10 && at * scale < height * FOOT_AT - 8}
          <path class="tick" d="M34 {at * scale}h6" />
          <text class="figure" x="31" y={at * scale + 4}>{figure}</text>
        {/if}
      {/each}
      {#if world.riseLine}
        {@const high = world.riseLine.high_m * scale}
        <rect
          class="rise-span"
          x="40"
          width="70"
          y={high}
          height={Math.max(world.riseLine.low_m * scale - high, 2)}
        />
        <line
          class="rise"
          x1="40"
          x2="110"
          y1={world.riseLine.depth_m * scale}
          y2={world.riseLine.depth_m * scale}
        />
      {/if}
      {#each deep as one (one.id)}
        {@const at = one.depth_m! * scale}
        {#if one.kind === "fish"}
          <path class="landed" d="M{across(one.id)} {at - 6}l6 6l-6 6l-6-6z" />
        {:else if one.kind === "bite" || one.kind === "miss"}
          <path class="bit" d="M{across(one.id) - 4} {at}a4 4 0 1 0 8 0a4 4 0 1 0-8 0" />
        {:else if one.kind === "turned" || one.kind === "came"}
          <path class="high" d="M{across(one.id) - 5} {at + 3}l5-6l5 6" />
        {:else}
          <line class="looked" x1={across(one.id) - 4} x2={across(one.id) + 4} y1={at} y2={at} />
        {/if}
      {/each}
      {#each labels as { strike, at, label } (strike.id)}
        <path class="leader" class:chosen={chosen === strike.id} d="M75 {at}H114L128 {label}H136" />
        <circle class="strike" class:chosen={chosen === strike.id} cx="75" cy={at} r="6" />
        <text x="140" y={label + 4} class:chosen={chosen === strike.id}
          >{number.get(strike.id)}. {depth(strike.depth_m, prefs.system)}</text
        >
      {/each}
    </svg>
    <Parts
      scene={hole}
      stand={{ top: 0, bottom: hole.bottom_depth_m / FOOT_AT, column: WIDTH - 6 }}
      edit={(field) => world.go("hole", hole.id, field)}
    />
  </section>

  <section class="list" aria-labelledby="log-name">
    <h2 id="log-name">All that happened at {hole.name}</h2>
    <p class="facts" data-testid="happened">
      {happened.length === 0
        ? "Nothing was noted on the ice here yet."
        : `On the ice: ${count("look", "follow")} looks and follows, ${count("bite")} bites, ${count("miss")} misses, ${count("fish")} fish. In the core a dash is a look, a ring a bite, a diamond a fish, a roof how high one came.`}
    </p>
    {#if happened.length > 0}
      <details>
        <summary>Every note here</summary>
        <ul class="lines">
          {#each happened as one (one.id)}
            <li>
              <a href="#/hole/{hole.id}/log/outings/{one.outing_id}">{when(one.at, true)}</a>
              {kindWords(one.kind)}{one.depth_m === null
                ? ""
                : ` at ${depth(one.depth_m, prefs.system)}`}{one.species
                ? `, ${one.species}`
                : ""}{one.length_m === null ? "" : `, ${small(one.length_m, prefs.system)}`}
            </li>
          {/each}
        </ul>
      </details>
    {/if}
    <h2>Strikes on the Bench at {hole.name}</h2>
    <p class="facts">
      {strikes.length === 0
        ? "None yet. A hook set on the Bench lands here, with its depth, settings and time."
        : `${strikes.length} so far, newest first. Bottom at ${depth(hole.bottom_depth_m, prefs.system)}.`}
    </p>
    <p class="said" role="status">{said}</p>
    <div class="both">
      <div>
        <ol>
          {#each strikes as strike (strike.id)}
            <li
              class:chosen={chosen === strike.id}
              onpointerenter={() => (chosen = strike.id)}
              onpointerleave={() => (chosen = null)}
            >
              <span class="which figures">{number.get(strike.id)}</span>
              <div class="what">
                <p class="main">
                  <b class="figures">{depth(strike.depth_m, prefs.system)}</b>
                  {#if strike.fish_length_m}<span
                      >fish of <b class="figures">{small(strike.fish_length_m, prefs.system)}</b></span
                    >{/if}
                  <span class="off"
                    >{length(hole.bottom_depth_m - strike.depth_m, prefs.system)} off the bottom</span
                  >
                </p>
                <p class="how">
                  {when(strike.struck_at, true)} · {lureName(strike.lure_id)} · gain
                  <span class="figures">{trim(strike.settings.gain, 1)}</span>, range
                  {depth(strike.settings.range_m, prefs.system)}{strike.settings.bottom_window_m > 0
                    ? `, bottom window ${depth(strike.settings.bottom_window_m, prefs.system)}`
                    : ""}
                </p>
                {#if strike.note}<p class="note">{strike.note}</p>{/if}
              </div>
              <RemoveButton what="Remove strike {number.get(strike.id)}" remove={() => forget(strike)} />
            </li>
          {/each}
        </ol>
        <Sources of="log" />
      </div>
      {#if runs.length > 0}
        <div>
          <h2>Practice runs</h2>
          <ul class="lines runs">
            {#each runs as run (run.id)}
              <li>
                <a href="#/hole/{hole.id}/strike/runs/{run.id}">{run.title}</a>:
                {run.outcome === "landed"
                  ? `landed a ${small(run.landed_m, prefs.system)} ${run.species}`
                  : run.outcome}{missed(run) > 0 ? `, ${missed(run)} missed` : ""}
                <p class="how">
                  {when(run.started_at, true)} · {run.mood} · gain
                  <span class="figures">{trim(run.settings.gain, 1)}</span>, range {depth(
                    run.settings.range_m,
                    prefs.system,
                  )}
                </p>
              </li>
            {/each}
          </ul>
        </div>
      {/if}
    </div>
  </section>
</div>

<style>
  h2 {
    margin-top: 18px;
  }

  .lines a {
    display: inline-block;
    padding: 4px 0;
    color: var(--ink);
  }

  ul.lines > li {
    display: block;
    padding: 8px 0;
  }

  .hole-log {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    min-height: 0;
  }

  .core {
    position: relative;
    min-height: 0;
    overflow: hidden;
    border-right: 1.5px solid var(--line);
  }

  .water {
    fill: var(--water);
  }

  .ice {
    fill: var(--ice);
    stroke: var(--ice-edge);
  }

  .edge {
    stroke: var(--line);
    stroke-width: 1.5;
  }

  .leader {
    fill: none;
    stroke: var(--soft);
  }

  .leader.chosen {
    stroke: var(--action);
    stroke-width: 2.5;
  }

  .looked {
    stroke: var(--soft);
    stroke-width: 2;
  }

  .bit {
    fill: var(--panel);
    stroke: var(--pine);
    stroke-width: 2.5;
  }

  .landed {
    fill: var(--pine);
    stroke: var(--panel);
  }

  .high {
    fill: none;
    stroke: var(--pine);
    stroke-width: 2.5;
  }

  .strike {
    fill: var(--panel);
    stroke: var(--action);
    stroke-width: 3;
  }

  .strike.chosen {
    fill: var(--action);
  }

  text {
    fill: var(--ink);
    font: 600 0.85rem var(--figures);
  }

  text.chosen {
    fill: var(--action);
  }

  .tick {
    stroke: var(--soft);
  }

  text.figure {
    fill: var(--soft);
    font-size: 0.75rem;
    text-anchor: end;
  }

  /* Strikes and practice beside one another where there is room. */
  @media (min-width: 1440px) {
    .both {
      display: grid;
      grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
      gap: 40px;
    }
  }

  .list {
    padding: 16px 24px;
    overflow-y: auto;
  }

  .facts {
    color: var(--soft);
    margin-top: 4px;
  }

  ol {
    list-style: none;
    margin: 12px 0 0;
    padding: 0;
    max-width: 880px;
  }

  li {
    display: grid;
    grid-template-columns: 40px 1fr auto;
    gap: 8px 12px;
    align-items: center;
    padding: 10px 0;
    border-bottom: 1.5px solid var(--line);
  }

  li.chosen {
    background: var(--panel);
  }

  .which {
    font-size: 1.2rem;
    font-weight: 700;
    text-align: center;
    color: var(--action);
  }

  .main {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 16px;
    font-size: 1.1rem;
  }

  .off,
  .how {
    color: var(--soft);
  }

  .how {
    font-size: 0.92rem;
  }

  @media (max-width: 760px) {
    .core {
      display: none;
    }

    .hole-log {
      grid-template-columns: minmax(0, 1fr);
    }

    .list {
      padding: 12px;
    }

    li {
      grid-template-columns: 28px 1fr;
    }

    li > :global(:last-child) {
      grid-column: 2;
      justify-self: start;
    }
  }
</style>
