// The trace's memory: the last pings as ladder levels, painted once each into a canvas used as a ring.
import type { Rgb } from "./ladder";

export class History {
  readonly canvas = document.createElement("canvas");
  private levels: Uint8Array;
  private colours = new Uint32Array(1);
  private readonly column: ImageData;
  private readonly pixels: Uint32Array;
  private readonly paper: CanvasRenderingContext2D;
  private scratch: Uint8Array;
  /** Column of the newest ping; older ones follow to the right, round the ring. */
  head = 0;
  count = 0;
  top = 0;
  bottom = 1;

  constructor(
    readonly length: number,
    readonly rows: number,
  ) {
    this.canvas.width = length;
    this.canvas.height = rows;
    this.levels = new Uint8Array(length * rows);
    this.scratch = new Uint8Array(rows);
    this.paper = this.canvas.getContext("2d")!;
    this.column = this.paper.createImageData(1, rows);
    this.pixels = new Uint32Array(this.column.data.buffer);
  }

  /** New colours for all levels, past pings included. */
  setColours(colours: Rgb[]) {
    this.colours = Uint32Array.from(colours, ([r, g, b]) => (255 << 24) | (b << 16) | (g << 8) | r);
    this.repaint();
  }

  /** Add one ping: `rows` levels in `bytes` from `offset`. */
  push(bytes: Uint8Array, offset: number) {
    this.head = (this.head + this.length - 1) % this.length;
    this.count = Math.min(this.count + 1, this.length);
    this.levels.set(bytes.subarray(offset, offset + this.rows), this.head * this.rows);
    this.paintColumn(this.head);
  }

  /** The picture's window has moved: past pings keep their depths, so their rows are laid out anew. */
  setWindow(top: number, bottom: number) {
    if (Math.abs(top - this.top) < 1e-6 && Math.abs(bottom - this.bottom) < 1e-6) return;
    const old = (this.bottom - this.top) / this.rows;
    const now = (bottom - top) / this.rows;
    for (let i = 0; i < this.count; i++) {
      const at = ((this.head + i) % this.length) * this.rows;
      for (let row = 0; row < this.rows; row++) {
        const from = Math.floor((top + (row + 0.5) * now - this.top) / old);
        this.scratch[row] = from >= 0 && from < this.rows ? this.levels[at + from]! : 0;
      }
      this.levels.set(this.scratch, at);
    }
    this.top = top;
    this.bottom = bottom;
    this.repaint();
  }

  /** Level of `row` in the newest ping. */
  newest(row: number): number {
    return this.count === 0 ? 0 : this.levels[this.head * this.rows + row]!;
  }

  clear() {
    this.count = 0;
    this.levels.fill(0);
    this.repaint();
  }

  private paintColumn(column: number) {
    const at = column * this.rows;
    for (let row = 0; row < this.rows; row++) {
      this.pixels[row] = this.colours[this.levels[at + row]!] ?? 0;
    }
    this.paper.putImageData(this.column, column, 0);
  }

  private repaint() {
    for (let column = 0; column < this.length; column++) this.paintColumn(column);
  }
}
