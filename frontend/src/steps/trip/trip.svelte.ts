// The trip as it stands on the page: the lake with its map, the coming day and what it comes to.
import { api, ifMatch, ok, Problem, words } from "../../lib/api/client";
import type {
  Alive,
  Battery,
  BatteryFields,
  DayPlace,
  Lake,
  LakeFields,
  LakeMap,
  LakeThings,
  Rig,
  StartPlace,
  TeachPlace,
  TripDay,
  TripPlan,
} from "../../lib/api/types";
import { latest } from "../../lib/latest";
import { prefs } from "../../lib/prefs.svelte";
import { Wait } from "../../lib/wait.svelte";
import { world } from "../../lib/world.svelte";

const KEPT = "hollow-glint lake";
const PROPOSED = 6;
const APART_M = 60; // proposals closer together are one place
const SAVES_AFTER_MS = 500;
const WANTED = 1000; // as the program weighs what a person has put in
const HELD_EVERY_MS = 120;
const REACH_M = 600; // how far one would walk for a hole that teaches

type Powered = TripDay["powered"][number];

/** A battery as it is sent. */
export const batteryFields = ({
  id: _,
  version: __,
  notes: ___,
  left_by_age: ____,
  ...fields
}: Battery): BatteryFields => fields;

/** What one is about to put on the map. */
type Tool = "look" | "sounding" | "structure" | "ice" | "fished" | "shore";

class Trip {
  lakes: Lake[] = $state([]);
  lake: Lake | null = $state(null);
  things: LakeThings | null = $state.raw(null);
  map: LakeMap | null = $state.raw(null);
  day: TripDay | null = $state.raw(null);
  plan: TripPlan | null = $state.raw(null);
  /** Places the program proposes for the band, with their reasons. */
  starts: StartPlace[] = $state.raw([]);
  /** Reasons of the places that were chosen, in the order of the day's places. */
  judged: StartPlace[] = $state.raw([]);
  teach: TeachPlace[] = $state.raw([]);
  /** How long each unit of the day lives on its battery; null where either is gone. */
  alive: (Alive | null)[] = $state.raw([]);
  batteries: Battery[] = $state.raw([]);
  batteryCautions: string[] = $state.raw([]);
  rig: Rig | null = $state.raw(null);
  trouble = $state("");
  ready = $state(false);
  /** The day as another tab or person has kept it, where that differs from what stands here. */
  theirs: { day: TripDay; version: number } | null = $state.raw(null);
  saved = $state(true);
  tool: Tool = $state("look");
  /** The place of the day that is chosen, by its number. */
  chosen: number | null = $state(null);
  wait = new Wait();
  private version = 0;
  private saving: number | undefined;
  private keeping: Promise<void> = Promise.resolve();

  band = $derived(this.plan?.bands[0] ?? null);
  order = $derived((this.plan?.planned.legs ?? []).flatMap((leg) => (leg.to === null ? [] : [leg.to])));
  start = $derived.by((): [number, number] => {
    const own = this.day?.start_m ?? [];
    const [east, north] = own.length === 2 ? own : (this.lake?.landing_m ?? [0, 0]);
    return [east ?? 0, north ?? 0];
  });

  private params = () => ({ path: { lake_id: this.lake!.id } });

  async load() {
    try {
      const [{ lakes }] = await Promise.all([ok(api.GET("/api/lakes")), this.loadKit()]);
      this.lakes = lakes;
      const last = Number(remembered());
      const found = lakes.find((one) => one.id === last) ?? lakes[0];
      if (found) await this.open(found);
      this.ready = true;
    } catch (problem) {
      this.trouble = words(problem);
    }
  }

  async loadKit() {
    const [{ batteries, cautions }, rig] = await Promise.all([
      ok(api.GET("/api/batteries")),
      ok(api.GET("/api/rig")),
    ]);
    this.batteries = batteries;
    this.batteryCautions = cautions;
    this.rig = rig;
    if (this.plan) this.alive = (await this.askAlive()) ?? this.alive;
  }

  async open(lake: Lake) {
    this.lake = lake;
    this.chosen = null;
    this.theirs = null;
    remember(lake.id);
    this.map = null;
    this.starts = [];
    this.alive = []; // of the units of another lake's day
    const day = await ok(api.GET("/api/lakes/{lake_id}/day", { params: this.params() }));
    this.takeDay(day);
    await this.groundChanged();
  }

