<script lang="ts">
  // What a unit must have for one's own waters, and which cone for which depth: by the model, with no makers and prices.
  import { api, ok, words } from "../../lib/api/client";
  import type { Cone, WaterFished, Worth } from "../../lib/api/types";
  import NumberKnob from "../../lib/controls/NumberKnob.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length, quantity, sentence, trim } from "../../lib/units";
  import { Wait } from "../../lib/wait.svelte";
  import { world } from "../../lib/world.svelte";

  const MOST = 12;
  const system = $derived(prefs.system);
  let lureId = $state(world.usualLure?.id ?? null);
  let unitId = $state(world.units[0]?.id ?? null);
  let others = $state(1);
  let left: number[] = $state([]); // holes that do not count
  let found: Worth[] = $state([]);
  let coneAt: number | null = $state(null);
  let cones: Cone[] = $state([]);
  let trouble = $state("");
  const wait = new Wait();
  const coneWait = new Wait();

  const holes = $derived(world.holes.slice(0, MOST));
  const waterOf = (hole: (typeof holes)[number]): WaterFished => ({
    depth_m: hole.bottom_depth_m,
    bottom_kind: hole.bottom_kind,
    clarity: hole.clarity,
    others,
    fish_length_m: 0.3,
  });
  const waters = $derived(holes.filter((one) => !left.includes(one.id)).map(waterOf));

  async function work() {
    trouble = "";
    if (lureId === null) return;
    const body = { waters, lure_id: lureId, unit_id: unitId };
    try {
      found = (await wait.during((headers) => ok(api.POST("/api/trip/worth", { body, headers })))).worth;
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function cone() {
    trouble = "";
    const hole = holes.find((one) => one.id === coneAt) ?? holes[0];
    if (!hole || lureId === null) return;
    coneAt = hole.id;
    const body = { water: waterOf(hole), lure_id: lureId };
    try {
      cones = (await coneWait.during(() => ok(api.POST("/api/trip/cones", { body })))).cones;
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const own = $derived(world.units.find((one) => one.id === unitId));
</script>

<details>
  <summary>What a unit must have for your waters</summary>
  {#if holes.length === 0 || lureId === null}
    <p>It is worked out from your holes and your lure: put in some of both first.</p>
  {:else}
    <p class="soft">
      A plain unit (one beam of 12°, one pulse, three colours) is taken to each of your holes, and again with
      one thing more. What that changes is said in numbers of the model.
    </p>
    <Trouble words={trouble} />
    <fieldset>
      <legend>Waters</legend>
      {#each holes as one (one.id)}
        <label class="tick-line"
          ><input
            type="checkbox"
            checked={!left.includes(one.id)}
            onchange={(event) =>
              (left = event.currentTarget.checked ? left.filter((id) => id !== one.id) : [...left, one.id])}
          />
          {one.name}, {depth(one.bottom_depth_m, system)}, {one.bottom_kind}, {one.clarity}</label
        >
      {/each}
    </fieldset>
    <NumberKnob
      name="Other units near"
      value={others}
      low={0}
      high={4}
      step={1}
      show={String}
      change={(value) => (others = value)}
    />
    <label class="field"
      >Lure
      <select bind:value={lureId}>
        {#each world.lures as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select></label
    >
    <label class="field"
      >Beside it, your unit
      <select bind:value={unitId}>
        {#each world.units as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select></label
    >
    <button class="primary" onclick={() => void work()} disabled={wait.busy || waters.length === 0}
      >Work it out</button
    >
    <Waiting {wait} words="Taking units to your waters" />
    <ol class="lines" aria-label="What a unit must have" class:old={wait.shown}>
      {#each found as one (one.capability)}
        <li>
          <p>
            <b>{one.words}:</b>
            <strong class:must={one.share >= 0.6}>{one.verdict}.</strong>
            {sentence(one.why.text, one.why.values, system)}
          </p>
          <p class="soft">
            {#if own && one.has}{own.name} has it{one.own ? `: ${quantity(one.own, system)}` : ""}.
            {:else if own}{own.name} has it not{one.own ? `: ${quantity(one.own, system)}` : ""}.{/if}
          </p>
        </li>
      {/each}
    </ol>
    <h3>Which cone for which depth</h3>
    <div class="button-row">
      <label class="field"
        >Hole
        <select bind:value={coneAt}>
          {#each holes as one (one.id)}<option value={one.id}
              >{one.name}, {depth(one.bottom_depth_m, system)}</option
            >{/each}
        </select></label
      >
      <button onclick={() => void cone()} disabled={coneWait.busy}>Compare cones</button>
    </div>
    <Waiting wait={coneWait} words="Comparing cones" />
    {#if cones.length > 0}
      <div class="table">
        <table>
          <thead>
            <tr
              ><th scope="col">Cone</th><th scope="col">at the lure</th><th scope="col">at the bottom</th><th
                scope="col">fish seen</th
              ><th scope="col">hidden at the edge</th><th scope="col">lure over noise</th><th scope="col"
                >others</th
              ></tr
            >
          </thead>
          <tbody>
            {#each cones as one (one.width_deg)}
              <tr class="figures">
                <th scope="row">{one.width_deg}°</th>
                <td>{depth(one.at_lure_m, system)}</td>
                <td>{depth(one.at_bottom_m, system)}</td>
                <td>{depth(one.fish_seen_m, system)}</td>
                <td>{length(one.hidden_m, system)}</td>
                <td>{one.window_db === null ? "lost" : `${trim(one.window_db, 0)} dB`}</td>
                <td>{trim(one.neighbour_percent, 1)} %</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      <p class="soft">
        A wide cone finds more and hides more; below 0 dB the water lights before the lure does.
      </p>
    {/if}
  {/if}
</details>

<style>
  fieldset {
    margin: 8px 0;
    padding: 4px 12px 8px;
    border: 1.5px solid var(--line);
    border-radius: 6px;
  }

  legend,
  .field {
    font-weight: 600;
  }

  .must {
    color: var(--action);
  }

  .lines {
    padding: 0;
    list-style: none;
  }

  .primary {
    margin: 8px 0;
  }

  h3 {
    margin-top: 12px;
    font-size: 1rem;
  }

  .table {
    overflow: auto;
  }

  th,
  td {
    padding: 3px 10px 3px 0;
    border-bottom: 1.5px solid var(--line);
    text-align: left;
    font-weight: 400;
    white-space: nowrap;
  }

  thead th {
    font-weight: 600;
    vertical-align: bottom;
    white-space: normal;
  }
</style>
