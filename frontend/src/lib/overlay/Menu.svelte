<script lang="ts">
  // A menu button after the WAI-ARIA authoring practices: Enter, Space and Down open it at its first line, Up at its
  // last; arrows, Home, End and first letters move; Escape and Tab close it, and Escape gives the focus back.
  import { tick } from "svelte";
  import { beside } from "./focus";

  interface Item {
    name: string;
    /** Where it leads. */
    href: string;
  }

  let { id, name, label, items }: { id: string; name: string; label?: string; items: readonly Item[] } =
    $props();

  let box: HTMLElement;
  let button: HTMLElement;
  let open = $state(false);

  const lines = () => [...box.querySelectorAll<HTMLElement>("[role=menuitem]")];

  async function toggled(event: ToggleEvent) {
    open = event.newState === "open";
    if (!open) return;
    await tick();
    const { left, top } = beside(button.getBoundingClientRect(), box.offsetWidth, box.offsetHeight, 4);
    box.style.left = `${left}px`;
    box.style.top = `${top}px`;
    lines()
      .at(last ? -1 : 0)
      ?.focus();
    last = false;
  }

  /** Whether it opens at its last line. */
  let last = false;

  function onButton(event: KeyboardEvent) {
    if (event.key !== "ArrowDown" && event.key !== "ArrowUp") return;
    event.preventDefault();
    event.stopPropagation();
    last = event.key === "ArrowUp";
    box.showPopover();
  }

  function onLine(event: KeyboardEvent) {
    const all = lines();
    const at = all.indexOf(document.activeElement as HTMLElement);
    const count = all.length;
    const letter = event.key.length === 1 && event.key !== " " ? event.key.toLowerCase() : null;
    const after = [...all.slice(at + 1), ...all.slice(0, at + 1)];
    const to =
      {
        ArrowDown: all[(at + 1) % count],
        ArrowUp: all[(at + count - 1) % count],
        Home: all[0],
        End: all[count - 1],
      }[event.key] ??
      (letter ? after.find((one) => one.textContent.trim().toLowerCase().startsWith(letter)) : undefined);
    event.stopPropagation();
    if (event.key === "Tab") box.hidePopover();
    if (event.key === " ") all[at]?.click();
    if (!to && event.key !== " ") return;
    event.preventDefault();
    to?.focus();
  }

  function chosen() {
    box.hidePopover();
    button.focus();
  }
</script>

<button
  bind:this={button}
  type="button"
  popovertarget={id}
  aria-haspopup="menu"
  aria-expanded={open}
  aria-label={label}
  onkeydown={onButton}>{name}</button
>
<div
  bind:this={box}
  {id}
  popover="auto"
  role="menu"
  tabindex="-1"
  aria-label={label ?? name}
  ontoggle={toggled}
  onkeydown={onLine}
>
  {#if open}
    {#each items as item (item.name)}
      <a role="menuitem" tabindex="-1" href={item.href} onclick={chosen}>{item.name}</a>
    {/each}
  {/if}
</div>

<style>
  div {
    position: fixed;
    inset: auto;
    margin: 0;
    padding: 4px;
    min-width: 160px;
    max-width: calc(100vw - 16px);
    max-height: calc(100dvh - 16px);
    overflow: auto;
    border: 1.5px solid var(--ink);
    border-radius: 8px;
    background: var(--panel);
    color: var(--ink);
  }

  [role="menuitem"] {
    display: flex;
    align-items: center;
    width: 100%;
    min-height: var(--target);
    padding: 0 12px;
    border: 0;
    border-radius: 4px;
    background: none;
    color: inherit;
    text-align: left;
    text-decoration: none;
  }

  [role="menuitem"]:hover,
  [role="menuitem"]:focus {
    background: var(--band);
  }
</style>
