// The lake's drawing: water, the band solid, guesses hatched, lines of depth, edges with teeth downhill. All in metres;
// paths are made once a map and drawn anew at every move.
import type { LakeMap } from "../../lib/api/types";
import { type Size, toPixel, type View } from "./view";

export interface Colours {
  ground: string;
  water: string;
  band: string;
  bandEdge: string;
  line: string;
  soft: string;
  ink: string;
  panel: string;
  font: string;
}

export function readColours(): Colours {
  const style = getComputedStyle(document.documentElement);
  const read = (name: string) => style.getPropertyValue(name).trim();
  return {
    ground: read("--ground"),
    water: read("--water"),
    band: read("--band"),
    bandEdge: read("--pine"),
    line: read("--ice-edge"),
    soft: read("--soft"),
    ink: read("--ink"),
    panel: read("--panel"),
    font: `600 12px ${read("--figures")}`,
  };
}

/** Everything of a map as paths in metres, east to the right and north up. */
export interface Drawing {
  shore: Path2D | null;
  water: Path2D | null;
  likely: Path2D | null;
  possible: Path2D | null;
  sure: Path2D;
  unsure: Path2D;
  edges: { line: number[]; path: Path2D; isSure: boolean }[];
  /** Where a line's depth is written: east, north, and which way it runs there. */
  labels: { depth_m: number; east: number; north: number; turn: number }[];
}

function ring(flat: readonly number[], path = new Path2D(), closed = true): Path2D {
  for (let i = 0; i + 1 < flat.length; i += 2) {
    if (i === 0) path.moveTo(flat[i]!, flat[i + 1]!);
    else path.lineTo(flat[i]!, flat[i + 1]!);
  }
  if (closed) path.closePath();
  return path;
}

const area = (rings: readonly (readonly number[])[] | undefined) => {
  if (!rings || rings.length === 0) return null;
  const path = new Path2D();
  for (const one of rings) ring(one, path);
  return path;
};

/** A lake without a shore: the sheet that was sounded is its water. */
function sheet(map: LakeMap | null): Path2D | null {
  if (!map?.grid) return null;
  const { west_m, south_m, cell_m, rows, columns } = map.grid;
  const path = new Path2D();
  path.rect(west_m, south_m, cell_m * (columns - 1), cell_m * (rows - 1));
  return path;
}

const length = (flat: readonly number[]) => {
  let sum = 0;
  for (let i = 2; i + 1 < flat.length; i += 2)
    sum += Math.hypot(flat[i]! - flat[i - 2]!, flat[i + 1]! - flat[i - 1]!);
  return sum;
};

const LABEL_FROM_M = 90; // shorter pieces carry no figure

export function drawing(shore: readonly number[], map: LakeMap | null): Drawing {
  const sure = new Path2D();
  const unsure = new Path2D();
  const labels: Drawing["labels"] = [];
  const longest = new Map<number, { flat: readonly number[]; length: number }>();
  for (const one of map?.contours ?? []) {
    ring(one.line, one.is_sure ? sure : unsure, false);
    const far = length(one.line);
    if (far > (longest.get(one.depth_m)?.length ?? LABEL_FROM_M))
      longest.set(one.depth_m, { flat: one.line, length: far });
  }
  for (const [depth_m, { flat }] of longest) {
    const at = 2 * Math.floor(flat.length / 4);
    const [east, north] = [flat[at]!, flat[at + 1]!];
    const before = Math.max(at - 2, 0);
    let turn = Math.atan2(north - flat[before + 1]!, east - flat[before]!);
    if (Math.cos(turn) < 0) turn += Math.PI; // never upside down
    labels.push({ depth_m, east, north, turn });
  }
  const shorePath = shore.length >= 6 ? ring(shore) : null;
  return {
    shore: shorePath,
    water: shorePath ?? sheet(map),
    likely: area(map?.likely?.rings),
    possible: area(map?.possible?.rings),
    sure,
    unsure,
    edges: (map?.edges ?? []).map(({ line, is_sure }) => ({
      line,
      path: ring(line, new Path2D(), false),
      isSure: is_sure,
    })),
    labels,
  };
}

const TOOTH = 9; // pixels
const TEETH_APART = 22;

/** Stripes for what is a guess, the same distance apart at any scale. */
function hatch(paper: CanvasRenderingContext2D, colours: Colours, ratio: number): CanvasPattern {
  const tile = document.createElement("canvas");
  const side = Math.round(12 * ratio);
  tile.width = tile.height = side;
  const ink = tile.getContext("2d")!;
  ink.strokeStyle = colours.bandEdge;
  ink.lineWidth = 2.4 * ratio;
  ink.globalAlpha = 0.55;
  for (const off of [-side, 0, side]) {
    ink.beginPath();
    ink.moveTo(off, side);
    ink.lineTo(off + side, 0);
    ink.stroke();
  }
  return paper.createPattern(tile, "repeat")!;
}

