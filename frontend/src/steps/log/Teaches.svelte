<script lang="ts">
  // What the log teaches: rates an hour with their spans, what is better with how much certainty, what is tangled, the
  // shares of fish that go on, and how high they come.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { SeasonTold, Shares } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import { options, orNone, SPECIES } from "../../lib/controls/options";
  import Sources from "../../lib/controls/Sources.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { latest } from "../../lib/latest";
  import { prefs } from "../../lib/prefs.svelte";
  import { classInUnits, sentence, trim } from "../../lib/units";
  import GainAndWater from "./GainAndWater.svelte";
  import HowHigh from "./HowHigh.svelte";
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
  let trouble = $state("");
  let old = $state(true);

  const ask = latest(() => {
    const query = species ? { species } : {};
    return Promise.all([
      ok(api.GET("/api/log/season", { params: { query: { of, ...query } } })),
      ok(api.GET("/api/log/shares", { params: { query: { factor, ...query } } })),
    ]);
  });

  async function load() {
    old = true;
    try {
      const answer = await ask();
      if (!answer) return;
      season = answer[0];
      shares = answer[1].shares;
      trouble = "";
      old = false;
    } catch (problem) {
      trouble = words(problem);
    }
  }
  // The other two are weighed while one reads the first, so that they are there when they are asked for.
  onMount(async () => {
    await load();
    for (const other of OF) {
      if (other.value !== of && !trouble) {
        await api.GET("/api/log/season", { params: { query: { of: other.value } } }).catch(() => undefined);
      }
    }
  });

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

      <HowHigh {species} />
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

  @media (max-width: 760px) {
    .teaches {
      padding: 10px;
    }
  }
</style>
