// A piece of picture that is not living: pings as they were, newest at the left as on the Bench, up to a play head.
import type { Ladder, Pings } from "../api/types";
import type { Theme } from "../prefs.svelte";
import { depthUnit, type System } from "../units";
import { type Box, paintFigures, paintName } from "./axis";
import { unpack } from "./history";
import type { Inks } from "./inks";
import { css, ladderColours } from "./ladder";

export const ROD = 46; // height of the rod's strip at the foot

export interface Marked {
  /** Where an arrow points [m from the face]; null for nowhere. */
  arrow: number | null;
  /** A decisive moment [s], and the ranges that were right there [m]. */
  moment: number | null;
  target: readonly [number, number] | null;
  /** What was pointed at [m]. */
  pointed: number | null;
  /** Names at ranges. */
  names: readonly { range: number; text: string }[];
  notes: readonly { time: number; range: number }[];
}

export const UNMARKED: Marked = {
  arrow: null,
  moment: null,
  target: null,
  pointed: null,
  names: [],
  notes: [],
};

export class ClipPaper {
  private readonly sheet = document.createElement("canvas");
  private dark = "#000";
  private readonly levels: Uint8Array;

  constructor(
    readonly pings: Pings,
    private readonly ladder: Ladder,
    private readonly light: number,
  ) {
    this.levels = unpack(pings.levels);
    this.sheet.width = Math.max(pings.count, 1);
    this.sheet.height = pings.rows;
  }

  /** Paint every ping anew in a theme's colours; the newest stands in the first column. */
  colour(theme: Theme) {
    const { count, rows } = this.pings;
    const colours = ladderColours(this.ladder, theme, this.light);
    this.dark = css(colours[0]!);
    const packed = Uint32Array.from(colours, ([r, g, b]) => (255 << 24) | (b << 16) | (g << 8) | r);
    const paper = this.sheet.getContext("2d")!;
    const image = paper.createImageData(this.sheet.width, rows);
    const pixels = new Uint32Array(image.data.buffer);
    for (let k = 0; k < count; k++)
      for (let row = 0; row < rows; row++)
        pixels[row * count + (count - 1 - k)] = packed[this.levels[k * rows + row]!] ?? packed[0]!;
    paper.putImageData(image, 0, 0);
  }

