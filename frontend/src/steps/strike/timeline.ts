// A whole run on one time line: the picture as it was shown, the truth over it on the same depths, the rod and the
// attention under it. Time runs from left to right.
import type { Ladder, Pings, RunWhole, WhatIf } from "../../lib/api/types";
import { type Box, paintFigures, paintName, type Span } from "../../lib/picture/axis";
import { unpack } from "../../lib/picture/history";
import { paintRise } from "../../lib/picture/placed";
import type { Inks } from "../../lib/picture/inks";
import { ladderColours } from "../../lib/picture/ladder";
import type { Theme } from "../../lib/prefs.svelte";
import { depthUnit, type System } from "../../lib/units";

const ROD_TALL = 56;
const EYES_TALL = 26;
const CLOCK_TALL = 18;

export interface Shown {
  /** From when to when [s]. */
  from: number;
  to: number;
  head: number;
  truth: boolean;
  echo: boolean;
  whatIf: WhatIf | null;
  /** The judged moment that is looked at. */
  chosen: number | null;
}

/** Moments that are nobody's merit and nobody's fault. */
export const NEUTRAL: ReadonlySet<string> = new Set(["left", "far"]);

export class Timeline {
  private sheet: HTMLCanvasElement | null = null;
  private sheetKey = "";

  constructor(
    private readonly run: RunWhole,
    private readonly pings: Pings | null,
    private readonly ladder: Ladder,
  ) {}

  /** The depths [m below the surface] that are shown. */
  get span(): Span {
    const { ice_thickness_m, bottom_depth_m } = this.run.section;
    return { top: ice_thickness_m, bottom: bottom_depth_m + 0.04 * (bottom_depth_m - ice_thickness_m) };
  }

  box(width: number, height: number): Box {
    return { left: 0, top: 0, width, height: Math.max(height - ROD_TALL - EYES_TALL - CLOCK_TALL, 60) };
  }

  timeAt(x: number, width: number, shown: Shown): number {
    return shown.from + (x / width) * (shown.to - shown.from);
  }

  /** The echoes as an image: each column the ping shown at that time, each row a depth. */
  private echoes(box: Box, shown: Shown, theme: Theme): HTMLCanvasElement | null {
    const pings = this.pings;
    if (!pings || pings.count < 2) return null;
    const wide = Math.max(Math.round(box.width), 1);
    const tall = Math.max(Math.round(box.height), 1);
    const key = [wide, tall, shown.from, shown.to, theme].join(" ");
    if (this.sheet && key === this.sheetKey) return this.sheet;
    const levels = unpack(pings.levels);
    const colours = ladderColours(this.ladder, theme, 1);
    const packed = Uint32Array.from(colours, ([r, g, b]) => (255 << 24) | (b << 16) | (g << 8) | r);
    const sheet = document.createElement("canvas");
    sheet.width = wide;
    sheet.height = tall;
    const paper = sheet.getContext("2d")!;
    const image = paper.createImageData(wide, tall);
    const pixels = new Uint32Array(image.data.buffer).fill(packed[0]!);
    const { top, bottom } = this.span;
    const face = this.run.face_depth_m;
    let k = 0;
    for (let x = 0; x < wide; x++) {
      const at = this.timeAt(x + 0.5, wide, shown);
      while (k + 1 < pings.count && pings.time_s[k + 1]! <= at) k++;
      if (at < pings.time_s[0]! - 0.1 || at > pings.time_s[pings.count - 1]! + 0.1) continue;
      const first = pings.top_m[k]!;
      const each = (pings.bottom_m[k]! - first) / pings.rows;
      for (let y = 0; y < tall; y++) {
        const range = top + ((y + 0.5) / tall) * (bottom - top) - face;
        const row = Math.floor((range - first) / each);
        if (row >= 0 && row < pings.rows)
          pixels[y * wide + x] = packed[levels[k * pings.rows + row]!] ?? packed[0]!;
      }
    }
    paper.putImageData(image, 0, 0);
    this.sheet = sheet;
    this.sheetKey = key;
    return sheet;
  }

