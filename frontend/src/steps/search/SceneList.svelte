<script lang="ts">
  // The scenes to search for real, and the searches that were kept.
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import type { ScenesToSearch, SearchKept } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { clock, way } from "../../lib/units";
  import { when } from "../../lib/when";

  let {
    bounds,
    kept,
    begin,
    remove,
    debrief,
  }: {
    bounds: ScenesToSearch;
    kept: SearchKept[];
    begin: (scene: ScenesToSearch["scenes"][number]) => void;
    remove: (one: SearchKept) => void;
    debrief: (id: number) => string;
  } = $props();

  const WITH: Record<string, string> = { fan: "with the fan", "circle fan": "all round, then the fan" };
</script>

<section class="scenes">
  <h2>Find {bounds.schools} schools in {Math.round(bounds.lasts_s / 60)} minutes of water</h2>
  <p>
    You stand at the first hole, with the head that turns where nothing else is said. Touch what swims, mark
    what is a school, drill the next hole where it pays: the fewer holes the better. Walking and drilling take
    their time of the {Math.round(bounds.lasts_s / 60)}
    minutes; watching you can let go up to eight times as fast. The truth comes at the end.
  </p>
  <ul class="list">
    {#each bounds.scenes as scene (scene.key)}
      <li>
        <div>
          <strong>{scene.title}</strong>
          {#if scene.heads.includes("fan")}<span class="with">{WITH[scene.heads.join(" ")]}</span>{/if}
          <p class="soft">{scene.teaches}</p>
          <p class="figures best">
            {scene.tries === 0
              ? "Not searched yet"
              : `Searched ${scene.tries === 1 ? "once" : `${scene.tries} times`}; best: ${scene.best_found} of ${bounds.schools} with ${scene.best_holes === 1 ? "1 hole" : `${scene.best_holes} holes`}`}
          </p>
        </div>
        <button class="primary" aria-label="Search {scene.title}" onclick={() => begin(scene)}>Search</button>
      </li>
    {/each}
  </ul>
  {#if kept.length > 0}
    <h2>Your searches</h2>
    <ul class="list">
      {#each kept as one (one.id)}
        <li>
          <a href={debrief(one.id)}>
            <strong>{one.title}</strong>, {when(one.started_at)}:
            {one.found} of {bounds.schools} with {one.holes === 1 ? "1 hole" : `${one.holes} holes`}, {way(
              one.walked_m,
              prefs.system,
            )} walked, {clock(one.watched_s)} watched
          </a>
          <RemoveButton what="Remove this search of {one.title}" remove={() => remove(one)} />
        </li>
      {/each}
    </ul>
  {/if}
</section>

<style>
  .scenes {
    display: grid;
    gap: 10px;
    align-content: start;
    max-width: 52rem;
  }

  .list {
    list-style: none;
    margin: 0;
    padding: 0;
    display: grid;
  }

  li {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 12px;
    padding: 8px 0;
    border-top: 1.5px solid var(--line);
  }

  li :global(button) {
    flex: none;
  }

  a {
    display: inline-block;
    min-height: var(--target);
    align-content: center;
    color: inherit;
  }

  .with {
    margin-left: 6px;
    font-weight: 600;
    color: var(--action);
  }

  .best {
    font-size: 0.92rem;
  }
</style>
