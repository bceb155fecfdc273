// A mark that was touched in a recording, on its way to the call sheet: looked at once, and then gone.
import type { Observation, Pings } from "../../lib/api/types";

export interface Touched extends Pick<Observation, "shown_m" | "colour" | "motion"> {
  unit_id: number | null;
  lure_id: number | null;
  gain: number;
}

let waiting: Touched | null = null;

export const leave = (touched: Touched) => void (waiting = touched);

/** What was touched last, once. */
export function taken(): Touched | null {
  const found = waiting;
  waiting = null;
  return found;
}

const NEAR_ROWS = 4;
const NEAR_PINGS = 4;

/** The strongest colour about a place in a picture: time [s], range [m from the face]. */
export function colourAt(pings: Pings, time: number, range: number): number {
  const column = Math.max(
    pings.time_s.findLastIndex((one) => one <= time + 1e-9),
    0,
  );
  const top = pings.top_m[column]!;
  const row = Math.floor(((range - top) / (pings.bottom_m[column]! - top)) * pings.rows);
  const levels = atob(pings.levels);
  let most = 0;
  for (let k = Math.max(column - NEAR_PINGS, 0); k <= column; k++)
    for (let r = Math.max(row - NEAR_ROWS, 0); r <= Math.min(row + NEAR_ROWS, pings.rows - 1); r++)
      most = Math.max(most, levels.charCodeAt(k * pings.rows + r));
  return most;
}
