// A line of the calibration as it is typed.
export interface Row {
  lure: string;
  depth: string;
  gain: string;
  colour: string;
  /** Where the lure hung exactly [m], when the stand-in said so. */
  exact: number | null;
}
