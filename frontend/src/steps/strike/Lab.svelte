<script lang="ts">
  // The cadence lab: patterns of lifts and pauses, your own among them, against a hundred fish of today's mood.
  import Sources from "../../lib/controls/Sources.svelte";
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import { constants, limits } from "../../lib/api/limits";
  import type { Hole, LabFound, Pattern, PatternMove } from "../../lib/api/types";
  import { options, type Species, SPECIES } from "../../lib/controls/options";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length, trim } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import Dialog from "../../lib/overlay/Dialog.svelte";
  import { Wait } from "../../lib/wait.svelte";
  import CadenceShape from "./CadenceShape.svelte";
  import Outcomes from "./Outcomes.svelte";
  import Grip from "./Grip.svelte";

  let { hole }: { hole: Hole } = $props();

  const MOODS = options(limits.LabWanted.mood.choices);
  const LONGEST_S = 20;
  const OWN = "your own";

  let patterns: Pattern[] = $state([]);
  let picked: string[] = $state([]);
  let own = $state<Pattern | null>(null);
  let mood = $state<(typeof MOODS)[number]["value"]>("choosy");
  let species = $state<Species>("whitefish");
  let seed = $state(1);
  let found = $state<LabFound | null>(null);
  const wait = new Wait();
  let trouble = $state("");
  let speed = $state(0);
  let recording = $state(false);
  let moves: PatternMove[] = [];
  let since = 0;
  let began = 0;
  let twitched = false;
  let ticking = $state(0);

  onMount(() => {
    void ok(api.GET("/api/cadence/patterns"))
      .then((answer) => {
        patterns = answer.patterns;
        picked = patterns.slice(0, 5).map((one) => one.key);
      })
      .catch((problem: unknown) => (trouble = words(problem)));
    const ticker = window.setInterval(() => {
      if (!recording) return;
      ticking = (performance.now() - began) / 1000;
      if (ticking >= LONGEST_S) finish();
    }, 100);
    return () => window.clearInterval(ticker);
  });

  const every = $derived(own ? [own, ...patterns] : patterns);
  const ranked = $derived([...(found?.outcomes ?? [])].sort((a, b) => b.share - a.share));
  const wordsOf = (key: string) => every.find((one) => one.key === key)?.words ?? "";
  const verdict = $derived.by(() => {
    const [best, second] = ranked;
    if (!best) return "";
    if (best.took === 0) return "Nothing worked on these fish. Some days are like that.";
    // The same fish saw every pattern: what counts is how many of them took only the one or only the other.
    const level = ranked.slice(1).filter((one) => one.by_chance >= 0.05);
    const name = `${best.pattern[0]!.toUpperCase()}${best.pattern.slice(1)}`;
    if (!second || level.length === 0) return `This mood prefers ${best.pattern}.`;
    return `${name} did best, but these ${best.fish} fish cannot tell it from ${level.map((one) => one.pattern).join(", ")}.`;
  });

  function toggle(key: string) {
    picked = picked.includes(key) ? picked.filter((one) => one !== key) : [...picked, key].slice(-6);
  }

  // A recording is the hand's speeds, each for as long as it was held.
  function close(now: number) {
    const seconds = Math.round((now - since) / 50) / 20;
    if (seconds >= 0.05) moves.push({ seconds: Math.min(seconds, 60), lift_m_s: speed, twitch: twitched });
    since = now;
    twitched = false;
  }

  function lift(to: number) {
    if (to === speed) return;
    if (recording) close(performance.now());
    speed = to;
  }

  function twitch() {
    if (!recording) return;
    close(performance.now());
    twitched = true;
  }

  function begin() {
    moves = [];
    began = since = performance.now();
    speed = 0;
    twitched = false;
    ticking = 0;
    recording = true;
  }

  function finish() {
    close(performance.now());
    recording = false;
    speed = 0;
    const kept = moves.slice(0, 100);
    if (kept.length === 0) return;
    own = {
      key: OWN,
      words: `${trim(ticking, 0)} s of your own hand, repeated`,
      moves: kept,
      start_m: constants.offBottom,
    };
    if (!picked.includes(OWN)) picked = [OWN, ...picked].slice(0, 6);
  }

  /** All together: the same fish see every pattern, so they are compared pair by pair. */
  async function run() {
    trouble = "";
    const patterns = every
      .filter((one) => picked.includes(one.key))
      .map(({ key, moves: asked, start_m }) => ({ key, moves: asked, start_m }));
    try {
      found = await wait.during((headers) =>
        ok(api.POST("/api/cadence", { body: { patterns, mood, species, seed, hole_id: hole.id }, headers })),
      );
    } catch (problem) {
      trouble = words(problem);
    }
  }

  function keydown(event: KeyboardEvent) {
    if (!recording) return;
    if (event.key === "ArrowUp") lift(event.shiftKey ? 0.12 : 0.025);
    else if (event.key === "ArrowDown") lift(event.shiftKey ? -0.08 : -0.6);
    else if (event.key === " " && !event.repeat) twitch();
    else return;
    event.preventDefault();
  }

  function keyup(event: KeyboardEvent) {
    if (recording && event.key === " ") event.preventDefault(); // or it would press the button that has the focus
    if (recording && (event.key === "ArrowUp" || event.key === "ArrowDown")) lift(0);
  }
</script>

<svelte:window onkeydown={keydown} onkeyup={keyup} />

