<script lang="ts">
  // A unit with hidden numbers to practise on: lower the lure, turn gain until its mark is gone, note it.
  import { untrack } from "svelte";
  import { api, ok, words as wordsOf } from "../../lib/api/client";
  import type { Look, Reading, Unit, Water } from "../../lib/api/types";
  import Stepper from "../../lib/controls/Stepper.svelte";
  import { unpack } from "../../lib/picture/history";
  import { ladderColours } from "../../lib/picture/ladder";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, trim } from "../../lib/units";

  let {
    unit,
    water,
    seed,
    lureId,
    note,
  }: { unit: Unit; water: Water; seed: number; lureId: number; note: (reading: Reading) => void } = $props();

  const scale = $derived(unit.gain);
  let gain = $state(untrack(() => (unit.gain.minimum + unit.gain.maximum) / 2));
  let at = $state(untrack(() => Math.min(Math.max(water.face_depth_m + 2, 2), water.bottom_depth_m - 0.5)));
  let look = $state<Look | null>(null);
  /** The gain and depth that the picture is of: it follows the knobs a moment later. */
  let of = $state("");
  let said = $state("");
  let canvas: HTMLCanvasElement;
  let asked = 0;

  const reading = $derived<Reading>({
    lure_id: lureId,
    depth_m: at,
    gain,
    colour: 0,
    beam: 0,
    power: unit.powers_w.indexOf(Math.max(...unit.powers_w)),
    pulse: 0,
  });

  $effect(() => {
    const mine = ++asked;
    const shownAs = `${trim(gain, 2)} at ${depth(at, prefs.system)}`;
    const body = { seed, water: { ...water }, reading };
    ok(api.POST("/api/units/{unit_id}/stand-in/look", { params: { path: { unit_id: unit.id } }, body }))
      .then((found) => {
        if (mine !== asked) return;
        look = found;
        of = shownAs;
        said = "";
      })
      .catch((problem: unknown) => {
        if (mine === asked) said = wordsOf(problem);
      });
  });

  $effect(() => {
    if (!look) return;
    const colours = ladderColours(unit.ladders[0]!, prefs.theme, 1);
    canvas.width = look.pings;
    canvas.height = look.rows;
    const paper = canvas.getContext("2d")!;
    const image = paper.createImageData(look.pings, look.rows);
    const levels = unpack(look.levels);
    for (let ping = 0; ping < look.pings; ping++)
      for (let row = 0; row < look.rows; row++) {
        const [r, g, b] = colours[levels[ping * look.rows + row]!]!;
        image.data.set([r, g, b, 255], 4 * (row * look.pings + ping));
      }
    paper.putImageData(image, 0, 0);
  });

  const turn = (steps: number) =>
    (gain = Math.min(Math.max(gain + 0.5 * steps * scale.step, scale.minimum), scale.maximum));
  const lower = (m: number) =>
    (at = Math.min(Math.max(at + m, water.face_depth_m + 0.6), water.bottom_depth_m - 0.4));
  /** In how many of the pings the mark is there; null before the first look. */
  const lit = $derived.by(() => {
    if (!look) return null;
    const levels = unpack(look.levels);
    const middle = (0.5 * (at - water.face_depth_m - look.top_m) * 2) / (look.bottom_m - look.top_m);
    const [from, to] = [Math.floor((middle - 0.01) * look.rows), Math.ceil((middle + 0.05) * look.rows)];
    let lit = 0;
    for (let ping = 0; ping < look.pings; ping++)
      if (levels.subarray(ping * look.rows + from, ping * look.rows + to).some((level) => level > 0)) lit++;
    return lit;
  });
  // The mark in the picture, in words: the same that the eye sees, for who cannot see it.
  const seen = $derived(look && lit !== null ? `The mark is there in ${lit} of ${look.pings} pings.` : "");
  /** A mark that wavers disappears just here; one that is gone, or always there, does it elsewhere. */
  const doubted = $derived.by(() => {
    if (!look || lit === null) return "";
    if (lit < 0.15 * look.pings)
      return "It is gone already: turn gain up until it is there about half of the time.";
    if (lit > 0.85 * look.pings)
      return "It is still there: turn gain down until it is there about half of the time.";
    return "";
  });
  let asking = $state("");
  $effect(() => {
    if (!doubted || of !== asking) asking = "";
  });

  /** A reading where the mark does not waver is asked about once. */
  function take() {
    if (doubted && asking !== of) asking = of;
    else {
      asking = "";
      note({ ...reading });
    }
  }
