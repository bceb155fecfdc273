// Fishing under a fan that looks down: the fan's picture, and the rod over it, told of ten times a second.
import { api, ok, Problem } from "../../lib/api/client";
import type {
  AnglerCommand,
  BenchEvent,
  DrilledAt,
  Fan,
  FanFishing,
  FanFrame,
  FanReading,
} from "../../lib/api/types";
import { limits } from "../../lib/api/limits";
import { Commands } from "../../lib/live/commands";
import type { Rod } from "../../lib/live/hand.svelte";
import { FanStream, type HeadKey } from "./ahead.svelte";

/** Where lines go down: one's own hole from the head's, which way it lies, and how deep a friend's jig hangs, if any. */
export interface Seats {
  apart_m: number;
  bearing_deg: number;
  beside_m: number | null;
}

export class FishingStream extends FanStream implements Rod {
  fishing: FanFishing | null = $state.raw(null);
  reading: FanReading | null = $state.raw(null);
  eyes: "sonar" | "rod" = $state("sonar");
  lureDepth: number | null = $state(null);
  targetDepth = $state(0);
  rodTip = $state("still");
  rodTipBend = $state(0);
  // Nothing is drawn from who listens: these need not be reactive.
  // eslint-disable-next-line svelte/prefer-svelte-reactivity
  private felt = new Set<(frame: { rod_tip: string }) => void>();
  // eslint-disable-next-line svelte/prefer-svelte-reactivity
  private happened = new Set<(event: BenchEvent) => void>();

  constructor(
    readonly at: DrilledAt,
    head: HeadKey,
    readonly seats: Seats,
    from: number,
    set: ConstructorParameters<typeof FanStream>[3],
    private depth: number | null = null,
  ) {
    super(at, head, from, set);
  }

  protected override ask() {
    const { seed, lake_id, east_m, north_m, hole_east_m, hole_north_m } = this.at;
    const { hang, settings } = this.fan ? this : this.begin;
    const lure_depth_m = this.lureDepth ?? this.depth;
    const fishing = { hole_east_m, hole_north_m, ...this.seats, lure_depth_m };
    const body = { lake_id, east_m, north_m, seed, head: this.head, start_s: this.now, fishing };
    return ok(
      api.POST("/api/search/fans", {
        body: { ...body, ...(hang ? { hang } : {}), ...(settings ? { settings } : {}) },
      }),
    );
  }

  protected override took(fan: Fan) {
    super.took(fan);
    this.fishing = fan.fishing;
    this.lureDepth ??= fan.fishing?.lure_depth_m ?? null;
  }

  protected override show(frame: FanFrame) {
    super.show(frame);
    const told = frame.fishing;
    if (!told) return;
    this.lureDepth = told.lure_depth_m;
    this.eyes = told.eyes;
    this.rodTip = told.rod_tip;
    this.rodTipBend = told.rod_tip_bend;
    this.reading = told.reading;
    if (!this.commands.busy) this.targetDepth = told.target_depth_m;
    for (const listener of this.felt) listener(told);
    for (const event of told.events) for (const listener of this.happened) listener(event);
  }

  private readonly commands = new Commands<AnglerCommand>(
    () => this.fan !== null,
    async (command) => {
      try {
        await ok(api.POST("/api/search/fans/{fan_id}/hand", { params: this.path(), body: command }));
      } catch (problem) {
        if (problem instanceof Problem && problem.status === 422) this.message = problem.message;
      }
    },
  );

  send(command: AnglerCommand) {
    this.commands.send(command);
  }

  aim(depth: number) {
    this.targetDepth = depth;
    this.send({ target_depth_m: depth });
  }

  gainStep(direction: 1 | -1) {
    if (!this.settings) return;
    const { min, max } = limits.FanSettingsFields.gain_db;
    const gain_db = Math.min(Math.max(Math.round(this.settings.gain_db) + direction, min), max);
    void this.set({ settings: { gain_db } }).catch(() => undefined);
  }

  onFrame(listener: (frame: { rod_tip: string }) => void): () => void {
    this.felt.add(listener);
    return () => this.felt.delete(listener);
  }

  onEvent(listener: (event: BenchEvent) => void): () => void {
    this.happened.add(listener);
    return () => this.happened.delete(listener);
  }
}
