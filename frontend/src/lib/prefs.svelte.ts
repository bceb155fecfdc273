// What the reader chose for this browser: theme and units. Kept in local storage, never sent anywhere.
import type { PictureKind } from "./api/types";
import type { System } from "./units";

const KINDS = ["strip", "trace", "ring"] as const;

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

function storedText(key: string): string {
  try {
    return localStorage.getItem(`hollow-glint ${key}`) ?? "";
  } catch {
    return ""; // as above
  }
}

const calm = () => window.matchMedia("(prefers-reduced-motion: reduce)").matches;
const night = () => window.matchMedia("(prefers-color-scheme: dark)").matches;

class Prefs {
  theme: Theme = $state(stored("theme", ["rime", "lantern"] as const, night() ? "lantern" : "rime"));
  system: System = $state(stored("units", ["feet", "metric"] as const, "feet"));

  /** The pictures on the Bench, first and second; "unit" for those that the unit starts with. */
  first: PictureKind | "unit" = $state(stored("first picture", [...KINDS, "unit"] as const, "unit"));
  second: PictureKind | "none" | "unit" = $state(
    stored("second picture", [...KINDS, "none", "unit"] as const, "unit"),
  );
  grid = $state(stored("grid", ["yes", "no"] as const, "no") === "yes");
  tails = $state(stored("tails", ["yes", "no"] as const, "no") === "yes");

  /** Whether what the hand feels is heard, and shakes: who asks for less motion is not shaken unless they say so. */
  sound = $state(stored("sound", ["yes", "no"] as const, "yes") === "yes");
  vibration = $state(stored("vibration", ["yes", "no"] as const, calm() ? "no" : "yes") === "yes");

  /** Steps that are kept out of sight, by their keys. */
  hiddenSteps: readonly string[] = $state(storedText("hidden steps").split(" ").filter(Boolean));

  /** Panels that are out of sight, as "step/panel". */
  hiddenPanels: readonly string[] = $state(storedText("hidden panels").split(" ").filter(Boolean));

  showPanel(key: string, on: boolean) {
    this.hiddenPanels = on ? this.hiddenPanels.filter((one) => one !== key) : [...this.hiddenPanels, key];
    keep("hidden panels", this.hiddenPanels.join(" "));
  }

  setSound(on: boolean) {
    this.sound = on;
    keep("sound", on ? "yes" : "no");
  }

  setVibration(on: boolean) {
    this.vibration = on;
    keep("vibration", on ? "yes" : "no");
  }

  showStep(key: string, on: boolean) {
    this.hiddenSteps = on ? this.hiddenSteps.filter((one) => one !== key) : [...this.hiddenSteps, key];
    keep("hidden steps", this.hiddenSteps.join(" "));
  }

  setPictures(first: PictureKind, second: PictureKind | "none") {
    this.first = first;
    this.second = second;
    keep("first picture", first);
    keep("second picture", second);
  }

  setGrid(on: boolean) {
    this.grid = on;
    keep("grid", on ? "yes" : "no");
  }

  setTails(on: boolean) {
    this.tails = on;
    keep("tails", on ? "yes" : "no");
  }

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
