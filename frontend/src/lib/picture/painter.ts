// One canvas, one depth axis: the true section and one or two pictures of the echo beside it.
import type { Frame, PictureKind, Profile, RiseLine, Scene, Tuning } from "../api/types";
import type { Theme } from "../prefs.svelte";
import { depthUnit, type System, toDepth } from "../units";
import { type Box, paintFigures, paintGrid, paintName, type Span, ticks } from "./axis";
import { paintRise, paintStrikes } from "./placed";
import { paintRing, paintStrip, paintTrace, rangeOnRing, ringOf, type Shades } from "./echo";
import { History, unpack } from "./history";
import { type Laid, layOut } from "./layout";
import { type Inks, readInks } from "./inks";
import { css, ladderColours } from "./ladder";
import { type SeenMark, seenMarks } from "./marks";
import { middleOf, Section } from "./section";

const HISTORY = 6000; // pings kept: five minutes at twenty a second
const TAIL_FRAMES = 50;

export interface Look {
  theme: Theme;
  system: System;
  truth: boolean;
  views: readonly PictureKind[];
  grid: boolean;
  tails: boolean;
  /** How many pings back the picture is held; null while it lives. */
  held: number | null;
  /** The true section as the picture's first column: wide to be looked at, slim as a scale, or kept back altogether. */
  column: "wide" | "slim" | "none";
}

/** What is known of a hole besides its water, on the same depths: strikes [m], and how high fish will come. */
export interface Placed {
  strikes: readonly number[];
  rise: RiseLine | null;
}

type View = Laid & { history: History };

/** What was touched: a range in a ping, so many pings back. */
export interface Touch {
  range: number;
  back: number;
}

