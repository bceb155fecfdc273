<script lang="ts">
  // The crew board on a member's phone: where fish are from one's own hole, what to do next, one touch for what happens.
  import { onMount } from "svelte";
  import { api, ok } from "../lib/api/client";
  import Trouble from "../lib/controls/Trouble.svelte";
  import { prefs } from "../lib/prefs.svelte";
  import { depth, sentence } from "../lib/units";
  import { timeOf } from "../lib/when";
  import type { Board } from "../lib/api/types";
  import { CrewBoard } from "./board.svelte";
  import CallForm from "./CallForm.svelte";
  import Join from "./Join.svelte";
  import MyHole from "./MyHole.svelte";
  import Touches from "./Touches.svelte";

  const crew = new CrewBoard();
  let surely = $state(false);

  onMount(() => {
    void crew.start();
    // A phone that slept looks at once, and sends what it kept.
    const woke = () => document.visibilityState === "visible" && crew.isIn && void crew.look();
    document.addEventListener("visibilitychange", woke);
    return () => {
      document.removeEventListener("visibilitychange", woke);
      crew.stop();
    };
  });
  $effect(() => {
    document.documentElement.dataset["theme"] = prefs.theme;
  });

  const board = $derived(crew.board);
  const write = (one: { text: string; values: Parameters<typeof sentence>[1] }) =>
    sentence(one.text, one.values, prefs.system);
  const inWords = ({ kind, body }: Board["said"][number]) => {
    if (kind !== "note") return kind;
    const happening = body["happening"] as { kind: string } | null;
    return `${happening?.kind ?? String(body["kind"])}, ${String(body["hole"])}`;
  };
  const comeIn = (on: boolean) => {
    surely = false;
    return crew.act(() => ok(api.POST("/api/crew/come-in", { body: { on } })));
  };
</script>

<div class="crew">
  <header>
    <h1>
      Crew board{#if board?.lake}<small>{board.lake}</small>{/if}
    </h1>
    <button
      aria-label={prefs.system === "feet" ? "Units: ft; turn to metres" : "Units: m; turn to feet"}
      onclick={() => prefs.setSystem(prefs.system === "feet" ? "metric" : "feet")}
      >{prefs.system === "feet" ? "ft" : "m"}</button
    >
    <button
      aria-label={prefs.theme === "rime" ? "Day colours; turn to night" : "Night colours; turn to day"}
      onclick={() => prefs.setTheme(prefs.theme === "rime" ? "lantern" : "rime")}
      >{prefs.theme === "rime" ? "Day" : "Night"}</button
    >
  </header>
  <main>
    <Trouble words={crew.trouble} />
    {#if crew.away}
      <p class="away" role="status">
        The host's computer is out of reach. {crew.unsent.length > 0
          ? `${crew.unsent.length} of your notes wait in this phone, and go when it is back.`
          : "Notes are kept in this phone until it is back."}
      </p>
    {/if}
    {#if crew.isIn === false}
      <Join join={(given, name) => crew.join(given, name)} />
    {:else if board}
      {#if board.come_in}
        <section class="alarm" role="alert">
          <h2>Come in now</h2>
          <p>Called at {timeOf(board.come_in)}. Lines up, off the ice the way you came, together.</p>
          <button onclick={() => void comeIn(false)}>All is well again</button>
        </section>
      {/if}
      <section aria-label="Where fish are" data-testid="calls">
        <h2>Where fish are</h2>
        {#each board.calls as one, n (one.id)}
          <div class="call" class:first={n === 0}>
            <p class="soft">{one.who}, {timeOf(one.at)}, from {one.call.lookout.name}</p>
            {#if one.here}
              {#each one.here.said as said, k (k)}<p class="said">{write(said)}</p>{/each}
            {:else}<p class="said">Say at which hole you are, and it is turned to it.</p>{/if}
          </div>
        {:else}<p>Nobody has called in the last half hour.</p>{/each}
      </section>
      <MyHole {board} act={(work) => crew.act(work)} />
      {#if board.me?.hole}
        <CallForm hole={board.me.hole} act={(work) => crew.act(work)} />
        <Touches {crew} {board} hole={board.me.hole} />
      {/if}
      <section aria-label="What to try next">
        <h2>What to try next</h2>
        <p class="said">{board.try_next.do}</p>
        <p class="soft">{write(board.try_next.why)}</p>
        {#if board.works.depth_m || board.works.rise_line_m || board.works.note}
          <p>
            {#if board.works.depth_m}Works at {depth(board.works.depth_m, prefs.system)}.{/if}
            {#if board.works.rise_line_m}They turn at {depth(board.works.rise_line_m, prefs.system)}.{/if}
            {board.works.note}
          </p>
        {/if}
        {#each board.lines as one, k (k)}<p class="line">{one}</p>{/each}
        {#if board.has_sheet}<a class="button" href="/api/crew/sheet">The pocket sheet, to keep</a>{/if}
      </section>
      <section aria-label="Who is where">
        <h2>Who is where</h2>
        <ul class="lines">
          {#each board.members as one (one.id)}
            <li><b>{one.name}</b> {one.hole?.name ?? "no hole yet"}, seen {timeOf(one.seen_at)}</li>
          {/each}
        </ul>
      </section>
      <section aria-label="Said lately">
        <h2>Said lately</h2>
        <ul class="lines">
          {#each board.said.toReversed().slice(0, 12) as one (one.id)}
            <li>
              {timeOf(one.at)}
              <b>{one.who}</b>
              {inWords(one)}
            </li>
          {:else}<li>Nothing yet.</li>{/each}
        </ul>
      </section>
      {#if !board.come_in}
        {#if surely}
          <div class="button-row">
            <button class="primary" onclick={() => void comeIn(true)}>Yes, call everyone in</button>
            <button onclick={() => (surely = false)}>No</button>
          </div>
        {:else}<button onclick={() => (surely = true)}>Call everyone in</button>{/if}
      {/if}
      <button
        onclick={() =>
          crew.act(() =>
            ok(api.POST("/api/crew/leave", { headers: { "Content-Type": "application/json" } })),
          )}>Leave the crew</button
      >
      <p class="soft">
        No ice is safe ice: measure as you go. This page replaces no rope, no whistle and no phone call for
        help.
      </p>
    {:else}<p role="status">Looking.</p>{/if}
  </main>
</div>

<style>
  .crew {
    max-width: 720px;
    min-height: 100%;
    margin: 0 auto;
  }

  header {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 6px 12px;
    border-bottom: 1.5px solid var(--line);
  }

  h1 {
    flex: 1;
    line-height: 1.15;
  }

  small {
    display: block;
    font-size: 0.9rem;
    font-weight: 400;
    color: var(--soft);
  }

  main {
    display: grid;
    gap: 14px;
    grid-template-columns: minmax(0, 1fr);
    padding: 12px;
  }

  .call {
    margin-top: 6px;
    padding: 8px 12px;
    border-left: 6px solid var(--line);
    background: var(--panel);
  }

  .call.first {
    border-left-color: var(--action);
    font-size: 1.15rem;
  }

  .said {
    font-weight: 700;
  }

  .line {
    font-weight: 700;
  }

  .alarm {
    padding: 12px;
    border: 4px solid var(--stop);
    background: var(--panel);
    font-size: 1.3rem;
  }

  .alarm h2 {
    font-size: 2rem;
  }

  .away {
    padding: 8px 12px;
    border-left: 6px double var(--stop);
    background: var(--panel);
  }
</style>
