// What can be mended in the log, as it stands on a form: text in the reader's units and clock, to and from SI and UTC.
import { limits } from "../../lib/api/limits";
import type { Happening, HappeningFields, Outing, OutingFields, Stay, StayFields } from "../../lib/api/types";
import { type Option, options, orNone, SPECIES } from "../../lib/controls/options";
import {
  deepMeasure,
  type Measure,
  plainMeasure,
  shortMeasure,
  type System,
  warmMeasure,
} from "../../lib/units";

export interface FormField {
  key: string;
  name: string;
  hint?: string;
  kind: "text" | "long" | "choice" | "number" | "time" | "kept";
  measure?: Measure;
  choices?: readonly Option<string>[];
  /** Whether it may be left empty. */
  open?: boolean;
}
export type Form = Record<string, string>;

const NOT_NOTED = "not noted";
const choice = (choices: readonly Option<string>[]) => orNone(NOT_NOTED, options(choices));
const TRIES = limits.HappeningFields.trying.choices.map(({ value }) => ({ value, label: value }));

export const OUTING: readonly FormField[] = [
  { key: "began_at", name: "Began", kind: "time" },
  { key: "ended_at", name: "Ended", kind: "time", open: true },
  { key: "water", name: "Water", kind: "text" },
  { key: "who", name: "Who", kind: "text", hint: "For a guide the party, as you call it." },
  { key: "ice_m", name: "Ice", kind: "number", measure: shortMeasure, open: true },
  { key: "snow", name: "Snow on the ice", kind: "text" },
  { key: "sky", name: "Sky", kind: "choice", choices: choice(limits.OutingFields.sky.choices) },
  { key: "wind", name: "Wind", kind: "choice", choices: choice(limits.OutingFields.wind.choices) },
  { key: "temperature_c", name: "Air", kind: "number", measure: warmMeasure, open: true },
  { key: "pressure_hpa", name: "Pressure", kind: "number", measure: plainMeasure("hPa", 1), open: true },
  {
    key: "pressure_trend",
    name: "Pressure was",
    kind: "choice",
    choices: choice(limits.OutingFields.pressure_trend.choices),
    hint: "Over the three hours before, and during.",
  },
  { key: "note", name: "Note", kind: "long" },
];

export const STAY: readonly FormField[] = [
  { key: "hole", name: "Hole", kind: "text" },
  { key: "began_at", name: "Lines in", kind: "time" },
  {
    key: "ended_at",
    name: "Lines out",
    kind: "time",
    open: true,
    hint: "Hours count, also those without a fish.",
  },
  { key: "lines", name: "Lines", kind: "number", measure: plainMeasure("", 0) },
  { key: "depth_m", name: "Depth of the bottom", kind: "number", measure: deepMeasure(1), open: true },
  { key: "bottom", name: "Bottom", kind: "choice", choices: choice(limits.HoleFields.bottom_kind.choices) },
  { key: "clarity", name: "Water", kind: "choice", choices: choice(limits.HoleFields.clarity.choices) },
  { key: "unit", name: "Unit", kind: "text" },
  { key: "beam", name: "Beam", kind: "text" },
  { key: "lure", name: "Lure", kind: "text" },
  {
    key: "lure_form",
    name: "Form of the lure",
    kind: "choice",
    choices: choice(limits.LureFields.form.choices.map(({ value }) => ({ value, label: value }))),
  },
  {
    key: "lure_size_m",
    name: "Size of the lure",
    kind: "number",
    measure: plainMeasure("mm", 0),
    open: true,
  },
  { key: "trying", name: "What was done with it most", kind: "choice", choices: choice(TRIES) },
  { key: "note", name: "Note", kind: "long" },
];

const KINDS: Record<HappeningFields["kind"], string> = {
  look: "Look",
  follow: "Follow",
  bite: "Bite",
  miss: "Miss",
  fish: "Fish",
  nothing: "Nothing for a while",
  turned: "Turned there",
  came: "Came up there",
};
export const kindWords = (kind: HappeningFields["kind"]) => KINDS[kind];

