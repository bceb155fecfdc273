<script lang="ts">
  // Take along: the day and every card of it in one file for a phone; and, at night, what the phones have noted.
  import { api, ok, words } from "../../lib/api/client";
  import { constants, limits } from "../../lib/api/limits";
  import { options, orNone } from "../../lib/controls/options";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth } from "../../lib/units";
  import { Wait } from "../../lib/wait.svelte";
  import { world } from "../../lib/world.svelte";
  import PhoneNotes from "./PhoneNotes.svelte";
  import { trip } from "./trip.svelte";

  const MOST = constants.mostCombinations;
  const EACH_S = 20; // a combination takes about so long, two processors working
  const LISTS = [
    { key: "clarities", name: "Water", choices: options(limits.CardWanted.clarity.choices) },
    { key: "lights", name: "Light", choices: options(limits.CardWanted.light.choices) },
    {
      key: "companies",
      name: "Others fishing near",
      choices: [
        { value: "alone", label: "nobody" },
        { value: "one near", label: "one unit" },
        { value: "several near", label: "several units" },
      ],
    },
  ] as const;
  const FANS = orNone("No fan", [
    { value: "near reach", label: "Near reach" },
    { value: "far reach", label: "Far reach" },
  ]);

  let unit_ids: number[] = $state([]);
  let lure_ids: number[] = $state([]);
  let lists: Record<(typeof LISTS)[number]["key"], string[]> = $state({
    clarities: ["stained"],
    lights: ["day", "night"],
    companies: ["alone"],
  });
  let fan = $state("");
  let trouble = $state("");
  let said = $state("");
  const wait = new Wait();

  $effect.pre(() => {
    if (unit_ids.length === 0 && world.units[0]) unit_ids = [world.units[0].id];
    const usual = world.usualLure ?? world.lures[0];
    if (lure_ids.length === 0 && usual) lure_ids = [usual.id];
  });

  /** Who has no lures yet fishes a usual jig. */
  const lureCount = $derived(world.lures.length === 0 ? 1 : lure_ids.length);
  const count = $derived(
    [unit_ids, ...Object.values(lists)].reduce((product, one) => product * one.length, lureCount),
  );
  const minutes = $derived(Math.max(1, Math.round((count * EACH_S) / 60)));

  const turned = <T,>(list: T[], one: T): T[] =>
    list.includes(one) ? list.filter((other) => other !== one) : [...list, one];

  async function make() {
    trouble = said = "";
    await trip.keep(); // the sheet is of the day as it stands here
    const body = { unit_ids, lure_ids, ...lists, fan: fan || null, units: prefs.system };
    try {
      const params = { path: { lake_id: trip.lake!.id } };
      const sheet = (await wait.during((headers) =>
        ok(
          api.POST("/api/lakes/{lake_id}/pocket", {
            params,
            body: body as never,
            headers,
            parseAs: "blob",
          }),
        ),
      )) as unknown as Blob;
      const link = document.createElement("a");
      link.href = URL.createObjectURL(sheet);
      link.download = `${trip.lake!.name} ${trip.day!.date}.html`.toLowerCase().replace(/[^\w.]+/g, "-");
      link.click();
      URL.revokeObjectURL(link.href);
      said = `Saved as ${link.download}, ${Math.round(sheet.size / 1000)} kB. Send it to the phone and open it in its browser.`;
    } catch (problem) {
      trouble = words(problem);
    }
  }
</script>

<section aria-label="The pocket sheet">
  <h2>A sheet for the pocket</h2>
  <p class="soft">
    One file that opens in a phone without this program and without a network: the day's walk, the card and
    the call sheet for every depth from {depth(2, prefs.system)} to {depth(25, prefs.system)}, one-touch
    notes, cautions.
  </p>
  <fieldset>
    <legend>Units</legend>
    {#each world.units as one (one.id)}
      <label class="tick-line"
        ><input
          type="checkbox"
          checked={unit_ids.includes(one.id)}
          onchange={() => (unit_ids = turned(unit_ids, one.id))}
        />
        {one.name}</label
      >
    {:else}<p>There is no unit yet: set yours up under Gear.</p>{/each}
  </fieldset>
  <fieldset>
    <legend>Lures</legend>
    {#each world.lures as one (one.id)}
      <label class="tick-line"
        ><input
          type="checkbox"
          checked={lure_ids.includes(one.id)}
          onchange={() => (lure_ids = turned(lure_ids, one.id))}
        />
        {one.name}</label
      >
    {:else}<p class="soft">A 5 mm tungsten jig; set up your own under Gear.</p>{/each}
  </fieldset>
  {#each LISTS as { key, name, choices } (key)}
    <fieldset>
      <legend>{name}</legend>
      <div class="row">
        {#each choices as one (one.value)}
          <label class="tick-line"
            ><input
              type="checkbox"
              checked={lists[key].includes(one.value)}
              onchange={() => (lists = { ...lists, [key]: turned(lists[key], one.value) })}
            />
            {one.label}</label
          >
        {/each}
      </div>
    </fieldset>
  {/each}
  <label class="field"
    >Forward fan
    <select bind:value={fan}
      >{#each FANS as one (one.value)}<option value={one.value}>{one.label}</option>{/each}</select
    ></label
  >
  <p role="status">
    {#if count === 0}{world.units.length === 0 ? "" : "Tick at least one of each."}
    {:else if count > MOST}{count} combinations: at most {MOST} fit. Take fewer along.
    {:else}{count === 1 ? "1 combination" : `${count} combinations`}: about {minutes === 1
        ? "a minute"
        : `${minutes} minutes`} to work out.{/if}
  </p>
  <button
    class="primary"
    disabled={count === 0 || count > MOST || wait.busy || !trip.lake}
    onclick={() => void make()}>Make the pocket sheet</button
  >
  <Waiting {wait} words="Working out every card" />
  <Trouble words={trouble} />
  <p role="status">{said}</p>
</section>
<PhoneNotes />

<style>
  section {
    display: grid;
    gap: 8px;
  }

  fieldset {
    margin: 0;
    padding: 0;
    border: 0;
  }

  legend {
    padding: 0;
    font-weight: 600;
  }

  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0 18px;
  }
</style>
