<script lang="ts">
  // The debrief: the run on one time line, each decisive moment with its number, two things to do next time, and what
  // another hand would have come to.
  import Sources from "../../lib/controls/Sources.svelte";
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { Judged, Pings, RunWanted, RunWhole, StrikeChoices, WhatIf } from "../../lib/api/types";
  import { readInks } from "../../lib/picture/inks";
  import { Playhead } from "../../lib/playhead.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { clock, sentence, small } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import PlayBar from "../../lib/controls/PlayBar.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { Wait } from "../../lib/wait.svelte";
  import DayAsItWas from "./DayAsItWas.svelte";
  import Moments from "./Moments.svelte";
  import { pingsOf } from "./pings";
  import { NEUTRAL, type Shown, Timeline } from "./timeline";

  let { id, play, all }: { id: number; play: (wanted: RunWanted) => void; all: string } = $props();

  const CLOSE_S = 12; // half of what a close look shows

  let run = $state<RunWhole | null>(null);
  let pings = $state<Pings | null>(null);
  let choices = $state<StrikeChoices | null>(null);
  let trouble = $state("");
  let chosen = $state<number | null>(null);
  const head = new Playhead(() => run?.seconds ?? 0);
  const wait = new Wait();
  const asked = new Wait();
  let gone = false;
  let close = $state(false);
  let truth = $state(true);
  let echo = $state(true);
  let hand = $state<WhatIf["hand"]>("slow lift");
  let whatIf = $state<WhatIf | null>(null);
  let canvas: HTMLCanvasElement | undefined = $state();
  let width = $state(0);
  let height = $state(0);

  onMount(() => {
    void load();
    return () => (gone = true);
  });

  async function load() {
    // As it was when the page was opened: while it is on its way out there is no run to ask for.
    const run_id = id;
    try {
      const [whole, offered] = await Promise.all([
        wait.during((headers) =>
          ok(api.GET("/api/runs/{run_id}", { params: { path: { run_id } }, headers })),
        ),
        ok(api.GET("/api/runs/choices")),
      ]);
      choices = offered;
      if (gone) return;
      if (whole.has_picture) pings = await pingsOf(run_id);
      if (gone) return;
      run = whole;
      head.stop(whole.seconds);
      const worst = whole.judged.findIndex((one) => !one.is_good && !NEUTRAL.has(one.code));
      if (worst >= 0) choose(worst);
    } catch (problem) {
      trouble = words(problem);
    }
  }

  onMount(() => world.withPicture());

  const timeline = $derived(run ? new Timeline(run, pings, run.unit.ladders[run.settings.ladder]!) : null);
  const end = $derived(Math.max(run?.seconds ?? 1, whatIf?.ends_s ?? 0));
  const shown: Shown = $derived.by(() => {
    const from = close ? Math.max(Math.min(head.time - CLOSE_S, end - 2 * CLOSE_S), 0) : 0;
    return {
      from,
      to: close ? Math.min(from + 2 * CLOSE_S, end) : end,
      head: head.time,
      truth,
      echo,
      whatIf,
      chosen,
    };
  });

  $effect(() => {
    document.documentElement.dataset.theme = prefs.theme;
    const p = canvas?.getContext("2d", { alpha: false });
    if (!p || !canvas || !timeline || width === 0 || height === 0) return;
    const dpr = window.devicePixelRatio || 1;
    if (canvas.width !== Math.round(width * dpr) || canvas.height !== Math.round(height * dpr)) {
      canvas.width = Math.round(width * dpr);
      canvas.height = Math.round(height * dpr);
    }
    p.setTransform(dpr, 0, 0, dpr, 0, 0);
    timeline.paint(p, width, height, shown, readInks(), prefs.theme, prefs.system);
  });

  function choose(k: number) {
    chosen = k;
    whatIf = null;
    head.stop(run!.judged[k]!.time_s);
  }

  function press(event: PointerEvent) {
    if (!timeline || !canvas) return;
    head.stop(Math.min(Math.max(timeline.timeAt(event.offsetX, width, shown), 0), run!.seconds));
  }

  async function ask() {
    const at = moment;
    if (at === null) return;
    try {
      whatIf = await asked.during((headers) =>
        ok(
          api.POST("/api/runs/{run_id}/what-if", {
            params: { path: { run_id: id } },
            body: { time_s: at, hand },
            headers,
          }),
        ),
      );
      trouble = "";
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const takeOver = () => play({ branch_of: id, branch_at_s: moment ?? 0, start: "card", line: "braid" });
  const again = () =>
    run &&
    play({
      level: run.level as RunWanted["level"],
      mood: run.mood as RunWanted["mood"],
      seed: run.seed,
      start: "card",
      line: "braid",
      hole_id: run.hole_id,
    });

  const said = (one: Judged) => sentence(one.say.text, one.say.values, prefs.system);
  // Where another hand would take over: a little before the chosen moment, or where the play head stands.
  const moment = $derived.by(() => {
    if (!run) return null;
    const one = chosen === null ? null : run.judged[chosen]!;
    if (one && Math.abs(head.time - one.time_s) < 0.01) return one.back_s;
    return Math.min(Math.max(head.time, 0.1), run.seconds);
  });
  const outcome = $derived(
    !run
      ? ""
      : run.outcome === "landed"
        ? `Landed: a ${small(run.landed_m, prefs.system)} ${run.species}`
        : run.outcome === "bites missed"
          ? "A bite, and no fish"
          : run.outcome === "looks, no bite"
            ? "It looked, and did not bite"
            : "No fish came to the lure",
  );
</script>

{#if !run || !timeline}
  <div class="wait">
    <Trouble words={trouble} />
    <Waiting {wait} words="Playing it through again" />
  </div>
{:else}
  <div class="debrief">
    <div class="picture">
      <div class="canvas" bind:clientWidth={width} bind:clientHeight={height}>
        <canvas bind:this={canvas} onpointerdown={press}
          >The run on one time line: picture, truth, rod and attention. {run.judged.length} moments are judged.</canvas
        >
      </div>
      <PlayBar {head} to={run.seconds} name="Time in the run" says={clock(head.time)}>
        <button aria-pressed={close} onclick={() => (close = !close)}
          >{close ? "Whole run" : "Close look"}</button
        >
        <button aria-pressed={truth} onclick={() => (truth = !truth)}
          >{truth ? "Hide truth" : "Show truth"}</button
        >
        <button aria-pressed={echo} onclick={() => (echo = !echo)}
          >{echo ? "Hide echoes" : "Show echoes"}</button
        >
      </PlayBar>
      <p class="legend">
        <span><span class="key lure"></span> the lure as it truly was</span>
        <span><span class="key fish"></span> a fish that looks on</span>
        <span><span class="key passing"></span> a fish that passes</span>
      </p>
    </div>
    <div class="words">
      <div class="head">
        <h2>{outcome}</h2>
        <a class="button" href={all}>All runs</a>
      </div>
      <section aria-label="Next time" class="next">
        <h3>Next time</h3>
        <ol>
          {#each run.next as one (one)}<li>{one}</li>{/each}
        </ol>
      </section>
      <Moments judged={run.judged} {chosen} {choose} {clock} {said} />
      <section aria-label="What if" class="whatif">
        <h3>What if, from {clock(moment ?? 0)}</h3>
        <div class="asks">
          <select bind:value={hand} aria-label="Another hand">
            {#each choices?.hands ?? [] as one (one.key)}<option value={one.key}>{one.words}</option>{/each}
          </select>
          <button onclick={() => void ask()}>See what comes of it</button>
        </div>
        <Waiting wait={asked} words="Playing it with another hand" />
        {#if whatIf}
          <p role="status" data-testid="what-if" class:old={asked.shown}>
            <b
              >{whatIf.outcome === "landed"
                ? "It would have been landed."
                : whatIf.outcome === "bites missed"
                  ? "It would have bitten, and been missed."
                  : "No fish would have come of it."}</b
            >
            <span class="soft">{[...whatIf.judged.map(said), "Dotted in the picture."].join(" ")}</span>
          </p>
        {/if}
        <div class="asks">
          <button class="primary" onclick={takeOver}>Take over from here</button>
          <button onclick={again}>Same fish again</button>
        </div>
        <Trouble words={trouble} />
      </section>
      <DayAsItWas {run} {id} />
      <Sources of="debrief" />
    </div>
  </div>
{/if}

<style>
  .wait {
    padding: 24px;
  }

  .debrief {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 400px;
    min-height: 0;
  }

  .picture {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto auto;
    min-height: 0;
    min-width: 0;
  }

  .canvas {
    position: relative;
    min-height: 0;
    overflow: hidden;
  }

  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    cursor: col-resize;
  }

  .legend {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 16px;
    align-items: center;
    padding: 2px 12px 8px;
    color: var(--soft);
    font-size: 0.88rem;
  }

  .legend > span {
    display: flex;
    gap: 8px;
    align-items: center;
  }

  .key {
    width: 24px;
    border-top: 4px solid var(--action);
  }

  .key.fish {
    border-color: var(--fish-zone);
  }

  .key.passing {
    border-top: 3px dotted var(--fish-zone);
  }

  .words {
    display: grid;
    align-content: start;
    gap: 14px;
    padding: 10px 14px;
    border-left: 1.5px solid var(--line);
    overflow-y: auto;
    min-height: 0;
  }

  .head {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 10px;
  }

  h3 {
    font-size: 0.95rem;
  }

  .next {
    padding: 8px 12px;
    border: 2px solid var(--pine);
    border-radius: 8px;
    background: var(--panel);
  }

  .next ol {
    margin: 4px 0 0;
    padding-left: 20px;
  }

  .asks {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    margin-top: 6px;
  }

  .asks > * {
    flex: 1 1 150px;
    min-width: 0;
  }

  @media (max-width: 760px) {
    .debrief {
      display: block;
      overflow-y: auto;
    }

    .canvas {
      height: 330px;
    }

    .words {
      border-left: 0;
      border-top: 1.5px solid var(--line);
      overflow: visible;
    }
  }
</style>
