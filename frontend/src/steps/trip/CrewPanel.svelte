<script lang="ts">
  // The crew, from its host: who is in it and where, invitations for one each, what works, and the call to come in.
  import { onMount } from "svelte";
  import { api, ok, words } from "../../lib/api/client";
  import type { Board, Invitation } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import Measured from "../../lib/controls/Measured.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { deepMeasure } from "../../lib/units";
  import { timeOf } from "../../lib/when";
  import { world } from "../../lib/world.svelte";
  import { trip } from "./trip.svelte";

  let board: Board | null = $state.raw(null);
  let invitation: Invitation | null = $state.raw(null);
  let trouble = $state("");
  let closed = $state(false);
  let note = $state("");
  const WAITS_S = 20;

  onMount(() => {
    let on = true;
    const follow = async () => {
      closed = !(await ok(api.GET("/api/health"))).crew;
      while (on && !closed) {
        try {
          board = await ok(api.GET("/api/crew/board"));
          const query = { after: board.last, wait_s: WAITS_S };
          await ok(api.GET("/api/crew/news", { params: { query } }));
        } catch (problem) {
          trouble = words(problem);
          return;
        }
      }
    };
    follow().catch((problem: unknown) => (trouble = words(problem)));
    return () => (on = false);
  });

  async function act(work: () => Promise<unknown>) {
    trouble = "";
    try {
      await work();
      board = await ok(api.GET("/api/crew/board"));
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const svg = (one: Invitation | null) =>
    one ? `data:image/svg+xml,${encodeURIComponent(one.code_svg)}` : "";

  const invite = () =>
    act(async () => {
      if (!board?.lake) await setHere(); // who invites first is on the lake that is open
      invitation = await ok(
        api.POST("/api/crew/invitations", { headers: { "Content-Type": "application/json" } }),
      );
    });
  const code = $derived.by(() => svg(invitation));
  const works = (patch: Partial<Board["works"]>) =>
    act(() => ok(api.PUT("/api/crew/works", { body: { ...board!.works, ...patch } })));
  const comeIn = (on: boolean) => act(() => ok(api.POST("/api/crew/come-in", { body: { on } })));
  const end = (member_id: number) =>
    act(() => ok(api.DELETE("/api/crew/members/{member_id}", { params: { path: { member_id } } })));
  const role = (member_id: number, to: "member" | "second host") =>
    act(() =>
      ok(
        api.PUT("/api/crew/members/{member_id}/role", {
          params: { path: { member_id } },
          body: { role: to },
        }),
      ),
    );

  /** The crew is on this lake, with the lines of the shelter over the hole that is open. */
  async function setHere() {
    let lines: string[] = [];
    if (world.holeId !== null) {
      const params = { path: { hole_id: world.holeId } };
      const { party, kept } = await ok(api.GET("/api/holes/{hole_id}/party", { params }));
      if (kept) {
        const plan = await ok(api.POST("/api/holes/{hole_id}/party/plan", { params, body: party }));
        lines = plan.seats.map((one) => one.line);
      }
    }
    await ok(api.PUT("/api/crew/day", { body: { lake_id: trip.lake!.id, lines } }));
  }
</script>

<section aria-label="The crew">
  <h2>The crew on the ice</h2>
  {#if closed}
    <p>
      Others come in only when the program was started for it: end it, and start it with
      <code>hollow-glint serve --crew</code>, on a hotspot that you trust.
    </p>
    <p class="soft">
      Members see where fish are, who is where and what works, and send notes. Everything else stays this
      computer's alone.
    </p>
  {:else if board}
    {#if board.come_in}
      <p class="alarm" role="alert">All are called in since {timeOf(board.come_in)}.</p>
      <button onclick={() => void comeIn(false)}>All is well again</button>
    {:else}<button onclick={() => void comeIn(true)}>Call everyone in</button>{/if}
    <div class="button-row">
      <button class="primary" onclick={() => void invite()}>Invite one more</button>
      <button onclick={() => void act(setHere)}>The crew is on {trip.lake?.name ?? "this lake"}</button>
    </div>
    {#if invitation}
      <div class="invitation" data-testid="invitation">
        <img src={code} alt="Square code of the invitation" width="240" height="240" />
        <p>Read the code with the phone, or open <b>{invitation.url.split("#")[0]}</b> and type:</p>
        <p class="words">{invitation.words}</p>
        <p class="soft">For one, until {timeOf(invitation.until)}. It is shown this once.</p>
      </div>
    {/if}
    <h3>Who is in it</h3>
    <ul class="lines" aria-label="Members">
      {#each board.members as one (one.id)}
        <li>
          <p><b>{one.name}</b> {one.hole?.name ?? "no hole yet"}, seen {timeOf(one.seen_at)}</p>
          <div class="button-row">
            <button
              aria-pressed={one.role === "second host"}
              aria-label="Second host: {one.name}"
              onclick={() => void role(one.id, one.role === "member" ? "second host" : "member")}
              >Second host</button
            >
            <button aria-label="End membership: {one.name}" onclick={() => void end(one.id)}
              >End membership</button
            >
          </div>
        </li>
      {:else}<li>Nobody yet.</li>{/each}
    </ul>
    <h3>What works</h3>
    <Choice
      name="For"
      options={["whitefish", "grayling", "char", "burbot"].map((value) => ({ value, label: value }))}
      value={board.works.species}
      choose={(species) => void works({ species: species as "whitefish" })}
    />
    <Measured
      id="works-depth"
      name="At what depth"
      measure={deepMeasure(1)}
      value={board.works.depth_m}
      low={0.1}
      high={150}
      empty
      change={(depth_m) => void works({ depth_m })}
    />
    <Measured
      id="works-line"
      name="Where they turn"
      measure={deepMeasure(1)}
      value={board.works.rise_line_m}
      low={0.05}
      high={150}
      empty
      change={(rise_line_m) => void works({ rise_line_m })}
    />
    <label class="field"
      >In words <input bind:value={note} maxlength="280" onchange={() => void works({ note })} /></label
    >
    <h3>What is not protected</h3>
    <ul class="plain">
      <li>A hotspot without a password lets anybody near read what goes over it. Give it one of its own.</li>
      <li>
        Without <code>--tls</code> and a certificate nothing is enciphered: names, holes and notes can be read.
      </li>
      <li>Whoever holds a member's phone is that member. End the membership of a phone that is lost.</li>
    </ul>
  {/if}
  <Trouble words={trouble} />
</section>

<style>
  section {
    display: grid;
    gap: 8px;
  }

  img {
    background: #fff;
  }

  .invitation {
    display: grid;
    gap: 6px;
    justify-items: start;
    padding: 10px 12px;
    border-left: 6px solid var(--action);
    background: var(--panel);
  }

  .words {
    font-size: 1.4rem;
    font-weight: 700;
  }

  .alarm {
    padding: 8px 12px;
    border: 3px solid var(--stop);
    font-weight: 700;
  }

  .plain {
    margin: 0;
    padding-left: 18px;
  }
</style>
