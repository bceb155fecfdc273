// A photo on its way to a recording: its pixels, where the picture stands in it, the ladder's colours on it.
import { api, ok } from "../../../lib/api/client";
import type { FoundCorners, RecordingSummary, Schemas } from "../../../lib/api/types";

export type Point = readonly [number, number];
export type About = Schemas["AboutPhoto"];

export const CORNERS = ["Top left", "Top right", "Bottom right", "Bottom left"] as const;
const AROUND = 2; // pixels each way that a touched colour is the mean of

/** A form with the photo and what is said of it: openapi-fetch sends a body as it is when it is a form already. */
function form(photo: File, about?: About): { body: never; bodySerializer: () => FormData } {
  const sent = new FormData();
  sent.set("photo", photo);
  if (about) sent.set("about", JSON.stringify(about));
  return { body: {} as never, bodySerializer: () => sent };
}

export class Photo {
  readonly file: File;
  readonly pixels: ImageBitmap;
  corners: Point[] = $state([]);
  /** What the program made of the corners; null until it has looked. */
  found: FoundCorners | null = $state.raw(null);

  private constructor(file: File, pixels: ImageBitmap) {
    this.file = file;
    this.pixels = pixels;
    const { width, height } = pixels;
    this.corners = [
      [0.15 * width, 0.15 * height],
      [0.85 * width, 0.15 * height],
      [0.85 * width, 0.85 * height],
      [0.15 * width, 0.85 * height],
    ];
  }

  /** The photo in a file; an error in plain words when it is none. */
  static async of(file: File): Promise<Photo> {
    try {
      return new Photo(file, await createImageBitmap(file));
    } catch {
      throw new Error(`${file.name} is no photo that can be shown: JPEG, PNG or WebP is accepted.`);
    }
  }

  /** Have the program look for the picture's corners. */
  async look() {
    this.found = await ok(api.POST("/api/photo/corners", form(this.file)));
    if (this.found.found) this.corners = this.found.corners as Point[];
  }

  /** Move a corner to a place [px], no further than the photo goes. */
  move(corner: number, [x, y]: Point) {
    const to: Point = [
      Math.min(Math.max(x, 0), this.pixels.width),
      Math.min(Math.max(y, 0), this.pixels.height),
    ];
    this.corners = this.corners.map((one, k) => (k === corner ? to : one));
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

  /** Read it and keep what it shows. */
  async read(about: About, headers: Record<string, string>): Promise<RecordingSummary> {
    return await ok(api.POST("/api/photo/recordings", { ...form(this.file, about), headers }));
  }
}
