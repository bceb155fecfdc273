<script lang="ts">
  // The fan while one searches for real: its gain and coach, what was touched, marking it, and its settings.
  import { onMount } from "svelte";
  import { askAgain } from "../../lib/again";
  import type { FanAdvice, FanMeasured, Sought } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import type { FanStream } from "./ahead.svelte";
  import FanGain from "./FanGain.svelte";
  import FanMeasuredPanel from "./FanMeasured.svelte";
  import FanSet from "./FanSet.svelte";

  let {
    fan,
    measured,
    touched,
    mark,
    attempt,
  }: {
    fan: FanStream;
    measured: FanMeasured | null;
    touched: boolean;
    mark: (measured: FanMeasured) => void;
    attempt: (work: () => Promise<unknown>) => Promise<void>;
  } = $props();

  const ADVICE_EVERY_MS = 1000;
  let advice: FanAdvice | null = $state.raw(null);

  /** A fish of a school of the kind that is sought, far out in the picture. */
  const sought = $derived.by((): Sought => ({
    lure: null,
    lure_ahead_m: 0,
    lure_aside_m: 0,
    lure_depth_m: Math.max(0.7 * (fan.fan?.bottom_depth_m ?? 6), 1),
    fish_m: 0.3,
    away_m: Math.min(Math.max(0.8 * (fan.settings?.ahead_m ?? 20), 1), 60),
    fish_depth_m: Math.max(0.6 * (fan.fan?.bottom_depth_m ?? 6), 0.3),
    liking: "clean",
  }));

  async function advise() {
    const mine = fan;
    if (!mine.fan || !mine.live) return;
    const found = await mine.advice(sought, "search", prefs.theme === "lantern").catch(() => undefined);
    if (found && mine === fan) advice = found;
  }

  onMount(() => askAgain(advise, ADVICE_EVERY_MS));
</script>

<FanMeasuredPanel {measured} {touched} drill={null}>
  {#snippet more()}
    <button class="primary" onclick={() => mark(measured!)}>Mark it: a school</button>
  {/snippet}
</FanMeasuredPanel>
{#if fan.settings}
  <FanGain
    gain={fan.settings.gain_db}
    {advice}
    set={(gain_db) => void attempt(() => fan.set({ settings: { gain_db } }))}
    make={(change) => void attempt(() => fan.make(change))}
  />
{/if}
{#if fan.fan && fan.hang && fan.settings}
  <details>
    <summary>Reach, depth and all other settings of the fan</summary>
    <FanSet
      head={fan.fan.head}
      hang={fan.hang}
      settings={fan.settings}
      lures={[]}
      {advice}
      set={(change) => void attempt(() => fan.set(change))}
    />
  </details>
{/if}

<style>
  summary {
    min-height: var(--target);
    align-content: center;
    cursor: pointer;
    font-weight: 600;
  }
</style>
