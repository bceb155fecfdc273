<script lang="ts">
  // The handle that the fan is aimed with: a little left or right, and where it points.
  import type { Snippet } from "svelte";
  import { trim } from "../../lib/units";
  import type { FanStream } from "./ahead.svelte";
  import { TURN_DEG } from "./fan";

  let {
    fan,
    turn,
    more = null,
  }: { fan: FanStream | null; turn: (by: number) => void; more?: Snippet | null } = $props();
</script>

<div class="handle" role="group" aria-label="The handle">
  <button onclick={() => turn(-TURN_DEG)} aria-label="Turn left by {TURN_DEG} degrees">◀ {TURN_DEG}°</button>
  <output class="figures" data-testid="aim"
    >{fan?.hang ? `Handle to ${trim(fan.hang.aim_deg ?? 0, 0)}°` : "Handle"}</output
  >
  <button onclick={() => turn(TURN_DEG)} aria-label="Turn right by {TURN_DEG} degrees">{TURN_DEG}° ▶</button>
  {@render more?.()}
</div>

<style>
  .handle {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
  }

  output {
    min-width: 15ch;
    text-align: center;
    font-weight: 700;
  }
</style>
