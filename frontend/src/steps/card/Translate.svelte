<script lang="ts">
  // The card's settings on another unit, by equal picture; what cannot be matched is said.
  import { api, ok, words } from "../../lib/api/client";
  import type { CardWanted, HoleCard, Said, Translated } from "../../lib/api/types";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { Wait } from "../../lib/wait.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { world } from "../../lib/world.svelte";
  import { type Line, settingLines } from "./lines";
  import Rows from "./Rows.svelte";

  let { made, wanted, write }: { made: HoleCard; wanted: CardWanted; write: (one: Said) => string } =
    $props();

  const OWN = ["face", "lure", "picture", "width"]; // the same on any unit, or the card's alone
  let other = $state("");
  let translated = $state<Translated | null>(null);
  let trouble = $state("");
  const wait = new Wait();

  // Another card is another translation.
  $effect(() => {
    void made;
    other = "";
    translated = null;
  });

  const bare = (line: Line): Line => ({ ...line, key: `other ${line.key}`, does: "" });

  async function translate(id: string) {
    other = id;
    translated = null;
    trouble = "";
    if (!id) return;
    try {
      translated = await wait.during((headers) =>
        ok(api.POST("/api/hole-card/translate", { body: { card: wanted, to_unit_id: Number(id) }, headers })),
      );
    } catch (problem) {
      trouble = words(problem);
    }
  }
</script>

<section class="translate" aria-label="On another unit">
  <h2>The same picture on another unit</h2>
  <label class="unseen" for="translate">Unit</label>
  <select id="translate" value={other} onchange={(event) => translate(event.currentTarget.value)}>
    <option value="">choose a unit</option>
    {#each world.units.filter((one) => one.id !== made.unit.id) as one (one.id)}
      <option value={String(one.id)}>{one.name}</option>
    {/each}
  </select>
  {#if trouble}<p role="alert">{trouble}</p>{/if}
  <Waiting {wait} words="Translating the card" />
  {#if translated}
    {@const there = { ...made, unit: translated.unit, settings: translated.settings }}
    <div data-testid="translated">
      <Rows
        lines={settingLines(there, prefs.system)
          .filter((one) => !OWN.includes(one.key))
          .map(bare)}
      />
    </div>
    <ul class="lines">
      {#each translated.matched as one, i (i)}<li>{write(one)}</li>{/each}
      {#each translated.unmatched as one, i (i)}<li class="differs">
          <b>Not alike:</b>
          {write(one)}
        </li>{/each}
    </ul>
  {/if}
</section>

<style>
  select {
    width: 100%;
    margin-top: 4px;
  }

  @media print {
    section {
      display: none;
    }
  }
</style>
