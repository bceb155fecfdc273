<script lang="ts">
  // A lure by form, material and size, in millimetres as tackle is sold.
  import type { LureFields } from "../../lib/api/types";
  import { trim } from "../../lib/units";
  import Field from "./Field.svelte";

  let { fields, isNew, save }: { fields: LureFields; isNew: boolean; save: (fields: LureFields) => void } =
    $props();

  const FORMS = [
    ["jig", "Small jig"],
    ["baited jig", "Jig with plastic or bait"],
    ["chain jig", "Jig with a hanging chain"],
    ["two jigs", "Two jigs on one line"],
    ["spoon", "Spoon"],
    ["minnow", "Horizontal minnow bait"],
    ["camera", "Camera, as a size reference"],
  ] as const;
  const MATERIALS = ["tungsten", "tungsten carbide", "lead", "brass", "steel"] as const;
  const first = (() => fields)();
  const mm = (m: number) => trim(m * 1000, 1);

  let name = $state(first.name);
  let form = $state(first.form);
  let material = $state(first.material);
  let diameter = $state(mm(first.diameter_m));
  let long = $state(mm(first.length_m || 0.04));
  let spacing = $state(mm(first.spacing_m || 0.06));

  const hasLength = $derived(["baited jig", "spoon", "minnow", "camera"].includes(form));
  const hasSpacing = $derived(["chain jig", "two jigs"].includes(form));
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
      length_m: hasLength ? Number(long) / 1000 : 0,
      spacing_m: hasSpacing ? Number(spacing) / 1000 : 0,
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
        {#each FORMS as [value, label] (value)}<option {value}>{label}</option>{/each}
      </select>
    </div>
    <div class="choose">
      <label for="lure-material">Material</label>
      <select id="lure-material" bind:value={material}>
        {#each MATERIALS as value (value)}<option {value}>{value}</option>{/each}
      </select>
    </div>
    <Field
      id="lure-diameter"
      name={form === "spoon" ? "Width, mm" : "Diameter, mm"}
      bind:value={diameter}
      hint="1 to 20 for a jig, to 40 for a body or blade"
      wrong={bad(diameter)}
    />
    {#if hasLength}
      <Field
        id="lure-length"
        name="Length, mm"
        bind:value={long}
        hint="Of blade, body or bait"
        wrong={bad(long)}
      />
    {/if}
    {#if hasSpacing}
      <Field
        id="lure-spacing"
        name={form === "two jigs" ? "Spacing, mm" : "Chain, mm"}
        bind:value={spacing}
        hint={form === "two jigs" ? "10 to 1000" : "20 to 120"}
        wrong={bad(spacing)}
      />
    {/if}
  </div>
  <button class="primary" disabled={!ready}>{isNew ? "Add this lure" : "Save the lure"}</button>
</form>

<style>
  form {
    display: grid;
    gap: 12px;
    justify-items: start;
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
