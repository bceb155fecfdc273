<script lang="ts">
  // A number in the reader's own measure, passed on in SI as soon as it is one that is accepted.
  import { prefs } from "../prefs.svelte";
  import NumberField from "./NumberField.svelte";
  import type { Measure } from "../units";

  let {
    id,
    name,
    measure,
    value,
    low,
    high,
    hint = "",
    empty = false,
    change,
  }: {
    id: string;
    name: string;
    measure: Measure;
    value: number | null;
    low: number;
    high: number;
    hint?: string;
    /** Whether nothing may stand there. */
    empty?: boolean;
    change: (value: number | null) => void;
  } = $props();

  const system = $derived(prefs.system);
  const shown = $derived(value === null ? "" : measure.show(value, system));
  /** What is typed, until it is left; null while what is kept is shown. */
  let typed: string | null = $state(null);
  let problem = $state("");

  const unit = $derived(measure.unit(system));
  const accepted = $derived(`${measure.show(low, system)} to ${measure.show(high, system)} ${unit}`.trim());

  function read(text: string) {
    typed = text;
    const plain = text.trim().replace(",", ".");
    if (plain === "" && empty) {
      problem = "";
      return change(null);
    }
    if (plain === shown) {
      problem = "";
      return;
    }
    const si = plain === "" ? Number.NaN : measure.read(Number(plain), system);
    if (!Number.isFinite(si)) problem = `${name}: type a number. Accepted: ${accepted}.`;
    // Half of the last figure shown may be lost by showing a limit in another measure.
    else if (si < low - slack(low) || si > high + slack(high))
      problem = `${name} is ${text.trim()}. Accepted: ${accepted}.`;
    else {
      problem = "";
      change(Math.min(Math.max(si, low), high));
    }
  }

  const slack = (limit: number) =>
    Math.abs(measure.read(Number(measure.show(limit, system)), system) - limit) + 1e-9;
</script>

<div
  onfocusout={() => {
    if (!problem) typed = null;
  }}
>
  <NumberField
    {id}
    {name}
    {unit}
    step=""
    hint={hint ?? ""}
    problem={problem || undefined}
    bind:value={() => typed ?? shown, read}
  />
</div>
