// How often something happens, as the log writes it.
import { trim } from "../../lib/units";

/** Events an hour: two figures are as many as a log can tell. */
export const rate = (value: number) => (value >= 10 ? trim(value, 0) : trim(value, value < 1 ? 2 : 1));
