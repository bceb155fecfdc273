// Where one can stand: the day's places in walking order, the holes that are there, and what was drilled on the ice.
import type { Notes, Spot } from "./notes.svelte";
import type { Told } from "./told";

/** A spot as it is shown: its depth may be no more than the map's guess. */
export interface Standing extends Spot {
  guessed: boolean;
}

const round = (m: number) => Math.round(m * 10) / 10;

export function spotsOf(told: Told, notes: Notes): Standing[] {
  const { lake, plan, day, judged } = told;
  const on = { lake_id: lake.id, water: lake.name };
  const places = plan.planned.legs.flatMap(({ to }) => {
    if (to === null) return [];
    const { name, east_m, north_m } = day.places[to]!;
    const depth_m = judged[to] ? round(judged[to].depth_m) : null;
    const at = { east_m: round(east_m), north_m: round(north_m) };
    return [{ name: `Place ${name}`, hole_id: null, ...at, depth_m, ...on, guessed: true }];
  });
  const holes = told.holes.map(({ hole_id, name, east_m, north_m, depth_m }) => ({
    name,
    hole_id,
    east_m,
    north_m,
    depth_m,
    ...on,
    guessed: false,
  }));
  const drilled = notes.spots.map((one) => ({ ...one, guessed: false }));
  return [...places, ...holes, ...drilled].map((one) => felt(one, notes));
}

/** With the depth that was found there with this phone, where one was. */
function felt(one: Standing, notes: Notes): Standing {
  const found = notes.notes.findLast(
    ({ kind, back, spot }) => kind === "sounding" && !back && spot.name === one.name,
  );
  return found ? { ...one, depth_m: found.depth_m, guessed: false } : one;
}

/** As it is written down: a guess of the map is no depth that was found. */
export const asNoted = ({ guessed, ...spot }: Standing): Spot =>
  guessed ? { ...spot, depth_m: null } : spot;
