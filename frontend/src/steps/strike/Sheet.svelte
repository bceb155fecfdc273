<script lang="ts">
  // The strike sheet for the ice: the next thing to try and why, one touch for what happened, the day's rise line.
  import Sources from "../../lib/controls/Sources.svelte";
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import { constants } from "../../lib/api/limits";
  import type { Hole, HoleLine, StrikeSheet, Touch } from "../../lib/api/types";
  import { type Species, SPECIES } from "../../lib/controls/options";
  import { latest } from "../../lib/latest";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence } from "../../lib/units";
  import AtThisHole from "./AtThisHole.svelte";
  import Today from "./Today.svelte";
  import { world } from "../../lib/world.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";

  let { hole }: { hole: Hole } = $props();

  const HAPPENED = [
    { key: "look", label: "Look", hint: "a mark came near" },
    { key: "follow", label: "Follow", hint: "it came up with the lure" },
    { key: "bite", label: "Bite", hint: "the tip told" },
    { key: "miss", label: "Miss", hint: "set, and nothing" },
    { key: "fish", label: "Fish", hint: "landed" },
    { key: "nothing", label: "Nothing", hint: "no fish for a while" },
  ] as const;
  const NUDGE = constants.foot / 2;
  const OFF_BOTTOM = constants.offBottom;
  const MOST_BEFORE_S = 7200; // a sheet that was left open at home is no hours of fishing

  let species = $state<Species>("whitefish");
  let sheet = $state<StrikeSheet | null>(null);
  let line = $state<HoleLine | null>(null);
  let trying = $state<StrikeSheet["trying"] | null>(null);
  let at = $state(0);
  let trouble = $state("");
  let done = $state("");
  /** Counts what was noted: the first note puts lines in. */
  let touched = $state(0);
  const arrived = Date.now();
  /** What is known of the species that is picked: a sheet of another one is not shown for it. */
  const current = $derived(sheet?.species === species ? sheet : null);
  const last = $derived(current?.touches[0] ?? null);
  const lastHeight = $derived(line?.heights[0] ?? null);

  onMount(() => {
    at = hole.bottom_depth_m - OFF_BOTTOM > 0.5 ? hole.bottom_depth_m - OFF_BOTTOM : hole.bottom_depth_m / 2;
    void load();
    const again = window.setInterval(() => void load(), 60_000);
    return () => window.clearInterval(again);
  });

  const sheetNow = () => {
    const at_hole_s = Math.round((Date.now() - arrived) / 1000);
    const params = { path: { hole_id: hole.id }, query: { species, at_hole_s } };
    return ok(api.GET("/api/holes/{hole_id}/strike-sheet", { params }));
  };
  // An answer that comes after a later question is of another species, or of fewer touches.
  const asks = latest(() =>
    Promise.all([
      sheetNow(),
      ok(api.GET("/api/holes/{hole_id}/rise-line", { params: { path: { hole_id: hole.id } } })),
    ]),
  );

  async function load() {
    try {
      const answer = await asks();
      if (!answer) return;
      [sheet, line] = answer;
      trying ??= sheet.trying;
      world.riseLine = line.line;
      trouble = "";
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function does(what: () => Promise<unknown>, text: string) {
    try {
      await what();
      touched++;
      done = text;
      await load();
    } catch (problem) {
      trouble = words(problem);
    }
  }

  function touch(kind: Touch["kind"], label: string) {
    const told = {
      kind,
      species,
      depth_m: kind === "nothing" ? null : at,
      // Where nobody put lines in, they have been in since the sheet was opened.
      at_hole_s: Math.min(Math.round((Date.now() - arrived) / 1000), MOST_BEFORE_S),
    };
    return does(
      async () => {
        // A touch can be quicker than the sheet: what is tried is then what it would say, not another species' turn.
        const tried = trying ?? (await sheetNow()).trying;
        if (told.species === species) trying ??= tried;
        const params = { path: { hole_id: hole.id } };
        await ok(api.POST("/api/holes/{hole_id}/touches", { params, body: { ...told, trying: tried } }));
      },
      `${label}, at ${depth(at, prefs.system)}, is noted.`,
    );
  }

  const turned = (was: boolean) =>
    does(
      () =>
        ok(
          api.POST("/api/holes/{hole_id}/heights", {
            params: { path: { hole_id: hole.id } },
            body: { depth_m: at, turned: was },
          }),
        ),
      `${was ? "Turned" : "Came up"} at ${depth(at, prefs.system)} is noted.`,
    );

  const undo = (last: Touch) =>
    does(
      () =>
        ok(
          api.DELETE("/api/holes/{hole_id}/touches/{touch_id}", {
            params: { path: { hole_id: hole.id, touch_id: last.id } },
          }),
        ),
      "The last touch is taken back.",
    );
  const undoHeight = (id: number) =>
    does(
      () =>
        ok(
          api.DELETE("/api/holes/{hole_id}/heights/{height_id}", {
            params: { path: { hole_id: hole.id, height_id: id } },
          }),
        ),
      "The last height is taken back.",
    );

  const share = (value: number) => `${Math.round(100 * value)}`;
  const label = (kind: string) => HAPPENED.find((one) => one.key === kind)?.label ?? kind;
</script>

<div class="sheet">
  <AtThisHole {hole} {touched} />
  <section class="now" aria-label="What to try next">
    <Trouble words={trouble} />
    {#if sheet}
      <!-- While another species' sheet is on its way the old one keeps its room, or the buttons would jump. -->
      <div class="told" class:old={!current}>
        <p class="try" data-testid="suggestion">{sheet.do}</p>
        <p class="why">{sentence(sheet.why.text, sheet.why.values, prefs.system)}</p>
        {#if trying && trying !== sheet.trying}
          <button class="primary" onclick={() => (trying = sheet!.trying)}>I am trying that now</button>
        {/if}
      </div>
    {/if}
  </section>

  <section class="touches" aria-label="What happened">
    <div class="depths">
      <button aria-label="Shallower" onclick={() => (at = Math.max(at - NUDGE, 0.2))}>−</button>
      <p>
        <small>at</small>
        <b class="figures" data-testid="at">{depth(at, prefs.system)}</b>
      </p>
      <button aria-label="Deeper" onclick={() => (at = Math.min(at + NUDGE, hole.bottom_depth_m))}>+</button>
    </div>
    <div class="grid">
      {#each HAPPENED as one (one.key)}
        <button class="big" class:good={one.key === "fish"} onclick={() => void touch(one.key, one.label)}>
          <b>{one.label}</b><small>{one.hint}</small>
        </button>
      {/each}
      <button class="big half" onclick={() => void turned(true)}
        ><b>Turned here</b><small>it would come no higher</small></button
      >
      <button class="big half" onclick={() => void turned(false)}
        ><b>Came up here</b><small>and did not turn</small></button
      >
    </div>
    <div class="last">
      <p class="done" role="status">{done}</p>
      {#if last}<button onclick={() => void undo(last)} aria-label="Take back the last touch"
          >Take back</button
        >{/if}
      {#if lastHeight}<button onclick={() => void undoHeight(lastHeight.id)}>Take back the last height</button
        >{/if}
    </div>
  </section>

  <section class="trying" aria-label="What is being tried">
    <div class="pickers">
      <label
        >For
        <select
          bind:value={species}
          onchange={() => {
            trying = null;
            void load();
          }}
        >
          {#each SPECIES as { value, label } (value)}<option {value}>{label}</option>{/each}
        </select></label
      >
      <label
        >Trying now
        <select bind:value={trying}>
          {#each current?.ladder ?? [] as one (one.key)}<option value={one.key}>{one.key}</option>{/each}
        </select></label
      >
    </div>
    <h2>The ladder for {species}</h2>
    <p class="soft">
      Touches within three minutes of each other, each a stage further (look, follow, bite, miss or fish),
      count as one fish.
    </p>
    <ol class="ladder">
      {#each current?.ladder ?? [] as step (step.key)}
        {@const had = current?.evidence.find((one) => one.trying === step.key)}
        <li class:here={trying === step.key}>
          <span>{step.words}</span>
          <span class="figures had"
            >{had
              ? `${had.more} of ${had.looks} did more (${share(had.low)} to ${share(had.high)} %)`
              : "not tried today"}</span
          >
        </li>
      {/each}
    </ol>
  </section>

  <div class="today"><Today {hole} sheet={current} {line} {label} /><Sources of="strike" /></div>
</div>

<style>
  .sheet {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    grid-template-areas: "here here" "now touches" "ladder touches" "ladder today";
    grid-template-rows: auto auto auto 1fr;
    gap: 16px 24px;
    align-content: start;
    padding: 14px 16px;
    overflow-y: auto;
    min-height: 0;
  }

  .touches {
    grid-area: touches;
  }

  .trying {
    grid-area: ladder;
  }

  .today {
    grid-area: today;
  }

  .now {
    grid-area: now;
    display: grid;
    align-content: start;
    gap: 6px;
    padding: 12px 14px;
    border: 3px solid var(--action);
    border-radius: 8px;
    background: var(--panel);
  }

  .told {
    display: grid;
    gap: 6px;
  }

  .old {
    visibility: hidden;
  }

  .try {
    font-size: 1.5rem;
    font-weight: 700;
    line-height: 1.2;
  }

  /* Six halves, so that three touches and two heights fill their rows. */
  .grid {
    display: grid;
    grid-template-columns: repeat(6, 1fr);
    gap: 8px;
    margin-top: 8px;
  }

  .big {
    grid-column: span 2;
    min-height: 64px;
    padding: 4px;
    line-height: 1.15;
  }

  .big b {
    display: block;
    font-size: 1.1rem;
  }

  .big.half {
    grid-column: span 3;
    border-color: var(--pine);
  }

  .good {
    border-color: var(--action);
    border-width: 3px;
  }

  small {
    color: var(--soft);
    font-size: 0.82rem;
  }

  .depths {
    display: grid;
    grid-template-columns: auto 1fr auto;
    gap: 8px;
    align-items: center;
    text-align: center;
  }

  .depths b {
    font-size: 1.4rem;
  }

  .depths button {
    font-size: 1.4rem;
    min-width: 64px;
  }

  .last {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    margin-top: 6px;
  }

  .done {
    flex: 1 1 auto;
    min-height: 1.4em;
    color: var(--pine);
    font-weight: 600;
  }

  .pickers {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px;
    margin-bottom: 10px;
  }

  .pickers label {
    display: grid;
    min-width: 0;
    font-size: 0.88rem;
    color: var(--soft);
  }

  .pickers select {
    min-width: 0;
    color: var(--ink);
    font-size: 1rem;
  }

  .ladder {
    margin: 4px 0 0;
    padding: 0;
    list-style: none;
    counter-reset: step;
  }

  .ladder li {
    display: grid;
    gap: 0 8px;
    padding: 4px 8px;
    border-left: 5px solid var(--line);
    border-bottom: 1.5px solid var(--line);
  }

  .ladder .here {
    border-left-color: var(--action);
    font-weight: 700;
  }

  .had {
    font-size: 0.85rem;
    font-weight: 400;
    color: var(--soft);
  }

  @media (max-width: 760px) {
    .sheet {
      grid-template-columns: minmax(0, 1fr);
      grid-template-areas: "now" "touches" "here" "ladder" "today";
      grid-template-rows: none;
      padding: 10px;
      gap: 12px;
    }
  }
</style>
