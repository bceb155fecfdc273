// The marks that stand on a picture now, found as the eye finds them: rows that stay lit from ping to ping.
import type { History } from "./history";

export interface SeenMark {
  /** Edges as ranges from the face [m]. */
  top: number;
  bottom: number;
  /** Its strongest step on the ladder, 1 and up. */
  level: number;
}

const PINGS = 5;
const LIT_IN = 3;
const DARK_ROWS = 3;
const MOST = 24; // with the gain far too high the whole water is lit: nobody walks through all of it

/** Top to bottom, in the pings up to the one `back` ago that were painted for the same window. */
export function seenMarks(history: History, back = 0): SeenMark[] {
  const { rows } = history;
  const [top, bottom] = history.window(back);
  const at: number[] = [];
  for (let i = 0; i < PINGS && back + i < history.count; i++) {
    const [a, b] = history.window(back + i);
    if (Math.abs(a - top) < 1e-4 && Math.abs(b - bottom) < 1e-4) at.push(back + i);
  }
  const need = Math.min(LIT_IN, at.length);
  if (need === 0) return [];
  const marks: SeenMark[] = [];
  let from = -1;
  let level = 0;
  for (let row = 0; row <= rows; row++) {
    const levels = row < rows ? at.map((ping) => history.level(row, ping)) : [];
    const lit = levels.filter((one) => one > 0).length >= need;
    if (lit) {
      if (from < 0) [from, level] = [row, 0];
      level = Math.max(level, ...levels);
    } else if (from >= 0) {
      marks.push({ top: from, bottom: row, level });
      from = -1;
    }
  }
  const range = (row: number) => top + (row / rows) * (bottom - top);
  return joined(marks)
    .slice(0, MOST)
    .map((mark) => ({ ...mark, top: range(mark.top), bottom: range(mark.bottom) }));
}

/** Pieces of one mark with a few dark rows between them are one: a tail flickers. */
function joined(marks: readonly SeenMark[]): SeenMark[] {
  const whole: SeenMark[] = [];
  for (const mark of marks) {
    const last = whole.at(-1);
    if (last && mark.top - last.bottom <= DARK_ROWS)
      Object.assign(last, { bottom: mark.bottom, level: Math.max(last.level, mark.level) });
    else whole.push({ ...mark });
  }
  return whole;
}

/** Give each mark the number of the nearest one of before, so that whoever stands on one stays on it. */
export function numbered<T extends { top: number; bottom: number }>(
  marks: readonly T[],
  before: readonly { id: number; top: number; bottom: number }[],
  next: () => number,
): (T & { id: number })[] {
  const free = new Set(before);
  return marks.map((mark) => {
    let nearest: (typeof before)[number] | null = null;
    for (const one of free) {
      const apart = Math.abs(one.top - mark.top);
      const room = Math.max(mark.bottom - mark.top, 0.1);
      if (apart < room && (!nearest || apart < Math.abs(nearest.top - mark.top))) nearest = one;
    }
    if (nearest) free.delete(nearest);
    return { ...mark, id: nearest?.id ?? next() };
  });
}
