<script lang="ts">
  // Everyone in the shelter over this hole: a line for each to set by, what it is worth, and who sits where with what.
  import { untrack } from "svelte";
  import type { Hole, Said, SeatPlan } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import Sources from "../../lib/controls/Sources.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Waiting from "../../lib/controls/Waiting.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence, trim } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import SeatForm from "./SeatForm.svelte";
  import ShelterDrawing from "./ShelterDrawing.svelte";
  import ShelterSpots from "./ShelterSpots.svelte";
  import { CLEAR, MOST, Shelter } from "./shelter.svelte";

  let { hole }: { hole: Hole } = $props();
  const shelter = new Shelter(untrack(() => hole.id)); // the page is made anew for another hole
  let when: "before" | "after" = $state("after");

  $effect(() => {
    void shelter.load();
    return shelter.stop;
  });

  const { party, plan } = $derived(shelter);
  const changed = $derived(plan?.seats.some((one) => one.changes.length > 0) ?? false);
  const old = $derived(shelter.planned !== party);
  const write = (one: Said) => sentence(one.text, one.values, prefs.system);
  const KNOBS = ["hole", "beam", "power", "pulse", "rejection", "gain"];

  const lit = (share: number | null) => (share === null ? "not there yet" : `${trim(100 * share, 1)} %`);
  const turns = (one: SeatPlan) =>
    one.changes.length > 0
      ? `Change ${KNOBS.filter((name) => one.changes.includes(name)).join(", ")}`
      : "Nothing to change";

  function onBench(k: number, state: SeatPlan["after"]) {
    const seat = shelter.planned!.seats[k]!;
    world.trial = {
      unit_id: seat.unit_id,
      lure_id: seat.lure_id,
      settings: state.settings,
      lure_depth_m: plan!.seats[k]!.lure_depth_m,
      scene: state.scene,
    };
    world.go("bench");
  }
</script>

