<script lang="ts">
  // The hole card: settings for this hole in the unit's own numbers, sharper with all that is known, and why.
  import { api, ok, Problem, words as wordsOf } from "../../lib/api/client";
  import type { CardWanted, Hole, HoleCard, KeptCard, Said } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence, trim } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import GainBand from "./GainBand.svelte";
  import { NAMES } from "./known";
  import Known from "./Known.svelte";
  import Cautions from "./Cautions.svelte";
  import Changes from "./Changes.svelte";
  import Checks from "./Checks.svelte";
  import { numberLines, settingLines, textMessage } from "./lines";
  import Rows from "./Rows.svelte";
  import Rules from "./Rules.svelte";
  import Schools from "./Schools.svelte";
  import Translate from "./Translate.svelte";

  let { hole }: { hole: Hole } = $props();

  let kept = $state<KeptCard | null>(null);
  let wanted = $state<CardWanted | null>(null);
  let refused: Record<string, string> = $state({});
  let trouble = $state("");
  let said = $state("");
  let side: "card" | "known" = $state("card");
  /** What each line said before the last change, for the lines that changed. */
  let before: Record<string, string> = $state({});
  let waiting: number | undefined;
  let asked = 0;

  const card = $derived(kept?.card ?? null);
  const words = $derived(card ? card.unit.ladders[card.settings.ladder]!.steps.map((one) => one.name) : []);
  const lines = $derived(card ? settingLines(card, prefs.system) : []);
  const numbers = $derived(card ? numberLines(card, prefs.system) : []);
  const write = (one: Said) => sentence(one.text, one.values, prefs.system, words);

  $effect(() => {
    const id = hole.id;
    void ok(api.GET("/api/holes/{hole_id}/card", { params: { path: { hole_id: id } } }))
      .then((found) => {
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
    const mine = ++asked;
    try {
      const made = await ok(
        api.PUT("/api/holes/{hole_id}/card", { params: { path: { hole_id: hole.id } }, body: now }),
      );
      if (mine !== asked) return;
      const was = Object.fromEntries([...lines, ...numbers].map((one) => [one.key, one]));
      kept = made;
      const is = [...settingLines(made.card, prefs.system), ...numberLines(made.card, prefs.system)];
      before = Object.fromEntries(
        is
          .filter(({ key, value, does }) => was[key] && (was[key].value !== value || was[key].does !== does))
          .map(({ key, value }) => [key, was[key]!.value === value ? "" : was[key]!.value]),
      );
      trouble = "";
      refused = {};
    } catch (problem) {
      if (mine === asked) failed(problem);
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

  async function copy(made: HoleCard) {
    const text = textMessage(made, hole.name, prefs.system);
    try {
      await navigator.clipboard.writeText(text);
      said = `Copied: ${text}`;
    } catch {
      said = text; // no clipboard here: the text can still be marked and copied
    }
  }

  function onBench(made: HoleCard) {
    world.trial = {
      unit_id: made.unit.id,
      lure_id: wanted?.lure_id ?? null,
      settings: made.settings,
      lure_depth_m: made.lure_depth_m,
    };
    world.go("bench");
  }

  const calibrated = (made: HoleCard) => made.unit.calibrated;
</script>

<main class="card" class:known-side={side === "known"}>
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
      {#key hole.id}<Known {wanted} {refused} {change} />{/key}
    {/if}
  </div>
  <div class="out" data-testid="card">
    {#if trouble}<p class="trouble" role="alert">{trouble}</p>{/if}
    <div class="sheet">
      {#if card && wanted}
        {@const made = card}
        <h1>{hole.name}<span class="unit">{made.unit.name}</span></h1>
        <div class="acts">
          <button onclick={() => window.print()}>Print</button>
          <button onclick={() => copy(made)}>Text message</button>
          <a class="button" href="/api/holes/{hole.id}/card/file" download>JSON</a>
          <button class="primary" onclick={() => onBench(made)}>Try it on the Bench</button>
        </div>
        <p class="said" role="status">{said}</p>
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
        <section class="settings" aria-label="Settings">
          <Rows {lines} {before} wide />
          <GainBand unit={made.unit} gain={made.settings.gain} gains={made.gains} />
          {#if !made.gains.open}
            <p class="closed">
              No setting shows this lure in quiet water here{made.gains.width_db !== null &&
              made.gains.width_db < 0
                ? `: the window is closed by ${trim(-made.gains.width_db, 1)} dB`
                : ": the window is narrower than one step of the knob"}. The gain above is the least that
              shows the lure.
            </p>
            {#if made.remedies.length > 0}
              <ol class="openings lines" aria-label="What would open the window">
                {#each made.remedies as one, i (i)}
                  <li>
                    <b class="figures">+{trim(one.gain_db, 1)} dB</b>
                    {write(one.what)}{one.opens ? ": opens it" : ""}
                  </li>
                {/each}
              </ol>
            {/if}
          {/if}
          {#if world.riseLine && !world.riseOfRun}
            <p data-testid="rise-line">
              Rise line today: about <b class="figures">{depth(world.riseLine.depth_m, prefs.system)}</b>,
              between
              {depth(world.riseLine.low_m, prefs.system)} and {depth(world.riseLine.high_m, prefs.system)},
              from {world.riseLine.fish} fish. Lifting beyond it loses them.
            </p>
          {/if}
          {#if made.unknowns.some((one) => one.cost_db > 0.5)}
            <p class="unknown" data-testid="unknown">
              Not known, and it may cost most: {made.unknowns
                .filter((one) => one.cost_db > 0.5)
                .map((one) => `${NAMES[one.name]} (${trim(one.cost_db, 0)} dB; taken as ${one.assumed})`)
                .join(", ")}.
              {made.gains.firm
                ? "The gain is chosen to hold whatever they turn out to be."
                : "No one gain holds whatever they turn out to be."}
            </p>
          {/if}
        </section>
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
        <p class="print-only">
          Depth {depth(made.numbers.true_depth_m, prefs.system)}. Made by Hollow Glint for {hole.name}.
        </p>
      {:else if !trouble}
        <p>Making the card.</p>
      {/if}
    </div>
  </div>
</main>

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

  .sheet {
    columns: 2 340px;
    column-gap: 28px;
  }

  .sheet > :global(*) {
    break-inside: avoid;
    margin-bottom: 14px;
  }

  h1,
  .acts,
  .said,
  .source,
  .choices,
  .settings {
    column-span: all;
  }

  h1 .unit {
    margin-left: 12px;
    font-size: 1rem;
    font-weight: 400;
    color: var(--soft);
  }

  .acts,
  .choices {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }

  .choices :global(.choice) {
    flex: 1 1 220px;
    max-width: 340px;
  }

  .said {
    user-select: all;
  }

  .said:empty {
    display: none;
  }

  .source,
  .unknown {
    font-size: 0.92rem;
    color: var(--soft);
  }

  .trouble {
    padding: 8px 12px;
    border-left: 6px solid var(--stop);
    background: var(--panel);
    color: var(--stop);
    font-weight: 600;
  }

  .closed {
    margin-top: 8px;
    padding: 8px 12px;
    border-left: 6px solid var(--action);
    background: var(--panel);
    font-weight: 600;
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
    .sheet > .settings {
      order: 0;
    }
  }

  /* One page, black on white. */
  @media print {
    .inputs,
    .sides,
    .acts,
    .choices,
    .said,
    .trouble {
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

    .source,
    .unknown {
      font-size: 7pt;
      line-height: 1.15;
    }

    .closed {
      padding: 3pt 5pt;
      border: 1pt solid;
      background: none;
      font-size: 7.2pt;
    }

    .print-only {
      display: block;
      font-size: 7pt;
    }
  }
</style>
