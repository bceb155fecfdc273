// What a mark can be, summed from tables that were made at home: nothing is computed here that the program does not.
import type { Sheet } from "./told";

export interface Touches {
  kinds: string[];
  lengths_m: number[];
  lowest: number;
  log_step: number;
  aside_step_m: number;
  planes: number;
  prior: number[];
  axes: { thickness: string[]; motion: string[]; change: string[]; near: string[] };
  bottoms: string[];
  counts: Record<"thickness" | "motion" | "change" | "near", number[][]>;
  bottom_counts: number[][];
  /** First the words, then for each kind which of them stands for a combination of touches. */
  looks: [string[], ...number[][]];
  to_do: string[];
  do: number[][];
  do_merged: number[][];
}

/** A mark as it was touched in; `bottom` null where nobody looked. */
export interface Mark {
  shown_m: number;
  colour: number;
  thickness: string;
  motion: string;
  change: string;
  near: string;
  bottom: string | null;
}

export interface CallThere {
  kind: string;
  chance: number;
  because: string;
  do: string;
  fish: { shortest_m: number; longest_m: number; aside_m: number } | null;
}

const LEAST = 0.02; // less is not worth a line
const AXES = ["thickness", "motion", "change", "near"] as const;
const TAIL_NEAR = ["at the bottom", "under the bottom"];

/** What it can be, likeliest first; nothing where the place is off the scale. */
export function callsOf(sheet: Sheet, c: number, k: number, seen: Mark): CallThere[] {
  const { touches: t, depths } = sheet.told.cards;
  const there = sheet.card(c, k);
  if (!there) return [];
  const [, places] = sheet.shape(c, k);
  const place = Math.round(seen.shown_m / depths.step_m) - 1;
  if (place < 0 || place >= places) return [];
  const planes = sheet.planes(c, k, seen.colour, place);
  const log = (byte: number) => t.lowest + t.log_step * byte;
  const at = AXES.map((axis) => t.axes[axis].indexOf(seen[axis]));
  const bottom = seen.bottom === null ? -1 : t.bottoms.indexOf(seen.bottom);
  const isTail = seen.thickness === "band" && TAIL_NEAR.includes(seen.near);
  const logs = t.kinds.map((kind, n) => {
    const model = kind === "the bottom" && isTail ? log(planes[t.kinds.length]!) : log(planes[n]!);
    const touched = AXES.reduce((sum, axis, a) => sum + t.counts[axis][at[a]!]![n]!, 0);
    return t.prior[n]! + touched + (bottom < 0 ? 0 : t.bottom_counts[bottom]![n]!) + model;
  });
  const best = Math.max(...logs);
  const total = logs.reduce((sum, one) => sum + Math.exp(one - best), 0);
  const looks = at.reduce((index, one, a) => index * t.axes[AXES[a]!].length + one, 0);
  const merged = isMerged(seen, there.lureShown_m, there.merged_m);
  const [low, high, aside] = planes.slice(t.kinds.length + 1) as [number, number, number];
  return t.kinds
    .map((kind, n) => ({
      kind,
      chance: Math.exp(logs[n]! - best) / total,
      because: t.looks[0][(t.looks[n + 1] as number[])[looks]!]!,
      do: t.to_do[(merged ? t.do_merged : t.do)[n]![looks * (t.bottoms.length + 1) + bottom + 1]!]!,
      fish:
        kind === "a fish" || kind === "baitfish"
          ? {
              shortest_m: t.lengths_m[low]!,
              longest_m: t.lengths_m[high]!,
              aside_m: t.aside_step_m * aside,
            }
          : null,
    }))
    .sort((a, b) => b.chance - a.chance)
    .filter((one, n) => n === 0 || one.chance >= LEAST);
}

function isMerged(seen: Mark, lureShown_m: number, within_m: number): boolean {
  if (seen.near !== "near the lure" || seen.motion === "sinking" || seen.change === "fading") return false;
  return seen.thickness === "thicker" && Math.abs(seen.shown_m - lureShown_m) < within_m;
}