<div class="shelter">
  <div class="plan" data-testid="shelter-plan">
    <h1>Shelter over {hole.name}</h1>
    <Trouble words={shelter.trouble} />
    <div class="waits"><Waiting wait={shelter.wait} words="Weighing every seat against every other" /></div>
    {#if plan && party && shelter.planned}
      <div class:old aria-busy={old}>
        <p class="sum" role="status">
          {#if plan.disturbed_before === 0 && plan.disturbed_after === 0}
            Nobody disturbs anybody.
          {:else}
            Disturbed now: <b class="figures">{plan.disturbed_before} of {plan.seats.length}</b>. As planned:
            <b class="figures">{plan.disturbed_after}</b>.
          {/if}
        </p>
        <ol class="lines" aria-label="A line for each person">
          {#each plan.seats as one, k (k)}
            <li class:lit={(one.after.share ?? 0) > CLEAR}>
              <p class="line">{one.line}</p>
              <p class="soft">
                {turns(one)}. Lit by others: {lit(one.before.share)} now, {lit(one.after.share)} then. Lag {trim(
                  one.after.lag_s,
                  1,
                )} s. {#if one.after.floor !== null}Lure shows from gain {trim(one.after.floor, 1)}, water
                  lights at {trim(one.after.ceiling, 1)}.{:else}Nothing shows this lure here.{/if}
              </p>
              <div class="try">
                {#if one.before.share !== null}
                  <button onclick={() => onBench(k, one.before)} aria-label="Bench, as now: {one.name}"
                    >Bench, as now</button
                  >
                {/if}
                <button onclick={() => onBench(k, one.after)} aria-label="Bench, as planned: {one.name}"
                  >Bench, as planned</button
                >
              </div>
            </li>
          {/each}
        </ol>
        {#each plan.words as one, k (k)}<p class="word">{write(one)}</p>{/each}
        <div class="acts">
          <button class="primary" disabled={!changed || old} onclick={() => shelter.allSet()}
            >Everyone has set this</button
          >
          <button onclick={() => window.print()}>Print the lines</button>
        </div>
        <ul class="cautions">
          {#each plan.cautions as one (one)}<li>{one}</li>{/each}
        </ul>
      </div>
    {/if}
    <Sources of="shelter" />
  </div>
  {#if party}
    <div class="seats">
      <Choice
        name="Drawn"
        options={[
          { value: "before", label: "As it is now" },
          { value: "after", label: "As planned" },
        ]}
        value={when}
        choose={(to) => (when = to)}
      />
      <ShelterDrawing
        {party}
        plan={old ? null : plan}
        {when}
        move={(h, x_m, y_m) => shelter.move(h, x_m, y_m)}
      />
      <p class="soft">
        From above. Drag a hole to where it is, or move it with the arrow keys. An arrow runs from who is
        heard to whose picture it lights; the thicker, the more.
      </p>
      {#if shelter.gone.length > 0}
        <p class="word">
          The unit or lure of {shelter.gone.join(", ")} was removed since: choose what is used now.
        </p>
      {/if}
      <section aria-label="Who sits there">
        <h2>Who sits there</h2>
        {#each party.seats as seat, k (k)}
          <SeatForm
            {seat}
            {k}
            holes={party.holes.length}
            alone={party.seats.length === 1}
            change={(patch) => shelter.setSeat(k, patch)}
            sit={(h) => shelter.sit(k, h)}
            drop={() => shelter.dropSeat(k)}
          />
        {/each}
        <div class="acts">
          <button disabled={party.seats.length >= MOST} onclick={() => shelter.addSeat(false)}
            >One more seat</button
          >
          <button
            disabled={party.seats.length >= MOST || old}
            title="Planned in with the fewest changes for the others, who have set what stands in the plan"
            onclick={() => shelter.addSeat(true)}>Someone comes late</button
          >
          <button disabled={party.holes.length >= MOST} onclick={() => shelter.addHole()}
            >One more hole</button
          >
          <button
            disabled={party.holes.length <= party.seats.length ||
              party.seats.some((one) => one.hole === party.holes.length - 1)}
            onclick={() => shelter.dropHole()}>Last hole away</button
          >
        </div>
      </section>
      <ShelterSpots holeId={hole.id} {party} turn={(to) => shelter.turn(to)} />
    </div>
  {/if}
</div>

<style>
  .shelter {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
    min-height: 0;
  }

  .plan,
  .seats {
    display: grid;
    gap: 8px;
    align-content: start;
    min-height: 0;
    padding: 12px 18px 20px;
    overflow-y: auto;
  }

  .plan {
    border-right: 1.5px solid var(--line);
  }

  .waits {
    position: sticky;
    top: -12px;
    z-index: 1;
    height: 0;
  }

  .waits > :global(.waiting) {
    padding: 4px 12px;
    border-radius: 6px;
    background: var(--panel);
  }

  .sum {
    font-size: 1.1rem;
  }

  .lines {
    display: grid;
    gap: 10px;
    margin: 8px 0;
    padding: 0;
    list-style: none;
  }

  .lines li {
    padding: 8px 12px;
    border-left: 6px solid var(--pine);
    background: var(--panel);
  }

  .lines li.lit {
    border-left: 6px double var(--stop);
  }

  .line {
    font-size: 1.2rem;
    font-weight: 700;
    line-height: 1.25;
  }

  .try,
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    margin-top: 6px;
  }

  .word {
    padding: 6px 12px;
    border-left: 6px solid var(--action);
    background: var(--panel);
  }

  .word + .word {
    margin-top: 6px;
  }

  .cautions {
    margin: 12px 0 0;
    padding-left: 18px;
    font-size: 0.92rem;
  }

  .old {
    opacity: 0.6;
  }

  @media (max-width: 760px) {
    .shelter {
      display: block;
      overflow-y: auto;
    }

    .plan,
    .seats {
      padding: 8px 12px 16px;
      border-right: 0;
      overflow: visible;
    }
  }

  @media print {
    .shelter {
      display: block;
    }

    .plan,
    .seats {
      overflow: visible;
      padding: 0;
      border: 0;
    }

    .acts,
    .try,
    .seats section,
    .seats > .soft,
    .seats > :global(.choice),
    .plan > :global(details) {
      display: none;
    }
  }
</style>
