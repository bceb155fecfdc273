<script lang="ts">
  // A unit's profile: its own knob numbers, ranges, steps, and its ladders' names and colours.
  import { api, ok, words } from "../../lib/api/client";
  import type { Odd, Profile } from "../../lib/api/types";
  import { untrack } from "svelte";
  import { drafts } from "../../lib/drafts.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence, type System, trim } from "../../lib/units";
  import Colours from "./Colours.svelte";
  import Field from "./Field.svelte";
  import Sketch from "./Sketch.svelte";
  import { fromText, GROUPS, inUnits, QUESTIONS, toText, wrongWith } from "./unit";

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

  const questions = QUESTIONS(system);
  const groups = GROUPS(system);
  const FLAGS = [
    ["free_range", "Range knob is free"],
    ["auto_range", "Has automatic range"],
    ["window_beside", "Window beside the column"],
    ["directional", "Transducer looks to one side"],
  ] as const;
  const wrong = $derived(
    Object.fromEntries(
      [...questions, ...groups].flatMap((group) =>
        group.lines.map(({ key }) => [key, wrongWith(key, text[key])]),
      ),
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

{#snippet fields(lines: readonly { key: keyof typeof text; name: string; hint: string }[])}
  {#each lines as line (line.key)}
    <Field
      id="unit-{line.key}"
      name={line.name}
      bind:value={text[line.key]}
      hint={line.hint}
      wrong={wrong[line.key]}
    />
  {/each}
{/snippet}

<form onsubmit={submit}>
  <h2>{first.name}</h2>
  <Field id="unit-name" name="Name" bind:value={name} hint="1 to 80 characters" />
  {#each questions as question (question.asks)}
    <fieldset class="question">
      <legend>{question.title}</legend>
      <Sketch of={question.asks} colours={ladders[0]?.steps.map((step) => step[prefs.theme])} />
      <div class="fields">
        {#if question.asks === "colours"}
          <div class="ladder"><Colours bind:ladder={ladders[0]!} short /></div>
        {/if}
        {@render fields(question.lines)}
      </div>
    </fieldset>
  {/each}
  <h3>All else</h3>
  <p class="soft">
    What the unit you copied has is near enough for most: open a line only for what you know to be different.
  </p>
  {#each groups as group (group.title)}
    {@const bad = group.lines.some(({ key }) => wrong[key])}
    <details open={bad || undefined}>
      <summary class:bad>{group.title}{bad ? ": something here is wrong" : ""}</summary>
      <div class="fields">{@render fields(group.lines)}</div>
      {#if group.flags}
        <div class="flags">
          {#each FLAGS as [key, label] (key)}
            <button type="button" aria-pressed={flags[key]} onclick={() => (flags[key] = !flags[key])}
              >{label}</button
            >
          {/each}
        </div>
      {/if}
    </details>
  {/each}
  {#each ladders as ladder, i (i)}
    <details>
      <summary>Colours of {ladder.name}, {ladder.steps.length} steps</summary>
      <p class="hint">
        Name, colour by day, colour by night, and where each begins, in colour steps above the first.
      </p>
      <Colours bind:ladder={ladders[i]!} />
    </details>
  {/each}
  {#each odd as one (one.asked.text)}
    <div class="odd" role="status">
      <p>{sentence(one.asked.text, one.asked.values, prefs.system)}</p>
      <button type="button" onclick={() => (text.gain_db = trim(one.db_per_step, 3))}
        >Take {trim(one.db_per_step, 3)} dB a step</button
      >
    </div>
  {/each}
  {#if refused}<p class="refused" role="alert">{refused}</p>{/if}
  <div class="acts">
    <button class="primary" disabled={!ready || refused !== ""}>Save the unit</button>
    {#if changed}<button type="button" onclick={undo}>Undo changes</button>{/if}
  </div>
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

  /* In reach from any of the questions. */
  .acts {
    position: sticky;
    bottom: -16px;
    display: flex;
    gap: 8px;
    padding: 8px 0;
    background: var(--ground);
    border-top: 1.5px solid var(--line);
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

  .bad {
    color: var(--stop);
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

  .question {
    display: flex;
    flex-wrap: wrap;
    align-items: start;
    gap: 4px 16px;
  }

  .question .fields {
    flex: 1 1 220px;
    grid-template-columns: repeat(auto-fit, minmax(min(200px, 100%), 1fr));
    min-width: 0;
  }

  .ladder {
    grid-column: 1 / -1;
  }

  details .fields {
    margin-bottom: 10px;
  }

  h3 {
    margin: 8px 0 0;
    font-size: 1.05rem;
  }

  @media (min-width: 1440px) {
    form {
      max-width: none;
      grid-template-columns: 1fr 1fr;
    }

    form > :global(:not(.question, details)) {
      grid-column: 1 / -1;
    }
  }
</style>
