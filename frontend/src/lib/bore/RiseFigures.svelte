<script lang="ts">
  // A rise line in figures: about where, and between which depths, the shallow one first.
  import type { RiseLine } from "../api/types";
  import { prefs } from "../prefs.svelte";
  import { depth } from "../units";

  let { line }: { line: RiseLine } = $props();
</script>

about <b class="figures">{depth(line.depth_m, prefs.system)}</b>, between {depth(line.high_m, prefs.system)}
and {depth(line.low_m, prefs.system)}
