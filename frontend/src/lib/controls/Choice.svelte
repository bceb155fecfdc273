<script lang="ts" generics="T extends string | number">
  // One of a few, all in sight.
  let {
    name,
    options,
    value,
    choose,
  }: {
    name: string;
    options: readonly { value: T; label: string }[];
    value: T;
    choose: (value: T) => void;
  } = $props();
</script>

<div class="choice" role="group" aria-label={name}>
  {#each options as option (option.value)}
    <button type="button" aria-pressed={option.value === value} onclick={() => choose(option.value)}
      >{option.label}</button
    >
  {/each}
</div>

<style>
  .choice {
    display: flex;
    flex-wrap: wrap;
    row-gap: 6px;
    padding-left: 1.5px;
  }

  button {
    flex: 1 0 auto;
    padding: 0 8px;
    border-radius: 0;
    margin-left: -1.5px;
    white-space: nowrap;
  }

  button:first-child {
    border-radius: 6px 0 0 6px;
  }

  button:last-child {
    border-radius: 0 6px 6px 0;
  }

  button[aria-pressed="true"] {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--ground);
    font-weight: 600;
  }
</style>