export const HAPPENING: readonly FormField[] = [
  {
    key: "kind",
    name: "What",
    kind: "choice",
    choices: limits.HappeningFields.kind.choices.map(({ value }) => ({ value, label: KINDS[value] })),
  },
  { key: "at", name: "When", kind: "time" },
  { key: "depth_m", name: "At depth", kind: "number", measure: deepMeasure(1), open: true },
  { key: "trying", name: "Trying", kind: "choice", choices: choice(TRIES) },
  { key: "species", name: "Species", kind: "choice", choices: choice(SPECIES) },
  { key: "length_m", name: "Length", kind: "number", measure: shortMeasure, open: true },
  {
    key: "kept",
    name: "Kept",
    kind: "kept",
    choices: [
      { value: "", label: NOT_NOTED },
      { value: "yes", label: "kept" },
      { value: "no", label: "released" },
    ],
  },
  {
    key: "ended",
    name: "How it ended",
    kind: "choice",
    choices: choice(limits.HappeningFields.ended.choices),
  },
  { key: "note", name: "Note", kind: "text" },
];

/** Sizes that are typed in millimetres stand in metres inside. */
const MILLIMETRES: readonly string[] = ["lure_size_m"];

const two = (value: number) => String(value).padStart(2, "0");
/** A time as the reader's own clock has it, for a form. */
export function localTime(iso: string): string {
  const at = new Date(iso);
  const day = `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
  return `${day}T${two(at.getHours())}:${two(at.getMinutes())}:${two(at.getSeconds())}`;
}

/** What stands on the form, of a thing as it is kept. */
export function toForm(fields: readonly FormField[], from: Outing | Stay | Happening, system: System): Form {
  const told = from as unknown as Record<string, unknown>;
  return Object.fromEntries(
    fields.map((field) => {
      const value = told[field.key];
      if (value === null || value === undefined) return [field.key, ""];
      if (field.kind === "time") return [field.key, localTime(String(value))];
      if (field.kind === "kept") return [field.key, value ? "yes" : "no"];
      if (field.kind !== "number") return [field.key, String(value)];
      const si = Number(value) * (MILLIMETRES.includes(field.key) ? 1000 : 1);
      return [field.key, field.measure!.show(si, system)];
    }),
  );
}

/** The other way; and which fields are not what they may be, with what is accepted. */
export function fromForm(
  fields: readonly FormField[],
  form: Form,
  system: System,
): { told: Record<string, unknown>; wrong: Record<string, string> } {
  const told: Record<string, unknown> = {};
  const wrong: Record<string, string> = {};
  for (const field of fields) {
    const text = (form[field.key] ?? "").trim();
    if (field.kind === "text" || field.kind === "long") told[field.key] = text;
    else if (text === "") {
      told[field.key] = null;
      if (field.open === undefined && ["time", "number"].includes(field.kind))
        wrong[field.key] = "This is needed.";
    } else if (field.kind === "time") {
      const at = new Date(text);
      if (Number.isNaN(at.getTime())) wrong[field.key] = "A date and a time are needed.";
      else told[field.key] = at.toISOString().replace(/\.\d+Z$/, "Z");
    } else if (field.kind === "kept") told[field.key] = text === "yes";
    else if (field.kind === "number") {
      const value = Number(text.replace(",", "."));
      if (Number.isNaN(value)) wrong[field.key] = `"${text}" is no number.`;
      else
        told[field.key] = field.measure!.read(value, system) / (MILLIMETRES.includes(field.key) ? 1000 : 1);
    } else told[field.key] = text;
  }
  return { told, wrong };
}

/** A thing as it is sent: its form over what the form does not show. */
export const outingBody = (told: Record<string, unknown>, from: Outing | null): OutingFields =>
  ({
    lake_id: from?.lake_id ?? null,
    utc_offset_min: from?.utc_offset_min ?? -new Date().getTimezoneOffset(),
    ...told,
  }) as OutingFields;
export const stayBody = (told: Record<string, unknown>, from: Stay | null): StayFields =>
  ({
    settings: from?.settings ?? null,
    hole_id: from?.hole_id ?? null,
    unit_id: from?.unit_id ?? null,
    lure_id: from?.lure_id ?? null,
    east_m: from?.east_m ?? null,
    north_m: from?.north_m ?? null,
    ...told,
    lure_form: told.lure_form ?? "",
  }) as StayFields;
export const happeningBody = (told: Record<string, unknown>): HappeningFields =>
  told as unknown as HappeningFields;
