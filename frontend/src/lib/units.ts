// Feet and inches or metres, only ever at the face: everything inside is SI.
import { constants } from "./api/limits";
import type { Quantity } from "./api/types";

export type System = "feet" | "metric";

const { foot: FOOT, inch: INCH } = constants;

export const depthUnit = (system: System) => (system === "feet" ? "ft" : "m");
export const smallUnit = (system: System) => (system === "feet" ? "in" : "cm");
export const toDepth = (m: number, system: System) => (system === "feet" ? m / FOOT : m);
export const fromDepth = (value: number, system: System) => (system === "feet" ? value * FOOT : value);
export const toSmall = (m: number, system: System) => (system === "feet" ? m / INCH : m * 100);
export const fromSmall = (value: number, system: System) => (system === "feet" ? value * INCH : value / 100);
const toTemperature = (c: number, system: System) => (system === "feet" ? c * 1.8 + 32 : c);
const fromTemperature = (value: number, system: System) => (system === "feet" ? (value - 32) / 1.8 : value);
const temperatureUnit = (system: System) => (system === "feet" ? "°F" : "°C");

/** How a quantity is typed and shown in the reader's units. */
export interface Measure {
  unit: (system: System) => string;
  show: (si: number, system: System) => string;
  read: (value: number, system: System) => number;
}

export const deepMeasure = (digits: number): Measure => ({
  unit: depthUnit,
  show: (m, system) => trim(toDepth(m, system), digits),
  read: fromDepth,
});
export const shortMeasure: Measure = {
  unit: smallUnit,
  show: (m, system) => trim(toSmall(m, system), 1),
  read: fromSmall,
};
export const warmMeasure: Measure = {
  unit: temperatureUnit,
  show: (c, system) => trim(toTemperature(c, system), 1),
  read: fromTemperature,
};

/** A difference with its sign; one that rounds to nothing has none. */
export function signed(value: number, digits: number): string {
  const size = Math.abs(value).toFixed(digits);
  return Number(size) === 0 ? size : `${value < 0 ? "−" : "+"}${size}`;
}

/** A number with at most `digits` decimals and no trailing zeros. */
export function trim(value: number, digits: number): string {
  const fixed = value.toFixed(digits);
  const text = digits > 0 ? fixed.replace(/\.?0+$/, "") : fixed;
  return text === "-0" ? "0" : text; // what rounds to nothing has no side
}

/** A depth or width, with one decimal: "22.4 ft", "6.8 m". */
export function depth(m: number, system: System): string {
  return `${trim(toDepth(m, system), 1)} ${depthUnit(system)}`;
}

/** A length of fish or ice, in inches or centimetres. */
export function small(m: number, system: System): string {
  const value = toSmall(m, system);
  return `${trim(value, value < 10 ? 1 : 0)} ${smallUnit(system)}`;
}

/** A length as one would say it: small things in inches or centimetres, the rest in feet or metres. */
export function length(m: number, system: System): string {
  return Math.abs(m) < (system === "feet" ? 2 * FOOT : 1) ? small(m, system) : depth(m, system);
}

/** `words` names the ladder's steps, weakest first. */
function quantity(q: Quantity, system: System, words: readonly string[]): string {
  if (q.unit === "step") return words[q.value - 1] ?? `step ${q.value}`;
  if (q.unit === "m") return length(q.value, system);
  if (q.unit === "m/s") return `${trim(toDepth(q.value, system), 2)} ${depthUnit(system)}/s`;
  if (q.unit === "dB") return `${trim(q.value, 1)} dB`;
  if (q.unit === "percent") return `${trim(q.value, q.value < 10 ? 1 : 0)} percent`;
  if (q.unit === "degrees") return `${trim(q.value, 1)}°`;
  if (q.unit === "mm") return `${trim(q.value, 1)} mm`;
  if (q.unit === "V") return `${trim(q.value, 1)} V`;
  if (q.unit === "N") return `${trim(q.value, 1)} N`;
  if (q.unit === "s" && q.value >= 100) return `${trim(q.value / 60, 1)} min`;
  if (q.unit === "s") return `${trim(q.value, q.value < 1 ? 2 : 1)} s`;
  return trim(q.value, 1);
}

/** A sentence from the program with its `{names}` written out in the reader's units. */
export function sentence(
  text: string,
  values: Record<string, Quantity>,
  system: System,
  words: readonly string[] = [],
): string {
  return text.replace(/\{(\w+)\}/g, (whole, name: string) => {
    const q = values[name];
    return q ? quantity(q, system, words) : whole;
  });
}

/** Minutes and seconds of a run or recording; before its beginning is its beginning. */
export function clock(seconds: number): string {
  const whole = Math.floor(Math.max(seconds, 0));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
