// A unit's profile as it stands on the form: text in the reader's units, to and from SI.
import type { Profile } from "../../lib/api/types";
import { depthUnit, fromDepth, type System, toDepth, trim } from "../../lib/units";

export interface UnitText {
  name: string;
  lines: Record<Key, string>;
}

type Key =
  | "gain_from"
  | "gain_to"
  | "gain_step"
  | "gain_db"
  | "gain_first"
  | "beams"
  | "powers_w"
  | "pulses"
  | "ranges_m"
  | "bottom_windows_m"
  | "free_windows_m"
  | "rejections"
  | "noise_filters"
  | "tvg_db_decade"
  | "blanking_m"
  | "scroll_speeds"
  | "brightness"
  | "colour_step_db"
  | "rows"
  | "ping_rate_hz"
  | "draw_a"
  | "light_a";

export interface Line {
  key: Key;
  name: string;
  hint: string;
}

export const GROUPS = (system: System): readonly { title: string; lines: readonly Line[] }[] => {
  const ft = depthUnit(system);
  return [
    {
      title: "Gain knob",
      lines: [
        { key: "gain_from", name: "Lowest number", hint: "What the knob shows at its least" },
        { key: "gain_to", name: "Highest number", hint: "What it shows at its most" },
        { key: "gain_step", name: "Step", hint: "From one click to the next" },
        { key: "gain_db", name: "dB a step", hint: "0.01 to 20; about 60 dB from end to end is common" },
        {
          key: "gain_first",
          name: "First colour, dB",
          hint: "Echo that lights the first colour at the least gain, 60 to 220",
        },
      ],
    },
    {
      title: "Sound",
      lines: [
        { key: "beams", name: "Beams", hint: "Frequency in kHz and width in degrees: 200 x 12, 83 x 30" },
        { key: "powers_w", name: "Powers, W", hint: "One or more, with commas" },
        { key: "pulses", name: "Pulses, microseconds", hint: "Normal first: 100, or 100, 18" },
        { key: "ping_rate_hz", name: "Pings a second", hint: "1 to 100" },
      ],
    },
    {
      title: "Range and windows",
      lines: [
        { key: "ranges_m", name: `Ranges, ${ft}`, hint: "Smallest first; a free range has just its ends" },
        { key: "bottom_windows_m", name: `Bottom windows, ${ft}`, hint: "Heights; empty for none" },
        { key: "free_windows_m", name: `Free windows, ${ft}`, hint: "Heights; empty for none" },
      ],
    },
    {
      title: "Noise",
      lines: [
        {
          key: "rejections",
          name: "Rejection, pings kept",
          hint: "Off first: 1, 2, 3, 5. Up to 20 steps of up to 15",
        },
        { key: "noise_filters", name: "Noise filter, bins", hint: "Off first: 1, 3, 7" },
        { key: "tvg_db_decade", name: "Time-varied gain, dB a decade", hint: "Off first: 0, 20, 40" },
        { key: "blanking_m", name: `Surface blanking, ${ft}`, hint: "Off first: 0, 3, 6" },
      ],
    },
    {
      title: "Screen",
      lines: [
        { key: "rows", name: "Rows", hint: "16 to 2048" },
        { key: "colour_step_db", name: "dB between colours", hint: "0.5 to 20" },
        { key: "scroll_speeds", name: "Scroll speeds", hint: "Columns a ping: 1, 2, 4" },
        { key: "brightness", name: "Screen light, percent", hint: "Brightest first: 100, 60, 30" },
        { key: "draw_a", name: "Draw without light, A", hint: "0 to 20" },
        { key: "light_a", name: "Full light, A", hint: "0 to 20" },
      ],
    },
  ];
};

