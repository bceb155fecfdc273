<script lang="ts">
  // Two places: what the fish do now, and what is wrong with the unit. Of the unit one thing at a time: the finding, the
  // number behind it, the one change, and a button that makes it. In an exercise it leaves the unit to the hand.
  import type { Change, Profile, Settings, Tuning } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence, small, trim } from "../../lib/units";

  let {
    tuning,
    unit,
    settings,
    event,
    fish,
    waits,
    change,
  }: {
    tuning: Tuning | null;
    unit: Profile | null;
    settings: Settings | null;
    /** What has just happened or is advised now. */
    event: string | null;
    /** Whether a fish has to do with the lure. */
    fish: boolean;
    /** Whether an exercise is in hand that nobody should solve for the hand. */
    waits: boolean;
    change: (change: Change) => void;
  } = $props();

  const worst = $derived(tuning?.verdicts[0] ?? null);
  /** What is left when that is done: shown where the screen is large enough for it. */
  const rest = $derived(tuning?.verdicts.slice(1, 3) ?? []);
  const words = $derived(
    unit && settings ? unit.ladders[settings.ladder]!.steps.map((step) => step.name) : [],
  );

  function does({ setting, value }: Change): string {
    const at = Number(value);
    switch (setting) {
      case "gain":
        return `Set gain ${trim(at, 1)}`;
      case "range_m":
        return `Set range ${depth(at, prefs.system)}`;
      case "face_depth_m":
        return `Lower it to ${small(at, prefs.system)}`;
      case "tilt_deg":
        return "Hang it straight";
      case "face_wet":
        return "Rub the face wet";
      case "on_float":
        return "Hang it on its float";
      case "kick":
        return "Look for the bottom anew";
      case "rejection":
        return `Set rejection ${at === 0 ? "off" : at}`;
      case "beam":
        return `Take ${unit?.beams[at]?.name ?? "that beam"}`;
      case "pulse":
        return `Take the ${unit?.pulses[at]?.name ?? ""} pulse`;
      case "power":
        return `Set ${trim(unit?.powers_w[at] ?? 0, 1)} W`;
      case "ladder":
        return unit?.ladders[at]?.name ?? "Change the ladder";
      case "tvg":
        return `Time-varied gain ${at}`;
      case "blanking":
        return at === 0 ? "Blanking off" : `Blank ${depth(unit?.blanking_m[at] ?? 0, prefs.system)}`;
      case "bottom_window_m":
        return at === 0 ? "Full column" : `Bottom window ${depth(at, prefs.system)}`;
      case "free_window_top_m":
        return "Move the window";
      default:
        return "Change it";
    }
  }
</script>

<section class="coach" class:wrong={worst && !waits} aria-label="Coach" data-testid="coach">
  <div class="now" class:quiet={!event && !fish} role="status">
    <h2>Fish</h2>
    <p class="words">{event ?? (fish ? "A fish is at your lure." : "None has turned to your lure yet.")}</p>
  </div>
  <div class="unit" role="status">
    <h2>Unit</h2>
    {#if waits}
      <p class="finding">This one is yours to find.</p>
      <p class="reason">The coach is silent until the aim is met. A hint is at the top.</p>
    {:else if worst}
      <p class="finding">{sentence(worst.finding, worst.values, prefs.system, words)}</p>
      <p class="reason">{sentence(worst.reason, worst.values, prefs.system, words)}</p>
    {:else if tuning?.gain_window.floor === null}
      <p class="finding">Lower the lure until it comes out of the ringing at the top.</p>
      <p class="reason">Then its gain window appears on the gain scale.</p>
    {:else if tuning && fish}
      <p class="finding">Leave the knobs: hand and eyes to the fish.</p>
      <p class="reason">The lure shows, the water is quiet, and the bottom is held.</p>
    {:else if tuning}
      <p class="finding">Nothing to change.</p>
      <p class="reason">
        The transducer hangs well, the lure shows, the water is quiet, and the bottom is held.
      </p>
    {/if}
  </div>
  {#if !waits && rest.length > 0}
    <div class="after">
      <h2>After that</h2>
      <ol>
        {#each rest as one (one.finding)}
          <li>
            <b>{sentence(one.finding, one.values, prefs.system, words)}</b>
            {sentence(one.reason, one.values, prefs.system, words)}
          </li>
        {/each}
      </ol>
    </div>
  {/if}
  {#if !waits && worst?.change}
    {@const to = worst.change}
    <button class="primary" onclick={() => change(to)}>{does(to)}</button>
  {/if}
</section>

<style>
  .coach {
    display: flex;
    align-items: center;
    gap: 14px;
    min-width: 0;
    min-height: 68px;
    padding: 8px 16px;
    border-top: 1.5px solid var(--line);
    border-left: 6px solid var(--pine);
    background: var(--panel);
  }

  .coach.wrong {
    border-left-color: var(--action);
  }

  .now {
    flex: 0 1 34%;
    min-width: 0;
    padding-right: 14px;
    border-right: 1.5px solid var(--line);
  }

  .unit {
    flex: 1 1 0;
    min-width: 0;
  }

  h2 {
    margin: 0;
    color: var(--soft);
    font-size: 0.82rem;
    font-weight: 600;
    line-height: 1.1;
  }

  .words {
    font-weight: 700;
    line-height: 1.25;
  }

  .quiet .words {
    color: var(--soft);
    font-weight: 400;
  }

  .finding {
    font-weight: 700;
    line-height: 1.25;
  }

  .reason {
    color: var(--soft);
    font-size: 0.92rem;
    line-height: 1.3;
  }

  .after {
    flex: 1 1 0;
    min-width: 0;
    padding-left: 14px;
    border-left: 1.5px solid var(--line);
    font-size: 0.92rem;
    line-height: 1.3;
    color: var(--soft);
  }

  .after ol {
    margin: 2px 0 0;
    padding-left: 20px;
  }

  button {
    flex: 0 0 auto;
    order: 1;
    max-width: 200px;
    line-height: 1.15;
  }

  .after {
    order: 2;
  }

  @media (max-width: 1439px) {
    .after {
      display: none;
    }
  }

  @media (min-width: 1440px) {
    .now {
      flex-basis: 19%;
    }

    .after {
      flex-grow: 1.7;
      font-size: 0.84rem;
    }
  }

  @media (max-width: 760px) {
    .coach {
      padding: 6px 10px;
      gap: 8px;
      min-height: 76px;
    }

    .coach {
      flex-wrap: wrap;
    }

    .now {
      flex: 1 0 100%;
      padding: 0 0 4px;
      border-right: 0;
      border-bottom: 1.5px solid var(--line);
    }

    .now.quiet,
    .now:not(.quiet) + .unit .reason {
      display: none;
    }

    h2 {
      display: none;
    }

    @media (max-height: 700px) {
      .coach {
        min-height: 0;
      }

      .unit .reason {
        display: none;
      }
    }

    .words,
    .finding {
      font-size: 0.95rem;
    }

    .reason {
      font-size: 0.85rem;
    }

    button {
      white-space: normal;
      line-height: 1.15;
      flex: 0 0 92px;
      padding: 0 6px;
    }
  }
</style>
