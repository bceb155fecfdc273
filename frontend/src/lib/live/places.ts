// How many pictures run at once in one browser, over all of its tabs.
import { Problem } from "../api/client";

// A browser opens six connections to one program, and a picture holds one for as long as it runs: a seventh tab would
// hang without a word, and so would every button of the six. One is kept free.
const MOST_STREAMS = 5;

/** One of the places for a running picture, among all tabs of this browser; a Problem when all are taken. */
export async function takePlace(): Promise<() => void> {
  if (!("locks" in navigator)) return () => undefined; // over plain HTTP from another machine: nobody counts
  for (let k = 0; k < MOST_STREAMS; k++) {
    const place = await new Promise<(() => void) | null>((taken) => {
      void navigator.locks.request(`hollow-glint picture ${k}`, { ifAvailable: true }, (lock) => {
        if (!lock) return taken(null);
        return new Promise<void>((release) => taken(release));
      });
    });
    if (place) return place;
  }
  throw new Problem(
    429,
    `The picture runs in ${MOST_STREAMS} other tabs of this browser, and it cannot run more. Close one: this goes on then.`,
  );
}
