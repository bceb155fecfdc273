<script lang="ts">
  // Where on earth a lake lies: for the sun, for files and for a handset. It may stay empty.
  import Measured from "../../lib/controls/Measured.svelte";
  import { plainMeasure } from "../../lib/units";

  let { position = $bindable() }: { position: { latitude: number | null; longitude: number | null } } =
    $props();

  const degrees = plainMeasure("degrees", 6);
  let said = $state("");
  const here = "geolocation" in navigator;

  function fromDevice() {
    said = "Asking the device.";
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => {
        position = { latitude: coords.latitude, longitude: coords.longitude };
        said = "";
      },
      () => (said = "The device does not say where it is. Type it, or leave it empty."),
      { timeout: 15_000 },
    );
  }
</script>

<details open={position.latitude !== null}>
  <summary>Where it lies</summary>
  <p class="soft">For sunrise and dusk, for files, and for a handset. It never leaves this machine.</p>
  <div class="row">
    <Measured
      id="latitude"
      name="Latitude"
      measure={degrees}
      value={position.latitude}
      low={-85}
      high={85}
      empty
      change={(latitude) => (position = { ...position, latitude })}
    />
    <Measured
      id="longitude"
      name="Longitude"
      measure={degrees}
      value={position.longitude}
      low={-180}
      high={180}
      empty
      change={(longitude) => (position = { ...position, longitude })}
    />
    {#if here}<button type="button" onclick={fromDevice}>From this device</button>{/if}
  </div>
  <p role="status">{said}</p>
</details>

<style>
  .row {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(140px, 1fr));
    align-items: end;
    gap: 10px;
  }
</style>
