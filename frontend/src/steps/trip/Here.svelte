<script lang="ts">
  // What the map says of the place that was touched, and what can be done with it.
  import { api, ok, words } from "../../lib/api/client";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, trim, way } from "../../lib/units";
  import { compass } from "./compass";
  import { byHand } from "./hand.svelte";
  import { trip } from "./trip.svelte";

  let { put }: { put: () => void } = $props();
  const system = $derived(prefs.system);
  const place = $derived(byHand.place);
  let told: { depth_m: number; sd_m: number; chance: number | null } | null = $state(null);
  let trouble = $state("");

  const shore = $derived.by(() => {
    const flat = trip.lake?.shore_m ?? [];
    const ring: [number, number][] = [];
    for (let i = 0; i + 1 < flat.length; i += 2) ring.push([flat[i]!, flat[i + 1]!]);
    return ring.length > 0 ? ring : null;
  });

  let asked = 0;
  $effect(() => {
    const mine = ++asked;
    told = null;
    trouble = "";
    const { things, band } = trip;
    if (!place || !things) return;
    const soundings = [...things.soundings, ...things.holes].map(({ east_m, north_m, depth_m }) => ({
      east_m,
      north_m,
      depth_m,
    }));
    if (soundings.length === 0) return;
    const body = {
      soundings,
      shore,
      at: [[place.east, place.north]],
      band_m: band ? [band.from_m, band.to_m] : null,
    };
    void ok(api.POST("/api/ground/surface", { body }))
      .then((answer) => {
        if (mine === asked)
          told = { depth_m: answer.depth_m[0]!, sd_m: answer.sd_m[0]!, chance: answer.in_band?.[0] ?? null };
      })
      .catch((problem: unknown) => mine === asked && (trouble = words(problem)));
  });

  const away = $derived(place ? Math.hypot(place.east - trip.start[0], place.north - trip.start[1]) : 0);
  const turn = $derived(
    place ? (Math.atan2(place.east - trip.start[0], place.north - trip.start[1]) * 180) / Math.PI : 0,
  );
</script>

{#if place}
  <div class="here" role="status">
    <p>
      {#if trouble}{trouble}
      {:else if told && told.depth_m === 0 && told.sd_m === 0}Land.
      {:else if told}
        <strong class="figures">{depth(told.depth_m, system)}</strong>, give or take {depth(
          2 * told.sd_m,
          system,
        )}{told.chance === null ? "" : `; in the band with ${trim(100 * told.chance, 0)} percent`}.
      {/if}
      {way(away, system)}
      {compass(turn)} of where you start.
    </p>
    <div class="button-row">
      {#if told && told.depth_m > 0}
        <button
          onclick={() => {
            void trip.takeIn({ east_m: place.east, north_m: place.north });
            byHand.place = null;
          }}>Go there</button
        >
      {/if}
      <button onclick={put}>Put something here</button>
      <button onclick={() => (byHand.place = null)}>Close</button>
    </div>
  </div>
{/if}

<style>
  .here {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 4px 12px;
    padding: 6px 10px;
    border-left: 6px solid var(--action);
    background: var(--panel);
  }
</style>
