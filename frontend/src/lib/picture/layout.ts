// Where the section and the pictures of the echo stand on the canvas, all of them on one depth axis.
import type { Frame, PictureKind } from "../api/types";
import type { Box, Span } from "./axis";

const NARROW = 420; // pixels: a phone

/** The canvas, and how much of its right is kept free. */
interface Room {
  width: number;
  height: number;
  margin: number;
}

interface Wanted {
  views: readonly PictureKind[];
  column: "wide" | "slim" | "none";
}

/** A picture in its place. */
export interface Laid {
  kind: PictureKind;
  box: Box;
  span: Span;
  /** Whether it is the window beside the column, with a span of its own. */
  own: boolean;
  /** Whether it stands on the section's own depth axis. */
  shared: boolean;
}

/** The axis [m below the surface], the section's place and the pictures', for a frame and how deep the face hangs [m]. */
export function layOut(
  frame: Frame,
  face: number,
  wanted: Wanted,
  room: Room,
): { axis: Span; section: Box; views: Laid[] } {
  const { settings } = frame;
  const zoomed = settings.bottom_window_m > 0 || settings.free_window_m > 0;
  const beside = zoomed && settings.beside;
  // The full column begins at the surface, so that ice and face are in the section; a window where it begins.
  const axis = { top: zoomed && !beside ? frame.top_m + face : 0, bottom: frame.bottom_m + face };
  const perMetre = room.height / (axis.bottom - axis.top);
  const section = { left: 0, top: 0, width: columnWidth(wanted.column, room.width), height: room.height };
  const kinds = beside ? [wanted.views[0]!, wanted.views[1] ?? wanted.views[0]!] : [...wanted.views];
  const widths = widthsOf(kinds, room.width - section.width - room.margin, room);
  const echoTop = (frame.top_m + face - axis.top) * perMetre;
  let left = section.width;
  const views = kinds.map((kind, i) => {
    const own = beside && i === 1;
    const round = kind === "ring";
    const top = own || round ? 0 : echoTop;
    const box = { left, top, width: widths[i]!, height: room.height - top };
    left += widths[i]!;
    const span = own
      ? { top: frame.window_top_m, bottom: frame.window_bottom_m }
      : { top: frame.top_m, bottom: frame.bottom_m };
    return { kind, box, span, own, shared: !own && !round };
  });
  return { axis, section, views };
}

function columnWidth(column: Wanted["column"], width: number): number {
  const narrow = width < NARROW;
  if (column === "none") return 0;
  if (column === "slim") return narrow ? 52 : 84;
  return Math.round(width * (narrow ? 0.36 : 0.34));
}

function widthsOf(kinds: readonly PictureKind[], rest: number, room: Room): number[] {
  if (kinds.length === 1) return [rest];
  const strip = room.width < NARROW ? 26 : 54;
  const [a, b] = kinds as [PictureKind, PictureKind];
  if (a === b) return [rest / 2, rest / 2];
  if (a === "strip") return [strip, rest - strip];
  if (b === "strip") return [rest - strip, strip];
  // A ring is as wide as it is high; a trace can be had in less.
  const ring = Math.min(room.height, Math.round(rest * 0.58));
  return a === "ring" ? [ring, rest - ring] : [rest - ring, ring];
}