export class Painter {
  private readonly paper: CanvasRenderingContext2D;
  private readonly main: History;
  private readonly window: History;
  private readonly section: Section;
  private inks!: Inks;
  private look!: Look;
  private width = 0;
  private height = 0;
  private dpr = 1;
  private before: Frame | null = null;
  private now: Frame | null = null;
  private arrivedAt = 0;
  private tuning: Tuning | null = null;
  private placed: Placed = { strikes: [], rise: null };
  private tail: Frame[] = [];
  /** The newest ping when the picture was frozen: more come while it is, and what is held must not slide away. */
  private frozenAt = 0;
  private shades: Shades = { fills: ["#000"], line: "#888" };
  private ladderKey = "";
  private views: View[] = [];
  private sectionBox: Box = { left: 0, top: 0, width: 0, height: 0 };
  private axis: Span = { top: 0, bottom: 1 };
  /** Width kept free at the right for the names of marks. */
  margin = 0;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private scene: Scene,
    private readonly unit: Profile,
    private readonly frameMs: number,
  ) {
    this.paper = canvas.getContext("2d", { alpha: false })!;
    this.main = new History(HISTORY, unit.rows);
    this.window = new History(HISTORY, unit.rows);
    this.section = new Section(this.paper);
  }

  setScene(scene: Scene) {
    this.scene = scene;
  }

  setTuning(tuning: Tuning) {
    this.tuning = tuning;
  }

  setPlaced(placed: Placed) {
    this.placed = placed;
  }

  setLook(look: Look) {
    const recolour = look.theme !== this.look?.theme;
    if (look.held !== null && (this.look?.held ?? null) === null) this.frozenAt = this.main.newest;
    this.look = look;
    this.inks = readInks();
    if (recolour) {
      this.section.forgetTextures();
      for (const history of [this.main, this.window]) history.recolour((key) => this.colours(key));
      if (this.ladderKey) this.useLadder(this.ladderKey);
    }
  }

  /** `key` is the ladder's place in the unit's list and the light's. */
  private colours(key: string) {
    const [ladder, light] = key.split(" ").map(Number) as [number, number];
    return ladderColours(this.unit.ladders[ladder]!, this.look.theme, this.unit.brightness[light]!);
  }

  private useLadder(key: string) {
    this.ladderKey = key;
    const colours = this.colours(key);
    this.shades = { fills: colours.map(css), line: this.inks.line };
    this.main.useLadder(key, colours);
    this.window.useLadder(key, colours);
  }

  resize(width: number, height: number, dpr: number) {
    this.width = width;
    this.height = height;
    this.dpr = dpr;
    this.canvas.width = Math.round(width * dpr);
    this.canvas.height = Math.round(height * dpr);
  }

  /** How many pings before the newest the picture shows. */
  get shownBack(): number {
    const held = this.look?.held ?? null;
    return held === null ? 0 : held + this.main.newest - this.frozenAt;
  }

  /** How many pings back the picture can be held. */
  get remembered(): number {
    return this.main.count;
  }

  /** Number of the ping `back` pings ago. */
  pingNumber(back: number): number {
    return this.main.newest - back;
  }

  /** A frame has come: its pings join the history. */
  take(frame: Frame, at: number) {
    const key = `${frame.settings.ladder} ${frame.settings.light}`;
    if (key !== this.ladderKey) this.useLadder(key);
    if (frame.pings > 0) {
      const levels = unpack(frame.levels);
      const window = frame.window_levels === null ? null : unpack(frame.window_levels);
      for (let i = 0; i < frame.pings; i++) {
        const at = i * frame.rows;
        const ping = frame.first_ping + i;
        this.main.push(levels, at, ping, frame.top_m, frame.bottom_m, frame);
        if (window) this.window.push(window, at, ping, frame.window_top_m, frame.window_bottom_m, frame);
      }
      frame.levels = "";
      frame.window_levels = null;
    }
    this.before = this.now;
    this.now = frame;
    this.arrivedAt = at;
    this.tail.push(frame);
    if (this.tail.length > TAIL_FRAMES) this.tail.shift();
  }

  /** Lay section and pictures out for a frame. */
  private layOut(frame: Frame) {
    const room = { width: this.width, height: this.height, margin: this.margin };
    const laid = layOut(frame, this.scene.face_depth_m, this.look, room);
    this.axis = laid.axis;
    this.sectionBox = laid.section;
    this.views = laid.views.map((view) => ({ ...view, history: view.own ? this.window : this.main }));
  }

  paint(at: number) {
    const p = this.paper;
    p.setTransform(this.dpr, 0, 0, this.dpr, 0, 0);
    p.fillStyle = this.inks?.panel ?? "#888";
    p.fillRect(0, 0, this.width, this.height);
    const back = this.shownBack;
    const held = this.look?.held != null;
    const frame = held ? this.main.frame(back) : this.now;
    if (!frame) return;
    this.layOut(frame);
    // Between two frames things glide; the section runs one frame behind the picture for it.
    const share = held ? 1 : Math.min((at - this.arrivedAt) / this.frameMs, 1);
    const { inks, look, scene, axis } = this;
    const tail = look.tails && !held ? this.tail : [];
    const before = held ? frame : (this.before ?? frame);
    const tuning = held ? null : this.tuning;
    if (this.sectionBox.width > 0) {
      const moving = { frame, before, share, tail };
      const shows = { truth: look.truth, lure: look.truth || look.column === "slim" };
      this.section.paint(this.sectionBox, axis, scene, moving, tuning, shows, inks);
      paintStrikes(p, this.sectionBox, axis, this.placed.strikes, inks);
    }
    if (look.grid) paintGrid(p, this.sectionBox, axis, inks, look.system);
    for (const view of this.views) this.paintView(view, frame, back, share, held);
    this.paintZoom(frame);
    if (this.placed.rise && look.column !== "none")
      paintRise(p, { ...this.sectionBox, width: this.sharedRight }, axis, this.placed.rise, inks);
    this.paintAim(frame.target_depth_m);
    if (look.column === "none") return;
    paintFigures(p, this.sectionBox, axis, "left", true, inks, look.system);
    paintName(p, this.axisName("true"), 0, "left", inks);
  }

  /** What an axis counts, as long as there is room for the whole of it. */
  private axisName(of: "true" | "shown"): string {
    const short = this.width < 420 || (of === "true" && this.look.column === "slim");
    return `${of}${short ? "" : " depth,"} ${depthUnit(this.look.system)}`;
  }

  /** Right edge of what stands on the section's own depth axis. */
  private get sharedRight(): number {
    const shared = this.views.filter((view) => view.shared).map((view) => view.box.left + view.box.width);
    return Math.max(this.sectionBox.width, ...shared);
  }

  private paintView(view: View, frame: Frame, back: number, share: number, held: boolean) {
    const p = this.paper;
    const { inks, look, shades } = this;
    const { box, span, history } = view;
    if (view.kind === "strip") paintStrip(p, box, span, history, back, shades, look.tails);
    else if (view.kind === "ring") {
      paintRing(p, box, span, history, back, shades, look.tails);
      this.paintRingFigures(view, frame);
    } else {
      const speed = this.unit.scroll_speeds[frame.settings.scroll] ?? 1;
      const shift = held
        ? 0
        : Math.round((share - 1) * Math.max(frame.pings, 1) * speed * this.dpr) / this.dpr;
      paintTrace(p, box, span, history, back, shades, { speed, shift });
    }
    if (view.kind === "ring") return;
    if (look.grid) paintGrid(p, box, span, inks, look.system);
    // The unit's own figures: range from the face, not true depth.
    const last = this.views.at(-1) === view || !view.shared;
    if (last && box.width > 90) {
      paintFigures(p, box, span, "right", true, inks, look.system);
      paintName(p, this.axisName("shown"), box.left + box.width, "right", inks);
    }
    if (view.history === this.window) {
      p.fillStyle = inks.action;
      p.fillRect(box.left, 0, 3, this.height);
    }
  }

  /** The lure's and the bottom's shown depth inside the ring, so that a dial too can be read. */
  private paintRingFigures(view: View, frame: Frame) {
    const p = this.paper;
    const { inks, look } = this;
    const x = view.box.left + view.box.width / 2;
    const y = view.box.top + view.box.height / 2;
    p.textAlign = "center";
    p.textBaseline = "middle";
    const size = Math.min(view.box.width, view.box.height);
    const ring = ringOf(view.box);
    p.font = inks.font;
    p.fillStyle = p.strokeStyle = inks.ink;
    p.lineWidth = 1.5;
    for (const [range, text] of ticks(view.span, look.system)) {
      const share = (range - view.span.top) / (view.span.bottom - view.span.top);
      const angle = ring.begin + share * ring.sweep;
      const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
      p.beginPath();
      p.moveTo(x + dx * (ring.inner - 2), y + dy * (ring.inner - 2));
      p.lineTo(x + dx * (ring.inner - 8), y + dy * (ring.inner - 8));
      p.stroke();
      if (size >= 180) p.fillText(text, x + dx * (ring.inner - 20), y + dy * (ring.inner - 20));
    }
    if (size < 240) return;
    const plate = Math.min(size * 0.3, 150);
    p.fillStyle = inks.panel;
    p.fillRect(x - plate / 2, y - 34, plate, 68);
    p.fillStyle = inks.ink;
    p.font = '700 26px "JetBrains Mono Variable", monospace';
    p.fillText(toDepth(frame.found_bottom_m, look.system).toFixed(1), x, y - 8);
    p.font = inks.font;
    p.fillStyle = inks.soft;
    p.fillText(`bottom shown, ${depthUnit(look.system)}`, x, y + 20, plate - 8);
  }

  /** A bracket on the depth axis round the water that a window beside the column magnifies. */
  private paintZoom(frame: Frame) {
    if (!frame.settings.beside || frame.window_bottom_m === frame.bottom_m) return;
    const { p, face } = { p: this.paper, face: this.scene.face_depth_m };
    const perMetre = this.height / (this.axis.bottom - this.axis.top);
    const y0 = (frame.window_top_m + face - this.axis.top) * perMetre;
    const y1 = Math.min((frame.window_bottom_m + face - this.axis.top) * perMetre, this.height - 2);
    const x = this.sectionBox.width - 3;
    p.strokeStyle = this.inks.action;
    p.lineWidth = 3;
    p.beginPath();
    p.moveTo(x - 8, y0);
    p.lineTo(x, y0);
    p.lineTo(x, y1);
    p.lineTo(x - 8, y1);
    p.stroke();
  }

  /** Where the aim line is on the canvas, or null when it is not in sight. */
  aimLine(depth: number): number | null {
    if (depth <= 0) return null;
    const at = ((depth - this.axis.top) / (this.axis.bottom - this.axis.top)) * this.height;
    return at < 0 || at > this.height ? null : at;
  }

  private paintAim(depth: number) {
    const y = this.aimLine(depth);
    if (y === null) return;
    const p = this.paper;
    p.strokeStyle = this.inks.action;
    p.lineWidth = 2;
    p.setLineDash([8, 5]);
    p.beginPath();
    p.moveTo(0, y);
    p.lineTo(this.sharedRight, y);
    p.stroke();
    p.setLineDash([]);
    p.fillStyle = this.inks.action;
    p.beginPath();
    p.moveTo(this.sectionBox.width - 22, y - 9);
    p.lineTo(this.sectionBox.width - 6, y - 9);
    p.lineTo(this.sectionBox.width, y);
    p.lineTo(this.sectionBox.width - 6, y + 9);
    p.lineTo(this.sectionBox.width - 22, y + 9);
    p.closePath();
    p.fill();
  }

  /** Where a range [m from the face] stands on the last picture that shares the section's axis: right edge and y. */
  placeOf(range: number): [number, number] | null {
    const view = this.views.findLast((one) => one.shared);
    if (!view || range < view.span.top || range > view.span.bottom) return null;
    const share = (range - view.span.top) / (view.span.bottom - view.span.top);
    return [view.box.left + view.box.width, view.box.top + share * view.box.height];
  }

  /** The marks that stand on it now. */
  marks(): SeenMark[] {
    return this.main.count === 0 ? [] : seenMarks(this.main, this.shownBack);
  }

  /** Depth below the surface [m] at which an echo from this range [m from the face] would be right below. */
  depthOf(range: number): number {
    return range + this.scene.face_depth_m;
  }

  /** Keep room at the right for the names of marks, or give it back: how wide it is. */
  setMargin(on: boolean): number {
    this.margin = on ? Math.round(Math.min(Math.max(this.width * 0.2, 96), 190)) : 0;
    return this.margin;
  }

  /**
   * The depth axis that everything on the canvas stands on [m below the surface], how wide its first column is, and
   * where the water that marks are named in ends at the right, as it was last painted.
   */
  get stand(): { top: number; bottom: number; column: number; right: number } {
    const box = this.views.findLast((one) => one.shared)?.box;
    return { ...this.axis, column: this.sectionBox.width, right: box ? box.left + box.width : this.width };
  }

  /** True depth [m] at a height on the canvas. */
  depthAt(y: number): number {
    return this.axis.top + (y / this.height) * (this.axis.bottom - this.axis.top);
  }

  /** Which echo is at a place on the canvas; null where there is none. */
  touched(x: number, y: number): Touch | null {
    const back = this.shownBack;
    const face = this.scene.face_depth_m;
    if (x < this.sectionBox.width) {
      // In the section a thing is touched where it is; its echo stands at its slant range.
      const perMetre = this.height / (this.axis.bottom - this.axis.top);
      const aside = (x - middleOf(this.sectionBox)) / perMetre;
      const below = this.depthAt(y) - face;
      return below > 0 ? { range: Math.hypot(aside, below), back } : null;
    }
    const view = this.views.find((one) => x >= one.box.left && x < one.box.left + one.box.width);
    if (!view) return null;
    if (view.kind === "ring") {
      const range = rangeOnRing(view.box, view.span, x, y);
      return range === null ? null : { range, back };
    }
    const range = view.span.top + ((y - view.box.top) / view.box.height) * (view.span.bottom - view.span.top);
    if (range < 0) return null;
    const speed = this.unit.scroll_speeds[this.now?.settings.scroll ?? 0] ?? 1;
    const ago = view.kind === "trace" ? Math.floor((x - view.box.left) / speed) : 0;
    return { range, back: back + ago };
  }
}
