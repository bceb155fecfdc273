// A search for real: which scene, where one stands, what was watched with which head and marked, and the way to the next
// hole. It is kept in the browser until it is over and the program has it, so that a reload loses nothing.
import { api, ok } from "../../lib/api/client";
import type {
  FanHang,
  FanSettings,
  Fix,
  Hang,
  ScenesToSearch,
  SearchedGiven,
  TurningLook,
  Turned,
} from "../../lib/api/types";
import { FanStream } from "./ahead.svelte";
import { hungAt } from "./fan";
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
  /** What one looks with just now, and how the fan was aimed and set last. */
  head?: SearchHead;
  fan?: { hang?: FanHang; settings?: FanSettings } | null;
}
type Going = Kept;
type Scene = ScenesToSearch["scenes"][number];
export type SearchHead = Scene["heads"][number];
type Watched = SearchedGiven["watches"][number];
const AIMS_APART_S = 2; // an aim that was left sooner is not written down
const AIM_DEG = 5;

/** Where a fan was aimed at a hole, each way once. */
const aimsOf = (watches: Watched[]) => {
  const out: Record<number, number> = {};
  for (const { hang, settings } of watches.flatMap(({ aims }) => aims ?? [])) {
    if (hang.mounting === "down") continue;
    const deg = (Math.round(((hang.aim_deg ?? 0) + (hang.off_deg ?? 0)) / AIM_DEG) * AIM_DEG + 360) % 360;
    out[deg] = Math.max(out[deg] ?? 0, settings.ahead_m ?? 25);
  }
  return Object.entries(out).map(([deg, range]) => ({ deg: Number(deg), range }));
};

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
  fan: FanStream | null = $state.raw(null);
  pace: number = $state(1);
  walk: { east: number; north: number; from: number; at: number; away: number } | null = $state.raw(null);

  now = $derived((this.look ?? this.fan)?.now ?? this.going?.now ?? 0);
  scene = $derived.by(() => this.bounds?.scenes.find((one) => one.key === this.going?.given.scene) ?? null);
  head = $derived(this.going?.head ?? this.scene?.heads[0] ?? "circle");
  /** Whether what is looked with now is what schools are marked with. */
  marksHere = $derived(this.scene?.heads.at(-1) === this.head);
  left = $derived(Math.max((this.bounds?.lasts_s ?? 1200) - this.now, 0));
  marks = $derived(this.going?.given.marks ?? []);
  /** The holes so far, each once, in order. */
  holes = $derived.by(() => {
    const out: { east: number; north: number; range: number; watches: Watched[] }[] = [];
    for (const watch of this.going?.given.watches ?? []) {
      const { east_m: east, north_m: north, hangs = [] } = watch;
      const last = hangs.at(-1);
      const range = last ? (last.hang.range_m ?? 20) : 0;
      const same = out.find((one) => Math.hypot(one.east - east, one.north - north) < 0.5);
      if (same) {
        if (last) same.range = range;
        same.watches.push(watch);
      } else out.push({ east, north, range, watches: [watch] });
    }
    return out.map(({ watches, ...hole }) => ({ ...hole, aims: aimsOf(watches) }));
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

  begin({ key: scene, heads }: Scene, seed: number) {
    const key = crypto.randomUUID?.() ?? `search ${Math.random()}`;
    const given = { key, scene, seed, watches: [], marks: [] };
    this.keep({ given, here: { east: 0, north: 0 }, now: 0, hang: null, head: heads[0]! });
    this.watch();
  }

  /** Let the head down where one stands and look on from now. */
  watch() {
    const going = this.going;
    if (!going) return;
    this.rest();
    const { scene, seed } = going.given;
    const { east, north } = going.here;
    search.anew(going.now);
    const water = { seed, lake_id: null, east_m: east, north_m: north, scene };
    if (this.head === "fan") {
      const fan = new FanStream(water, this.scene?.fan ?? "near reach", going.now, going.fan ?? {});
      void fan.goFaster(this.pace);
      fan.began = ({ hang, settings, time_s }) => {
        this.goesOn({ aims: [{ at_s: time_s, head: fan.head, hang, settings }] }, time_s);
      };
      fan.went = ({ hang, settings, now_s }) => this.fanWent({ hang, settings, now_s });
      this.fan = fan;
      void fan.start();
      return;
    }
    const look = new LookStream(water, going.hang, going.now, this.pace);
    look.began = (begun) => this.began(begun);
    look.went = (frame) => this.went(frame);
    this.look = look;
    void look.start();
  }

  /** A watch begins where one stands. */
  private goesOn(how: Pick<Watched, "hangs" | "aims">, time_s: number) {
    const going = this.going!;
    const { east: east_m, north: north_m } = going.here;
    const watch = { east_m, north_m, from_s: time_s, until_s: time_s, hangs: [], aims: [], ...how };
    this.change({ watches: [...going.given.watches, watch] });
  }

  private began({ hang, time_s }: TurningLook) {
    this.goesOn({ hangs: [{ at_s: time_s, hang }] }, time_s);
  }

  /** The last watch is longer by a frame, and what else `more` says; not every tenth of a second goes to the disk. */
  private longer(now_s: number, more: Partial<Watched> | null, other: Partial<Going>) {
    const going = this.going!;
    const lasts = this.bounds?.lasts_s ?? 1200;
    const { watches } = going.given;
    const last = { ...watches.at(-1)!, ...more, until_s: Math.min(now_s, lasts) };
    const given = { ...going.given, watches: [...watches.slice(0, -1), last] };
    const before = going.now;
    this.going = { ...going, ...other, given, now: now_s };
    if (more || Math.floor(now_s) !== Math.floor(before)) this.keep(this.going);
  }

  private went({ now_s, water_s, hang }: Turned) {
    const last = this.going!.given.watches.at(-1);
    const was = last?.hangs?.at(-1)?.hang;
    if (!last || !was) return;
    const anew = (Object.keys(hang) as (keyof Hang)[]).some((name) => hang[name] !== was[name]);
    const at_s = Math.min(Math.max(now_s - water_s, last.from_s), this.bounds?.lasts_s ?? 1200);
    this.longer(now_s, anew ? { hangs: [...last.hangs!, { at_s, hang }] } : null, { hang });
  }

  private fanWent({ now_s, hang, settings }: { now_s: number; hang: FanHang; settings: FanSettings }) {
    const last = this.going!.given.watches.at(-1);
    const was = last?.aims?.at(-1);
    if (!last || !was) return;
    const at_s = Math.min(now_s, this.bounds?.lasts_s ?? 1200);
    const anew = JSON.stringify([hang, settings]) !== JSON.stringify([was.hang, was.settings]);
    const aims =
      anew && at_s - was.at_s >= AIMS_APART_S
        ? [...last.aims!, { at_s, head: was.head, hang, settings }]
        : null;
    this.longer(now_s, aims && { aims }, { fan: { hang, settings } });
  }

  /** Look on from here with another head; with the fan aimed at a bearing where one is given. */
  use(head: SearchHead, bearing: number | null = null) {
    if (!this.going) return;
    const { fan } = this.going;
    const aimed =
      bearing === null ? fan : { ...fan, hang: { ...(fan?.hang ?? hungAt(0)), aim_deg: bearing } };
    this.keep({ ...this.going, now: this.now, head, fan: aimed ?? null });
    this.watch();
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
    const head = this.scene?.heads[0] ?? "circle";
    this.keep({ ...this.going, here: { east: walk.east, north: walk.north }, now: walk.at, head });
    this.watch();
  }

  /** Take the head up; the clock stands still until one goes on. */
  pause() {
    this.rest();
    if (this.going) this.keep(this.going);
  }

  private rest() {
    this.look?.close();
    this.fan?.close();
    this.look = this.fan = null;
  }

  async faster(pace: number) {
    this.pace = pace;
    await (this.look ?? this.fan)?.goFaster(pace);
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