export function toText(unit: Profile, system: System): Record<Key, string> {
  const list = (values: number[], digits = 2) => values.map((one) => trim(one, digits)).join(", ");
  const deep = (values: number[]) => list(values.map((m) => toDepth(m, system)));
  return {
    gain_from: trim(unit.gain.minimum, 3),
    gain_to: trim(unit.gain.maximum, 3),
    gain_step: trim(unit.gain.step, 3),
    gain_db: trim(unit.gain.db_per_step, 3),
    gain_first: trim(unit.gain.first_colour_db, 1),
    beams: unit.beams
      .map((one) => `${trim(one.frequency_hz / 1000, 1)} x ${trim(one.width_deg, 1)}`)
      .join(", "),
    powers_w: list(unit.powers_w, 1),
    pulses: list(
      unit.pulses.map((one) => one.duration_s * 1e6),
      1,
    ),
    ranges_m: deep(unit.ranges_m),
    bottom_windows_m: deep(unit.bottom_windows_m),
    free_windows_m: deep(unit.free_windows_m),
    rejections: list(unit.rejections.map((one) => one.pings)),
    noise_filters: list(unit.noise_filters),
    tvg_db_decade: list(unit.tvg_db_decade),
    blanking_m: deep(unit.blanking_m),
    scroll_speeds: list(unit.scroll_speeds),
    brightness: list(unit.brightness.map((share) => 100 * share)),
    colour_step_db: trim(unit.colour_step_db, 2),
    rows: String(unit.rows),
    ping_rate_hz: trim(unit.ping_rate_hz, 1),
    draw_a: trim(unit.draw_a, 2),
    light_a: trim(unit.light_a, 2),
  };
}

/** What is wrong with a line, or "" if nothing is. */
export function wrongWith(key: Key, text: string): string {
  if (key === "beams") {
    const bad = text.split(",").find((one) => !/^\s*[\d.]+\s*x\s*[\d.]+\s*$/.test(one));
    return bad === undefined ? "" : `"${bad.trim()}" is not a beam: accepted is 200 x 12.`;
  }
  const bad = text.split(",").find((one) => one.trim() !== "" && !Number.isFinite(Number(one)));
  if (bad !== undefined) return `"${bad.trim()}" is not a number.`;
  return text.trim() === "" && !key.endsWith("windows_m") ? "A value is needed." : "";
}

/** The profile that the form describes, on top of what the form does not show. */
export function fromText(unit: Profile, name: string, text: Record<Key, string>, system: System): Profile {
  const list = (key: Key) =>
    text[key]
      .split(",")
      .filter((one) => one.trim() !== "")
      .map(Number);
  const one = (key: Key) => list(key)[0] ?? Number.NaN;
  // What is unchanged in the reader's units stays what it was, unrounded.
  const deep = (key: "ranges_m" | "bottom_windows_m" | "free_windows_m" | "blanking_m") =>
    list(key).map((value, i) => {
      const old = unit[key][i];
      return old !== undefined && Math.abs(toDepth(old, system) - value) < 0.006
        ? old
        : fromDepth(value, system);
    });
  const most = list("rejections").length - 1;
  return {
    ...unit,
    name,
    gain: {
      minimum: one("gain_from"),
      maximum: one("gain_to"),
      step: one("gain_step"),
      db_per_step: one("gain_db"),
      first_colour_db: one("gain_first"),
    },
    beams: text.beams.split(",").map((beam, i) => {
      const [khz, width] = beam.split("x").map(Number) as [number, number];
      const old = unit.beams[i];
      const same =
        old && Math.abs(old.frequency_hz - khz * 1000) < 60 && Math.abs(old.width_deg - width) < 0.06;
      const called = `${trim(khz, 0)} kHz, ${trim(width, 0)}°`;
      return same
        ? old
        : { name: called, frequency_hz: khz * 1000, width_deg: width, level_db: old?.level_db ?? -3 };
    }),
    powers_w: list("powers_w"),
    pulses: list("pulses").map((us, i) => ({
      name: unit.pulses[i]?.name ?? `${trim(us, 0)} microseconds`,
      duration_s: us / 1e6,
    })),
    ranges_m: deep("ranges_m"),
    bottom_windows_m: deep("bottom_windows_m"),
    free_windows_m: deep("free_windows_m"),
    rejections: list("rejections").map((pings, i) => {
      const old = unit.rejections[i];
      if (old?.pings === pings) return old;
      const share = most > 0 ? i / most : 0;
      return { pings, rate: 1 - 0.5 * share, stagger: i === 0 ? 0 : 0.1 + 0.2 * share };
    }),
    noise_filters: list("noise_filters"),
    tvg_db_decade: list("tvg_db_decade"),
    blanking_m: deep("blanking_m"),
    scroll_speeds: list("scroll_speeds"),
    brightness: list("brightness").map((percent) => percent / 100),
    colour_step_db: one("colour_step_db"),
    rows: one("rows"),
    ping_rate_hz: one("ping_rate_hz"),
    draw_a: one("draw_a"),
    light_a: one("light_a"),
  };
}
