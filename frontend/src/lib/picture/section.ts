// The true section of the hole: ice, water, bottom, weeds, what hangs and swims, and the zone in which it is seen.
import type { Frame, Scene, Tuning } from "../api/types";
import type { Box, Span } from "./axis";
import { type Inks, texture } from "./inks";

/** Where the hole's axis stands in the section, clear of the depth figures. */
export const middleOf = (box: Box) => Math.round(box.left + (box.width + 34) / 2);

/** The true depth axis and what stands on it: where metres are on the paper, and the inks to paint them with. */
interface Stage {
  box: Box;
  scene: Scene;
  inks: Inks;
  x: (m: number) => number;
  y: (m: number) => number;
  perMetre: number;
}

/** What moves: a frame, the one before it, and how far between the two the picture stands. */
export interface Moving {
  frame: Frame;
  before: Frame;
  share: number;
  tail: Frame[];
}

/** Each fish of a frame where it stands between the frame before and this one: followed by which fish it is. */
export function gliding(before: Frame, frame: Frame, share: number) {
  const between = (a: number, b: number) => a + (b - a) * share;
  return frame.fish.map((one) => {
    const was = before.fish.find((other) => other.who === one.who) ?? one;
    return { one, at: { x: between(was.x, one.x), y: between(was.y, one.y), z: between(was.z, one.z) } };
  });
}

export class Section {
  /** Left or right of the axis, for each fish that came. */
  private fishSide = new Map<number, number>();
  private textures = new Map<string, CanvasPattern>();

  constructor(private readonly p: CanvasRenderingContext2D) {}

  forgetTextures() {
    this.textures.clear();
  }

  private fill(kind: string, inks: Inks): CanvasPattern {
    let pattern = this.textures.get(kind);
    if (!pattern) {
      pattern = texture(this.p, kind, inks);
      this.textures.set(kind, pattern);
    }
    return pattern;
  }

  /** Paint everything true: the seen zone and what swims only where the truth is shown, the lure where it is known. */
  paint(
    box: Box,
    span: Span,
    scene: Scene,
    moving: Moving,
    tuning: Tuning | null,
    shows: { truth: boolean; lure: boolean },
    inks: Inks,
  ) {
    const { p } = this;
    const { truth } = shows;
    const perMetre = box.height / (span.bottom - span.top);
    const y = (m: number) => box.top + (m - span.top) * perMetre;
    const middle = middleOf(box);
    const x = (m: number) => middle + m * perMetre;
    const stage: Stage = { box, scene, inks, x, y, perMetre };
    p.save();
    p.beginPath();
    p.rect(box.left, 0, box.width, box.top + box.height);
    p.clip();
    p.fillStyle = inks.water;
    p.fillRect(box.left, 0, box.width, box.top + box.height);
    if (truth && tuning) {
      this.zone(stage, tuning, tuning.seen_zone.fish_m, inks.fishZone, 0.13);
      this.zone(stage, tuning, tuning.seen_zone.lure_m, inks.zone, 0.15);
    }
    if (truth) this.weeds(stage);
    this.ground(stage, truth ? tuning : null);
    this.ice(stage);
    if (truth) {
      this.lying(stage);
      this.swimming(stage, moving);
    }
    if (shows.lure) this.lure(stage, moving);
    if (truth) {
      if (scene.second_hole_m > 0) this.hung(stage);
    }
    p.restore();
    p.fillStyle = inks.line;
    p.fillRect(box.left + box.width - 1.5, 0, 1.5, box.top + box.height);
  }

  /** The lobe in which a target is seen: left and right of the axis, to its radius at each depth. */
  private zone({ scene, x, y }: Stage, tuning: Tuning, radius: number[], colour: string, strength: number) {
    const { p } = this;
    const lean = Math.tan(tuning.seen_zone.tilt_rad);
    const depth = tuning.seen_zone.depth_m;
    const axis = (i: number) => (depth[i]! - scene.face_depth_m) * lean;
    // A lobe for each stretch in which it is seen at all: blanking or a closed window may cut it in two.
    p.beginPath();
    for (let from = 0; from < radius.length; from++) {
      if (radius[from]! <= 0) continue;
      let to = from;
      while (to + 1 < radius.length && radius[to + 1]! > 0) to++;
      p.moveTo(x(axis(from)), y(depth[from]!));
      for (let i = from; i <= to; i++) p.lineTo(x(axis(i) + radius[i]!), y(depth[i]!));
      for (let i = to; i >= from; i--) p.lineTo(x(axis(i) - radius[i]!), y(depth[i]!));
      p.closePath();
      from = to;
    }
    p.globalAlpha = strength;
    p.fillStyle = colour;
    p.fill();
    p.globalAlpha = 0.8;
    p.strokeStyle = colour;
    p.lineWidth = 1.25;
    p.stroke();
    p.globalAlpha = 1;
  }

