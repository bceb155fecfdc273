// A look ahead with the fan that goes on: begun, aimed, set, advised and measured; and what is sought with it.
import { askAgain } from "../../lib/again";
import { api, ok } from "../../lib/api/client";
import type {
  Fan,
  FanAdvice,
  FanFrame,
  FanHang,
  FanHead,
  FanMeasured,
  FanSettings,
  HungLure,
  LookTruth,
  Sought,
} from "../../lib/api/types";
import { latest } from "../../lib/latest";
import { Pictured } from "../../lib/live/pictured.svelte";
import { unpack } from "../../lib/picture/history";
import type { Water } from "./look.svelte";

export type HeadKey = FanHead["key"];
export type Job = "search" | "fish";
const TRUTH_EVERY_MS = 500;

/** What the circle found, for the fan to be aimed at. */
class Ahead {
  /** The water that is looked at, until when on its clock, and where to aim. */
  wanted: { water: Water; now: number; bearing: number; away: number } | null = null;
  /** Where one was last, to come back to. */
  last: { water: Water; now: number; head: HeadKey; hang: FanHang; settings: FanSettings } | null = null;
}
export const ahead = new Ahead();

export class FanStream extends Pictured<Fan, FanFrame> {
  fan: Fan | null = $state.raw(null);
  frame: FanFrame | null = $state.raw(null);
  hang: FanHang | null = $state.raw(null);
  settings: FanSettings | null = $state.raw(null);
  lures: HungLure[] = $state.raw([]);
  truth: LookTruth | null = $state.raw(null);
  now = $state(0);
  levels: Uint8Array = new Uint8Array(0);
  /** Called when a look begins, at first or again after the stream dropped, and for every picture of it. */
  began: (fan: Fan) => void = () => undefined;
  went: (frame: FanFrame) => void = () => undefined;
  private noTruths: () => void = () => undefined;
  private pace = 1;
  protected readonly stream = { event: "fan", address: (id: string) => `/api/search/fans/${id}/stream` };

  constructor(
    readonly water: Water,
    readonly head: HeadKey,
    from: number,
    protected begin: { hang?: FanHang; settings?: FanSettings; lures?: HungLure[] },
  ) {
    super();
    this.now = from;
  }

  protected ask() {
    const seed = this.fan?.seed ?? this.water.seed;
    const body = { ...this.water, seed, head: this.head, start_s: this.now, pace: this.pace };
    const set = { hang: this.hang, settings: this.settings, lures: this.lures };
    const known = this.fan ? (set as typeof this.begin) : this.begin;
    return ok(api.POST("/api/search/fans", { body: { ...body, ...known } }));
  }

  protected took(fan: Fan) {
    this.fan = fan;
    this.hang = fan.hang;
    this.settings = fan.settings;
    this.lures = fan.lures;
    this.began(fan);
  }

  protected show(frame: FanFrame) {
    this.levels = unpack(frame.levels);
    this.frame = frame;
    this.now = frame.now_s;
    this.went(frame);
  }

  protected path = () => ({ path: { fan_id: this.fan!.id } });

  /** Let the water go `pace` times as fast as life. */
  async goFaster(pace: number) {
    this.pace = pace;
    if (this.fan)
      await ok(api.POST("/api/search/fans/{fan_id}/pace", { params: this.path(), body: { pace } }));
  }

  /** Hang, aim or set it otherwise, at once on the page and with the next frame in the picture. */
  async set(change: { hang?: Partial<FanHang>; settings?: Partial<FanSettings>; lures?: HungLure[] }) {
    if (!this.hang || !this.settings || !this.fan) return;
    const before = { hang: this.hang, settings: this.settings, lures: this.lures };
    this.hang = { ...this.hang, ...change.hang };
    this.settings = { ...this.settings, ...change.settings };
    this.lures = change.lures ?? this.lures;
    try {
      const body = { hang: this.hang, settings: this.settings, lures: change.lures ?? null };
      await ok(api.POST("/api/search/fans/{fan_id}/set", { params: this.path(), body }));
    } catch (problem) {
      ({ hang: this.hang, settings: this.settings, lures: this.lures } = before);
      throw problem;
    }
  }

  /** Make the change that the coach names. */
  async make(change: { setting: string; value: number | boolean }) {
    const told = await ok(
      api.POST("/api/search/fans/{fan_id}/change", { params: this.path(), body: change }),
    );
    this.hang = told.hang;
    this.settings = told.settings;
  }

  readonly advice = latest((sought: Sought, job: Job, dark: boolean): Promise<FanAdvice> =>
    this.asked(
      ok(api.POST("/api/search/fans/{fan_id}/advice", { params: this.path(), body: { sought, job, dark } })),
    ),
  );

  /** The last of what was asked of this fan: it is not freed before that is answered. */
  private asking: Promise<unknown> = Promise.resolve();

  private asked<T>(answer: Promise<T>): Promise<T> {
    this.asking = Promise.allSettled([this.asking, answer]);
    return answer;
  }

  mark(ahead_m: number, depth_m: number): Promise<FanMeasured> {
    const query = { ahead_m, depth_m };
    return ok(api.GET("/api/search/fans/{fan_id}/mark", { params: { ...this.path(), query } }));
  }

  /** How far to turn the handle to have a thing in the plane, from how loud it was at two aims and more. */
  turnTo(seen: { aim_deg: number; strength_db: number }[], aim_deg: number) {
    return ok(api.POST("/api/search/fan-turn", { body: { head: this.head, aim_deg, seen } }));
  }

  /** Show the truth beside the picture, or hide it. */
  showTruth(on: boolean) {
    this.noTruths();
    if (!on) return void (this.truth = null);
    const ask = async () => {
      if (!this.fan || !this.live) return;
      const asked = this.asked(ok(api.GET("/api/search/fans/{fan_id}/truth", { params: this.path() })));
      this.truth = await asked.catch(() => this.truth);
    };
    this.noTruths = askAgain(ask, TRUTH_EVERY_MS);
  }

  protected async end(id: string) {
    await this.asking;
    return ok(api.DELETE("/api/search/fans/{fan_id}", { params: { path: { fan_id: id } } }));
  }

  override close() {
    this.noTruths();
    super.close();
  }
}
