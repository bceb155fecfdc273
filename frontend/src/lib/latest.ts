// Answers that come out of turn: only the one to the last question counts.

/** A question that forgets its earlier ones: `undefined` for an answer, or a failure, that a later question overtook. */
export function latest<Asked extends unknown[], Answer>(ask: (...asked: Asked) => Promise<Answer>) {
  let last = 0;
  return async (...asked: Asked): Promise<Answer | undefined> => {
    const mine = ++last;
    try {
      const answer = await ask(...asked);
      return mine === last ? answer : undefined;
    } catch (problem) {
      if (mine === last) throw problem;
      return undefined;
    }
  };
}
