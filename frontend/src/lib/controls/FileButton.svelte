<script lang="ts">
  // A button that takes in a file, JSON unless it says otherwise; or several.
  let {
    label,
    name,
    take,
    several = false,
    capture = false,
    accept = "application/json,.json",
  }: {
    label: string;
    name: string;
    take: (file: File, all: File[]) => void;
    several?: boolean;
    /** Whether a phone opens its camera at once. */
    capture?: boolean;
    accept?: string;
  } = $props();
  let picker: HTMLInputElement;
</script>

<button type="button" onclick={() => picker.click()}>{label}</button>
<input
  class="unseen"
  type="file"
  {accept}
  multiple={several}
  capture={capture ? "environment" : undefined}
  tabindex="-1"
  aria-label={name}
  bind:this={picker}
  onchange={(event) => {
    const files = [...(event.currentTarget.files ?? [])];
    event.currentTarget.value = "";
    if (files[0]) take(files[0], files);
  }}
/>