/** Draw the lake. `ratio` is the screen's own pixels for one of the page's. */
export function paint(
  paper: CanvasRenderingContext2D,
  what: Drawing,
  view: View,
  size: Size,
  colours: Colours,
  ratio: number,
  figure: (depth_m: number) => string,
) {
  const flat = () => paper.setTransform(ratio, 0, 0, ratio, 0, 0);
  const metres = () => {
    const s = view.scale * ratio;
    const [x, y] = toPixel(view, size, 0, 0);
    paper.setTransform(s, 0, 0, -s, x * ratio, y * ratio);
  };
  const px = 1 / view.scale;

  flat();
  paper.fillStyle = colours.ground;
  paper.fillRect(0, 0, size.width, size.height);
  metres();
  areas(paper, what, size, colours, ratio, metres);
  paper.lineJoin = "round";
  paper.strokeStyle = colours.line;
  paper.lineWidth = 1.2 * px;
  paper.stroke(what.sure);
  paper.setLineDash([5 * px, 5 * px]);
  paper.stroke(what.unsure);
  paper.setLineDash([]);
  if (what.likely) {
    paper.strokeStyle = colours.bandEdge;
    paper.lineWidth = 2 * px;
    paper.stroke(what.likely);
  }
  paper.strokeStyle = colours.ink;
  for (const edge of what.edges) {
    paper.lineWidth = (edge.isSure ? 2 : 1.2) * px;
    paper.setLineDash(edge.isSure ? [] : [5 * px, 5 * px]);
    paper.stroke(edge.path);
    paper.setLineDash([]);
    paper.fillStyle = edge.isSure ? colours.ink : colours.ground;
    teeth(paper, edge.line, px);
  }
  if (what.shore) {
    paper.strokeStyle = colours.ink;
    paper.lineWidth = 2.5 * px;
    paper.stroke(what.shore);
  }
  flat();
  figures(paper, what, view, size, colours, figure);
}

function areas(
  paper: CanvasRenderingContext2D,
  what: Drawing,
  size: Size,
  colours: Colours,
  ratio: number,
  metres: () => void,
) {
  if (what.water) {
    paper.fillStyle = colours.water;
    paper.fill(what.water);
  }
  if (what.likely) {
    paper.fillStyle = colours.band;
    paper.fill(what.likely, "evenodd");
  }
  if (what.possible) {
    // The stripes keep to the screen, the area to the lake.
    paper.save();
    paper.clip(what.possible, "evenodd");
    paper.setTransform(1, 0, 0, 1, 0, 0);
    paper.fillStyle = hatch(paper, colours, ratio);
    paper.fillRect(0, 0, size.width * ratio, size.height * ratio);
    paper.restore();
    metres();
  }
}

/** Teeth on the right hand of a line, where the deep is. */
function teeth(paper: CanvasRenderingContext2D, line: readonly number[], px: number) {
  let left = (TEETH_APART * px) / 2;
  paper.beginPath();
  for (let i = 2; i + 1 < line.length; i += 2) {
    const [x0, y0, x1, y1] = [line[i - 2]!, line[i - 1]!, line[i]!, line[i + 1]!];
    const far = Math.hypot(x1 - x0, y1 - y0);
    if (far === 0) continue;
    const [ux, uy] = [(x1 - x0) / far, (y1 - y0) / far];
    for (; left <= far; left += TEETH_APART * px) {
      const [x, y] = [x0 + ux * left, y0 + uy * left];
      const half = (TOOTH * px) / 2;
      paper.moveTo(x - ux * half, y - uy * half);
      paper.lineTo(x + ux * half, y + uy * half);
      paper.lineTo(x + uy * TOOTH * px, y - ux * TOOTH * px);
      paper.closePath();
    }
    left -= far;
  }
  paper.fill();
  paper.stroke();
}

function figures(
  paper: CanvasRenderingContext2D,
  what: Drawing,
  view: View,
  size: Size,
  colours: Colours,
  figure: (depth_m: number) => string,
) {
  paper.font = colours.font;
  paper.textAlign = "center";
  paper.textBaseline = "middle";
  const taken: [number, number][] = [];
  for (const one of what.labels) {
    const [x, y] = toPixel(view, size, one.east, one.north);
    if (x < 0 || y < 0 || x > size.width || y > size.height) continue;
    if (taken.some(([a, b]) => Math.abs(a - x) < 34 && Math.abs(b - y) < 18)) continue;
    taken.push([x, y]);
    paper.save();
    paper.translate(x, y);
    paper.rotate(-one.turn);
    paper.lineWidth = 4;
    paper.strokeStyle = colours.water;
    paper.strokeText(figure(one.depth_m), 0, 0);
    paper.fillStyle = colours.soft;
    paper.fillText(figure(one.depth_m), 0, 0);
    paper.restore();
  }
}