  /** The last ping at or before a time. */
  at(time: number): number {
    const { time_s, count } = this.pings;
    let low = 0;
    let high = count - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (time_s[middle]! <= time + 1e-9) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  /** Paint up to `time` [s], `across` pings from edge to edge. */
  paint(
    p: CanvasRenderingContext2D,
    box: Box,
    time: number,
    across: number,
    marked: Marked,
    inks: Inks,
    system: System,
  ) {
    const { count, time_s, top_m, bottom_m } = this.pings;
    const k = this.at(time);
    const each = box.width / across;
    const n = Math.min(k + 1, Math.ceil(across));
    p.fillStyle = this.dark;
    p.fillRect(box.left, box.top, box.width, box.height);
    p.imageSmoothingEnabled = false;
    p.save();
    p.beginPath();
    p.rect(box.left, box.top, box.width, box.height);
    p.clip();
    const span = { top: top_m[k]!, bottom: bottom_m[k]! };
    const y = (range: number) => box.top + ((range - span.top) / (span.bottom - span.top)) * box.height;
    // A window that moved leaves the pings before it at the depths that they had.
    for (let from = 0; from < n;) {
      const [top, bottom] = [top_m[k - from]!, bottom_m[k - from]!];
      let to = from + 1;
      while (to < n && top_m[k - to] === top && bottom_m[k - to] === bottom) to++;
      p.drawImage(
        this.sheet,
        count - 1 - k + from,
        0,
        to - from,
        this.pings.rows,
        box.left + from * each,
        y(top),
        (to - from) * each + 0.5,
        y(bottom) - y(top),
      );
      from = to;
    }
    const x = (when: number) => box.left + (k - this.at(when)) * each;
    const since = time_s[Math.max(k - n + 1, 0)] ?? 0;
    this.paintMarked(p, box, marked, inks, { x, y, since, time });
    p.restore();
    if (marked.arrow !== null) paintArrow(p, box.left, y(marked.arrow), inks);
    paintFigures(p, box, span, "right", true, inks, system);
    paintName(p, `shown depth, ${depthUnit(system)}`, box.left + box.width, "right", inks, box.top);
    paintName(p, "now", box.left, "left", inks, box.top + box.height - 17);
    let free = box.top;
    for (const name of [...marked.names].sort((a, b) => a.range - b.range)) {
      const at = Math.max(y(name.range) - 9, free);
      if (at < box.top || at > box.top + box.height - 17) continue;
      paintName(p, name.text, box.left + box.width - 40, "right", inks, at);
      free = at + 18;
    }
  }

  /** The target, the moment, where was pointed and the notes, over the echoes between `since` and `time` [s]. */
  private paintMarked(
    p: CanvasRenderingContext2D,
    box: Box,
    marked: Marked,
    inks: Inks,
    {
      x,
      y,
      since,
      time,
    }: { x: (s: number) => number; y: (m: number) => number; since: number; time: number },
  ) {
    if (marked.target) {
      p.fillStyle = p.strokeStyle = inks.fishZone;
      p.lineWidth = 2;
      p.strokeRect(
        box.left + 1,
        y(marked.target[0]),
        box.width - 2,
        y(marked.target[1]) - y(marked.target[0]),
      );
    }
    if (marked.moment !== null && marked.moment <= time) {
      p.fillStyle = inks.action;
      p.fillRect(x(marked.moment) - 1, box.top, 2.5, box.height);
    }
    if (marked.pointed !== null) {
      p.strokeStyle = inks.action;
      p.lineWidth = 2.5;
      p.setLineDash([8, 5]);
      p.beginPath();
      p.moveTo(box.left, y(marked.pointed));
      p.lineTo(box.left + box.width, y(marked.pointed));
      p.stroke();
      p.setLineDash([]);
    }
    for (const note of marked.notes) {
      if (note.time > time || note.time < since) continue;
      p.fillStyle = inks.action;
      p.beginPath();
      p.arc(x(note.time), Math.max(y(note.range), box.top + 7), 6, 0, 2 * Math.PI);
      p.fill();
    }
  }

  /** What the hand did, along the same pings: line out is down. */
  paintRod(
    p: CanvasRenderingContext2D,
    box: Box,
    line: readonly number[],
    time: number,
    across: number,
    inks: Inks,
  ) {
    const k = this.at(time);
    const each = box.width / across;
    p.fillStyle = inks.panel;
    p.fillRect(box.left, box.top, box.width, box.height);
    const all = line.slice(0, this.pings.count);
    const low = Math.min(...all);
    const high = Math.max(...all);
    const tall = Math.max(high - low, 0.3);
    p.strokeStyle = inks.ink;
    p.lineWidth = 2.5;
    p.beginPath();
    for (let i = k; i >= 0 && (k - i) * each < box.width; i--) {
      const at = box.top + 8 + (1 - (line[i]! - low) / tall) * (box.height - 16);
      if (i === k) p.moveTo(box.left, at);
      else p.lineTo(box.left + (k - i) * each, at);
    }
    p.stroke();
    paintName(p, "rod", box.left + box.width, "right", inks, box.top + 2);
  }

  /** Range [m] at a height in the box at `time`. */
  rangeAt(y: number, box: Box, time: number): number {
    const k = this.at(time);
    const top = this.pings.top_m[k]!;
    return top + ((y - box.top) / box.height) * (this.pings.bottom_m[k]! - top);
  }
}

/** Where to look, from the left edge. */
function paintArrow(p: CanvasRenderingContext2D, left: number, at: number, inks: Inks) {
  p.fillStyle = inks.action;
  p.beginPath();
  p.moveTo(left + 24, at);
  p.lineTo(left, at - 11);
  p.lineTo(left, at + 11);
  p.closePath();
  p.fill();
}
