// The hole's fields as they stand on the form: text in the reader's units, to and from SI.
import { limits } from "../../lib/api/limits";
import type { Hole, HoleFields } from "../../lib/api/types";
import { options } from "../../lib/controls/options";
import { type Difference, differences } from "../../lib/differences";
import {
  deepMeasure,
  depthUnit,
  type Measure,
  shortMeasure,
  smallUnit,
  type System,
  warmMeasure,
} from "../../lib/units";

type NumberKey = "bottom_depth_m" | "ice_thickness_m" | "face_depth_m" | "hole_diameter_m" | "temperature_c";

interface NumberKind extends Measure {
  key: NumberKey;
  name: string;
  hint: string;
}

const deep = deepMeasure(1);
const short = shortMeasure;

export const NUMBERS: readonly NumberKind[] = [
  {
    key: "bottom_depth_m",
    name: "Depth",
    hint: "True depth: from the water's surface in the hole to the bottom.",
    ...deep,
  },
  {
    key: "ice_thickness_m",
    name: "Ice",
    hint: "As you measured it at this hole.",
    ...short,
  },
  {
    key: "face_depth_m",
    name: "Transducer face",
    hint: "Below the water's surface. A hand's width below the ice keeps it clear.",
    ...short,
  },
  {
    key: "hole_diameter_m",
    name: "Hole across",
    hint: "The auger's width.",
    ...short,
  },
  {
    key: "temperature_c",
    name: "Water temperature",
    hint: "Cold water is slower to sound: it moves depths by up to 3 percent.",
    ...warmMeasure,
  },
];

export const BOTTOMS = options(limits.HoleFields.bottom_kind.choices);
export const CLARITIES = options(limits.HoleFields.clarity.choices);

export interface Form {
  name: string;
  water: string;
  note: string;
  bottom_kind: Hole["bottom_kind"];
  clarity: Hole["clarity"];
  numbers: Record<NumberKey, string>;
}

export function toForm(hole: Hole, system: System): Form {
  const numbers = Object.fromEntries(NUMBERS.map((kind) => [kind.key, kind.show(hole[kind.key], system)]));
  return {
    name: hole.name,
    water: hole.water,
    note: hole.note,
    bottom_kind: hole.bottom_kind,
    clarity: hole.clarity,
    numbers: numbers as Record<NumberKey, string>,
  };
}

/** The form in other units: what was typed is converted, what was not is shown anew from what is stored. */
export function inUnits(form: Form, from: System, to: System, stored: Hole): Form {
  if (from === to) return form;
  const numbers = Object.fromEntries(
    NUMBERS.map((kind) => {
      const text = form.numbers[kind.key].trim().replace(",", ".");
      if (text === kind.show(stored[kind.key], from)) return [kind.key, kind.show(stored[kind.key], to)];
      const value = text === "" ? Number.NaN : Number(text);
      return [kind.key, Number.isFinite(value) ? kind.show(kind.read(value, from), to) : text];
    }),
  );
  return { ...form, numbers: numbers as Record<NumberKey, string> };
}

/** What differs between the form and another version, in the form's words. */
export const holeDifferences = (form: Form, theirs: Form): Difference[] =>
  differences(
    [
      ["name", "Name"],
      ["water", "Water"],
      ...NUMBERS.map((kind) => [kind.key, kind.name] as const),
      ["bottom_kind", "Bottom"],
      ["clarity", "What hangs in the water"],
      ["note", "Note"],
    ],
    flat(form),
    flat(theirs),
  );

const flat = ({ numbers, ...rest }: Form): Record<string, string> => ({ ...rest, ...numbers });

/** The form in SI, and what is wrong with it by field. A number left as it was keeps its stored value exactly. */
export function fromForm(
  form: Form,
  system: System,
  stored: Hole,
): { fields: HoleFields; problems: Record<string, string> } {
  const problems: Record<string, string> = {};
  const numbers = {} as Record<NumberKey, number>;
  for (const kind of NUMBERS) {
    const text = form.numbers[kind.key].trim().replace(",", ".");
    if (text === kind.show(stored[kind.key], system)) {
      numbers[kind.key] = stored[kind.key];
      continue;
    }
    const value = text === "" ? Number.NaN : Number(text);
    const si = kind.read(value, system);
    // Half a unit in the last place shown may be lost by showing a limit in feet or inches.
    const { min, max } = limits.HoleFields[kind.key];
    if (!Number.isFinite(si) || si < min - 1e-9 || si > max + 1e-9) {
      const span = `${kind.show(min, system)} to ${kind.show(max, system)} ${kind.unit(system)}`;
      problems[kind.key] = `${kind.name} is ${text === "" ? "empty" : `"${text}"`}: accepted are ${span}.`;
    }
    numbers[kind.key] = si;
  }
  if (form.name.trim() === "") problems["name"] = "Name is empty: give the hole a name you will know it by.";
  for (const key of ["ice_thickness_m", "face_depth_m"] as const) {
    if (problems[key] || problems["bottom_depth_m"]) continue;
    if (numbers[key] > numbers["bottom_depth_m"] - 0.2) {
      const kind = NUMBERS.find((one) => one.key === key)!;
      problems[key] =
        `${kind.name} is ${form.numbers[key]} ${kind.unit(system)}, but the bottom is at ` +
        `${form.numbers.bottom_depth_m} ${depthUnit(system)}: leave at least ${short.show(0.2, system)} ` +
        `${smallUnit(system)} of water.`;
    }
  }
  return {
    fields: {
      name: form.name,
      water: form.water,
      note: form.note,
      bottom_kind: form.bottom_kind,
      clarity: form.clarity,
      ...numbers,
    },
    problems,
  };
}

export const NEW_HOLE: Hole = {
  id: 0,
  version: 0,
  name: "",
  water: "",
  note: "",
  bottom_depth_m: 6.096,
  bottom_kind: "mud",
  ice_thickness_m: 0.3048,
  face_depth_m: 0.381,
  hole_diameter_m: 0.2032,
  temperature_c: 1,
  clarity: "clear",
};

/** A hole to play with, where nothing is drilled yet: deep enough for a fish to come from aside. */
export const MADE_UP_HOLE: Hole = {
  ...NEW_HOLE,
  name: "Made-up hole",
  note: "Made up, to play with.",
  bottom_depth_m: 9.45,
};
