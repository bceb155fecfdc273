// One thing that is touched again and again in the fan's picture: whether it comes or leaves, how far to turn to it, which
// way it swims, and where to drill to be there before it.
import { api, ok } from "../../lib/api/client";
import { constants } from "../../lib/api/limits";
import type { Course, Drilling, FanClosing, FanMeasured, Fix } from "../../lib/api/types";
import type { FanStream } from "./ahead.svelte";
import { search } from "./search.svelte";

type Mark = NonNullable<FanMeasured["mark"]>;

const SAME_M = 2;
const SAME_S = 40;
const LONG_S = 1;
const SCHOOL_SD_M = 0.8;
const COURSE_S = 6; // two fixes sooner after one another say nothing of a course
const COMES_NEAR_M = 3; // to a lure: so near it has to do with it

export class Followed {
  comes: FanClosing | null = $state.raw(null);
  toTurn: { turn_deg: number; sd_deg: number } | null = $state.raw(null);
  /** How loud it was at each aim of the handle, and how far off it was when. */
  private aims: { aim_deg: number; strength_db: number }[] = [];
  private ranges: { time_s: number; range_m: number }[] = [];
  private fixes: Fix[] = [];
  course: Course | null = $state.raw(null);
  drilling: Drilling | null = $state.raw(null);
  private last: Mark | null = null;

  /** Other water, another head: what was touched is another thing. */
  forget() {
    this.comes = this.toTurn = this.last = this.course = this.drilling = null;
    this.aims = [];
    this.ranges = [];
    this.fixes = [];
  }

  private isSame(mark: Mark): boolean {
    if (!this.last) return false;
    const apart = Math.hypot(mark.range_m - this.last.range_m, mark.depth_m - this.last.depth_m);
    const later = mark.time_s - this.last.time_s;
    return apart <= SAME_M && later >= 0 && later <= SAME_S;
  }

  /** It, or something else, was touched with the handle at an aim. */
  async touched(fan: FanStream, mark: Mark, aim_deg: number, fix: Fix | null) {
    if (!this.isSame(mark)) this.forget();
    this.last = mark;
    const loud = { aim_deg, strength_db: mark.strength_db };
    this.aims = [...this.aims.filter((one) => one.aim_deg !== aim_deg), loud];
    this.ranges = [...this.ranges, { time_s: mark.time_s, range_m: mark.range_m }];
    const seen = this.ranges;
    const long = mark.time_s - seen[0]!.time_s > LONG_S;
    this.comes = long ? await ok(api.POST("/api/search/fan-closing", { body: { seen } })) : null;
    this.toTurn = this.aims.length > 1 ? await fan.turnTo(this.aims, aim_deg) : null;
    // Of a school not the same fish is touched every time.
    if (fix) this.fixes = [...this.fixes, { ...fix, range_sd_m: Math.max(fix.range_sd_m, SCHOOL_SD_M) }];
    await this.whereTo(fan, mark);
  }

  /** From fixes some seconds apart: its course, and the hole past which it most likely comes when one is ready there. */
  private async whereTo(fan: FanStream, mark: Mark) {
    const [first, last] = [this.fixes[0], this.fixes.at(-1)];
    if (!first || !last || last.time_s - first.time_s < COURSE_S || !fan.fan) return;
    const column = {
      head_depth_m: fan.hang?.depth_m ?? 1,
      bottom_depth_m: Math.max(fan.fan.bottom_depth_m, mark.depth_m + 0.1),
      fish_depth_m: mark.depth_m,
    };
    const { walk_m_s, ready_s, stay_s } = search.own;
    const walker = { walk_m_s, ready_s, stay_s, holes: 1 };
    const seen = { seen_radius_m: COMES_NEAR_M, school_radius_m: constants.usualSchool };
    const body = { ...column, fixes: this.fixes };
    [this.course, this.drilling] = await Promise.all([
      ok(api.POST("/api/search/course", { body: { ...body, at_s: fan.now } })),
      ok(api.POST("/api/search/where-to-drill", { body: { ...body, now_s: fan.now, ...walker, ...seen } })),
    ]);
  }
}
