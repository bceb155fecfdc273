// Which steps stand in the navigation and which under its menu.

const NARROWEST = 44; // pixels that a finger needs

/**
 * Of `steps` in working order those that stand in a row of `width` pixels, and the rest: what does not fit, last ones
 * first, and what is hidden. The one that is open always stands in the row. A row of its own width takes all.
 */
export function inRow<T extends { key: string }>(
  steps: readonly T[],
  open: string,
  hidden: readonly string[],
  width: number,
): { row: T[]; rest: T[] } {
  const wanted = steps.filter(({ key }) => key === open || !hidden.includes(key));
  const places = Math.max(Math.floor(width / NARROWEST), 2);
  let row = wanted;
  if (wanted.length + (wanted.length < steps.length ? 1 : 0) > places) {
    row = wanted.slice(0, places - 1);
    if (!row.some(({ key }) => key === open))
      row = [...row.slice(0, -1), ...wanted.filter(({ key }) => key === open)];
  }
  return { row, rest: steps.filter((one) => !row.includes(one)) };
}
