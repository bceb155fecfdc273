// The board as a member's phone has it: asked anew whenever something is said, and caught up with after a sleep.
import { api, ok, Problem, words } from "../lib/api/client";
import type { Board } from "../lib/api/types";
import { Notes } from "../pocket/notes.svelte";

const WAITS_S = 20;
const AGAIN_MS = 2500;
const ACKNOWLEDGED = "hollow-glint crew acknowledged";
/** Notes of the crew's own page belong to no pocket sheet. */
const NO_SHEET = { id: "00".repeat(16), made_at: "2020-01-01T00:00:00Z" };

export class CrewBoard {
  board: Board | null = $state.raw(null);
  /** Whether this phone is in the crew: null until that is known. */
  isIn: boolean | null = $state(null);
  trouble = $state("");
  /** Whether the program is out of reach just now. */
  away = $state(false);
  notes = new Notes(NO_SHEET);
  private acknowledged: readonly string[] = $state.raw(kept());
  private stopped = false;

  unsent = $derived(this.notes.notes.filter((one) => !this.acknowledged.includes(one.id) && !one.back));

  async start() {
    await this.look();
    while (!this.stopped) {
      if (!this.isIn) return;
      await this.news();
    }
  }

  stop = () => (this.stopped = true);

  /** The board as it stands. */
  async look() {
    try {
      this.board = await ok(api.GET("/api/crew/board"));
      this.isIn = true;
      this.away = false;
      await this.send();
    } catch (problem) {
      this.failed(problem);
    }
  }

  private async news() {
    const after = this.board?.last ?? 0;
    try {
      const query = { after, wait_s: this.away ? 0 : WAITS_S };
      const { last } = await ok(api.GET("/api/crew/news", { params: { query } }));
      if (last !== after || this.away || this.unsent.length > 0) await this.look();
    } catch (problem) {
      this.failed(problem);
      await new Promise((done) => window.setTimeout(done, AGAIN_MS));
    }
  }

  private failed(problem: unknown) {
    if (problem instanceof Problem && problem.status === 401) this.isIn = false;
    else if (problem instanceof Problem && problem.status === 0) this.away = true;
    else this.trouble = words(problem);
  }

  async join(given: string, name: string) {
    this.trouble = "";
    try {
      await ok(api.POST("/api/crew/join", { body: { given, name } }));
      history.replaceState(null, "", location.pathname); // the code is spent, and is nobody else's to read
      this.stopped = false;
      void this.start();
    } catch (problem) {
      this.trouble = words(problem);
    }
  }

  /** Something is sent, and the board looked at anew. */
  async act(work: () => Promise<unknown>) {
    this.trouble = "";
    try {
      await work();
    } catch (problem) {
      this.failed(problem);
    }
    await this.look();
  }

  /** What was noted goes on its way; what is not acknowledged stays in the phone and is sent again. */
  async send() {
    const unsent = this.unsent;
    if (unsent.length === 0) return;
    const text = await this.notes.file(unsent).text();
    const { ids } = await ok(api.POST("/api/crew/notes", { body: { text } }));
    this.acknowledged = [...this.acknowledged, ...ids];
    keep(this.acknowledged);
  }
}

function kept(): string[] {
  try {
    return JSON.parse(localStorage.getItem(ACKNOWLEDGED) ?? "[]") as string[];
  } catch {
    return [];
  }
}

function keep(ids: readonly string[]) {
  try {
    localStorage.setItem(ACKNOWLEDGED, JSON.stringify(ids));
  } catch {
    // then they are sent again another time, and taken in once all the same
  }
}
