<script lang="ts">
  // The season as a strip of outings, each as wide as it was long and as high as it was good; and all in a list.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { OutingSummary } from "../../lib/api/types";
  import Sources from "../../lib/controls/Sources.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { when } from "../../lib/when";
  import { trim } from "../../lib/units";
  import { localTime, OUTING, outingBody } from "./forms";
  import Mend from "./Mend.svelte";
  import SeasonStrip from "./SeasonStrip.svelte";
  import { rate } from "./words";

  let { open }: { open: (id: number) => string } = $props();

  let outings = $state<OutingSummary[] | null>(null);
  let trouble = $state("");
  let adding = $state(false);

  onMount(() => void load());

  async function load() {
    try {
      outings = (await ok(api.GET("/api/outings"))).outings;
      trouble = "";
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function add(told: Record<string, unknown>) {
    const added = await ok(api.POST("/api/outings", { body: outingBody(told, null) }));
    location.hash = open(added.id);
  }

  const anHour = (one: OutingSummary) =>
    one.tally.rod_hours > 0 ? one.tally.bites / one.tally.rod_hours : 0;
</script>

<section class="outings" aria-label="Outings">
  <Trouble words={trouble} />
  {#if outings && outings.length === 0}
    <h2>No outing yet</h2>
    <p>
      What you note on the strike sheet begins one by itself: touch <b>Lines in</b> there when you fish. An earlier
      day can be written down here, or taken in from a file.
    </p>
  {:else if outings}
    <SeasonStrip {outings} {open} />
  {/if}
  <div class="button-row">
    <button onclick={() => (adding = true)}>Write down an outing</button>
  </div>
  {#if outings && outings.length > 0}
    <table>
      <thead>
        <tr>
          <th scope="col">Outing</th>
          <th scope="col" class="figure">Hours of one line</th>
          <th scope="col" class="figure">Looks</th>
          <th scope="col" class="figure">Bites</th>
          <th scope="col" class="figure">Fish</th>
          <th scope="col" class="figure">Bites an hour</th>
          <th scope="col" class="more">Not noted yet</th>
        </tr>
      </thead>
      <tbody>
        {#each outings as one (one.id)}
          <tr>
            <th scope="row">
              <a href={open(one.id)}>{when(one.began_at, true)}</a>
              <span class="soft">{[one.water, one.who].filter(Boolean).join(", ")}</span>
            </th>
            <td class="figures">{trim(one.tally.rod_hours, 1)}</td>
            <td class="figures">{one.tally.looks}</td>
            <td class="figures">{one.tally.bites}</td>
            <td class="figures">{one.tally.fish}</td>
            <td class="figures">{one.tally.rod_hours > 0 ? rate(anHour(one)) : ""}</td>
            <td class="more soft">{one.missing.join(", ")}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  <Sources of="log" />
</section>

{#if adding}
  <Mend
    title="An outing"
    fields={OUTING}
    begin={{ began_at: localTime(new Date().toISOString()).slice(0, 16) }}
    keep={add}
    close={() => (adding = false)}
  />
{/if}

<style>
  .outings {
    display: grid;
    align-content: start;
    gap: 12px;
    padding: 14px 20px;
    overflow-y: auto;
    min-height: 0;
  }

  table {
    border-collapse: collapse;
    width: 100%;
    max-width: 1200px;
  }

  th,
  td {
    padding: 6px 8px;
    text-align: left;
    border-bottom: 1.5px solid var(--line);
    vertical-align: top;
  }

  thead th {
    font-size: 0.88rem;
    color: var(--soft);
    font-weight: 600;
  }

  td.figures,
  .figure {
    text-align: right;
    white-space: nowrap;
  }

  tbody th {
    font-weight: 400;
  }

  tbody th a {
    display: inline-flex;
    align-items: center;
    min-height: 34px;
    color: var(--ink);
    font-weight: 600;
  }

  tbody th span {
    display: block;
  }

  @media (max-width: 760px) {
    .outings {
      padding: 10px;
    }

    .more {
      display: none;
    }

    th,
    td {
      padding: 6px 4px;
    }

    tbody th a {
      min-height: 44px;
    }

    thead .figure {
      white-space: normal;
      font-size: 0.8rem;
    }
  }
</style>
