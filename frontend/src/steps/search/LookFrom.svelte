<script lang="ts">
  // Where one looks from: a hole or the landing of a lake, or water of its own.
  import { onMount } from "svelte";
  import { api, ok } from "../../lib/api/client";
  import { type LookOut, NOWHERE } from "./search.svelte";

  let {
    at,
    none,
    moveTo,
    attempt,
  }: {
    at: LookOut;
    /** What no lake is called here. */
    none: string;
    moveTo: (place: LookOut) => void;
    attempt: (work: () => Promise<unknown>) => Promise<void>;
  } = $props();

  let places: LookOut[] = $state.raw([]);

  onMount(() =>
    attempt(async () => {
      const { lakes } = await ok(api.GET("/api/lakes"));
      const found = await Promise.all(
        lakes.map(async ({ id, name, landing_m: [east, north] }) => {
          const { holes } = await ok(
            api.GET("/api/lakes/{lake_id}/things", { params: { path: { lake_id: id } } }),
          );
          const lake = { id, name };
          return [
            ...holes.map((one) => ({
              key: `${id} ${one.hole_id}`,
              name: `${name}: ${one.name}`,
              lake,
              east: one.east_m,
              north: one.north_m,
            })),
            { key: `${id}`, name: `${name}: the landing`, lake, east: east ?? 0, north: north ?? 0 },
          ];
        }),
      );
      places = found.flat();
    }),
  );
</script>

{#if places.length > 0}
  <label class="unseen" for="look-from">Look from</label>
  <select
    id="look-from"
    value={at.key}
    onchange={(event) => moveTo(places.find((one) => one.key === event.currentTarget.value) ?? NOWHERE)}
  >
    <option value="">{none}</option>
    {#each places as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
  </select>
{/if}
