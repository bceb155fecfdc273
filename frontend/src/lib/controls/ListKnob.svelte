<script lang="ts">
  // A knob that is a place in a list: less and more round what it stands at, and under it what that does.
  import Stepper from "./Stepper.svelte";

  let {
    name,
    options,
    at,
    choose,
    does = "",
    testid,
  }: {
    name: string;
    options: readonly string[];
    at: number;
    choose: (at: number) => void;
    does?: string;
    testid?: string;
  } = $props();
</script>

<div class="knob" role="group" aria-label={name}>
  <span class="name">{name}</span>
  <Stepper
    name={name.toLowerCase()}
    less={() => choose(at - 1)}
    more={() => choose(at + 1)}
    atLeast={at <= 0}
    atMost={at >= options.length - 1}
  >
    <output class="figures" data-testid={testid}>{options[at] ?? ""}</output>
  </Stepper>
  {#if does}<p class="does">{does}</p>{/if}
</div>

<style>
  .knob {
    display: grid;
    grid-template-columns: 1fr auto;
    align-items: center;
    gap: 0 8px;
  }

  .name {
    font-weight: 600;
    line-height: 1.2;
  }

  output {
    min-width: 9ch;
    text-align: center;
    font-size: 0.95rem;
    font-weight: 700;
    line-height: 1.15;
  }

  .does {
    grid-column: 1 / -1;
    font-size: 0.86rem;
    line-height: 1.3;
    color: var(--soft);
  }
</style>
