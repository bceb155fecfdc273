<script lang="ts">
  // A share of a whole as a bar, with the span in which it may really lie.
  let {
    share,
    low,
    high,
    pale = 0,
    label,
  }: {
    share: number;
    low: number;
    high: number;
    /** A larger share behind it. */
    pale?: number;
    label: string;
  } = $props();
</script>

<svg viewBox="0 0 100 20" preserveAspectRatio="none" role="img" aria-label={label}>
  <rect class="all" width="100" height="20" />
  {#if pale > 0}<rect class="pale" width={100 * pale} height="20" />{/if}
  <rect class="share" width={100 * share} height="20" />
  <rect class="span" x={100 * low} y="8.5" width={100 * (high - low)} height="3" />
</svg>

<style>
  svg {
    display: block;
    width: 100%;
    height: 100%;
  }

  .all {
    fill: var(--line);
  }

  .pale {
    fill: var(--band);
  }

  .share {
    fill: var(--pine);
  }

  .span {
    fill: var(--ink);
    stroke: var(--panel);
    stroke-width: 1;
    vector-effect: non-scaling-stroke;
  }
</style>
