<script lang="ts">
  // Every outing as a bar on its day: as high as its bites an hour, its fish as dots over it. A touch opens it.
  import type { OutingSummary } from "../../lib/api/types";
  import { rate } from "./words";

  let { outings, open }: { outings: OutingSummary[]; open: (id: number) => string } = $props();

  let width = $state(900);
  const HEIGHT = 170;
  const FOOT = 30;
  const HEAD = 18;
  const DAY_MS = 86_400_000;
  const NAME_PX = 66; // of a month and its year
  const GAP_MS = 90 * DAY_MS; // a summer is folded away

  // Winters one beside the other: between them the days without an outing are left out.
  const winters = $derived.by(() => {
    const days = outings
      .map((one) => ({ one, at: new Date(one.began_at).getTime() }))
      .sort((a, b) => a.at - b.at);
    const found: { days: typeof days; from: number; to: number }[] = [];
    for (const day of days) {
      const last = found.at(-1);
      if (last && day.at - last.to < GAP_MS) {
        last.days.push(day);
        last.to = day.at;
      } else found.push({ days: [day], from: day.at, to: day.at });
    }
    return found;
  });
  const anHour = (one: OutingSummary) =>
    one.tally.rod_hours > 0 ? one.tally.bites / one.tally.rod_hours : 0;
  const most = $derived(Math.max(0.5, ...outings.map(anHour)));
  const whole = $derived(winters.reduce((sum, one) => sum + (one.to - one.from) + 6 * DAY_MS, 0));
  const thick = $derived(Math.max(6, Math.min(22, (width - 60) / (outings.length * 1.6))));

  const bars = $derived.by(() => {
    let from = 44;
    const room = width - 44 - winters.length * 14;
    return winters.map((winter) => {
      const wide = (room * (winter.to - winter.from + 6 * DAY_MS)) / whole;
      const left = from;
      from += wide + 14;
      const x = (at: number) =>
        left + 14 + ((at - winter.from) / Math.max(winter.to - winter.from, DAY_MS)) * Math.max(wide - 28, 1);
      return { left, winter, bars: winter.days.map(({ one, at }) => ({ one, x: x(at) })) };
    });
  });
  const y = (value: number) => HEIGHT - FOOT - (value / most) * (HEIGHT - FOOT - HEAD);
  const monthOf = (at: number) =>
    new Date(at).toLocaleDateString(undefined, { month: "short", year: "numeric" });
  const dayOf = (iso: string) =>
    new Date(iso).toLocaleDateString(undefined, { month: "short", day: "numeric" });
  // A name under each winter that there is room for, none beyond the edge.
  const names = $derived.by(() => {
    let free = 0;
    return bars.flatMap(({ left, winter }) => {
      const x = Math.min(left + 4, width - NAME_PX);
      if (x < free) return [];
      free = x + NAME_PX + 6;
      return [{ x, from: winter.from, text: monthOf(winter.from) }];
    });
  });
</script>

<figure bind:clientWidth={width}>
  <figcaption>Bites an hour of one line, outing by outing; a dot for each fish landed</figcaption>
  <svg {width} height={HEIGHT} role="group" aria-label="Outings as bars; the table below has the same">
    {#each [0, most / 2, most] as level (level)}
      <line class="rule" x1="40" x2={width} y1={y(level)} y2={y(level)} />
      <text class="scale" x="34" y={y(level) + 4}>{rate(level)}</text>
    {/each}
    {#each names as one (one.from)}
      <text class="month" x={one.x} y={HEIGHT - 8}>{one.text}</text>
    {/each}
    {#each bars as { winter, bars: mine } (winter.from)}
      {#each mine as { one, x } (one.id)}
        <a
          href={open(one.id)}
          aria-label="{dayOf(one.began_at)}: {rate(anHour(one))} bites an hour, {one.tally.fish} fish"
        >
          <rect class="reach" x={x - thick} y="0" width={2 * thick} height={HEIGHT - FOOT + 8} />
          <rect
            class="bar"
            x={x - thick / 2}
            y={y(anHour(one))}
            width={thick}
            height={Math.max(HEIGHT - FOOT - y(anHour(one)), 2)}
          />
          {#each Array.from({ length: Math.min(one.tally.fish, 8) }, (_, k) => k) as k (k)}
            <circle class="fish" cx={x} cy={Math.max(y(anHour(one)) - 7 - 8 * k, 5)} r="3.2" />
          {/each}
        </a>
      {/each}
    {/each}
  </svg>
</figure>

<style>
  figure {
    margin: 0;
    min-width: 0;
    max-width: 1200px;
  }

  figcaption {
    font-weight: 600;
    margin-bottom: 4px;
  }

  svg {
    display: block;
    overflow: visible;
  }

  .rule {
    stroke: var(--line);
    stroke-width: 1.5;
  }

  .bar {
    fill: var(--pine);
  }

  .fish {
    fill: var(--action);
  }

  .reach {
    fill: transparent;
  }

  a:hover .bar,
  a:focus-visible .bar {
    fill: var(--action);
  }

  text {
    fill: var(--soft);
    font: 500 0.8rem var(--figures);
  }

  .scale {
    text-anchor: end;
  }
</style>
