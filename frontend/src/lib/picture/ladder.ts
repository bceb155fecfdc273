// The colours of a unit's ladder in either theme, dimmed as its screen is.
import type { Ladder } from "../api/types";
import type { Theme } from "../prefs.svelte";

export type Rgb = readonly [number, number, number];

function parse(hex: string): Rgb {
  const value = Number.parseInt(hex.slice(1), 16);
  return [(value >> 16) & 255, (value >> 8) & 255, value & 255];
}

/** Colours for level 0 (dark water) and each step, at `light` of the screen's full brightness. */
export function ladderColours(ladder: Ladder, theme: Theme, light: number): Rgb[] {
  const dark = theme === "rime" ? ladder.rime_dark : ladder.lantern_dark;
  return [dark, ...ladder.steps.map((step) => step[theme])].map((hex) => {
    const [r, g, b] = parse(hex);
    return [Math.round(r * light), Math.round(g * light), Math.round(b * light)] as const;
  });
}

export const css = ([r, g, b]: Rgb) => `rgb(${r} ${g} ${b})`;
