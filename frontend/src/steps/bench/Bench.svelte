<script lang="ts">
  // The Bench: truth beside echo on one depth axis, the knobs that answer, and a coach that says one thing at a time.
  import { onMount, untrack } from "svelte";
  import type { Hole } from "../../lib/api/types";
  import GainControl from "../../lib/controls/GainControl.svelte";
  import { BenchStream } from "../../lib/live/stream.svelte";
  import Picture from "../../lib/picture/Picture.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { small } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import Coach from "./Coach.svelte";
  import Hand from "./Hand.svelte";
  import { LIFT_FAST, LIFT_SLOW, LOWER, told } from "./hand";
  import { belongsToControl, KEYS } from "./keys";
  import RangeControl from "./RangeControl.svelte";

  let { hole }: { hole: Hole } = $props();

  const FISH_LENGTHS = [0.15, 0.3, 0.5];
  let unitId = $state(world.units[0]!.id);
  let lureId = $state((world.lures.find((one) => one.diameter_m >= 0.005) ?? world.lures[0]!).id);
  let fishLength = $state(0.3);
  let truth = $state(true);
  let help = $state(false);
  let said: string | null = $state(null);
  let lifting = $state(0);
  let stream: BenchStream | null = $state(null);
  let silence: number | undefined;

  const lure = $derived(world.lures.find((one) => one.id === lureId)!);

  // A new hole, unit or lure is a new bench. The address may carry ?seed=N, to see the same water and fish again.
  $effect(() => {
    const wanted = {
      hole_id: hole.id,
      unit_id: unitId,
      lure_id: lureId,
      fish_length_m: untrack(() => fishLength),
    };
    const seed = Number(new URLSearchParams(location.search).get("seed") ?? Number.NaN);
    const made = new BenchStream(wanted, Number.isSafeInteger(seed) && seed >= 0 ? seed : null);
    stream = made;
    said = null;
    const stop = made.onEvent((event) => {
      const text = told(event, prefs.system);
      if (text) {
        said = text;
        window.clearTimeout(silence);
        silence = window.setTimeout(() => (said = null), 5000);
      }
      if (event.kind === "hooked") void world.loadStrikes();
    });
    void made.start();
    return () => {
      stop();
      made.close();
      window.clearTimeout(silence);
      world.lureDepth = null;
      world.window = null;
    };
  });

  // The bore shows what the Bench shows: the lure, and a bracket round the water that is magnified.
  $effect(() => {
    world.lureDepth = stream?.lureDepth ?? null;
    const zoomed = stream?.settings && stream.settings.bottom_window_m > 0;
    world.window =
      zoomed && stream
        ? { top: stream.top + hole.face_depth_m, bottom: stream.bottom + hole.face_depth_m }
        : null;
  });

  function lift(speed: number) {
    if (lifting === speed) return;
    lifting = speed;
    stream?.send({ lift_m_s: speed });
  }

  function look(eyes: "sonar" | "rod") {
    if (stream && stream.eyes !== eyes) stream.send({ eyes });
  }

  function nextWindow() {
    const bench = stream?.bench;
    const settings = stream?.settings;
    if (!bench || !settings) return;
    const windows = [0, ...bench.unit.bottom_windows_m];
    const at = windows.findIndex((one) => Math.abs(one - settings.bottom_window_m) < 1e-3);
    stream!.turn({ bottom_window_m: windows[(at + 1) % windows.length]! });
  }

  function gainStep(direction: 1 | -1) {
    const bench = stream?.bench;
    const settings = stream?.settings;
    if (!bench || !settings) return;
    const { minimum, maximum, step } = bench.unit.gain;
    stream!.turn({ gain: Math.min(Math.max(settings.gain + direction * step, minimum), maximum) });
  }

  function keydown(event: KeyboardEvent) {
    if (belongsToControl(event) || !stream) return;
    if (event.key === "ArrowUp") lift(event.shiftKey ? LIFT_FAST : LIFT_SLOW);
    else if (event.key === "ArrowDown") lift(LOWER);
    else if (event.key === "r" || event.key === "R") look("rod");
    else if (event.key === "g") gainStep(1);
    else if (event.key === "G") gainStep(-1);
    else if (event.repeat) return;
    else if (event.key === " ") stream.send({ twitch: true });
    else if (event.key === "Enter") stream.send({ set_hook: true });
    else if (event.key === "z" || event.key === "Z") nextWindow();
    else if (event.key === "t" || event.key === "T") truth = !truth;
    else if (event.key === "?") help = !help;
    else if (event.key === "Escape") help = false;
    else return;
    event.preventDefault();
  }

  function keyup(event: KeyboardEvent) {
    if (event.key === "ArrowUp" || event.key === "ArrowDown") lift(0);
    else if (event.key === "r" || event.key === "R") look("sonar");
  }

  // A key or button still held when the window loses the focus is never let go: do it here.
  onMount(() => {
    const letGo = () => lift(0);
    window.addEventListener("blur", letGo);
    return () => window.removeEventListener("blur", letGo);
  });
</script>

<svelte:window onkeydown={keydown} onkeyup={keyup} />

