<script lang="ts">
  // Lines in and lines out: hours count, also those without a fish. The first touch on the sheet puts lines in by itself.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { Hole, StayHere } from "../../lib/api/types";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { trim } from "../../lib/units";
  import { timeOf } from "../../lib/when";

  let { hole, touched }: { hole: Hole; touched: number } = $props();

  let stay = $state<StayHere["stay"]>(null);
  let trouble = $state("");
  let said = $state("");

  async function load() {
    try {
      stay = (await ok(api.GET("/api/holes/{hole_id}/stay", { params: { path: { hole_id: hole.id } } })))
        .stay;
    } catch (problem) {
      trouble = words(problem);
    }
  }
  onMount(() => void load());
  $effect(() => {
    if (touched > 0) void load();
  });

  async function does(what: () => Promise<StayHere>, text: string) {
    try {
      stay = (await what()).stay;
      said = text;
      trouble = "";
    } catch (problem) {
      trouble = words(problem);
    }
  }
  const arrive = (lines: number, gain_steps = 0) =>
    does(
      () =>
        ok(
          api.POST("/api/holes/{hole_id}/stay", {
            params: { path: { hole_id: hole.id } },
            body: { lines, gain_steps },
          }),
        ),
      `${lines} ${lines === 1 ? "line" : "lines"} in.`,
    );
  async function leave() {
    const last = stay;
    await does(
      () => ok(api.POST("/api/holes/{hole_id}/stay/end", { params: { path: { hole_id: hole.id } } })),
      "",
    );
    if (last && !trouble) {
      stay = null;
      said = `Lines out. The log has ${trim(last.tally.rod_hours, 1)} hours of one line here since ${timeOf(last.began_at)}.`;
    }
  }
</script>

<section class="here" aria-label="At this hole">
  <Trouble words={trouble} />
  {#if stay}
    {@const now = stay}
    <p>
      Fishing here since <b class="figures">{timeOf(now.began_at)}</b>, {now.lines}
      {now.lines === 1 ? "line" : "lines"}{now.lure ? `, ${now.lure}` : ""}{#if now.settings}, gain
        <b class="figures">{trim(now.settings.gain, 1)}</b>{/if}
    </p>
    <div class="button-row">
      <button aria-label="One line fewer" disabled={now.lines <= 1} onclick={() => void arrive(now.lines - 1)}
        >− line</button
      >
      <button aria-label="One line more" disabled={now.lines >= 30} onclick={() => void arrive(now.lines + 1)}
        >+ line</button
      >
      {#if now.settings && now.unit_id !== null}
        <button
          aria-label="Gain one step less"
          title="As your unit shows it: the log learns which gain worked"
          onclick={() => void arrive(now.lines, -1)}>− gain</button
        >
        <button aria-label="Gain one step more" onclick={() => void arrive(now.lines, 1)}>+ gain</button>
      {/if}
      <button onclick={() => void leave()}>Lines out</button>
    </div>
  {:else}
    <p>{said || "Hours count, also those without a fish."}</p>
    <button onclick={() => void arrive(1)}>Lines in</button>
  {/if}
</section>

<style>
  .here {
    grid-area: here;
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: center;
    gap: 6px 16px;
    padding: 4px 0;
    border-bottom: 1.5px solid var(--line);
  }
</style>