  private takeDay({ id: _, version, ...day }: TripDay & { id: number; version: number }) {
    this.version = version;
    // A day that was never kept begins on the reader's own clock.
    this.day = version === 0 ? { ...day, utc_offset_min: -new Date().getTimezoneOffset() } : day;
  }

  private readonly askGround = latest(() =>
    Promise.all([
      ok(api.GET("/api/lakes/{lake_id}", { params: this.params() })),
      ok(api.GET("/api/lakes/{lake_id}/things", { params: this.params() })),
    ]),
  );

  /** Soundings, structures, ice or holes changed: the map mends itself. */
  async groundChanged() {
    if (!this.lake) return;
    try {
      const answer = await this.askGround();
      if (!answer || answer[0].id !== this.lake.id) return;
      const [fresh, things] = answer;
      this.lake = fresh;
      this.lakes = this.lakes.map((one) => (one.id === fresh.id ? fresh : one));
      this.things = things;
      await this.replan();
      await this.redraw();
    } catch (problem) {
      this.trouble = words(problem);
    }
  }

  private readonly askPlan = latest((day: TripDay) =>
    ok(api.POST("/api/lakes/{lake_id}/plan", { params: this.params(), body: day })),
  );

  private async replan() {
    const plan = this.day && (await this.askPlan(this.day));
    if (!plan) return;
    this.plan = plan;
    this.trouble = "";
    const alive = await this.askAlive();
    if (alive) this.alive = alive;
  }

  batteryOf = (one: Powered | undefined) => one && this.batteries.find(({ id }) => id === one.battery);
  unitOf = (one: Powered) => world.units.find(({ id }) => id === one.unit);

  private readonly askAlive = latest(() => {
    const day = this.day!;
    const spares = this.batteries.filter((one) => one.spare);
    return Promise.all(
      day.powered.map((one) => {
        const [battery, unit] = [this.batteryOf(one), this.unitOf(one)];
        if (!battery || !unit) return null;
        const note = battery.notes[0];
        return ok(
          api.POST("/api/trip/alive", {
            body: {
              battery: batteryFields(battery),
              spares: battery.spare ? [] : spares.map(batteryFields),
              dark_a: unit.draw_a + one.extra_a,
              light_a: unit.light_a,
              begins_min: day.begins_min,
              ends_min: day.ends_min,
              temperature_c: day.temperature_c,
              brightness: one.brightness,
              sunset_min: this.plan?.sun.sunset_min ?? null,
              turned_down: one.turned_down,
              volts: note?.what === "volts" ? note.volts : null,
            },
          }),
        );
      }),
    );
  });

  private readonly askMap = latest((from_m: number, to_m: number) =>
    Promise.all([
      ok(
        api.GET("/api/lakes/{lake_id}/map", {
          params: {
            ...this.params(),
            query: { from_m, to_m, cells: 6000, lines: prefs.system === "feet" ? "ft" : "m" },
          },
        }),
      ),
      ok(
        api.POST("/api/lakes/{lake_id}/start-places", {
          params: this.params(),
          body: { from_m, to_m, date: this.day!.date, count: PROPOSED + 4, apart_m: APART_M, at: [] },
        }),
      ),
      ok(
        api.GET("/api/lakes/{lake_id}/teaches", {
          params: {
            ...this.params(),
            query: { from_m, to_m, east_m: this.start[0], north_m: this.start[1], reach_m: REACH_M },
          },
        }),
      ),
    ]),
  );

  /** In other units the lines lie at other depths. */
  unitsChanged = () => this.redraw().catch((problem: unknown) => (this.trouble = words(problem)));

  /** The map, the proposals and where to sound next, for the band as it is. */
  private async redraw() {
    const band = this.band;
    if (!band) return;
    const answer = await this.wait.during(() => this.askMap(band.from_m, band.to_m));
    if (!answer) return;
    const [map, { places }, { places: teach }] = answer;
    this.map = map;
    this.starts = places;
    this.teach = teach;
    const untouched = this.day && !this.day.places.some(({ wanted, out }) => wanted || out);
    const proposed = this.proposed(places);
    if (this.day && untouched && !samePlaces(this.day.places, proposed))
      await this.set({ places: proposed }, this.day.places.length > 0);
    else await this.judge();
  }

