// The picture of a run, in the pages in which it comes.
import { api, ok } from "../../lib/api/client";
import type { Pings } from "../../lib/api/types";

const PAGE = 4000; // pings in a page; no run has more than two

const page = (run_id: number, first: number) =>
  ok(api.GET("/api/runs/{run_id}/pings", { params: { path: { run_id }, query: { first, count: PAGE } } }));

export const joined = (a: Pings, b: Pings): Pings => ({
  ...a,
  count: a.count + b.count,
  levels: btoa(atob(a.levels) + atob(b.levels)),
  time_s: [...a.time_s, ...b.time_s],
  top_m: [...a.top_m, ...b.top_m],
  bottom_m: [...a.bottom_m, ...b.bottom_m],
  line_in_m: [...a.line_in_m, ...b.line_in_m],
});

/** All pings of a run's picture. */
export async function pingsOf(run_id: number): Promise<Pings> {
  const first = await page(run_id, 0);
  if (first.count < PAGE) return first;
  const more = await page(run_id, PAGE);
  return more.count > 0 ? joined(first, more) : first;
}
