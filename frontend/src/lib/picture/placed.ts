// What is known of a hole besides its water, on the picture's own depths: strikes, and how high fish will come.
import type { RiseLine } from "../api/types";
import type { Box, Span } from "./axis";
import type { Inks } from "./inks";

const yOf = (depth: number, span: Span, box: Box) =>
  box.top + ((depth - span.top) / (span.bottom - span.top)) * box.height;

/** A ring at the depth of each strike, along the right edge of a box. */
export function paintStrikes(
  p: CanvasRenderingContext2D,
  box: Box,
  span: Span,
  strikes: readonly number[],
  inks: Inks,
) {
  p.fillStyle = inks.panel;
  p.strokeStyle = inks.action;
  p.lineWidth = 2.5;
  for (const depth of strikes) {
    const y = yOf(depth, span, box);
    if (y < box.top || y > box.top + box.height) continue;
    p.beginPath();
    p.arc(box.left + box.width - 12, y, 4.5, 0, 2 * Math.PI);
    p.fill();
    p.stroke();
  }
}

/** The rise line across a box, with the span that it is sure to. */
export function paintRise(
  p: CanvasRenderingContext2D,
  box: Box,
  span: Span,
  rise: RiseLine,
  inks: Inks,
  text = "rise line",
) {
  const y = yOf(rise.depth_m, span, box);
  if (y < box.top || y > box.top + box.height) return;
  const high = yOf(rise.high_m, span, box);
  p.globalAlpha = 0.16;
  p.fillStyle = inks.fishZone;
  p.fillRect(box.left, high, box.width, Math.max(yOf(rise.low_m, span, box) - high, 2));
  p.globalAlpha = 1;
  p.strokeStyle = inks.fishZone;
  p.lineWidth = 2.5;
  p.setLineDash([7, 4]);
  p.beginPath();
  p.moveTo(box.left, y);
  p.lineTo(box.left + box.width, y);
  p.stroke();
  p.setLineDash([]);
  p.font = inks.font;
  p.textAlign = "left";
  p.textBaseline = "middle";
  const wide = p.measureText(text).width + 10;
  if (wide > box.width - 44) return;
  p.fillStyle = inks.panel;
  p.fillRect(box.left + 40, y + 3, wide, 17);
  p.fillStyle = inks.fishZone;
  p.fillText(text, box.left + 45, y + 12);
}
