/** Give the focus back to where it was; where that is gone, to the page, so that the next Tab is not at its head. */
export function backTo(before: Element | null) {
  const now = document.activeElement;
  if (now && now !== document.body) return;
  if (before instanceof HTMLElement && before.isConnected && before !== document.body) {
    before.focus();
    return;
  }
  toPage();
}

/** Put the focus on the page itself, past its head. */
export function toPage() {
  const page = document.querySelector("main");
  if (!page) return;
  page.tabIndex = -1;
  page.focus();
}

export interface Rect {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/**
 * Where a box goes beside what it is about, in the window, so that it does not cover it: below, above, right or left
 * of it, whichever has room; where none has, over the larger half.
 */
export function beside(about: Rect, width: number, height: number, gap = 8): { left: number; top: number } {
  const [w, h] = [window.innerWidth, window.innerHeight];
  const x = Math.min(Math.max(about.left, gap), Math.max(w - width - gap, gap));
  const y = Math.min(Math.max(about.top, gap), Math.max(h - height - gap, gap));
  if (about.bottom + gap + height <= h) return { left: x, top: about.bottom + gap };
  if (about.top - gap - height >= 0) return { left: x, top: about.top - gap - height };
  if (about.right + gap + width <= w) return { left: about.right + gap, top: y };
  if (about.left - gap - width >= 0) return { left: about.left - gap - width, top: y };
  return { left: x, top: about.top > h / 2 ? gap : Math.max(h - height - gap, gap) };
}
