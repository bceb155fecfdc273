// What every screen stands on: the holes, the gear, the strikes, and where in the application we are.
import { get, Problem } from "./api/client";
import type { Hole, Lure, Strike, Unit } from "./api/types";

export const STEPS = [
  { key: "hole", name: "Hole" },
  { key: "bench", name: "Bench" },
  { key: "log", name: "Log" },
] as const;
export type Step = (typeof STEPS)[number]["key"];

class World {
  holes: Hole[] = $state([]);
  units: Unit[] = $state([]);
  lures: Lure[] = $state([]);
  strikes: Strike[] = $state([]);
  holeId: number | null = $state(null);
  step: Step = $state("bench");
  /** The field of the Hole step that the bore was touched for. */
  field: string | null = $state(null);
  ready = $state(false);
  trouble: string | null = $state(null);
  /** Shown on the bore while the Bench runs: lure depth [m], and the picture's window [m below the surface]. */
  lureDepth: number | null = $state(null);
  window: { top: number; bottom: number } | null = $state(null);
  /** Shown on the bore while a hole is being edited. */
  draft: Hole | null = $state(null);

  hole = $derived(this.holes.find((one) => one.id === this.holeId) ?? null);
  strikesHere = $derived(this.strikes.filter((one) => one.hole_id === this.holeId));

  async load() {
    try {
      const [holes, units, lures, strikes] = await Promise.all([
        get<{ holes: Hole[] }>("/api/holes"),
        get<{ units: Unit[] }>("/api/units"),
        get<{ lures: Lure[] }>("/api/lures"),
        get<{ strikes: Strike[] }>("/api/strikes"),
      ]);
      this.holes = holes.holes;
      this.units = units.units;
      this.lures = lures.lures;
      this.strikes = strikes.strikes;
      this.trouble = null;
      this.readAddress();
      this.ready = true;
    } catch (problem) {
      this.trouble = problem instanceof Problem ? problem.message : String(problem);
    }
  }

  async loadStrikes() {
    this.strikes = (await get<{ strikes: Strike[] }>("/api/strikes")).strikes;
  }

  /** The address is #/hole/ID/STEP, so that a page can be kept, shared and gone back to. */
  readAddress() {
    const [, id, step] = /^#\/hole\/(\d+)\/(\w+)/.exec(location.hash) ?? [];
    this.holeId = this.holes.find((one) => one.id === Number(id))?.id ?? this.holes[0]?.id ?? null;
    this.step = STEPS.find((one) => one.key === step)?.key ?? (this.holeId === null ? "hole" : "bench");
    if (this.holeId === null) this.step = "hole";
  }

  go(step: Step, holeId: number | null = this.holeId, field: string | null = null) {
    this.field = field;
    location.hash = holeId === null ? "" : `#/hole/${holeId}/${step}`;
    this.holeId = holeId;
    this.step = step;
  }
}

export const world = new World();
