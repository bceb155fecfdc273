// What is said of a photographed screen, whatever its shape: depths, unit, the colours of its ladder, lure, gain.
import { api, ok } from "../../../lib/api/client";
import type { Hole } from "../../../lib/api/types";
import { world } from "../../../lib/world.svelte";
import type { AboutShown } from "./photo.svelte";

export class Shown {
  readonly hole: Hole;
  unitId = $state(world.trial?.unit_id ?? world.units[0]?.id ?? 0);
  ladderAt = $state(0);
  lureId: number | null = $state(world.trial?.lure_id ?? null);
  top = $state(0);
  bottom = $state(0);
  gain: number | null = $state(null);
  keep = $state(false);
  /** Dark water, then each step, weakest first, as #rrggbb. */
  seen: string[] = $state([]);
  /** Whether somebody pointed at these colours before. */
  pointedBefore = $state(false);

  readonly unit = $derived(world.units.find((one) => one.id === this.unitId) ?? null);
  readonly ladder = $derived(this.unit?.ladders[this.ladderAt] ?? this.unit?.ladders[0] ?? null);
  readonly names = $derived(["dark water", ...(this.ladder?.steps.map((step) => step.name) ?? [])]);

  constructor(hole: Hole) {
    this.hole = hole;
    this.bottom = Math.ceil(hole.bottom_depth_m);
  }

  /** Take the colours that are known of a unit's ladder. */
  async know(unit_id: number, ladder: number) {
    const told = await ok(
      api.GET("/api/units/{unit_id}/screen-colours", { params: { path: { unit_id }, query: { ladder } } }),
    );
    this.seen = [told.dark, ...told.colours];
    this.pointedBefore = told.pointed_at;
  }

  about(name: string, started_at: string): AboutShown {
    return {
      name,
      started_at,
      top_m: this.top,
      bottom_m: this.bottom,
      unit_id: this.unitId,
      ladder: this.ladderAt,
      gain: this.gain,
      lure_id: this.lureId,
      hole_id: this.hole.id,
      keep_photo: this.keep,
      keep_colours: true,
      dark: this.seen[0]!,
      colours: this.seen.slice(1),
    };
  }
}
