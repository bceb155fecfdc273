<script lang="ts">
  // The ice figure beside public guidance, and what to mind at every hole. Never a word that ice is safe.
  import type { HoleCard, Said } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { small, trim } from "../../lib/units";

  let { made, write }: { made: HoleCard; write: (one: Said) => string } = $props();
</script>

<section class="cautions" aria-label="Cautions">
  {#if made.ice}
    {@const ice = made.ice}
    <p>
      <b>Ice {small(ice.thickness_m, prefs.system)}</b>{ice.kind_known ? "" : ", kind not known"}: counts as {small(
        ice.counts_as_m,
        prefs.system,
      )} of clear ice. Public guidance for new clear ice (from memory; authorities differ):
      {#each ice.guidance as one, i (one.use)}{i > 0 ? "; " : ""}{one.use}
        {one.least_m === one.fullest_m
          ? small(one.fullest_m, prefs.system)
          : `${small(one.least_m, prefs.system)} to ${small(one.fullest_m, prefs.system)}`}{one.below
          ? " (yours is less)"
          : ""}{/each}. The load rule P = A h² (Gold 1971) gives {prefs.system === "feet"
        ? `${10 * Math.round(ice.rule_kg / 4.5359237)} lb`
        : `${trim(ice.rule_kg, 0)} kg`}: for sound, unbroken clear ice in hard frost and a load that moves on,
      not for parked loads, cracks, current, thaw, snow or slush. It is no promise.
    </p>
  {/if}
  {#each made.cautions as one, i (i)}<p class:first={i === 0}>{write(one)}</p>{/each}
</section>

<style>
  .cautions {
    padding: 8px 14px;
    border-left: 6px solid var(--stop);
    background: var(--panel);
    font-size: 0.95rem;
  }

  p + p {
    margin-top: 6px;
  }

  .first {
    font-weight: 700;
  }

  @media print {
    .cautions {
      padding: 3pt 5pt;
      border: 1pt solid;
      background: none;
      font-size: 7.2pt;
    }

    p + p {
      margin-top: 2pt;
    }
  }
</style>