  paint(
    p: CanvasRenderingContext2D,
    width: number,
    height: number,
    shown: Shown,
    inks: Inks,
    theme: Theme,
    system: System,
  ) {
    const box = this.box(width, height);
    const { span } = this;
    const x = (time: number) => ((time - shown.from) / (shown.to - shown.from)) * width;
    const y = (depth: number) => box.top + ((depth - span.top) / (span.bottom - span.top)) * box.height;
    p.fillStyle = inks.water;
    p.fillRect(0, 0, width, height);
    const echoes = shown.echo ? this.echoes(box, shown, theme) : null;
    if (echoes) p.drawImage(echoes, box.left, box.top, box.width, box.height);
    p.save();
    p.beginPath();
    p.rect(box.left, box.top, box.width, box.height);
    p.clip();
    if (shown.truth) this.paintTruth(p, box, shown, inks, x, y);
    if (shown.whatIf) this.paintWhatIf(p, shown.whatIf, inks, x, y);
    const { line } = this.run;
    if (line && line.fish > 1) paintRise(p, box, span, line, inks, "rise line as it was noted");
    p.restore();
    this.paintRod(p, { left: 0, top: box.height, width, height: ROD_TALL }, inks, x);
    this.paintEyes(p, { left: 0, top: box.height + ROD_TALL, width, height: EYES_TALL }, inks, x);
    this.paintClock(p, box.height + ROD_TALL + EYES_TALL, width, shown, inks, x);
    p.fillStyle = inks.ink;
    p.fillRect(x(shown.head) - 1, 0, 2, height - CLOCK_TALL);
    this.paintMoments(p, box, shown, inks, x);
    paintFigures(p, box, span, "right", true, inks, system);
    paintName(p, `depth, ${depthUnit(system)}`, width, "right", inks, 0);
  }

  private path(
    p: CanvasRenderingContext2D,
    times: readonly number[],
    depths: readonly (number | null)[],
    x: (time: number) => number,
    y: (depth: number) => number,
  ) {
    p.beginPath();
    let down = false;
    for (let k = 0; k < times.length; k++) {
      const depth = depths[k];
      if (depth == null) {
        down = false;
        continue;
      }
      if (down) p.lineTo(x(times[k]!), y(depth));
      else p.moveTo(x(times[k]!), y(depth));
      down = true;
    }
    p.stroke();
  }

  /** A line that can be seen over any echo: a plain one under a coloured one. */
  private double(p: CanvasRenderingContext2D, inks: Inks, colour: string, wide: number, draw: () => void) {
    p.strokeStyle = inks.panel;
    p.lineWidth = wide + 3;
    draw();
    p.strokeStyle = colour;
    p.lineWidth = wide;
    draw();
  }

  private paintTruth(
    p: CanvasRenderingContext2D,
    box: Box,
    shown: Shown,
    inks: Inks,
    x: (time: number) => number,
    y: (depth: number) => number,
  ) {
    const { run } = this;
    p.lineJoin = "round";
    p.setLineDash([8, 5]);
    p.strokeStyle = inks.fishZone;
    p.lineWidth = 2;
    p.beginPath();
    p.moveTo(box.left, y(run.true_line_m));
    p.lineTo(box.left + box.width, y(run.true_line_m));
    p.stroke();
    p.setLineDash([]);
    for (const fish of run.tracks) {
      // Only where it is near enough to matter: out at the side it passes unheard.
      const near = fish.depth_m.map((depth, k) => (fish.aside_m[k]! < 2.6 ? depth : null));
      const looking = near.map((depth, k) =>
        ["curious", "following", "mouthing", "hooked"].includes(fish.mood[k]!) ? depth : null,
      );
      p.setLineDash([3, 4]);
      this.double(p, inks, inks.fishZone, 1.5, () => this.path(p, fish.time_s, near, x, y));
      p.setLineDash([]);
      this.double(p, inks, inks.fishZone, 3, () => this.path(p, fish.time_s, looking, x, y));
    }
    this.double(p, inks, inks.action, 2.5, () => this.path(p, run.time_s, run.lure_m, x, y));
    paintName(p, "true rise line", box.left + 2, "left", inks, y(run.true_line_m) - 19);
  }

  private paintWhatIf(
    p: CanvasRenderingContext2D,
    other: WhatIf,
    inks: Inks,
    x: (time: number) => number,
    y: (depth: number) => number,
  ) {
    p.setLineDash([2, 5]);
    p.lineCap = "round";
    this.double(p, inks, inks.fishZone, 3, () => this.path(p, other.time_s, other.fish_m, x, y));
    this.double(p, inks, inks.action, 3, () => this.path(p, other.time_s, other.lure_m, x, y));
    p.setLineDash([]);
    p.lineCap = "butt";
  }

