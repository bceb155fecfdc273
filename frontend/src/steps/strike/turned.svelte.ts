// Where fish turned in this run, and the rise line that those heights make.
import { api, ok } from "../../lib/api/client";
import type { RiseLine } from "../../lib/api/types";
import type { BenchStream } from "../../lib/live/stream.svelte";

export class TurnedHere {
  heights_m: number[] = $state([]);
  line: RiseLine | null = $state(null);

  constructor(private readonly stream: BenchStream) {}

  /** A fish turned where the lure is now. */
  async note() {
    const { lureDepth, scene } = this.stream;
    if (lureDepth === null || !scene) return;
    this.heights_m = [...this.heights_m, lureDepth];
    try {
      const found = await ok(
        api.POST("/api/rise-line", {
          body: {
            heights: this.heights_m.map((depth_m) => ({ depth_m, turned: true })),
            top_m: scene.ice_thickness_m,
            bottom_m: scene.bottom_depth_m,
          },
        }),
      );
      this.line = found.line;
    } catch {
      this.line = null; // without an estimate the notes still stand
    }
  }
}
