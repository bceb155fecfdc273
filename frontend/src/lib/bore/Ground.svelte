<script lang="ts">
  // The bottom's texture, so that soft and hard differ without words or hue: waves for soft, grains for hard.
  import { constants } from "../api/limits";

  let { id, kind }: { id: string; kind: string } = $props();

  const hard = $derived((constants.hardBottoms as readonly string[]).includes(kind));
</script>

<defs>
  {#if hard}
    <pattern id="{id}-ground" width="10" height="10" patternUnits="userSpaceOnUse">
      <rect class="earth" width="10" height="10" />
      <circle class="grain" cx="2.5" cy="3" r="1.1" />
      <circle class="grain" cx="7.5" cy="7" r="1.3" />
      <circle class="grain" cx="7" cy="1.5" r="0.8" />
      <circle class="grain" cx="2" cy="8" r="0.8" />
    </pattern>
  {:else}
    <pattern id="{id}-ground" width="18" height="8" patternUnits="userSpaceOnUse">
      <rect class="earth" width="18" height="8" />
      <path class="wave" d="M0 4q4.5-3 9 0t9 0" />
    </pattern>
  {/if}
</defs>

<style>
  .earth {
    fill: var(--earth);
  }

  .grain {
    fill: var(--earth-line);
  }

  .wave {
    fill: none;
    stroke: var(--earth-line);
    stroke-width: 1.1;
  }
</style>
