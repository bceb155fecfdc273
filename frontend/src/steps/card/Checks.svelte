<script lang="ts">
  // Checks before fishing, each ticked with a glove.
  import type { HoleCard, Said } from "../../lib/api/types";

  let {
    checks,
    tick,
    write,
  }: {
    checks: HoleCard["checks"];
    tick: (name: string, done: boolean) => Promise<void>;
    write: (one: Said) => string;
  } = $props();
</script>

<section aria-label="Checks">
  <h2>Before fishing</h2>
  <ul class="checks lines">
    {#each checks as one (one.name)}
      <li>
        <label
          ><input
            type="checkbox"
            checked={one.done}
            onchange={(e) => tick(one.name, e.currentTarget.checked)}
          />{write(one.said)}</label
        >
      </li>
    {/each}
  </ul>
</section>

<style>
  .checks li {
    padding: 0;
  }

  .checks label {
    display: flex;
    align-items: center;
    gap: 12px;
    min-height: var(--target);
    cursor: pointer;
  }

  .checks input {
    width: 28px;
    min-height: 28px;
    height: 28px;
    flex: none;
    accent-color: var(--action);
  }

  @media print {
    .checks label {
      min-height: 0;
      gap: 6pt;
    }

    .checks input {
      width: 10pt;
      height: 10pt;
      min-height: 0;
    }
  }
</style>
