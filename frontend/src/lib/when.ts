// Times as the reader's own clock has them.

/** Date and time, with the year where it is asked for. */
export const when = (iso: string, year = false) =>
  new Date(iso).toLocaleString(undefined, {
    year: year ? "numeric" : undefined,
    month: "short",
    day: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  });

/** The time of day. */
export const timeOf = (at: string | Date) =>
  new Date(at).toLocaleTimeString(undefined, { hour: "2-digit", minute: "2-digit" });

/** Now, as a file has it: UTC, to the second. */
export const isoNow = () => new Date().toISOString().replace(/\.\d+Z$/, "Z");

/** The minute of the day by a clock that is so many minutes ahead of UTC. */
export function minuteNow(offset_min: number): number {
  const now = new Date();
  return (now.getUTCHours() * 60 + now.getUTCMinutes() + offset_min + 1440) % 1440;
}
