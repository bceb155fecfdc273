<script lang="ts">
  // Where nobody knows how long a picture is: two marks of a known time tell it.
  import Measured from "../../../lib/controls/Measured.svelte";
  import { plainMeasure } from "../../../lib/units";
  import type { TwoMarks } from "./two_marks.svelte";

  let { marks, begun, counted }: {
    marks: TwoMarks;
    begun: () => void;
    /** The time between them is another. */
    counted: () => void;
  } = $props(); // prettier-ignore

  function turn() {
    if (marks.counting) return marks.leave();
    marks.begin();
    begun();
  }
</script>

<button type="button" aria-pressed={marks.counting} onclick={turn}>Count two marks instead</button>
{#if marks.counting}
  <Measured
    id="photo-between"
    name="Between the two marks"
    measure={plainMeasure("s", 1)}
    value={marks.between}
    low={0.5}
    high={3600}
    hint="Two lifts of your rod, counted: touch both in the photo"
    change={(value) => {
      if (value === null) return;
      marks.between = value;
      counted();
    }}
  />
{/if}
