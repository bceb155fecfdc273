// The hand on the reel and the eyes, the same on the Bench and in a run.
import type { Key } from "../keys";
import type { Command } from "../api/types";

/** A rod over living water, whatever unit looks on. */
export interface Rod {
  eyes: "sonar" | "rod";
  lureDepth: number | null;
  targetDepth: number;
  rodTip: string;
  rodTipBend: number;
  send(
    command: Pick<Command, "lift_m_s" | "to_depth_m" | "twitch" | "eyes" | "set_hook" | "target_depth_m">,
  ): void;
  aim(depth: number): void;
  gainStep(direction: 1 | -1): void;
}

export class Hand {
  /** What it does with the line [m/s, upwards positive]. */
  speed = $state(0);

  constructor(private readonly stream: () => Rod | null) {}

  readonly lift = (speed: number) => {
    if (this.speed === speed) return;
    this.speed = speed;
    this.stream()?.send({ lift_m_s: speed });
  };

  readonly still = () => this.lift(0);

  readonly look = (eyes: "sonar" | "rod") => {
    const stream = this.stream();
    if (stream && stream.eyes !== eyes) stream.send({ eyes });
  };

  readonly twitch = () => this.stream()?.send({ twitch: true });

  /** A key or button still held when the window loses the focus is never let go: do it here. For `onMount`. */
  readonly letGoWithFocus = (): (() => void) => {
    window.addEventListener("blur", this.still);
    return () => window.removeEventListener("blur", this.still);
  };

  /** Its keys, with what Up and Down do here. */
  keys(
    up: { does: string; speed: number; withShift: number },
    down: { does: string; speed: number; withShift: number },
  ): Key[] {
    const held = ({ does, speed, withShift }: typeof up, keys: string, on: string): Key => ({
      keys,
      does,
      on: [on],
      press: (event) => this.lift(event.shiftKey ? withShift : speed),
      release: this.still,
      repeats: true,
    });
    return [
      held(up, "Up", "ArrowUp"),
      held(down, "Down", "ArrowDown"),
      { keys: "Space", does: "twitch", on: [" "], press: this.twitch },
      {
        keys: "R",
        does: "eyes on the rod tip while held",
        on: ["r"],
        press: () => this.look("rod"),
        release: () => this.look("sonar"),
      },
      {
        keys: "G",
        does: "more gain (with Shift, less)",
        on: ["g"],
        press: (event) => this.stream()?.gainStep(event.shiftKey ? -1 : 1),
        repeats: true,
      },
    ];
  }
}
