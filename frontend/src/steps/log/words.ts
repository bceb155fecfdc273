// Words of the log in the reader's units: classes of depths and sizes are named in metres inside.
import { constants } from "../../lib/api/limits";
import { type System, trim } from "../../lib/units";

const { foot: FOOT, inch: INCH } = constants;

/** A class's name, or a sentence that holds one, with its metres and millimetres in feet and inches where asked. */
export function inUnits(text: string, system: System): string {
  if (system === "metric") return text;
  return text
    .replace(/(\d+(?:\.\d+)?) to (\d+(?:\.\d+)?) (m|mm)\b/g, (_, low: string, high: string, unit: string) =>
      unit === "mm" ? `${inches(low)} to ${inches(high)} in` : `${feet(low)} to ${feet(high)} ft`,
    )
    .replace(/(\d+(?:\.\d+)?) (m|mm)\b/g, (_, value: string, unit: string) =>
      unit === "mm" ? `${inches(value)} in` : `${feet(value)} ft`,
    );
}

const feet = (m: string) => trim(Number(m) / FOOT, Number(m) < 3 ? 1 : 0);
const inches = (mm: string) => trim(Number(mm) / 1000 / INCH, 1);

/** Events an hour: two figures are as many as a log can tell. */
export const rate = (value: number) => (value >= 10 ? trim(value, 0) : trim(value, value < 1 ? 2 : 1));
