// Names for the generated types, so that nothing of the contract is typed by hand.
import type { components } from "./schema";

type Schemas = components["schemas"];
/** What the program sends has every field: those with a default are never left out. */
export type Whole<T> = T extends readonly [unknown, ...unknown[]]
  ? T
  : T extends (infer Item)[]
    ? Whole<Item>[]
    : T extends object
      ? { [Key in keyof T]-?: Whole<T[Key]> }
      : T;

export type Hole = Whole<Schemas["HoleOut"]>;
export type HoleFields = Whole<Schemas["HoleFields"]>;
export type Scene = Whole<Schemas["SceneFields"]>;
export type Profile = Whole<Schemas["UnitFields"]>;
export type Ladder = Profile["ladders"][number];
export type PictureKind = Profile["pictures"][number];
export type Unit = Whole<Schemas["UnitOut"]>;
export type LureFields = Whole<Schemas["LureFields"]>;
export type Lure = Whole<Schemas["LureOut"]>;
export type Strike = Whole<Schemas["StrikeOut"]>;
export type Bench = Whole<Schemas["BenchOut"]>;
export type BenchWanted = Schemas["BenchWanted"];
export type Exercise = Whole<Schemas["ExerciseOut"]>;
export type SceneSummary = Whole<Schemas["SceneSummary"]>;
export type SavedScene = Whole<Schemas["SavedSceneFields"]>;
export type Frame = Whole<Schemas["FrameOut"]>;
export type Tuning = Whole<Schemas["TuningOut"]>;
export type Change = NonNullable<Tuning["verdicts"][number]["change"]>;
export type Quantity = Whole<Schemas["QuantityOut"]>;
export type Mark = Whole<Schemas["MarkOut"]>;
export type CardWanted = Whole<Schemas["CardWanted"]>;
export type HoleCard = Whole<Schemas["HoleCardOut"]>;
export type KeptCard = Whole<Schemas["KeptCardOut"]>;
export type Said = HoleCard["cautions"][number];
export type Translated = Whole<Schemas["TranslatedOut"]>;
export type Reading = Whole<Schemas["ReadingFields"]>;
export type Water = Whole<Schemas["WaterFields"]>;
export type CalibrationWanted = Whole<Schemas["CalibrationWanted"]>;
export type Fit = Whole<Schemas["FitOut"]>;
export type Look = Whole<Schemas["LookOut"]>;
export type Revealed = Whole<Schemas["RevealedOut"]>;
export type Settings = Whole<Schemas["SettingsFields"]>;
export type Command = Schemas["CommandFields"];
export type BenchEvent = Whole<Schemas["EventOut"]>;
export type ReadingNow = Whole<Schemas["ReadingOut"]>;
export type NamedMark = ReadingNow["marks"][number];
export type RecordingSummary = Whole<Schemas["RecordingOut"]>;
export type RecordingWhole = Whole<Schemas["RecordingWhole"]>;
export type RecordingNote = Whole<Schemas["NoteOut"]>;
export type Pings = Whole<Schemas["PingsOut"]>;
export type Import = Whole<Schemas["ImportOut"]>;
export type Skill = Whole<Schemas["SkillOut"]>;
export type DrillKey = Whole<Schemas["DrillKey"]>;
export type Drill = Whole<Schemas["DrillOut"]>;
export type Answer = Whole<Schemas["AnswerOut"]>;
export type TrueMark = Answer["truth"][number];
export type Round = Whole<Schemas["RoundOut"]>;
export type RoundPart = Round["parts"][number];
export type Observation = Whole<Schemas["ObservationFields"]>;
export type CallWanted = Schemas["CallWanted"];
export type CallSheet = Whole<Schemas["SheetOut"]>;
export type Section = Drill["clips"][number]["section"];
export type RunWanted = Schemas["RunWanted"];
export type StrikeChoices = Whole<Schemas["StrikeChoices"]>;
export type Run = Whole<Schemas["RunOut"]>;
export type RunWhole = Whole<Schemas["RunWhole"]>;
export type Judged = RunWhole["judged"][number];
export type WhatIf = Whole<Schemas["WhatIfOut"]>;
export type Pattern = Whole<Schemas["PatternOut"]>;
export type PatternMove = Pattern["moves"][number];
export type LabFound = Whole<Schemas["LabOut"]>;
export type LabOutcome = LabFound["outcomes"][number];
export type RiseLine = Whole<Schemas["RiseLineOut"]>;
export type HoleLine = Whole<Schemas["HoleLine"]>;
export type StrikeSheet = Whole<Schemas["StrikeSheet"]>;
export type Touch = StrikeSheet["touches"][number];
export type Odd = Whole<Schemas["OddityOut"]>;
export type ProblemDocument = Schemas["Problem"];
export type Lake = Whole<Schemas["LakeOut"]>;
export type LakeFields = Whole<Schemas["LakeFields"]>;
export type LakeThings = Whole<Schemas["LakeThings"]>;
export type LakeMap = Whole<Schemas["MapOut"]>;
export type TripDay = Whole<Schemas["TripDayFields"]>;
export type DayPlace = TripDay["places"][number];
export type TripPlan = Whole<Schemas["PlanOut"]>;
export type StartPlace = Whole<Schemas["StartPlaceOut"]>;
export type TeachPlace = Whole<Schemas["TeachPlace"]>;
export type Battery = Whole<Schemas["BatteryOut"]>;
export type BatteryFields = Whole<Schemas["BatteryFields"]>;
export type Alive = Whole<Schemas["AliveOut"]>;
export type Rig = Whole<Schemas["RigOut"]>;
export type GearItem = Whole<Schemas["GearItemOut"]>;
export type ViewKept = Whole<Schemas["KeptViewOut"]>;
export type Sniffed = Whole<Schemas["SniffedOut"]>;
export type TakenFile = Whole<Schemas["FileOut"]>;
export type BandLine = Whole<Schemas["BandLineOut"]>;
export type Worth = Whole<Schemas["WorthOut"]>;
export type Cone = Whole<Schemas["ConeOut"]>;
export type WaterFished = Whole<Schemas["WaterFished"]>;
