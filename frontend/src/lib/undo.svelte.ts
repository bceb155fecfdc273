// What was removed last can be brought back: in place of a question before, a way back after.
import { api, ok, words } from "./api/client";

interface Offer {
  text: string;
  back: () => unknown;
}

class Undo {
  offer: Offer | null = $state(null);
  /** What is said once it is taken, or cannot be. */
  said = $state("");

  /** Something is gone from the page alone. */
  here(text: string, back: () => unknown) {
    this.offer = { text, back };
    this.said = "";
  }

  /**
   * Something is gone from the store. It is said once `gone` has taken it off the page as well, so that nobody takes
   * what is still listed for what came back; `back` shows it again.
   */
  async kept(text: string, { removal }: { removal: number }, gone: () => unknown, back = gone) {
    try {
      await gone();
    } finally {
      this.offerBack(text, removal, back); // even where the list could not be read again
    }
  }

  private offerBack(text: string, removal: number, reload: () => unknown) {
    this.offer = {
      text,
      back: async () => {
        await ok(api.POST("/api/removals/{removal_id}/undo", { params: { path: { removal_id: removal } } }));
        await reload();
      },
    };
    this.said = "";
  }

  async take() {
    const { offer } = this;
    this.offer = null;
    if (!offer) return;
    try {
      await offer.back();
      this.said = "It is back.";
    } catch (problem) {
      this.said = words(problem);
    }
  }

  close() {
    this.offer = null;
    this.said = "";
  }
}

export const undo = new Undo();
