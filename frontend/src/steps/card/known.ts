// What is known at a hole as it stands on the form: text in the reader's units, to and from SI; empty is not known.
import { limits } from "../../lib/api/limits";
import type { CardWanted } from "../../lib/api/types";
import { type Option, orNone, SPECIES } from "../../lib/controls/options";
import { deepMeasure, type Measure, shortMeasure, type System, warmMeasure } from "../../lib/units";

export type NumberKey =
  | "depth_m"
  | "ice_thickness_m"
  | "snow_m"
  | "slush_m"
  | "face_depth_m"
  | "weed_height_m"
  | "temperature_c"
  | "lure_depth_m"
  | "fish_length_m";

interface NumberKind extends Measure {
  key: NumberKey;
  name: string;
  hint: string;
  needed: boolean;
}

type How = Omit<NumberKind, "key" | "name" | "hint">;

const deep: How = { ...deepMeasure(2), needed: false };
const short: How = { ...shortMeasure, needed: false };

const kind = (key: NumberKey, name: string, hint: string, how: How): [NumberKey, NumberKind] => [
  key,
  { key, name, hint, ...how },
];

export const NUMBERS: Record<NumberKey, NumberKind> = Object.fromEntries([
  kind("depth_m", "Depth", "The one thing that is needed.", { ...deep, needed: true }),
  kind("ice_thickness_m", "Ice", "As you measured it here.", short),
  kind("snow_m", "Snow on it", "", short),
  kind("slush_m", "Slush in the hole", "", short),
  kind("face_depth_m", "Face hangs now at", "Makes a displayed depth a true one.", short),
  kind("weed_height_m", "Weeds stand", "0 for none.", deep),
  kind("temperature_c", "Water temperature", "", { ...warmMeasure, needed: false }),
  kind("lure_depth_m", "Lure at", "Empty: a little off the bottom.", deep),
  kind("fish_length_m", "Fish of", "Empty: usual for the species.", short),
]) as Record<NumberKey, NumberKind>;

const { CardWanted: spans } = limits;
const known = (choices: readonly Option<string>[]) => orNone("not known", choices);

export const ICES = known(spans.ice_kind.choices);
export const BOTTOMS = known(spans.bottom_kind.choices);
export const CLARITIES = known(spans.clarity.choices);
export const LIGHTS = known(spans.light.choices);
export const LIVELINESS = known(spans.liveliness.choices);
export const FOR = orNone("any", SPECIES);

export const NAMES: Record<string, string> = {
  ice_thickness_m: "the ice",
  slush_m: "slush",
  bottom_kind: "the bottom",
  clarity: "how clear the water is",
  light: "the light",
  liveliness: "how much lives in the water",
  weed_height_m: "weeds",
  fish_length_m: "the fish's length",
  neighbours: "other units",
};

export type Text = Record<NumberKey, string>;

export function toText(wanted: CardWanted, system: System): Text {
  return Object.fromEntries(
    Object.values(NUMBERS).map((one) => {
      const value = wanted[one.key];
      return [one.key, value === null ? "" : one.show(value, system)];
    }),
  ) as Text;
}

/** The form's numbers in SI, and what is wrong with them by field. What is as it was shown keeps its value exactly. */
export function fromText(
  text: Text,
  was: CardWanted,
  system: System,
): { numbers: Partial<CardWanted>; problems: Record<string, string> } {
  const numbers: Record<string, number | null> = {};
  const problems: Record<string, string> = {};
  for (const one of Object.values(NUMBERS)) {
    const said = text[one.key].trim().replace(",", ".");
    const old = was[one.key];
    if (old !== null && said === one.show(old, system)) numbers[one.key] = old;
    else if (said === "") {
      if (one.needed) problems[one.key] = `${one.name} is empty: give a number in ${one.unit(system)}.`;
      numbers[one.key] = one.key === "temperature_c" ? 1 : null;
    } else {
      const value = Number(said);
      if (!Number.isFinite(value))
        problems[one.key] = `${one.name} is "${said}": a number in ${one.unit(system)} is accepted.`;
      numbers[one.key] = one.read(value, system);
    }
  }
  return { numbers: numbers as Partial<CardWanted>, problems };
}
