// What the sheet was told at home, unpacked: the day, and for every combination and depth a card and a call table.
import type {
  FanHang,
  FanSettings,
  HoleCard,
  LakeThings,
  Quantity,
  Rig,
  StartPlace,
  TripDay,
  TripPlan,
  Unit,
} from "../lib/api/types";
import type { Control } from "../steps/search/fan";
import type { Touches } from "./calls";

export interface Said {
  text: string;
  values: Record<string, Quantity>;
}

type Differences = (number | null)[];

export interface Combination {
  unit: number;
  lure: number;
  clarity: number;
  light: number;
  company: number;
}

interface Packed extends Combination {
  columns: Record<string, Differences>;
  has: (0 | 1)[];
  said: number[][];
  /** Colours and places of the call table at each depth that has a card. */
  shapes: [number, number][];
}

interface FanCardThere {
  job: "search" | "fish";
  light: string;
  depth_m: number;
  card: {
    settings: FanSettings;
    hang: FanHang;
    lines: Partial<Record<Control, Said>>;
    later: Said[];
  } | null;
}

export interface Told {
  version: number;
  id: string;
  made_at: string;
  units: "feet" | "metric";
  along: {
    units: Unit[];
    lures: string[];
    clarities: string[];
    lights: ("day" | "dusk" | "night")[];
    companies: string[];
    liveliness: string;
    bottom_kind: string;
  };
  lake: { id: number; name: string };
  day: TripDay;
  plan: TripPlan;
  judged: StartPlace[];
  degrees: [number, number][] | null;
  start_m: [number, number];
  holes: LakeThings["holes"];
  rig: Rig;
  tries: Record<string, string>;
  ladders: Record<string, string[]>;
  happened: string[];
  endings: Record<string, string>;
  cards: {
    depths: { first_m: number; step_m: number; count: number };
    combinations: Packed[];
    sentences: Said[];
    touches: Touches;
  };
  fan?: { head: string; name: string; controls: Control[]; cards: FanCardThere[] };
}

/** A card as it was worked out, and where its lure is shown. */
export interface Card {
  card: HoleCard;
  lureShown_m: number;
  merged_m: number;
  said: Said[];
}

const THOUSAND = 1000;
const WHOLE = new Set(["settings.auto_range", "settings.beside", "gains.open", "gains.firm"]);

/** Letters and deflate undone. */
async function unpacked(id: string): Promise<ArrayBuffer> {
  const letters = atob(document.getElementById(id)!.textContent!.trim());
  const bytes = Uint8Array.from(letters, (one) => one.charCodeAt(0));
  const stream = new Blob([bytes]).stream().pipeThrough(new DecompressionStream("deflate-raw"));
  return new Response(stream).arrayBuffer();
}

export class Sheet {
  private readonly columns: Record<string, (number | null)[]>[];
  private readonly begins: number[][];

  constructor(
    readonly told: Told,
    private readonly calls: Uint8Array,
  ) {
    this.columns = told.cards.combinations.map((one) =>
      Object.fromEntries(Object.entries(one.columns).map(([name, values]) => [name, added(values)])),
    );
    let at = 0;
    const { planes } = told.cards.touches;
    this.begins = told.cards.combinations.map((one) => {
      const shapes = [...one.shapes];
      return one.has.map((has) => {
        if (!has) return -1;
        const [colours, places] = shapes.shift()!;
        const begins = at;
        at += colours * planes * places;
        return begins;
      });
    });
  }

  static async read(): Promise<Sheet> {
    const [told, calls] = await Promise.all([unpacked("told"), unpacked("calls")]);
    return new Sheet(JSON.parse(new TextDecoder().decode(told)) as Told, new Uint8Array(calls));
  }

  /** Which combination this choice is. */
  combination(chosen: Combination): number {
    return this.told.cards.combinations.findIndex((one) =>
      (["unit", "lure", "clarity", "light", "company"] as const).every((name) => one[name] === chosen[name]),
    );
  }

  /** The depth that stands for another one: its place, and what it is [m]. */
  nearest(depth_m: number): { k: number; depth_m: number } {
    const { first_m, step_m, count } = this.told.cards.depths;
    const k = Math.min(Math.max(Math.floor((depth_m - first_m) / step_m + 0.5), 0), count - 1);
    return { k, depth_m: first_m + k * step_m };
  }

  get deepest_m() {
    const { first_m, step_m, count } = this.told.cards.depths;
    return first_m + (count - 1) * step_m;
  }

  /** The card of a combination at the depth of that place; null where there is none. */
  card(c: number, k: number): Card | null {
    const one = this.told.cards.combinations[c]!;
    if (!one.has[k]) return null;
    const value = (name: string) => {
      const at = this.columns[c]![name]![k]!;
      return at === null ? null : WHOLE.has(name) ? at !== 0 : at / THOUSAND;
    };
    const part = (prefix: string) =>
      Object.fromEntries(
        Object.keys(one.columns)
          .filter((name) => name.startsWith(prefix))
          .map((name) => [name.slice(prefix.length), value(name)]),
      );
    const { along } = this.told;
    const unit = along.units[one.unit]!;
    const own = (name: string) => value(name) as number;
    const card = {
      unit,
      lure: { name: along.lures[one.lure]! },
      settings: part("settings."),
      numbers: part("numbers."),
      gains: part("gains."),
      lure_depth_m: own("lure_depth_m"),
      fish_length_m: own("fish_length_m"),
      face_depth_m: own("face_depth_m"),
      below_ice_m: own("below_ice_m"),
      float_m: own("float_m"),
      picture_kind: unit.pictures[0],
      unknowns: [],
      second_hole_m: null,
    } as unknown as HoleCard;
    return {
      card,
      lureShown_m: own("lure_shown_m"),
      merged_m: own("merged_m"),
      said: one.said[k]!.map((n) => this.told.cards.sentences[n]!),
    };
  }

  /** What the model says of a place on the scale in a colour (from 1): a byte for each plane. */
  planes(c: number, k: number, colour: number, place: number): number[] {
    const [, places] = this.shape(c, k);
    const { planes } = this.told.cards.touches;
    const begins = this.begins[c]![k]! + (colour - 1) * planes * places;
    return Array.from({ length: planes }, (_, p) => {
      let sum = 0;
      for (let n = 0; n <= place; n++) sum += this.calls[begins + p * places + n]!;
      return sum & 255;
    });
  }

  /** Colours and places on the scale that a card's call table has. */
  shape(c: number, k: number): [number, number] {
    const { has, shapes } = this.told.cards.combinations[c]!;
    return shapes[has.slice(0, k).filter(Boolean).length]!;
  }
}

/** Differences added up again; what is not there stays so. */
function added(values: Differences): (number | null)[] {
  let last = 0;
  return values.map((one) => (one === null ? null : (last += one)));
}
