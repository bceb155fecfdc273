<script lang="ts">
  // How one looks: round in made-up water, by hand on the ice, ahead with the fan, or for real with the truth kept back.
  import Choice from "../../lib/controls/Choice.svelte";
  import type { Place } from "./search.svelte";

  let { where, choose }: { where: Place; choose: (where: Place) => void } = $props();
</script>

<h1>Search</h1>
<Choice
  name="Where you look"
  options={[
    { value: "water", label: "Made-up water" },
    { value: "hand", label: "By hand" },
    { value: "ahead", label: "Look ahead" },
    { value: "real", label: "Find three schools" },
  ]}
  value={where}
  {choose}
/>
