// Places by paces and a direction, for those who have no map: a pace is about three quarters of a metre.
export const PACE_M = 0.75; // common practice, no source

/** Metres east and north of where one begins, after so many paces along a bearing (degrees from north). */
export function paced(from: readonly [number, number], paces: number, bearing: number): [number, number] {
  const turn = (bearing * Math.PI) / 180;
  return [from[0] + paces * PACE_M * Math.sin(turn), from[1] + paces * PACE_M * Math.cos(turn)];
}
