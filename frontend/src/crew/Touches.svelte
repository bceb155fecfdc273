<script lang="ts">
  // One touch for what happened at one's hole: kept in the phone at once, and there until the host's computer has it.
  import type { Board } from "../lib/api/types";
  import { isoNow } from "../lib/when";
  import type { CrewBoard } from "./board.svelte";

  let {
    crew,
    board,
    hole,
  }: { crew: CrewBoard; board: Board; hole: { name: string; east_m: number; north_m: number } } = $props();

  const TOUCHES = [
    { kind: "look", label: "Look" },
    { kind: "follow", label: "Follow" },
    { kind: "bite", label: "Bite" },
    { kind: "miss", label: "Miss" },
    { kind: "fish", label: "Fish" },
    { kind: "nothing", label: "Nothing" },
  ] as const;
  let said = $state("");

  function touch(kind: string, label: string) {
    const spot = { ...hole, hole_id: null, lake_id: null, water: board.lake, depth_m: null };
    const at = isoNow();
    const happening = {
      at,
      kind,
      depth_m: null,
      trying: board.try_next.trying,
      species: board.works.species,
      length_m: null,
      kept: null,
      ended: kind === "fish" ? "landed" : null,
      note: "",
    };
    crew.notes.add("happening", spot, { unit: "", lure: "" }, { at, happening });
    said = `${label} is noted.`;
    void crew.act(() => crew.send());
  }
</script>

<section aria-label="What happened">
  <h2>What happened at {hole.name}</h2>
  <div class="touches">
    {#each TOUCHES as { kind, label } (kind)}
      <button class:primary={kind === "bite" || kind === "fish"} onclick={() => touch(kind, label)}
        >{label}</button
      >
    {/each}
  </div>
  <p role="status">
    {said}
    {crew.unsent.length > 0
      ? `${crew.unsent.length} wait in this phone.`
      : said
        ? "The host's computer has it."
        : ""}
  </p>
</section>

<style>
  .touches {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 8px;
  }

  button {
    min-height: 68px;
    font-size: 1.15rem;
    font-weight: 700;
  }
</style>
