<script lang="ts">
  // A button that takes in a JSON file.
  let { label, name, take }: { label: string; name: string; take: (file: File) => void } = $props();
  let picker: HTMLInputElement;
</script>

<button type="button" onclick={() => picker.click()}>{label}</button>
<input
  class="unseen"
  type="file"
  accept="application/json,.json"
  tabindex="-1"
  aria-label={name}
  bind:this={picker}
  onchange={(event) => {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = "";
    if (file) take(file);
  }}
/>
