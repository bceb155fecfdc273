<script lang="ts">
  // The parts of a step, each with an address of its own.
  let {
    label,
    tabs,
    current,
    address,
  }: {
    label: string;
    tabs: readonly { key: string; name: string }[];
    current: string;
    address: (key: string) => string;
  } = $props();
</script>

<nav class="tabs" aria-label={label}>
  {#each tabs as one (one.key)}
    <a href={address(one.key)} aria-current={current === one.key ? "page" : undefined}>{one.name}</a>
  {/each}
</nav>

<style>
  .tabs {
    display: flex;
    border-bottom: 1.5px solid var(--line);
    background: var(--panel);
  }

  a {
    display: grid;
    place-items: center;
    min-height: var(--target);
    padding: 0 18px;
    color: var(--ink);
    text-decoration: none;
    border-bottom: 4px solid transparent;
    text-align: center;
    line-height: 1.1;
  }

  a[aria-current="page"] {
    font-weight: 700;
    border-bottom-color: var(--action);
  }

  @media (max-width: 760px) {
    a {
      flex: 1;
      padding: 0 4px;
    }
  }
</style>
