// Colours and textures that the canvas shares with the page, read from its stylesheet.

export interface Inks {
  ink: string;
  soft: string;
  line: string;
  water: string;
  ice: string;
  iceEdge: string;
  earth: string;
  earthLine: string;
  zone: string;
  fishZone: string;
  panel: string;
  action: string;
  font: string;
}

export function readInks(): Inks {
  const style = getComputedStyle(document.documentElement);
  const read = (name: string) => style.getPropertyValue(name).trim();
  return {
    ink: read("--ink"),
    soft: read("--soft"),
    line: read("--line"),
    water: read("--water"),
    ice: read("--ice"),
    iceEdge: read("--ice-edge"),
    earth: read("--earth"),
    earthLine: read("--earth-line"),
    zone: read("--zone"),
    fishZone: read("--fish-zone"),
    panel: read("--panel"),
    action: read("--action"),
    font: '600 11px "JetBrains Mono Variable", monospace',
  };
}

/** Grains of a bottom: x, y and size in a tile of 16. */
const GRAINS: Record<string, readonly (readonly [number, number, number])[]> = {
  sand: [
    [3, 4, 1.8],
    [11, 2, 1.8],
    [7, 9, 1.8],
    [14, 12, 1.8],
    [2, 13, 1.8],
  ],
  gravel: [
    [1, 2, 4],
    [9, 1, 3],
    [5, 9, 4.5],
    [12, 8, 3.5],
    [1, 13, 2.5],
    [10, 13, 2],
  ],
};

/** The texture of a kind of bottom, or "hatch" for the dead zone, as a tile of 16. */
export function texture(paper: CanvasRenderingContext2D, kind: string, inks: Inks): CanvasPattern {
  const tile = document.createElement("canvas");
  tile.width = tile.height = 16;
  const p = tile.getContext("2d")!;
  if (kind !== "hatch") {
    p.fillStyle = inks.earth;
    p.fillRect(0, 0, 16, 16);
  }
  p.strokeStyle = p.fillStyle = inks.earthLine;
  p.lineWidth = 1;
  p.beginPath();
  const grains = GRAINS[kind];
  if (grains) {
    for (const [x, y, size] of grains) p.rect(x, y, size, size);
    p.fill();
  } else if (kind === "hatch") {
    for (let i = -16; i <= 16; i += 8) {
      p.moveTo(i, 16);
      p.lineTo(i + 16, 0);
    }
    p.stroke();
  } else if (kind === "rock") {
    p.moveTo(0, 5);
    p.lineTo(6, 1);
    p.lineTo(10, 8);
    p.lineTo(16, 5);
    p.moveTo(10, 8);
    p.lineTo(7, 16);
    p.stroke();
  } else if (kind === "weed carpet") {
    for (const x of [2, 7, 12]) {
      p.moveTo(x, 9);
      p.quadraticCurveTo(x + 3, 5, x + 1, 0);
    }
    p.stroke();
  } else {
    for (const y of [4, 12]) {
      p.moveTo(0, y);
      p.quadraticCurveTo(4, y - (kind === "silt" ? 2 : 4), 8, y);
      p.quadraticCurveTo(12, y + (kind === "silt" ? 2 : 4), 16, y);
    }
    p.stroke();
  }
  return paper.createPattern(tile, "repeat")!;
}
