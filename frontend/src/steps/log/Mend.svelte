<script lang="ts">
  // Something of the log on a form: what is not known stays empty, what is wrong is said beside its field.
  import { untrack } from "svelte";
  import { Problem, words } from "../../lib/api/client";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Dialog from "../../lib/overlay/Dialog.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { type Form, type FormField, fromForm } from "./forms";

  let {
    title,
    fields,
    begin,
    keep,
    close,
  }: {
    title: string;
    fields: readonly FormField[];
    begin: Form;
    keep: (told: Record<string, unknown>) => Promise<unknown>;
    close: () => void;
  } = $props();

  const form = $state<Form>({ ...untrack(() => begin) });
  let wrong = $state<Record<string, string>>({});
  let trouble = $state("");
  let busy = $state(false);

  async function submit(event: Event) {
    event.preventDefault();
    const read = fromForm(fields, form, prefs.system);
    wrong = read.wrong;
    trouble = "";
    if (Object.keys(wrong).length > 0) return;
    busy = true;
    try {
      await keep(read.told);
      close();
    } catch (problem) {
      if (problem instanceof Problem)
        for (const [field, said] of Object.entries(problem.fields)) wrong[field.split(".").at(-1)!] = said;
      trouble = words(problem);
    } finally {
      busy = false;
    }
  }
</script>

<Dialog label={title} {close}>
  <form onsubmit={submit}>
    <h2>{title}</h2>
    <Trouble words={trouble} />
    <div class="fields">
      {#each fields as field (field.key)}
        {@const id = `mend-${field.key}`}
        <div class="field" class:wide={field.kind === "long"}>
          <label for={id}
            >{field.name}
            {#if field.measure}<span class="unit">{field.measure.unit(prefs.system)}</span>{/if}</label
          >
          {#if field.choices}
            <select {id} bind:value={form[field.key]} aria-describedby="{id}-hint">
              {#each field.choices as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
            </select>
          {:else if field.kind === "long"}
            <textarea {id} rows="2" bind:value={form[field.key]} aria-describedby="{id}-hint"></textarea>
          {:else if field.kind === "time"}
            <input
              {id}
              type="datetime-local"
              step="1"
              bind:value={form[field.key]}
              aria-invalid={wrong[field.key] ? true : undefined}
              aria-describedby="{id}-hint"
            />
          {:else}
            <input
              {id}
              inputmode={field.kind === "number" ? "decimal" : undefined}
              autocomplete="off"
              bind:value={form[field.key]}
              aria-invalid={wrong[field.key] ? true : undefined}
              aria-describedby="{id}-hint"
            />
          {/if}
          <p id="{id}-hint" class:wrong={wrong[field.key]}>{wrong[field.key] ?? field.hint ?? ""}</p>
        </div>
      {/each}
    </div>
    <div class="button-row">
      <button class="primary" disabled={busy}>Keep it</button>
      <button type="button" onclick={close}>Leave it as it was</button>
    </div>
  </form>
</Dialog>

<style>
  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(min(100%, 210px), 1fr));
    gap: 6px 14px;
    margin: 10px 0;
  }

  .wide {
    grid-column: 1 / -1;
  }

  label {
    font-weight: 600;
  }

  .unit {
    color: var(--soft);
    font-weight: 400;
  }

  input,
  select,
  textarea {
    width: 100%;
    min-width: 0;
  }

  p {
    font-size: 0.84rem;
    color: var(--soft);
  }

  p.wrong {
    color: var(--stop);
    font-weight: 600;
  }

  [aria-invalid="true"] {
    border-color: var(--stop);
  }
</style>
