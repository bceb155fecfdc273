<script lang="ts">
  // How the picture is drawn: from above or unrolled, distances through the water or along the ice.
  import Choice from "../../lib/controls/Choice.svelte";
  import type { Measure, Way } from "../../lib/turning/turning";

  let {
    way,
    measure,
    draw,
    by,
  }: { way: Way; measure: Measure; draw: (way: Way) => void; by: (measure: Measure) => void } = $props();
</script>

<Choice
  name="How it is drawn"
  options={[
    { value: "round", label: "From above" },
    { value: "unrolled", label: "Unrolled" },
  ]}
  value={way}
  choose={draw}
/>
<Choice
  name="Distances"
  options={[
    { value: "water", label: "Through the water" },
    { value: "ice", label: "Along the ice" },
  ]}
  value={measure}
  choose={by}
/>
