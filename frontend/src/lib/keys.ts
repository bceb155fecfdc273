// Keys of a screen: what they do, listed for the help that ? opens and for the handler at once.

export interface Key {
  /** As the help shows it; a key without is not in the help. */
  keys?: string;
  does?: string;
  /** The keys as the browser names them, letters small. */
  on: readonly string[];
  press: (event: KeyboardEvent) => void;
  release?: () => void;
  /** Whether a key that is kept down goes on doing it. */
  repeats?: boolean;
}

const named = (event: KeyboardEvent) => (event.key.length === 1 ? event.key.toLowerCase() : event.key);

/** Whether a key belongs to the control that has the focus rather than to the screen. */
export function belongsToControl(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  const tag = target?.tagName ?? "";
  if (event.ctrlKey || event.altKey || event.metaKey) return true;
  if (tag === "SELECT" || tag === "TEXTAREA") return true;
  if (tag === "INPUT")
    return /^(Arrow|Home|End|Page)/.test(event.key) || (target as HTMLInputElement).type !== "range";
  // On a button or link that was reached by keys, Space and Enter press it.
  return (tag === "BUTTON" || tag === "A") && (event.key === " " || event.key === "Enter");
}

export function pressed(keys: readonly Key[], event: KeyboardEvent) {
  if (belongsToControl(event)) return;
  const key = keys.find((one) => one.on.includes(named(event)));
  if (!key || (event.repeat && !key.repeats)) return;
  key.press(event);
  event.preventDefault();
}

export function released(keys: readonly Key[], event: KeyboardEvent) {
  keys.find((one) => one.on.includes(named(event)))?.release?.();
}

/**
 * A button that was touched has done what it does: the keys are the screen's again, so that Enter sets the hook and
 * does not press it once more. One that was reached by Tab keeps them.
 */
export function giveBack(event: MouseEvent) {
  const button = (event.target as Element | null)?.closest("button");
  if (button && event.detail > 0) button.blur();
}

/** The key of every screen that has a help of its keys. Escape is the browser's: it closes what opened last. */
export const helpKey = (show: (shown: (was: boolean) => boolean) => void): Key => ({
  keys: "?",
  does: "show or hide these keys",
  on: ["?"],
  press: () => show((was) => !was),
});
