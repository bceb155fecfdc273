<script lang="ts">
  // A unit's profile: its own knob numbers, ranges, steps, and its ladders' names and colours.
  import { api, ok, words } from "../../lib/api/client";
  import type { Odd, Profile } from "../../lib/api/types";
  import { untrack } from "svelte";
  import { drafts } from "../../lib/drafts.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence, type System, trim } from "../../lib/units";
  import Field from "./Field.svelte";
  import { fromText, GROUPS, inUnits, toText, wrongWith } from "./unit";

  let {
    unit,
    id,
    draftKey,
    save,
  }: { unit: Profile; id: number; draftKey: string; save: (fields: Profile) => void } = $props();

  const first = (() => unit)();
  const system = prefs.system;
  const stored = {
    name: first.name,
    text: toText(first, system),
    flags: {
      free_range: first.free_range,
      auto_range: first.auto_range,
      window_beside: first.window_beside,
      directional: first.directional,
    },
    ladders: $state.snapshot(first.ladders),
  };
  type Draft = typeof stored & { system: System };
  const begun = (() => {
    const kept = drafts.get<Draft>(draftKey);
    return kept ? { ...kept, text: inUnits(kept.text, kept.system, system, first) } : structuredClone(stored);
  })();
  let name = $state(begun.name);
  let text = $state(begun.text);
  let flags = $state(begun.flags);
  let ladders = $state(begun.ladders);

  // What is typed is kept until it is saved or undone.
  const typed = $derived({
    name,
    text: $state.snapshot(text),
    flags: $state.snapshot(flags),
    ladders: $state.snapshot(ladders),
  });
  const changed = $derived(JSON.stringify(typed) !== JSON.stringify(stored));
  $effect(() => {
    const draft = changed ? { ...typed, system } : null;
    untrack(() => drafts.keep(draftKey, draft));
  });

  function undo() {
    const back = structuredClone(stored);
    [name, text, flags, ladders] = [back.name, back.text, back.flags, back.ladders];
  }

  const groups = GROUPS(system);
  const FLAGS = [
    ["free_range", "Range knob is free"],
    ["auto_range", "Has automatic range"],
    ["window_beside", "Window beside the column"],
    ["directional", "Transducer looks to one side"],
  ] as const;
  const wrong = $derived(
    Object.fromEntries(
      groups.flatMap((group) => group.lines.map(({ key }) => [key, wrongWith(key, text[key])])),
    ),
  );
  const ready = $derived(name.trim() !== "" && Object.values(wrong).every((one) => one === ""));

  /** The form as a profile: the plain object, for the program to judge. */
  const profile = $derived<Profile>({
    ...fromText($state.snapshot(unit) as Profile, name.trim(), text, system),
    ...flags,
    ladders: $state.snapshot(ladders),
  });

  // What the form alone cannot know (one thing against another) the program says while it is typed.
  let refused = $state("");
  let odd: Odd[] = $state([]);
  $effect(() => {
    const now = profile;
    if (!ready) {
      refused = "";
      odd = [];
      return;
    }
    const waiting = window.setTimeout(() => {
      ok(api.POST("/api/units/check", { params: { query: { unit_id: id } }, body: now }))
        .then((found) => ([refused, odd] = ["", found.odd]))
        .catch((problem: unknown) => ([refused, odd] = [words(problem), []]));
    }, 400);
    return () => window.clearTimeout(waiting);
  });

  function submit(event: SubmitEvent) {
    event.preventDefault();
    save(profile);
  }
</script>

<form onsubmit={submit}>
  <h2>{first.name}</h2>
  <Field id="unit-name" name="Name" bind:value={name} hint="1 to 80 characters" />
  {#each groups as group (group.title)}
    <fieldset>
      <legend>{group.title}</legend>
      <div class="fields">
        {#each group.lines as line (line.key)}
          <Field
            id="unit-{line.key}"
            name={line.name}
            bind:value={text[line.key]}
            hint={line.hint}
            wrong={wrong[line.key]}
          />
        {/each}
      </div>
      {#if group.title === "Range and windows"}
        <div class="flags">
          {#each FLAGS as [key, label] (key)}
            <button type="button" aria-pressed={flags[key]} onclick={() => (flags[key] = !flags[key])}
              >{label}</button
            >
          {/each}
        </div>
      {/if}
    </fieldset>
  {/each}
  <fieldset>
    <legend>Ladders: name and colour the steps as your unit shows them</legend>
    {#each ladders as ladder, i (i)}
      <details>
        <summary>{ladder.name}, {ladder.steps.length} steps</summary>
        <p class="hint">
          Name, colour by day, colour by night, and where each begins, in colour steps above the first.
        </p>
        <div class="steps">
          {#each ladder.steps as step, k (k)}
            <label>
              <span class="unseen">Name of step {k + 1}</span>
              <input bind:value={step.name} maxlength="24" />
            </label>
            <label
              ><span class="unseen">Day colour of {step.name}</span><input
                type="color"
                bind:value={step.rime}
              /></label
            >
            <label
              ><span class="unseen">Night colour of {step.name}</span><input
                type="color"
                bind:value={step.lantern}
              /></label
            >
            <label
              ><span class="unseen">{step.name} begins, in colour steps</span><input
                type="number"
                step="0.5"
                min="-3"
                max="40"
                bind:value={step.begins}
              /></label
            >
          {/each}
        </div>
      </details>
    {/each}
  </fieldset>
  {#each odd as one (one.asked.text)}
    <div class="odd" role="status">
      <p>{sentence(one.asked.text, one.asked.values, prefs.system)}</p>
      <button type="button" onclick={() => (text.gain_db = trim(one.db_per_step, 3))}
        >Take {trim(one.db_per_step, 3)} dB a step</button
      >
    </div>
  {/each}
  {#if refused}<p class="refused" role="alert">{refused}</p>{/if}
  <button class="primary" disabled={!ready || refused !== ""}>Save the unit</button>
  {#if changed}<button type="button" onclick={undo}>Undo changes</button>{/if}
</form>

<style>
  .odd {
    display: flex;
    gap: 14px;
    align-items: center;
    padding: 8px 12px;
    border-left: 6px solid var(--action);
    background: var(--panel);
  }

  .odd button {
    flex: 0 0 auto;
  }

  form {
    display: grid;
    gap: 12px;
    justify-items: stretch;
    max-width: 900px;
  }

  form > .primary {
    justify-self: start;
  }

  fieldset {
    display: grid;
    gap: 10px;
    margin: 0;
    padding: 10px 14px 14px;
    border: 1.5px solid var(--line);
    border-radius: 8px;
    min-width: 0;
  }

  legend {
    padding: 0 6px;
    font-weight: 700;
  }

  .fields {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
    gap: 10px 16px;
  }

  .hint {
    margin-bottom: 6px;
    font-size: 0.84rem;
    color: var(--soft);
  }

  .refused {
    color: var(--stop);
    font-weight: 600;
  }

  .flags {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }

  summary {
    display: flex;
    align-items: center;
    min-height: var(--target);
    cursor: pointer;
    font-weight: 600;
  }

  .steps {
    display: grid;
    grid-template-columns: minmax(0, 200px) 64px 64px 88px;
    gap: 6px;
  }

  .steps input {
    width: 100%;
  }

  input[type="color"] {
    padding: 4px;
  }

  /* On a phone the name has a line of its own, or it would be cut off. */
  @media (max-width: 760px) {
    .steps {
      grid-template-columns: 1fr 1fr 1fr;
    }

    .steps > label:nth-child(4n + 1) {
      grid-column: 1 / -1;
    }
  }
</style>
