<script lang="ts">
  // One outing: the day, each stay with what was used and what happened there. Everything can be mended and undone, and
  // the page prints as a day's record for whoever was out.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { Happening, Outing, Stay } from "../../lib/api/types";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import Sources from "../../lib/controls/Sources.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { undo } from "../../lib/undo.svelte";
  import { depth, length, quantity, small, timeOfDay, trim } from "../../lib/units";
  import { timeOf, when } from "../../lib/when";
  import {
    type Form,
    type FormField,
    HAPPENING,
    happeningBody,
    kindWords,
    localTime,
    OUTING,
    outingBody,
    STAY,
    stayBody,
    toForm,
  } from "./forms";
  import Mend from "./Mend.svelte";

  let { id, all }: { id: number; all: string } = $props();

  let outing = $state<Outing | null>(null);
  let trouble = $state("");
  interface Mending {
    title: string;
    fields: readonly FormField[];
    begin: Form;
    keep: (told: Record<string, unknown>) => Promise<unknown>;
  }
  let mending = $state<Mending | null>(null);

  onMount(() => void load());

  async function load() {
    try {
      outing = await ok(api.GET("/api/outings/{outing_id}", { params: { path: { outing_id: id } } }));
      trouble = "";
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const version = (of: { version: number }) => ({ "If-Match": `"${of.version}"` });

  /** Opens the form; what is kept is read again. */
  function mend(title: string, fields: readonly FormField[], begin: Form, keep: Mending["keep"]) {
    mending = {
      title,
      fields,
      begin,
      keep: async (told) => {
        await keep(told);
        await load();
      },
    };
  }

  const mendOuting = (now: Outing) =>
    mend("The outing", OUTING, toForm(OUTING, now, prefs.system), (told) =>
      ok(
        api.PUT("/api/outings/{outing_id}", {
          params: { path: { outing_id: id }, header: version(now) },
          body: outingBody(told, now),
        }),
      ),
    );
  const mendStay = (now: Stay) =>
    mend(`The stay at ${now.hole || "a hole"}`, STAY, toForm(STAY, now, prefs.system), (told) =>
      ok(
        api.PUT("/api/stays/{stay_id}", {
          params: { path: { stay_id: now.id }, header: version(now) },
          body: stayBody(told, now),
        }),
      ),
    );
  const addStay = (now: Outing) =>
    mend(
      "A stay at a hole",
      STAY,
      { began_at: localTime(now.at_holes.at(-1)?.ended_at ?? now.began_at), lines: "1" },
      (told) =>
        ok(
          api.POST("/api/outings/{outing_id}/stays", {
            params: { path: { outing_id: id } },
            body: stayBody(told, null),
          }),
        ),
    );
  const addNote = (stay: Stay) =>
    mend(
      "What happened",
      HAPPENING,
      {
        kind: "look",
        at: localTime(stay.happened.at(-1)?.at ?? stay.began_at),
        trying: stay.trying ?? "",
        species: stay.happened.at(-1)?.species ?? "",
        kept: "",
        ended: "",
      },
      (told) =>
        ok(
          api.POST("/api/stays/{stay_id}/happenings", {
            params: { path: { stay_id: stay.id } },
            body: happeningBody(told),
          }),
        ),
    );
  const mendNote = (now: Happening) =>
    mend("What happened", HAPPENING, toForm(HAPPENING, now, prefs.system), (told) =>
      ok(
        api.PUT("/api/happenings/{happening_id}", {
          params: { path: { happening_id: now.id } },
          body: happeningBody(told),
        }),
      ),
    );

  async function removed(
    ask: () => Promise<{ removal: number }>,
    said: string,
    then: () => unknown = load,
    back: () => unknown = load,
  ) {
    try {
      await undo.kept(said, await ask(), then, back);
    } catch (problem) {
      trouble = words(problem);
    }
  }
  const removeNote = (one: Happening) =>
    removed(
      () => ok(api.DELETE("/api/happenings/{happening_id}", { params: { path: { happening_id: one.id } } })),
      `${kindWords(one.kind)} at ${timeOf(one.at)} is removed.`,
    );
  const removeStay = (one: Stay) =>
    removed(
      () => ok(api.DELETE("/api/stays/{stay_id}", { params: { path: { stay_id: one.id } } })),
      `The stay at ${one.hole || "a hole"} is removed, with what happened there.`,
    );
  function removeOuting() {
    const [list, here] = [all, `${all}/${id}`]; // the page is gone when it is brought back
    return removed(
      () => ok(api.DELETE("/api/outings/{outing_id}", { params: { path: { outing_id: id } } })),
      "The outing is removed, with all that happened on it.",
      () => (location.hash = list),
      () => (location.hash = here),
    );
  }

  const weather = (now: Outing) =>
    [
      now.ice_m === null ? "" : `ice ${small(now.ice_m, prefs.system)}`,
      now.snow,
      now.sky === null
        ? ""
        : { clear: "clear", broken: "some cloud", overcast: "overcast", snowing: "snow falling", fog: "fog" }[
            now.sky
          ],
      now.wind === null ? "" : `${now.wind} wind`,
      now.temperature_c === null
        ? ""
        : quantity({ value: now.temperature_c, unit: "degrees C" }, prefs.system),
      now.pressure_hpa === null ? "" : `${trim(now.pressure_hpa, 0)} hPa`,
      now.pressure_trend === null ? "" : `pressure ${now.pressure_trend}`,
      now.sunset_min === null ? "" : `sunset ${timeOfDay(now.sunset_min)}`,
    ].filter(Boolean);

  const used = (stay: Stay) =>
    [
      stay.depth_m === null ? "" : `${depth(stay.depth_m, prefs.system)} deep`,
      stay.bottom ?? "",
      stay.clarity === null ? "" : `${stay.clarity} water`,
      `${stay.lines} ${stay.lines === 1 ? "line" : "lines"}`,
      stay.lure,
      stay.trying ?? "",
      stay.unit,
      stay.beam,
      stay.settings === null
        ? ""
        : `gain ${trim(stay.settings.gain, 1)}, range ${depth(stay.settings.range_m, prefs.system)}`,
    ].filter(Boolean);

  const about = (one: Happening) =>
    [
      one.species ?? "",
      one.length_m === null ? "" : small(one.length_m, prefs.system),
      one.kept === null ? "" : one.kept ? "kept" : "released",
      one.ended === "lost" ? "came off" : one.ended === "broke" ? "broke off" : "",
      one.note,
    ]
      .filter(Boolean)
      .join(", ");
  const lasted = (stay: Stay) =>
    `${timeOf(stay.began_at)} to ${stay.ended_at === null ? "not noted" : timeOf(stay.ended_at)}`;
</script>

<section class="outing" aria-label="Outing">
  <p class="back"><a class="button" href={all}>All outings</a></p>
  <Trouble words={trouble} />
  {#if outing}
    {@const now = outing}
    <header>
      <h2>{[when(now.began_at, true), now.water].filter(Boolean).join(", ")}</h2>
      {#if now.who}<p class="who">{now.who}</p>{/if}
      <p class="soft">{weather(now).join(" · ")}</p>
      <p class="tally">
        <b class="figures">{trim(now.tally.rod_hours, 1)}</b> hours of one line,
        <b class="figures">{now.tally.looks}</b> looked, <b class="figures">{now.tally.bites}</b> bit,
        <b class="figures">{now.tally.fish}</b> landed
      </p>
      {#if now.note}<p>{now.note}</p>{/if}
      {#if now.missing.length > 0}
        <p class="missing">Would teach more: {now.missing.join(", ")}.</p>
      {/if}
      <div class="button-row controls">
        <button class="primary" onclick={() => mendOuting(now)}>Mend the day</button>
        <button onclick={() => addStay(now)}>Add a stay at a hole</button>
        <button onclick={() => window.print()}>Print the day's record</button>
        <RemoveButton what="Remove this outing" remove={() => void removeOuting()} />
      </div>
    </header>
    {#each now.at_holes as stay (stay.id)}
      <article aria-label="Stay at {stay.hole || 'a hole'}">
        <h3>{stay.hole || "A hole"} <span class="figures">{lasted(stay)}</span></h3>
        <p class="soft">{used(stay).join(" · ")}</p>
        {#if stay.note}<p>{stay.note}</p>{/if}
        <ul class="lines">
          {#each stay.happened as one (one.id)}
            <li>
              <span class="figures time">{timeOf(one.at)}</span>
              <span class="what" class:fish={one.kind === "fish"}
                ><b>{kindWords(one.kind)}</b>
                {#if one.depth_m !== null}at <span class="figures">{depth(one.depth_m, prefs.system)}</span
                  >{#if stay.depth_m !== null && stay.depth_m > one.depth_m}, {length(
                      stay.depth_m - one.depth_m,
                      prefs.system,
                    )} off the bottom{/if}{/if}
                <span class="soft">{about(one)}</span></span
              >
              <span class="controls row">
                <button
                  aria-label="Mend {kindWords(one.kind)} at {timeOf(one.at)}"
                  onclick={() => mendNote(one)}>Mend</button
                >
                <RemoveButton
                  what="Remove {kindWords(one.kind)} at {timeOf(one.at)}"
                  remove={() => void removeNote(one)}
                />
              </span>
            </li>
          {/each}
        </ul>
        <div class="button-row controls">
          <button onclick={() => addNote(stay)}>Add what happened</button>
          <button onclick={() => mendStay(stay)}>Mend the stay</button>
          <RemoveButton
            what="Remove the stay at {stay.hole || 'a hole'}"
            remove={() => void removeStay(stay)}
          />
        </div>
      </article>
    {/each}
  {/if}
  <Sources of="log" />
</section>

{#if mending}
  <Mend {...mending} close={() => (mending = null)} />
{/if}

<style>
  .outing {
    display: grid;
    align-content: start;
    gap: 14px;
    padding: 12px 20px;
    overflow-y: auto;
    min-height: 0;
  }

  .back {
    justify-self: start;
  }

  header,
  article {
    display: grid;
    gap: 6px;
    max-width: 900px;
  }

  .who {
    font-weight: 600;
  }

  .missing {
    padding: 6px 12px;
    border-left: 6px solid var(--action);
    background: var(--panel);
  }

  article {
    padding-top: 10px;
    border-top: 3px solid var(--line);
  }

  h3 {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 4px 16px;
    font-size: 1.1rem;
  }

  h3 span {
    font-weight: 500;
    font-size: 0.95rem;
  }

  .lines li {
    display: grid;
    grid-template-columns: 92px minmax(0, 1fr) auto;
    gap: 8px;
    align-items: center;
  }

  .fish b {
    color: var(--action);
  }

  .row {
    display: flex;
    gap: 6px;
  }

  @media (max-width: 760px) {
    .outing {
      padding: 10px;
    }

    .lines li {
      grid-template-columns: 76px minmax(0, 1fr);
    }

    .row {
      grid-column: 2;
    }
  }

  @media print {
    .controls,
    .back,
    .missing {
      display: none;
    }

    .outing {
      display: block;
      padding: 0;
      overflow: visible;
    }

    .lines li {
      grid-template-columns: 60pt minmax(0, 1fr);
    }
  }
</style>
