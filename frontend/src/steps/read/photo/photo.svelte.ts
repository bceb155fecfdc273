// A photo on its way to a recording, or a film's pictures: what is looked at, and what can be pointed out in it.
import { api, ok } from "../../../lib/api/client";
import type { FoundCorners, RecordingSummary, Schemas } from "../../../lib/api/types";

export type Point = readonly [number, number];
export type About = Schemas["AboutPhoto"];
export type AboutRing = Schemas["AboutRing"];
/** What is said of either. */
export type AboutShown = Omit<About, "corners" | "seconds" | "newest">;

/** What is laid over a photo: places that can be moved, and lines that follow from them [px]. */
export interface Laid {
  /** Each with its name, and what stands beside it where several look alike. */
  readonly handles: readonly { at: Point; name: string; short?: string }[];
  readonly lines: readonly (readonly Point[])[];
  move(handle: number, to: Point): void;
}

const CORNERS = ["Top left corner", "Top right corner", "Bottom right corner", "Bottom left corner"] as const;
const AROUND = 2; // pixels each way that a touched colour is the mean of

/** A form with files and what is said of them: openapi-fetch sends a body as it is when it is a form already. */
export function form(named: string, files: readonly File[], about?: unknown) {
  const sent = new FormData();
  for (const file of files) sent.append(named, file);
  if (about) sent.set("about", JSON.stringify(about));
  return { body: {} as never, bodySerializer: () => sent };
}

/** A file with its bytes: one that is moved or taken out meanwhile, as from a card, could not be sent any more. */
async function inHand(file: File): Promise<File> {
  const { name, type, lastModified } = file;
  return new File([await file.arrayBuffer()], name, { type, lastModified });
}

export class Photo {
  /** The oldest first; one, but for a film. */
  readonly files: readonly File[];
  readonly pixels: ImageBitmap;
  /** What the recording is called. */
  readonly name: string;
  /** From the first to the last, as far as files tell [s]. */
  readonly seconds: number;

  private constructor(files: readonly File[], pixels: ImageBitmap, name: string, seconds: number) {
    this.files = files;
    this.pixels = pixels;
    this.name = name.replace(/\.\w+$/, "").slice(0, 60) || "Photo";
    this.seconds = seconds;
  }

  /** The photos in files, the first of them to be looked at; an error in plain words when it is none. */
  static async of(files: readonly File[], name = files[0]!.name, seconds = 0): Promise<Photo> {
    try {
      const held = await Promise.all(files.map(inHand));
      return new Photo(held, await createImageBitmap(held[0]!), name, seconds);
    } catch {
      throw new Error(`${files[0]!.name} is no photo that can be shown: JPEG, PNG or WebP is accepted.`);
    }
  }

  /** A place, no further out than the photo goes. */
  within([x, y]: Point): Point {
    return [Math.min(Math.max(x, 0), this.pixels.width), Math.min(Math.max(y, 0), this.pixels.height)];
  }

  /** The mean colour about a place, as #rrggbb. */
  colour([x, y]: Point): string {
    const side = 2 * AROUND + 1;
    const paper = new OffscreenCanvas(side, side).getContext("2d", { willReadFrequently: true })!;
    paper.drawImage(
      this.pixels, Math.round(x) - AROUND, Math.round(y) - AROUND, side, side, 0, 0, side, side,
    ); // prettier-ignore
    const { data } = paper.getImageData(0, 0, side, side);
    const mean = [0, 1, 2].map((channel) => {
      let sum = 0;
      for (let at = channel; at < data.length; at += 4) sum += data[at]!;
      return Math.round(sum / (side * side));
    });
    return `#${mean.map((one) => one.toString(16).padStart(2, "0")).join("")}`;
  }

  /** Read a scrolling picture and keep what it shows. */
  async read(about: About, headers: Record<string, string>): Promise<RecordingSummary> {
    return await ok(api.POST("/api/photo/recordings", { ...form("photo", this.files, about), headers }));
  }

  /** Read a ring, a ping a picture, and keep what it shows. */
  async readRing(about: AboutRing, headers: Record<string, string>): Promise<RecordingSummary> {
    return await ok(
      api.POST("/api/photo/ring-recordings", { ...form("photos", this.files, about), headers }),
    );
  }
}

/** The four corners of a scrolling picture. */
export class Corners implements Laid {
  readonly #photo: Photo;
  at: Point[] = $state([]);
  /** What the program made of the corners; null until it has looked. */
  found: FoundCorners | null = $state.raw(null);

  constructor(photo: Photo) {
    this.#photo = photo;
    const { width, height } = photo.pixels;
    this.at = [
      [0.15 * width, 0.15 * height],
      [0.85 * width, 0.15 * height],
      [0.85 * width, 0.85 * height],
      [0.15 * width, 0.85 * height],
    ];
  }

  get handles() {
    return this.at.map((at, k) => ({ at, name: CORNERS[k]! }));
  }

  get lines() {
    return [[...this.at, this.at[0]!]];
  }

  move(corner: number, to: Point) {
    this.at = this.at.map((one, k) => (k === corner ? this.#photo.within(to) : one));
  }

  /** Have the program look for them. */
  async look() {
    this.found = await ok(api.POST("/api/photo/corners", form("photo", this.#photo.files)));
    if (this.found.found) this.at = this.found.corners as Point[];
  }
}
