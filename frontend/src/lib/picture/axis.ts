// The depth axis: ticks with figures, and what they count.
import { fromDepth, type System, toDepth, trim } from "../units";
import type { Inks } from "./inks";

/** A piece of the canvas. */
export interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** A span of depth or range [m] laid over a box. */
export interface Span {
  top: number;
  bottom: number;
}

export function tickStep(spanM: number, system: System): number {
  const shown = toDepth(spanM, system);
  return [0.5, 1, 2, 5, 10, 20, 50].find((one) => shown / one <= 9) ?? 100;
}

/** Depths of the ticks [m] and their figures. */
export function* ticks(span: Span, system: System): Generator<[number, string]> {
  const step = tickStep(span.bottom - span.top, system);
  const last = toDepth(span.bottom, system);
  for (let at = Math.ceil(toDepth(span.top, system) / step) * step; at < last; at += step)
    yield [fromDepth(at, system), trim(at, 1)];
}

/** Figures down one edge of a box, on a plate so that they can be read over any colour. */
export function paintFigures(
  p: CanvasRenderingContext2D,
  box: Box,
  span: Span,
  side: "left" | "right",
  plate: boolean,
  inks: Inks,
  system: System,
) {
  p.font = inks.font;
  p.textBaseline = "middle";
  p.textAlign = side;
  const edge = side === "left" ? box.left : box.left + box.width;
  const inward = side === "left" ? 1 : -1;
  for (const [at, text] of ticks(span, system)) {
    const line = box.top + ((at - span.top) / (span.bottom - span.top)) * box.height;
    if (line < box.top + 8 || line > box.top + box.height - 8) continue;
    if (plate) {
      const width = p.measureText(text).width + 14;
      p.fillStyle = inks.panel;
      p.globalAlpha = 0.82;
      p.fillRect(side === "left" ? edge : edge - width, line - 8, width, 16);
      p.globalAlpha = 1;
    }
    p.fillStyle = inks.ink;
    p.fillRect(side === "left" ? edge : edge - 5, line - 0.5, 5, 1);
    p.fillText(text, edge + inward * 8, line);
  }
}

/** Thin lines across a box at each tick. */
export function paintGrid(p: CanvasRenderingContext2D, box: Box, span: Span, inks: Inks, system: System) {
  p.fillStyle = inks.soft;
  p.globalAlpha = 0.35;
  for (const [at] of ticks(span, system)) {
    const line = box.top + ((at - span.top) / (span.bottom - span.top)) * box.height;
    p.fillRect(box.left, Math.round(line) - 0.5, box.width, 1);
  }
  p.globalAlpha = 1;
}

/** What an axis counts, in a top corner. */
export function paintName(
  p: CanvasRenderingContext2D,
  text: string,
  x: number,
  side: "left" | "right",
  inks: Inks,
  top = 0,
) {
  p.font = inks.font;
  p.textBaseline = "middle";
  p.textAlign = side;
  const width = p.measureText(text).width + 12;
  p.fillStyle = inks.panel;
  p.fillRect(side === "left" ? x : x - width, top, width, 17);
  p.fillStyle = inks.soft;
  p.fillText(text, side === "left" ? x + 6 : x - 6, top + 9);
}
