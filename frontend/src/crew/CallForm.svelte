<script lang="ts">
  // Saying where fish are: by the clock from one's own hole, twelve where one faces.
  import { api, ok } from "../lib/api/client";
  import Choice from "../lib/controls/Choice.svelte";
  import Measured from "../lib/controls/Measured.svelte";
  import { deepMeasure } from "../lib/units";
  import { compass } from "../steps/trip/compass";

  let {
    hole,
    act,
  }: {
    hole: { name: string; east_m: number; north_m: number };
    act: (work: () => Promise<unknown>) => Promise<void>;
  } = $props();

  const HOURS = Array.from({ length: 12 }, (_, k) => ({ value: k + 1, label: `${k + 1}` }));
  const TURNS = [0, 45, 90, 135, 180, 225, 270, 315].map((value) => ({ value, label: compass(value) }));
  let clock_h = $state(12);
  let twelve_deg = $state(0);
  let distance_m: number | null = $state(12);
  let depth_m: number | null = $state(null);

  const call = () =>
    act(() =>
      ok(
        api.POST("/api/crew/calls", {
          body: { lookout: hole, clock_h: clock_h % 12, distance_m: distance_m ?? 0, twelve_deg, depth_m },
        }),
      ),
    );
</script>

<details data-testid="call-form">
  <summary>I see fish</summary>
  <h3>At what o'clock</h3>
  <Choice name="At what o'clock" options={HOURS} value={clock_h} choose={(to) => (clock_h = to)} />
  <h3>Twelve points to</h3>
  <Choice name="Twelve points to" options={TURNS} value={twelve_deg} choose={(to) => (twelve_deg = to)} />
  <Measured
    id="call-distance"
    name="How far"
    measure={deepMeasure(0)}
    value={distance_m}
    low={0}
    high={500}
    change={(value) => (distance_m = value)}
  />
  <Measured
    id="call-depth"
    name="How deep, if seen"
    measure={deepMeasure(1)}
    value={depth_m}
    low={0.1}
    high={150}
    empty
    change={(value) => (depth_m = value)}
  />
  <button class="primary" onclick={() => void call()}>Tell the crew</button>
</details>

<style>
  details {
    display: grid;
    gap: 8px;
  }

  h3 {
    margin: 6px 0 2px;
    font-size: 1rem;
  }
</style>
