// What is being searched: what was touched, the fixes of a school, its course, where to drill, and the watch clock.
import { api, ok, words } from "../../lib/api/client";
import { constants } from "../../lib/api/limits";
import type { Course, Drilling, Fix, Thing, Watch } from "../../lib/api/types";
import { latest } from "../../lib/latest";
import { world } from "../../lib/world.svelte";
import type { LookStream, Water } from "./look.svelte";

const KEPT = "hollow-glint search";
export const RANGES_M = [10, 15, 20, 25, 30, 40] as const;
const EVERY_S = 5; // a course goes on while one looks at it

/** What one tells the program of himself and of the lake. */
interface Own {
  walk_m_s: number;
  ready_s: number;
  stay_s: number;
  move_s: number;
  holes: number;
  fish_m_s: number;
  /** By hand: how deep it is, how deep the head hangs, how far its picture reaches, and where twelve points. */
  bottom_m: number;
  head_m: number;
  range_m: number;
  twelve_deg: number;
}

const USUAL: Own = {
  walk_m_s: 1.2,
  ready_s: 90,
  stay_s: 480,
  move_s: 300,
  holes: 1,
  fish_m_s: constants.usualFish,
  bottom_m: 9,
  head_m: 1,
  range_m: 20,
  twelve_deg: 0,
};

function remembered(): Own {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? "{}") as Record<string, unknown>;
    const known = Object.entries(USUAL).map(([name, usual]) => {
      const value = kept[name];
      return [name, typeof value === "number" && Number.isFinite(value) ? value : usual];
    });
    return Object.fromEntries(known) as Own;
  } catch {
    return USUAL;
  }
}

interface Touched extends Thing {
  bearing: number;
  range: number;
}

/** How one searches: round in made-up water or by hand on the ice, ahead with the fan, or for real. */
export type Place = "water" | "hand" | "ahead" | "real";

/** Where one looks from: a place of a lake, or, without one, water of its own. */
export interface LookOut {
  key: string;
  name: string;
  lake: { id: number; name: string } | null;
  east: number;
  north: number;
}
export const NOWHERE: LookOut = { key: "", name: "", lake: null, east: 0, north: 0 };

class Search {
  own: Own = $state(remembered());
  byHand = $state(false);
  /** How deep the fish hang, where that is known [m]. */
  fishDepth: number | null = $state(null);
  touched: Touched | null = $state.raw(null);
  fixes: Fix[] = $state.raw([]);
  course: Course | null = $state.raw(null);
  drilling: Drilling | null = $state.raw(null);
  watch: Watch | null = $state.raw(null);
  seen = $state(0);
  trouble = $state("");
  /** The clock of the water, or of the ice [s]; and when the watch began on it. */
  now = $state(0);
  began = 0;
  /** How the water lies where one looks. */
  head = $state(1);
  bottom = $state(9);
  range = $state(20);
  /** The water that was looked at last, and until when on its clock: one comes back to it. */
  last: { water: Water; now: number; from: LookOut } | null = null;
  private computedAt = Number.NEGATIVE_INFINITY;
  private watchedAt = Number.NEGATIVE_INFINITY;

  watched = $derived(Math.max(this.now - this.began, 0));

  change(change: Partial<Own>) {
    this.own = { ...this.own, ...change };
    try {
      localStorage.setItem(KEPT, JSON.stringify(this.own));
    } catch {
      // storage switched off: it lasts as long as the page
    }
    this.ask();
  }

  /** A new look: nothing of the last one counts any more. */
  anew(now: number) {
    this.now = this.began = now;
    this.seen = 0;
    this.touched = null;
    this.watch = null;
    this.forget();
    this.watchedAt = Number.NEGATIVE_INFINITY;
  }

  /** What a picture shows is what is reckoned with; by hand, what one's own unit shows. */
  reckonWith(look: LookStream | null) {
    this.head = look?.hang?.depth_m ?? this.own.head_m;
    this.bottom = look?.look?.bottom_depth_m ?? this.own.bottom_m;
    this.range = look?.hang?.range_m ?? this.own.range_m;
  }

  forget() {
    this.fixes = [];
    this.course = this.drilling = null;
  }

  /** The clock goes on. */
  tick(now: number) {
    this.now = now;
    if (Math.abs(now - this.computedAt) >= EVERY_S && this.fixes.length > 1) this.ask();
    if (Math.abs(now - this.watchedAt) >= EVERY_S) void this.askWatch();
  }

  take(fix: Fix) {
    if (this.fixes.length === 0) this.seen += 1;
    this.fixes = [...this.fixes, fix].slice(-12);
    this.ask();
    void this.askWatch();
  }

  drop(k: number) {
    this.fixes = this.fixes.filter((_, i) => i !== k);
    this.ask();
  }

  countSeen(by: number) {
    this.seen = Math.max(this.seen + by, 0);
    void this.askWatch();
  }

  /** How far from a hole one sees at the bottom, with the unit at hand [m]. */
  get seenRadius(): number {
    const width = world.units[0]?.beams[0]?.width_deg ?? 12;
    return Math.max(Math.tan((width * Math.PI) / 360) * (this.fishDepth ?? this.bottom), 0.3);
  }

  /** How far one sees along the ice from where one looks [m]. */
  get lookRadius(): number {
    return Math.max(this.range, 1);
  }

  private readonly askCourse = latest(() => {
    const column = { head_depth_m: this.head, bottom_depth_m: this.bottom, fish_depth_m: this.fishDepth };
    const { walk_m_s, ready_s, stay_s, holes } = this.own;
    const seen = { seen_radius_m: this.seenRadius, school_radius_m: constants.usualSchool };
    const fixes = this.fixes;
    return Promise.all([
      ok(api.POST("/api/search/course", { body: { ...column, fixes, at_s: this.now } })),
      ok(
        api.POST("/api/search/where-to-drill", {
          body: { ...column, fixes, now_s: this.now, walk_m_s, ready_s, stay_s, holes, ...seen },
        }),
      ),
    ]);
  });

  private ask() {
    if (this.fixes.length < 2) {
      this.course = this.drilling = null;
      return;
    }
    this.computedAt = this.now;
    this.askCourse()
      .then((found) => {
        if (!found || this.fixes.length < 2) return;
        [this.course, this.drilling] = found;
        this.trouble = "";
      })
      .catch((problem: unknown) => {
        this.course = this.drilling = null;
        this.trouble = words(problem);
      });
  }

  private readonly askClock = latest(() => {
    const { fish_m_s, move_s } = this.own;
    return ok(
      api.POST("/api/search/stay-or-go", {
        body: {
          look_radius_m: this.lookRadius,
          fish_speed_m_s: fish_m_s,
          watched_s: this.watched,
          seen: this.seen,
          schools_per_km2: constants.usualSchoolsPerKm2,
          sure: constants.usualSureM2,
          move_s,
        },
      }),
    );
  });

  private async askWatch() {
    this.watchedAt = this.now;
    try {
      this.watch = (await this.askClock()) ?? this.watch;
    } catch (problem) {
      this.trouble = words(problem);
    }
  }
}

export const search = new Search();
