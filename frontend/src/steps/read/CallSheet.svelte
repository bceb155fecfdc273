<script lang="ts">
  // For the ice, where the unit gives no data: touch the column where the mark stands, then what it looks like.
  import { onMount, untrack } from "svelte";
  import { api, ok, words as wordsOf } from "../../lib/api/client";
  import { limits } from "../../lib/api/limits";
  import Sources from "../../lib/controls/Sources.svelte";
  import type { CallSheet, CallWanted, Hole, Observation, Section } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import { latest } from "../../lib/latest";
  import { css, ladderColours } from "../../lib/picture/ladder";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { Wait } from "../../lib/wait.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Answer from "./Answer.svelte";
  import GearAsItStood from "./GearAsItStood.svelte";
  import { taken } from "./touched";
  import TouchColumn from "./TouchColumn.svelte";
  import Truth from "./Truth.svelte";

  let { hole }: { hole: Hole } = $props();

  type Touches = Omit<Observation, "shown_m">;
  const THICKNESS = limits.ObservationFields.thickness.choices;
  const MOTION = limits.ObservationFields.motion.choices;
  const CHANGE = limits.ObservationFields.change.choices;
  const NEAR = limits.ObservationFields.near.choices;
  const BOTTOM = limits.ObservationFields.bottom.choices;

  const given = taken();
  let unitId = $state(untrack(() => given?.unit_id ?? world.trial?.unit_id ?? world.units[0]?.id ?? 0));
  let lureId: number | null = $state(
    untrack(() => given?.lure_id ?? world.trial?.lure_id ?? world.usualLure?.id ?? null),
  );
  let gain = $state<number | null>(given?.gain ?? null);
  let lureDepth = $state<number | null>(null);
  let shown = $state<number | null>(given?.shown_m ?? null);
  const CLEAN: Touches = {
    colour: 0,
    thickness: "as the lure",
    motion: "still",
    change: "steady",
    near: "open water",
    bottom: null,
  };
  let touches: Touches = $state({ ...CLEAN, ...(given && { colour: given.colour, motion: given.motion }) });
  let sheet = $state<CallSheet | null>(null);
  let trouble = $state("");

  const unit = $derived(world.units.find((one) => one.id === unitId) ?? world.units[0]!);
  const ladder = $derived(sheet ? unit.ladders[sheet.settings.ladder]! : unit.ladders[0]!);
  const colours = $derived(ladderColours(ladder, prefs.theme, 1).map(css));
  const words = $derived(ladder.steps.map((step) => step.name));
  const span = $derived({ top: 0, bottom: sheet?.settings.range_m ?? hole.bottom_depth_m });
  const colour = $derived(touches.colour || Math.ceil(ladder.steps.length / 2));
  const section: Section = $derived({ ...hole, weed_height_m: 0 });
  const best = $derived(sheet?.calls[0] ?? null);
  const fish = $derived(sheet?.calls.find((one) => one.region !== null) ?? null);

  $effect(() => {
    const wanted = {
      unit_id: unitId,
      lure_id: lureId,
      gain,
      lure_depth_m: lureDepth,
      seen: shown === null ? null : { ...touches, colour, shown_m: shown },
    };
    void ask(wanted);
  });

  onMount(() => world.withPicture());

  const wait = new Wait();
  const call = latest((wanted: CallWanted) =>
    wait.during((headers) =>
      ok(
        api.POST("/api/holes/{hole_id}/calls", {
          params: { path: { hole_id: hole.id } },
          body: wanted,
          headers,
        }),
      ),
    ),
  );

  async function ask(wanted: CallWanted) {
    try {
      const answer = await call(wanted);
      if (!answer) return;
      sheet = answer;
      trouble = "";
    } catch (problem) {
      trouble = wordsOf(problem);
    }
  }

  function change(part: Partial<Touches>) {
    touches = { ...touches, ...part };
  }

  /** A touch on the column: where the mark stands; what it is near follows until said otherwise. */
  function place(range: number) {
    const range_m = Math.min(Math.max(range, 0), span.bottom);
    // Another mark starts from a clean sheet; a touch close by only puts the same one right.
    if (shown === null || Math.abs(range_m - shown) > 0.5) touches = { ...CLEAN };
    shown = range_m;
    if (!sheet) return;
    const bottom = sheet.bottom_range_m;
    const lure = sheet.lure_depth_m === null ? null : sheet.lure_depth_m - hole.face_depth_m;
    let near: Observation["near"] = "open water";
    if (shown > bottom + 0.4) near = "under the bottom";
    else if (shown > bottom - 0.4) near = "at the bottom";
    else if (lure !== null && Math.abs(shown - lure) < 0.6) near = "near the lure";
    else if (shown < 1) near = "near the top";
    change({ near });
  }

  const percent = (share: number) => `${Math.round(share * 100)} %`;
</script>

