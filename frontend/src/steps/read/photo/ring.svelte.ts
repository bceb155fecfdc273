// A ring in a photo: four places of its outer rim, where its scale begins and ends, and its inner rim. Four places a
// quarter of a turn from each other are the corners of a square on the dial, and the circle runs through them.
import { api, ok } from "../../../lib/api/client";
import { form, type Laid, type Photo, type Point } from "./photo.svelte";
import { placesOf, sharesAt } from "./square";

const RIM = [
  "Upper right of the rim",
  "Lower right of the rim",
  "Lower left of the rim",
  "Upper left of the rim",
];
const ZERO = 4;
const END = 5;
const INNER = 6;
const INNER_AT = 0.375; // of a turn from the first place of the rim, at the foot: where no other handle stands
const UPPERMOST = 0.875;
const LEAST_SCALE = 0.25; // of a turn
const LEAST_INNER = 0.2; // of the outer radius
const MOST_INNER = 0.95;
const WHOLE = 0.015; // of a turn: an end so near to the zero closes the ring
const AROUND = 72;
const QUARTERS = [0, 0.25, 0.5, 0.75];

/** Shares of the square so much of a turn clockwise from its first corner, at so much of the outer radius. */
function on(turn: number, radius = 1): Point {
  const angle = 2 * Math.PI * (turn - 0.375);
  const reach = Math.SQRT1_2 * radius;
  return [0.5 + reach * Math.cos(angle), 0.5 + reach * Math.sin(angle)];
}

export class RingOn implements Laid {
  readonly #photo: Photo;
  /** Places of the outer rim a quarter of a turn from each other, clockwise from the upper right. */
  shape: Point[] = $state([]);
  /** Where the scale begins, in turns clockwise from the first of them. */
  begins = $state(UPPERMOST);
  /** How much of a turn the picture takes. */
  scale = $state(1);
  /** The inner rim, as a share of the outer. */
  inner = $state(0.6);
  clockwise = $state(true);
  /** Whether the program found it; null until it has looked. */
  found = $state<boolean | null>(null);

  constructor(photo: Photo) {
    this.#photo = photo;
    const { width, height } = photo.pixels;
    const side = 0.24 * Math.min(width, height);
    const [x, y] = [width / 2, height / 2];
    this.shape = [
      [x + side, y - side],
      [x + side, y + side],
      [x - side, y + side],
      [x - side, y - side],
    ];
  }

  /** Have the program look for it. */
  async look() {
    const told = await ok(api.POST("/api/photo/ring", form("photo", this.#photo.files.slice(0, 1))));
    this.found = told.found;
    if (!told.found) return;
    // From the uppermost place to the one at the upper right is an eighth of a turn.
    this.shape = placesOf(
      told.rim as Point[],
      QUARTERS.map((turn) => on(turn + 0.125)),
    );
    this.begins = UPPERMOST;
    this.inner = told.inner;
  }

  /** The rim's places at the zero and at each quarter of a turn clockwise from there. */
  get rim(): Point[] {
    return placesOf(
      this.shape,
      QUARTERS.map((turn) => on(this.begins + turn)),
    );
  }

  /** Turns clockwise from the rim's first place of what is so much of a turn down the scale. */
  #along(turn: number): number {
    return this.begins + (this.clockwise ? turn : -turn);
  }

  #arc(radius: number): Point[] {
    return Array.from({ length: AROUND + 1 }, (_, k) => on(this.#along((this.scale * k) / AROUND), radius));
  }

  get handles() {
    const [zero, end, inner] = placesOf(this.shape, [
      on(this.begins),
      on(this.#along(this.scale), this.inner), // of a whole ring it stands beside the zero, not on it
      on(INNER_AT, this.inner),
    ]) as [Point, Point, Point];
    return [
      ...this.shape.map((at, k) => ({ at, name: RIM[k]!, short: "rim" })),
      { at: zero, name: "Zero of the scale", short: "zero" },
      { at: end, name: "End of the scale", short: "end" },
      { at: inner, name: "Inner rim", short: "inner rim" },
    ];
  }

  get lines() {
    const ends = [0, this.scale].map((turn) => [on(this.#along(turn), this.inner), on(this.#along(turn))]);
    return [this.#arc(1), this.#arc(this.inner), ...ends].map((line) => placesOf(this.shape, line));
  }

  move(handle: number, to: Point) {
    const at = this.#photo.within(to);
    if (handle < ZERO) {
      this.shape = this.shape.map((one, k) => (k === handle ? at : one));
      return;
    }
    const [across, down] = sharesAt(this.shape, at);
    if (handle === INNER) {
      const radius = Math.hypot(across - 0.5, down - 0.5) / Math.SQRT1_2;
      this.inner = Math.min(Math.max(radius, LEAST_INNER), MOST_INNER);
      return;
    }
    const turn = (Math.atan2(down - 0.5, across - 0.5) / (2 * Math.PI) + 0.375 + 1) % 1;
    if (handle === ZERO) {
      this.begins = turn; // the whole scale turns with it
      return;
    }
    if (handle !== END) return;
    const further = (((this.clockwise ? turn - this.begins : this.begins - turn) % 1) + 1) % 1;
    // Past the zero the ring is closed, whichever side the finger comes from.
    this.scale = further < WHOLE || further > 1 - WHOLE ? 1 : Math.max(further, LEAST_SCALE);
  }
}
