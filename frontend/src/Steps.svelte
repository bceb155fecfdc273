<script lang="ts">
  // The steps in working order. On a narrow screen as many as a thumb can tell apart, the rest under a menu; what a
  // person has hidden is under the menu on any screen.
  import Menu from "./lib/overlay/Menu.svelte";
  import { prefs } from "./lib/prefs.svelte";
  import { inRow } from "./lib/steps";
  import { STEPS, world } from "./lib/world.svelte";

  let width = $state(window.innerWidth);
  let foot = $state(window.innerWidth <= 760);

  const open = $derived(world.step);
  const { row, rest } = $derived(
    inRow(STEPS, open, prefs.hiddenSteps, foot ? width : Number.POSITIVE_INFINITY),
  );
  const address = (key: string) => `#/hole/${world.holeId ?? 0}/${key}`;

  function measure() {
    width = window.innerWidth;
    foot = width <= 760;
  }
</script>

<svelte:window onresize={measure} />

<nav aria-label="Steps">
  {#each row as step (step.key)}
    <a href={address(step.key)} aria-current={open === step.key ? "page" : undefined}>{step.name}</a>
  {/each}
  {#if rest.length > 0}
    <Menu
      id="more-steps"
      name="More"
      label="More steps"
      items={rest.map((step) => ({ name: step.name, href: address(step.key) }))}
    />
  {/if}
</nav>

<style>
  nav {
    display: flex;
    gap: 4px;
    flex: 1;
    min-width: 0;
  }

  a,
  nav > :global(button) {
    display: grid;
    place-items: center;
    min-height: var(--target);
    min-width: 68px;
    padding: 0 12px;
    color: var(--ink);
    text-decoration: none;
    border: 0;
    border-bottom: 4px solid transparent;
    border-top: 4px solid transparent;
    border-radius: 0;
    background: none;
  }

  a[aria-current="page"] {
    border-bottom-color: var(--action);
    font-weight: 700;
  }

  @media (max-width: 920px) {
    a,
    nav > :global(button) {
      min-width: 44px;
      padding: 0 6px;
    }
  }

  @media (max-width: 760px) {
    nav {
      gap: 0;
      grid-row: 4;
      border-top: 1.5px solid var(--line);
      background: var(--panel);
      padding-bottom: env(safe-area-inset-bottom);
    }

    a,
    nav > :global(button) {
      flex: 1 1 0;
      min-width: 0;
      padding: 0 1px;
      font-size: clamp(0.76rem, 3.5vw, 1rem);
      border-bottom-color: transparent;
    }

    a[aria-current="page"] {
      border-bottom-color: transparent;
      border-top-color: var(--action);
    }
  }
</style>
