<script lang="ts">
  // A number in the reader's units, with its name, its unit, what it means and what is wrong with it.
  let {
    id,
    name,
    unit,
    value = $bindable(),
    step,
    hint,
    problem,
  }: {
    id: string;
    name: string;
    unit: string;
    value: string;
    step: string;
    hint: string;
    problem: string | undefined;
  } = $props();
</script>

<div class="field">
  <label for={id}>{name} <span class="unit">{unit}</span></label>
  <input
    {id}
    type="text"
    inputmode="decimal"
    autocomplete="off"
    data-step={step}
    bind:value
    aria-invalid={problem ? true : undefined}
    aria-describedby="{id}-hint"
  />
  <p id="{id}-hint" class:problem>{problem ?? hint}</p>
</div>

<style>
  label {
    font-weight: 600;
  }

  .unit {
    color: var(--soft);
    font-weight: 400;
  }

  input {
    font: 600 1.15rem var(--figures);
    width: 100%;
  }

  input[aria-invalid="true"] {
    border-color: var(--stop);
    border-width: 2.5px;
  }

  p {
    font-size: 0.88rem;
    color: var(--soft);
  }

  p.problem {
    color: var(--stop);
    font-weight: 600;
  }
</style>
