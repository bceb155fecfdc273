// A place out of the log into the coming day of its lake: the next trip begins with what the last ones taught.
import { api, ok } from "../../lib/api/client";
import type { DayPlace, TripDay } from "../../lib/api/types";

const NEAR_M = 15;

/** What to say of it: it is put in, or was in already. */
export async function intoTheDay(lakeId: number, place: DayPlace): Promise<string> {
  const params = { path: { lake_id: lakeId } };
  const answer = await ok(api.GET("/api/lakes/{lake_id}/day", { params }));
  const { id: _, version, ...day } = answer;
  const there = day.places.find(
    (one) => Math.hypot(one.east_m - place.east_m, one.north_m - place.north_m) < NEAR_M,
  );
  if (there?.wanted && !there.out) return `${there.name || "That place"} is in the coming day already.`;
  const places = day.places.filter((one) => one !== there);
  const body = { ...day, places: [...places, place] } as TripDay;
  await ok(
    api.PUT("/api/lakes/{lake_id}/day", {
      params: { ...params, header: { "If-Match": `"${version}"` } },
      body,
    }),
  );
  return `${place.name} is in the coming day.`;
}
