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

/** A number that is the same in every system: amperes, volts, hours, degrees of latitude. */
export const plainMeasure = (unit: string, digits: number): Measure => ({
  unit: () => unit,
  show: (value) => trim(value, digits),
  read: (value) => value,
});

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

const MILE = 5280 * FOOT;
const POUND = 0.45359237; // kg, exact

/** A way along the ice: feet or metres, and miles or kilometres where it is long. */
export function way(m: number, system: System): string {
  if (system === "feet") return m < 0.4 * MILE ? `${trim(m / FOOT, 0)} ft` : `${trim(m / MILE, 1)} mi`;
  return m < 1000 ? `${trim(m, 0)} m` : `${trim(m / 1000, 1)} km`;
}

/** A piece of water: acres or hectares, and square feet or metres where it is small. */
export function area(m2: number, system: System): string {
  if (system === "feet") {
    const acres = m2 / (43560 * FOOT * FOOT);
    return acres < 0.2 ? `${trim(m2 / (FOOT * FOOT), 0)} sq ft` : `${trim(acres, acres < 10 ? 1 : 0)} acres`;
  }
  return m2 < 1000 ? `${trim(m2, 0)} m²` : `${trim(m2 / 10_000, m2 < 100_000 ? 1 : 0)} ha`;
}

/** Minutes of the day as a clock shows them. */
export const timeOfDay = (minutes: number) => {
  const whole = Math.round(minutes);
  return `${Math.floor(whole / 60) % 24}:${String(whole % 60).padStart(2, "0")}`;
};

/** How long something takes. */
export const span = (minutes: number) =>
  minutes < 90 ? `${trim(minutes, 0)} min` : `${trim(minutes / 60, 1)} h`;

/** A length of fish or ice, in inches or centimetres. */
export function small(m: number, system: System): string {
  const value = toSmall(m, system);
  return `${trim(value, value < 10 ? 1 : 0)} ${smallUnit(system)}`;
}

/** A length as one would say it: small things in inches or centimetres, the rest in feet or metres. */
export function length(m: number, system: System): string {
  return Math.abs(m) < (system === "feet" ? 2 * FOOT : 1) ? small(m, system) : depth(m, system);
}

const LONG_M = 150; // from here on it is a way and no depth

/** `words` names the ladder's steps, weakest first. */
export function quantity(q: Quantity, system: System, words: readonly string[] = []): string {
  if (q.unit === "step") return words[q.value - 1] ?? `step ${q.value}`;
  return SHOWN[q.unit]?.(q.value, system) ?? trim(q.value, 1);
}

/** How a value of each unit is written; one that is not here is a bare number. */
const SHOWN: Partial<Record<Quantity["unit"], (value: number, system: System) => string>> = {
  m: (value, system) => (Math.abs(value) >= LONG_M ? way(value, system) : length(value, system)),
  m2: area,
  "m/s": (value, system) => `${trim(toDepth(value, system), 2)} ${depthUnit(system)}/s`,
  dB: (value) => `${trim(value, 1)} dB`,
  percent: (value) => `${trim(value, value < 10 ? 1 : 0)} percent`,
  degrees: (value) => `${trim(value, 1)}°`,
  "degrees C": (value, system) => `${trim(toTemperature(value, system), 0)} ${temperatureUnit(system)}`,
  mm: (value) => `${trim(value, 1)} mm`,
  V: (value) => `${trim(value, 1)} V`,
  A: (value) => `${trim(value, 2)} A`,
  N: (value) => `${trim(value, 1)} N`,
  s: (value) => (value >= 100 ? `${trim(value / 60, 1)} min` : `${trim(value, value < 1 ? 2 : 1)} s`),
  min: span,
  h: (value) => `${trim(value, 1)} hours`,
  "per hour": (value) => trim(value, value < 1 ? 2 : 1),
  clock: timeOfDay,
  "m:ss": clock,
  // A load is a guess: to the ten pounds or five kilograms.
  kg: (value, system) =>
    system === "feet"
      ? `${trim(10 * Math.round(value / POUND / 10), 0)} lb`
      : `${trim(5 * Math.round(value / 5), 0)} kg`,
};

/** Classes of depths and sizes are named in metres inside ("3 to 6 m"): in feet and inches where those are asked for. */
export function classInUnits(text: string, system: System): string {
  if (system === "metric") return text;
  const one = (value: string, unit: string) => (unit === "mm" ? `${inches(value)} in` : `${feet(value)} ft`);
  return text
    .replace(/(\d+(?:\.\d+)?) to (\d+(?:\.\d+)?) (m|mm)\b/g, (_, low: string, high: string, unit: string) =>
      unit === "mm" ? `${inches(low)} to ${one(high, unit)}` : `${feet(low)} to ${one(high, unit)}`,
    )
    .replace(
      /(under|within|more than) (\d+(?:\.\d+)?) (m|mm)\b/g,
      (_, how: string, value: string, unit: string) => `${how} ${one(value, unit)}`,
    )
    .replace(
      /(\d+(?:\.\d+)?) (m|mm) and more/g,
      (_, value: string, unit: string) => `${one(value, unit)} and more`,
    );
}

const feet = (m: string) => trim(Number(m) / FOOT, Number(m) < 3 ? 1 : 0);
const inches = (mm: string) => trim(Number(mm) / 1000 / INCH, 1);

/** A sentence from the program with its `{names}` written out in the reader's units. */
export function sentence(
  text: string,
  values: Record<string, Quantity>,
  system: System,
  words: readonly string[] = [],
): string {
  return classInUnits(text, system).replace(/\{(\w+)\}/g, (whole, name: string) => {
    const q = values[name];
    return q ? quantity(q, system, words) : whole;
  });
}

/** Minutes and seconds of a run or recording; before its beginning is its beginning. */
export function clock(seconds: number): string {
  const whole = Math.floor(Math.max(seconds, 0));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
