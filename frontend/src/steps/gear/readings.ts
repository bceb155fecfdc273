// A line of the calibration as it is typed, and what it says.
import type { Reading } from "../../lib/api/types";
import { fromDepth, type System, toDepth, trim } from "../../lib/units";

export interface Row {
  lure: string;
  depth: string;
  gain: string;
  colour: string;
  /** Where the lure hung exactly [m], when the stand-in said so. */
  exact: number | null;
}

/** A number as it is typed, with a point or a comma; not a number where there is none. */
export const number = (text: string): number =>
  text.trim() === "" ? Number.NaN : Number(text.trim().replace(",", "."));

/** Whether a line says enough to be a reading. */
export const whole = (row: Row): boolean =>
  Number.isFinite(number(row.depth)) && Number.isFinite(number(row.gain));

export const rowOf = (reading: Reading, system: System): Row => ({
  lure: String(reading.lure_id),
  depth: trim(toDepth(reading.depth_m, system), 1),
  gain: trim(reading.gain, 2),
  colour: String(reading.colour),
  exact: reading.depth_m,
});

/** The lines with their depths in other units; what is no number stays as it is typed. */
export const inUnits = (rows: readonly Row[], from: System, to: System): Row[] =>
  rows.map((row) => {
    const typed = number(row.depth);
    if (from === to || !Number.isFinite(typed)) return row;
    return { ...row, depth: trim(toDepth(row.exact ?? fromDepth(typed, from), to), 1) };
  });
