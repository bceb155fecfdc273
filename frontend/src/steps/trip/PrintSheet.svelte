<script lang="ts">
  // The day on one page of paper: the walk with what to know at each place, power, gear, cautions, who knows.
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence, timeOfDay, trim, way } from "../../lib/units";
  import { compass } from "./compass";
  import { drawing, paint, readColours } from "./painter";
  import { failedOf } from "./rig";
  import { letter, trip } from "./trip.svelte";
  import { toPixel, whole } from "./view";

  const system = $derived(prefs.system);
  const plan = $derived(trip.plan);
  const day = $derived(trip.day);
  const say = (one: { text: string; values: Parameters<typeof sentence>[1] }) =>
    sentence(one.text, one.values, system);
  const places = $derived(day?.places ?? []);
  const failed = $derived(failedOf(trip.rig?.items ?? []));

  const SIZE = { width: 640, height: 400 };
  let canvas: HTMLCanvasElement | undefined = $state();

  /** The map as it is printed: by day whatever the theme, drawn when the page is about to be printed. */
  function draw() {
    const paper = canvas?.getContext("2d");
    const shore = trip.lake?.shore_m ?? [];
    if (!canvas || !paper || !trip.map) return;
    const grid = trip.map.grid;
    const east = shore.filter((_, i) => i % 2 === 0);
    const north = shore.filter((_, i) => i % 2 === 1);
    if (east.length === 0 && grid) {
      east.push(grid.west_m, grid.west_m + grid.cell_m * (grid.columns - 1));
      north.push(grid.south_m, grid.south_m + grid.cell_m * (grid.rows - 1));
    }
    if (east.length === 0) return;
    const view = whole(
      {
        west: Math.min(...east),
        east: Math.max(...east),
        south: Math.min(...north),
        north: Math.max(...north),
      },
      SIZE,
      14,
    );
    const ratio = 2;
    [canvas.width, canvas.height] = [SIZE.width * ratio, SIZE.height * ratio];
    const colours = {
      ...readColours(),
      ground: "#fff",
      water: "#fff",
      band: "#ccc",
      bandEdge: "#444",
      line: "#777",
      soft: "#222",
      ink: "#000",
    };
    paint(
      paper,
      drawing(shore, trip.map),
      view,
      SIZE,
      colours,
      ratio,
      (m) => depth(m, system).split(" ")[0]!,
    );
    paper.strokeStyle = paper.fillStyle = "#000";
    paper.lineWidth = 1.6;
    paper.setLineDash([6, 4]);
    paper.beginPath();
    const through = [
      trip.start,
      ...trip.order.map((k): [number, number] => [places[k]!.east_m, places[k]!.north_m]),
    ];
    [...through, trip.start].forEach(([e, n], i) => {
      const [x, y] = toPixel(view, SIZE, e, n);
      if (i === 0) paper.moveTo(x, y);
      else paper.lineTo(x, y);
    });
    paper.stroke();
    paper.setLineDash([]);
    paper.font = "700 15px sans-serif";
    for (const k of trip.order) {
      const [x, y] = toPixel(view, SIZE, places[k]!.east_m, places[k]!.north_m);
      paper.beginPath();
      paper.arc(x, y, 11, 0, 7);
      paper.fill();
      paper.fillStyle = "#fff";
      paper.fillText(places[k]!.name || letter(k), x, y + 1);
      paper.fillStyle = "#000";
    }
  }
</script>

<svelte:window onbeforeprint={draw} />

{#if plan && day && trip.lake}
  <article class="sheet" aria-label="The day on paper">
    <h1>{trip.lake.name}, {day.date}</h1>
    <p>
      {timeOfDay(day.begins_min)} to {timeOfDay(day.ends_min)}, {day.people}
      {day.people === 1 ? "person" : "people"}, {day.species}, {day.season}.
      {#if trip.band}{depth(trip.band.from_m, system)} to {depth(trip.band.to_m, system)}: {say(
          trip.band.why,
        )}{/if}
      {#if plan.sun.sunset_min !== null}Sunset {timeOfDay(plan.sun.sunset_min)}.{/if}
    </p>
    <p><b>Back by {timeOfDay(day.ends_min)}. Knows the plan: {day.told || "________________"}.</b></p>
    <canvas bind:this={canvas} aria-hidden="true"></canvas>
    <table>
      <thead
        ><tr><th>Place</th><th>Way</th><th>There</th><th>Depth</th><th>Why, and what to mind</th></tr></thead
      >
      <tbody>
        {#each plan.planned.legs as leg, n (n)}
          {@const judged = leg.to === null ? undefined : trip.judged[leg.to]}
          <tr>
            <td>{leg.to === null ? "Back" : places[leg.to]?.name || letter(leg.to)}</td>
            <td>{way(leg.distance_m, system)} {compass(leg.bearing_deg)} {trim(leg.bearing_deg, 0)}°</td>
            <td>{timeOfDay(leg.arrives_min)}</td>
            <td>{judged ? depth(judged.depth_m, system) : ""}</td>
            <td
              >{judged ? judged.why.slice(1).map(say).join(" ") : ""}
              {#each plan.warnings.filter((one) => one.at === n && one.kind !== "unmeasured") as one (one.said.text)}<b
                  class="mind">{say(one.said)}</b
                >{/each}{#if plan.warnings.some((one) => one.at === n && one.kind === "unmeasured")}<b
                  class="mind">Ice not measured.</b
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    {#each trip.alive as one, k (k)}
      {#if one && one.lives !== "yes"}
        <p><b>{trip.batteryOf(day.powered[k])?.name}:</b> {say(one.said)} {one.helps.map(say).join(" ")}</p>
      {/if}
    {/each}
    {#each failed as one (`${one.item.id} ${one.check}`)}
      <p><b>{one.item.name}</b> failed "{one.check}" and was not retested. {one.note}</p>
    {/each}
    <ul>
      {#each plan.cautions as one (one)}<li>{one}</li>{/each}
    </ul>
  </article>
{/if}

<style>
  .sheet {
    display: none;
  }

  @media print {
    .sheet {
      display: block;
      font-size: 9.5pt;
      line-height: 1.25;
    }

    h1 {
      font-size: 15pt;
    }

    canvas {
      display: block;
      width: 150mm;
      height: 94mm;
      margin: 3pt auto;
    }

    table {
      width: 100%;
      border-collapse: collapse;
    }

    td:nth-child(2) {
      white-space: nowrap;
    }

    th,
    td {
      padding: 1.5pt 4pt;
      border-bottom: 0.5pt solid #777;
      text-align: left;
      vertical-align: top;
    }

    .mind {
      display: inline-block;
      margin-right: 3pt;
    }

    ul {
      margin: 3pt 0 0;
      padding-left: 14pt;
      font-size: 8.5pt;
    }
  }
</style>
