// The hand's speeds [m/s, upwards positive], the same on the Bench and in a run.
import { constants } from "./api/limits";

export const {
  draws: DRAWS, // the lifts that draw
  liftSlowly: LIFT,
  liftFaster: LIFT_FASTER,
  liftFast: LIFT_FAST,
  lowerSlowly: LOWER_SLOW,
  letSink: SINK,
} = constants;

const REST = 12; // pixels that count as no push
const SLOWLY = 70;
const FASTER = 150;

/** The speed for a push of so many pixels up (down is negative). */
export function speedOf(push: number): number {
  const far = Math.abs(push);
  if (far < REST) return 0;
  if (push < 0) return far < SLOWLY ? LOWER_SLOW : SINK;
  const share = Math.min((far - REST) / (SLOWLY - REST), 1);
  const slow = 0.01 + share * 0.04;
  if (far <= SLOWLY) return Math.round(slow * 200) / 200;
  const more = Math.min((far - SLOWLY) / (FASTER - SLOWLY), 1);
  return Math.round((0.05 + more * 0.3) * 100) / 100;
}
