<script lang="ts">
  // Rounds put together for clients: kinds, level, how many; kept here, and given on as files.
  import { onMount } from "svelte";
  import { undo } from "../../lib/undo.svelte";
  import { api, ok, sendFile, words } from "../../lib/api/client";
  import type { Round, RoundPart, Skill } from "../../lib/api/types";
  import FileButton from "../../lib/controls/FileButton.svelte";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import Stepper from "../../lib/controls/Stepper.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";

  let { skills, play }: { skills: readonly Skill[]; play: (round: Round) => void } = $props();

  let rounds: Round[] = $state([]);
  let name = $state("");
  let parts: RoundPart[] = $state([]);
  let trouble = $state("");

  onMount(() => void load());

  const load = () =>
    tried(async () => {
      rounds = (await ok(api.GET("/api/drills/rounds"))).rounds;
    });

  async function tried(does: () => Promise<void>) {
    try {
      await does();
      trouble = "";
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const keep = () =>
    tried(async () => {
      await ok(api.POST("/api/drills/rounds", { body: { name, parts } }));
      name = "";
      parts = [];
      await load();
    });

  const take = (file: File) =>
    tried(async () => {
      await sendFile("/api/drills/rounds/file", await file.text());
      await load();
    });

  const forget = (round: Round) =>
    tried(async () => {
      const params = { path: { round_id: round.id } };
      const gone = await ok(api.DELETE("/api/drills/rounds/{round_id}", { params }));
      undo.kept(`${round.name} is removed.`, gone, load);
      await load();
    });

  const title = (kind: string) => skills.find((skill) => skill.kind === kind)?.title ?? kind;
  const count = (round: { parts: readonly RoundPart[] }) =>
    round.parts.reduce((sum, part) => sum + part.count, 0);

  function add(kind: string) {
    if (kind) parts = [...parts, { kind: kind as RoundPart["kind"], level: 1, count: 2 }];
  }

  function alter(at: number, change: Partial<RoundPart>) {
    parts = parts.map((part, i) => (i === at ? { ...part, ...change } : part));
  }
</script>

<section class="rounds" aria-label="Rounds for others">
  <Trouble words={trouble} />
  <div class="build">
    <h2>Put a round together</h2>
    <label
      >Name
      <input bind:value={name} maxlength="80" placeholder="Saturday's clients" />
    </label>
    <label
      >Add a kind
      <select
        value=""
        onchange={(event) => {
          add(event.currentTarget.value);
          event.currentTarget.value = "";
        }}
      >
        <option value="">choose one</option>
        {#each skills as skill (skill.kind)}<option value={skill.kind}>{skill.title}</option>{/each}
      </select>
    </label>
    {#if parts.length > 0}
      <ul class="lines">
        {#each parts as part, i (i)}
          <li class="part">
            <b>{title(part.kind)}</b>
            <Stepper
              name="level of {title(part.kind)}"
              less={() => alter(i, { level: part.level - 1 })}
              more={() => alter(i, { level: part.level + 1 })}
              atLeast={part.level === 1}
              atMost={part.level === 3}><output class="figures">level {part.level}</output></Stepper
            >
            <Stepper
              name="questions of {title(part.kind)}"
              less={() => alter(i, { count: part.count - 1 })}
              more={() => alter(i, { count: part.count + 1 })}
              atLeast={part.count === 1}
              atMost={part.count === 20}><output class="figures">{part.count}</output></Stepper
            >
            <button onclick={() => (parts = parts.filter((_, j) => j !== i))}>Take out</button>
          </li>
        {/each}
      </ul>
    {/if}
    <button class="primary" disabled={!name.trim() || parts.length === 0} onclick={keep}
      >Keep this round{parts.length ? ` of ${count({ parts })}` : ""}</button
    >
  </div>
  <div class="kept">
    <h2>Kept rounds</h2>
    {#if rounds.length === 0}<p>None yet. Put one together, or take in a file that a guide gave you.</p>{/if}
    <ul class="lines">
      {#each rounds as round (round.id)}
        <li class="part">
          <b>{round.name}</b> <span>{count(round)} questions</span>
          <button class="primary" onclick={() => play(round)}>Play</button>
          <a class="button" href="/api/drills/rounds/{round.id}/file" download>File</a>
          <RemoveButton what="Remove {round.name}" remove={() => forget(round)} />
        </li>
      {/each}
    </ul>
    <FileButton label="Take in a round file" name="Round file" {take} />
  </div>
</section>

<style>
  .rounds {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
    gap: 20px;
    padding: 12px 0;
    border-block: 1.5px solid var(--line);
  }

  .build,
  .kept {
    display: grid;
    align-content: start;
    gap: 8px;
  }

  label {
    display: grid;
    grid-template-columns: 110px 1fr;
    align-items: center;
  }

  input,
  select {
    min-width: 0;
  }

  .part {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }

  .part b {
    flex: 1 1 160px;
  }

  output {
    min-width: 6ch;
    text-align: center;
  }
</style>
