// A look around that goes on: started, listened to, hung anew; the newest picture of every bearing with its age.
import { api, ok, Problem, words } from "../../lib/api/client";
import type { Hang, LookTruth, Turned, TurningLook } from "../../lib/api/types";
import { takePlace } from "../../lib/live/places";
import { unpack } from "../../lib/picture/history";

const SILENCE_MS = 4000;
const RETRY_MS = 1500;
const TRUTH_EVERY_MS = 1000;

/** Which water: made up from a seed, or round a place of a lake. */
export interface Water {
  seed: number | null;
  lake_id: number | null;
  east_m: number;
  north_m: number;
}

export class LookStream {
  look: TurningLook | null = $state.raw(null);
  hang: Hang | null = $state.raw(null);
  message = $state("");
  live = $state(false);
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
  /** Called whenever there is something new to paint. */
  changed: () => void = () => undefined;

  private source: EventSource | null = null;
  private place: (() => void) | null = null;
  private closed = false;
  private watchdog: number | undefined;
  private retry: number | undefined;
  private truths: number | undefined;
  private wantsTruth = false;

  constructor(
    readonly water: Water,
    private wanted: Hang | null,
    from: number,
  ) {
    this.now = from;
  }

  async start() {
    try {
      this.place ??= await takePlace();
      if (this.closed) return this.place();
      const seed = this.look?.seed ?? this.water.seed;
      const body = { ...this.water, seed, start_s: this.now, ...(this.wanted ? { hang: this.wanted } : {}) };
      const look = await ok(api.POST("/api/search/looks", { body }));
      if (this.closed) return void this.end(look.id);
      this.look = look;
      this.hang = look.hang;
      this.turnS = look.turn_s;
      this.levels = new Uint8Array(look.bearings * look.bins);
      this.seen = new Float64Array(look.bearings).fill(Number.NEGATIVE_INFINITY);
      this.listen();
    } catch (problem) {
      if (this.closed) return;
      this.message = words(problem);
      const refused =
        problem instanceof Problem &&
        problem.status >= 400 &&
        problem.status !== 429 &&
        problem.status !== 503;
      if (!refused) this.retry = window.setTimeout(() => void this.start(), RETRY_MS);
    }
  }

  private listen() {
    const source = new EventSource(`/api/search/looks/${this.look!.id}/stream`);
    this.source = source;
    source.addEventListener("turned", (event) =>
      this.take(JSON.parse((event as MessageEvent<string>).data) as Turned),
    );
    source.onerror = () => this.again();
    this.watch();
  }

  private watch() {
    window.clearTimeout(this.watchdog);
    this.watchdog = window.setTimeout(() => this.again(), SILENCE_MS);
  }

  /** The stream dropped: look again at the same water, from the moment that was reached. */
  private again() {
    this.source?.close();
    window.clearTimeout(this.watchdog);
    window.clearTimeout(this.retry);
    if (this.closed) return;
    this.live = false;
    this.message = "The picture stopped. Reconnecting.";
    this.retry = window.setTimeout(() => void this.start(), RETRY_MS);
  }

  private take(frame: Turned) {
    if (this.closed) return;
    this.live = true;
    this.message = "";
    this.watch();
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
    this.changed();
  }

  private path = () => ({ path: { look_id: this.look!.id } });

  /** Hang it or set it otherwise; the picture follows with the next bearing. */
  async set(change: Partial<Hang>) {
    if (!this.hang) return;
    this.wanted = { ...(this.wanted ?? this.hang), ...change };
    if (this.look)
      await ok(api.POST("/api/search/looks/{look_id}/hang", { params: this.path(), body: this.wanted }));
  }

  async thing(bearing_deg: number, range_m: number, fish_depth_m: number | null) {
    const query = { bearing_deg, range_m, fish_depth_m: fish_depth_m ?? undefined };
    return ok(api.GET("/api/search/looks/{look_id}/thing", { params: { ...this.path(), query } }));
  }

  /** Show the truth beside the picture, or hide it. */
  showTruth(on: boolean) {
    this.wantsTruth = on;
    window.clearInterval(this.truths);
    if (!on) return void (this.truth = null);
    const ask = async () => {
      if (!this.look || !this.live) return;
      const truth = await ok(api.GET("/api/search/looks/{look_id}/truth", { params: this.path() })).catch(
        () => null,
      );
      if (this.wantsTruth && truth) this.truth = truth;
    };
    void ask();
    this.truths = window.setInterval(() => void ask(), TRUTH_EVERY_MS);
  }

  private end(id: string) {
    return ok(api.DELETE("/api/search/looks/{look_id}", { params: { path: { look_id: id } } })).catch(
      () => undefined,
    );
  }

  close() {
    this.closed = true;
    window.clearTimeout(this.watchdog);
    window.clearTimeout(this.retry);
    window.clearInterval(this.truths);
    this.source?.close();
    if (this.look) void this.end(this.look.id);
    this.place?.();
  }
}
