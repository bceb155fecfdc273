<script lang="ts">
  // How notes leave the phone: shared with whatever takes files there, or saved among its downloads.
  import type { Notes } from "./notes.svelte";

  let { notes }: { notes: Notes } = $props();

  let said = $state("");

  const canShare = () => {
    try {
      // Of none of the notes: whether files like that can be shared, not how large they are.
      return navigator.canShare?.({ files: [notes.file([])] }) ?? false;
    } catch {
      return false;
    }
  };

  function save() {
    const file = notes.file();
    const link = document.createElement("a");
    link.href = URL.createObjectURL(file);
    link.download = file.name;
    link.click();
    URL.revokeObjectURL(link.href);
    said = `Saved as ${file.name}. Take it in on the computer under Trip, Along; the notes stay here as well.`;
  }

  async function share() {
    try {
      await navigator.share({ files: [notes.file()] });
      said = "Shared. The notes stay here as well.";
    } catch {
      save(); // turned down, or not done by this phone after all
    }
  }
</script>

<div class="button-row">
  <button class="primary" disabled={notes.notes.length === 0} onclick={save}>Save the notes as a file</button>
  {#if canShare()}<button disabled={notes.notes.length === 0} onclick={() => void share()}>Share them</button
    >{/if}
</div>
<p class="soft" role="status">{said}</p>

<style>
  .button-row {
    margin-top: 14px;
  }
</style>
