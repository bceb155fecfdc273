// Colour ladders: lightness ramps from dark water to the strongest echo, one for each theme.
import type { Theme } from "../prefs.svelte";

const ANCHORS: Record<Theme, string[]> = {
  // Hearth: weak is dark, strong is light, for dark-adapted eyes.
  lantern: ["#0b1822", "#2e4a57", "#5e8a94", "#c9b98f", "#f0a35a", "#fff3df"],
  // Graphite: weak is light, strong is dark, for snow glare.
  rime: ["#eef3f2", "#bccacd", "#8fa3aa", "#5f7782", "#344d58", "#08171e"],
};

export type Rgb = readonly [number, number, number];

function parse(hex: string): Rgb {
  const value = Number.parseInt(hex.slice(1), 16);
  return [(value >> 16) & 255, (value >> 8) & 255, value & 255];
}

/** Colours for level 0 (dark water) to `steps`, spread evenly along the theme's ramp. */
export function ladder(theme: Theme, steps: number): Rgb[] {
  const anchors = ANCHORS[theme].map(parse);
  return Array.from({ length: steps + 1 }, (_, level) => {
    const at = (level / steps) * (anchors.length - 1);
    const low = Math.min(Math.floor(at), anchors.length - 2);
    const [a, b] = [anchors[low]!, anchors[low + 1]!];
    const mix = (i: 0 | 1 | 2) => Math.round(a[i] + (b[i] - a[i]) * (at - low));
    return [mix(0), mix(1), mix(2)] as const;
  });
}

export const css = ([r, g, b]: Rgb) => `rgb(${r} ${g} ${b})`;
