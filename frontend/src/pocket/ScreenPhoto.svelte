<script lang="ts">
  // A photo of the unit's screen with the hour and the hole: read at home.
  import FileButton from "../lib/controls/FileButton.svelte";
  import type { Notes, Spot } from "./notes.svelte";
  import { MOST_PHOTOS } from "./photos";

  let { notes, spot, gear }: {
    notes: Notes;
    spot: Spot;
    gear: { unit: string; lure: string };
  } = $props(); // prettier-ignore

  let said = $state("");
  let busy = $state(false);

  async function take(file: File) {
    busy = true;
    try {
      await notes.photograph(file, spot, gear);
      said = `The photo is kept with its hour, at ${spot.name}. It goes with the notes, and is read at home.`;
    } catch (wrong) {
      said = wrong instanceof Error ? wrong.message : "The photo could not be kept.";
    } finally {
      busy = false;
    }
  }
</script>

{#if Object.keys(notes.photos).length < MOST_PHOTOS}
  <div class="button-row">
    <FileButton
      label={busy ? "Keeping it…" : "Photo of my screen"}
      name="The photo's file"
      accept="image/*"
      capture
      {take}
    />
  </div>
{:else}
  <p class="soft">{MOST_PHOTOS} photos are kept: save the notes, then take some back.</p>
{/if}
<p class="said" role="status">{said}</p>

<style>
  .button-row {
    margin-top: 10px;
  }

  .said {
    font-weight: 700;
  }
</style>
