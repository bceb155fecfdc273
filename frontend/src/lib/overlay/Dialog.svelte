<script lang="ts">
  // A modal dialog: the browser keeps the focus within it and gives it back, and Escape closes what opened last.
  import { onMount, type Snippet } from "svelte";
  import { backTo } from "./focus";

  let { label, close, children }: { label: string; close: () => void; children: Snippet } = $props();
  let box: HTMLDialogElement;

  onMount(() => {
    const before = document.activeElement;
    box.showModal();
    box.focus(); // not its first button, which may stand at the end of what is to be read
    return () => {
      if (box.open) box.close();
      backTo(before);
    };
  });
</script>

<dialog bind:this={box} tabindex="-1" aria-label={label} onclose={close}>
  {@render children()}
</dialog>

<style>
  dialog {
    max-width: min(640px, calc(100vw - 32px));
    max-height: calc(100dvh - 32px);
    padding: 16px;
    border: 1.5px solid var(--ink);
    border-radius: 8px;
    background: var(--panel);
    color: var(--ink);
  }

  dialog:focus {
    outline: none;
  }

  dialog > :global(* + *) {
    margin-top: 10px;
  }

  /* What is behind stays to be seen: water goes on while its keys are looked up. */
  dialog::backdrop {
    background: color-mix(in srgb, var(--ground) 45%, transparent);
  }
</style>
