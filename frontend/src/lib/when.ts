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
