<script lang="ts">
  // The fit as a line: the weaker the echo, the more gain it takes to see it; each reading where it fell.
  import type { Fit, Unit } from "../../lib/api/types";
  import { trim } from "../../lib/units";

  let { fit, unit, gains }: { fit: Fit; unit: Unit; gains: number[] } = $props();

  const WIDE = 300;
  const TALL = 170;
  const LEFT = 44;
  const FOOT = 138;
  const scale = $derived(unit.gain);
  const levels = $derived(fit.judged.map((one) => one.level_db));
  const low = $derived(Math.min(...levels) - 6);
  const high = $derived(Math.max(...levels) + 6);
  const x = $derived(
    (gain: number) => LEFT + ((gain - scale.minimum) / (scale.maximum - scale.minimum)) * (WIDE - LEFT - 8),
  );
  const y = $derived((level: number) => 8 + ((high - level) / (high - low)) * (FOOT - 8));
  const line = $derived((level: number) => {
    const steps = (fit.first_colour_db - level) / fit.db_per_step;
    return scale.minimum + steps * scale.step;
  });
</script>

<svg
  viewBox="0 0 {WIDE} {TALL}"
  role="img"
  aria-label="Echo level of each reading against its gain, and the line fitted"
>
  <line class="axis" x1={LEFT} x2={WIDE - 8} y1={FOOT} y2={FOOT} />
  <line class="axis" x1={LEFT} x2={LEFT} y1="8" y2={FOOT} />
  <clipPath id="inside"><rect x={LEFT} y="8" width={WIDE - LEFT - 8} height={FOOT - 8} /></clipPath>
  <line class="fit" clip-path="url(#inside)" x1={x(line(high))} y1={y(high)} x2={x(line(low))} y2={y(low)} />
  {#each fit.judged as one, i (i)}
    {#if gains[i] !== undefined}
      <circle class:out={!one.used} cx={x(gains[i])} cy={y(one.level_db)} r="5" />
    {/if}
  {/each}
  <text x={LEFT} y={FOOT + 16}>{trim(scale.minimum, 1)}</text>
  <text class="end" x={WIDE - 8} y={FOOT + 16}>{trim(scale.maximum, 1)}</text>
  <text class="middle" x={(LEFT + WIDE) / 2} y={FOOT + 28}>gain</text>
  <text class="end" x={LEFT - 6} y="18">{trim(high, 0)}</text>
  <text class="end" x={LEFT - 6} y={FOOT}>{trim(low, 0)}</text>
  <text class="end" x={LEFT - 6} y="78">dB</text>
</svg>

<style>
  svg {
    width: 100%;
    max-width: 420px;
    height: auto;
  }

  .axis {
    stroke: var(--ink);
    stroke-width: 1.5;
  }

  .fit {
    stroke: var(--pine);
    stroke-width: 2.5;
  }

  circle {
    fill: var(--action);
    stroke: var(--panel);
    stroke-width: 1.5;
  }

  circle.out {
    fill: none;
    stroke: var(--stop);
    stroke-width: 2.5;
  }

  text {
    font: 11px var(--figures);
    fill: var(--ink);
  }

  .end {
    text-anchor: end;
  }

  .middle {
    text-anchor: middle;
  }
</style>
