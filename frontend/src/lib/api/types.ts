// Names for the generated types, so that nothing of the contract is typed by hand.
import type { components } from "./schema";

type Schemas = components["schemas"];
export type Hole = Schemas["HoleOut"];
export type HoleFields = Schemas["HoleFields"];
export type Unit = Schemas["UnitOut"];
export type Lure = Schemas["LureOut"];
export type Strike = Schemas["StrikeOut"];
export type Bench = Schemas["BenchOut"];
export type Frame = Schemas["FrameOut"];
export type Tuning = Schemas["TuningOut"];
export type Verdict = Schemas["VerdictOut"];
export type Quantity = Schemas["QuantityOut"];
export type Settings = Schemas["SettingsOut"];
export type Command = Schemas["CommandFields"];
export type BenchEvent = Schemas["EventOut"];
export type ProblemDocument = Schemas["Problem"];