  /** How far the tip bent, and which way the hand went. */
  private paintRod(p: CanvasRenderingContext2D, box: Box, inks: Inks, x: (time: number) => number) {
    const { run } = this;
    p.fillStyle = inks.panel;
    p.fillRect(box.left, box.top, box.width, box.height);
    const foot = box.top + box.height - 6;
    p.fillStyle = inks.action;
    p.beginPath();
    p.moveTo(x(run.time_s[0] ?? 0), foot);
    run.time_s.forEach((time, k) => p.lineTo(x(time), foot - run.bend[k]! * (box.height - 14)));
    p.lineTo(x(run.time_s.at(-1) ?? 0), foot);
    p.fill();
    // Lifts as marks along the top, downs under them: what the hand did.
    for (let k = 0; k < run.time_s.length; k++) {
      const speed = run.rising_m_s[k]!;
      if (Math.abs(speed) < 0.004) continue;
      p.fillStyle = speed > 0.06 ? inks.ink : speed > 0 ? inks.fishZone : inks.soft;
      const wide = Math.max(x(run.time_s[k]! + 0.2) - x(run.time_s[k]!), 1);
      p.fillRect(x(run.time_s[k]!), box.top + (speed > 0 ? 2 : 7), wide, 4);
    }
    p.strokeStyle = inks.line;
    p.lineWidth = 1.5;
    p.strokeRect(box.left - 2, box.top, box.width + 4, box.height);
    paintName(
      p,
      box.width < 420
        ? "rod tip, and lifts above it"
        : "rod tip; above it, green: slow lifts, dark: fast, grey: down",
      0,
      "left",
      inks,
      box.top + 13,
    );
  }

  private paintEyes(p: CanvasRenderingContext2D, box: Box, inks: Inks, x: (time: number) => number) {
    p.fillStyle = inks.water;
    p.fillRect(box.left, box.top, box.width, box.height);
    p.fillStyle = inks.action;
    for (const [from, to] of this.run.eyes_on_rod)
      p.fillRect(x(from), box.top + 4, Math.max(x(to) - x(from), 2), box.height - 8);
    paintName(p, "eyes on the rod tip", 0, "left", inks, box.top + 4);
  }

  private paintClock(
    p: CanvasRenderingContext2D,
    top: number,
    width: number,
    shown: Shown,
    inks: Inks,
    x: (time: number) => number,
  ) {
    p.fillStyle = inks.panel;
    p.fillRect(0, top, width, CLOCK_TALL);
    p.font = inks.font;
    p.fillStyle = inks.soft;
    p.textAlign = "center";
    p.textBaseline = "middle";
    const step = [1, 2, 5, 10, 20, 30, 60].find((one) => ((shown.to - shown.from) / one) * 54 < width) ?? 60;
    for (let at = Math.ceil(shown.from / step) * step; at < shown.to; at += step) {
      const minutes = Math.floor(at / 60);
      const text = `${minutes}:${String(Math.round(at % 60)).padStart(2, "0")}`;
      if (x(at) > 18 && x(at) < width - 18) p.fillText(text, x(at), top + CLOCK_TALL / 2);
    }
  }

  private paintMoments(
    p: CanvasRenderingContext2D,
    box: Box,
    shown: Shown,
    inks: Inks,
    x: (time: number) => number,
  ) {
    p.font = inks.font;
    p.textAlign = "center";
    p.textBaseline = "middle";
    this.run.judged.forEach((one, k) => {
      const at = x(one.time_s);
      if (at < -1 || at > box.width + 1) return;
      const disc = Math.min(Math.max(at, 12), box.width - 52);
      const chosen = shown.chosen === k;
      p.fillStyle = one.is_good ? inks.fishZone : NEUTRAL.has(one.code) ? inks.soft : inks.action;
      p.fillRect(at - (chosen ? 1.5 : 0.75), box.top, chosen ? 3 : 1.5, box.height);
      p.beginPath();
      p.arc(disc, box.top + 26 + (k % 3) * 20, 10, 0, 2 * Math.PI);
      p.fill();
      p.fillStyle = inks.panel;
      p.fillText(String(k + 1), disc, box.top + 26.5 + (k % 3) * 20);
    });
  }
}
