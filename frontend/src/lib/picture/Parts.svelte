<script lang="ts">
  // The parts of the section with their figures, each where it stands on the axis; at a hole they lead to its fields.
  import type { Scene } from "../api/types";
  import { prefs } from "../prefs.svelte";
  import { depth, small } from "../units";

  let {
    scene,
    stand,
    edit,
  }: {
    scene: Pick<Scene, "ice_thickness_m" | "face_depth_m" | "bottom_depth_m" | "bottom_kind">;
    stand: { top: number; bottom: number; column: number };
    edit: ((field: string) => void) | null;
  } = $props();

  let height = $state(400);
  const y = (m: number) => ((m - stand.top) / (stand.bottom - stand.top)) * height;
  const seen = (m: number) => m >= stand.top && m <= stand.bottom;
</script>

{#snippet part(kind: string, field: string, top: number, words: string, said: string)}
  {#if edit}
    <button class="part {kind}" style:top="{top}px" onclick={() => edit(field)} aria-label="{said}. Edit">
      <span>{words}</span>
    </button>
  {:else}
    <p class="part {kind}" style:top="{top}px"><span aria-label={said}>{words}</span></p>
  {/if}
{/snippet}

<div
  class="parts"
  class:slim={stand.column < 70}
  style:width="{stand.column}px"
  bind:clientHeight={height}
  data-testid="parts"
>
  {#if seen(scene.ice_thickness_m)}
    {@const ice = small(scene.ice_thickness_m, prefs.system)}
    {@render part(
      "ice",
      "ice_thickness_m",
      stand.column < 70 ? 18 : 0,
      stand.column < 100 ? ice : `ice ${ice}`,
      `Ice ${ice}`,
    )}
    {#if edit}
      <button
        class="part"
        style:top="{Math.max(y(scene.face_depth_m) + 2, 44)}px"
        onclick={() => edit("face_depth_m")}
        aria-label="Transducer face at {small(scene.face_depth_m, prefs.system)}. Edit"
      ></button>
    {/if}
  {/if}
  {#if seen(scene.bottom_depth_m)}
    {@const bottom = depth(scene.bottom_depth_m, prefs.system)}
    {@render part(
      "bottom",
      "bottom_depth_m",
      y(scene.bottom_depth_m),
      bottom,
      `Bottom at ${bottom}, ${scene.bottom_kind}`,
    )}
  {/if}
</div>

<style>
  .parts {
    position: absolute;
    inset: 0 auto 0 0;
    pointer-events: none;
  }

  .part {
    position: absolute;
    right: 0;
    min-width: 50%;
    padding: 0 4px;
    border: 0;
    background: none;
    display: grid;
    justify-items: end;
    align-items: center;
    min-height: var(--target);
    font: 600 0.8rem/1 var(--figures);
  }

  /* In a slim column the figures stand at its left edge, or they would be cut off. */
  .slim .part {
    right: auto;
    left: 0;
    justify-items: start;
  }

  p.part {
    min-height: 0;
    padding-top: 4px;
  }

  button.part {
    pointer-events: auto;
  }

  .part.bottom {
    padding-top: 0;
    transform: translateY(-50%);
  }

  span {
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
