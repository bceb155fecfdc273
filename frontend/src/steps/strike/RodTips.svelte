<script lang="ts">
  // The rod tip of a run, and the dead stick's under it where one stands.
  import type { BenchStream } from "../../lib/live/stream.svelte";
  import Tip from "../../lib/rod/Tip.svelte";

  let { stream, hasStick }: { stream: BenchStream; hasStick: boolean } = $props();
</script>

<section class:watched={stream.eyes === "rod"} aria-label="Rod tip">
  <div class="bend">
    <Tip bend={stream.rodTipBend} says={stream.rodTip} watched={stream.eyes === "rod"} tall={100} />
  </div>
  {#if stream.rodTip === "felt"}<p class="felt">Something pulls</p>{/if}
  {#if hasStick}
    <p class="stick">Dead stick</p>
    <div class="bend small">
      <Tip bend={stream.stickTipBend} says={stream.stickTip} watched={stream.eyes === "rod"} />
    </div>
  {/if}
</section>

<style>
  section {
    position: relative;
    padding: 4px 8px;
    border: 1.5px solid var(--line);
    border-radius: 8px;
    background: var(--panel);
  }

  .watched {
    border: 3px solid var(--action);
    padding: 2.5px 6.5px;
  }

  .bend {
    height: 110px;
  }

  .bend.small {
    height: 60px;
  }

  .stick {
    color: var(--soft);
    font-size: 0.9rem;
  }

  .felt {
    position: absolute;
    left: 10px;
    bottom: 6px;
    padding: 0 6px;
    background: var(--action);
    color: var(--on-action);
    font-weight: 700;
    border-radius: 4px;
  }

  @media (max-width: 760px) {
    .bend {
      height: 64px;
    }
  }
</style>
