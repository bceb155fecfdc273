// A picture that goes on: begun, listened to, begun again where the stream dropped, and ended when the page goes.
import { Problem, words } from "../api/client";
import { takePlace } from "./places";

const SILENCE_MS = 4000;
const RETRY_MS = 1500;

export abstract class Pictured<Begun extends { id: string }, Frame> {
  message = $state("");
  live = $state(false);
  /** Called whenever there is something new to paint. */
  changed: () => void = () => undefined;

  private source: EventSource | null = null;
  private place: (() => void) | null = null;
  private watchdog: number | undefined;
  private retry: number | undefined;
  protected closed = false;

  /** Ask the program for one, from the moment that was reached. */
  protected abstract ask(): Promise<Begun>;
  protected abstract took(begun: Begun): void;
  protected abstract show(frame: Frame): void;
  protected abstract end(id: string): Promise<unknown>;
  protected abstract readonly stream: { event: string; address: (id: string) => string };
  private id: string | null = null;

  async start() {
    try {
      this.place ??= await takePlace();
      if (this.closed) return this.place();
      const begun = await this.ask();
      if (this.closed) return void this.end(begun.id).catch(() => undefined);
      this.id = begun.id;
      this.took(begun);
      this.listen(begun.id);
    } catch (problem) {
      if (this.closed) return;
      this.message = words(problem);
      const refused =
        problem instanceof Problem &&
        problem.status >= 400 &&
        problem.status !== 429 &&
        problem.status !== 503;
      if (!refused) this.retry = window.setTimeout(() => void this.start(), RETRY_MS);
    }
  }

  private listen(id: string) {
    const source = new EventSource(this.stream.address(id));
    this.source = source;
    source.addEventListener(this.stream.event, (event) => {
      if (this.closed) return;
      this.live = true;
      this.message = "";
      this.watch();
      this.show(JSON.parse((event as MessageEvent<string>).data) as Frame);
      this.changed();
    });
    source.onerror = () => this.again();
    this.watch();
  }

  private watch() {
    window.clearTimeout(this.watchdog);
    this.watchdog = window.setTimeout(() => this.again(), SILENCE_MS);
  }

  /** The stream dropped: look again at the same water, from the moment that was reached. */
  private again() {
    this.source?.close();
    window.clearTimeout(this.watchdog);
    window.clearTimeout(this.retry);
    if (this.closed) return;
    this.live = false;
    this.message = "The picture stopped. Reconnecting.";
    this.retry = window.setTimeout(() => void this.start(), RETRY_MS);
  }

  close() {
    this.closed = true;
    window.clearTimeout(this.watchdog);
    window.clearTimeout(this.retry);
    this.source?.close();
    if (this.id) void this.end(this.id).catch(() => undefined);
    this.place?.();
  }
}