</script>

<div class="stand-in" data-testid="stand-in">
  <div class="picture">
    <canvas bind:this={canvas} aria-label="What the stand-in shows round the lure"></canvas>
    {#if look}
      <span class="figures top">{depth(look.top_m, prefs.system)}</span>
      <span class="figures foot">{depth(look.bottom_m, prefs.system)}</span>
    {/if}
  </div>
  <div class="knobs">
    <p class="name">Gain</p>
    <div class="by">
      <button onclick={() => turn(-8)} aria-label="−4 steps of gain">−4</button>
      <Stepper
        name="stand-in gain"
        less={() => turn(-1)}
        more={() => turn(1)}
        atLeast={gain <= scale.minimum}
        atMost={gain >= scale.maximum}
      >
        <output class="figures" data-testid="stand-in-gain">{trim(gain, 2)}</output>
      </Stepper>
      <button onclick={() => turn(8)} aria-label="+4 steps of gain">+4</button>
    </div>
    <p class="name">Lure at</p>
    <div class="by">
      <button onclick={() => lower(-2)} aria-label="Far higher">−−</button>
      <Stepper
        name="stand-in lure depth"
        less={() => lower(-0.25)}
        more={() => lower(0.25)}
        atLeast={at <= water.face_depth_m + 0.61}
        atMost={at >= water.bottom_depth_m - 0.41}
      >
        <output class="figures" data-testid="stand-in-depth">{depth(at, prefs.system)}</output>
      </Stepper>
      <button onclick={() => lower(2)} aria-label="Far lower">++</button>
    </div>
    <p class="seen" role="status" data-of={of}>{said || seen}</p>
    {#if asking && asking === of}
      <p class="asked" role="alert">{doubted}</p>
      <button onclick={take}>Note it all the same</button>
    {:else}
      <button class="primary" onclick={take}>Note: just disappears here</button>
    {/if}
  </div>
</div>

<style>
  .asked {
    padding-left: 10px;
    border-left: 6px solid var(--action);
    font-weight: 700;
  }

  .stand-in {
    display: grid;
    grid-template-columns: minmax(140px, 220px) minmax(0, 1fr);
    gap: 18px;
    padding: 12px;
    border: 1.5px solid var(--line);
    border-radius: 8px;
    background: var(--panel);
  }

  .picture {
    position: relative;
    min-height: 220px;
  }

  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    image-rendering: pixelated;
    border: 1.5px solid var(--line);
  }

  .picture span {
    position: absolute;
    right: 4px;
    padding: 0 4px;
    background: var(--panel);
    font-size: 0.8rem;
  }

  .top {
    top: 4px;
  }

  .foot {
    bottom: 4px;
  }

  .knobs {
    display: grid;
    align-content: start;
    justify-items: start;
    gap: 4px;
  }

  .name {
    font-weight: 600;
  }

  .by {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
  }

  output {
    display: inline-block;
    min-width: 8ch;
    text-align: center;
    font-size: 1.2rem;
    font-weight: 700;
  }

  .seen {
    margin: 4px 0;
    font-weight: 600;
  }

  @media (max-width: 1000px) {
    .asked {
      padding-left: 10px;
      border-left: 6px solid var(--action);
      font-weight: 700;
    }

    .stand-in {
      grid-template-columns: minmax(0, 1fr);
    }

    .by {
      display: grid;
      grid-template-columns: 1fr 1fr;
      width: 100%;
    }

    .by > :global(.stepper) {
      grid-column: 1 / -1;
      grid-row: 1;
    }
  }
</style>
