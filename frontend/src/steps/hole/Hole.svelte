<script lang="ts">
  // The Hole step: what is true at this hole, and the other holes there are.
  import { tick, untrack } from "svelte";
  import { undo } from "../../lib/undo.svelte";
  import { api, ifMatch, ok, Problem, words } from "../../lib/api/client";
  import Sources from "../../lib/controls/Sources.svelte";
  import type { Hole } from "../../lib/api/types";
  import BothVersions from "../../lib/controls/BothVersions.svelte";
  import Choice from "../../lib/controls/Choice.svelte";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import { drafts } from "../../lib/drafts.svelte";
  import { listed } from "../../lib/listed";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, type System } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import {
    BOTTOMS,
    CLARITIES,
    type Form,
    fromForm,
    holeDifferences,
    inUnits,
    NEW_HOLE,
    NUMBERS,
    toForm,
  } from "./fields";
  import NumberField from "../../lib/controls/NumberField.svelte";

  let adding = $state(world.hole === null);
  let form: Form = $state(toForm(world.hole ?? NEW_HOLE, prefs.system));
  let refused: Record<string, string> = $state({});
  let said = $state("");
  let saving = $state(false);
  /** The version of the hole that the form is a change of. */
  let base = $state(0);
  /** What is kept now, when the hole was changed elsewhere since. */
  let conflict = $state<Hole | null>(null);

  const stored = $derived(adding || !world.hole ? NEW_HOLE : world.hole);
  const read = $derived(fromForm(form, prefs.system, stored));
  /** Whether saving was tried: before that a new hole is told only of what was typed. */
  let tried = $state(false);
  const problems = $derived.by((): Record<string, string> => {
    if (tried || !adding) return { ...refused, ...read.problems };
    const blank = toForm(NEW_HOLE, prefs.system);
    const typed = Object.entries(read.problems).filter(([key]) =>
      key === "name"
        ? form.name !== blank.name
        : form.numbers[key as "bottom_depth_m"] !== blank.numbers[key as "bottom_depth_m"],
    );
    return { ...refused, ...Object.fromEntries(typed) };
  });
  const changed = $derived(JSON.stringify(form) !== JSON.stringify(toForm(stored, prefs.system)));

  interface Draft {
    form: Form;
    system: System;
    /** The version that was changed: another that has come since is shown before anything is saved. */
    version: number;
  }
  const near = $derived(listed(world.holes, world.holeId));
  const draftKey = (id: number) => (id === 0 ? "hole new" : `hole ${id}`);

  // Another hole chosen, or other units: the form is what was typed there, or what is stored.
  let shownFor: { id: number; system: System } | null = null;
  $effect(() => {
    const { system } = prefs;
    const now = stored;
    if (shownFor?.id === now.id && shownFor.system === system) return;
    untrack(() => {
      const kept = drafts.get<Draft>(draftKey(now.id));
      form = kept ? inUnits(kept.form, kept.system, system, now) : toForm(now, system);
      base = kept?.version ?? now.version;
      refused = {};
      conflict = null;
    });
    shownFor = { id: now.id, system };
  });

  // What is typed is kept until it is saved or undone.
  $effect(() => {
    const draft: Draft = { form: $state.snapshot(form), system: prefs.system, version: base };
    const differs = changed;
    if (shownFor?.id !== stored.id || shownFor.system !== prefs.system) return;
    untrack(() => {
      // As long as nothing more is typed it stays in the units in which it was: no switch there and back rounds it.
      const kept = drafts.get<Draft>(draftKey(stored.id));
      const same = kept && inUnits(kept.form, kept.system, draft.system, stored);
      if (same && JSON.stringify(same) === JSON.stringify(draft.form)) return;
      drafts.keep(draftKey(stored.id), differs ? draft : null);
    });
  });

  function asStored() {
    form = toForm(stored, prefs.system);
    base = stored.version;
    conflict = null;
    refused = {};
  }

  /** Both versions were looked at: mine is a change of the one that is kept now, or theirs is taken. */
  function settle(mine: boolean) {
    const theirs = conflict!;
    conflict = null;
    world.holes = world.holes.map((one) => (one.id === theirs.id ? theirs : one));
    base = theirs.version;
    if (mine) void save();
    else form = toForm(theirs, prefs.system);
  }

  // The bore follows the form while the form makes sense.
  $effect(() => {
    world.draft =
      Object.keys(read.problems).length === 0
        ? { id: stored.id, version: stored.version, ...read.fields }
        : null;
    return () => (world.draft = null);
  });

  $effect(() => {
    if (!world.field) return;
    const field = world.field;
    void tick().then(() => {
      const input = document.getElementById(field) as HTMLInputElement | null;
      input?.focus();
      input?.select();
      world.field = null;
    });
  });

  async function save(event?: Event) {
    event?.preventDefault();
    refused = {};
    said = "";
    tried = true;
    if (Object.keys(read.problems).length > 0) {
      document.getElementById(Object.keys(read.problems)[0]!)?.focus();
      return;
    }
    saving = true;
    try {
      const kept = adding
        ? await ok(api.POST("/api/holes", { body: read.fields }))
        : await ok(
            api.PUT("/api/holes/{hole_id}", {
              params: { path: { hole_id: stored.id }, header: ifMatch(base) },
              body: read.fields,
            }),
          );
      world.holes = adding
        ? [...world.holes, kept]
        : world.holes.map((one) => (one.id === kept.id ? kept : one));
      const was = adding;
      drafts.keep(draftKey(stored.id), null);
      adding = tried = false;
      world.go("hole", kept.id);
      form = toForm(kept, prefs.system);
      base = kept.version;
      shownFor = { id: kept.id, system: prefs.system };
      said = was ? `${kept.name} is added.` : `${kept.name} is saved.`;
    } catch (problem) {
      if (problem instanceof Problem) {
        refused = problem.fields;
        conflict = problem.now as Hole | null;
      }
      said = conflict ? "" : words(problem);
    } finally {
      saving = false;
    }
  }

  async function forget() {
    said = "";
    try {
      const { id, name } = stored;
      const gone = await ok(api.DELETE("/api/holes/{hole_id}", { params: { path: { hole_id: id } } }));
      const off = () => {
        world.holes = world.holes.filter((one) => one.id !== id);
        world.go("hole", world.holes[0]?.id ?? null);
        if (world.holes.length === 0) adding = true;
      };
      await undo.kept(`${name} is removed.`, gone, off, async () => {
        await world.load();
        world.go("hole", world.holes.find((one) => one.name === name)?.id ?? null);
        adding = false;
      });
    } catch (problem) {
      said = words(problem);
    }
  }
