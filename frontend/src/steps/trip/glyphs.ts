// Small drawings for what lies on the bed or in the ice: a path in a box of 20, in our own hand.
import type { LakeThings } from "../../lib/api/types";

type Kind = LakeThings["structures"][number]["kind"];

export const GLYPHS: Record<Kind, { path: string; filled?: boolean; thin?: boolean }> = {
  timber: { path: "M3 15 17 6M4 8l13 7M9 3l2 14" },
  brush: { path: "M10 18V8M10 12 5 4M10 12l5-8M10 15 3 9M10 15l7-6" },
  boulder: { path: "M4 15c-2-6 2-11 7-11 5 0 8 6 5 11z", filled: true },
  "rock pile": { path: "M2 16h7l-3-6zM11 16h7l-4-7zM7 9h6L10 3z", filled: true },
  crib: { path: "M4 4h12v12H4zM4 10h12M10 4v12" },
  "weed edge": { path: "M4 18c4-5-3-8 1-15M10 18c4-5-3-8 1-15M16 18c4-5-3-8 1-15" },
  "school seen": {
    path: "M2 6c3-3 6-3 8 0-2 3-5 3-8 0zM10 12c2-3 5-3 8 0-3 3-6 3-8 0zM3 15c2-2 4-2 6 0-2 2-4 2-6 0z",
  },
  spring: { path: "M10 16V9M6 12l4-4 4 4M3 17h14", thin: true },
  inlet: { path: "M3 5c4 0 4 5 8 5h6M13 6l4 4-4 4M3 11c3 0 4 4 7 4", thin: true },
  "pressure ridge": { path: "M2 14l4-8 3 8 4-8 3 8 2-4", thin: true },
};
