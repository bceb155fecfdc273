// What of the gear stands in the way of a trip.
import type { GearItem } from "../../lib/api/types";

/** Every check that failed when it was last made. */
export const failedOf = (items: readonly GearItem[]) =>
  items.flatMap((item) =>
    item.standing.filter((one) => one.state === "failed").map((one) => ({ item, ...one })),
  );
