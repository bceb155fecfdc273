// The Bench's keys. Listed once, here, for the handler and for the help that ? opens.
export const KEYS: readonly { keys: string; does: string }[] = [
  { keys: "Up", does: "lift the lure slowly while held (with Shift, fast)" },
  { keys: "Down", does: "lower the lure while held" },
  { keys: "Space", does: "twitch" },
  { keys: "R", does: "eyes on the rod tip while held" },
  { keys: "Enter", does: "set the hook" },
  { keys: "G", does: "more gain (with Shift, less)" },
  { keys: "Z", does: "next window" },
  { keys: "B", does: "next beam" },
  { keys: "X", does: "more rejection (with Shift, less)" },
  { keys: "L", does: "bring the lure to the target line" },
  { keys: "[ ]", does: "move the target line up or down" },
  { keys: "F", does: "freeze or resume" },
  { keys: ", .", does: "while frozen, one ping back or on" },
  { keys: "T", does: "hide or show the truth" },
  { keys: "?", does: "show or hide these keys" },
];

/** Whether a key belongs to the control that has the focus rather than to the Bench. */
export function belongsToControl(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  const tag = target?.tagName ?? "";
  if (event.ctrlKey || event.altKey || event.metaKey) return true;
  if (tag === "SELECT" || tag === "TEXTAREA") return true;
  if (tag === "INPUT")
    return /^(Arrow|Home|End|Page)/.test(event.key) || (target as HTMLInputElement).type !== "range";
  // On a button or link, Space and Enter press it.
  return (tag === "BUTTON" || tag === "A") && (event.key === " " || event.key === "Enter");
}
