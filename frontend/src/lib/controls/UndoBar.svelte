<script lang="ts">
  // What was just removed, with the way back, in a row of its own so that it covers nothing. It stays until something
  // else is removed, it is closed, or another step is opened: nobody is hurried.
  import { tick, untrack } from "svelte";
  import { toPage } from "../overlay/focus";
  import { undo } from "../undo.svelte";
  import { world } from "../world.svelte";

  let button: HTMLElement | undefined = $state();

  // The button that removed is gone with its row, or would remove the next: the focus goes to the way back.
  $effect(() => {
    if (!undo.offer) return;
    void tick().then(() => {
      button?.focus({ preventScroll: true });
    });
  });

  $effect(() => {
    void world.step;
    untrack(() => undo.close());
  });

  function key(event: KeyboardEvent) {
    const typing = (event.target as HTMLElement | null)?.matches("input, textarea");
    if (typing || event.key.toLowerCase() !== "z" || !(event.ctrlKey || event.metaKey) || !undo.offer) return;
    event.preventDefault();
    void undo.take();
  }

  async function take() {
    await undo.take();
    await tick();
    if (document.activeElement === document.body) toPage();
  }

  function close() {
    undo.close();
    toPage();
  }
</script>

<svelte:window onkeydown={key} />

<div class="undo" class:there={undo.offer ?? undo.said} data-testid="undo">
  <p role="status">{undo.offer?.text ?? undo.said}</p>
  {#if undo.offer}
    <button class="primary" bind:this={button} onclick={take}>Undo</button>
  {/if}
  {#if undo.offer || undo.said}<button onclick={close}>Close</button>{/if}
</div>

<style>
  .undo {
    display: flex;
    align-items: center;
    gap: 10px;
    background: var(--panel);
  }

  .undo.there {
    padding: 4px 16px;
    border-top: 3px solid var(--action);
  }

  p {
    flex: 1;
    font-weight: 600;
  }

  @media print {
    .undo {
      display: none;
    }
  }
</style>
