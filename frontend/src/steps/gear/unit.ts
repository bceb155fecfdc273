// A unit's profile as it stands on the form: text in the reader's units, to and from SI.
import type { Profile } from "../../lib/api/types";
import { type Difference, differences } from "../../lib/differences";
import { depthUnit, fromDepth, type System, toDepth, trim } from "../../lib/units";

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
  | "rejection_rates"
  | "rejection_staggers"
  | "noise_filters"
  | "tvg_db_decade"
  | "blanking_m"
  | "scroll_speeds"
  | "brightness"
  | "colour_step_db"
  | "rows"
  | "ping_rate_hz"
  | "draw_a"
  | "light_a"
  | "pictures"
  | "lowest_battery_v"
  | "efficiency"
  | "noise_level_db"
  | "ring_down_db"
  | "ring_down_decay_db_m";

interface Line {
  key: Key;
  name: string;
  hint: string;
}

interface Group {
  title: string;
  lines: readonly Line[];
  /** Whether the unit's yes-or-no questions stand here. */
  flags?: boolean;
}

/** What a sketch of a question shows. */
export type Asks = "ends" | "step" | "ranges" | "colours" | "beams" | "windows";

interface Question extends Group {
  asks: Asks;
}

/** The six questions that make a unit speak in its own numbers; the colours are the ladder's and no line of text. */
export const QUESTIONS = (system: System): readonly Question[] => [
  {
    asks: "ends",
    title: "The lowest and highest number on the gain knob",
    lines: [
      { key: "gain_from", name: "Lowest number", hint: "What the knob shows at its least" },
      { key: "gain_to", name: "Highest number", hint: "What it shows at its most" },
    ],
  },
  {
    asks: "step",
    title: "From one click to the next",
    lines: [{ key: "gain_step", name: "Step", hint: "1 where it counts 10, 11, 12; 0.5 for half numbers" }],
  },
  {
    asks: "ranges",
    title: "The depths that the picture can be set to",
    lines: [
      {
        key: "ranges_m",
        name: `Ranges, ${depthUnit(system)}`,
        hint: "Smallest first, with commas; of a knob that turns freely just its two ends",
      },
    ],
  },
  { asks: "colours", title: "The colours of a mark, weakest first", lines: [] },
  {
    asks: "beams",
    title: "The beams",
    lines: [
      {
        key: "beams",
        name: "Beams",
        hint: "Kilohertz x degrees, as the leaflet has them: 200 x 12. Two with a comma; degrees at -10 dB: 200 x 12 @ -10",
      },
    ],
  },
  {
    asks: "windows",
    title: "The window that magnifies the water over the bottom",
    lines: [
      {
        key: "bottom_windows_m",
        name: `Bottom windows, ${depthUnit(system)}`,
        hint: "Its heights, with commas; empty where it has none",
      },
    ],
  },
];

/** All else, for those who know it; what a copied unit has is near enough. */
export const GROUPS = (system: System): readonly Group[] => [
  ...soundGroups,
  windowGroup(depthUnit(system)),
  noiseGroup(depthUnit(system)),
  ...screenGroups(depthUnit(system)),
];

const soundGroups: readonly Group[] = [
  {
    title: "How strong the gain knob is",
    lines: [
      { key: "gain_db", name: "dB a step", hint: "0.01 to 20; about 60 dB from end to end is common" },
      {
        key: "gain_first",
        name: "First colour, dB",
        hint: "Echo that lights the first colour at the least gain, 60 to 220",
      },
    ],
  },
  {
    title: "The sound it sends",
    lines: [
      { key: "powers_w", name: "Powers, W", hint: "One or more, with commas" },
      {
        key: "pulses",
        name: "Pulses, microseconds",
        hint: "Normal first, with a name: 100 normal, 18 short",
      },
      { key: "ping_rate_hz", name: "Pings a second", hint: "1 to 100, as often as it can" },
    ],
  },
];

const windowGroup = (ft: string): Group => ({
  title: "What else its range knob can do",
  lines: [{ key: "free_windows_m", name: `Free windows, ${ft}`, hint: "Heights; empty for none" }],
  flags: true,
});

const noiseGroup = (ft: string): Group => ({
  title: "What it does against noise",
  lines: [
    {
      key: "rejections",
      name: "Rejection, pings kept",
      hint: "Off first: 1, 2, 3, 5. Up to 20 steps of up to 15",
    },
    {
      key: "rejection_rates",
      name: "Picture rate left, percent",
      hint: "One for each step of rejection: 100, 90, 80",
    },
    {
      key: "rejection_staggers",
      name: "Ping stagger, percent",
      hint: "How far each interval is moved about, 0 to 50: 0, 10, 20",
    },
    { key: "noise_filters", name: "Noise filter, bins", hint: "Off first: 1, 3, 7" },
    { key: "tvg_db_decade", name: "Time-varied gain, dB a decade", hint: "Off first: 0, 20, 40" },
    { key: "blanking_m", name: `Surface blanking, ${ft}`, hint: "Off first: 0, 3, 6" },
  ],
});

