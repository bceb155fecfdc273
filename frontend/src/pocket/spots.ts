// Where one can stand: the day's places in walking order, the holes that are there, and what was drilled on the ice.
import type { Notes, Spot } from "./notes.svelte";
import type { Told } from "./told";

const round = (m: number) => Math.round(m * 10) / 10;

export function spotsOf(told: Told, notes: Notes): Spot[] {
  const { lake, plan, day, judged } = told;
  const on = { lake_id: lake.id, water: lake.name };
  const places = plan.planned.legs.flatMap(({ to }) => {
    if (to === null) return [];
    const { name, east_m, north_m } = day.places[to]!;
    const depth_m = judged[to] ? round(judged[to].depth_m) : null;
    return [
      {
        name: `Place ${name}`,
        hole_id: null,
        east_m: round(east_m),
        north_m: round(north_m),
        depth_m,
        ...on,
      },
    ];
  });
  const holes = told.holes.map(({ hole_id, name, east_m, north_m, depth_m }) => ({
    name,
    hole_id,
    east_m,
    north_m,
    depth_m,
    ...on,
  }));
  return [...places, ...holes, ...notes.spots];
}