  /** The bottom, with the water over it in which its own echo hides a fish where `tuning` tells that. */
  private ground({ box, scene, x, y, perMetre, inks }: Stage, tuning: Tuning | null) {
    const { p } = this;
    const slope = Math.tan((scene.slope_deg * Math.PI) / 180);
    const wide = box.width / perMetre;
    const bed = (aside: number) => y(scene.bottom_depth_m + aside * slope);
    if (tuning) {
      const { offset_m: offset, dead_zone_top_m: top } = tuning.seen_zone;
      const n = offset.length;
      p.beginPath();
      for (let i = n - 1; i >= 0; i--) p.lineTo(x(-offset[i]!), y(top[i]!));
      for (let i = 0; i < n; i++) p.lineTo(x(offset[i]!), y(top[i]!));
      p.lineTo(x(offset[n - 1]!), bed(offset[n - 1]!));
      p.lineTo(x(-offset[n - 1]!), bed(-offset[n - 1]!));
      p.closePath();
      p.fillStyle = this.fill("hatch", inks);
      p.fill();
    }
    p.beginPath();
    p.moveTo(x(-wide), bed(-wide));
    p.lineTo(x(wide), bed(wide));
    p.lineTo(x(wide), box.top + box.height + 4);
    p.lineTo(x(-wide), box.top + box.height + 4);
    p.closePath();
    p.fillStyle = this.fill(scene.bottom_kind, inks);
    p.fill();
    p.strokeStyle = inks.earthLine;
    p.lineWidth = 2;
    p.beginPath();
    p.moveTo(x(-wide), bed(-wide));
    p.lineTo(x(wide), bed(wide));
    p.stroke();
  }

  private weeds({ box, scene, y, inks }: Stage) {
    if (scene.weed_height_m <= 0 || scene.weed_density <= 0) return;
    const { p } = this;
    const foot = y(scene.bottom_depth_m);
    const top = y(scene.bottom_depth_m - scene.weed_height_m);
    const gap = 6 + 10 * (1 - scene.weed_density);
    p.strokeStyle = inks.fishZone;
    p.globalAlpha = 0.55;
    p.lineWidth = 1.5;
    p.beginPath();
    for (let at = box.left + 3, i = 0; at < box.left + box.width; at += gap, i++) {
      const lower = top + ((i * 37) % 11) * 0.03 * (foot - top);
      p.moveTo(at, foot);
      p.bezierCurveTo(at + 5, foot - (foot - lower) / 3, at - 5, lower + (foot - lower) / 3, at + 2, lower);
    }
    p.stroke();
    p.globalAlpha = 1;
  }

  private ice({ box, scene, x, y, perMetre, inks }: Stage) {
    const { p } = this;
    const under = y(scene.ice_thickness_m);
    const face = y(scene.face_depth_m);
    const half = Math.max((scene.hole_diameter_m / 2) * perMetre, 4);
    const holes = [x(0), ...(scene.second_hole_m > 0 ? [x(scene.second_hole_m)] : [])];
    if (under > box.top) {
      p.fillStyle = inks.ice;
      p.fillRect(box.left, 0, box.width, under);
      p.fillStyle = inks.iceEdge;
      p.fillRect(box.left, under - 1.5, box.width, 1.5);
      p.fillStyle = inks.water;
      for (const at of holes) p.fillRect(at - half, 0, 2 * half, under);
    }
    if (scene.slush_m > 0) {
      p.fillStyle = inks.iceEdge;
      p.globalAlpha = 0.6;
      p.fillRect(x(0) - half, 0, 2 * half, y(scene.slush_m));
      p.globalAlpha = 1;
    }
    if (face < -2) return;
    const lean = (scene.tilt_deg * Math.PI) / 180;
    p.save();
    p.translate(x(0), face);
    p.fillStyle = inks.ink;
    if (scene.on_float) p.fillRect(-11, -face, 16, 3);
    p.fillRect(-3.5, -face, 1, Math.max(face - 8, 0));
    p.rotate(-lean);
    p.beginPath();
    p.moveTo(-7, -8);
    p.lineTo(1, -8);
    p.lineTo(3, 0);
    p.lineTo(-9, 0);
    p.closePath();
    p.fill();
    if (!scene.face_wet) {
      p.fillStyle = inks.action;
      p.fillRect(-9, 0, 12, 3);
    }
    p.restore();
  }

