// Where one looks on a lake: the middle of the picture in metres, and how many pixels a metre is. North is up.

export interface View {
  east: number;
  north: number;
  /** Pixels of the page for a metre. */
  scale: number;
}

export interface Size {
  width: number;
  height: number;
}

export interface Bounds {
  west: number;
  south: number;
  east: number;
  north: number;
}

const FARTHEST = 0.002;
const NEAREST = 12;

/** The whole of some bounds, with a margin in pixels. */
export function whole(bounds: Bounds, size: Size, margin = 28): View {
  const wide = Math.max(bounds.east - bounds.west, 10);
  const high = Math.max(bounds.north - bounds.south, 10);
  const scale = Math.min((size.width - 2 * margin) / wide, (size.height - 2 * margin) / high);
  return {
    east: (bounds.west + bounds.east) / 2,
    north: (bounds.south + bounds.north) / 2,
    scale: within(scale),
  };
}

const within = (scale: number) => Math.min(Math.max(scale, FARTHEST), NEAREST);

/** A place [m] as pixels from the picture's upper left. */
export const toPixel = (view: View, size: Size, east: number, north: number): [number, number] => [
  size.width / 2 + (east - view.east) * view.scale,
  size.height / 2 - (north - view.north) * view.scale,
];

/** Pixels as a place [m]. */
export const toPlace = (view: View, size: Size, x: number, y: number): [number, number] => [
  view.east + (x - size.width / 2) / view.scale,
  view.north - (y - size.height / 2) / view.scale,
];

/** Moved by pixels. */
export const moved = (view: View, dx: number, dy: number): View => ({
  ...view,
  east: view.east - dx / view.scale,
  north: view.north + dy / view.scale,
});

/** Nearer or farther by a factor, with what lies under a pixel staying there. */
export function zoomed(view: View, size: Size, factor: number, x: number, y: number): View {
  const [east, north] = toPlace(view, size, x, y);
  const scale = within(view.scale * factor);
  return {
    east: east - (x - size.width / 2) / scale,
    north: north + (y - size.height / 2) / scale,
    scale,
  };
}

const NICE = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];

/** The longest round length (in a unit of `metres`) that takes at most so many pixels. */
export function scaleBar(view: View, metres: number, most: number): { length: number; pixels: number } {
  const length = NICE.findLast((one) => one * metres * view.scale <= most) ?? NICE[0]!;
  return { length, pixels: length * metres * view.scale };
}
