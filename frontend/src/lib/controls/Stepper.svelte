<script lang="ts">
  // Less and more, large enough for gloves, round whatever shows the value.
  import Minus from "@lucide/svelte/icons/minus";
  import Plus from "@lucide/svelte/icons/plus";
  import type { Snippet } from "svelte";

  let {
    name,
    less,
    more,
    atLeast,
    atMost,
    children,
  }: {
    name: string;
    less: () => void;
    more: () => void;
    atLeast: boolean;
    atMost: boolean;
    children: Snippet;
  } = $props();
</script>

<div class="stepper">
  <button onclick={less} disabled={atLeast} aria-label="Less {name}"
    ><Minus size={20} aria-hidden="true" /></button
  >
  {@render children()}
  <button onclick={more} disabled={atMost} aria-label="More {name}"
    ><Plus size={20} aria-hidden="true" /></button
  >
</div>

<style>
  .stepper {
    display: flex;
    align-items: center;
    gap: 6px;
  }

  button {
    display: grid;
    place-items: center;
    padding: 0;
  }
</style>