  private lying({ scene, x, y, perMetre, inks }: Stage) {
    const { p } = this;
    const slope = Math.tan((scene.slope_deg * Math.PI) / 180);
    for (const one of scene.structures) {
      const at = x(one.aside_m);
      const foot = y(scene.bottom_depth_m + one.aside_m * slope);
      const tall = one.height_m * perMetre;
      p.fillStyle = inks.earth;
      p.strokeStyle = inks.earthLine;
      p.lineWidth = 1.5;
      p.beginPath();
      if (one.kind === "boulder") p.ellipse(at, foot, tall * 0.7, tall, 0, Math.PI, 2 * Math.PI);
      else if (one.kind === "log") p.arc(at, foot - tall / 2, tall / 2, 0, 2 * Math.PI);
      else
        for (let i = -3; i <= 3; i++) {
          p.moveTo(at, foot);
          p.lineTo(at + i * 0.2 * tall, foot - tall * (1 - Math.abs(i) * 0.12));
        }
      if (one.kind !== "brush") p.fill();
      p.stroke();
    }
  }

  private hung({ scene, x, y, inks }: Stage) {
    const { p } = this;
    const at = x(scene.second_hole_m);
    for (const one of scene.hung) {
      p.fillStyle = inks.soft;
      p.fillRect(at - 0.5, 0, 1, Math.max(y(one.depth_m), 0));
      p.fillStyle = inks.ink;
      if (one.kind === "camera") p.fillRect(at - 7, y(one.depth_m) - 3, 14, 6);
      else this.diamond(at, y(one.depth_m), 4);
    }
  }

  private diamond(x: number, y: number, size: number) {
    const { p } = this;
    p.beginPath();
    p.moveTo(x, y - size - 1);
    p.lineTo(x + size, y);
    p.lineTo(x, y + size + 1);
    p.lineTo(x - size, y);
    p.closePath();
    p.fill();
  }

  private swimming({ x, y, perMetre, inks }: Stage, { frame, before, share, tail }: Moving) {
    const { p } = this;
    const side = (who: number, one: { x: number; y: number }) => {
      // A fish keeps to the side it came from until it is in the middle: its true distance is what counts.
      const kept = this.fishSide.get(who);
      if (kept === undefined || Math.hypot(one.x, one.y) < 0.15) this.fishSide.set(who, one.x < 0 ? -1 : 1);
      return this.fishSide.get(who)! * Math.hypot(one.x, one.y);
    };
    for (const [age, old] of tail.entries()) {
      p.globalAlpha = 0.08 + (0.3 * age) / tail.length;
      p.fillStyle = inks.zone;
      p.fillRect(x(old.lure_x) - 1.5, y(old.lure_depth_m) - 1.5, 3, 3);
      p.fillStyle = inks.fishZone;
      for (const one of old.fish) p.fillRect(x(side(one.who, one)) - 2, y(one.z) - 1.5, 4, 3);
    }
    p.globalAlpha = 1;
    for (const [fx, fy, fz, length] of frame.school as [number, number, number, number][])
      this.fish(x(Math.sign(fx || 1) * Math.hypot(fx, fy)), y(fz), length * perMetre, 1, inks.soft, inks, 5);
    for (const { one, at } of gliding(before, frame, share)) {
      const aside = side(one.who, at);
      // Heads for the middle unless it is leaving.
      const way = (one.mood === "put off" ? 1 : -1) * (aside < 0 ? -1 : 1);
      this.fish(x(aside), y(at.z), one.length_m * perMetre, way, inks.fishZone, inks, 14);
    }
    const here = new Set([frame, ...tail].flatMap((one) => one.fish.map((fish) => fish.who)));
    for (const who of this.fishSide.keys()) if (!here.has(who)) this.fishSide.delete(who);
  }

  /** The lure on its line. */
  private lure({ x, y, inks }: Stage, { frame, before, share }: Moving) {
    const { p } = this;
    const between = (a: number, b: number) => a + (b - a) * share;
    const at = {
      x: x(between(before.lure_x, frame.lure_x)),
      y: y(between(before.lure_depth_m, frame.lure_depth_m)),
    };
    p.strokeStyle = inks.soft;
    p.lineWidth = 1;
    p.beginPath();
    p.moveTo(x(0), 0);
    p.lineTo(at.x, Math.max(at.y, 0));
    p.stroke();
    p.fillStyle = inks.zone;
    this.diamond(at.x, at.y, 5);
  }

  private fish(x: number, y: number, length: number, way: number, colour: string, inks: Inks, least: number) {
    const { p } = this;
    const long = Math.max(length, least);
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
    p.fillStyle = colour;
    p.fill();
    if (least > 10) {
      p.strokeStyle = inks.ink;
      p.lineWidth = 1;
      p.stroke();
    }
    p.restore();
  }
}
