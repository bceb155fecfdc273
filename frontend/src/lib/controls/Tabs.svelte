<script lang="ts" generics="T extends string">
  // Tabs after the WAI-ARIA authoring practices: one tab stop, arrows, Home and End move and choose at once. A tab with
  // an address is a link too, so that it can be kept. What a tab shows carries `panelOf(id, current)`.
  let {
    id,
    label,
    tabs,
    current,
    choose = () => undefined,
    address,
  }: {
    id: string;
    label: string;
    tabs: readonly { key: T; name: string }[];
    current: T;
    choose?: (key: T) => void;
    address?: (key: T) => string;
  } = $props();

  let list: HTMLElement;

  function key(event: KeyboardEvent) {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    const at = tabs.findIndex((one) => one.key === current);
    const to = {
      ArrowRight: (at + 1) % tabs.length,
      ArrowLeft: (at + tabs.length - 1) % tabs.length,
      Home: 0,
      End: tabs.length - 1,
      " ": at,
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation(); // arrows move the lure, elsewhere on a screen with tabs
    const tab = list.children[to] as HTMLElement;
    tab.focus();
    if (address) location.hash = address(tabs[to]!.key);
    else choose(tabs[to]!.key);
  }
</script>

<div class="tabs" role="tablist" aria-label={label} bind:this={list}>
  {#each tabs as one (one.key)}
    {@const chosen = one.key === current}
    {@const role = {
      role: "tab",
      id: `${id}-${one.key}`,
      "aria-selected": chosen,
      "aria-controls": `${id}-panel`,
      tabindex: chosen ? 0 : -1,
      onkeydown: key,
    }}
    {#if address}
      <a {...role} href={address(one.key)}>{one.name}</a>
    {:else}
      <button {...role} type="button" onclick={() => choose(one.key)}>{one.name}</button>
    {/if}
  {/each}
</div>

<style>
  .tabs {
    display: flex;
    flex-wrap: wrap;
    border-bottom: 1.5px solid var(--line);
    background: var(--panel);
  }

  a,
  button {
    display: grid;
    place-items: center;
    min-height: var(--target);
    padding: 0 12px;
    color: var(--ink);
    text-decoration: none;
    border: 0;
    border-radius: 0;
    border-bottom: 4px solid transparent;
    background: none;
    text-align: center;
    line-height: 1.1;
  }

  [aria-selected="true"] {
    font-weight: 700;
    border-bottom-color: var(--action);
  }

  :focus-visible {
    outline-offset: -3px;
  }

  @media (max-width: 760px) {
    a,
    button {
      flex: 1;
      /* Many of them stand in two rows rather than too narrow for a finger. */
      min-width: 44px;
      padding: 0 4px;
    }
  }

  @media (forced-colors: active) {
    [aria-selected="true"] {
      outline: 2px solid Highlight;
      outline-offset: -2px;
    }
  }
</style>
