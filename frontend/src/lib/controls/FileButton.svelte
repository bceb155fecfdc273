<script lang="ts">
  // A button that takes in a file, JSON unless it says otherwise.
  let {
    label,
    name,
    take,
    accept = "application/json,.json",
  }: { label: string; name: string; take: (file: File) => void; accept?: string } = $props();
  let picker: HTMLInputElement;
</script>

<button type="button" onclick={() => picker.click()}>{label}</button>
<input
  class="unseen"
  type="file"
  {accept}
  tabindex="-1"
  aria-label={name}
  bind:this={picker}
  onchange={(event) => {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = "";
    if (file) take(file);
  }}
/>
