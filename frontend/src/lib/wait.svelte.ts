// Waiting for an answer: after a moment it shows, and after two seconds it says how far the program is.
import { api } from "./api/client";

const SHOWS_MS = 300;
const TELLS_MS = 1500;
const ASKS_MS = 400;

export class Wait {
  /** Whether anything is waited for, at once and with no word yet. */
  busy = $state(false);
  /** Whether it has been so long that it should show. */
  shown = $state(false);
  /** How far it is, 0 to 1; null while that is not known. */
  share: number | null = $state(null);
  private number = 0;

  /**
   * The answer to `ask`, which sends the header it is given, so that the program's word of how far it is can be asked
   * for. A later question takes the place of an earlier one.
   */
  async during<T>(ask: (headers: { Work: string }) => Promise<T>): Promise<T> {
    const mine = ++this.number;
    const word = crypto.randomUUID?.() ?? String(Math.random()).slice(2);
    this.busy = true;
    this.share = null;
    const show = window.setTimeout(() => (this.shown = true), SHOWS_MS);
    let asking = 0;
    const look = async () => {
      try {
        const { data } = await api.GET("/api/work/{word}", { params: { path: { word } } });
        if (mine === this.number && data?.share != null) this.share = data.share;
      } catch {
        // the program does not answer: that is said where the answer was asked for
      }
      if (asking >= 0) asking = window.setTimeout(() => void look(), ASKS_MS);
    };
    asking = window.setTimeout(() => void look(), TELLS_MS);
    try {
      return await ask({ Work: word });
    } finally {
      window.clearTimeout(show);
      window.clearTimeout(asking);
      asking = -1;
      if (mine === this.number) {
        this.busy = this.shown = false;
        this.share = null;
      }
    }
  }
}
