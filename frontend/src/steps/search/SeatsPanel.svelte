<script lang="ts">
  // Where the lines go down round the head's hole, what that costs in the fan, and which way to turn the handle.
  import type { FanReading } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { fromDepth, sentence, trim, way } from "../../lib/units";
  import type { Seats } from "./fishing.svelte";

  let {
    seats,
    reading,
    sit,
    point,
  }: {
    seats: Seats;
    reading: FanReading | null;
    sit: (seats: Partial<Seats>) => void;
    point: (aim_deg: number) => void;
  } = $props();

  const places = $derived(
    (prefs.system === "feet" ? [1, 3, 5] : [0.3, 0.9, 1.5]).map((one) => {
      const m = Math.round(fromDepth(one, prefs.system) * 100) / 100;
      return { value: String(m), label: way(m, prefs.system), m };
    }),
  );
  const nearest = $derived(
    places.reduce((best, one) =>
      Math.abs(one.m - seats.apart_m) < Math.abs(best.m - seats.apart_m) ? one : best,
    ),
  );
  const turn = $derived(reading?.turn ?? null);
  const lost = $derived((reading?.lures ?? []).filter((one) => one.mark === null));
</script>

<section class="seats" aria-labelledby="seats-name" data-testid="seats">
  <h2 id="seats-name">Your holes</h2>
  <Choice
    name="Your line goes down, from the head's hole"
    options={places.map(({ value, label }) => ({ value, label }))}
    value={nearest.value}
    choose={(one) => sit({ apart_m: Number(one) })}
  />
  <Choice
    name="Beside you"
    options={[
      { value: "nobody", label: "Nobody" },
      { value: "friend", label: "A friend, across" },
    ]}
    value={seats.beside_m === null ? "nobody" : "friend"}
    choose={(one) => sit({ beside_m: one === "friend" ? (reading?.lures[0]?.depth_m ?? 4) : null })}
  />
  {#if lost.length > 0 || turn?.aim_deg !== null}
    {#if turn}
      <p role="status">{sentence(turn.said.text, turn.said.values, prefs.system)}</p>
      {#if turn.aim_deg !== null}
        <div class="button-row">
          <button class="primary" onclick={() => point(turn.aim_deg!)}
            >Turn to {trim(turn.aim_deg, 0)}°</button
          >
        </div>
      {/if}
    {/if}
  {:else if turn}
    <p class="soft">{sentence(turn.said.text, turn.said.values, prefs.system)}</p>
  {/if}
  <p class="soft">
    Each hole wants ice of its own thickness checked. Lines that cross are cut by the one that runs: agree who
    reels in when one is hooked.
  </p>
</section>

<style>
  .seats {
    display: grid;
    gap: 8px;
  }
</style>
