<script lang="ts">
  // The first page of an empty data folder: what this is, and three ways in.
  import { api, ok, words } from "../../lib/api/client";
  import Choice from "../../lib/controls/Choice.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import type { Hole } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { world } from "../../lib/world.svelte";
  import { fromForm, MADE_UP_HOLE, NEW_HOLE, toForm } from "./fields";
  import NumberField from "../../lib/controls/NumberField.svelte";
  import { depthUnit } from "../../lib/units";

  let { whole }: { whole: () => void } = $props();

  let depth = $state("");
  let problem = $state("");
  let trouble = $state("");
  let busy = $state(false);

  async function add(hole: Hole, to: "card" | "bench", typed?: string) {
    const form = toForm(hole, prefs.system);
    if (typed !== undefined) form.numbers.bottom_depth_m = typed;
    const { fields, problems } = fromForm(form, prefs.system, hole);
    problem = problems["bottom_depth_m"] ?? problems["ice_thickness_m"] ?? problems["face_depth_m"] ?? "";
    if (problem) return document.getElementById("first-depth")?.focus();
    busy = true;
    trouble = "";
    try {
      const kept = await ok(api.POST("/api/holes", { body: fields }));
      world.holes = [kept];
      world.go(to, kept.id);
    } catch (refused) {
      trouble = words(refused);
    } finally {
      busy = false;
    }
  }

  function card(event: SubmitEvent) {
    event.preventDefault();
    void add({ ...NEW_HOLE, name: "First hole" }, "card", depth);
  }
</script>

<main class="welcome">
  <h1>Hollow Glint</h1>
  <p class="what">
    The bench, card and trainer for a flasher or ice sonar. It works out which range and gain show your lure
    in your hole, draws what the sonar hears beside what is really there, and trains the eye and hand at home.
  </p>
  <Trouble words={trouble} />
  <div class="ways">
    <form onsubmit={card} novalidate>
      <svg viewBox="0 0 120 70" aria-hidden="true">
        <rect class="paper" x="34" y="4" width="52" height="62" rx="4" />
        <path class="ink" d="M42 16h36M42 42h36M42 50h28M42 58h32" />
        <rect class="band" x="42" y="24" width="36" height="9" rx="2" />
        <path class="mark" d="M58 21v15" />
      </svg>
      <h2>I stand at a hole</h2>
      <p>Type how deep it is. The card says how to set the unit, and why; more that you know sharpens it.</p>
      <NumberField
        id="first-depth"
        name="Depth"
        unit={depthUnit(prefs.system)}
        bind:value={depth}
        step="0.1"
        hint="From the water's surface in the hole to the bottom."
        problem={problem || undefined}
      />
      <Choice
        name="Units"
        options={[
          { value: "feet", label: "Feet" },
          { value: "metric", label: "Metres" },
        ]}
        value={prefs.system}
        choose={(to) => prefs.setSystem(to)}
      />
      <button class="primary" disabled={busy}>Make the card</button>
    </form>
    <section>
      <svg viewBox="0 0 120 70" aria-hidden="true">
        <path class="cone" d="M60 8 32 62h56z" />
        <path class="ink" d="M60 8v36M14 62h92" />
        <path class="fish" d="M66 50q9-8 18 0q-9 8-18 0l-6 5v-10z" />
        <circle class="mark-dot" cx="60" cy="46" r="3" />
      </svg>
      <h2>I want to try it</h2>
      <p>
        A made-up hole with water, fish and a lure in it. Turn the knobs, lift the lure, set the hook, and see
        what is really down there.
      </p>
      <button class="primary" disabled={busy} onclick={() => void add(MADE_UP_HOLE, "bench")}
        >Play with a made-up hole</button
      >
    </section>
    <section>
      <svg viewBox="0 0 120 70" aria-hidden="true">
        <circle class="paper" cx="60" cy="36" r="26" />
        <path class="ink" d="M60 36 76 22M41 55l4-4M34 36h6M41 17l4 4M60 10v6" />
        <circle class="mark-dot" cx="60" cy="36" r="5" />
      </svg>
      <h2>I have a unit</h2>
      <p>
        Six questions about its knobs, and everything here speaks in its own numbers. A jig you know
        calibrates it later.
      </p>
      <a class="button primary" href="#/hole/0/gear">Set up my unit</a>
    </section>
  </div>
  <p class="soft">
    What you write stays in your own data folder: nothing is sent anywhere. <button onclick={whole}
      >Write a hole down in full</button
    >
  </p>
  <p class="soft">
    No ice is safe ice. Measure as you go, tell someone where you are; local authorities and local rules
    decide.
  </p>
</main>

<style>
  .welcome {
    display: grid;
    align-content: start;
    gap: 16px;
    padding: 24px clamp(12px, 4vw, 48px);
    max-width: 1240px;
    margin: 0 auto;
    overflow-y: auto;
    min-height: 0;
    grid-column: 1 / -1;
  }

  .what {
    max-width: 70ch;
    font-size: 1.08rem;
  }

  .ways {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(min(260px, 100%), 1fr));
    gap: 16px;
  }

  form,
  section {
    display: flex;
    flex-direction: column;
    gap: 10px;
    padding: 16px;
    border: 1.5px solid var(--line);
    border-radius: 8px;
    background: var(--panel);
  }

  .ways .primary {
    margin-top: auto;
    text-align: center;
  }

  svg {
    align-self: center;
    width: 120px;
    height: 70px;
  }

  .paper {
    fill: var(--ground);
    stroke: var(--ink);
    stroke-width: 2;
  }

  .ink {
    fill: none;
    stroke: var(--ink);
    stroke-width: 2;
    stroke-linecap: round;
  }

  .band {
    fill: var(--band);
  }

  .mark {
    stroke: var(--action);
    stroke-width: 4;
  }

  .mark-dot {
    fill: var(--action);
  }

  .cone {
    fill: var(--water);
    stroke: var(--pine);
    stroke-width: 2;
  }

  .fish {
    fill: var(--ink);
  }

  .soft {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 10px;
  }
</style>
