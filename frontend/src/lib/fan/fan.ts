// The fan's picture as it is drawn: ahead to the right, depth down, every pixel knowing which beam and range it shows.

export interface FanShape {
  /** Where each beam is drawn [degrees from level ahead, downwards]. */
  beams: readonly number[];
  bins: number;
  reach: number;
  /** How deep the head hangs, and what the picture spans [m]. */
  depth: number;
  ahead: number;
  behind: number;
  deep: number;
}

type Rgb = readonly [number, number, number];
const rgb = (hex: string): Rgb =>
  [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)) as unknown as Rgb;

/** The colour of every step: dark water, then the ladder's colours over even shares of the steps, then the ground. */
export function coloursOf(dark: string, ladder: readonly string[], steps: number, ground: string): Rgb[] {
  const colours = ladder.map(rgb);
  const shown = Array.from({ length: steps }, (_, k) => {
    // Between two colours of the ladder a step is mixed, so that the ladder is a ramp and no staircase.
    const at = ((k + 0.5) / steps) * colours.length - 0.5;
    const low = Math.min(Math.max(Math.floor(at), 0), colours.length - 1);
    const high = Math.min(low + 1, colours.length - 1);
    const share = Math.min(Math.max(at - low, 0), 1);
    return [0, 1, 2].map((i) =>
      Math.round(colours[low]![i]! * (1 - share) + colours[high]![i]! * share),
    ) as unknown as Rgb;
  });
  return [rgb(dark), ...shown, rgb(ground)];
}

/** Which cell every pixel shows; -1 outside the fan. */
export function cellsOf(width: number, height: number, shape: FanShape): Int32Array {
  const out = new Int32Array(width * height).fill(-1);
  const { beams, bins, reach, depth, ahead, behind, deep } = shape;
  const first = beams[0]!;
  const step = beams.length > 1 ? (beams.at(-1)! - first) / (beams.length - 1) : 1;
  for (let y = 0; y < height; y++) {
    const down = ((y + 0.5) / height) * deep - depth;
    for (let x = 0; x < width; x++) {
      const along = ((x + 0.5) / width) * (ahead + behind) - behind;
      const range = Math.hypot(along, down);
      const bin = Math.floor((range / reach) * bins);
      if (bin >= bins) continue;
      const beam = Math.round(((Math.atan2(down, along) * 180) / Math.PI - first) / step);
      if (beam >= 0 && beam < beams.length) out[y * width + x] = beam * bins + bin;
    }
  }
  return out;
}

/** Paint the cells. Where the fan does not look nothing is painted. */
export function paint(image: ImageData, cells: Int32Array, levels: Uint8Array, colours: readonly Rgb[]) {
  const out = image.data;
  for (let at = 0; at < cells.length; at++) {
    const cell = cells[at]!;
    const k = at * 4;
    if (cell < 0) {
      out[k + 3] = 0;
      continue;
    }
    const colour = colours[levels[cell] ?? 0] ?? colours[0]!;
    out[k] = colour[0];
    out[k + 1] = colour[1];
    out[k + 2] = colour[2];
    out[k + 3] = 255;
  }
}

/** The numbers up the right edge that leave its corner to the ones along the bottom. */
export const clearOfCorner = (numbers: number[], y: (one: number) => number, height: number) =>
  numbers.filter((one) => y(one) < height - CORNER_PX);
const CORNER_PX = 24;