<main class="bench" class:on-rod={stream?.eyes === "rod"}>
  <h1 class="unseen">Bench: {hole.name}</h1>
  <div class="view">
    {#if stream?.bench}
      {#key stream.bench.id}
        <Picture bench={stream.bench} {stream} {truth} />
      {/key}
    {:else}
      <p class="waiting">{stream?.message || "Lowering the transducer."}</p>
    {/if}
    {#if stream?.bench && stream.message}
      <p class="link" role="alert">{stream.message}</p>
    {/if}
    {#if help}
      <div class="help" role="dialog" aria-label="Keys">
        <h2>Keys</h2>
        <dl>
          {#each KEYS as key (key.keys)}
            <dt class="figures">{key.keys}</dt>
            <dd>{key.does}</dd>
          {/each}
        </dl>
        <button onclick={() => (help = false)}>Close</button>
      </div>
    {/if}
  </div>
  <Coach tuning={stream?.tuning ?? null} event={said} change={(change) => stream?.turn(change)} />
  <div class="controls">
    {#if stream?.bench && stream.settings}
      <GainControl
        unit={stream.bench.unit}
        gain={stream.settings.gain}
        tuning={stream.tuning}
        change={(gain) => stream?.turn({ gain })}
      />
      <Hand {stream} {hole} {lure} {lifting} chooseEyes={look} />
      <RangeControl
        unit={stream.bench.unit}
        settings={stream.settings}
        tuning={stream.tuning}
        change={(change) => stream?.turn(change)}
      />
      <section class="more" aria-label="What is drawn">
        <label
          >Lure
          <select bind:value={lureId}>
            {#each world.lures as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
          </select>
        </label>
        <label
          >Fish drawn for
          <select
            value={fishLength}
            onchange={(event) => {
              fishLength = Number(event.currentTarget.value);
              stream?.send({ fish_length_m: fishLength });
            }}
          >
            {#each FISH_LENGTHS as one (one)}<option value={one}>{small(one, prefs.system)}</option>{/each}
          </select>
        </label>
        <button aria-pressed={truth} onclick={() => (truth = !truth)}
          >{truth ? "Hide truth" : "Show truth"}</button
        >
        <button class="keys" onclick={() => (help = !help)}>Keys</button>
      </section>
      <p class="legend">
        <span class="swatch lure"></span>where this lure is seen
        <span class="swatch fish"></span>where a fish that long is seen
        <span class="swatch dead"></span>hidden in the bottom echo
      </p>
      <p class="unit">{stream.bench.unit.name}, {stream.bench.unit.beams[stream.settings.beam]!.name}</p>
    {/if}
  </div>
</main>

<style>
  .bench {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 372px;
    grid-template-rows: minmax(0, 1fr) auto;
    min-height: 0;
  }

  .view {
    position: relative;
    display: grid;
    min-height: 0;
    transition: opacity 0.15s;
  }

  .on-rod .view {
    opacity: 0.4;
  }

  .controls {
    grid-column: 2;
    grid-row: 1 / 3;
    display: flex;
    flex-direction: column;
    gap: 12px;
    padding: 10px 16px;
    border-left: 1.5px solid var(--line);
    background: var(--ground);
    overflow-y: auto;
  }

  .controls > :global(section + section) {
    border-top: 1.5px solid var(--line);
    padding-top: 10px;
  }

  .more {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6px 10px;
  }

  .more label {
    display: grid;
    font-size: 0.88rem;
    color: var(--soft);
  }

  .more select {
    color: var(--ink);
    font-size: 1rem;
  }

  .legend,
  .unit {
    font-size: 0.84rem;
    color: var(--soft);
  }

  .legend {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 2px 8px;
    align-items: center;
  }

  .swatch {
    width: 26px;
    height: 14px;
    border: 1.5px solid;
  }

  .swatch.lure {
    border-color: var(--zone);
    background: color-mix(in srgb, var(--zone) 22%, var(--water));
  }

  .swatch.fish {
    border-color: var(--fish-zone);
    background: color-mix(in srgb, var(--fish-zone) 16%, var(--water));
  }

  .swatch.dead {
    border-color: var(--earth-line);
    background: repeating-linear-gradient(135deg, transparent 0 4px, var(--earth-line) 4px 5.5px);
  }

  .waiting {
    place-self: center;
    padding: 24px;
  }

  .link {
    position: absolute;
    inset: 12px 12px auto 12px;
    padding: 10px 14px;
    border: 2px solid var(--stop);
    border-radius: 6px;
    background: var(--panel);
    color: var(--stop);
    font-weight: 700;
  }

  .help {
    position: absolute;
    inset: 16px auto auto 16px;
    max-width: calc(100% - 32px);
    padding: 16px;
    border: 1.5px solid var(--ink);
    border-radius: 8px;
    background: var(--panel);
  }

  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 4px 16px;
    margin: 10px 0;
  }

  dt {
    font-weight: 700;
  }

  dd {
    margin: 0;
  }

  @media (max-width: 760px) {
    .bench {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: minmax(230px, 1fr) auto minmax(0, 50%);
    }

    .controls {
      grid-column: 1;
      grid-row: 3;
      border-left: 0;
      border-top: 1.5px solid var(--line);
      padding: 8px 10px;
    }

    .keys {
      display: none;
    }
  }
</style>
