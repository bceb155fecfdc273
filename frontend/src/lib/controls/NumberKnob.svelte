<script lang="ts">
  // A number with less and more, kept inside its span.
  import Stepper from "./Stepper.svelte";

  let {
    name,
    value,
    low,
    high,
    step,
    show,
    change,
  }: {
    name: string;
    value: number;
    low: number;
    high: number;
    step: number;
    show: (value: number) => string;
    change: (value: number) => void;
  } = $props();

  const to = (next: number) => change(Math.min(Math.max(Math.round(next / step) * step, low), high));
</script>

<div class="knob" role="group" aria-label={name}>
  <span class="name">{name}</span>
  <Stepper
    name={name.toLowerCase()}
    less={() => to(value - step)}
    more={() => to(value + step)}
    atLeast={value <= low + 1e-9}
    atMost={value >= high - 1e-9}
  >
    <output class="figures">{show(value)}</output>
  </Stepper>
</div>

<style>
  .knob {
    display: grid;
    grid-template-columns: 1fr auto;
    align-items: center;
    gap: 8px;
  }

  .name {
    font-weight: 600;
    line-height: 1.2;
  }

  output {
    min-width: 7ch;
    text-align: center;
    font-weight: 700;
  }
</style>
