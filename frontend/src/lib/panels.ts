// The panels of each step that has several, and which of them a person wants to see.
import { prefs } from "./prefs.svelte";

export const PANELS = {
  trip: [
    { key: "day", name: "Day" },
    { key: "walk", name: "Walk" },
    { key: "power", name: "Power" },
    { key: "rig", name: "Rig" },
    { key: "lake", name: "Lake" },
    { key: "along", name: "Along" },
    { key: "crew", name: "Crew" },
  ],
  search: [
    { key: "look", name: "Look" },
    { key: "set", name: "Settings" },
  ],
  card: [
    { key: "card", name: "The card" },
    { key: "shelter", name: "Shelter" },
  ],
  bench: [
    { key: "Tune", name: "Tune" },
    { key: "Picture", name: "Picture" },
    { key: "Water", name: "Water" },
    { key: "Practice", name: "Practice" },
  ],
  read: [
    { key: "sheet", name: "Call sheet" },
    { key: "drills", name: "Drills" },
    { key: "recordings", name: "Recordings" },
    { key: "photo", name: "Photo" },
  ],
  strike: [
    { key: "runs", name: "Runs" },
    { key: "lab", name: "Cadence lab" },
    { key: "sheet", name: "Strike sheet" },
  ],
  log: [
    { key: "outings", name: "Outings" },
    { key: "teaches", name: "What it teaches" },
    { key: "next", name: "Where next" },
    { key: "hole", name: "This hole" },
    { key: "files", name: "In and out" },
  ],
} as const;
type Step = keyof typeof PANELS;
export type Panel<S extends Step> = (typeof PANELS)[S][number]["key"];

/** The panels of a step that stand in sight; the one that is open always does. */
export const inSight = <S extends Step>(step: S, open: Panel<S>): { key: Panel<S>; name: string }[] =>
  PANELS[step].filter(({ key }) => key === open || !prefs.hiddenPanels.includes(`${step}/${key}`));
