<script lang="ts">
  // Removes at one touch: the way back is offered after it, by `undo`.
  let { what, remove }: { what: string; remove: () => void } = $props();
</script>

<button type="button" aria-label={what} onclick={remove}>Remove</button>
