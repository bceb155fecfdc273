<script lang="ts">
  // The hole card: settings for this hole in the unit's own numbers, sharper with all that is known, and why.
  import { api, ok, Problem, words as wordsOf } from "../../lib/api/client";
  import Sources from "../../lib/controls/Sources.svelte";
  import type { CardWanted, Hole, HoleCard, KeptCard, Said } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import { latest } from "../../lib/latest";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { Wait } from "../../lib/wait.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence, trim } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Acts from "./Acts.svelte";
  import Known from "./Known.svelte";
  import Cautions from "./Cautions.svelte";
  import Changes from "./Changes.svelte";
  import Checks from "./Checks.svelte";
  import { differing, numberLines, settingLines } from "./lines";
  import SettingsToHold from "./SettingsToHold.svelte";
  import WorkedHere from "./WorkedHere.svelte";
  import Rows from "./Rows.svelte";
  import Rules from "./Rules.svelte";
  import Schools from "./Schools.svelte";
  import Translate from "./Translate.svelte";

  let { hole }: { hole: Hole } = $props();

  let kept = $state<KeptCard | null>(null);
  let wanted = $state<CardWanted | null>(null);
  let refused: Record<string, string> = $state({});
  let trouble = $state("");
  const wait = new Wait();
  let side: "card" | "known" = $state("card");
  /** What each line said before the last change, for the lines that changed. */
  let before: Record<string, string> = $state({});
  let waiting: number | undefined;

  const card = $derived(kept?.card ?? null);
  const words = $derived(card ? card.unit.ladders[card.settings.ladder]!.steps.map((one) => one.name) : []);
  const numbers = $derived(card ? numberLines(card, prefs.system) : []);
  const linesOf = (one: HoleCard) => [...settingLines(one, prefs.system), ...numberLines(one, prefs.system)];
  const write = (one: Said) => sentence(one.text, one.values, prefs.system, words);

  // An answer that comes after a later question is of another hole, or of less that is known.
  const asks = latest((answer: Promise<KeptCard>) => answer);

  $effect(() => {
    const hole_id = hole.id;
    void wait
      .during((headers) =>
        asks(ok(api.GET("/api/holes/{hole_id}/card", { params: { path: { hole_id } }, headers }))),
      )
      .then((found) => {
        if (!found) return;
        kept = found;
        wanted = found.wanted;
        before = {};
        trouble = "";
      })
      .catch(failed);
    return () => window.clearTimeout(waiting);
  });

  // The bore shows what the card says: where face and lure hang, and the water that is magnified.
  $effect(() => {
    if (!card || !wanted) return;
    const { settings, numbers: n } = card;
    const view = card.views.find((one) => one.view === wanted!.view);
    world.lureDepth = card.lure_depth_m;
    world.section = {
      bottom_depth_m: n.true_depth_m,
      bottom_kind: wanted.bottom_kind ?? "mud",
      ice_thickness_m: card.face_depth_m - card.below_ice_m,
      face_depth_m: card.face_depth_m,
    };
    world.window =
      view && (settings.bottom_window_m > 0 || settings.free_window_m > 0)
        ? { top: view.top_m + card.face_depth_m, bottom: view.bottom_m + card.face_depth_m }
        : null;
    return () => {
      world.lureDepth = null;
      world.section = null;
      world.window = null;
    };
  });

  function failed(problem: unknown) {
    trouble = wordsOf(problem);
    refused = problem instanceof Problem ? problem.fields : {};
  }

  /** Something more is known: a moment after the last stroke the card is made anew, and what changed is marked. */
  function change(now: CardWanted, wait = 250) {
    wanted = now;
    window.clearTimeout(waiting);
    waiting = window.setTimeout(() => void make(now), wait);
  }

  async function make(now: CardWanted) {
    try {
      const params = { path: { hole_id: hole.id } };
      const made = await wait.during((headers) =>
        asks(ok(api.PUT("/api/holes/{hole_id}/card", { params, body: now, headers }))),
      );
      if (!made) return;
      before = card ? differing(linesOf(card), linesOf(made.card)) : {};
      kept = made;
      trouble = "";
      refused = {};
    } catch (problem) {
      failed(problem);
    }
  }

  async function tick(name: string, done: boolean) {
    const check = kept?.card.checks.find((one) => one.name === name);
    if (!check) return;
    check.done = done;
    try {
      await ok(
        api.PUT("/api/holes/{hole_id}/checks", {
          params: { path: { hole_id: hole.id } },
          body: { name, done },
        }),
      );
    } catch (problem) {
      check.done = !done;
      failed(problem);
    }
  }

  const calibrated = (made: HoleCard) => made.unit.calibrated;
</script>

