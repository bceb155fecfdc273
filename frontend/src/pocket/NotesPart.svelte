<script lang="ts">
  // The strike sheet in the pocket: one touch for what happened, at which hole and depth; soundings, ice; the file.
  import { constants } from "../lib/api/limits";
  import Choice from "../lib/controls/Choice.svelte";
  import Measured from "../lib/controls/Measured.svelte";
  import { prefs } from "../lib/prefs.svelte";
  import { deepMeasure, depth, shortMeasure, small } from "../lib/units";
  import { isoNow, timeOf } from "../lib/when";
  import type { Chosen } from "./chosen.svelte";
  import DrilledHere from "./DrilledHere.svelte";
  import type { Note, Notes } from "./notes.svelte";
  import SaveNotes from "./SaveNotes.svelte";
  import ScreenPhoto from "./ScreenPhoto.svelte";
  import { asNoted, spotsOf } from "./spots";
  import type { Sheet } from "./told";

  let { sheet, notes, chosen }: { sheet: Sheet; notes: Notes; chosen: Chosen } = $props();

  const LABELS: Record<string, string> = {
    look: "Look",
    follow: "Follow",
    bite: "Bite",
    miss: "Miss",
    fish: "Fish",
    nothing: "Nothing",
  };
  const SHOWN = 30;
  const HAND_M = 0.15;
  const { told } = $derived(sheet);
  const spots = $derived(spotsOf(told, notes));
  const spot = $derived(spots.find((one) => one.name === chosen.spot) ?? spots[0] ?? null);
  const species = $derived(told.day.species);
  const ladder = $derived(told.ladders[species] ?? Object.keys(told.tries));
  let picked: string | null = $state(null);
  const trying = $derived(picked ?? ladder[0]!);
  let fishAt: number | null = $state(null);
  const bottom = $derived(spot?.depth_m ?? chosen.depth_m);
  const at_m = $derived(Math.min(fishAt ?? Math.max(bottom - constants.offBottom, bottom / 2), bottom));
  let ice_m: number | null = $state(null);
  let iceKind = $state("clear");
  let felt_m: number | null = $state(null);
  let said = $state("");
  /** The fish that was just noted: its length may follow. */
  let fish: Note | null = $state.raw(null);
  const mine = $derived(notes.notes.filter((one) => !one.back).toReversed());
  /** What was tried here today, and how it was answered. */
  const answered = $derived(
    notes.notes.filter(
      (one) =>
        !one.back &&
        one.sheet === told.id &&
        one.happening?.trying === trying &&
        one.spot.name === spot?.name,
    ).length,
  );

  function touch(kind: string) {
    if (!spot) return;
    const now = isoNow();
    const happening = {
      at: now,
      kind,
      depth_m: kind === "nothing" ? null : Math.round(at_m * 100) / 100,
      trying,
      species,
      length_m: null,
      kept: null,
      ended: kind === "fish" ? "landed" : null,
      note: "",
    };
    const note = notes.add("happening", asNoted(spot), chosen.gear, { at: now, happening });
    fish = kind === "fish" ? note : null;
    told_(`${LABELS[kind] ?? kind} at ${spot.name} is noted.`);
  }

  /** A fish with its length is another note in the place of the first: each note says one thing for ever. */
  function measured(length_m: number | null, kept: boolean | null) {
    if (!fish?.happening) return;
    const { id, spot: where, unit, lure, at, turn, happening } = fish;
    notes.change(id, { back: true });
    const what = { at, turn, happening: { ...happening, length_m, kept } };
    fish = notes.add("happening", where, { unit, lure }, what);
  }

  function line(kind: "lines in" | "lines out") {
    if (!spot) return;
    notes.add(kind, asNoted(spot), chosen.gear, {});
    told_(`${kind === "lines in" ? "Lines in" : "Lines out"} at ${spot.name}.`);
  }

  function sounding() {
    if (!spot || felt_m === null) return;
    const depth_m = felt_m;
    notes.add("sounding", asNoted(spot), chosen.gear, { depth_m });
    chosen.depth_m = depth_m;
    told_(`${depth(depth_m, prefs.system)} at ${spot.name} is noted.`);
    felt_m = null;
  }

  function ice() {
    if (!spot || ice_m === null) return;
    notes.add("ice", asNoted(spot), chosen.gear, { ice: { thickness_m: ice_m, kind: iceKind } });
    told_(`${small(ice_m, prefs.system)} of ${iceKind} ice at ${spot.name} is noted.`);
    ice_m = null;
  }

  const told_ = (words: string) => (said = words);

  function inWords(note: Note): string {
    const { system } = prefs;
    if (note.kind === "sounding") return `${depth(note.depth_m!, system)} deep`;
    if (note.kind === "ice") return `Ice ${small(note.ice!.thickness_m, system)}, ${note.ice!.kind}`;
    if (note.kind === "photo") return "Photo of the screen";
    if (!note.happening) return note.kind === "lines in" ? "Lines in" : "Lines out";
    const { kind, depth_m, length_m } = note.happening;
    const how = [
      depth_m === null ? "" : `at ${depth(depth_m, system)}`,
      length_m === null ? "" : small(length_m, system),
    ];
    return [LABELS[kind] ?? kind, ...how].filter(Boolean).join(", ");
  }
