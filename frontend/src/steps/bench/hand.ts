// Hand speeds [m/s, upwards positive] and the words for what happens at the end of the line.
import { constants } from "../../lib/api/limits";
import type { BenchEvent } from "../../lib/api/types";
import { depth, small, type System } from "../../lib/units";

export const { liftSlowly: LIFT_SLOW, liftFast: LIFT_FAST, letSink: LOWER } = constants;

/** What to tell of an event, or null for what the picture shows well enough. */
export function told(event: BenchEvent, system: System): string | null {
  switch (event.kind) {
    case "noticed":
      return "A fish has turned towards your lure. Hold still, then lift slowly.";
    case "following":
      return "It follows. Keep lifting slowly; do not drop back onto it.";
    case "marks touching":
      return "The marks are touching. Eyes to the rod tip.";
    case "put off by the drop":
      return "It left: the lure dropped onto it. Next time hold, or lift.";
    case "lost interest":
      return "It lost interest and left.";
    case "hooked":
      return event.strike_id === null
        ? `Hooked at ${depth(event.depth_m, system)}. This is practice, so it is not logged.`
        : `Hooked at ${depth(event.depth_m, system)}. The strike is in the log.`;
    case "landed":
      return `Landed: ${small(event.fish_length_m, system)}.`;
    case "too early":
      return "Too early: it had not taken, and it left.";
    case "let go":
      return "It took the lure and let go. Watch the rod tip and set while it bends.";
    case "nothing there":
      return "Nothing there. Set the hook when the rod tip bends.";
    default:
      return null;
  }
}