<div class="lab">
  <section aria-label="Patterns">
    <h2>Which cadence does today's fish prefer?</h2>
    <p class="soft">
      Choose up to six patterns, or record your own. Each is shown to the same hundred fish, one by one, at {hole.name}.
    </p>
    <ul class="patterns">
      {#each every as pattern (pattern.key)}
        <li>
          <button aria-pressed={picked.includes(pattern.key)} onclick={() => toggle(pattern.key)}>
            <span><b>{pattern.key}</b><small>{pattern.words}</small></span>
            <CadenceShape moves={pattern.moves} />
          </button>
        </li>
      {/each}
    </ul>
    <div class="own">
      <h3>Your own hand</h3>
      <button onclick={begin}>Record a pattern</button>
      {#if recording}
        <Dialog label="Record a pattern" close={() => (recording = false)}>
          <h2>Show it your cadence</h2>
          <p>
            Push the grip up to lift, pull it down to lower, tap it for a twitch, let go to hold. By keys: Up,
            Down, Shift for the other speed, Space. What you do is repeated from {length(
              constants.offBottom,
              prefs.system,
            )}
            off the bottom.
          </p>
          <div class="record">
            <Grip {speed} {lift} {twitch} />
            <div>
              <p class="figures" role="timer">{trim(ticking, 0)} of {LONGEST_S} s</p>
              <progress max={LONGEST_S} value={ticking} aria-label="Recorded"></progress>
              <button class="primary" onclick={finish}>Stop and keep it</button>
              <button onclick={() => (recording = false)}>Throw it away</button>
            </div>
          </div>
        </Dialog>
      {/if}
    </div>
  </section>
  <section aria-label="Result">
    <div class="ways">
      <label
        >Today's mood
        <select bind:value={mood}>
          {#each MOODS as { value, label } (value)}<option {value}>{label}</option>{/each}
        </select></label
      >
      <label
        >Species
        <select bind:value={species}>
          {#each SPECIES as { value, label } (value)}<option {value}>{label}</option>{/each}
        </select></label
      >
      <label
        >Day
        <input
          type="number"
          min="0"
          max="9999"
          value={seed}
          onchange={(event) =>
            (seed = Math.min(Math.max(Math.round(Number(event.currentTarget.value)) || 0, 0), 9999))}
        /></label
      >
      <button class="primary" disabled={wait.busy || picked.length === 0} onclick={() => void run()}
        >{wait.busy ? "Fishing" : "Fish a hundred"}</button
      >
    </div>
    <Trouble words={trouble} />
    <Waiting {wait} words="A hundred fish, one by one" />
    {#if ranked.length > 0}
      <div class:old={wait.shown}>
        <p role="status" data-testid="verdict"><b>{verdict}</b></p>
        <Outcomes {ranked} {wordsOf} />
        <p class="soft">
          Pale: came to look. Full: took. The line is what the share may really be (95 %). The time is the
          middle one to the bite. That day no fish came above {depth(found!.rise_line_m, prefs.system)}; a
          lure in the face
          {found!.in_the_face > 0.25 ? "drew" : found!.in_the_face < -0.25 ? "drove off" : "hardly moved"} them,
          and pounding {found!.pounding > 0.25
            ? "helped"
            : found!.pounding < -0.25
              ? "hurt"
              : "made no odds"}.
        </p>
      </div>
    {:else if !wait.busy}
      <p class="soft">
        The fish are simulated: their numbers and reasons are in the project's page on behaviour. A day is
        drawn by its number, so the same day can be fished again with another hand.
      </p>
    {/if}
    <Sources of="lab" />
    {#if world.riseLine}
      <p class="soft">Today on the ice, fish came to about {depth(world.riseLine.depth_m, prefs.system)}.</p>
    {/if}
  </section>
</div>

<style>
  section {
    display: grid;
    gap: 8px;
    align-content: start;
  }

  .lab {
    display: grid;
    grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
    gap: 24px;
    align-content: start;
    padding: 14px 16px;
    overflow-y: auto;
    min-height: 0;
  }

  .patterns {
    margin: 8px 0;
    padding: 0;
    list-style: none;
  }

  .patterns button {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 90px;
    gap: 8px;
    align-items: center;
    width: 100%;
    padding: 5px 10px;
    margin-top: 5px;
    text-align: left;
    line-height: 1.2;
  }

  .patterns button[aria-pressed="true"] {
    border: 3px solid var(--pine);
    padding: 3.5px 8.5px;
    background: var(--panel);
    color: var(--ink);
  }

  small {
    display: block;
    font-size: 0.85rem;
    font-weight: 400;
    color: var(--soft);
  }

  .own {
    display: grid;
    gap: 6px;
  }

  h3 {
    font-size: 0.95rem;
  }

  .ways {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(130px, 1fr));
    gap: 8px;
    align-items: end;
  }

  .ways label {
    display: grid;
    min-width: 0;
    font-size: 0.88rem;
    color: var(--soft);
  }

  .ways select,
  .ways input {
    width: 100%;
    min-width: 0;
    color: var(--ink);
    font-size: 1rem;
  }

  .record {
    display: grid;
    grid-template-columns: minmax(120px, 1fr) minmax(0, 1fr);
    gap: 16px;
    margin-top: 12px;
  }

  .record > div {
    display: grid;
    gap: 8px;
    align-content: center;
  }

  .record progress {
    width: 100%;
    height: 12px;
    accent-color: var(--pine);
  }

  @media (max-width: 760px) {
    .lab {
      grid-template-columns: minmax(0, 1fr);
      padding: 10px;
    }
  }
</style>
