// The turning picture as it is drawn: seen from above, or unrolled from twelve round to twelve. Every pixel knows which
// bearing and which stretch of it it shows; what is older is paler.

import type { Theme } from "../prefs.svelte";

export const BEARINGS = 240;
export const BINS = 512;

export type Way = "round" | "unrolled";
/** Distances as they were heard, through the water, or as they are along the ice for what lies on the bed. */
export type Measure = "water" | "ice";

export interface Shown {
  way: Way;
  measure: Measure;
  /** How far the picture reaches [m through the water]. */
  range: number;
  /** From the head straight down to the bed [m]. */
  down: number;
}

type Rgb = readonly [number, number, number];

/** The ramp from dark water to the strongest echo, one lightness to the next. */
function ramp(from: Rgb, middle: Rgb, to: Rgb, steps: number): Rgb[] {
  const mix = (a: Rgb, b: Rgb, share: number): Rgb =>
    [0, 1, 2].map((k) => Math.round(a[k]! + (b[k]! - a[k]!) * share)) as unknown as Rgb;
  return Array.from({ length: steps + 1 }, (_, k) => {
    const share = k / steps;
    return share < 0.5 ? mix(from, middle, share * 2) : mix(middle, to, share * 2 - 1);
  });
}

const RAMPS: Record<Theme, [Rgb, Rgb, Rgb]> = {
  rime: [
    [227, 238, 240],
    [92, 129, 141],
    [12, 26, 34],
  ],
  lantern: [
    [13, 26, 33],
    [116, 110, 92],
    [250, 236, 206],
  ],
};

/** The colours of a picture that turns: by day darker is stronger, by night lighter. */
export const rampOf = (theme: Theme, steps: number) => ramp(...RAMPS[theme], steps);

/** How far along the ice the picture reaches [m]. */
export const reach = ({ measure, range, down }: Shown) =>
  measure === "ice" ? Math.sqrt(Math.max(range * range - down * down, 0.25 * range * range)) : range;

/** The way through the water [m] that is drawn at a distance on the picture [m]. */
export const heardAt = (away: number, { measure, down }: Shown) =>
  measure === "ice" ? Math.hypot(away, down) : away;

/** Where on the picture [m] something is drawn that was heard so far off [m]; null where it has no place. */
export function drawnAt(range: number, { measure, down }: Shown): number | null {
  if (measure === "water") return range;
  return range < down ? null : Math.sqrt(range * range - down * down);
}

/** For every pixel the first cell it shows, and how many; -1 where it shows none. */
export class PixelMap {
  readonly first: Int32Array;
  readonly count: Uint8Array;
  readonly bearing: Int16Array;

  constructor(
    readonly width: number,
    readonly height: number,
    shown: Shown,
    bearings: number,
    bins: number,
  ) {
    const size = width * height;
    this.first = new Int32Array(size).fill(-1);
    this.count = new Uint8Array(size);
    this.bearing = new Int16Array(size);
    const far = reach(shown);
    const binM = shown.range / bins;
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        let turn: number;
        let near: number;
        let further: number;
        if (shown.way === "round") {
          const step = (2 * far) / height;
          const east = (x + 0.5 - width / 2) * step;
          const north = (height / 2 - y - 0.5) * step;
          const away = Math.hypot(east, north);
          turn = Math.atan2(east, north) / (2 * Math.PI);
          near = away - step / 2;
          further = away + step / 2;
        } else {
          turn = (x + 0.5) / width - 0.5; // twelve in the middle
          near = ((height - y - 1) / height) * far;
          further = ((height - y) / height) * far;
        }
        if (near >= far) continue;
        const at = y * width + x;
        const from = Math.floor(heardAt(Math.max(near, 0), shown) / binM);
        const to = Math.floor(heardAt(further, shown) / binM);
        if (from >= bins) continue;
        const bearing = ((Math.round(turn * bearings) % bearings) + bearings) % bearings;
        this.bearing[at] = bearing;
        this.first[at] = bearing * bins + from;
        this.count[at] = Math.min(Math.max(to - from, 1), 32, bins - from);
      }
    }
  }

  /** Paint the newest of every bearing: each pixel its strongest cell, paler the older it is. */
  paint(
    image: ImageData,
    levels: Uint8Array,
    seen: Float64Array,
    now: number,
    turnS: number,
    colours: Rgb[],
  ) {
    const out = image.data;
    const ground = colours[0]!;
    const fade = Float64Array.from(seen, (at) =>
      Number.isFinite(at) ? 0.45 * Math.min(Math.max((now - at) / turnS, 0), 1) : 1,
    );
    for (let at = 0; at < this.first.length; at++) {
      const from = this.first[at]!;
      const k = at * 4;
      if (from < 0) {
        out[k + 3] = 0;
        continue;
      }
      let most = 0;
      for (let i = 0; i < this.count[at]!; i++) {
        const level = levels[from + i]!;
        if (level > most) most = level;
      }
      const colour = colours[most]!;
      const pale = fade[this.bearing[at]!]!;
      out[k] = colour[0] + (ground[0] - colour[0]) * pale;
      out[k + 1] = colour[1] + (ground[1] - colour[1]) * pale;
      out[k + 2] = colour[2] + (ground[2] - colour[2]) * pale;
      out[k + 3] = 255;
    }
  }
}

/** Where a bearing [degrees] and a distance on the picture [m] stand, as shares of its width and height. */
export function placeOf(bearing: number, away: number, shown: Shown): [number, number] {
  const far = reach(shown);
  if (shown.way === "unrolled") {
    const turn = ((((bearing + 180) % 360) + 360) % 360) / 360;
    return [turn, 1 - away / far];
  }
  const rad = (bearing * Math.PI) / 180;
  return [0.5 + (Math.sin(rad) * away) / (2 * far), 0.5 - (Math.cos(rad) * away) / (2 * far)];
}

/** The bearing [degrees] and distance on the picture [m] at shares of its width and height. */
export function pointAt(x: number, y: number, shown: Shown): { bearing: number; away: number } {
  const far = reach(shown);
  if (shown.way === "unrolled") return { bearing: (x * 360 + 180) % 360, away: (1 - y) * far };
  const east = (x - 0.5) * 2 * far;
  const north = (0.5 - y) * 2 * far;
  return { bearing: ((Math.atan2(east, north) * 180) / Math.PI + 360) % 360, away: Math.hypot(east, north) };
}
