<script lang="ts">
  // One text field of a form, with what is accepted under it.
  let {
    id,
    name,
    value = $bindable(),
    hint = "",
    wrong = "",
  }: { id: string; name: string; value: string; hint?: string; wrong?: string } = $props();
</script>

<div class="field">
  <label for={id}>{name}</label>
  <input {id} bind:value aria-invalid={wrong !== ""} aria-describedby="{id}-hint" autocomplete="off" />
  <p id="{id}-hint" class:wrong={wrong !== ""}>{wrong || hint}</p>
</div>

<style>
  label {
    font-weight: 600;
  }

  input {
    width: 100%;
  }

  input[aria-invalid="true"] {
    border-color: var(--stop);
  }

  p {
    font-size: 0.84rem;
    line-height: 1.25;
    color: var(--soft);
  }

  p.wrong {
    color: var(--stop);
    font-weight: 600;
  }
</style>
