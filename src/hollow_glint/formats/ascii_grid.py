"""A depth grid as ESRI ASCII grid: six lines of head, then the rows from north to south. All in metres on the plane.

The format is described in Esri's "ASCII raster file format"; corners and centres of the south-west cell are both read.
"""

from __future__ import annotations

import numpy as np

from ..core.checks import InputError
from ..core.ground.contours import MOST_CELLS, Grid

MOST_BYTES = 4 * 2**20
NODATA = -9999.0
COUNTS, NUMBERS = ("ncols", "nrows"), ("xllcorner", "yllcorner", "xllcenter", "yllcenter", "cellsize", "nodata_value")


def write(grid: Grid) -> str:
    """The file's text; places without a depth are its NODATA_value."""
    rows, columns = grid.depth_m.shape
    half = 0.5 * grid.cell_m
    head = (
        f"ncols {columns}\nnrows {rows}\nxllcorner {grid.west_m - half!r}\nyllcorner {grid.south_m - half!r}\n"
        f"cellsize {grid.cell_m!r}\nNODATA_value {NODATA:g}\n"
    )
    told = np.where(np.isfinite(grid.depth_m), grid.depth_m, NODATA)[::-1]
    return head + "".join(" ".join(f"{one:.4g}" for one in row) + "\n" for row in told)


def read(text: str) -> Grid:
    """The grid that a file holds. Raises ValueError with the line and field at fault."""
    if len(text) > MOST_BYTES:
        raise InputError(f"the file has {len(text)} characters: accepted are up to {MOST_BYTES}")
    lines = text.splitlines()
    head, first = _head(lines)
    columns, rows = int(head["ncols"]), int(head["nrows"])
    if min(columns, rows) < 2 or columns * rows > MOST_CELLS:
        raise InputError(f"ncols is {columns} and nrows is {rows}: accepted are 2 and more, up to {MOST_CELLS} cells")
    cell = head["cellsize"]
    body = [line for line in lines[first:] if line.strip()]
    if len(body) != rows:
        raise InputError(f"nrows is {rows}, but {len(body)} rows follow line {first}")
    depth = np.empty((rows, columns))
    for k, line in enumerate(body):
        parts = line.split()
        if len(parts) != columns:
            raise InputError(f"line {first + k + 1} has {len(parts)} numbers: accepted are {columns}, as ncols says")
        for i, part in enumerate(parts):
            depth[rows - 1 - k, i] = _number(part, f"line {first + k + 1}: number {i + 1}")
    depth[depth == head.get("nodata_value", NODATA)] = np.nan
    if np.nanmin(depth, initial=0.0) < 0.0 or np.nanmax(depth, initial=0.0) > 500.0:
        raise InputError("a depth is outside 0 to 500 m: accepted are depths below the surface, in metres")
    west = head["xllcenter"] if "xllcenter" in head else head["xllcorner"] + 0.5 * cell
    south = head["yllcenter"] if "yllcenter" in head else head["yllcorner"] + 0.5 * cell
    return Grid(west, south, cell, depth)


def _head(lines: list[str]) -> tuple[dict[str, float], int]:
    """What the head says, and how many lines it has."""
    head: dict[str, float] = {}
    k = 0
    while k < len(lines) and (parts := lines[k].split()) and parts[0][0].isalpha():
        name = parts[0].lower()
        if name not in (*COUNTS, *NUMBERS) or len(parts) != 2:
            raise InputError(f"line {k + 1} is {lines[k][:60]!r}: accepted are a name of the head and a number")
        head[name] = _number(parts[1], f"line {k + 1}: {parts[0]}")
        if name in COUNTS and head[name] != int(head[name]):
            raise InputError(f"line {k + 1}: {parts[0]} is {parts[1]}: a whole number is accepted")
        k += 1
    missing = [one for one in (*COUNTS, "cellsize") if one not in head]
    missing += [x for x in ("xllcorner", "yllcorner") if x not in head and x.replace("corner", "center") not in head]
    if missing:
        raise InputError(f"the head has no {', '.join(missing)}: accepted is a grid of depths in ESRI ASCII form")
    if not 0.01 <= head["cellsize"] <= 10_000.0:
        raise InputError(f"cellsize is {head['cellsize']:g}: accepted are 0.01 to 10000 m")
    return head, k


def _number(text: str, where: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = np.nan
    if not np.isfinite(value):
        raise InputError(f"{where} is {text[:40]!r}: a number is accepted")
    return value
