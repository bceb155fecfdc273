// A question that is asked again and again, but never a second time before the first was answered.

/**
 * Ask at once and then every so often, until the returned function is called. While an answer is still out, its turn is
 * left out: a machine that answers slower than it is asked would be asked ever more at once, and all else that the page
 * wants of it would wait behind. What goes wrong with it is the affair of `ask`.
 */
export function askAgain(ask: () => Promise<unknown>, everyMs: number): () => void {
  let out = false;
  const turn = async () => {
    if (out) return;
    out = true;
    try {
      await ask();
    } finally {
      out = false;
    }
  };
  void turn();
  const timer = window.setInterval(() => void turn(), everyMs);
  return () => window.clearInterval(timer);
}
