<script lang="ts">
  // A lure by form, material and size, in millimetres as tackle is sold.
  import { forms, limits } from "../../lib/api/limits";
  import type { LureFields } from "../../lib/api/types";
  import { untrack } from "svelte";
  import { drafts } from "../../lib/drafts.svelte";
  import { trim } from "../../lib/units";
  import Field from "./Field.svelte";

  let {
    fields,
    isNew,
    draftKey,
    save,
  }: { fields: LureFields; isNew: boolean; draftKey: string; save: (fields: LureFields) => void } = $props();

  const first = (() => fields)();
  const mm = (m: number) => trim(m * 1000, 1);

  const stored = {
    name: first.name,
    form: first.form,
    material: first.material,
    diameter: mm(first.diameter_m),
    long: mm(first.length_m || 0.04),
    spacing: mm(first.spacing_m || 0.06),
  };
  const begun = (() => drafts.get<typeof stored>(draftKey) ?? stored)();
  let { name, form, material, diameter, long, spacing } = $state(begun);

  // What is typed is kept until it is saved or undone.
  const typed = $derived({ name, form, material, diameter, long, spacing });
  const changed = $derived(JSON.stringify(typed) !== JSON.stringify(stored));
  $effect(() => {
    const draft = changed ? typed : null;
    untrack(() => drafts.keep(draftKey, draft));
  });

  function undo() {
    ({ name, form, material, diameter, long, spacing } = stored);
  }

  const shape = $derived(forms.find((one) => one.name === form)!);
  const between = ([low, high]: readonly [number, number]) => `${mm(low)} to ${mm(high)}`;
  const bad = (text: string) =>
    Number.isFinite(Number(text.trim() || Number.NaN)) ? "" : `"${text}" is not a number.`;
  const ready = $derived(name.trim() !== "" && ![diameter, long, spacing].some(bad));

  function submit(event: SubmitEvent) {
    event.preventDefault();
    save({
      name: name.trim(),
      form,
      material,
      diameter_m: Number(diameter) / 1000,
      length_m: shape.length_m ? Number(long) / 1000 : 0,
      spacing_m: shape.spacing_m ? Number(spacing) / 1000 : 0,
    });
  }
</script>

<form onsubmit={submit}>
  <h2>{isNew ? "A new lure" : first.name}</h2>
  <div class="fields">
    <Field id="lure-name" name="Name" bind:value={name} hint="1 to 80 characters" />
    <div class="choose">
      <label for="lure-form">Form</label>
      <select id="lure-form" bind:value={form}>
        {#each limits.LureFields.form.choices as { value, label } (value)}<option {value}>{label}</option
          >{/each}
      </select>
    </div>
    <div class="choose">
      <label for="lure-material">Material</label>
      <select id="lure-material" bind:value={material}>
        {#each limits.LureFields.material.choices as { value, label } (value)}<option {value}>{label}</option
          >{/each}
      </select>
    </div>
    <Field
      id="lure-diameter"
      name="{shape.diameter_words}, mm"
      bind:value={diameter}
      hint={between(shape.diameter_m)}
      wrong={bad(diameter)}
    />
    {#if shape.length_m}
      <Field
        id="lure-length"
        name="{shape.length_words}, mm"
        bind:value={long}
        hint={between(shape.length_m)}
        wrong={bad(long)}
      />
    {/if}
    {#if shape.spacing_m}
      <Field
        id="lure-spacing"
        name="{shape.spacing_words}, mm"
        bind:value={spacing}
        hint={between(shape.spacing_m)}
        wrong={bad(spacing)}
      />
    {/if}
  </div>
  <div class="acts">
    <button class="primary" disabled={!ready}>{isNew ? "Add this lure" : "Save the lure"}</button>
    {#if changed}<button type="button" onclick={undo}>Undo changes</button>{/if}
  </div>
</form>

<style>
  form {
    display: grid;
    gap: 12px;
    justify-items: start;
  }

  .acts {
    display: flex;
    gap: 8px;
  }

  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
    gap: 12px 16px;
    width: 100%;
  }

  .choose {
    display: grid;
    gap: 2px;
    align-content: start;
  }

  .choose label {
    font-weight: 600;
  }
</style>