</script>

<main class="hole">
  <nav class="list" aria-label="Holes">
    <h2>Holes</h2>
    <ul>
      {#each near as one (one.id)}
        <li>
          <a
            href="#/hole/{one.id}/hole"
            aria-current={!adding && one.id === world.holeId ? "true" : undefined}
            onclick={() => (adding = false)}
          >
            <span>{one.name}{drafts.has(draftKey(one.id)) ? ", not saved" : ""}</span>
            <span class="facts figures">{depth(one.bottom_depth_m, prefs.system)} {one.bottom_kind}</span>
          </a>
        </li>
      {/each}
    </ul>
    {#if near.length < world.holes.length}<p class="facts">
        The newest {near.length} of {world.holes.length}
      </p>{/if}
    <button onclick={() => (adding = true)} disabled={adding}
      >Add a hole{drafts.has(draftKey(0)) ? ", not saved" : ""}</button
    >
  </nav>

  <form onsubmit={save} novalidate>
    <h1>{adding ? "New hole" : stored.name}</h1>
    <div class="grid">
      <div class="field">
        <label for="name">Name</label>
        <input
          id="name"
          bind:value={form.name}
          maxlength="80"
          aria-invalid={problems["name"] ? true : undefined}
        />
        {#if problems["name"]}<p class="problem">{problems["name"]}</p>{/if}
      </div>
      <div class="field">
        <label for="water">Water</label>
        <input id="water" bind:value={form.water} maxlength="80" />
      </div>
      {#each NUMBERS as kind (kind.key)}
        <NumberField
          id={kind.key}
          name={kind.name}
          unit={kind.unit(prefs.system)}
          bind:value={form.numbers[kind.key]}
          step="0.1"
          hint={kind.hint}
          problem={problems[kind.key]}
        />
      {/each}
      <div class="field wide">
        <span class="label">Bottom</span>
        <Choice
          name="Bottom"
          options={BOTTOMS}
          value={form.bottom_kind}
          choose={(value) => (form.bottom_kind = value)}
        />
        <p>Mud leaves a long tail; sand a thin line and a second echo.</p>
      </div>
      <div class="field wide">
        <span class="label">What hangs in the water</span>
        <Choice
          name="What hangs in the water"
          options={CLARITIES}
          value={form.clarity}
          choose={(value) => (form.clarity = value)}
        />
      </div>
      <div class="field wide">
        <label for="note">Note</label>
        <textarea id="note" rows="2" bind:value={form.note} maxlength="500"></textarea>
      </div>
    </div>
    {#if conflict}
      <BothVersions
        what="This hole"
        rows={holeDifferences(form, toForm(conflict, prefs.system))}
        keep={() => settle(true)}
        take={() => settle(false)}
      />
    {/if}
    <div class="acts">
      <button class="primary" type="submit" disabled={saving || (!changed && !adding)}
        >{adding ? "Add this hole" : "Save changes"}</button
      >
      {#if adding && world.holes.length > 0}
        <button type="button" onclick={() => (adding = false)}>{changed ? "Later" : "Cancel"}</button>
      {/if}
      {#if changed}
        <button type="button" onclick={asStored}>{adding ? "Clear the form" : "Undo changes"}</button>
      {/if}
      {#if !adding}
        <RemoveButton what="Remove" remove={forget} />
      {/if}
      <p class="said" role="status">{said}</p>
    </div>
    <Sources of="hole" />
    <p class="caution">
      No ice is safe ice. Measure as you go; local authorities and local rules on holes, lines, shelters and
      vehicles decide. The figure above only draws the picture.
    </p>
  </form>
</main>

<style>
  .hole {
    display: grid;
    grid-template-columns: 260px minmax(0, 1fr);
    min-height: 0;
  }

  .list {
    padding: 16px;
    border-right: 1.5px solid var(--line);
    overflow-y: auto;
  }

  ul {
    list-style: none;
    margin: 8px 0 12px;
    padding: 0;
  }

  li a {
    display: grid;
    align-content: center;
    min-height: 56px;
    padding: 4px 10px;
    border-bottom: 1.5px solid var(--line);
    border-left: 5px solid transparent;
    color: var(--ink);
    text-decoration: none;
  }

  li a[aria-current] {
    border-left-color: var(--action);
    background: var(--panel);
    font-weight: 700;
  }

  .facts {
    font-size: 0.85rem;
    font-weight: 400;
    color: var(--soft);
  }

  .list button {
    width: 100%;
  }

  form {
    padding: 16px 24px 24px;
    overflow-y: auto;
    min-width: 0;
  }

  .grid {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
    gap: 14px 20px;
    max-width: 900px;
    margin-top: 12px;
  }

  .wide {
    grid-column: 1 / -1;
  }

  .wide :global(.choice) {
    flex-wrap: wrap;
    max-width: 640px;
  }

  label,
  .label {
    font-weight: 600;
  }

  .field p {
    font-size: 0.88rem;
    color: var(--soft);
  }

  .field p.problem {
    color: var(--stop);
    font-weight: 600;
  }

  .acts {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 10px;
    margin-top: 16px;
  }

  .said {
    font-weight: 600;
  }

  .caution {
    max-width: 900px;
    margin-top: 16px;
    padding: 10px 14px;
    border-left: 6px solid var(--stop);
    background: var(--panel);
  }

  @media (max-width: 760px) {
    .hole {
      grid-template-columns: minmax(0, 1fr);
      overflow-y: auto;
      align-content: start;
    }

    .list {
      display: none;
    }

    form {
      overflow: visible;
      padding: 12px;
    }
  }

  @media (min-width: 1440px) {
    .hole {
      grid-template-columns: 340px minmax(0, 1fr);
    }

    .grid {
      max-width: 1200px;
    }
  }
</style>
