<script lang="ts">
  // A plain chart by uPlot: points of several kinds over an axis; its table stands beside it for who cannot see it.
  import uPlot from "uplot";
  import "uplot/dist/uPlot.min.css";
  import { prefs } from "../../lib/prefs.svelte";

  export interface Points {
    name: string;
    colour: string;
    x: number[];
    y: number[];
  }
  let {
    label,
    x,
    y,
    points,
    xTicks,
    yDown = false,
  }: {
    label: string;
    x: string;
    y: string;
    points: readonly Points[];
    /** Words in place of the numbers along the foot. */
    xTicks?: readonly string[];
    yDown?: boolean;
  } = $props();

  let room: HTMLElement;
  let width = $state(0);
  const HEIGHT = 280;

  const style = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

  // uPlot takes one row of places for all kinds: each kind has a value only where it has a point.
  function columns(): uPlot.AlignedData {
    const rows = points.flatMap((one, kind) => one.x.map((at, k) => ({ at, kind, value: one.y[k]! })));
    rows.sort((a, b) => a.at - b.at);
    return [
      rows.map((row) => row.at),
      ...points.map((_, kind) => rows.map((row) => (row.kind === kind ? row.value : null))),
    ];
  }

  $effect(() => {
    void prefs.theme; // the colours are the theme's
    if (!width) return;
    let chart: uPlot | null = null;
    // The theme is put on the page after what stands on it was told of it: drawn with the next frame.
    const drawn = requestAnimationFrame(() => (chart = made()));
    return () => {
      cancelAnimationFrame(drawn);
      chart?.destroy();
    };
  });

  function made(): uPlot {
    const font = `13px ${getComputedStyle(document.body).fontFamily}`;
    const axis = {
      font,
      labelFont: `600 ${font}`,
      stroke: style("--ink"),
      grid: { stroke: style("--line"), width: 1 },
      ticks: { stroke: style("--line") },
    };
    return new uPlot(
      {
        width,
        height: HEIGHT,
        cursor: { show: false },
        legend: { show: false },
        scales: {
          x: { time: false, ...(xTicks ? { range: [-0.5, xTicks.length - 0.5] } : {}) },
          y: { dir: yDown ? -1 : 1 },
        },
        axes: [
          {
            ...axis,
            label: x,
            ...(xTicks ? { splits: () => xTicks.map((_, k) => k), values: () => [...xTicks] } : {}),
          },
          { ...axis, label: y },
        ],
        series: [
          {},
          ...points.map((one) => ({
            label: one.name,
            stroke: style(one.colour),
            paths: () => null,
            points: { show: true, size: 9, fill: style(one.colour), stroke: style("--ground"), width: 1 },
          })),
        ],
      },
      columns(),
      room,
    );
  }
</script>

<figure>
  <figcaption>
    {label}
    {#each points as one (one.name)}<span class="key"
        ><i style:background="var({one.colour})"></i>{one.name}</span
      >{/each}
  </figcaption>
  <div bind:this={room} bind:clientWidth={width} aria-hidden="true" class="room"></div>
</figure>

<style>
  figure {
    margin: 0;
    min-width: 0;
  }

  figcaption {
    font-weight: 600;
    display: flex;
    flex-wrap: wrap;
    gap: 4px 16px;
  }

  .key {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    font-weight: 400;
  }

  i {
    width: 12px;
    height: 12px;
    border-radius: 50%;
  }

  .room {
    min-height: 280px;
    min-width: 0;
    overflow: hidden;
  }
</style>