  private proposed = (places: readonly StartPlace[]): DayPlace[] =>
    places.slice(0, PROPOSED).map((one, k) => ({
      name: letter(k),
      east_m: one.east_m,
      north_m: one.north_m,
      worth: one.worth,
      wanted: false,
      out: false,
    }));

  /** Forget what was dragged in and out, and take the program's proposals. */
  proposeAnew = () => this.set({ places: this.proposed(this.starts) });

  /** Proposals that are not among the day's places. */
  others = $derived(
    this.starts.filter(
      (one) =>
        !(this.day?.places ?? []).some(
          (place) => Math.hypot(place.east_m - one.east_m, place.north_m - one.north_m) < 25,
        ),
    ),
  );

  private readonly askJudged = latest((places: readonly DayPlace[]) =>
    ok(
      api.POST("/api/lakes/{lake_id}/start-places", {
        params: this.params(),
        body: {
          from_m: this.band!.from_m,
          to_m: this.band!.to_m,
          date: this.day!.date,
          count: 1,
          apart_m: 40,
          at: places.map((one) => [one.east_m, one.north_m]),
        },
      }),
    ),
  );

  private async judge() {
    const places = this.day?.places ?? [];
    if (places.length === 0 || !this.band || !this.map?.grid) return void (this.judged = []);
    const answer = await this.askJudged(places);
    if (answer) this.judged = answer.places;
  }

  /** Change the day: it is planned anew at once, and kept when the hand rests. */
  async set(patch: Partial<TripDay>, keep = true) {
    if (!this.day) return;
    const before = this.band;
    this.day = { ...this.day, ...patch };
    if (keep) this.keepSoon();
    try {
      await this.replan();
      const now = this.band;
      const moved = before?.from_m !== now?.from_m || before?.to_m !== now?.to_m;
      if (moved || "date" in patch || "start_m" in patch) await this.redraw();
      else if ("places" in patch) await this.judge();
    } catch (problem) {
      this.trouble = words(problem);
    }
  }

  setPlace(k: number, patch: Partial<DayPlace>) {
    const places = this.day!.places.map((one, i) => (i === k ? { ...one, ...patch } : one));
    return this.set({ places });
  }

  /** A place moved by hand: it is wanted there, and is judged anew. */
  async movePlace(k: number, east_m: number, north_m: number) {
    await this.setPlace(k, { east_m, north_m, wanted: true, out: false });
    const judged = this.judged[k];
    if (judged) await this.setPlace(k, { worth: judged.worth });
  }

  takeIn(one: { east_m: number; north_m: number; worth?: number }) {
    const places = this.day!.places;
    const place: DayPlace = {
      name: letter(places.length),
      east_m: one.east_m,
      north_m: one.north_m,
      worth: one.worth ?? 5,
      wanted: true,
      out: false,
    };
    this.chosen = places.length;
    return this.set({ places: [...places, place] });
  }

  private keepSoon() {
    this.saved = false;
    window.clearTimeout(this.saving);
    this.saving = window.setTimeout(() => void this.keep(), SAVES_AFTER_MS);
  }

  /** Keep the day now; one after the other, for a second on its way beside the first would be of a version that is gone. */
  keep(): Promise<void> {
    window.clearTimeout(this.saving);
    this.keeping = this.keeping.then(() => this.keepNow());
    return this.keeping;
  }

  private async keepNow() {
    if (!this.day || !this.lake || this.theirs) return;
    const day = this.day;
    try {
      const kept = await ok(
        api.PUT("/api/lakes/{lake_id}/day", {
          params: { ...this.params(), header: ifMatch(this.version) },
          body: day,
        }),
      );
      this.version = kept.version;
      if (this.day === day) this.saved = true;
    } catch (problem) {
      if (problem instanceof Problem && problem.status === 412 && problem.now) {
        const {
          version,
          id: _,
          ...now
        } = problem.now as unknown as TripDay & {
          version: number;
          id: number;
        };
        this.theirs = { day: now as TripDay, version };
      } else this.trouble = words(problem);
    }
  }

