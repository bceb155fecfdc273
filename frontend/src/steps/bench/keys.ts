// The keys of the Bench: the hand's, the knobs' and the page's own.
import { constants } from "../../lib/api/limits";
import { LIFT, LIFT_FAST, SINK } from "../../lib/hand";
import type { Key } from "../../lib/keys";
import type { Hand } from "../../lib/live/hand.svelte";
import type { BenchStream } from "../../lib/live/stream.svelte";

const NUDGE = constants.foot / 4;

/** What of the page the keys reach besides the stream. */
export interface PageHand {
  stream: () => BenchStream | null;
  hand: Hand;
  freeze: () => void;
  step: (back: number) => void;
  truth: () => void;
}

export function benchKeys({ stream, hand, freeze, step, truth }: PageHand): Key[] {
  const aimedAt = () => stream()?.targetDepth || stream()?.lureDepth || 1;
  return [
    ...hand.keys(
      { does: "lift the lure slowly while held (with Shift, fast)", speed: LIFT, withShift: LIFT_FAST },
      { does: "lower the lure while held", speed: SINK, withShift: SINK },
    ),
    { keys: "Enter", does: "set the hook", on: ["Enter"], press: () => stream()?.send({ set_hook: true }) },
    { keys: "Z", does: "next window", on: ["z"], press: () => nextWindow(stream()) },
    { keys: "B", does: "next beam", on: ["b"], press: () => nextBeam(stream()) },
    {
      keys: "X",
      does: "more rejection (with Shift, less)",
      on: ["x"],
      press: (event) => rejectionStep(stream(), event.shiftKey ? -1 : 1),
    },
    { keys: "L", does: "bring the lure to the aim line", on: ["l"], press: () => toTheLine(stream()) },
    {
      keys: "[ ]",
      does: "move the aim line up or down",
      on: ["[", "]"],
      press: (event) => stream()?.aim(Math.max(aimedAt() + (event.key === "[" ? -NUDGE : NUDGE), 0.1)),
      repeats: true,
    },
    { keys: "F", does: "freeze or resume", on: ["f"], press: freeze },
    {
      keys: ", .",
      does: "while frozen, one ping back or on",
      on: [",", "."],
      press: (event) => step(event.key === "," ? 1 : -1),
      repeats: true,
    },
    { keys: "T", does: "hide or show the truth", on: ["t"], press: truth },
  ];
}

function nextWindow(stream: BenchStream | null) {
  const unit = stream?.bench?.unit;
  const settings = stream?.settings;
  if (!unit || !settings || unit.bottom_windows_m.length === 0) return;
  const windows = [0, ...unit.bottom_windows_m];
  const at = windows.findIndex((one) => Math.abs(one - settings.bottom_window_m) < 1e-3);
  stream.turn({ bottom_window_m: windows[(at + 1) % windows.length]!, free_window_m: 0 });
}

function nextBeam(stream: BenchStream | null) {
  const beams = stream?.bench?.unit.beams.length ?? 1;
  stream?.turn({ beam: ((stream.settings?.beam ?? 0) + 1) % beams });
}

function rejectionStep(stream: BenchStream | null, direction: 1 | -1) {
  const most = (stream?.bench?.unit.rejections.length ?? 1) - 1;
  const now = stream?.settings?.rejection;
  if (now !== undefined) stream!.turn({ rejection: Math.min(Math.max(now + direction, 0), most) });
}

function toTheLine(stream: BenchStream | null) {
  if (stream && stream.targetDepth > 0) stream.send({ to_depth_m: stream.targetDepth });
}
