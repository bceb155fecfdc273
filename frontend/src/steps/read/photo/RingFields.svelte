<script lang="ts">
  // What is said of a ring beyond what any screen needs: which way depth runs, how much of a turn it takes, how long the
  // film is.
  import Choice from "../../../lib/controls/Choice.svelte";
  import Measured from "../../../lib/controls/Measured.svelte";
  import { plainMeasure, trim, type Measure } from "../../../lib/units";
  import type { Photo } from "./photo.svelte";
  import type { RingOn } from "./ring.svelte";

  let { photo, ring, seconds, change }: {
    photo: Photo;
    ring: RingOn;
    /** From the first photo to the last [s]. */
    seconds: number;
    change: (seconds: number) => void;
  } = $props(); // prettier-ignore

  const PERCENT: Measure = {
    unit: () => "%",
    show: (value) => trim(100 * value, 0),
    read: (value) => value / 100,
  };
  const WAYS = [
    { value: "with" as const, label: "With the clock" },
    { value: "against" as const, label: "Against it" },
  ];
</script>

<div class="line">
  <span>Depth runs</span>
  <Choice
    name="Which way depth runs"
    options={WAYS}
    value={ring.clockwise ? "with" : "against"}
    choose={(value) => (ring.clockwise = value === "with")}
  />
</div>
<Measured
  id="photo-scale"
  name="Its scale takes of a turn"
  measure={PERCENT}
  value={ring.scale}
  low={0.25}
  high={1}
  hint="100 % for a whole ring, less where a gap is left"
  change={(value) => value !== null && (ring.scale = value)}
/>
{#if photo.files.length > 1}
  <Measured
    id="photo-film"
    name="From the first picture to the last"
    measure={plainMeasure("s", 1)}
    value={seconds}
    low={1}
    high={7200}
    hint="{photo.files.length} pictures: each becomes one ping"
    change={(value) => value !== null && change(value)}
  />
{:else}
  <p class="soft">
    One photo is one ping: what stands where is read, but nothing tells what moves. A film tells it.
  </p>
{/if}

<style>
  .line {
    display: flex;
    align-items: center;
    gap: 10px;
    flex-wrap: wrap;
  }

  .soft {
    color: var(--soft);
  }
</style>
