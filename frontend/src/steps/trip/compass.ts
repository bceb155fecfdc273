// Directions as one says them.
const NAMES = ["N", "NE", "E", "SE", "S", "SW", "W", "NW"] as const;

/** The eighth of the compass that a bearing (degrees clockwise from north) lies in. */
export const compass = (bearing: number) => NAMES[Math.round((((bearing % 360) + 360) % 360) / 45) % 8]!;
