// Directions and distances as one says them on the ice.
import { constants } from "../../lib/api/limits";
import type { Measure } from "../../lib/turning/turning";
import { trim, type System, way } from "../../lib/units";

const COMPASS = [
  "N",
  "NNE",
  "NE",
  "ENE",
  "E",
  "ESE",
  "SE",
  "SSE",
  "S",
  "SSW",
  "SW",
  "WSW",
  "W",
  "WNW",
  "NW",
  "NNW",
];

/** "2 o'clock", "half past 2": a bearing from twelve, to the half hour. */
export function clockOf(bearing: number): string {
  const halves = Math.round((((bearing % 360) + 360) % 360) / 15) % 24;
  const hour = Math.floor(halves / 2) || 12;
  return halves % 2 ? `half past ${hour}` : `${hour} o'clock`;
}

export const compassOf = (bearing: number) =>
  COMPASS[Math.round((((bearing % 360) + 360) % 360) / 22.5) % 16]!;

export const paces = (m: number) => `${trim(m / constants.pace, 0)} paces`;

/** A span of ways; one where both round to the same. */
export function between(low: number, high: number, system: System): string {
  const [a, b] = [way(low, system), way(high, system)];
  return a === b ? a : `${a.replace(/\s.*$/, "")} to ${b}`;
}

/** What a thing on the picture can be, as one says it. */
export const KINDS = {
  school: "A school",
  hunters: "Hunters: a few larger ones",
  "single fish": "A single fish",
  standing: "Something that stands",
} as const;

/** What distances in the picture are, in each way of drawing it. */
export const MEASURED: Record<Measure, string> = {
  ice: "Drawn as if all lay on the bed: right for what does, too near for what swims above it.",
  water:
    "Distances as the sound went, down and out: nothing of the bed is nearer than straight down, so the middle is empty.",
};
