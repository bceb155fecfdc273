// Places between four corners of a photo and on the square that they are the corners of: Heckbert's square to
// quadrilateral (1989), and turned round.
import type { Point } from "./photo.svelte";

export type Corners = readonly Point[];

interface Terms {
  x: readonly [number, number, number];
  y: readonly [number, number, number];
  g: number;
  h: number;
}

function termsOf(corners: Corners): Terms {
  const [[x0, y0], [x1, y1], [x2, y2], [x3, y3]] = corners as [Point, Point, Point, Point];
  const [dx1, dx2, dx3] = [x1 - x2, x3 - x2, x0 - x1 + x2 - x3];
  const [dy1, dy2, dy3] = [y1 - y2, y3 - y2, y0 - y1 + y2 - y3];
  const turned = dx1 * dy2 - dx2 * dy1;
  const g = (dx3 * dy2 - dx2 * dy3) / turned;
  const h = (dx1 * dy3 - dx3 * dy1) / turned;
  return {
    x: [x1 - x0 + g * x1, x3 - x0 + h * x3, x0],
    y: [y1 - y0 + g * y1, y3 - y0 + h * y3, y0],
    g,
    h,
  };
}

/** Where in the photo [px] shares of the way across and down the square stand; corners from the top left clockwise. */
export function placesOf(corners: Corners, shares: readonly Point[]): Point[] {
  const { x, y, g, h } = termsOf(corners);
  return shares.map(([u, v]) => {
    const w = g * u + h * v + 1;
    return [(x[0] * u + x[1] * v + x[2]) / w, (y[0] * u + y[1] * v + y[2]) / w];
  });
}

/** The shares of the way across and down the square at a place of the photo [px]. */
export function sharesAt(corners: Corners, [x, y]: Point): Point {
  const terms = termsOf(corners);
  // (a - g x) u + (b - h x) v = x - x0, and the same of y.
  const [p, q] = [terms.x[0] - terms.g * x, terms.x[1] - terms.h * x];
  const [r, s] = [terms.y[0] - terms.g * y, terms.y[1] - terms.h * y];
  const [right, down] = [x - terms.x[2], y - terms.y[2]];
  const whole = p * s - q * r;
  return [(right * s - down * q) / whole, (down * p - right * r) / whole];
}
