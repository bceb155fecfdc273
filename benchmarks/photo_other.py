"""Photos by another hand: pictures that no water makes, on a plain ground, under light that is nearly even or is not.

`python -m benchmarks.photo_other FIRST COUNT` gives the share of right levels. Neither `stand_ins.made_up_screen` nor
`stand_ins.phone_camera` has a part in them: what is read well there should not be read badly here.
"""

from __future__ import annotations

import colorsys
import io
import sys
from concurrent.futures import ProcessPoolExecutor
from itertools import product

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageFilter

from hollow_glint.core.checks import InputError
from hollow_glint.core.photo.colour import light_of, light_of_hex, srgb_of
from hollow_glint.core.photo.perspective import as_outline, homography
from hollow_glint.core.photo.screen_photo import read_photo

from .photo_cases import away_from_edges

PINGS, ROWS = 300, 220
SIZE = (1600, 1200)


def _hex(*rgb: float) -> str:
    return "#" + "".join(f"{round(255.0 * one):02x}" for one in rgb)


LADDERS = {
    "five greys": ["#ffffff", "#d0d0d0", "#a0a0a0", "#707070", "#404040", "#101010"],
    "seven greys": ["#000000", "#242424", "#494949", "#6d6d6d", "#929292", "#b6b6b6", "#dbdbdb", "#ffffff"],
    "six hues": ["#000010", "#0000ff", "#00c0c0", "#00c000", "#ffff00", "#ff8000", "#ff0000"],
    "three hues": ["#202020", "#3060c0", "#e0c040", "#f04030"],
    "teal to cream": ["#0b1822", "#2e4a57", "#5e8a94", "#c9b98f", "#f0a35a", "#fff3df"],
    "sixteen greys": [_hex(k / 16, k / 16, k / 16) for k in range(17)],
    "sixteen hues": ["#05050f", *(_hex(*colorsys.hsv_to_rgb(0.72 * (1.0 - k / 15), 1.0, 1.0)) for k in range(16))],
    "thirty-two in a glow": [_hex(*np.clip([3 * k / 32, 3 * k / 32 - 1, 3 * k / 32 - 2], 0, 1)) for k in range(33)],
}
PICTURES = ("squares", "ranks", "half lit", "few marks", "all lit")


