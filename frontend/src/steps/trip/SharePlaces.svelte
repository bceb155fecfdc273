<script lang="ts">
  // Places for a friend: how closely, which of them, and what is left out said before anything leaves.
  import { api, ok, words } from "../../lib/api/client";
  import type { PlacesGiven } from "../../lib/api/types";
  import Choice from "../../lib/controls/Choice.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { latest } from "../../lib/latest";
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence } from "../../lib/units";
  import FriendsPlaces from "./FriendsPlaces.svelte";
  import { trip } from "./trip.svelte";

  type Positions = "as they are" | "rounded" | "hidden";
  const POSITIONS: { value: Positions; label: string }[] = [
    { value: "as they are", label: "As they are" },
    { value: "rounded", label: "Rounded" },
    { value: "hidden", label: "Hidden" },
  ];
  const PARTS = [
    { key: "holes", words: "Holes" },
    { key: "structures", words: "Structures" },
    { key: "ground", words: "Soundings" },
    { key: "notes", words: "My notes on them" },
  ] as const;

  let wished = $state<Positions>("rounded");
  let round_to_m = $state(500);
  const parts = $state({ holes: true, structures: true, ground: true, notes: false });
  let told = $state<PlacesGiven | null>(null);
  let trouble = $state("");

  const lake = $derived(trip.lake!);
  // Of a lake that nobody has placed on the earth there are no positions to give.
  const placed = $derived(lake.latitude !== null);
  const positions = $derived(placed ? wished : "hidden");
  const squares = $derived(
    [100, 500, 2000].map((value) => ({
      value,
      label: prefs.system === "feet" ? `${Math.round((value * 3.28084) / 100) * 100} ft` : `${value} m`,
    })),
  );
  const asked = $derived({ positions, round_to_m, ...parts });
  const query = $derived(
    new URLSearchParams(Object.entries(asked).map(([name, value]) => [name, `${value}`])).toString(),
  );
  const file = (kind: string) => `/api/lakes/${lake.id}/shared/file?kind=${kind}&${query}`;

  const ask = latest((lake_id: number, wanted: typeof asked) =>
    ok(api.GET("/api/lakes/{lake_id}/shared", { params: { path: { lake_id }, query: wanted } })),
  );
  $effect(() => {
    void ask(lake.id, { ...asked })
      .then((answer) => {
        if (!answer) return;
        told = answer;
        trouble = "";
      })
      .catch((problem: unknown) => {
        told = null;
        trouble = words(problem);
      });
  });
</script>

<section aria-label="Places and friends">
  <h2>Places for a friend</h2>
  {#if placed}
    <Choice name="Positions" options={POSITIONS} value={wished} choose={(value) => (wished = value)} />
  {:else}
    <p class="soft">
      Nobody has said yet where on earth this lake lies: only names, depths and bottoms can go out.
    </p>
  {/if}
  {#if positions === "rounded"}
    <label class="field"
      >To squares of
      <select bind:value={round_to_m}>
        {#each squares as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
      </select></label
    >
  {/if}
  <div class="parts">
    {#each PARTS as one (one.key)}
      <label><input type="checkbox" bind:checked={parts[one.key]} /> {one.words}</label>
    {/each}
  </div>
  <Trouble words={trouble} />
  {#if told}
    {@const out = told}
    <div data-testid="shared" role="status">
      <p>
        <b class="figures">{out.holes}</b> holes, <b class="figures">{out.structures}</b> structures,
        <b class="figures">{out.soundings}</b> soundings go out.
      </p>
      <ul>
        {#each out.left_out as one, k (k)}<li>{sentence(one.text, one.values, prefs.system)}</li>{/each}
      </ul>
    </div>
    <div class="button-row">
      <a class="button primary" href={file("file")} download>File of places</a>
      {#if positions !== "hidden"}<a class="button" href={file("gpx")} download>Places as GPX</a>{/if}
      <a class="button" href={file("geojson")} download>Places as GeoJSON</a>
    </div>
  {/if}
  <FriendsPlaces />
</section>

<style>
  section {
    display: grid;
    gap: 8px;
    padding-bottom: 10px;
    border-bottom: 1.5px solid var(--line);
  }

  .field {
    font-weight: 600;
  }

  .parts {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 18px;
  }

  .parts label {
    display: flex;
    align-items: center;
    gap: 8px;
    min-height: 44px;
  }

  .parts input {
    width: 24px;
    height: 24px;
  }

  ul {
    margin: 4px 0 0;
    padding-left: 20px;
  }
</style>