<div class="card" class:known-side={side === "known"}>
  <div class="sides">
    <Choice
      name="Side"
      options={[
        { value: "card", label: "The card" },
        { value: "known", label: "What you know" },
      ]}
      value={side}
      choose={(to) => (side = to)}
    />
  </div>
  <div class="inputs">
    {#if wanted}
      {#key hole.id}<Known hole_id={hole.id} {wanted} {refused} {change} />{/key}
    {/if}
  </div>
  <div class="out" data-testid="card">
    <Trouble words={trouble} />
    <div class="waits"><Waiting {wait} words="Making the card" /></div>
    <div class="sheet" class:old={wait.shown} aria-busy={wait.shown}>
      {#if card && wanted}
        {@const made = card}
        <h1>{hole.name}<span class="unit">{made.unit.name}</span></h1>
        <Acts {hole} {made} lureId={wanted.lure_id ?? null} />
        <p class="source">
          {#if calibrated(made)}
            Calibrated from {calibrated(made)!.readings} readings: the lure's floor is sure to ±{trim(
              2 * made.gains.floor_sd,
              1,
            )}, the water's ceiling to ±{trim(2 * made.gains.ceiling_sd, 1)}.
          {:else}
            In the profile's numbers. Calibrate the unit with a jig under Gear, and they are your own.
          {/if}
          {#each made.notes as note, i (i)}{write(note)}{/each}
        </p>
        <div class="choices">
          <Choice
            name="School"
            options={[
              { value: "lean", label: "Lean" },
              { value: "rich", label: "Rich" },
            ]}
            value={wanted.school}
            choose={(school) => change({ ...wanted!, school }, 0)}
          />
          <Choice
            name="View"
            options={[
              { value: "full", label: "Full column" },
              { value: "window", label: "Window" },
            ]}
            value={wanted.view}
            choose={(view) => change({ ...wanted!, view }, 0)}
          />
        </div>
        <SettingsToHold {made} {before} {write} />
        <WorkedHere holeId={hole.id} unitId={made.unit.id} gain={made.settings.gain} />
        {#if kept?.from_hole}
          <Changes {made} from={kept.from_hole} changes={kept.changes} />
        {/if}
        <Checks checks={made.checks} {tick} {write} />
        <section aria-label="The numbers behind">
          <h2>The numbers behind</h2>
          <Rows lines={numbers} {before} />
        </section>
        <Schools {made} {words} />
        <Rules {made} {write} />
        <Translate {made} {wanted} {write} />
        <Cautions {made} {write} />
        <Sources of="card" />
        <p class="print-only">
          Depth {depth(made.numbers.true_depth_m, prefs.system)}. Made by Hollow Glint for {hole.name}.
        </p>
      {/if}
    </div>
  </div>
</div>

<style>
  .card {
    display: grid;
    grid-template-columns: 340px minmax(0, 1fr);
    min-height: 0;
  }

  .sides {
    display: none;
  }

  .inputs {
    padding: 14px 16px;
    border-right: 1.5px solid var(--line);
    overflow-y: auto;
    min-height: 0;
  }

  .out {
    padding: 14px 22px 24px;
    overflow-y: auto;
    min-height: 0;
  }

  /* Over the card and not above it, or it would jump under the finger. */
  .waits {
    position: sticky;
    top: -14px;
    z-index: 1;
    height: 0;
  }

  .waits > :global(.waiting) {
    padding: 4px 12px;
    border-radius: 6px;
    background: var(--panel);
  }

  .sheet {
    columns: 2 340px;
    column-gap: 28px;
  }

  .sheet > :global(*) {
    break-inside: avoid;
    margin-bottom: 14px;
  }

  h1,
  .source,
  .choices,
  .sheet > :global(.settings) {
    column-span: all;
  }

  h1 .unit {
    margin-left: 12px;
    font-size: 1rem;
    font-weight: 400;
    color: var(--soft);
  }

  .choices {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }

  .choices :global(.choice) {
    flex: 1 1 220px;
    max-width: 340px;
  }

  .source {
    font-size: 0.92rem;
    color: var(--soft);
  }

  .print-only {
    display: none;
  }

  @media (max-width: 760px) {
    .card {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: auto minmax(0, 1fr);
    }

    .sides {
      display: block;
      padding: 6px 10px;
    }

    .inputs {
      display: none;
      border-right: 0;
    }

    .known-side .inputs {
      display: block;
    }

    .known-side .out {
      display: none;
    }

    .out {
      padding: 6px 12px 20px;
    }

    /* Settings first, at arm's length; what is done with the card after them. */
    .sheet {
      display: flex;
      flex-direction: column;
      columns: auto;
    }

    .sheet > :global(*) {
      order: 1;
    }

    .sheet > h1,
    .sheet > :global(.settings) {
      order: 0;
    }
  }

  /* One page, black on white. */
  @media print {
    .inputs,
    .sides,
    .choices {
      display: none;
    }

    .card {
      display: block;
    }

    .out {
      overflow: visible;
      padding: 0;
      font-size: 8pt;
      line-height: 1.25;
    }

    .sheet {
      display: block;
      columns: 2;
      column-gap: 16pt;
    }

    .sheet > :global(*) {
      margin-bottom: 5pt;
    }

    .sheet > :global(section:not(.schools)) {
      break-inside: auto;
    }

    h1 {
      font-size: 14pt;
    }

    .sheet :global(h2) {
      font-size: 9.5pt;
      break-after: avoid;
    }

    .source {
      font-size: 7pt;
      line-height: 1.15;
    }

    .print-only {
      display: block;
      font-size: 7pt;
    }
  }

  @media screen and (min-width: 1440px) {
    .card {
      grid-template-columns: 420px minmax(0, 1fr);
    }
  }

  @media screen and (min-width: 1800px) {
    .sheet {
      columns: 3 340px;
    }
  }
</style>