</script>

<label class="field"
  >Where
  <select
    value={spot?.name ?? ""}
    onchange={(event) => {
      const stands = spots.find((one) => one.name === event.currentTarget.value);
      chosen.spot = stands?.name ?? null;
      if (stands?.depth_m) chosen.depth_m = stands.depth_m;
      fishAt = null;
    }}
  >
    {#each spots as one, n (n)}<option value={one.name}>{one.name}</option>{/each}
  </select></label
>
{#if spot}
  <div class="button-row">
    <button onclick={() => line("lines in")}>Lines in</button>
    <button onclick={() => line("lines out")}>Lines out</button>
  </div>
  <p class="said" role="status">{said}</p>
  <div class="touches" role="group" aria-label="What happened">
    {#each told.happened as kind (kind)}
      <button class:primary={kind === "bite" || kind === "fish"} onclick={() => touch(kind)}
        >{LABELS[kind] ?? kind}</button
      >
    {/each}
  </div>
  {#if fish}
    <div class="fish">
      <Measured
        id="length"
        name="Its length"
        measure={shortMeasure}
        value={fish.happening?.length_m ?? null}
        low={0.03}
        high={2.5}
        empty
        change={(value) => measured(value, fish?.happening?.kept ?? null)}
      />
      <Choice
        name="Kept or let go"
        options={[
          { value: 1, label: "Kept" },
          { value: 0, label: "Let go" },
        ]}
        value={fish.happening?.kept === null ? -1 : Number(fish.happening?.kept)}
        choose={(to) => measured(fish?.happening?.length_m ?? null, to === 1)}
      />
    </div>
  {/if}
  <div class="at">
    <button aria-label="Higher" onclick={() => (fishAt = Math.max(at_m - HAND_M, 0.1))}>↑</button>
    <p>
      At <b class="figures">{depth(at_m, prefs.system)}</b>,
      {depth(Math.max(bottom - at_m, 0), prefs.system)} up
    </p>
    <button aria-label="Lower" onclick={() => (fishAt = Math.min(at_m + HAND_M, bottom))}>↓</button>
  </div>
  <label class="field"
    >What is tried
    <select value={trying} onchange={(event) => (picked = event.currentTarget.value)}>
      {#each ladder as one (one)}<option value={one}>{told.tries[one]}</option>{/each}
    </select></label
  >
  <ScreenPhoto {notes} spot={asNoted(spot)} gear={chosen.gear} />
  <p class="soft">
    {answered === 0 ? "Not noted here yet." : `Noted here ${answered} times.`} In the order in which anglers go
    for {species}
    (common practice).
  </p>
  <details>
    <summary>Depth and ice here</summary>
    <div class="pair">
      <Measured
        id="felt"
        name="Depth that you found"
        measure={deepMeasure(1)}
        value={felt_m}
        low={0.1}
        high={150}
        empty
        change={(value) => (felt_m = value)}
      />
      <button disabled={felt_m === null} onclick={sounding}>Note the depth</button>
    </div>
    <div class="pair">
      <Measured
        id="ice"
        name="Ice that you measured"
        measure={shortMeasure}
        value={ice_m}
        low={0}
        high={3}
        empty
        change={(value) => (ice_m = value)}
      />
      <button disabled={ice_m === null} onclick={ice}>Note the ice</button>
    </div>
    <Choice
      name="Kind of ice"
      options={["clear", "white", "layered"].map((value) => ({ value, label: value }))}
      value={iceKind}
      choose={(to) => (iceKind = to)}
    />
  </details>
{/if}
<DrilledHere {sheet} {notes} {chosen} {spot} />
<SaveNotes {notes} />
<h2>Noted, newest first</h2>
<ol class="lines" aria-label="Notes">
  {#each mine.slice(0, SHOWN) as one (one.id)}
    <li>
      <span><b>{inWords(one)}</b> {one.spot.name}, {timeOf(one.at)}</span>
      <button
        aria-label="Take back: {inWords(one)}, {timeOf(one.at)}"
        onclick={() => notes.change(one.id, { back: true })}>Take back</button
      >
    </li>
  {:else}<li>Nothing yet.</li>{/each}
</ol>
{#if mine.length > SHOWN}<p class="soft">
    And {mine.length - SHOWN} older ones: all of them are in the file.
  </p>{/if}

<style>
  .said {
    min-height: 1.4em;
    margin: 4px 0;
    font-weight: 700;
  }

  .button-row {
    margin-top: 8px;
  }

  .touches {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 8px;
  }

  .touches button {
    min-height: 68px;
    font-size: 1.15rem;
    font-weight: 700;
  }

  .fish,
  .pair {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 8px;
    align-items: end;
    margin-top: 8px;
  }

  .at {
    display: grid;
    grid-template-columns: 72px 1fr 72px;
    gap: 8px;
    align-items: center;
    margin: 10px 0;
    text-align: center;
  }

  .at b {
    font-size: 1.4rem;
  }

  .at button {
    font-size: 1.5rem;
  }

  select {
    width: 100%;
  }

  h2 {
    margin-top: 16px;
  }

  li {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 8px;
  }
</style>
