// The three pictures of an echo: the strip (now), the trace (history, newest at the left), the ring (now, round a dial).
import type { Box, Span } from "./axis";
import type { History } from "./history";

type Ages = readonly number[];
/** With tails on, how many pings ago each fading copy is, oldest first. */
const TAIL: Ages = [14, 9, 5, 2];

export interface Shades {
  fills: string[];
  line: string;
}

const yOf = (range: number, span: Span, box: Box) =>
  box.top + ((range - span.top) / (span.bottom - span.top)) * box.height;

/** Calls `paint` for each run of rows of one level, with its edges as shares of the window. */
function runs(history: History, back: number, paint: (from: number, to: number, level: number) => void) {
  const { rows } = history;
  let from = 0;
  for (let row = 1; row <= rows; row++) {
    const level = history.level(from, back);
    if (row < rows && history.level(row, back) === level) continue;
    if (level > 0) paint(from / rows, row / rows, level);
    from = row;
  }
}

/** Now: each row as a bar, as wide and as strong as its step on the ladder. */
export function paintStrip(
  p: CanvasRenderingContext2D,
  box: Box,
  span: Span,
  history: History,
  back: number,
  shades: Shades,
  tails: boolean,
) {
  p.fillStyle = shades.fills[0]!;
  p.fillRect(box.left, 0, box.width, box.top + box.height);
  const steps = shades.fills.length - 1;
  for (const age of tails ? [...TAIL, 0] : [0]) {
    if (age > 0 && back + age >= history.count) continue;
    const [top, bottom] = history.window(back + age);
    p.globalAlpha = age === 0 ? 1 : 0.3 - age * 0.015;
    runs(history, back + age, (from, to, level) => {
      const y0 = yOf(top + from * (bottom - top), span, box);
      const y1 = yOf(top + to * (bottom - top), span, box);
      const bar = (box.width - 6) * (0.25 + (0.75 * level) / steps);
      p.fillStyle = shades.fills[level]!;
      p.fillRect(box.left + (box.width - bar) / 2, y0, bar, y1 - y0 + 0.4);
    });
  }
  p.globalAlpha = 1;
  p.fillStyle = shades.line;
  p.fillRect(box.left + box.width - 1.5, 0, 1.5, box.top + box.height);
}

/** History, newest at the left, `speed` pixels a ping; `shift` slides it on smoothly between pings. */
export function paintTrace(
  p: CanvasRenderingContext2D,
  box: Box,
  span: Span,
  history: History,
  back: number,
  shades: Shades,
  { speed, shift }: { speed: number; shift: number },
) {
  p.save();
  p.beginPath();
  p.rect(box.left, 0, box.width, box.top + box.height);
  p.clip();
  p.fillStyle = shades.fills[0]!;
  p.fillRect(box.left, 0, box.width, box.top + box.height);
  p.imageSmoothingEnabled = false;
  let x = box.left + shift;
  for (const part of history.stretches(back, Math.ceil((box.width - shift) / speed) + 1)) {
    const y0 = yOf(part.top, span, box);
    const y1 = yOf(part.bottom, span, box);
    const width = part.count * speed;
    p.drawImage(history.canvas, part.column, 0, part.count, history.rows, x, y0, width, y1 - y0);
    x += width;
  }
  p.restore();
}

/**
 * The ring's geometry in a box: its middle, its two radii and where it begins, at the foot, open by an eighth.
 * A box that has no room yet, before the page is laid out, holds a ring of no size.
 */
export function ringOf(box: Box) {
  const size = Math.max(Math.min(box.width, box.height) / 2 - 10, 0);
  const open = Math.PI / 8;
  return {
    x: box.left + box.width / 2,
    y: box.top + box.height / 2,
    outer: size,
    inner: size * 0.62,
    begin: Math.PI / 2 + open,
    sweep: 2 * Math.PI - 2 * open,
  };
}

/** Now, round a dial that is open at the foot: from the face on the left of the gap, clockwise to the picture's end. */
export function paintRing(
  p: CanvasRenderingContext2D,
  box: Box,
  span: Span,
  history: History,
  back: number,
  shades: Shades,
  tails: boolean,
) {
  const ring = ringOf(box);
  const thick = ring.outer - ring.inner;
  const middle = (ring.outer + ring.inner) / 2;
  p.fillStyle = shades.fills[0]!;
  p.fillRect(box.left, 0, box.width, box.top + box.height);
  p.lineWidth = thick + 6;
  p.strokeStyle = shades.line;
  p.beginPath();
  p.arc(ring.x, ring.y, middle, ring.begin, ring.begin + ring.sweep);
  p.stroke();
  p.lineWidth = thick + 3;
  p.strokeStyle = shades.fills[0]!;
  p.beginPath();
  p.arc(ring.x, ring.y, middle, ring.begin, ring.begin + ring.sweep);
  p.stroke();
  const steps = shades.fills.length - 1;
  const angle = (range: number) =>
    ring.begin + Math.min(Math.max((range - span.top) / (span.bottom - span.top), 0), 1) * ring.sweep;
  for (const age of tails ? [...TAIL, 0] : [0]) {
    if (age > 0 && back + age >= history.count) continue;
    const [top, bottom] = history.window(back + age);
    p.globalAlpha = age === 0 ? 1 : 0.3 - age * 0.015;
    runs(history, back + age, (from, to, level) => {
      const a0 = angle(top + from * (bottom - top));
      const a1 = angle(top + to * (bottom - top));
      if (a1 <= a0) return;
      // Stronger echoes fill the ring from the rim inwards.
      const depth = thick * (0.3 + (0.7 * level) / steps);
      p.lineWidth = depth;
      p.strokeStyle = shades.fills[level]!;
      p.beginPath();
      p.arc(ring.x, ring.y, ring.outer - depth / 2, a0, a1 + 0.003);
      p.stroke();
    });
  }
  p.globalAlpha = 1;
}

/** Range [m] at a place on the ring, or null off it. */
export function rangeOnRing(box: Box, span: Span, x: number, y: number): number | null {
  const ring = ringOf(box);
  const from = Math.hypot(x - ring.x, y - ring.y);
  if (from < ring.inner * 0.6 || from > ring.outer + 14) return null;
  let turn = Math.atan2(y - ring.y, x - ring.x) - ring.begin;
  while (turn < 0) turn += 2 * Math.PI;
  return turn > ring.sweep ? null : span.top + (turn / ring.sweep) * (span.bottom - span.top);
}
