// Choices as the program's own document lists them, for a Choice or a select.
import { limits } from "../api/limits";

export interface Option<T> {
  value: T;
  label: string;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** With a capital, as they stand alone. */
export const options = <T>(choices: readonly Option<T>[]): Option<T>[] =>
  choices.map(({ value, label }) => ({ value, label: capital(label) }));

/** With a first one that stands for none of them. */
export const orNone = (none: string, choices: readonly Option<string>[]): Option<string>[] => [
  { value: "", label: none },
  ...choices,
];

/** The fish that are fished for: bait is only ever looked at. */
export const SPECIES = limits.LabWanted.species.choices.filter((one) => one.value !== "bait");
export type Species = (typeof SPECIES)[number]["value"];
