// Which views a unit has, as its owner ticked them: kept in this browser, by unit.
const KEY = "hollow-glint views";

function read(): Record<string, string[]> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "{}") as Record<string, string[]>;
  } catch {
    return {};
  }
}

export const ownViews = {
  of: (unit: number): string[] | null => read()[unit] ?? null,
  keep(unit: number, views: readonly string[]) {
    try {
      localStorage.setItem(KEY, JSON.stringify({ ...read(), [unit]: views }));
    } catch {
      // kept as long as the page
    }
  },
};
