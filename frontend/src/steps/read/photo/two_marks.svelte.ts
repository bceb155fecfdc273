// Two marks of a known time, touched in a photo: how long its picture is follows from how far apart they stand.
import type { Point } from "./photo.svelte";
import { sharesAt } from "./square";

const LEAST_APART = 0.05; // of the width: nearer marks tell no time
const SHORTEST_S = 1;
const LONGEST_S = 7200;

export class TwoMarks {
  counting = $state(false);
  /** Between the two [s]. */
  between = $state(10);
  #touched: Point[] = $state([]);

  /** What is to be touched now, in words; null for nothing. */
  get asked(): string | null {
    if (!this.counting || this.#touched.length === 2) return null;
    return this.#touched.length === 0 ? "the older mark" : "the newer mark";
  }

  begin() {
    this.counting = true;
    this.#touched = [];
  }

  /** Stop, whatever was touched so far. */
  leave() {
    this.counting = false;
  }

  touch(at: Point) {
    this.#touched = [...this.#touched, at];
  }

  /** From side to side [s], null before both are touched. Raises an error in plain words for marks side by side. */
  seconds(corners: readonly Point[]): number | null {
    const [one, other] = this.#touched;
    if (!one || !other) return null;
    const share = Math.abs(sharesAt(corners, other)[0] - sharesAt(corners, one)[0]);
    if (!(share >= LEAST_APART)) {
      this.#touched = [];
      throw new Error("Those two marks stand side by side: touch two that are further apart.");
    }
    const whole = Math.round((10 * this.between) / share) / 10;
    return Math.min(Math.max(whole, SHORTEST_S), LONGEST_S);
  }
}
