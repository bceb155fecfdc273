// What the reader calls a mark, short enough to stand on the picture.
import type { NamedMark } from "../api/types";
import { depth, length, type System } from "../units";

const CALLED: Record<string, string> = {
  lure: "your lure",
  "second lure": "second lure",
  fish: "fish",
  bait: "bait",
  still: "hangs still",
};

export function markName(mark: NamedMark, system: System): string {
  const sure = mark.sure < 0.75 ? "?" : "";
  const name = CALLED[mark.kind] ?? mark.kind;
  if (mark.kind !== "fish" || !mark.fish) return `${name}${sure} ${depth(mark.depth_m, system)}`;
  const long = mark.fish.told_length_m;
  const size = long ? `${length(long[0], system)} to ${length(long[1], system)}` : "size not known";
  const going = mark.fish.going === "here" ? "" : `, ${mark.fish.going}`;
  return `${name}${sure} ${size}${going}`;
}
