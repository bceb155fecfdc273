<script lang="ts">
  // What the log teaches: rates an hour with their spans, what is better with how much certainty, what is tangled, the
  // shares of fish that go on, and how high they come.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { Heights, SeasonTold, Shares } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import { options, orNone, SPECIES } from "../../lib/controls/options";
  import Sources from "../../lib/controls/Sources.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { latest } from "../../lib/latest";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, depthUnit, classInUnits, length, sentence, toDepth, trim } from "../../lib/units";
  import { when } from "../../lib/when";
  import Chart from "./Chart.svelte";
  import GainAndWater from "./GainAndWater.svelte";
  import LevelsTable from "./LevelsTable.svelte";
  import { rate } from "./words";

  type Of = SeasonTold["of"];
  type Factor = SeasonTold["factors"][number]["key"];
  const OF: { value: Of; label: string }[] = [
    { value: "looks", label: "Looks" },
    { value: "bites", label: "Bites" },
    { value: "fish", label: "Fish" },
  ];
  const WENT: Record<Of, string> = { looks: "looked", bites: "bit", fish: "were landed" };
  const ANY = orNone("every species", options(SPECIES));

  let of = $state<Of>("bites");
  let species = $state("");
  let factor = $state<Factor>("trying");
  let season = $state<SeasonTold | null>(null);
  let shares = $state<Shares>([]);
  let heights = $state<Heights | null>(null);
  let trouble = $state("");
  let old = $state(true);

  const ask = latest(() => {
    const query = species ? { species } : {};
    return Promise.all([
      ok(api.GET("/api/log/season", { params: { query: { of, ...query } } })),
      ok(api.GET("/api/log/shares", { params: { query: { factor, ...query } } })),
      ok(api.GET("/api/log/heights", { params: { query } })),
    ]);
  });

  async function load() {
    old = true;
    try {
      const answer = await ask();
      if (!answer) return;
      season = answer[0];
      shares = answer[1].shares;
      heights = answer[2];
      trouble = "";
      old = false;
    } catch (problem) {
      trouble = words(problem);
    }
  }
  onMount(() => void load());

  const named = (key: string) => season?.factors.find((one) => one.key === key)?.words.toLowerCase() ?? key;
  const say = (text: string) => classInUnits(text, prefs.system);
  const most = $derived(
    season
      ? Math.max(
          season.overall?.high ?? 0.1,
          ...season.factors.flatMap((one) =>
            one.levels.map((level) => Math.min(level.rate.high, 4 * (season!.overall?.likely ?? 1))),
          ),
        )
      : 1,
  );
  const sure = (level: { better: number; says: "better" | "worse" | "no telling"; tangled?: boolean }) =>
    level.tangled
      ? "tangled"
      : level.says === "better"
        ? `better with ${trim(100 * level.better, 0)} %`
        : level.says === "worse"
          ? `worse with ${trim(100 * (1 - level.better), 0)} %`
          : "too little to say";
  const percent = (value: number) => trim(100 * value, 0);
  const seen = $derived((heights?.heights ?? []).filter((one) => one.hours_from_sunset !== null));
  const points = $derived(
    [
      { name: "bites and misses", colour: "--pine", mine: seen.filter((one) => one.kind !== "fish") },
      { name: "fish", colour: "--action", mine: seen.filter((one) => one.kind === "fish") },
    ].map(({ name, colour, mine }) => ({
      name,
      colour,
      x: mine.map((one) => one.hours_from_sunset!),
      y: mine.map((one) => toDepth(one.height_m, prefs.system)),
    })),
  );
</script>

