<script lang="ts">
  // Where the Bench stands: at the hole, in a kept scene, or in an exercise. Scenes are kept, opened and exchanged here.
  import Check from "@lucide/svelte/icons/check";
  import { undo } from "../../lib/undo.svelte";
  import { api, ok, sendFile, words } from "../../lib/api/client";
  import type { SavedScene, SceneSummary } from "../../lib/api/types";
  import FileButton from "../../lib/controls/FileButton.svelte";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import type { BenchStream } from "../../lib/live/stream.svelte";
  import { keyOf, world } from "../../lib/world.svelte";

  let { stream }: { stream: BenchStream } = $props();

  let name = $state("");
  let said = $state("");
  let wrong = $state(false);

  async function attempt(work: () => Promise<string>) {
    try {
      said = await work();
      wrong = false;
      await world.loadPractice();
    } catch (problem) {
      said = words(problem);
      wrong = true;
    }
  }

  const keep = () =>
    attempt(async () => {
      const { bench, settings, scene, lureDepth } = stream;
      const body: SavedScene = {
        name,
        note: "",
        scene: scene!,
        unit: bench!.unit,
        settings: settings!,
        lure: bench!.lure,
        lure_depth_m: lureDepth ?? 0,
        seed: bench!.seed,
      };
      const kept = await ok(api.POST("/api/scenes", { body }));
      name = "";
      return `${kept.name} is kept.`;
    });

  const take = (file: File) =>
    attempt(async () => {
      const kept = await sendFile("/api/scenes/file", await file.text());
      return `${kept.name} is taken in.`;
    });

  const forget = (scene: SceneSummary) =>
    attempt(async () => {
      const params = { path: { scene_id: scene.id } };
      const gone = await ok(api.DELETE("/api/scenes/{scene_id}", { params }));
      undo.kept(`${scene.name} is removed.`, gone, () => world.loadPractice());
      if (world.practice?.kind === "scene" && world.practice.id === scene.id) world.practise(null);
      return "";
    });

  const here = (kind: "scene" | "exercise", which: number | string) =>
    world.practice?.kind === kind && keyOf(world.practice) === which;
  const done = $derived(world.exercises.filter((one) => one.done_at).length);
</script>

<section class="stack">
  <h2>Exercises <small>{done} of {world.exercises.length} done</small></h2>
  <ol>
    {#each world.exercises as one (one.key)}
      <li>
        <button
          aria-pressed={here("exercise", one.key)}
          onclick={() => world.practise({ kind: "exercise", key: one.key })}
        >
          <span>{one.title}</span>
          {#if one.done_at}<span class="done"><Check size={18} aria-hidden="true" /> done</span>{/if}
        </button>
      </li>
    {/each}
  </ol>
</section>
<section class="stack">
  <h2>Scenes</h2>
  {#if world.practice}
    <button class="primary" onclick={() => world.practise(null)}
      >Back to {world.hole?.name ?? "the hole"}</button
    >
  {/if}
  <ol>
    {#each world.scenes as one (one.id)}
      <li>
        <button
          aria-pressed={here("scene", one.id)}
          onclick={() => world.practise({ kind: "scene", id: one.id })}><span>{one.name}</span></button
        >
        {#if here("scene", one.id)}
          {#if one.note}<p class="note">{one.note}</p>{/if}
          <div class="pair">
            <a class="button" href="/api/scenes/{one.id}/file" download>Save as a file</a>
            <RemoveButton what="Remove {one.name}" remove={() => forget(one)} />
          </div>
        {/if}
      </li>
    {/each}
  </ol>
</section>
<section class="stack">
  <h2>Keep what you see</h2>
  <label for="scene-name">Name of the scene</label>
  <div class="keep">
    <input id="scene-name" bind:value={name} maxlength="80" />
    <button disabled={!name.trim() || !stream.settings} onclick={keep}>Keep</button>
  </div>
  <FileButton label="Take in a scene file" name="Scene file" {take} />
  <p class:wrong role="status">{said}</p>
</section>

<style>
  .stack {
    display: grid;
    gap: 6px;
  }

  h2 small {
    font-weight: 400;
    color: var(--soft);
  }

  ol {
    display: grid;
    gap: 4px;
    margin: 0;
    padding: 0;
    list-style: none;
  }

  li > button {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 8px;
    width: 100%;
    text-align: left;
    line-height: 1.2;
  }

  .done {
    display: flex;
    align-items: center;
    gap: 4px;
    color: var(--pine);
    font-weight: 600;
    font-size: 0.88rem;
  }

  button[aria-pressed="true"] .done {
    color: inherit;
  }

  .note {
    padding: 4px 2px;
    font-size: 0.9rem;
    color: var(--soft);
  }

  .pair,
  .keep {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 6px;
  }

  .wrong {
    color: var(--stop);
    font-weight: 600;
  }
</style>