const screenGroups = (ft: string): readonly Group[] => [
  {
    title: "Its screen",
    lines: [
      { key: "rows", name: "Rows", hint: "Picture rows from top to bottom, 16 to 2048" },
      {
        key: "colour_step_db",
        name: "dB between colours",
        hint: "How much louder the next colour is, 0.5 to 20",
      },
      { key: "pictures", name: "Pictures", hint: "Of trace, strip, ring; what it starts with first" },
      { key: "scroll_speeds", name: "Scroll speeds", hint: "Columns a ping: 1, 2, 4" },
      { key: "brightness", name: "Screen light, percent", hint: "Brightest first: 100, 60, 30" },
    ],
  },
  {
    title: "Battery, and what the transducer adds of its own",
    lines: [
      { key: "draw_a", name: "Draw without light, A", hint: "What the battery gives it, 0 to 20" },
      { key: "light_a", name: "Full light, A", hint: "What full light takes on top, 0 to 20" },
      {
        key: "lowest_battery_v",
        name: "Lowest battery, V",
        hint: "Below this it is unsure; 11 for lead at 12 V",
      },
      { key: "efficiency", name: "Efficiency", hint: "Sound for each watt, 0.01 to 1; 0.5 if not known" },
      { key: "noise_level_db", name: "Own noise, dB", hint: "As an echo level, 0 to 150; 62 if not known" },
      {
        key: "ring_down_db",
        name: "Ringing, dB",
        hint: "Just after the pulse, 0 to 220; 172 if not known",
      },
      {
        key: "ring_down_decay_db_m",
        name: `Ringing dies, dB a ${ft === "ft" ? "foot" : "metre"}`,
        hint: ft === "ft" ? "3 to 610; 58 if not known" : "10 to 2000; 190 if not known",
      },
    ],
  },
];

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
      .map(
        (one) =>
          `${trim(one.frequency_hz / 1000, 1)} x ${trim(one.width_deg, 1)}` +
          (one.level_db === -3 ? "" : ` @ ${trim(one.level_db, 1)}`),
      )
      .join(", "),
    powers_w: list(unit.powers_w, 1),
    pulses: unit.pulses.map((one) => `${trim(one.duration_s * 1e6, 1)} ${one.name}`).join(", "),
    ranges_m: deep(unit.ranges_m),
    bottom_windows_m: deep(unit.bottom_windows_m),
    free_windows_m: deep(unit.free_windows_m),
    rejections: list(unit.rejections.map((one) => one.pings)),
    rejection_rates: list(
      unit.rejections.map((one) => 100 * one.rate),
      1,
    ),
    rejection_staggers: list(
      unit.rejections.map((one) => 100 * one.stagger),
      1,
    ),
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
    pictures: unit.pictures.join(", "),
    lowest_battery_v: trim(unit.lowest_battery_v, 1),
    efficiency: trim(unit.efficiency, 2),
    noise_level_db: trim(unit.noise_level_db, 1),
    ring_down_db: trim(unit.ring_down_db, 1),
    ring_down_decay_db_m: trim(fromDepth(unit.ring_down_decay_db_m, system), 1),
  };
}

const DEEP = ["ranges_m", "bottom_windows_m", "free_windows_m", "blanking_m"] as const;

/** The form's text in other units: what was not changed is shown anew from what is stored. */
export function inUnits(
  text: Record<Key, string>,
  from: System,
  to: System,
  unit: Profile,
): Record<Key, string> {
  if (from === to) return text;
  const shown = (m: number, system: System) => trim(toDepth(m, system), 2);
  const other = (key: (typeof DEEP)[number]) =>
    text[key]
      .split(",")
      .map((part, i) => {
        const one = part.trim();
        const old = unit[key][i];
        if (old !== undefined && one === shown(old, from)) return shown(old, to);
        return one !== "" && Number.isFinite(Number(one)) ? shown(fromDepth(Number(one), from), to) : one;
      })
      .join(", ");
  const dies = Number(text.ring_down_decay_db_m);
  return {
    ...text,
    ...Object.fromEntries(DEEP.map((key) => [key, other(key)])),
    ring_down_decay_db_m:
      text.ring_down_decay_db_m === trim(fromDepth(unit.ring_down_decay_db_m, from), 1)
        ? trim(fromDepth(unit.ring_down_decay_db_m, to), 1)
        : Number.isFinite(dies)
          ? trim(fromDepth(toDepth(dies, from), to), 1)
          : text.ring_down_decay_db_m,
  };
}