<section class="teaches" aria-label="What the log teaches">
  <Trouble words={trouble} />
  <div class="asked">
    <Choice name="What is counted" options={OF} value={of} choose={(value) => ((of = value), void load())} />
    <label
      >Of
      <select bind:value={species} onchange={() => void load()}>
        {#each ANY as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
      </select></label
    >
  </div>

  {#if season}
    {@const told = season}
    <div class:old>
      <div class="words" data-testid="sayings">
        {#if told.overall}
          <p class="usual">
            Your usual: <b class="figures">{rate(told.overall.likely)}</b>
            {told.of} an hour of one line (<span class="figures">{rate(told.overall.low)}</span> to
            <span class="figures">{rate(told.overall.high)}</span>), from
            <span class="figures">{trim(told.rod_hours, 0)}</span> hours over {told.outings} outings.
          </p>
        {:else}
          <p class="usual">No hours yet: note when lines went in and out, and it begins to say something.</p>
        {/if}
        <ul>
          {#each told.says as one (one.text + JSON.stringify(one.values))}
            <li>{sentence(one.text, one.values, prefs.system)}</li>
          {/each}
        </ul>
        {#if told.overall}
          <p class="soft">
            Nine of ten such spans hold the truth. Better or worse is only said from 90 % on, against an even
            chance that the thing does not matter at all.
          </p>
        {/if}
      </div>

      {#each told.tangled as one (one.first + one.second + one.level)}
        <p class="tangled">
          <b>Tangled:</b>
          {named(one.first)}
          {say(one.level)} was hardly used but along with {named(one.second)}
          {say(one.along_with)}, so no log can tell which of the two did it.
          {#if one.outing.length > 0}
            To tell them apart, fish {one.outing
              .map(
                (each) =>
                  `${say(each.first)} with ${say(each.second)} for ${trim(each.rod_hours, 0)} hours of one line`,
              )
              .join(", and ")}.
          {/if}
        </p>
      {/each}

      <div class="factors">
        {#each told.factors as one (one.key)}
          <LevelsTable
            caption={one.words}
            heads={["Level", `${told.of} an hour`, "Span", "Rests on", "Says"]}
            rows={one.levels.map((level) => ({
              level: say(level.level),
              spread: level.rate,
              says: level.says,
              sure: sure(level),
              rests: `${trim(level.rod_hours, 0)} h, ${level.count}`,
            }))}
            {most}
            usual={told.overall?.likely ?? 0}
            write={rate}
          />
        {/each}
      </div>

      <h2>Of the fish that came</h2>
      <label class="by"
        >By
        <select bind:value={factor} onchange={() => void load()}>
          {#each told.factors as one (one.key)}
            <option value={one.key}>{one.words}</option>
          {/each}
        </select></label
      >
      <div class="factors">
        {#each shares as share (share.of)}
          <LevelsTable
            caption="Of those that {WENT[share.of]}, how many {WENT[share.then]}: {share.overall
              ? `${percent(share.overall.likely)} of 100 (${percent(share.overall.low)} to ${percent(share.overall.high)})`
              : 'none was noted yet'}"
            heads={["Level", "Share", "Span", "Rests on", "Says"]}
            rows={share.levels.map((level) => ({
              level: say(level.level),
              spread: level.share,
              says: level.says,
              sure: sure(level),
              rests: `${level.count} of ${level.of}`,
            }))}
            most={1}
            usual={share.overall?.likely ?? 0}
            write={(value) => `${percent(value)} %`}
          />
        {/each}
      </div>

      {#if heights}
        {@const high = heights}
        <h2>How high they came</h2>
        <p data-testid="pressure">
          <b>Does pressure decide how high fish come?</b>
          {sentence(high.says.text, high.says.values, prefs.system)}
        </p>
        <div class="pictures">
          {#if seen.length > 0}
            <Chart
              label="Hour from sunset against height off the bottom"
              x="hours from sunset"
              y="off the bottom, {depthUnit(prefs.system)}"
              {points}
            />
          {/if}
          <table>
            <caption>Bites and fish at each height</caption>
            <tbody>
              {#each high.classes as one (one.height)}
                <tr>
                  <th scope="row">{say(one.height)}</th>
                  <td class="figures likely">{one.count}</td>
                  <td class="soft"
                    >{rate(one.rate.likely)} an hour ({rate(one.rate.low)} to {rate(one.rate.high)})</td
                  >
                </tr>
              {/each}
              {#each high.trends as one (one.trend)}
                <tr>
                  <th scope="row">pressure {one.trend}</th>
                  <td class="figures likely">{length(one.mean_m, prefs.system)}</td>
                  <td class="soft"
                    >{length(one.low_m, prefs.system)} to {length(one.high_m, prefs.system)}, {one.days} days, {one.fish}
                    bites</td
                  >
                </tr>
              {/each}
            </tbody>
          </table>
        </div>
        {#if seen.length > 0}
          <details>
            <summary>Every bite and fish as a table</summary>
            <table>
              <thead>
                <tr>
                  <th scope="col">When</th>
                  <th scope="col">From sunset</th>
                  <th scope="col">Off the bottom</th>
                  <th scope="col">Depth</th>
                  <th scope="col">What</th>
                </tr>
              </thead>
              <tbody>
                {#each seen as one (one.at + one.kind + one.depth_m)}
                  <tr>
                    <td>{when(one.at, true)}</td>
                    <td class="figures">{trim(one.hours_from_sunset!, 1)} h</td>
                    <td class="figures">{length(one.height_m, prefs.system)}</td>
                    <td class="figures">{depth(one.depth_m, prefs.system)}</td>
                    <td>{one.kind}{one.species ? `, ${one.species}` : ""}</td>
                  </tr>
                {/each}
              </tbody>
            </table>
          </details>
        {/if}
      {/if}
      <GainAndWater />
      <Sources of="log" />
    </div>
  {/if}
</section>

<style>
  .teaches {
    display: grid;
    align-content: start;
    gap: 12px;
    padding: 14px 20px;
    overflow-y: auto;
    min-height: 0;
  }

  .asked,
  .by {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 20px;
  }

  .asked label,
  .by {
    color: var(--soft);
  }

  select {
    color: var(--ink);
  }

  .words {
    padding: 10px 14px;
    border: 3px solid var(--action);
    border-radius: 8px;
    background: var(--panel);
    max-width: 1100px;
  }

  .usual {
    font-size: 1.2rem;
    font-weight: 600;
  }

  .words ul {
    margin: 6px 0;
    padding-left: 20px;
  }

  .words li {
    padding: 2px 0;
  }

  .tangled {
    max-width: 1100px;
    margin-top: 10px;
    padding: 6px 12px;
    border-left: 6px solid var(--action);
    background: var(--panel);
  }

  h2 {
    margin-top: 20px;
  }

  .factors {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(min(100%, 520px), 1fr));
    gap: 14px 36px;
    margin-top: 14px;
    align-items: start;
  }

  .pictures {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(min(100%, 460px), 1fr));
    gap: 14px 36px;
    margin-top: 8px;
    align-items: start;
  }

  table {
    border-collapse: collapse;
    width: 100%;
  }

  caption {
    text-align: left;
    font-weight: 700;
    padding-bottom: 2px;
  }

  tbody th,
  td,
  thead th {
    padding: 4px 6px;
    text-align: left;
    font-weight: 400;
    border-bottom: 1.5px solid var(--line);
    line-height: 1.2;
  }

  tbody th {
    width: 34%;
  }

  .likely {
    text-align: right;
    font-weight: 700;
    white-space: nowrap;
  }

  @media (max-width: 760px) {
    .teaches {
      padding: 10px;
    }

    tbody th,
    td {
      padding: 4px 3px;
    }
  }
</style>
