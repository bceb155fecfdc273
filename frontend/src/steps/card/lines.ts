// A hole card in words: each line a name, a value in the unit's own numbers, and what it does. Also as a text message.
import type { HoleCard, Settings } from "../../lib/api/types";
import { depth, length, small, type System, trim } from "../../lib/units";

export interface Line {
  key: string;
  name: string;
  value: string;
  does: string;
}

const colour = (card: HoleCard, step: number) =>
  step === 0 ? "nothing" : (card.unit.ladders[card.settings.ladder]!.steps[step - 1]?.name ?? `step ${step}`);

const inches = (m: number, system: System) => small(m, system);

export function windowOf(settings: Settings, system: System): string {
  if (settings.bottom_window_m > 0) return `bottom ${depth(settings.bottom_window_m, system)}`;
  if (settings.free_window_m > 0)
    return `${depth(settings.free_window_m, system)} from ${depth(settings.free_window_top_m, system)}`;
  return "full column";
}

const off = (at: number, of: number) => (at === 0 ? "off" : `${at} of ${of - 1}`);

/** The knobs, in the order in which hands reach for them. What the unit lacks is not here. */
export function settingLines(card: HoleCard, system: System): Line[] {
  const { settings, numbers } = card;
  return [
    ...gainLines(card, system),
    ...soundLines(card, system),
    {
      key: "window",
      name: "Window",
      value: windowOf(settings, system),
      does: `a row is ${small(numbers.row_m, system)} of water`,
    },
    ...noiseLines(card, system),
    { key: "picture", name: "Picture", value: card.picture_kind, does: "" },
    {
      key: "lure",
      name: "Lure",
      value: depth(card.lure_depth_m, system),
      does: `${card.lure.name}, ${depth(numbers.true_depth_m - card.lure_depth_m, system)} off the bottom`,
    },
  ];
}

const there = (lines: (Line | false)[]) => lines.filter((one) => one !== false);

/** What stands beside a number that rests on something assumed. */
const ifAssumed = (card: HoleCard, name: string, words: string) =>
  card.unknowns.some((one) => one.name === name) ? words : "";

/** A position of the gain knob; what lies below its numbers is its lowest. */
const onKnob = ({ unit }: HoleCard, at: number) =>
  at <= unit.gain.minimum ? `the knob's lowest` : trim(at, 1);

function gainLines(card: HoleCard, system: System): Line[] {
  const { settings, numbers, gains } = card;
  return [
    {
      key: "face",
      name: "Face",
      value: `${inches(card.face_depth_m, system)} down`,
      does: `${inches(card.below_ice_m, system)} below the ice${ifAssumed(card, "ice_thickness_m", `, assumed ${inches(card.face_depth_m - card.below_ice_m, system)} thick`)}; float at ${inches(card.float_m, system)} of cable`,
    },
    {
      key: "range",
      name: "Range",
      value: depth(settings.range_m, system),
      does: `the bottom shows at ${depth(numbers.displayed_depth_m, system)}`,
    },
    {
      key: "gain",
      name: "Gain",
      value: trim(settings.gain, 1),
      does: gains.open
        ? `lure from ${onKnob(card, gains.floor!)}, water from ${trim(gains.ceiling, 1)}`
        : (gains.width_db ?? -1) < 0
          ? "no gain shows this lure in quiet water"
          : "no step of the knob lies in the window",
    },
    {
      key: "width",
      name: "Gain window",
      value:
        gains.width_db === null
          ? "none"
          : gains.width_db < 0
            ? `closed by ${trim(-gains.width_db, 1)} dB`
            : `${trim(gains.width_db, 1)} dB`,
      does: !gains.open
        ? (gains.width_db ?? -1) < 0
          ? ""
          : "narrower than one step of the knob"
        : gains.firm
          ? `surely open from ${onKnob(card, gains.firm_floor!)} to ${trim(gains.firm_ceiling, 1)}`
          : "what is not known could close it",
    },
  ];
}

function soundLines({ unit, settings, numbers }: HoleCard, system: System): Line[] {
  return there([
    unit.beams.length > 1 && {
      key: "beam",
      name: "Beam",
      value: unit.beams[settings.beam]!.name,
      does: `${length(numbers.cone_at_lure_m, system)} wide at the lure`,
    },
    unit.powers_w.length > 1 && {
      key: "power",
      name: "Power",
      value: `${trim(unit.powers_w[settings.power]!, 1)} W`,
      does: "",
    },
    unit.pulses.length > 1 && {
      key: "pulse",
      name: "Pulse",
      value: unit.pulses[settings.pulse]!.name,
      does: `marks part at ${small(numbers.gap_m, system)}`,
    },
  ]);
}

function noiseLines({ unit, settings, numbers }: HoleCard, system: System): Line[] {
  return there([
    unit.rejections.length > 1 && {
      key: "rejection",
      name: "Rejection",
      value: off(settings.rejection, unit.rejections.length),
      does: `the picture lags ${trim(numbers.lag_s, 2)} s`,
    },
    unit.tvg_db_decade.length > 1 && {
      key: "tvg",
      name: "Time-varied gain",
      value: off(settings.tvg, unit.tvg_db_decade.length),
      does: "",
    },
    unit.blanking_m.length > 1 && {
      key: "blanking",
      name: "Blanking",
      value: settings.blanking === 0 ? "off" : depth(unit.blanking_m[settings.blanking]!, system),
      does: settings.blanking === 0 ? "" : "hides fish up there too",
    },
    unit.noise_filters.length > 1 && {
      key: "noise_filter",
      name: "Noise filter",
      value: off(settings.noise_filter, unit.noise_filters.length),
      does: "",
    },
    unit.ladders.length > 1 && {
      key: "ladder",
      name: "Ladder",
      value: unit.ladders[settings.ladder]!.name.toLowerCase(),
      does: "",
    },
  ]);
}

