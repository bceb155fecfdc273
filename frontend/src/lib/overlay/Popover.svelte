<script lang="ts">
  // Something more about one thing, beside it and never over it. It closes by Escape, by a touch elsewhere, and by its
  // own button; the browser keeps count of what opened last and gives the focus back.
  import { tick, type Snippet } from "svelte";
  import { beside, type Rect } from "./focus";

  let {
    id,
    label,
    about,
    closed = () => undefined,
    children,
  }: {
    id: string;
    label: string;
    /** What it must leave in sight; the button that opened it where it is not given. */
    about?: () => Rect;
    closed?: () => void;
    children: Snippet;
  } = $props();

  let box: HTMLElement;
  let open = $state(false);

  const opener = () => document.querySelector<HTMLElement>(`[popovertarget="${CSS.escape(id)}"]`);

  async function toggled(event: ToggleEvent) {
    open = event.newState === "open";
    opener()?.setAttribute("aria-expanded", String(open));
    if (!open) return box.matches(":popover-open") ? undefined : closed();
    await tick();
    place();
  }

  function place() {
    if (!box.isConnected || !open) return;
    const rect = about?.() ?? opener()?.getBoundingClientRect();
    if (!rect) return;
    const { left, top } = beside(rect, box.offsetWidth, box.offsetHeight);
    box.style.left = `${left}px`;
    box.style.top = `${top}px`;
  }

  export function show() {
    if (box.matches(":popover-open")) place();
    else box.showPopover();
  }

  const close = () => box.hidePopover();
</script>

<svelte:window onresize={place} />

<div bind:this={box} {id} popover="auto" role="dialog" aria-label={label} ontoggle={toggled}>
  {#if open}
    {@render children()}
    <button type="button" class="close" onclick={close}>Close</button>
  {/if}
</div>

<style>
  div {
    position: fixed;
    inset: auto;
    width: max-content;
    max-width: min(300px, calc(100vw - 16px));
    max-height: calc(100dvh - 16px);
    margin: 0;
    padding: 10px 12px;
    overflow: auto;
    border: 2px solid var(--action);
    border-radius: 8px;
    background: var(--panel);
    color: var(--ink);
    font: 400 0.92rem/1.3 var(--words);
    text-align: left;
  }

  .close {
    margin-top: 8px;
  }
</style>
