<script lang="ts">
  // The parts of the section that lead to their fields: ice, face and bottom, each where it stands on the axis.
  import type { Scene } from "../api/types";
  import { prefs } from "../prefs.svelte";
  import { depth, small } from "../units";

  let {
    scene,
    stand,
    edit,
  }: {
    scene: Scene;
    stand: { top: number; bottom: number; column: number };
    edit: (field: string) => void;
  } = $props();

  let height = $state(400);
  const y = (m: number) => ((m - stand.top) / (stand.bottom - stand.top)) * height;
  const seen = (m: number) => m >= stand.top && m <= stand.bottom;
</script>

<div class="parts" style:width="{stand.column}px" bind:clientHeight={height}>
  {#if seen(scene.ice_thickness_m)}
    <button
      style:top="0"
      onclick={() => edit("ice_thickness_m")}
      aria-label="Ice {small(scene.ice_thickness_m, prefs.system)}. Edit"
    >
      <span>ice {small(scene.ice_thickness_m, prefs.system)}</span>
    </button>
    <button
      class="face"
      style:top="{Math.max(y(scene.face_depth_m) + 2, 44)}px"
      onclick={() => edit("face_depth_m")}
      aria-label="Transducer face at {small(scene.face_depth_m, prefs.system)}. Edit"
    >
      <span class="unseen">face</span>
    </button>
  {/if}
  {#if seen(scene.bottom_depth_m)}
    <button
      class="bottom"
      data-testid="bottom-part"
      style:top="{y(scene.bottom_depth_m)}px"
      onclick={() => edit("bottom_depth_m")}
      aria-label="Bottom at {depth(scene.bottom_depth_m, prefs.system)}, {scene.bottom_kind}. Edit"
    >
      <span>{depth(scene.bottom_depth_m, prefs.system)}</span>
    </button>
  {/if}
</div>

<style>
  .parts {
    position: absolute;
    inset: 0 auto 0 0;
    pointer-events: none;
  }

  button {
    position: absolute;
    right: 0;
    width: 50%;
    min-width: 0;
    padding: 0 6px;
    border: 0;
    background: none;
    display: grid;
    justify-items: end;
    align-items: center;
    font: 600 0.8rem/1 var(--figures);
    pointer-events: auto;
  }

  .bottom {
    transform: translateY(-50%);
  }

  span:not(.unseen) {
    padding: 3px 5px;
    border-radius: 4px;
    background: var(--panel);
    white-space: nowrap;
  }

  button:hover span {
    outline: 1.5px solid var(--action);
  }

  button:focus-visible {
    outline-offset: -3px;
  }
</style>
