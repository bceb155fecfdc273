<script lang="ts">
  // What is done with a card: print it, send it, keep it as a file, try it on the Bench.
  import type { Hole, HoleCard } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { world } from "../../lib/world.svelte";
  import { textMessage } from "./lines";

  let { hole, made, lureId }: { hole: Hole; made: HoleCard; lureId: number | null } = $props();

  let said = $state("");

  async function copy() {
    const text = textMessage(made, hole.name, prefs.system);
    try {
      await navigator.clipboard.writeText(text);
      said = `Copied: ${text}`;
    } catch {
      said = text; // no clipboard here: the text can still be marked and copied
    }
  }

  function onBench() {
    world.trial = {
      unit_id: made.unit.id,
      lure_id: lureId,
      settings: made.settings,
      lure_depth_m: made.lure_depth_m,
      scene: made.scene,
    };
    world.go("bench");
  }
</script>

<div class="acts">
  <button onclick={() => window.print()}>Print</button>
  <button onclick={() => void copy()}>Text message</button>
  <a class="button" href="/api/holes/{hole.id}/card/file" download>JSON</a>
  <button class="primary" onclick={onBench}>Try it on the Bench</button>
</div>
<p class="said" role="status">{said}</p>

<style>
  .acts {
    column-span: all;
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }

  .said {
    column-span: all;
    user-select: all;
  }

  .said:empty {
    display: none;
  }

  @media print {
    .acts,
    .said {
      display: none;
    }
  }
</style>
