// One canvas, one depth axis: the true section, the echo strip (now) and the trace (history), newest against the truth.
import type { Frame, Hole, Tuning } from "../api/types";
import type { Theme } from "../prefs.svelte";
import { depthUnit, fromDepth, type System, toDepth, trim } from "../units";
import { History } from "./history";
import { css, ladder, type Rgb } from "./ladder";

const AXIS = 34; // room for depth figures, css pixels
const HISTORY = 1400; // pings kept: more than the widest trace shows

export interface Look {
  theme: Theme;
  system: System;
  truth: boolean;
}

/** Colours the canvas shares with the page, read from its stylesheet. */
interface Inks {
  ink: string;
  soft: string;
  line: string;
  water: string;
  ice: string;
  iceEdge: string;
  earth: string;
  earthLine: string;
  zone: string;
  fishZone: string;
  panel: string;
}

export class Painter {
  private readonly paper: CanvasRenderingContext2D;
  private readonly history: History;
  private colours: Rgb[] = [];
  private fills: string[] = [];
  private inks!: Inks;
  private look!: Look;
  private width = 0;
  private height = 0;
  private dpr = 1;
  private before: Frame | null = null;
  private now: Frame | null = null;
  private arrivedAt = 0;
  private tuning: Tuning | null = null;
  private fishSide = 1;
  private fishThere = false;
  private textures = new Map<string, CanvasPattern>();

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly hole: Hole,
    private readonly steps: number,
    rows: number,
    private readonly frameMs: number,
  ) {
    this.paper = canvas.getContext("2d", { alpha: false })!;
    this.history = new History(HISTORY, rows);
  }

  setLook(look: Look) {
    this.look = look;
    const style = getComputedStyle(document.documentElement);
    const read = (name: string) => style.getPropertyValue(name).trim();
    this.inks = {
      ink: read("--ink"),
      soft: read("--soft"),
      line: read("--line"),
      water: read("--water"),
      ice: read("--ice"),
      iceEdge: read("--ice-edge"),
      earth: read("--earth"),
      earthLine: read("--earth-line"),
      zone: read("--zone"),
      fishZone: read("--fish-zone"),
      panel: read("--panel"),
    };
    this.colours = ladder(look.theme, this.steps);
    this.fills = this.colours.map(css);
    this.history.setColours(this.colours);
    this.textures.clear();
  }

  resize(width: number, height: number, dpr: number) {
    this.width = width;
    this.height = height;
    this.dpr = dpr;
    this.canvas.width = Math.round(width * dpr);
    this.canvas.height = Math.round(height * dpr);
  }

  setTuning(tuning: Tuning) {
    this.tuning = tuning;
  }

  /** A frame has come: its pings join the history. */
  take(frame: Frame, at: number) {
    this.history.setWindow(frame.top_m, frame.bottom_m);
    if (frame.pings > 0) {
      const text = atob(frame.levels);
      const bytes = new Uint8Array(text.length);
      for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
      for (let i = 0; i < frame.pings; i++) this.history.push(bytes, i * frame.rows);
    }
    this.before = this.now;
    this.now = frame;
    this.arrivedAt = at;
    const fish = frame.fish[0];
    if (!fish) this.fishThere = false;
    // A fish keeps to the side it came from until it is in the middle: its true distance is what counts.
    else if (!this.fishThere || Math.hypot(fish.x, fish.y) < 0.15) {
      this.fishSide = fish.x < 0 ? -1 : 1;
      this.fishThere = true;
    }
  }

  /** Top of the picture and of the section as depths below the surface [m]. The full column begins at the surface. */
  private axis(frame: Frame): [number, number] {
    const face = this.hole.face_depth_m;
    const zoomed = frame.settings.bottom_window_m > 0;
    return [zoomed ? frame.top_m + face : 0, frame.bottom_m + face];
  }

  paint(at: number) {
    const frame = this.now;
    const p = this.paper;
    p.setTransform(this.dpr, 0, 0, this.dpr, 0, 0);
    p.fillStyle = this.inks?.panel ?? "#888";
    p.fillRect(0, 0, this.width, this.height);
    if (!frame) return;
    const [top, bottom] = this.axis(frame);
    const perMetre = this.height / (bottom - top);
    const narrow = this.width < 420;
    const section = Math.round(this.width * (narrow ? 0.36 : 0.34));
    const strip = narrow ? 26 : 54;
    // Between two frames things glide; the section runs one frame behind the picture for it.
    const share = Math.min((at - this.arrivedAt) / this.frameMs, 1);
    this.paintSection(frame, share, section, top, bottom, perMetre);
    const echoTop = (frame.top_m + this.hole.face_depth_m - top) * perMetre;
    this.paintStrip(section, strip, echoTop);
    this.paintTrace(section + strip, share, echoTop, frame);
    this.paintShownDepths(frame, echoTop, narrow);
    if (!narrow) this.paintName("true depth, " + depthUnit(this.look.system), 0, "left");
  }

  private paintSection(
    frame: Frame,
    share: number,
    width: number,
    top: number,
    bottom: number,
    perMetre: number,
  ) {
    const p = this.paper;
    const { hole, inks } = this;
    const y = (m: number) => (m - top) * perMetre;
    const middle = Math.round((width + AXIS) / 2);
    p.save();
    p.beginPath();
    p.rect(0, 0, width, this.height);
    p.clip();
    p.fillStyle = inks.water;
    p.fillRect(0, 0, width, this.height);
    if (this.look.truth) {
      this.paintZone(this.tuning?.seen_zone.fish_m, inks.fishZone, 0.13, middle, y, perMetre);
      this.paintZone(this.tuning?.seen_zone.lure_m, inks.zone, 0.15, middle, y, perMetre);
    }
    this.paintGround(width, y, middle, perMetre);
    this.paintIce(width, middle, y, perMetre);
    if (this.look.truth) this.paintTruth(frame, share, middle, y, perMetre);
    this.paintTrueDepths(top, bottom, y);
    p.restore();
    p.fillStyle = inks.line;
    p.fillRect(width - 1.5, 0, 1.5, this.height);
  }

  /** The lobe in which a target is seen: left and right of the axis, to its radius at each depth. */
  private paintZone(
    radius: number[] | undefined,
    colour: string,
    strength: number,
    middle: number,
    y: (m: number) => number,
    perMetre: number,
  ) {
    const zone = this.tuning?.seen_zone;
    if (!zone || !radius) return;
    const p = this.paper;
    p.beginPath();
    p.moveTo(middle, y(zone.depth_m[0]!));
    for (let i = 0; i < radius.length; i++) p.lineTo(middle + radius[i]! * perMetre, y(zone.depth_m[i]!));
    for (let i = radius.length - 1; i >= 0; i--)
      p.lineTo(middle - radius[i]! * perMetre, y(zone.depth_m[i]!));
    p.closePath();
    p.globalAlpha = strength;
    p.fillStyle = colour;
    p.fill();
    p.globalAlpha = 0.8;
    p.strokeStyle = colour;
    p.lineWidth = 1.25;
    p.stroke();
    p.globalAlpha = 1;
  }

  private paintGround(width: number, y: (m: number) => number, middle: number, perMetre: number) {
    const p = this.paper;
    const bed = y(this.hole.bottom_depth_m);
    const zone = this.tuning?.seen_zone;
    if (zone && this.look.truth) {
      p.beginPath();
      const n = zone.offset_m.length;
      for (let i = n - 1; i >= 0; i--)
        p.lineTo(middle - zone.offset_m[i]! * perMetre, y(zone.dead_zone_top_m[i]!));
      for (let i = 0; i < n; i++)
        p.lineTo(middle + zone.offset_m[i]! * perMetre, y(zone.dead_zone_top_m[i]!));
      p.lineTo(middle + zone.offset_m[n - 1]! * perMetre, bed);
      p.lineTo(middle - zone.offset_m[n - 1]! * perMetre, bed);
      p.closePath();
      p.fillStyle = this.texture("hatch");
      p.fill();
    }
    p.fillStyle = this.texture(this.hole.bottom_kind);
    p.fillRect(0, bed, width, Math.max(this.height - bed, 0));
    p.fillStyle = this.inks.earthLine;
    p.fillRect(0, bed, width, 2);
  }

  private paintIce(width: number, middle: number, y: (m: number) => number, perMetre: number) {
    const p = this.paper;
    const { hole, inks } = this;
    const under = y(hole.ice_thickness_m);
    const half = Math.max((hole.hole_diameter_m / 2) * perMetre, 4);
    const face = y(hole.face_depth_m);
    if (under > 0) {
      p.fillStyle = inks.ice;
      p.fillRect(0, 0, middle - half, under);
      p.fillRect(middle + half, 0, width, under);
      p.fillStyle = inks.iceEdge;
      p.fillRect(0, under - 1.5, middle - half, 1.5);
      p.fillRect(middle + half, under - 1.5, width, 1.5);
    }
    if (face < -2) return;
    p.fillStyle = inks.ink;
    p.fillRect(middle - 3.5, 0, 1, Math.max(face - 8, 0));
    p.beginPath();
    p.moveTo(middle - 7, face - 8);
    p.lineTo(middle + 1, face - 8);
    p.lineTo(middle + 3, face);
    p.lineTo(middle - 9, face);
    p.closePath();
    p.fill();
  }

  private paintTruth(
    frame: Frame,
    share: number,
    middle: number,
    y: (m: number) => number,
    perMetre: number,
  ) {
    const p = this.paper;
    const before = this.before ?? frame;
    const lure = before.lure_depth_m + (frame.lure_depth_m - before.lure_depth_m) * share;
    p.fillStyle = this.inks.soft;
    p.fillRect(middle - 0.5, 0, 1, Math.max(y(lure), 0));
    const fish = frame.fish[0];
    if (fish) {
      const was = before.fish[0] ?? fish;
      const between = (a: number, b: number) => a + (b - a) * share;
      const aside = Math.hypot(between(was.x, fish.x), between(was.y, fish.y));
      this.paintFish(
        middle + this.fishSide * aside * perMetre,
        y(between(was.z, fish.z)),
        fish.length_m * perMetre,
        fish.mood,
      );
    }
    p.fillStyle = this.inks.zone;
    p.beginPath();
    const at = y(lure);
    p.moveTo(middle, at - 6);
    p.lineTo(middle + 5, at);
    p.lineTo(middle, at + 6);
    p.lineTo(middle - 5, at);
    p.closePath();
    p.fill();
  }

  private paintFish(x: number, y: number, length: number, mood: string) {
    const p = this.paper;
    const long = Math.max(length, 14);
    // Heads for the middle unless it is leaving.
    const way = (mood === "put off" ? 1 : -1) * this.fishSide;
    p.save();
    p.translate(x, y);
    p.scale(way, 1);
    p.beginPath();
    p.moveTo(long / 2, 0);
    p.quadraticCurveTo(long * 0.1, -long * 0.2, -long * 0.32, 0);
    p.lineTo(-long / 2, -long * 0.14);
    p.lineTo(-long / 2, long * 0.14);
    p.lineTo(-long * 0.32, 0);
    p.quadraticCurveTo(long * 0.1, long * 0.2, long / 2, 0);
    p.fillStyle = this.inks.fishZone;
    p.fill();
    p.strokeStyle = this.inks.ink;
    p.lineWidth = 1;
    p.stroke();
    p.restore();
  }

  private paintTrueDepths(top: number, bottom: number, y: (m: number) => number) {
    const p = this.paper;
    const { system } = this.look;
    const step = this.tickStep(bottom - top);
    p.font = '600 11px "JetBrains Mono Variable", monospace';
    p.textBaseline = "middle";
    p.textAlign = "left";
    p.fillStyle = this.inks.ink;
    const last = toDepth(bottom, system);
    for (let at = Math.ceil(toDepth(top, system) / step) * step; at < last; at += step) {
      const line = y(fromDepth(at, system));
      if (line < 8 || line > this.height - 8) continue;
      p.fillRect(0, line - 0.5, 5, 1);
      p.fillText(trim(at, 1), 8, line);
    }
  }

  private tickStep(span: number): number {
    const shown = toDepth(span, this.look.system);
    return [0.5, 1, 2, 5, 10, 20, 50].find((one) => shown / one <= 9) ?? 100;
  }

  /** Now: each row as a bar, as wide and as strong as its step on the ladder. */
  private paintStrip(left: number, width: number, echoTop: number) {
    const p = this.paper;
    const rows = this.history.rows;
    const row = (this.height - echoTop) / rows;
    p.fillStyle = this.fills[0]!;
    p.fillRect(left, 0, width, this.height);
    for (let i = 0; i < rows; i++) {
      const level = this.history.newest(i);
      if (level === 0) continue;
      const bar = (width - 6) * (0.25 + (0.75 * level) / this.steps);
      p.fillStyle = this.fills[level]!;
      p.fillRect(left + (width - bar) / 2, echoTop + i * row, bar, row + 0.6);
    }
    p.fillStyle = this.inks.line;
    p.fillRect(left + width - 1.5, 0, 1.5, this.height);
  }

  /** History, newest at the left; it slides on smoothly between pings. */
  private paintTrace(left: number, share: number, echoTop: number, frame: Frame) {
    const p = this.paper;
    const { history } = this;
    const width = this.width - left;
    const pings = Math.max(frame.pings, 1);
    const shift = Math.round((share - 1) * pings * this.dpr) / this.dpr;
    p.save();
    p.beginPath();
    p.rect(left, 0, width, this.height);
    p.clip();
    p.fillStyle = this.fills[0]!;
    p.fillRect(left, 0, width, this.height);
    p.imageSmoothingEnabled = false;
    const tall = this.height - echoTop;
    const wanted = Math.min(Math.ceil(width - shift), history.count);
    const first = Math.min(wanted, history.length - history.head);
    if (first > 0)
      p.drawImage(history.canvas, history.head, 0, first, history.rows, left + shift, echoTop, first, tall);
    const second = wanted - first;
    if (second > 0)
      p.drawImage(history.canvas, 0, 0, second, history.rows, left + shift + first, echoTop, second, tall);
    p.restore();
  }

  /** The unit's own figures, down the trace's far edge: range from the face, not true depth. */
  private paintShownDepths(frame: Frame, echoTop: number, narrow: boolean) {
    const p = this.paper;
    const { system } = this.look;
    const span = frame.bottom_m - frame.top_m;
    const step = this.tickStep(span);
    const tall = this.height - echoTop;
    p.font = '600 11px "JetBrains Mono Variable", monospace';
    p.textBaseline = "middle";
    p.textAlign = "right";
    const last = toDepth(frame.bottom_m, system);
    for (let at = Math.ceil(toDepth(frame.top_m, system) / step) * step; at < last; at += step) {
      const line = echoTop + ((fromDepth(at, system) - frame.top_m) / span) * tall;
      if (line < 8 || line > this.height - 8) continue;
      const text = trim(at, 1);
      const width = p.measureText(text).width + 8;
      p.fillStyle = this.inks.panel;
      p.globalAlpha = 0.82;
      p.fillRect(this.width - width - 6, line - 8, width + 6, 16);
      p.globalAlpha = 1;
      p.fillStyle = this.inks.ink;
      p.fillRect(this.width - 5, line - 0.5, 5, 1);
      p.fillText(text, this.width - 8, line);
    }
    if (!narrow) this.paintName(`shown depth, ${depthUnit(system)}`, this.width, "right");
  }

  /** What an axis counts, in its top corner. */
  private paintName(text: string, x: number, side: "left" | "right") {
    const p = this.paper;
    p.font = '600 11px "JetBrains Mono Variable", monospace';
    p.textBaseline = "middle";
    p.textAlign = side;
    const width = p.measureText(text).width + 12;
    p.fillStyle = this.inks.panel;
    p.fillRect(side === "left" ? x : x - width, 0, width, 17);
    p.fillStyle = this.inks.soft;
    p.fillText(text, side === "left" ? x + 6 : x - 6, 9);
  }

  private texture(kind: string): CanvasPattern {
    let pattern = this.textures.get(kind);
    if (!pattern) {
      const tile = document.createElement("canvas");
      tile.width = tile.height = 16;
      const p = tile.getContext("2d")!;
      if (kind !== "hatch") {
        p.fillStyle = this.inks.earth;
        p.fillRect(0, 0, 16, 16);
      }
      p.strokeStyle = p.fillStyle = this.inks.earthLine;
      p.beginPath();
      if (kind === "hatch") {
        for (let i = -16; i <= 16; i += 8) {
          p.moveTo(i, 16);
          p.lineTo(i + 16, 0);
        }
      } else if (kind === "sand") {
        for (const [x, y] of [
          [3, 4],
          [11, 2],
          [7, 9],
          [14, 12],
          [2, 13],
        ] as const)
          p.rect(x, y, 1.8, 1.8);
        p.fill();
      } else {
        for (const y of [4, 12]) {
          p.moveTo(0, y);
          p.quadraticCurveTo(4, y - 4, 8, y);
          p.quadraticCurveTo(12, y + 4, 16, y);
        }
      }
      p.lineWidth = 1;
      if (kind !== "sand") p.stroke();
      pattern = this.paper.createPattern(tile, "repeat")!;
      this.textures.set(kind, pattern);
    }
    return pattern;
  }
}