  keepMine() {
    this.version = this.theirs!.version;
    this.theirs = null;
    return this.keep();
  }

  takeTheirs() {
    const { day, version } = this.theirs!;
    this.theirs = null;
    this.version = version;
    this.saved = true;
    return this.set(day, false);
  }

  async addLake(fields: LakeFields) {
    const lake = await ok(api.POST("/api/lakes", { body: fields }));
    this.lakes = [...this.lakes, lake];
    await this.open(lake);
    return lake;
  }

  async changeLake(patch: Partial<LakeFields>) {
    const { id, version, soundings: _, ...fields } = this.lake!;
    const kept = await ok(
      api.PUT("/api/lakes/{lake_id}", {
        params: { path: { lake_id: id }, header: ifMatch(version) },
        body: { ...fields, ...patch },
      }),
    );
    this.lake = kept;
    await this.groundChanged();
  }

  /** A place that is being dragged, and the walk as it would go with it there. */
  held: { k: number; east: number; north: number } | null = $state.raw(null);
  heldOrder: number[] | null = $state.raw(null);
  private asked = 0;

  shownOrder = $derived(this.heldOrder ?? this.order);

  private readonly askWalk = latest((places: readonly DayPlace[]) => {
    const { day, plan } = this;
    return ok(
      api.POST("/api/trip/walk", {
        body: {
          start: this.start,
          end: this.start,
          minutes: day!.ends_min - day!.begins_min,
          walk_m_min: plan!.walk_m_min,
          places: places.map((one) => ({
            east_m: one.east_m,
            north_m: one.north_m,
            value: one.worth + (one.wanted ? WANTED : 0),
            minutes: plan!.stay_min,
          })),
        },
      }),
    );
  });

  /** A place is under the finger: the walk is worked out anew as it goes. */
  async hold(k: number, east: number, north: number) {
    this.held = { k, east, north };
    if (performance.now() - this.asked < HELD_EVERY_MS || !this.plan) return;
    this.asked = performance.now();
    const numbers: number[] = [];
    const places = this.day!.places.flatMap((one, i) => {
      if (one.out && i !== k) return [];
      numbers.push(i);
      return [i === k ? { ...one, east_m: east, north_m: north } : one];
    });
    try {
      const answer = await this.askWalk(places);
      if (answer && this.held?.k === k) this.heldOrder = answer.order.map((one) => numbers[one]!);
    } catch {
      // said when it is let go
    }
  }

  /** Let go: over water it lies there, elsewhere it is left out. */
  async letGo(onWater: boolean) {
    const held = this.held;
    if (!held) return;
    if (onWater) await this.movePlace(held.k, held.east, held.north);
    else await this.setPlace(held.k, { out: true, wanted: false });
    this.held = null;
    this.heldOrder = null;
  }

  /** Depth, deviation and place in the grid under a point, by the map that is drawn; null on land. */
  under(east: number, north: number): { depth_m: number; sd_m: number } | null {
    const grid = this.map?.grid;
    if (!grid) return null;
    const column = Math.round((east - grid.west_m) / grid.cell_m);
    const row = Math.round((north - grid.south_m) / grid.cell_m);
    if (column < 0 || row < 0 || column >= grid.columns || row >= grid.rows) return null;
    const depth_m = grid.depth_m[row * grid.columns + column];
    return depth_m == null ? null : { depth_m, sd_m: grid.sd_m[row * grid.columns + column]! };
  }
}

const SAME_M = 0.6; // closer than this two places are the same one
const samePlaces = (a: readonly DayPlace[], b: readonly DayPlace[]) =>
  a.length === b.length &&
  a.every((one, k) => Math.hypot(one.east_m - b[k]!.east_m, one.north_m - b[k]!.north_m) < SAME_M);

/** A, B, C ... for the places of a day. */
export const letter = (k: number) =>
  String.fromCharCode(65 + (k % 26)) + (k >= 26 ? String(Math.floor(k / 26)) : "");

function remembered(): string | null {
  try {
    return localStorage.getItem(KEPT);
  } catch {
    return null;
  }
}

function remember(id: number) {
  try {
    localStorage.setItem(KEPT, String(id));
  } catch {
    // the first lake is opened next time
  }
}

export const trip = new Trip();
