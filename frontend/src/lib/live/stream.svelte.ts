// A bench's stream: starts it, listens, sends commands, and gets it back by itself when it drops.
import { api, ok, Problem, words } from "../api/client";
import { Commands } from "./commands";
import { takePlace } from "./places";
import type {
  Bench,
  BenchEvent,
  BenchWanted,
  Command,
  Frame,
  ReadingNow,
  RunWanted,
  Scene,
  Settings,
  Tuning,
} from "../api/types";

export type Link = "starting" | "live" | "lost" | "refused";
const SILENCE_MS = 2500; // twenty frames a second come; this long without one is a drop
const FIRST_MS = 6000; // a busy machine may take a while to send the first
const RETRY_MS = 1500;

const openBench = (body: BenchWanted) => api.POST("/api/benches", { body });

export class BenchStream {
  link: Link = $state("starting");
  /** What to tell the reader about the link; empty while all is well. */
  message = $state("");
  bench: Bench | null = $state(null);
  tuning: Tuning | null = $state(null);
  /** What the reader says; null while nobody asked it. */
  reading: ReadingNow | null = $state(null);
  private reads = false;
  settings: Settings | null = $state(null);
  /** The water as it is, and how the transducer hangs. */
  scene: Scene | null = $state(null);
  targetDepth = $state(0);
  lockDepth: number | null = $state(null);
  lureDepth: number | null = $state(null);
  rodTipBend = $state(0);
  rodTip = $state("still");
  stickTipBend = $state(0);
  stickTip = $state("still");
  rising = $state(0);
  time = $state(0);
  /** In a run that is over: where it is kept. */
  runId: number | null = $state(null);
  eyes: "sonar" | "rod" = $state("sonar");
  /** Depth of the picture's edges below the face [m]. */
  top = $state(0);
  bottom = $state(0);

  /** Gives up the place that this stream has among the few that a browser lets run. */
  private place: (() => void) | null = null;
  private source: EventSource | null = null;
  // Nothing is drawn from who listens: these need not be reactive.
  // eslint-disable-next-line svelte/prefer-svelte-reactivity
  private listeners = new Set<(frame: Frame) => void>();
  // eslint-disable-next-line svelte/prefer-svelte-reactivity
  private eventListeners = new Set<(event: BenchEvent) => void>();
  private watchdog: number | undefined;
  private retry: number | undefined;
  private closed = false;
  /** A run is being ended: its stream stops for that reason. */
  private ending = false;
  private heard = false;
  /** Where the lure was told to go and may still be on its way to; null while it is moved by hand. */
  private goal: number | null = null;
  private accepted: Scene | null = null;

  private constructor(
    private readonly open: (seed: number | null) => ReturnType<typeof openBench>,
    private readonly seed: number | null,
  ) {}

  static ofBench(wanted: BenchWanted, seed: number | null) {
    return new BenchStream((seed) => openBench({ ...wanted, seed }), seed);
  }

  /** A run of the strike drill, which is never begun anew when it is lost. */
  static ofRun(wanted: RunWanted, seed: number | null) {
    return new BenchStream((seed) => api.POST("/api/runs/start", { body: { ...wanted, seed } }), seed);
  }

  async start() {
    try {
      this.place ??= await takePlace();
      if (this.closed) return this.giveUpPlace();
      const bench = await ok(this.open(this.seed));
      if (this.closed) {
        void ok(api.DELETE("/api/benches/{bench_id}", { params: { path: { bench_id: bench.id } } }));
        return;
      }
      const kept = this.settings;
      const depth = this.goal ?? this.lureDepth;
      this.bench = bench;
      const scene = this.scene;
      this.settings = kept ?? bench.settings;
      this.scene = scene ?? bench.scene;
      this.lureDepth ??= bench.lure_depth_m;
      this.listen();
      if (this.reads) this.send({ read: true });
      if (kept) this.send({ settings: kept, scene, to_depth_m: depth, target_depth_m: this.targetDepth });
    } catch (problem) {
      if (this.closed) return;
      const refused = problem instanceof Problem && problem.status >= 400;
      this.link = refused ? "refused" : "lost";
      this.message = words(problem);
      this.retry = window.setTimeout(() => void this.start(), refused ? 2 * RETRY_MS : RETRY_MS);
    }
  }

  private giveUpPlace() {
    this.place?.();
    this.place = null;
  }