/** What differs between two profiles, in the form's words. */
export function unitDifferences(mine: Profile, theirs: Profile, system: System): Difference[] {
  const lines = [...QUESTIONS(system), ...GROUPS(system)].flatMap((group) =>
    group.lines.map(({ key, name }) => [key, name] as const),
  );
  const text = (one: Profile) => ({
    ...toText(one, system),
    name: one.name,
    ladders: one.ladders
      .map((ladder) => `${ladder.name}: ${ladder.steps.map((step) => step.name).join(", ")}`)
      .join("; "),
  });
  return differences([["name", "Name"], ...lines, ["ladders", "Ladders"]], text(mine), text(theirs));
}

/** What is wrong with a line, or "" if nothing is. */
export function wrongWith(key: Key, text: string): string {
  const parts = text.split(",").map((one) => one.trim());
  const odd = (pattern: RegExp) => parts.find((one) => !pattern.test(one));
  if (key === "beams") {
    const bad = odd(/^[\d.]+\s*x\s*[\d.]+(\s*@\s*-[\d.]+)?$/);
    return bad === undefined ? "" : `"${bad}" is not a beam: accepted is 200 x 12, or 200 x 12 @ -10.`;
  }
  if (key === "pulses") {
    const bad = odd(/^[\d.]+(\s+\S.*)?$/);
    return bad === undefined ? "" : `"${bad}" is not a pulse: accepted is 100 normal.`;
  }
  if (key === "pictures") {
    const bad = odd(/^(trace|strip|ring)$/);
    return bad === undefined ? "" : `"${bad}" is not a picture: accepted are trace, strip, ring.`;
  }
  const bad = text.split(",").find((one) => one.trim() !== "" && !Number.isFinite(Number(one)));
  if (bad !== undefined) return `"${bad.trim()}" is not a number.`;
  return text.trim() === "" && !key.endsWith("windows_m") ? "A value is needed." : "";
}

/** A share from percent with a decimal; `old` where it is still that one, unrounded. */
const share = (percent: number, old: number | undefined) =>
  old !== undefined && Math.abs(100 * old - percent) < 0.051 ? old : percent / 100;

/** The beam that a text describes; `old` where it is still that one, unrounded. */
function beamOf(text: string, old: Profile["beams"][number] | undefined): Profile["beams"][number] {
  const [shape = "", level] = text.split("@");
  const [khz, width] = shape.split("x").map(Number) as [number, number];
  const level_db = level === undefined ? -3 : Number(level);
  const same =
    old &&
    Math.abs(old.frequency_hz - khz * 1000) < 60 &&
    Math.abs(old.width_deg - width) < 0.06 &&
    old.level_db === level_db;
  const called = `${trim(khz, 0)} kHz, ${trim(width, 0)}°`;
  return same ? old : { name: called, frequency_hz: khz * 1000, width_deg: width, level_db };
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
  const deep = (key: (typeof DEEP)[number]) =>
    list(key).map((value, i) => {
      const old = unit[key][i];
      return old !== undefined && Math.abs(toDepth(old, system) - value) < 0.006
        ? old
        : fromDepth(value, system);
    });
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
    beams: text.beams.split(",").map((beam, i) => beamOf(beam, unit.beams[i])),
    powers_w: list("powers_w"),
    pulses: text.pulses.split(",").map((one) => {
      const [, us = "", called = ""] = /^\s*([\d.]+)\s*(.*)$/.exec(one) ?? [];
      return { name: called.trim() || `${us} microseconds`, duration_s: Number(us) / 1e6 };
    }),
    ranges_m: deep("ranges_m"),
    bottom_windows_m: deep("bottom_windows_m"),
    free_windows_m: deep("free_windows_m"),
    rejections: list("rejections").map((pings, i) => ({
      pings,
      rate: share(list("rejection_rates")[i] ?? 100, unit.rejections[i]?.rate),
      stagger: share(list("rejection_staggers")[i] ?? 0, unit.rejections[i]?.stagger),
    })),
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
    pictures: text.pictures.split(",").map((picture) => picture.trim()) as Profile["pictures"],
    lowest_battery_v: one("lowest_battery_v"),
    efficiency: one("efficiency"),
    noise_level_db: one("noise_level_db"),
    ring_down_db: one("ring_down_db"),
    ring_down_decay_db_m:
      text.ring_down_decay_db_m === trim(fromDepth(unit.ring_down_decay_db_m, system), 1)
        ? unit.ring_down_decay_db_m
        : toDepth(one("ring_down_decay_db_m"), system),
  };
}
