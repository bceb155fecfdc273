// What every screen stands on: the holes, the gear, the strikes, and where in the application we are.
import { untrack } from "svelte";
import { api, ok, Problem } from "./api/client";
import { latest } from "./latest";
import type {
  DrilledAt,
  Exercise,
  Hole,
  Lure,
  RiseLine,
  Scene,
  SceneSummary,
  Settings,
  Strike,
  Unit,
} from "./api/types";

export const STEPS = [
  { key: "trip", name: "Trip" },
  { key: "gear", name: "Gear" },
  { key: "search", name: "Search" },
  { key: "hole", name: "Hole" },
  { key: "card", name: "Card" },
  { key: "bench", name: "Bench" },
  { key: "read", name: "Read" },
  { key: "strike", name: "Strike" },
  { key: "log", name: "Log" },
] as const;
/** Steps that need no hole. */
const NO_HOLE: readonly string[] = ["trip", "gear", "search"];
type Step = (typeof STEPS)[number]["key"];

/** Practice on the Bench, away from any hole: a kept scene or an exercise. */
export type Practice = { kind: "scene"; id: number } | { kind: "exercise"; key: string } | Drilled;
interface Drilled {
  kind: "drilled";
  at: DrilledAt;
  due_s: number;
}

/** A hole drilled in water that was looked at, as it stands in an address. */
export const drilledKey = (
  { seed, lake_id, east_m, north_m, hole_east_m, hole_north_m, at_s }: DrilledAt,
  due_s: number,
) => [seed, lake_id ?? "", east_m, north_m, hole_east_m, hole_north_m, at_s, due_s].join("_");

export function drilledAt(key: string): Drilled | null {
  const [seed, lake, ...rest] = key.split("_");
  const [east_m, north_m, hole_east_m, hole_north_m, at_s, due_s] = rest.map(Number);
  const at = {
    seed: Number(seed),
    lake_id: lake ? Number(lake) : null,
    east_m: east_m!,
    north_m: north_m!,
    hole_east_m: hole_east_m!,
    hole_north_m: hole_north_m!,
    at_s: at_s!,
  };
  const whole =
    rest.length === 6 && [...Object.values(at), due_s!].every((one) => one === null || Number.isFinite(one));
  return whole ? { kind: "drilled", at, due_s: due_s! } : null;
}

/** A hole card's settings on their way to the Bench. */
interface Trial {
  unit_id: number;
  lure_id: number | null;
  settings: Settings;
  lure_depth_m: number;
  /** The water as the card takes it: depth, light, clarity, life, company, where the face hangs. */
  scene: Scene;
}

/** A part of an address as it was before it was encoded; empty where it never was. */
function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return "";
  }
}

export const keyOf = (practice: Practice) =>
  practice.kind === "scene"
    ? practice.id
    : practice.kind === "exercise"
      ? practice.key
      : drilledKey(practice.at, practice.due_s);

class World {
  holes: Hole[] = $state.raw([]); // always given whole: they can be thousands
  units: Unit[] = $state([]);
  lures: Lure[] = $state([]);
  strikes: Strike[] = $state([]);
  scenes: SceneSummary[] = $state([]);
  exercises: Exercise[] = $state([]);
  holeId: number | null = $state(null);
  /** The number of a hole that the address names and that is not here. */
  lost: number | null = $state(null);
  step: Step = $state("bench");
  practice: Practice | null = $state(null);
  /** What the Bench starts from the next time it opens at a hole, instead of the middle of the knobs. */
  trial: Trial | null = null;
  /** The field of the Hole step that the bore was touched for. */
  field: string | null = $state(null);
  ready = $state(false);
  trouble: string | null = $state(null);
  /** Shown on the bore by the card: lure depth [m], and the picture's window [m below the surface]. */
  lureDepth: number | null = $state(null);
  window: { top: number; bottom: number } | null = $state(null);
  /** Shown on the bore while a hole is being edited. */
  draft: Hole | null = $state(null);
  /** The section as the card takes it, where it is not the hole's own. */
  section: Pick<Hole, "bottom_depth_m" | "bottom_kind" | "ice_thickness_m" | "face_depth_m"> | null =
    $state(null);

  /** What is taken to be tied on until something else is chosen, on every page. */
  get usualLure() {
    return this.lures.find((one) => one.form === "jig" && one.diameter_m >= 0.005) ?? this.lures[0] ?? null;
  }
  /** How high fish will come today at the hole chosen. */
  riseLine: RiseLine | null = $state(null);
  private pictures = $state(0);

