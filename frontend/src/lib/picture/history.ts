// The picture's memory: the last five minutes of pings as ladder levels, each painted once into a canvas used as a ring.
// Each ping keeps the window it was painted for, so that a window that moves leaves the past where it was.
import type { Frame } from "../api/types";
import type { Rgb } from "./ladder";

/** Pings next to one another that were painted for the same window. */
export interface Stretch {
  /** Columns of the ring, first the newest. */
  column: number;
  count: number;
  /** Range of the window's edges from the face [m]. */
  top: number;
  bottom: number;
}

export class History {
  readonly canvas = document.createElement("canvas");
  private readonly levels: Uint8Array;
  private readonly tops: Float32Array;
  private readonly bottoms: Float32Array;
  private readonly palette: Uint8Array;
  private readonly frames: (Frame | null)[];
  private readonly palettes: Uint32Array[] = [];
  private paletteKeys: string[] = [];
  private current = 0;
  private readonly column: ImageData;
  private readonly pixels: Uint32Array;
  private readonly paper: CanvasRenderingContext2D;
  /** Column of the newest ping; older ones follow to the right, round the ring. */
  head = 0;
  count = 0;
  /** Number of the newest ping. */
  newest = -1;

  constructor(
    readonly length: number,
    readonly rows: number,
  ) {
    this.canvas.width = length;
    this.canvas.height = rows;
    this.levels = new Uint8Array(length * rows);
    this.tops = new Float32Array(length);
    this.bottoms = new Float32Array(length);
    this.palette = new Uint8Array(length);
    this.frames = new Array<Frame | null>(length).fill(null);
    this.paper = this.canvas.getContext("2d")!;
    this.column = this.paper.createImageData(1, rows);
    this.pixels = new Uint32Array(this.column.data.buffer);
  }

  /** Colours for pings from now on; `key` names the ladder. */
  useLadder(key: string, colours: Rgb[]) {
    let at = this.paletteKeys.indexOf(key);
    const packed = Uint32Array.from(colours, ([r, g, b]) => (255 << 24) | (b << 16) | (g << 8) | r);
    if (at < 0) at = this.paletteKeys.push(key) - 1;
    this.palettes[at] = packed;
    this.current = at;
  }

  /** Other colours for the ladders that past pings were painted with: a new theme or light. */
  recolour(colours: (key: string) => Rgb[]) {
    const known = this.paletteKeys;
    this.paletteKeys = [];
    for (const key of known) this.useLadder(key, colours(key));
    for (let i = 0; i < this.count; i++) this.paintColumn((this.head + i) % this.length);
  }

  /** Add one ping: `rows` levels in `bytes` from `offset`, painted for a window. */
  push(bytes: Uint8Array, offset: number, number: number, top: number, bottom: number, frame: Frame) {
    this.head = (this.head + this.length - 1) % this.length;
    this.count = Math.min(this.count + 1, this.length);
    this.newest = number;
    this.levels.set(bytes.subarray(offset, offset + this.rows), this.head * this.rows);
    this.tops[this.head] = top;
    this.bottoms[this.head] = bottom;
    this.palette[this.head] = this.current;
    this.frames[this.head] = frame;
    this.paintColumn(this.head);
  }

  /** Column of the ping `back` pings before the newest. */
  private at(back: number): number {
    return (this.head + Math.min(back, Math.max(this.count - 1, 0))) % this.length;
  }

  /** The frame that the ping `back` pings ago came with. */
  frame(back: number): Frame | null {
    return this.count === 0 ? null : this.frames[this.at(back)]!;
  }

  window(back: number): [number, number] {
    const at = this.at(back);
    return [this.tops[at]!, this.bottoms[at]!];
  }

  /** Level of `row` in the ping `back` pings ago. */
  level(row: number, back: number): number {
    return this.count === 0 ? 0 : this.levels[this.at(back) * this.rows + row]!;
  }

  /** The pings from `back` ago on into the past, at most `most`, in stretches that are one piece of the canvas. */
  *stretches(back: number, most: number): Generator<Stretch> {
    const end = Math.min(this.count, back + most);
    let from = back;
    while (from < end) {
      const column = this.at(from);
      const [top, bottom] = [this.tops[column]!, this.bottoms[column]!];
      let count = 1;
      while (
        from + count < end &&
        column + count < this.length &&
        Math.abs(this.tops[column + count]! - top) < 1e-4 &&
        Math.abs(this.bottoms[column + count]! - bottom) < 1e-4
      )
        count++;
      yield { column, count, top, bottom };
      from += count;
    }
  }

  private paintColumn(column: number) {
    const colours = this.palettes[this.palette[column]!]!;
    const at = column * this.rows;
    for (let row = 0; row < this.rows; row++) this.pixels[row] = colours[this.levels[at + row]!] ?? 0;
    this.paper.putImageData(this.column, column, 0);
  }
}

/** Levels as they come in a frame. */
export function unpack(levels: string): Uint8Array {
  const text = atob(levels);
  const bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
  return bytes;
}