  private listen() {
    const id = this.bench!.id;
    const source = new EventSource(`/api/benches/${id}/stream`);
    this.source = source;
    source.addEventListener("frame", (event) => this.take(JSON.parse((event as MessageEvent<string>).data)));
    source.addEventListener("tuning", (event) => {
      this.tuning = JSON.parse((event as MessageEvent<string>).data) as Tuning;
    });
    source.addEventListener("reading", (event) => {
      if (this.reads) this.reading = JSON.parse((event as MessageEvent<string>).data) as ReadingNow;
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
    if (this.closed || this.ending || this.runId !== null) return;
    this.link = "lost";
    this.message = "The picture stopped. Reconnecting.";
    const freed = !this.heard;
    if (freed && this.bench?.run) {
      this.message = "This run was lost: nobody watched it for a while. Begin another.";
      return;
    }
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
    this.rodTip = frame.rod_tip;
    this.stickTipBend = frame.stick_tip_bend;
    this.stickTip = frame.stick_tip;
    this.rising = frame.lure_rising_m_s;
    this.time = frame.time_s;
    this.eyes = frame.eyes;
    this.lockDepth = frame.lock_m;
    if (!this.commands.busy) {
      this.targetDepth = frame.target_depth_m;
      // Automatic range turns its own knob.
      if (this.settings?.auto_range && this.settings.range_m !== frame.settings.range_m)
        this.settings = { ...this.settings, range_m: frame.settings.range_m };
    }
    this.top = frame.top_m;
    this.bottom = frame.bottom_m;
    for (const listener of this.listeners) listener(frame);
    for (const event of frame.events) for (const listener of this.eventListeners) listener(event);
    if (frame.run_id !== null) {
      this.runId = frame.run_id;
      this.source?.close();
      window.clearTimeout(this.watchdog);
      this.giveUpPlace();
    }
  }

  /** End a run before its time: it is kept, and where is known. */
  async endRun() {
    if (!this.bench || this.ending || this.runId !== null) return;
    this.ending = true;
    try {
      this.runId = (
        await ok(
          api.POST("/api/benches/{bench_id}/end-run", {
            params: { path: { bench_id: this.bench.id } },
          }),
        )
      ).id;
      this.source?.close();
      window.clearTimeout(this.watchdog);
      this.giveUpPlace();
    } catch (problem) {
      this.ending = false;
      this.message = words(problem);
      if (this.source?.readyState === EventSource.CLOSED) this.again();
    }
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

  /** One step of the gain knob up or down. */
  gainStep(direction: 1 | -1) {
    if (!this.bench || !this.settings) return;
    const { minimum, maximum, step } = this.bench.unit.gain;
    this.turn({ gain: Math.min(Math.max(this.settings.gain + direction * step, minimum), maximum) });
  }

  /** Change the water or how the transducer hangs. */
  change(change: Partial<Scene>) {
    if (!this.scene) return;
    this.scene = { ...this.scene, ...change };
    this.send({ scene: this.scene });
  }

  /** Have the reader name the marks, or stop it. */
  read(on: boolean) {
    this.reads = on;
    if (!on) this.reading = null;
    this.send({ read: on });
  }

  aim(depth: number) {
    this.targetDepth = depth;
    this.send({ target_depth_m: depth });
  }

  send(command: Command) {
    if (command.to_depth_m != null) this.goal = command.to_depth_m;
    else if (command.lift_m_s != null) this.goal = null;
    this.commands.send(command);
  }

  private readonly commands = new Commands<Command>(
    () => this.bench !== null,
    (command) => this.post(command),
  );

  private async post(command: Command) {
    try {
      await ok(
        api.POST("/api/benches/{bench_id}/commands", {
          params: { path: { bench_id: this.bench!.id } },
          body: command,
        }),
      );
      if (command.scene) this.accepted = command.scene as Scene;
      if (this.link === "live") this.message = "";
    } catch (problem) {
      if (problem instanceof Problem && problem.status === 422) {
        this.message = problem.message;
        // What was refused is not how things stand: show the water as the program last took it.
        if (command.scene) this.scene = this.accepted ?? this.bench!.scene;
      }
    }
  }

  close() {
    this.closed = true;
    this.source?.close();
    window.clearTimeout(this.watchdog);
    window.clearTimeout(this.retry);
    this.giveUpPlace();
    if (this.bench)
      void ok(api.DELETE("/api/benches/{bench_id}", { params: { path: { bench_id: this.bench.id } } })).catch(
        () => undefined,
      );
  }
}
