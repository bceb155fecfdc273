// The fan's controls in words, for the knobs, the card and its message.
import type { FanHang, FanHead, FanSettings } from "../../lib/api/types";
import { depth, type System, trim, way } from "../../lib/units";

export type Control = FanHead["controls"][number];

export const NAMES: Record<Control, string> = {
  gain: "Gain",
  ahead: "Reach ahead",
  behind: "Reach behind",
  deep: "Depth shown",
  contrast: "Weakest to strongest",
  weak_end: "Weak steps left dark",
  clutter: "Reject clutter",
  repeats: "Reject repeats",
  damping: "Damp near the head",
  tails: "Tails",
  ground: "Shade the ground",
  squares: "Net of squares",
  numbers: "Numbers",
  heading: "Compass",
  levelling: "Levelling",
  ladder: "Colours",
  screen: "Light of the screen",
};

const step = (value: number) => (value === 0 ? "off" : String(value));
const onOff = (on: boolean) => (on ? "on" : "off");

/** What a control stands at, as it is said. */
export function valueOf(control: Control, s: FanSettings, system: System): string {
  const said: Record<Control, () => string> = {
    gain: () => trim(s.gain_db, 0),
    ahead: () => way(s.ahead_m, system),
    behind: () => way(s.behind_m, system),
    deep: () => depth(s.deep_m, system),
    contrast: () => `${trim(s.strong_db, 0)} dB`,
    weak_end: () => step(s.weak_steps),
    clutter: () => step(s.clutter),
    repeats: () => step(s.repeats),
    damping: () => (s.damping_m === 0 ? "off" : depth(s.damping_m, system)),
    tails: () => step(s.tails),
    ground: () => onOff(s.ground),
    squares: () => (s.square_m === 0 ? "off" : depth(s.square_m, system)),
    numbers: () => s.numbers,
    heading: () => onOff(s.heading),
    levelling: () => onOff(s.levelling),
    ladder: () => s.ladder,
    screen: () => `${trim(100 * s.screen, 0)} %`,
  };
  return said[control]();
}

/** Those that one turns at a hole; the rest is taste. */
const IN_MESSAGE: Control[] = ["gain", "ahead", "behind", "deep", "repeats", "clutter", "damping"];

/** The card as a text message. */
export function messageOf(
  card: { head: string; hang: { depth_m: number; mounting: string }; settings: FanSettings },
  controls: readonly Control[],
  system: System,
): string {
  const hung = `head ${depth(card.hang.depth_m, system)} down, looks ${card.hang.mounting}`;
  const set = IN_MESSAGE.filter((one) => controls.includes(one)).map(
    (one) => `${NAMES[one].toLowerCase()} ${valueOf(one, card.settings, system)}`,
  );
  return `${card.head.charAt(0).toUpperCase()}${card.head.slice(1)}: ${[hung, ...set].join(", ")}.`;
}

/** One press of the handle. */
export const TURN_DEG = 5;
export const turned = (aim: number, by: number) => (((aim + by) % 360) + 360) % 360;

/** A head that looks ahead, as one would hang it in a fresh hole. */
export const hungAt = (aim_deg: number): FanHang => ({
  depth_m: 0.9,
  mounting: "ahead",
  aim_deg,
  off_deg: 0,
  nose_up_deg: 0,
  roll_deg: 0,
  ice_m: 0.4,
});
