<script lang="ts">
  // The page of Search: the picture with what chooses it above and how it is drawn below, and what it means beside it.
  import type { Snippet } from "svelte";

  let {
    head,
    view,
    foot = null,
    side,
    tall = false,
  }: {
    head: Snippet;
    view: Snippet;
    foot?: Snippet | null;
    side: Snippet;
    /** The view is more than a picture, and the hands are busy under it: what that means on a narrow screen. */
    tall?: boolean;
  } = $props();
</script>

<main class="search" class:tall>
  <div class="left">
    <div class="top">{@render head()}</div>
    <div class="view">{@render view()}</div>
    {#if foot}<div class="foot">{@render foot()}</div>{/if}
  </div>
  <div class="right">{@render side()}</div>
</main>

<style>
  .search {
    grid-column: 1 / -1;
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(380px, 36%);
    gap: 12px;
    padding: 10px 14px;
    min-height: 0;
    min-width: 0;
  }

  .left {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr) auto;
    gap: 8px;
    min-width: 0;
    min-height: 0;
  }

  .top,
  .foot {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 12px;
  }

  .foot > :global(p) {
    flex: 1 1 100%;
    font-size: 0.92rem;
  }

  .view {
    display: grid;
    min-width: 0;
    min-height: 0;
  }

  .right {
    display: flex;
    flex-direction: column;
    gap: 8px;
    min-height: 0;
    min-width: 0;
    overflow: auto;
  }

  @media (max-width: 760px) {
    .search {
      display: flex;
      flex-direction: column;
      overflow: auto;
      padding: 8px;
    }

    /* What one must know comes first, how it is drawn last. */
    .left {
      display: contents;
    }

    .top,
    .view,
    .right {
      flex: none;
    }

    .view {
      height: min(62dvh, 96vw);
    }

    .tall .view {
      height: auto;
    }

    /* Where the hands are busy, picture and hand come first; where else to go can wait. */
    .tall .top {
      order: 3;
    }

    .right {
      order: 1;
      overflow: visible;
    }

    .foot {
      order: 2;
    }
  }
</style>
