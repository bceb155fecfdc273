// A bench's stream: starts it, listens, sends commands, and gets it back by itself when it drops.
import { post, Problem, remove } from "../api/client";
import type { Bench, BenchEvent, Command, Frame, Settings, Tuning } from "../api/types";

export type Link = "starting" | "live" | "lost" | "refused";
const SILENCE_MS = 2500; // twenty frames a second come; this long without one is a drop
const FIRST_MS = 6000; // a busy machine may take a while to send the first
const RETRY_MS = 1500;

export class BenchStream {
  link: Link = $state("starting");
  /** What to tell the reader about the link; empty while all is well. */
  message = $state("");
  bench: Bench | null = $state(null);
  tuning: Tuning | null = $state(null);
  settings: Settings | null = $state(null);
  lureDepth: number | null = $state(null);
  rodTipBend = $state(0);
  eyes: "sonar" | "rod" = $state("sonar");
  /** Depth of the picture's edges below the face [m]. */
  top = $state(0);
  bottom = $state(0);

  private source: EventSource | null = null;
  private listeners = new Set<(frame: Frame) => void>();
  private eventListeners = new Set<(event: BenchEvent) => void>();
  private watchdog: number | undefined;
  private retry: number | undefined;
  private closed = false;
  private heard = false;
  /** Where the lure was told to go and may still be on its way to; null while it is moved by hand. */
  private goal: number | null = null;
  private waiting: Command | null = null;
  private sending = false;

  constructor(
    private readonly wanted: { hole_id: number; unit_id: number; lure_id: number; fish_length_m: number },
    private readonly seed: number | null,
  ) {}

  async start() {
    try {
      const bench = await post<Bench>("/api/benches", { ...this.wanted, seed: this.seed });
      if (this.closed) {
        void remove(`/api/benches/${bench.id}`);
        return;
      }
      const kept = this.settings;
      const depth = this.goal ?? this.lureDepth;
      this.bench = bench;
      this.settings = kept ?? bench.settings;
      this.listen();
      if (kept) this.send({ settings: kept, to_depth_m: depth });
    } catch (problem) {
      if (this.closed) return;
      const refused = problem instanceof Problem && problem.status >= 400;
      this.link = refused ? "refused" : "lost";
      this.message = problem instanceof Error ? problem.message : String(problem);
      this.retry = window.setTimeout(() => void this.start(), refused ? 2 * RETRY_MS : RETRY_MS);
    }
  }

  private listen() {
    const id = this.bench!.id;
    const source = new EventSource(`/api/benches/${id}/stream`);
    this.source = source;
    source.addEventListener("frame", (event) => this.take(JSON.parse((event as MessageEvent<string>).data)));
    source.addEventListener("tuning", (event) => {
      this.tuning = JSON.parse((event as MessageEvent<string>).data) as Tuning;
    });
    source.onerror = () => this.again();
    this.heard = false;
    this.watch();
  }

  private watch() {
    window.clearTimeout(this.watchdog);
    this.watchdog = window.setTimeout(
      () => {
        this.again();
      },
      this.heard ? SILENCE_MS : FIRST_MS,
    );
  }

  /** The stream dropped: go back to the same bench; if that has been freed, start another where the knobs stand. */
  private again() {
    this.source?.close();
    window.clearTimeout(this.watchdog);
    window.clearTimeout(this.retry);
    if (this.closed) return;
    this.link = "lost";
    this.message = "The picture stopped. Reconnecting.";
    const freed = !this.heard;
    this.retry = window.setTimeout(() => (freed ? void this.start() : this.listen()), RETRY_MS);
  }

  private take(frame: Frame) {
    if (this.closed) return;
    if (this.link !== "live") {
      this.link = "live";
      this.message = "";
    }
    this.heard = true;
    this.watch();
    this.lureDepth = frame.lure_depth_m;
    this.rodTipBend = frame.rod_tip_bend;
    this.eyes = frame.eyes;
    this.top = frame.top_m;
    this.bottom = frame.bottom_m;
    for (const listener of this.listeners) listener(frame);
    for (const event of frame.events) for (const listener of this.eventListeners) listener(event);
  }

  onFrame(listener: (frame: Frame) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  onEvent(listener: (event: BenchEvent) => void): () => void {
    this.eventListeners.add(listener);
    return () => this.eventListeners.delete(listener);
  }

  /** Turn knobs. The page shows them turned at once; the program's word follows within a frame. */
  turn(change: Partial<Settings>) {
    if (!this.settings) return;
    this.settings = { ...this.settings, ...change };
    this.send({ settings: this.settings });
  }

  /** Send a command. While one is on its way, later ones are folded together so that a dragged slider never queues. */
  send(command: Command) {
    if (this.waiting && (this.waiting.set_hook || this.waiting.twitch)) {
      command = {
        ...command,
        set_hook: command.set_hook || this.waiting.set_hook,
        twitch: command.twitch || this.waiting.twitch,
      };
    }
    if (command.to_depth_m != null) this.goal = command.to_depth_m;
    else if (command.lift_m_s != null) this.goal = null;
    const move = command.lift_m_s != null || command.to_depth_m != null;
    const rest = this.waiting
      ? move
        ? { ...this.waiting, lift_m_s: null, to_depth_m: null }
        : this.waiting
      : {};
    this.waiting = { ...rest, ...command };
    void this.flush();
  }

  private async flush() {
    if (this.sending || !this.waiting || !this.bench) return;
    this.sending = true;
    const command = this.waiting;
    this.waiting = null;
    try {
      await post(`/api/benches/${this.bench.id}/commands`, command);
      if (this.link === "live") this.message = "";
    } catch (problem) {
      if (problem instanceof Problem && problem.status === 422) this.message = problem.message;
    } finally {
      this.sending = false;
      if (this.waiting) void this.flush();
    }
  }

  close() {
    this.closed = true;
    this.source?.close();
    window.clearTimeout(this.watchdog);
    window.clearTimeout(this.retry);
    if (this.bench) void remove(`/api/benches/${this.bench.id}`).catch(() => undefined);
  }
}
