<script lang="ts">
  // Your own unit, calibrated with your own jig: lower it, turn gain down until it is gone, note the number; twice or more.
  import { untrack } from "svelte";
  import { api, ok, Problem, words } from "../../lib/api/client";
  import type { CalibrationWanted, Fit, Reading, Revealed, Unit, Water } from "../../lib/api/types";
  import { drafts } from "../../lib/drafts.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { Wait } from "../../lib/wait.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import {
    depthUnit,
    fromDepth,
    fromSmall,
    smallUnit,
    type System,
    toDepth,
    toSmall,
    trim,
  } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import Found from "./Found.svelte";
  import { inUnits, number, type Row, rowOf, whole } from "./readings";
  import Readings from "./Readings.svelte";
  import StandIn from "./StandIn.svelte";

  let { unit, changed }: { unit: Unit; changed: (unit: Unit, said: string) => void } = $props();

  const first = world.usualLure!;
  let water: Water = $state({
    bottom_depth_m: world.hole?.bottom_depth_m ?? 9,
    face_depth_m: world.hole?.face_depth_m ?? 0.45,
    ice_thickness_m: world.hole?.ice_thickness_m ?? 0.35,
    temperature_c: world.hole?.temperature_c ?? 1,
  });
  let rows = $state<Row[]>([]);
  let fit = $state<Fit | null>(null);
  let trouble = $state("");
  const wait = new Wait();
  let refused = $state<Record<string, string>>({});
  let applied = $state<string | null>(null);
  let practising = $state(false);
  // As on the Bench, the address may carry ?seed=N, to meet the same stand-in again.
  const given = Number(new URLSearchParams(location.search).get("seed") ?? Number.NaN);
  let seed = $state(Number.isSafeInteger(given) && given >= 0 ? given : Math.floor(Math.random() * 1e6));
  let revealed = $state<Revealed | null>(null);
  let asked = 0;

  const steps = $derived(unit.ladders[0]!.steps);
  const told = $derived(rows.filter(whole));
  const wanted = $derived<CalibrationWanted>({
    water: { ...water },
    readings: told.map((row): Reading => ({
      lure_id: Number(row.lure),
      depth_m: row.exact ?? fromDepth(number(row.depth), prefs.system),
      gain: number(row.gain),
      colour: Number(row.colour),
      beam: 0,
      power: unit.powers_w.indexOf(Math.max(...unit.powers_w)),
      pulse: 0,
    })),
  });
  const judged = $derived(new Map(told.map((row, i) => [row, fit?.judged[i] ?? null])));

  $effect(() => {
    void ok(api.GET("/api/units/{unit_id}/calibration", { params: { path: { unit_id: unit.id } } })).then(
      (kept) => {
        applied = kept.applied_at;
        if (restore()) return;
        if (!kept.wanted) {
          if (rows.length === 0) rows = [blank(), blank()];
          return;
        }
        water = kept.wanted.water;
        rows = kept.wanted.readings.map((one) => rowOf(one, prefs.system));
      },
    );
  });

  // The fit follows the readings as they are typed.
  $effect(() => {
    const now = wanted;
    if (now.readings.length === 0) {
      fit = null;
      trouble = "";
      return;
    }
    const mine = ++asked;
    const waiting = window.setTimeout(() => {
      wait
        .during((headers) =>
          ok(
            api.POST("/api/units/{unit_id}/calibration/fit", {
              params: { path: { unit_id: unit.id } },
              body: now,
              headers,
            }),
          ),
        )
        .then((found) => {
          if (mine !== asked) return;
          fit = found;
          trouble = "";
          refused = {};
        })
        .catch((problem: unknown) => {
          if (mine !== asked) return;
          fit = null;
          trouble = words(problem);
          refused = problem instanceof Problem ? problem.fields : {};
        });
    }, 300);
    return () => window.clearTimeout(waiting);
  });

  // What is typed is kept until it is used, through whatever leaves the page.
  interface Draft {
    water: Water;
    rows: Row[];
    system: System;
  }
  const draftKey = $derived(`calibrate ${unit.id}`);
  let system = prefs.system;

  function restore(): boolean {
    const kept = drafts.get<Draft>(draftKey);
    if (!kept) return false;
    water = kept.water;
    rows = inUnits(kept.rows, kept.system, prefs.system);
    return true;
  }

  $effect(() => {
    const to = prefs.system;
    if (to === system) return;
    untrack(() => (rows = inUnits($state.snapshot(rows), system, to)));
    system = to;
  });

  $effect(() => {
    const draft: Draft = { water: $state.snapshot(water), rows: $state.snapshot(rows), system: prefs.system };
    if (rows.some((row) => row.depth !== "" || row.gain !== "")) untrack(() => drafts.keep(draftKey, draft));
  });

  function blank(): Row {
    const last = rows.at(-1);
    return { lure: last?.lure ?? String(first.id), depth: "", gain: "", colour: "0", exact: null };
  }

  function note(reading: Reading) {
    rows = [...rows.filter(whole), rowOf(reading, prefs.system)];
  }

  async function use() {
    try {
      const made = await ok(
        api.PUT("/api/units/{unit_id}/calibration", { params: { path: { unit_id: unit.id } }, body: wanted }),
      );
      applied = new Date().toISOString();
      drafts.keep(draftKey, null);
      changed(made, `${made.name} is calibrated: card, Bench and coach now speak in its own numbers.`);
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function back() {
    try {
      const made = await ok(
        api.DELETE("/api/units/{unit_id}/calibration", { params: { path: { unit_id: unit.id } } }),
      );
      applied = null;
      drafts.keep(draftKey, null);
      changed(made, `${made.name} is back to its profile.`);
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function reveal() {
    revealed = await ok(
      api.POST("/api/units/{unit_id}/stand-in/reveal", {
        params: { path: { unit_id: unit.id } },
        body: { seed },
      }),
    );
  }
</script>

<section class="calibrate" aria-label="Calibrate {unit.name}">
  <h2>{unit.name}: calibrate it with a jig</h2>
  <ol class="how">
    <li>Hang a lure whose form and size you know straight under the transducer, fish away, in open water.</li>
    <li>Full power, first beam, normal pulse; time-varied gain, rejection, filter and blanking off.</li>
    <li>Turn gain down until its mark is gone in half of the pings. Note depth and gain, to half a step.</li>
    <li>Again at a depth well above or below. Two readings do; four are good.</li>
  </ol>
  {#if applied}
    <p class="applied">
      In use: calibrated from {unit.calibrated?.readings ?? 0} readings.
      <button onclick={back}>Go back to the profile</button>
    </p>
  {/if}
  <div class="water">
    <label
      >Water, {depthUnit(prefs.system)}
      <input
        inputmode="decimal"
        value={trim(toDepth(water.bottom_depth_m, prefs.system), 1)}
        onchange={(event) => {
          const m = fromDepth(number(event.currentTarget.value), prefs.system);
          if (Number.isFinite(m)) water.bottom_depth_m = m;
        }}
      /></label
    >
    <label
      >Face down, {smallUnit(prefs.system)}
      <input
        inputmode="decimal"
        value={trim(toSmall(water.face_depth_m, prefs.system), 1)}
        onchange={(event) => {
          const m = fromSmall(number(event.currentTarget.value), prefs.system);
          if (Number.isFinite(m)) water.face_depth_m = m;
        }}
      /></label
    >
    <button aria-pressed={practising} onclick={() => (practising = !practising)}
      >{practising ? "Put the stand-in away" : "Practise on a stand-in"}</button
    >
  </div>
  {#if practising}
    <StandIn {unit} {water} {seed} {note} lureId={Number(rows.at(-1)?.lure ?? first.id)} />
    <div class="water">
      <button
        onclick={() => {
          seed = Math.floor(Math.random() * 1e6);
          revealed = null;
          rows = [blank()];
        }}>Another stand-in</button
      >
      <button onclick={reveal}>Reveal its hidden numbers</button>
      {#if revealed}
        <p class="figures" data-testid="revealed">
          first colour {trim(revealed.first_colour_db, 1)} dB, {trim(revealed.db_per_step, 3)} dB a step
        </p>
      {/if}
    </div>
  {/if}
  <Readings bind:rows {judged} {steps} />
  <button onclick={() => (rows = [...rows, blank()])}>Add a reading</button>
  {#if trouble}
    <ul class="trouble" role="alert">
      {#each Object.keys(refused).length > 0 ? Object.values(refused) : [trouble] as one, i (i)}<li>
          {one}
        </li>{/each}
    </ul>
  {/if}
  <Waiting {wait} words="Fitting the readings" />
  {#if fit}
    <div class:old={wait.shown}>
      <Found found={fit} {unit} gains={wanted.readings.map((one) => one.gain)} {use} />
    </div>
  {/if}
</section>

<style>
  .calibrate {
    display: grid;
    gap: 12px;
    min-width: 0;
  }

  .how {
    margin: 0;
    padding-left: 22px;
    line-height: 1.35;
  }

  .applied,
  .water {
    display: flex;
    flex-wrap: wrap;
    gap: 10px 14px;
    align-items: end;
  }

  .applied {
    align-items: center;
    padding: 6px 12px;
    border-left: 6px solid var(--pine);
    background: var(--panel);
  }

  .water label {
    display: grid;
    font-weight: 600;
    font-size: 0.92rem;
  }

  .water input {
    width: 120px;
  }

  .trouble {
    margin: 0;
    padding: 6px 12px 6px 28px;
    border-left: 6px solid var(--stop);
    background: var(--panel);
    color: var(--stop);
    font-weight: 600;
  }
</style>
