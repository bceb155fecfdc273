// The shelter as it stands on the page: who sits where, kept as it is changed, and planned anew each time.
import { api, ok, Problem, words } from "../../lib/api/client";
import { constants } from "../../lib/api/limits";
import type { Party, ShelterPlan } from "../../lib/api/types";
import { latest } from "../../lib/latest";
import { Wait } from "../../lib/wait.svelte";
import { world } from "../../lib/world.svelte";

const RESTS_MS = 350;
export const MOST = 8;
export const CLEAR = constants.neighbourShare;
const APART_M = 1.4; // a further hole, an arm's length from the last

type Seat = Party["seats"][number];
type ShelterHole = Party["holes"][number];

export class Shelter {
  party: Party | null = $state.raw(null);
  plan: ShelterPlan | null = $state.raw(null);
  /** The party that the plan is of. */
  planned: Party | null = $state.raw(null);
  gone: string[] = $state.raw([]);
  trouble = $state("");
  wait = new Wait();
  private resting: number | undefined;

  constructor(private readonly holeId: number) {}

  private params = () => ({ path: { hole_id: this.holeId } });

  async load() {
    try {
      const told = await ok(api.GET("/api/holes/{hole_id}/party", { params: this.params() }));
      this.party = told.party as Party;
      this.gone = told.gone;
      await this.replan();
    } catch (problem) {
      this.trouble = words(problem);
    }
  }

  stop = () => window.clearTimeout(this.resting);

  /** Who sits where has changed: kept and planned anew when the hand rests. */
  set(party: Party, rests = RESTS_MS) {
    this.party = party;
    window.clearTimeout(this.resting);
    this.resting = window.setTimeout(() => void this.keep(), rests);
  }

  setSeat(k: number, patch: Partial<Seat>) {
    const { seats } = this.party!;
    // Settings are of a unit: with another one it is set as its own card would set it.
    const now = "unit_id" in patch ? { now: null } : {};
    this.set({
      ...this.party!,
      seats: seats.map((one, i) => (i === k ? { ...one, ...patch, ...now } : one)),
    });
  }

  /** A seat in another hole; whoever sat there takes the one that is left. */
  sit(k: number, hole: number | null) {
    const { seats } = this.party!;
    const left = seats[k]!.hole;
    const moved = seats.map((one, i) =>
      i === k ? { ...one, hole } : one.hole === hole && hole !== null ? { ...one, hole: left } : one,
    );
    this.set({ ...this.party!, seats: moved });
  }

  /** How the shelter is turned changes nothing of who hears whom: kept, and not planned anew. */
  turn(turn_deg: number) {
    const [party, planned] = [this.party!, this.planned];
    this.party = { ...party, turn_deg };
    if (planned === party) this.planned = this.party;
    this.askKept(this.party).catch((problem: unknown) => this.refused(problem));
  }

  move(h: number, x_m: number, y_m: number) {
    const holes = this.party!.holes.map((one, i) => (i === h ? { x_m, y_m } : one));
    this.set({ ...this.party!, holes });
  }

  addHole() {
    const { holes } = this.party!;
    this.set({ ...this.party!, holes: [...holes, beside(holes)] });
  }

  /** The last hole is filled in, if nobody sits at it. */
  dropHole() {
    this.set({ ...this.party!, holes: this.party!.holes.slice(0, -1) });
  }

  /** One more: in the first free hole, or without one if they come late. */
  addSeat(late: boolean) {
    const { holes, seats } = this.party!;
    const taken = seats.map((one) => one.hole);
    const more = seats.length >= holes.length ? [...holes, beside(holes)] : holes;
    const free = more.findIndex((_, h) => !taken.includes(h));
    const last = seats[seats.length - 1];
    const named = (n: number): string =>
      seats.some((one) => one.name === `Seat ${n}`) ? named(n + 1) : `Seat ${n}`;
    const seat: Seat = {
      name: named(seats.length + 1),
      unit_id: last?.unit_id ?? world.units[0]!.id,
      lure_id: last?.lure_id ?? null,
      hole: late ? null : free,
      lure_depth_m: null,
      now: null,
    };
    // Who sits already has set what was planned: the late one is planned in around that.
    const sit = late && this.plan && this.planned === this.party ? this.asPlanned() : seats;
    this.set({ ...this.party!, holes: more, seats: [...sit, seat] });
  }

  dropSeat(k: number) {
    this.set({ ...this.party!, seats: this.party!.seats.filter((_, i) => i !== k) });
  }

  private asPlanned = (): Seat[] =>
    this.planned!.seats.map((one, k) => {
      const { hole, settings } = this.plan!.seats[k]!.after;
      return { ...one, hole, now: settings };
    });

  /** Everyone has set what was planned: that is how things stand now. */
  allSet = () => this.set({ ...this.party!, seats: this.asPlanned() }, 0);

  private readonly askKept = latest((body: Party) =>
    ok(api.PUT("/api/holes/{hole_id}/party", { params: this.params(), body })),
  );

  private async keep() {
    const party = this.party!;
    try {
      const kept = await this.askKept(party);
      if (!kept) return;
      this.gone = [];
      await this.replan();
    } catch (problem) {
      this.refused(problem);
    }
  }

  private refused(problem: unknown) {
    this.trouble = words(problem);
    if (problem instanceof Problem) this.plan = null;
  }

  private readonly askPlan = latest((body: Party, headers: { Work: string }) =>
    ok(api.POST("/api/holes/{hole_id}/party/plan", { params: this.params(), body, headers })),
  );

  private async replan() {
    const party = this.party!;
    try {
      const plan = await this.wait.during((headers) => this.askPlan(party, headers));
      if (!plan) return;
      this.plan = plan as ShelterPlan;
      this.planned = party;
      this.trouble = "";
    } catch (problem) {
      this.refused(problem);
    }
  }
}

/** A place for one more hole, where none is near. */
function beside(holes: readonly ShelterHole[]): ShelterHole {
  for (let ring = 1; ; ring++)
    for (let k = 0; k < 8 * ring; k++) {
      const turn = (2 * Math.PI * k) / (8 * ring);
      const at = { x_m: round(APART_M * ring * Math.cos(turn)), y_m: round(APART_M * ring * Math.sin(turn)) };
      if (holes.every((one) => Math.hypot(one.x_m - at.x_m, one.y_m - at.y_m) >= 0.9 * APART_M)) return at;
    }
}

const round = (m: number) => Math.round(m * 20) / 20;
