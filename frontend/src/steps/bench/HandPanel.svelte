<script lang="ts">
  // The hand: lift, lower, twitch; and the rod tip with the eyes on it or on the sonar.
  import { constants } from "../../lib/api/limits";
  import type { LureFields, Scene } from "../../lib/api/types";
  import ArrowDown from "@lucide/svelte/icons/arrow-down";
  import ArrowUp from "@lucide/svelte/icons/arrow-up";
  import Choice from "../../lib/controls/Choice.svelte";
  import HoldButton from "../../lib/controls/HoldButton.svelte";
  import type { Hand, Rod } from "../../lib/live/hand.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import Tip from "../../lib/rod/Tip.svelte";
  import { depth, length } from "../../lib/units";
  import { LIFT, LIFT_FAST, SINK } from "../../lib/hand";

  let {
    stream,
    hand,
    scene,
    lure,
    blind,
  }: {
    stream: Rod;
    hand: Hand;
    scene: Pick<Scene, "bottom_depth_m" | "face_depth_m">;
    lure: Pick<LureFields, "name">;
    /** Whether how deep the water is must be found out. */
    blind: boolean;
  } = $props();

  const { offBottom: OFF_BOTTOM } = constants;
  const nudge = constants.foot / 4;
  // As the card has it: a little off the bottom, and never above the middle of shallow water.
  const goal = $derived(
    Math.max(scene.bottom_depth_m - OFF_BOTTOM, 0.5 * (scene.face_depth_m + scene.bottom_depth_m)),
  );
  const offBottom = $derived(stream.lureDepth === null ? null : scene.bottom_depth_m - stream.lureDepth);
</script>

<section class="control hand" aria-labelledby="lure-name">
  <div class="line">
    <h2 id="lure-name">Lure</h2>
    <p class="what">{lure.name}</p>
    <p class="figures where">
      <span data-testid="lure-depth"
        >{stream.lureDepth === null ? "" : depth(stream.lureDepth, prefs.system)}</span
      >
      {#if offBottom !== null && !blind}<small>{length(offBottom, prefs.system)} off bottom</small>{/if}
    </p>
  </div>
  <div class="moves">
    <HoldButton
      label="Lift slowly while held"
      held={hand.speed === LIFT}
      down={() => hand.lift(LIFT)}
      up={hand.still}>Lift <small>slowly</small></HoldButton
    >
    <HoldButton
      label="Lift fast while held"
      held={hand.speed === LIFT_FAST}
      down={() => hand.lift(LIFT_FAST)}
      up={hand.still}>Lift <small>fast</small></HoldButton
    >
    <HoldButton
      label="Lower while held"
      held={hand.speed === SINK}
      down={() => hand.lift(SINK)}
      up={hand.still}>Lower <small>while held</small></HoldButton
    >
    <button onclick={hand.twitch}>Twitch</button>
    {#if !blind}
      <button class="goal" onclick={() => stream.send({ to_depth_m: goal })}>
        Lower to {length(scene.bottom_depth_m - goal, prefs.system)} off the bottom
      </button>
    {/if}
  </div>
  <div class="target" role="group" aria-label="Aim line">
    {#if stream.targetDepth > 0}
      <button aria-label="Aim line up" onclick={() => stream.aim(Math.max(stream.targetDepth - nudge, 0.1))}
        ><ArrowUp size={20} aria-hidden="true" /></button
      >
      <button aria-label="Aim line down" onclick={() => stream.aim(stream.targetDepth + nudge)}
        ><ArrowDown size={20} aria-hidden="true" /></button
      >
      <button onclick={() => stream.send({ to_depth_m: stream.targetDepth })}
        >Bring to <span class="figures" data-testid="target">{depth(stream.targetDepth, prefs.system)}</span
        ></button
      >
      <button onclick={() => stream.aim(0)}>No line</button>
    {:else}
      <button class="wide" onclick={() => stream.aim(goal)}>Draw an aim line</button>
    {/if}
  </div>
</section>

<section class="control rod" class:watched={stream.eyes === "rod"} aria-labelledby="rod-name">
  <div class="line">
    <h2 id="rod-name">Eyes on</h2>
    <Choice
      name="Eyes on"
      options={[
        { value: "sonar", label: "Sonar" },
        { value: "rod", label: "Rod tip" },
      ]}
      value={stream.eyes}
      choose={hand.look}
    />
  </div>
  <div class="tip">
    <div class="picture-of-tip">
      <Tip bend={stream.rodTipBend} says={stream.rodTip} watched={stream.eyes === "rod"} />
    </div>
    <button class="primary" onclick={() => stream.send({ set_hook: true })}>Set the hook</button>
  </div>
</section>

<style>
  .control {
    display: grid;
    gap: 6px;
  }

  .line {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 10px;
  }

  .what {
    flex: 1;
    font-size: 0.88rem;
    color: var(--soft);
  }

  .where {
    font-weight: 700;
    font-size: 1.15rem;
    text-align: right;
    line-height: 1.15;
  }

  .where small {
    display: block;
    font-weight: 400;
    font-size: 0.8rem;
    color: var(--soft);
  }

  .moves {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    gap: 6px;
  }

  .moves :global(button) {
    padding: 0 4px;
  }

  .moves :global(small) {
    font-size: 0.78rem;
  }

  .goal {
    grid-column: 1 / -1;
  }

  .target {
    display: grid;
    grid-template-columns: auto auto 1fr auto;
    gap: 6px;
  }

  .target button {
    padding: 0 6px;
    line-height: 1.15;
  }

  .target .wide {
    grid-column: 1 / -1;
  }

  .tip {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 10px;
    align-items: center;
  }

  .rod :global(.choice) {
    flex: 1;
    max-width: 230px;
  }

  @media (max-width: 760px) {
    /* The rod stays in reach whatever else is scrolled to. */
    .rod {
      position: sticky;
      bottom: -8px;
      margin: 0 -10px;
      padding: 6px 10px !important;
      background: var(--ground);
      grid-template-columns: auto auto;
      align-items: center;
    }

    .rod h2 {
      display: none;
    }

    .rod :global(.choice) {
      max-width: none;
    }

    .rod .tip {
      grid-template-columns: minmax(40px, 1fr) auto;
    }
  }

  .picture-of-tip {
    height: 60px;
  }
</style>
