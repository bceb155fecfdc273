<script lang="ts">
  // One drill: the clip plays as on a unit, one question, then the truth beside it on the same depths, and the reason.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { Answer, Drill, DrillKey } from "../../lib/api/types";
  import Clip from "../../lib/picture/Clip.svelte";
  import { ROD, UNMARKED } from "../../lib/picture/clip";
  import { calm, Playhead } from "../../lib/playhead.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { Wait } from "../../lib/wait.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import PlayBar from "../../lib/controls/PlayBar.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import StillFan from "../../lib/fan/StillFan.svelte";
  import StillTurn from "../../lib/turning/StillTurn.svelte";
  import Truth from "./Truth.svelte";

  let {
    drill: key,
    scheduled,
    place,
    last,
    next,
    leave,
  }: {
    drill: DrillKey;
    scheduled: boolean;
    place: string;
    last: boolean;
    next: (wasRight: boolean) => void;
    leave: () => void;
  } = $props();

  let drill = $state<Drill | null>(null);
  let answer = $state<Answer | null>(null);
  let pointed = $state<number | null>(null);
  let chosen = $state<string | null>(null);
  const head = new Playhead(() => end);
  let trouble = $state("");
  const wait = new Wait();
  let busy = false;
  let began = 0;

  const first = $derived(drill?.clips[0] ?? null);
  const length = $derived(first?.pings.time_s.at(-1) ?? 0);
  const end = $derived(answer === null ? (drill?.stop_s ?? length) : length);
  /** The picture's depth axis [m below the surface]; a drill's window stands still. */
  const axis = $derived.by(() => {
    if (!first) return null;
    const face = first.section.face_depth_m;
    return { top: (first.pings.top_m[0] ?? 0) + face, bottom: (first.pings.bottom_m[0] ?? 1) + face };
  });
  const pointing = $derived(drill !== null && drill.choices.length === 0);

  onMount(() => void load());
  onMount(() => world.withPicture());

  async function load() {
    try {
      drill = await wait.during((headers) =>
        ok(
          api.GET("/api/drills/one", {
            params: { query: { kind: key.kind, level: key.level, seed: key.seed } },
            headers,
          }),
        ),
      );
      began = performance.now();
      if (!first) return;
      if (calm()) head.stop(drill.stop_s ?? length);
      else head.play(0);
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function send(choice: string | null) {
    const asked = drill;
    if (!asked || answer || busy) return;
    busy = true;
    chosen = choice;
    try {
      answer = await wait.during((headers) =>
        ok(
          api.POST("/api/drills/answers", {
            headers,
            body: {
              kind: asked.kind,
              level: asked.level,
              seed: asked.seed,
              choice,
              range_m: choice === null ? pointed : null,
              seconds: Math.min((performance.now() - began) / 1000, 86_000),
              scheduled,
            },
          }),
        ),
      );
      head.stop(length);
    } catch (problem) {
      trouble = words(problem);
    } finally {
      busy = false;
    }
  }

  /** Play from a little before the decisive moment. */
  const showMe = () => head.play(Math.max((answer?.moment_s ?? 0) - 3, 0));

  function keydown(event: KeyboardEvent) {
    if (!drill || event.ctrlKey || event.metaKey || event.altKey) return;
    if (answer && event.key === "Enter" && !(event.target instanceof HTMLButtonElement))
      next(answer.is_right);
    else if (!answer && pointing && event.key === "Enter" && pointed !== null) void send(null);
    else if (!answer && /^[1-9]$/.test(event.key)) {
      const choice = drill.choices[Number(event.key) - 1];
      if (choice) void send(choice.key);
    } else return;
    event.preventDefault();
  }

  const moves = (line: readonly number[]) => Math.max(...line) - Math.min(...line) > 0.01;
  const ladder = (clip: Drill["clips"][number]) => clip.unit.ladders[clip.settings.ladder]!;
  const text = (key: string) => drill?.choices.find((one) => one.key === key)?.text ?? key;
</script>

<svelte:window onkeydown={keydown} />

<div class="drill">
  {#if !drill}
    <div class="wait"><Trouble words={trouble} /><Waiting {wait} words="Filling the hole with water" /></div>
    {#if trouble}<button onclick={leave}>Back</button>{/if}
  {:else}
    <div class="pictures" class:two={drill.clips.length + drill.sweeps.length + drill.fans.length > 1}>
      {#each drill.sweeps as picture, i (i)}
        <figure class="turning">
          <StillTurn
            {picture}
            label="Picture{picture.caption ? `, ${picture.caption}` : ''}: {sentence(
              drill.question.text,
              drill.question.values,
              prefs.system,
            )}"
          />
          {#if picture.caption}<figcaption>{picture.caption}</figcaption>{/if}
        </figure>
      {/each}
      {#each drill.fans as film, i (i)}
        <figure class="turning">
          <StillFan
            {film}
            label="Picture{film.caption ? `, ${film.caption}` : ''}: {sentence(
              drill.question.text,
              drill.question.values,
              prefs.system,
            )}"
          />
          {#if film.caption}<figcaption>{film.caption}</figcaption>{/if}
        </figure>
      {/each}
      {#each drill.clips as clip, i (i)}
        <figure class:truly={answer && i === 0}>
          {#if answer && first && i === 0}
            <Truth
              id="drill"
              section={first.section}
              marks={answer.truth}
              span={axis}
              foot={moves(clip.line_m) ? ROD : 0}
            />
          {/if}
          <Clip
            pings={clip.pings}
            ladder={ladder(clip)}
            time={head.time}
            across={Math.min(clip.pings.count, 240)}
            line={moves(clip.line_m) ? clip.line_m : null}
            marked={{
              ...UNMARKED,
              arrow: clip.arrow_m,
              moment: answer?.moment_s ?? null,
              target: answer?.target_m ?? null,
              pointed: pointing ? pointed : null,
            }}
            label={`Picture${drill.clips.length > 1 ? (i === 0 ? ", left" : ", right") : ""}: ${sentence(drill.question.text, drill.question.values, prefs.system)}`}
            point={pointing && !answer ? (range) => (pointed = range) : null}
          />
          {#if clip.caption}<figcaption class="figures">{clip.caption}</figcaption>{/if}
        </figure>
      {/each}
    </div>
    {#if first}<PlayBar {head} to={end} name="Time in the clip" says="{head.time.toFixed(1)} s" short />{/if}
    <section class="ask">
      <p class="place">{place}. {drill.title}, level {drill.level}.</p>
      <h2>{sentence(drill.question.text, drill.question.values, prefs.system)}</h2>
      <Trouble words={trouble} />
      <Waiting {wait} words="Looking at what was there" />
      {#if !answer}
        {#if pointing}
          <p class="soft">Touch the picture, or move the line with the up and down keys.</p>
          <button class="primary" disabled={pointed === null} onclick={() => send(null)}>This is it</button>
        {:else}
          <div class="choices" role="group" aria-label="Answers">
            {#each drill.choices as choice, i (choice.key)}
              <button onclick={() => send(choice.key)}
                ><span class="figures" aria-hidden="true">{i + 1}</span> {choice.text}</button
              >
            {/each}
          </div>
        {/if}
        <button class="leave" onclick={leave}>Leave the round</button>
      {:else}
        <div class="told" class:right={answer.is_right} role="status" data-testid="told">
          <p class="verdict">
            {answer.is_right ? "Right" : "Not so"}{#if drill.choices.length > 0}: {text(answer.right)}{/if}
          </p>
          {#if !answer.is_right && chosen}<p class="chosen">You said: {text(chosen)}</p>{/if}
          <p>{sentence(answer.why.text, answer.why.values, prefs.system)}</p>
        </div>
        <div class="after">
          {#if first}<button onclick={showMe}>Show me</button>{/if}
          <button class="primary" onclick={() => next(answer!.is_right)}>{last ? "Done" : "Next"}</button>
        </div>
      {/if}
    </section>
  {/if}
</div>

<style>
  .drill {
    display: grid;
    grid-template-columns: minmax(0, 1.5fr) minmax(300px, 1fr);
    grid-template-rows: minmax(0, 1fr) auto;
    min-height: 0;
  }

  .wait {
    padding: 24px;
  }

  .pictures {
    display: grid;
    min-height: 0;
  }

  .pictures.two {
    grid-template-columns: 1fr 1fr;
    gap: 4px;
  }

  figure {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto;
    min-height: 0;
    min-width: 0;
    margin: 0;
  }

  figure.turning {
    grid-template-rows: auto minmax(0, 1fr);
  }

  .turning figcaption {
    grid-row: 1;
  }

  /* With a caption or without, the picture has the room. */
  .turning > :global(:not(figcaption)) {
    grid-row: 2;
  }

  figure.truly {
    grid-template-columns: minmax(140px, 0.42fr) minmax(0, 1fr);
  }

  figcaption {
    grid-column: 1 / -1;
    padding: 4px 10px;
    font-weight: 700;
  }

  .ask {
    grid-column: 2;
    grid-row: 1 / -1;
    display: flex;
    flex-direction: column;
    gap: 12px;
    padding: 14px 16px;
    border-left: 1.5px solid var(--line);
    background: var(--panel);
    overflow-y: auto;
    min-height: 0;
  }

  .ask h2 {
    font-size: 1.25rem;
    line-height: 1.25;
  }

  .place,
  .choices {
    display: grid;
    gap: 8px;
  }

  .choices button {
    min-height: 58px;
    text-align: left;
    font-size: 1.05rem;
    line-height: 1.2;
  }

  .choices .figures {
    color: var(--soft);
    margin-right: 8px;
  }

  .leave {
    margin-top: auto;
  }

  .told {
    border-left: 6px solid var(--action);
    padding-left: 12px;
    display: grid;
    gap: 4px;
  }

  .told.right {
    border-left-color: var(--pine);
  }

  .verdict {
    font-weight: 700;
    font-size: 1.1rem;
  }

  .chosen {
    color: var(--soft);
  }

  .after {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px;
  }

  @media (max-width: 760px) {
    .drill {
      grid-template-columns: minmax(0, 1fr);
      grid-template-rows: 42dvh auto auto;
      overflow-y: auto;
    }

    .ask {
      grid-column: 1;
      grid-row: auto;
      border-left: 0;
      border-top: 1.5px solid var(--line);
      overflow: visible;
      padding: 10px;
    }
  }
</style>