def picture(kind: str, steps: int, rng: np.random.Generator) -> NDArray[np.uint8]:
    """Levels, shape (pings, rows)."""
    levels = np.zeros((PINGS, ROWS), np.uint8)
    if kind == "squares":
        side = int(rng.integers(4, 16))
        drawn = rng.integers(0, steps + 1, (PINGS // side + 1, ROWS // side + 1))
        return np.kron(drawn, np.ones((side, side))).astype(np.uint8)[:PINGS, :ROWS]
    if kind == "ranks":
        levels[:] = np.arange(ROWS) * (steps + 1) // ROWS
    elif kind == "half lit":
        chance = rng.random(levels.shape)
        levels[chance < 0.5] = 2
        levels[chance < 0.4] = 1
        levels[:, 150:158], levels[:, 60:64] = steps, 2
    elif kind == "few marks":
        levels[:, 170:182], levels[:, 182:200] = steps, (steps + 1) // 2
        for _ in range(8):
            ping, row = rng.integers(0, PINGS - 40), rng.integers(10, 160)
            levels[ping : ping + 40, row : row + rng.integers(2, 7)] = rng.integers(1, steps + 1)
    else:
        levels[:] = rng.random(levels.shape) >= 0.1
        levels[100:200, 80:90], levels[:, 170:190] = 3, steps
    return levels


def photo(levels: NDArray[np.uint8], colours: list[str], hard: bool, rng: np.random.Generator) -> tuple[bytes, list]:
    """A JPEG and the corners of the picture in it. `hard`: a spot of glare, shade from side to side, white balance and
    exposure that are out, more noise."""
    light = light_of_hex("colours", colours)
    pixels = np.round(255.0 * srgb_of(light)).astype(np.uint8)[levels.T]
    screen = Image.fromarray(pixels).resize([int(rng.integers(3, 6)) * one for one in levels.shape], Image.NEAREST)
    scale = min(0.75 * SIZE[0] / screen.width, 0.75 * SIZE[1] / screen.height)
    half = np.array([screen.width, screen.height]) * scale / 2.0
    corners = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * half
    corners = corners + rng.uniform(-1.0, 1.0, (4, 2)) * (0.08 if hard else 0.02) * half[0]
    turn = np.radians(rng.normal(0.0, 4.0 if hard else 1.0))
    corners = corners @ np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]]) + np.array(SIZE) / 2.0
    back = np.linalg.inv(homography(corners) @ np.diag([1.0 / screen.width, 1.0 / screen.height, 1.0]))
    how = (SIZE, Image.Transform.PERSPECTIVE, (back / back[2, 2]).ravel()[:8].tolist())
    whole = Image.new("RGB", SIZE, tuple(rng.integers(10, 200, 3).tolist()))
    covers = Image.new("L", screen.size, 255).transform(*how, Image.Resampling.NEAREST)
    whole.paste(screen.transform(*how, Image.Resampling.BILINEAR), (0, 0), covers)
    whole = whole.filter(ImageFilter.GaussianBlur(float(rng.uniform(0.3, 1.2 if hard else 0.7))))
    seen = light_of(np.asarray(whole) / 255.0)
    if hard:
        y, x = np.mgrid[: SIZE[1], : SIZE[0]]
        far2 = (x - rng.uniform(0, SIZE[0])) ** 2 + (y - rng.uniform(0, SIZE[1])) ** 2
        seen = seen + rng.uniform(0.0, 0.15) * np.exp(-0.5 * far2 / (0.2 * SIZE[0]) ** 2)[..., None]
        seen = seen * (1.0 - rng.uniform(0.0, 0.3) * x / SIZE[0])[..., None] * 2.0 ** rng.uniform(-0.6, 0.3)
        seen = seen * np.array([rng.uniform(0.88, 1.12), 1.0, rng.uniform(0.88, 1.12)])
    noise = (0.01 if hard else 0.003) * np.sqrt(np.maximum(seen, 0.02))
    seen = seen + noise * rng.standard_normal(seen.shape)
    out = io.BytesIO()
    shown = Image.fromarray(np.round(255.0 * srgb_of(seen)).astype(np.uint8))
    shown.save(out, "JPEG", quality=int(rng.integers(60, 95)))
    return out.getvalue(), corners.tolist()


def right(case: tuple[str, str, bool, int]) -> float:
    """Share of cells away from edges that are right within a step; none of a photo that is refused."""
    kind, ladder, hard, seed = case
    rng = np.random.default_rng([seed, PICTURES.index(kind), list(LADDERS).index(ladder), hard])
    colours = LADDERS[ladder]
    levels = picture(kind, len(colours) - 1, rng)
    content, corners = photo(levels, colours, hard, rng)
    pixels = np.asarray(Image.open(io.BytesIO(content)))
    try:
        read = read_photo(pixels, as_outline(corners, *SIZE), light_of_hex("colours", colours), ROWS, PINGS)
    except InputError:
        return 0.0
    away = away_from_edges(levels)
    return float((np.abs(read.levels.astype(int) - levels)[away] <= 1).mean())


if __name__ == "__main__":
    first, count = (int(one) for one in sys.argv[1:3])
    for hard in (False, True):
        print("light that is not even" if hard else "light that is nearly even")
        cases = list(product(PICTURES, LADDERS, [hard], range(first, first + count)))
        with ProcessPoolExecutor(2) as pool:
            found = np.array(list(pool.map(right, cases))).reshape(len(PICTURES), -1)
        for kind, every in zip(PICTURES, found, strict=True):
            print(f"  {kind}: {100 * every.mean():.1f} % in the mean, 95 % or more in {(every >= 0.95).sum()}", end="")
            print(f" of {every.size}")
        print(f"  all: {100 * found.mean():.1f} %, {(found >= 0.95).sum()} of {found.size}")