<div class="sheet">
  {#if best}
    <p class="bar" aria-hidden="true">
      <b>{best.kind[0]!.toUpperCase() + best.kind.slice(1)} {percent(best.chance)}.</b>
      {best.do}
    </p>
  {/if}
  <TouchColumn
    {hole}
    {sheet}
    {shown}
    {colours}
    mark={{ colour, thickness: touches.thickness }}
    bottom={span.bottom}
    face={hole.face_depth_m}
    {place}
  />
  <figure class="where">
    <Truth
      id="sheet"
      {section}
      region={fish?.region ?? null}
      lure={sheet?.lure_depth_m ?? null}
      span={{ top: 0, bottom: span.bottom + hole.face_depth_m }}
      strikes={world.strikesHere.map((one) => one.depth_m)}
      rise={world.riseLine}
    />
    {#if fish?.region}<figcaption>
        Green: where a fish that paints this mark can be, on either side.
      </figcaption>{/if}
  </figure>
  <section class="touches" aria-label="What it looks like">
    {#if shown === null}
      <h2>What is that mark?</h2>
      <p class="lead">
        Touch the column where the mark stands on your unit. Then say what it looks like: two or three touches
        are enough.
      </p>
    {:else}
      <h2>A mark at {depth(shown, prefs.system)} on your unit</h2>
    {/if}
    <div class="row">
      <span>Colour</span>
      <div class="swatches" role="group" aria-label="Colour">
        {#each ladder.steps as step, i (step.name)}
          <button
            aria-pressed={colour === i + 1}
            aria-label={step.name}
            onclick={() => change({ colour: i + 1 })}
          >
            <i style:background={colours[i + 1]}></i><small>{step.name}</small>
          </button>
        {/each}
      </div>
    </div>
    <div class="row">
      <span>Thickness</span>
      <Choice
        name="Thickness"
        options={THICKNESS}
        value={touches.thickness}
        choose={(thickness) => change({ thickness })}
      />
    </div>
    <div class="row">
      <span>It moves</span>
      <Choice
        name="It moves"
        options={MOTION}
        value={touches.motion}
        choose={(motion) => change({ motion })}
      />
    </div>
    <div class="row">
      <span>Its colour is</span>
      <Choice
        name="Its colour is"
        options={CHANGE}
        value={touches.change}
        choose={(changes) => change({ change: changes })}
      />
    </div>
    <div class="row">
      <span>It is</span>
      <Choice name="It is" options={NEAR} value={touches.near} choose={(near) => change({ near })} />
    </div>
    <div class="row">
      <span>The bottom</span>
      <Choice
        name="The bottom"
        options={BOTTOM}
        value={touches.bottom ?? ""}
        choose={(bottom) =>
          change({ bottom: bottom === touches.bottom ? null : (bottom as Observation["bottom"]) })}
      />
    </div>
    <GearAsItStood {hole} {unit} {sheet} bind:unitId bind:lureId bind:gain bind:lureDepth />
  </section>

  <section
    class="answer"
    aria-label="What it can be"
    aria-live="polite"
    data-testid="answer"
    class:old={wait.shown}
  >
    <Trouble words={trouble} />
    <Waiting {wait} words="Working it out" />
    <Answer {sheet} {words} none={trouble === ""} {percent} />
    <Sources of="sheet" />
  </section>
</div>

<style>
  .sheet {
    display: grid;
    grid-template-columns: 130px 210px minmax(0, 1fr) minmax(0, 0.85fr);
    min-height: 0;
  }

  .bar {
    display: none;
  }

  .touches,
  .answer {
    display: grid;
    align-content: start;
    gap: 12px;
    padding: 14px 16px;
    overflow-y: auto;
    min-height: 0;
  }

  .answer {
    grid-template-rows: auto;
    border-left: 1.5px solid var(--line);
    background: var(--panel);
  }

  .lead {
    color: var(--soft);
  }

  .row {
    display: grid;
    gap: 4px;
  }

  .row > span {
    font-weight: 600;
    font-size: 0.95rem;
  }

  .row :global(.choice) {
    flex-wrap: wrap;
    gap: 4px;
  }

  .row :global(.choice button) {
    flex: 1 0 auto;
    border-radius: 6px;
    margin-left: 0;
    padding: 0 10px;
  }

  .swatches {
    display: flex;
    gap: 4px;
  }

  .swatches button {
    flex: 1;
    min-width: 0;
    display: grid;
    gap: 2px;
    padding: 4px 2px;
    place-items: center;
  }

  .swatches i {
    width: 100%;
    height: 16px;
    border: 1px solid var(--line);
  }

  .swatches small {
    font-size: 0.78rem;
  }

  .where {
    position: relative;
    display: grid;
    margin: 0;
    min-height: 0;
    border-right: 1.5px solid var(--line);
  }

  figcaption {
    position: absolute;
    inset: auto 6px 6px 34px;
    padding: 3px 6px;
    border-radius: 4px;
    background: var(--panel);
    font-size: 0.82rem;
    line-height: 1.2;
    color: var(--soft);
  }

  @media (max-width: 1000px) {
    .sheet {
      grid-template-columns: 92px minmax(0, 1fr);
      grid-template-rows: auto auto auto;
      align-items: start;
      overflow-y: auto;
    }

    .touches,
    .answer {
      padding: 10px;
      overflow: visible;
      min-height: auto;
    }

    .touches {
      gap: 10px;
    }

    .where {
      grid-column: 1 / -1;
      order: 2;
      height: 300px;
      border-right: 0;
      border-top: 1.5px solid var(--line);
    }

    .answer {
      grid-column: 1 / -1;
      order: 1;
      border-left: 0;
      border-top: 1.5px solid var(--line);
      background: var(--panel);
      z-index: 1;
    }

    /* The answer in short stays in sight while the touches are made. */
    .bar {
      display: block;
      position: sticky;
      bottom: 0;
      order: 3;
      grid-column: 1 / -1;
      padding: 8px 10px;
      border-top: 3px solid var(--pine);
      background: var(--panel);
      line-height: 1.25;
      z-index: 2;
    }

    .swatches {
      flex-wrap: wrap;
    }

    .swatches button {
      flex: 1 0 30%;
    }
  }

  @media (max-width: 360px) {
    .sheet {
      grid-template-columns: 64px minmax(0, 1fr);
    }

    .touches {
      padding: 6px;
    }
  }

  @media (min-width: 1440px) {
    .sheet {
      grid-template-columns: 190px 380px minmax(0, 1fr) minmax(0, 0.85fr);
    }
  }
</style>
