// What the reader chose for this browser: theme and units. Kept in local storage, never sent anywhere.
import type { System } from "./units";

export type Theme = "rime" | "lantern";

function stored<T extends string>(key: string, accepted: readonly T[], otherwise: T): T {
  try {
    const value = localStorage.getItem(`hollow-glint ${key}`) as T | null;
    return value && accepted.includes(value) ? value : otherwise;
  } catch {
    return otherwise; // storage switched off: choices last as long as the page
  }
}

function keep(key: string, value: string) {
  try {
    localStorage.setItem(`hollow-glint ${key}`, value);
  } catch {
    // nothing to do: see above
  }
}

const night = () => window.matchMedia("(prefers-color-scheme: dark)").matches;

class Prefs {
  theme: Theme = $state(stored("theme", ["rime", "lantern"] as const, night() ? "lantern" : "rime"));
  system: System = $state(stored("units", ["feet", "metric"] as const, "feet"));

  setTheme(theme: Theme) {
    this.theme = theme;
    keep("theme", theme);
  }

  setSystem(system: System) {
    this.system = system;
    keep("units", system);
  }
}

export const prefs = new Prefs();
