// A search for real: which scene, where one stands, what was watched and marked, and the way to the next hole. It is kept
// in the browser until it is over and the program has it, so that a reload loses nothing.
import { api, ok } from "../../lib/api/client";
import type { Fix, Hang, ScenesToSearch, SearchedGiven, TurningLook, Turned } from "../../lib/api/types";
import { LookStream } from "./look.svelte";
import { search } from "./search.svelte";

const KEPT = "hollow-glint search for real";
export const PACES = [1, 2, 4, 8] as const;

interface Kept {
  given: SearchedGiven;
  /** Where one stands, and since when one can look there [m, s]. */
  here: { east: number; north: number };
  now: number;
  hang: Hang | null;
}
type Going = Kept;

function remembered(): Going | null {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? "null") as Going | null;
    return kept?.given?.watches && kept.here ? kept : null;
  } catch {
    return null;
  }
}

class Real {
  bounds: ScenesToSearch | null = $state.raw(null);
  /** The search that goes on. */
  going: Going | null = $state.raw(remembered());
  look: LookStream | null = $state.raw(null);
  pace: number = $state(1);
  walk: { east: number; north: number; from: number; at: number; away: number } | null = $state.raw(null);

  now = $derived(this.look ? this.look.now : (this.going?.now ?? 0));
  left = $derived(Math.max((this.bounds?.lasts_s ?? 1200) - this.now, 0));
  marks = $derived(this.going?.given.marks ?? []);
  /** The holes so far, each once, in order. */
  holes = $derived.by(() => {
    const out: { east: number; north: number; range: number }[] = [];
    for (const { east_m: east, north_m: north, hangs } of this.going?.given.watches ?? []) {
      const range = hangs.at(-1)!.hang.range_m ?? 20;
      const same = out.find((one) => Math.hypot(one.east - east, one.north - north) < 0.5);
      if (same) same.range = range;
      else out.push({ east, north, range });
    }
    return out;
  });
  walked = $derived.by(() => {
    const watches = this.going?.given.watches ?? [];
    return watches.slice(1).reduce((sum, { east_m, north_m }, k) => {
      const before = watches[k]!;
      return sum + Math.hypot(east_m - before.east_m, north_m - before.north_m);
    }, 0);
  });

  async load() {
    this.bounds = await ok(api.GET("/api/search/scenes"));
  }

  private keep(going: Going | null) {
    this.going = going;
    try {
      if (going) localStorage.setItem(KEPT, JSON.stringify(going));
      else localStorage.removeItem(KEPT);
    } catch {
      // storage switched off: it lasts as long as the page
    }
  }

  begin(scene: SearchedGiven["scene"], seed: number) {
    const key = crypto.randomUUID?.() ?? `search ${Math.random()}`;
    const given = { key, scene, seed, watches: [], marks: [] };
    this.keep({ given, here: { east: 0, north: 0 }, now: 0, hang: null });
    this.watch();
  }

  /** Let the head down where one stands and look on from now. */
  watch() {
    const going = this.going;
    if (!going) return;
    this.look?.close();
    const { scene, seed } = going.given;
    const { east, north } = going.here;
    search.anew(going.now);
    const water = { seed, lake_id: null, east_m: east, north_m: north, scene };
    const look = new LookStream(water, going.hang, going.now, this.pace);
    look.began = (begun) => this.began(begun);
    look.went = (frame) => this.went(frame);
    this.look = look;
    void look.start();
  }

  private began({ hang, time_s }: TurningLook) {
    const going = this.going!;
    const { east: east_m, north: north_m } = going.here;
    const hangs = [{ at_s: time_s, hang }];
    const watch = { east_m, north_m, from_s: time_s, until_s: time_s, hangs };
    this.change({ watches: [...going.given.watches, watch] });
  }

  private went({ now_s, water_s, hang }: Turned) {
    const watches = [...this.going!.given.watches];
    const last = watches.pop();
    if (!last) return;
    const lasts = this.bounds?.lasts_s ?? 1200;
    const was = last.hangs.at(-1)!.hang;
    const anew = (Object.keys(hang) as (keyof Hang)[]).some((name) => hang[name] !== was[name]);
    const at_s = Math.min(Math.max(now_s - water_s, last.from_s), lasts);
    const hangs = anew ? [...last.hangs, { at_s, hang }] : last.hangs;
    watches.push({ ...last, until_s: Math.min(now_s, lasts), hangs });
    this.going = { ...this.going!, given: { ...this.going!.given, watches }, now: now_s, hang };
    // Not every tenth of a second goes to the disk.
    if (anew || Math.floor(now_s) !== Math.floor(now_s - water_s)) this.keep(this.going);
  }

  private change(given: Partial<SearchedGiven>) {
    const going = this.going!;
    this.keep({ ...going, given: { ...going.given, ...given } });
  }

  mark({ time_s, bearing_deg, range_m }: Fix) {
    // The last frame may reach a little beyond the end.
    const at_s = Math.min(time_s, this.bounds?.lasts_s ?? 1200);
    const one = { at_s, bearing_deg: ((bearing_deg % 360) + 360) % 360, range_m };
    this.change({ marks: [...this.marks, one].slice(-(this.bounds?.most_marks ?? 40)) });
    search.countSeen(1);
  }

  takeBack(k: number) {
    this.change({ marks: this.marks.filter((_, i) => i !== k) });
    search.countSeen(-1);
  }

  /** What it takes to be ready somewhere: how far, and when on the water's clock. */
  wayTo(east: number, north: number) {
    const { here } = this.going!;
    const away = Math.hypot(east - here.east, north - here.north);
    const drilled = this.holes.some((one) => Math.hypot(one.east - east, one.north - north) < 0.5);
    const { walk_m_s = 1.2, ready_s = 90 } = this.bounds ?? {};
    return { away, drilled, at: this.now + away / walk_m_s + (drilled ? 0 : ready_s) };
  }

  go(east: number, north: number) {
    const { away, at } = this.wayTo(east, north);
    this.walk = { east, north, from: this.now, at, away };
    this.pause();
  }

  arrive() {
    const walk = this.walk;
    if (!walk || !this.going) return;
    this.walk = null;
    this.keep({ ...this.going, here: { east: walk.east, north: walk.north }, now: walk.at });
    this.watch();
  }

  /** Take the head up; the clock stands still until one goes on. */
  pause() {
    this.look?.close();
    this.look = null;
    if (this.going) this.keep(this.going);
  }

  async faster(pace: number) {
    this.pace = pace;
    await this.look?.goFaster(pace);
  }

  /** It is over: the program keeps it, and says under which number. */
  async finish(): Promise<number> {
    this.pause();
    const kept = await ok(api.POST("/api/searches", { body: this.going!.given }));
    this.keep(null);
    return kept.id;
  }

  giveUp() {
    this.pause();
    this.walk = null;
    this.keep(null);
  }
}

export const real = new Real();
