<script lang="ts">
  // Drills: a short round for today, one kind at a time, or a round that someone put together; and what has been learned.
  import Sources from "../../lib/controls/Sources.svelte";
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { DrillKey, Round, Skill } from "../../lib/api/types";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import DrillPage from "./DrillPage.svelte";
  import Rounds from "./Rounds.svelte";
  import SkillPicture from "./SkillPicture.svelte";

  let skills: Skill[] = $state([]);
  let playing = $state<{ drills: DrillKey[]; scheduled: boolean; name: string } | null>(null);
  let at = $state(0);
  let right = $state(0);
  let ended = $state<{ of: number; right: number } | null>(null);
  let building = $state(false);
  let trouble = $state("");

  onMount(() => void load());

  async function load() {
    await tried(async () => {
      skills = (await ok(api.GET("/api/drills/skills"))).skills;
    });
  }

  async function tried(does: () => Promise<void>) {
    try {
      await does();
      trouble = "";
    } catch (problem) {
      trouble = words(problem);
    }
  }

  function begin(drills: DrillKey[], scheduled: boolean, name: string) {
    playing = { drills, scheduled, name };
    at = right = 0;
    ended = null;
  }

  const today = () =>
    tried(async () => {
      begin((await ok(api.GET("/api/drills/today"))).drills, true, "Today's round");
    });

  const play = (round: Round) =>
    tried(async () => {
      const drawn = await ok(
        api.GET("/api/drills/rounds/{round_id}/drills", { params: { path: { round_id: round.id } } }),
      );
      begin(drawn.drills, false, round.name);
    });

  const one = (skill: Skill) =>
    begin(
      [{ kind: skill.kind, level: skill.level, seed: Math.floor(Math.random() * 2 ** 31) }],
      true,
      skill.title,
    );

  function next(wasRight: boolean) {
    if (!playing) return;
    right += Number(wasRight);
    if (at + 1 < playing.drills.length) at++;
    else {
      ended = { of: playing.drills.length, right };
      playing = null;
      void load();
    }
  }

  const due = $derived(skills.filter((skill) => skill.is_due).length);
</script>

{#if playing}
  {@const key = playing.drills[at]!}
  {#key `${key.kind} ${key.level} ${key.seed}`}
    <DrillPage
      drill={key}
      scheduled={playing.scheduled}
      place="{playing.name}: {at + 1} of {playing.drills.length}"
      last={at + 1 === playing.drills.length}
      {next}
      leave={() => {
        playing = null;
        void load();
      }}
    />
  {/key}
{:else}
  <div class="drills">
    <Trouble words={trouble} />
    <section class="start">
      <div>
        <h2>{ended ? `${ended.right} of ${ended.of} right` : "Train the eye"}</h2>
        <p>
          {due} of {skills.length} skills are due. A round is eight questions; each shows a picture, asks one thing,
          and then shows what was really there.
        </p>
      </div>
      <button class="primary" onclick={today}>{ended ? "Another round" : "Start today's round"}</button>
      <button aria-pressed={building} onclick={() => (building = !building)}>Rounds for others</button>
    </section>
    {#if building}
      <Rounds {skills} {play} />
    {/if}
    <SkillPicture {skills} {one} />
    <Sources of="drills" />
  </div>
{/if}

<style>
  .drills {
    display: grid;
    align-content: start;
    gap: 16px;
    padding: 16px;
    overflow-y: auto;
    min-height: 0;
  }

  .start {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: center;
  }

  .start > div {
    flex: 1 1 320px;
  }

  .start p {
    color: var(--soft);
  }

  @media (max-width: 760px) {
    .drills {
      padding: 10px;
    }

    .start button {
      flex: 1 1 45%;
    }
  }
</style>
