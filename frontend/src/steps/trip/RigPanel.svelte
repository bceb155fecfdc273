<script lang="ts">
  // The gear and its test before a trip: worked through piece by piece, and what failed stays until it is made again.
  import { api, ok, words } from "../../lib/api/client";
  import { limits } from "../../lib/api/limits";
  import type { GearItem } from "../../lib/api/types";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { undo } from "../../lib/undo.svelte";
  import { when } from "../../lib/when";
  import { failedOf } from "./rig";
  import MustHave from "./MustHave.svelte";
  import Screens from "./Screens.svelte";
  import { trip } from "./trip.svelte";

  const KINDS = limits.GearItemFields.kind.choices;
  const items = $derived(trip.rig?.items ?? []);
  const check = (name: string) => trip.rig?.checks.find((one) => one.name === name);
  const failed = $derived(failedOf(items));
  const todo = $derived(
    items.reduce((sum, one) => sum + one.standing.filter((x) => x.state === "not made").length, 0),
  );

  let trouble = $state("");
  let note = $state("");
  let failing: string | null = $state(null); // which check is being failed: item and check
  let open: number | null = $state(null);
  let name = $state("");
  let kind: (typeof KINDS)[number]["value"] = $state("cable");

  async function attempt(work: () => Promise<unknown>) {
    trouble = "";
    try {
      await work();
      await trip.loadKit();
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const found = (item: GearItem, made: string, passed: boolean, said = "") =>
    attempt(async () => {
      const at = new Date().toISOString();
      await ok(
        api.POST("/api/rig/{row_id}/findings", {
          params: { path: { row_id: item.id } },
          body: { at, made: made as "power", passed, note: said.trim() },
        }),
      );
      failing = null;
      note = "";
    });

  const add = () =>
    attempt(async () => {
      const made = await ok(api.POST("/api/rig", { body: { name: name.trim(), kind, note: "" } }));
      name = "";
      open = made.id;
    });

  const remove = (item: GearItem) =>
    attempt(async () => {
      const removed = await ok(api.DELETE("/api/rig/{row_id}", { params: { path: { row_id: item.id } } }));
      await undo.kept(`${item.name} is removed.`, removed, () => trip.loadKit());
    });

  const STATE = { passed: "passed", failed: "failed, not retested", "not made": "not made yet" } as const;
</script>

<Trouble words={trouble} />
{#each failed as one (`${one.item.id} ${one.check}`)}
  <p class="failed">
    <strong>{one.item.name}</strong> failed its rig test on {when(one.at)} and was not retested:
    {check(one.check)?.words.toLowerCase()}. {one.note}
  </p>
{/each}
<p>
  {todo === 0 ? "Every check was made." : `${todo} checks are not made yet.`} Work through each piece at home, in
  warmth.
</p>
{#each items as item (item.id)}
  <details class="item" open={open === item.id || item.standing.some((one) => one.state === "failed")}>
    <summary
      >{item.name}
      <span class="soft"
        >{item.standing.filter((one) => one.state === "passed").length} of {item.standing.length} passed</span
      ></summary
    >
    {#if item.note}<p class="soft">{item.note}</p>{/if}
    <ul class="lines">
      {#each item.standing as one (one.check)}
        {@const key = `${item.id} ${one.check}`}
        <li class:bad={one.state === "failed"}>
          <p><b>{check(one.check)?.words}.</b> {check(one.check)?.right}</p>
          <p class="state">
            {STATE[one.state]}{one.at ? `, ${when(one.at)}` : ""}{one.note ? `: ${one.note}` : ""}
          </p>
          <div class="button-row">
            <button onclick={() => found(item, one.check, true)}
              >{one.state === "failed" ? "Retested, right now" : "Right"}<span class="unseen">
                {item.name}: {one.check}</span
              ></button
            >
            <button onclick={() => (failing = failing === key ? null : key)} aria-expanded={failing === key}
              >Not right<span class="unseen"> {item.name}: {one.check}</span></button
            >
          </div>
          {#if failing === key}
            <form
              class="button-row"
              onsubmit={(event) => {
                event.preventDefault();
                void found(item, one.check, false, note);
              }}
            >
              <label for="what-seen">What was seen</label>
              <input id="what-seen" bind:value={note} maxlength={limits.FindingFields.note.longest} />
              <button class="primary">Note that it failed</button>
            </form>
          {/if}
        </li>
      {/each}
    </ul>
    <RemoveButton what="Remove {item.name}" remove={() => remove(item)} />
  </details>
{/each}
<form
  class="button-row add"
  onsubmit={(event) => {
    event.preventDefault();
    void add();
  }}
>
  <label for="gear-name">Add a piece</label>
  <input id="gear-name" bind:value={name} maxlength={limits.GearItemFields.name.longest} required />
  <select bind:value={kind} aria-label="What it is">
    {#each KINDS as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
  </select>
  <button>Add</button>
</form>
<h2>Packing</h2>
<p>
  No load on any cable; coils as wide as a plate, never folded; the transducer's face covered; batteries warm
  and upright; the spare fuse where a hand finds it in the dark.
</p>
<Screens />
<MustHave />

<style>
  .failed {
    padding: 8px 12px;
    border-left: 6px solid var(--stop);
    background: var(--panel);
  }

  .item {
    border-bottom: 1.5px solid var(--line);
  }

  summary .soft {
    margin-left: auto;
    font-weight: 400;
  }

  .bad {
    border-left: 4px solid var(--stop);
    padding-left: 8px;
  }

  .state {
    color: var(--soft);
    font-size: 0.92rem;
  }

  .bad .state {
    color: var(--stop);
    font-weight: 600;
  }

  .add label {
    font-weight: 600;
  }

  input {
    min-width: 0;
    flex: 1 1 140px;
  }
</style>
