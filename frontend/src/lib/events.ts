// What is said of each thing that happens at the end of the line. A kind without words here does not compile.
import type { BenchEvent } from "./api/types";
import { depth, small, type System, toDepth, depthUnit, trim } from "./units";

type Kind = BenchEvent["kind"];
type Words = string | null | ((event: BenchEvent, system: System) => string);

const speed = (event: BenchEvent, system: System) =>
  `${trim(toDepth(Math.abs(event.number), system), 2)} ${depthUnit(system)}/s`;

/** On the Bench, where the truth is shown; null for what the picture shows well enough, or another place says. */
const ON_THE_BENCH: Record<Kind, Words> = {
  called: null,
  noticed: "A fish has turned towards your lure. Hold still, then lift slowly.",
  following: "It follows. Keep lifting slowly; do not drop back onto it.",
  "marks touching": "The marks are touching. Eyes to the rod tip.",
  bite: null, // the tip tells it, and reading the tip is the skill
  "bite beside you": "A bite on the jig beside you: that one is theirs.",
  "landed beside you": (event, system) =>
    `Landed beside you: ${small(event.fish_length_m, system)}. Hold yours still: others may be about.`,
  "bite on the stick": "The dead stick's tip moves: a bite there. Set on the dead stick.",
  "unsettled by the drop": (event, system) =>
    `The lure came down on it at ${speed(event, system)}: it stayed, and is warier now. Lift instead.`,
  "put off by the drop": "It left: the lure dropped onto it. Next time hold, or lift.",
  "put off by the lift": (event, system) => `It gave up: ${speed(event, system)} is too fast. Lift slower.`,
  "lost interest": "It lost interest and left.",
  "turned at its line": (event, system) =>
    `It turned at ${depth(event.depth_m, system)}: it goes no higher today. Stop lifting a little below that.`,
  gone: null,
  "let go": "It took the lure and let go. Watch the rod tip and set while it bends.",
  "too early": "Too early: it had not taken, and it left.",
  "too late": "Too late: it had let go. Set while the tip is bent.",
  "nothing there": "Nothing there. Set the hook when the rod tip bends.",
  "only nipped": "Only nipped: too small to take it. Leave that one, or fish a smaller lure.",
  "torn out": "Torn out: too hard for so light a hold. Set firmly, not hard.",
  "too soft": "Too soft: the hook did not go in. Set harder, or from a tighter line.",
  "line parted": "The line parted: too hard a set for it. Check the last metre and tie anew.",
  "already on": "It is already on: let it be played.",
  hooked: (event, system) =>
    event.not_kept
      ? `Hooked at ${depth(event.depth_m, system)}. The strike is not in the log yet: ${event.not_kept} It is tried again.`
      : event.strike_id === null
        ? `Hooked at ${depth(event.depth_m, system)}. This is practice, so it is not logged.`
        : `Hooked at ${depth(event.depth_m, system)}. The strike is in the log.`,
  "strike kept": (event, system) => `The strike at ${depth(event.depth_m, system)} is in the log now.`,
  landed: (event, system) => `Landed: ${small(event.fish_length_m, system)}.`,
  "nothing on": null, // only in a run
  "came off": null,
  "aim met": null, // the exercise's own bar says so
  "run over": null,
};

/** What begins and what ends a fish's having to do with the lure. */
const COMES: readonly Kind[] = ["noticed", "following", "marks touching", "bite"];
const GOES: readonly Kind[] = [
  "put off by the drop",
  "put off by the lift",
  "lost interest",
  "turned at its line",
  "gone",
  "let go",
  "too early",
  "too late",
  "torn out",
  "too soft",
  "line parted",
  "landed",
  "came off",
];

/** Whether a fish has to do with the lure after this event, when it `had` before. */
export const atTheLure = ({ kind }: BenchEvent, had: boolean) =>
  COMES.includes(kind) || (had && !GOES.includes(kind));

/** In a run only what an angler can feel or see is told: what fish do shows on the picture and the tip. */
const IN_A_RUN: Record<Kind, Words> = {
  called: null,
  noticed: null,
  following: null,
  "marks touching": null,
  bite: null,
  "bite beside you": null,
  "landed beside you": null,
  "bite on the stick": null,
  "unsettled by the drop": null,
  "put off by the drop": null,
  "put off by the lift": null,
  "lost interest": null,
  "turned at its line": null,
  gone: null,
  "let go": null,
  "too early": null,
  "too late": null,
  "nothing there": null,
  "only nipped": null,
  "torn out": null,
  "too soft": null,
  "strike kept": null,
  "aim met": null,
  hooked: "Hooked. It is being played.",
  landed: (event, system) => `Landed: a ${small(event.fish_length_m, system)} ${event.species}.`,
  "nothing on": "Nothing on.",
  "came off": "It was on for a moment, and came off.",
  "line parted": "The line parted.",
  "already on": "It is already on: let it be played.",
  "run over": (event) =>
    event.not_kept
      ? `The run is over, but not kept yet: ${event.not_kept} It is tried again.`
      : "The run is over.",
};

const say = (words: Words, event: BenchEvent, system: System) =>
  typeof words === "function" ? words(event, system) : words;

/** What the Bench says of an event, or null. */
export const told = (event: BenchEvent, system: System) => say(ON_THE_BENCH[event.kind], event, system);

/** What fish do that are not on the hook. */
const OTHERS: readonly Kind[] = [
  "noticed",
  "following",
  "marks touching",
  "bite beside you",
  "unsettled by the drop",
  "put off by the drop",
  "put off by the lift",
  "lost interest",
  "turned at its line",
];
const PLAYED_AT_MOST_MS = 10_000;

/** Says events in turn: a fish on the hook is the news until it is landed, whatever the others of its school do. */
export class Teller {
  #until = 0;

  told(event: BenchEvent, system: System, now = performance.now()): string | null {
    const on = now < this.#until;
    if (event.kind === "hooked") this.#until = now + PLAYED_AT_MOST_MS;
    else if (on && OTHERS.includes(event.kind)) return null;
    else if (event.kind === "landed") this.#until = 0;
    return told(event, system);
  }
}

/** What a run says of an event, or null. */
export const felt = (event: BenchEvent, system: System) => say(IN_A_RUN[event.kind], event, system);
