// A look around that goes on: started, listened to, hung anew; the newest picture of every bearing with its age.
import { askAgain } from "../../lib/again";
import { api, ok } from "../../lib/api/client";
import type { Hang, LookTruth, SearchedGiven, Turned, TurningLook } from "../../lib/api/types";
import { Pictured } from "../../lib/live/pictured.svelte";
import { unpack } from "../../lib/picture/history";

const TRUTH_EVERY_MS = 1000;

/** Which water: made up from a seed, or round a place of a lake. */
export interface Water {
  seed: number | null;
  lake_id: number | null;
  east_m: number;
  north_m: number;
  /** A scene to search for real; its truth is not told. */
  scene?: SearchedGiven["scene"];
}

export class LookStream extends Pictured<TurningLook, Turned> {
  look: TurningLook | null = $state.raw(null);
  hang: Hang | null = $state.raw(null);
  /** On the water's own clock [s]. */
  now = $state(0);
  turn = $state(0);
  turnS = $state(8);
  truth: LookTruth | null = $state.raw(null);
  /** The newest level of every bearing, and when it was seen [s]. */
  levels = new Uint8Array(0);
  seen = new Float64Array(0);
  /** The bearing that was looked along last, by its number. */
  newest = 0;
  /** Called when a look begins, at first or again after the stream dropped, and for every part of its picture. */
  began: (look: TurningLook) => void = () => undefined;
  went: (frame: Turned) => void = () => undefined;

  private noTruths: () => void = () => undefined;
  private wantsTruth = false;
  protected readonly stream = {
    event: "turned",
    address: (id: string) => `/api/search/looks/${id}/stream`,
  };

  constructor(
    readonly water: Water,
    private wanted: Hang | null,
    from: number,
    private pace = 1,
  ) {
    super();
    this.now = from;
  }

  protected ask() {
    const seed = this.look?.seed ?? this.water.seed;
    const hang = this.wanted ? { hang: this.wanted } : {};
    const body = { ...this.water, seed, start_s: this.now, pace: this.pace, ...hang };
    return ok(api.POST("/api/search/looks", { body }));
  }

  protected took(look: TurningLook) {
    this.look = look;
    this.hang = look.hang;
    this.turnS = look.turn_s;
    this.levels = new Uint8Array(look.bearings * look.bins);
    this.seen = new Float64Array(look.bearings).fill(Number.NEGATIVE_INFINITY);
    this.began(look);
  }

  protected show(frame: Turned) {
    const bins = this.look!.bins;
    // Hung anew it is another picture.
    const { range_m, depth_m, gain_db } = frame.hang;
    const was = this.hang!;
    if (range_m !== was.range_m || depth_m !== was.depth_m || gain_db !== was.gain_db) {
      this.levels.fill(0);
      this.seen.fill(Number.NEGATIVE_INFINITY);
    }
    this.hang = frame.hang;
    const rows = unpack(frame.levels);
    frame.which.forEach((bearing, k) => {
      this.levels.set(rows.subarray(k * bins, (k + 1) * bins), bearing * bins);
      this.seen[bearing] = frame.time_s[k]!;
      this.newest = bearing;
    });
    this.now = frame.now_s;
    this.turn = frame.turn;
    this.turnS = frame.turn_s;
    this.went(frame);
  }

  private path = () => ({ path: { look_id: this.look!.id } });

  /** Hang it or set it otherwise; the picture follows with the next bearing. */
  async set(change: Partial<Hang>) {
    if (!this.hang) return;
    this.wanted = { ...(this.wanted ?? this.hang), ...change };
    if (this.look)
      await ok(api.POST("/api/search/looks/{look_id}/hang", { params: this.path(), body: this.wanted }));
  }

  /** Let the water go `pace` times as fast as life. */
  async goFaster(pace: number) {
    this.pace = pace;
    if (this.look)
      await ok(api.POST("/api/search/looks/{look_id}/pace", { params: this.path(), body: { pace } }));
  }

  async thing(bearing_deg: number, range_m: number, fish_depth_m: number | null) {
    const query = { bearing_deg, range_m, fish_depth_m: fish_depth_m ?? undefined };
    return ok(api.GET("/api/search/looks/{look_id}/thing", { params: { ...this.path(), query } }));
  }

  /** All that the picture shows, each thing once. */
  async things() {
    const { things } = await ok(api.GET("/api/search/looks/{look_id}/things", { params: this.path() }));
    return things;
  }

  /** Show the truth beside the picture, or hide it. */
  showTruth(on: boolean) {
    this.wantsTruth = on;
    this.noTruths();
    if (!on) return void (this.truth = null);
    const ask = async () => {
      if (!this.look || !this.live) return;
      const truth = await ok(api.GET("/api/search/looks/{look_id}/truth", { params: this.path() })).catch(
        () => null,
      );
      if (this.wantsTruth && truth) this.truth = truth;
    };
    this.noTruths = askAgain(ask, TRUTH_EVERY_MS);
  }

  protected end(id: string) {
    return ok(api.DELETE("/api/search/looks/{look_id}", { params: { path: { look_id: id } } }));
  }

  override close() {
    this.noTruths();
    super.close();
  }
}