/** The numbers behind it. */
export const numberLines = (card: HoleCard, system: System) => [
  ...seenLines(card, system),
  ...partingLines(card, system),
];

const line = (key: string, name: string, value: string, does = ""): Line => ({ key, name, value, does });

function seenLines(card: HoleCard, system: System): Line[] {
  const n = card.numbers;
  return [
    line(
      "true",
      "True depth",
      depth(n.true_depth_m, system),
      `the unit shows ${depth(n.displayed_depth_m, system)}`,
    ),
    line(
      "cone",
      "Cone",
      length(n.cone_at_lure_m, system),
      `at the lure; ${length(n.cone_at_bottom_m, system)} at the bottom`,
    ),
    line("seen", "Lure is seen over", length(n.lure_seen_m, system), "at its depth"),
    line(
      "fish",
      `A fish of ${small(card.fish_length_m, system)}${ifAssumed(card, "fish_length_m", " (assumed)")} over`,
      length(n.fish_seen_m, system),
      `at the lure; ${length(n.fish_seen_at_bottom_m, system)} at the bottom`,
    ),
    line(
      "colours",
      "Lure paints",
      colour(card, n.lure_colour),
      `${colour(card, n.lure_colour_edge)} at the cone's edge`,
    ),
    line(
      "fish colours",
      "The fish paints",
      colour(card, n.fish_colour),
      `${colour(card, n.fish_colour_edge)} at the cone's edge`,
    ),
  ];
}

function partingLines(card: HoleCard, system: System): Line[] {
  const n = card.numbers;
  return [
    line("gap", "Marks part at", small(n.gap_m, system), `a row is ${small(n.row_m, system)}`),
    line(
      "dead",
      "Hidden at the bottom",
      small(n.dead_zone_middle_m, system),
      `under the hole; ${small(n.dead_zone_edge_m, system)} at the cone's edge`,
    ),
    ...(card.second_hole_m === null
      ? []
      : [
          line(
            "second",
            "Second hole within",
            length(card.second_hole_m, system),
            "so that its lure is seen",
          ),
        ]),
    line("lag", "Lag", `${trim(n.lag_s, 2)} s`, `${trim(n.ping_rate_hz, 0)} pings a second`),
    line(
      "draw",
      "Draws",
      `${trim(n.draw_a, 2)} A`,
      `${trim(7 / n.draw_a, 0)} h on a fresh 7 Ah battery, fewer in the cold`,
    ),
  ];
}

/** The card as one text message, at most 160 characters. */
export function textMessage(card: HoleCard, hole: string, system: System): string {
  const { unit, settings, gains, numbers } = card;
  const parts = [
    `${hole}: ${depth(numbers.true_depth_m, system)}`,
    `face ${inches(card.face_depth_m, system)}`,
    `range ${depth(settings.range_m, system)}`,
    gains.open
      ? `gain ${trim(settings.gain, 1)} (${trim(gains.floor!, 1)}-${trim(gains.ceiling, 1)})`
      : `gain ${trim(settings.gain, 1)}, window closed`,
    windowOf(settings, system),
    ...(unit.beams.length > 1 ? [unit.beams[settings.beam]!.name] : []),
    ...(unit.rejections.length > 1 ? [`rej ${settings.rejection}`] : []),
    ...(settings.tvg > 0 ? [`tvg ${settings.tvg}`] : []),
    `${card.lure.name} at ${depth(card.lure_depth_m, system)}`,
  ];
  let text = parts.join(", ");
  while (text.length > 160 && parts.length > 4) {
    parts.splice(parts.length - 2, 1);
    text = parts.join(", ");
  }
  return text.slice(0, 160);
}

/** A setting of `settings` or of how things hang, by its name and value, in words. */
export function changeInWords(
  card: HoleCard,
  setting: string,
  value: number,
  system: System,
): [string, string] {
  const { unit } = card;
  const at = Math.round(value);
  switch (setting) {
    case "gain":
      return ["Gain", trim(value, 1)];
    case "range_m":
      return ["Range", depth(value, system)];
    case "bottom_window_m":
      return ["Bottom window", value === 0 ? "none" : depth(value, system)];
    case "free_window_m":
      return ["Free window", value === 0 ? "none" : depth(value, system)];
    case "free_window_top_m":
      return ["Window from", depth(value, system)];
    case "beam":
      return ["Beam", unit.beams[at]?.name ?? ""];
    case "power":
      return ["Power", `${trim(unit.powers_w[at] ?? 0, 1)} W`];
    case "pulse":
      return ["Pulse", unit.pulses[at]?.name ?? ""];
    case "rejection":
      return ["Rejection", off(at, unit.rejections.length)];
    case "noise_filter":
      return ["Noise filter", off(at, unit.noise_filters.length)];
    case "tvg":
      return ["Time-varied gain", off(at, unit.tvg_db_decade.length)];
    case "blanking":
      return ["Blanking", at === 0 ? "off" : depth(unit.blanking_m[at] ?? 0, system)];
    case "ladder":
      return ["Ladder", unit.ladders[at]?.name ?? ""];
    case "face_depth_m":
      return ["Face", `${inches(value, system)} down`];
    default:
      return ["Lure", depth(value, system)];
  }
}

/** What each line said before, for the lines that now say something else; "" where only what it does changed. */
export function differing(was: readonly Line[], is: readonly Line[]): Record<string, string> {
  const before = new Map(was.map((one) => [one.key, one]));
  const changed: Record<string, string> = {};
  for (const { key, value, does } of is) {
    const old = before.get(key);
    if (old && (old.value !== value || old.does !== does))
      changed[key] = old.value === value ? "" : old.value;
  }
  return changed;
}