  hole = $derived(this.holes.find((one) => one.id === this.holeId) ?? null);
  strikesHere = $derived(this.strikes.filter((one) => one.hole_id === this.holeId));

  /** Whether the screen has a picture of the column: the bore is its first column then, and stands nowhere else. */
  get pictured(): boolean {
    return this.pictures > 0;
  }

  /** For as long as a screen has one: gives what to call when it goes. */
  withPicture(): () => void {
    this.pictures = untrack(() => this.pictures) + 1;
    return () => (this.pictures = untrack(() => this.pictures) - 1);
  }

  async load() {
    try {
      const [holes] = await Promise.all([
        ok(api.GET("/api/holes")),
        this.loadGear(),
        this.loadStrikes(),
        this.loadPractice(),
      ]);
      this.holes = holes.holes;
      this.trouble = null;
      this.readAddress();
      this.ready = true;
    } catch (problem) {
      this.trouble = problem instanceof Problem ? problem.message : String(problem);
    }
  }

  private readonly askGear = latest(() =>
    Promise.all([ok(api.GET("/api/units")), ok(api.GET("/api/lures"))]),
  );

  async loadGear() {
    const answer = await this.askGear();
    if (!answer) return; // asked again since
    const [units, lures] = answer;
    this.units = units.units;
    this.lures = lures.lures;
  }

  async loadPractice() {
    const [scenes, exercises] = await Promise.all([
      ok(api.GET("/api/scenes")),
      ok(api.GET("/api/exercises")),
    ]);
    this.scenes = scenes.scenes;
    this.exercises = exercises.exercises;
  }

  private readonly askStrikes = latest(() => ok(api.GET("/api/strikes")));

  async loadStrikes() {
    this.strikes = (await this.askStrikes())?.strikes ?? this.strikes;
  }

  /** The rise line that today's fish at the hole ask for. */
  async loadRiseLine() {
    const id = this.holeId;
    if (id === null) return;
    try {
      const { line } = await ok(
        api.GET("/api/holes/{hole_id}/rise-line", { params: { path: { hole_id: id } } }),
      );
      if (id === this.holeId) this.riseLine = line;
    } catch {
      this.riseLine = null; // the hole is gone, or the program: said elsewhere
    }
  }

  /** The address is #/hole/ID/STEP, with /scene/ID or /exercise/KEY after it for practice, so that it can be kept. */
  readAddress() {
    const [, id, step, kind, which] =
      /^#\/hole\/(\d+)\/(\w+)(?:\/(scene|exercise|drilled)\/([^/]+))?/.exec(location.hash) ?? [];
    const found = this.holes.find((one) => one.id === Number(id));
    // An address with a hole that is not here must not show another in its place.
    this.lost = id !== undefined && Number(id) > 0 && !found ? Number(id) : null;
    this.holeId = found?.id ?? this.holes[0]?.id ?? null;
    this.step = STEPS.find((one) => one.key === step)?.key ?? (this.holeId === null ? "hole" : "bench");
    this.practice = this.practiceOf(kind, decoded(which ?? ""));
    if (this.needsHole) this.step = "hole";
  }

  /** What an address asks to be practised; null for what is not there. */
  private practiceOf(kind: string | undefined, key: string): Practice | null {
    if (kind === "scene" && this.scenes.some((one) => one.id === Number(key)))
      return { kind, id: Number(key) };
    if (kind === "exercise" && this.exercises.some((one) => one.key === key)) return { kind, key };
    return kind === "drilled" ? drilledAt(key) : null;
  }

  /** Whether the page that is open is one for a hole, and there is none yet. */
  get needsHole(): boolean {
    const elsewhere = this.step === "bench" && this.practice?.kind === "drilled";
    return this.holeId === null && !NO_HOLE.includes(this.step) && !elsewhere;
  }

  private address(step: Step, holeId: number | null, practice: Practice | null): string {
    if (holeId === null && practice?.kind !== "drilled" && !NO_HOLE.includes(step)) return "";
    const which = practice ? `/${practice.kind}/${encodeURIComponent(keyOf(practice))}` : "";
    return `#/hole/${holeId ?? 0}/${step}${which}`;
  }

  go(step: Step, holeId: number | null = this.holeId, field: string | null = null) {
    this.field = field;
    this.lost = null;
    location.hash = this.address(step, holeId, null);
    this.holeId = holeId;
    this.step = step;
    this.practice = null;
  }

  /** Practise a scene or an exercise on the Bench; null goes back to the hole. */
  practise(practice: Practice | null) {
    location.hash = this.address("bench", this.holeId, practice);
    this.step = "bench";
    this.practice = practice;
  }
}

export const world = new World();
