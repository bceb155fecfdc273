"""Screens that no maker builds: a picture of levels in a frame of numbers, with things drawn over it, in any colours.

For photographs of them see `phone_camera`.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

from ..core.gear.ladders import SHIPPED, TWO_ENDED
from ..core.photo.colour import light_of_hex
from ..core.photo.ladder_steps import apart

Bytes = NDArray[np.uint8]
Box = tuple[int, int, int, int]
LEAST_APART = 9.0  # between two colours of a ladder that is made up (CIE 1976)


@dataclass(frozen=True, eq=False)
class MadeUpScreen:
    """A screen as it shines: sRGB bytes (height, width, 3); the box [px] of the picture on it: left, top, right, foot;
    which cells of the picture something is drawn over, shape (rows, pings)."""

    pixels: Bytes
    box: Box
    covered: NDArray[np.bool_]


def made_up_ladder(rng: np.random.Generator, steps: int) -> list[str]:
    """Colours of dark water and of `steps` steps, weakest first: one of ours, or a path through hue and lightness."""
    ours = [
        list(one.colours(theme)) for one in (*SHIPPED, TWO_ENDED) for theme in ("rime", "lantern")
        if len(one.steps) == steps
    ]  # fmt: skip
    if ours and rng.random() < 0.4:
        return ours[rng.integers(len(ours))]
    for _ in range(1000):
        dark_first = rng.random() < 0.7
        low, high = rng.uniform(4, 14), rng.uniform(78, 96)
        light = np.linspace(low, high, steps + 1) + np.r_[0.0, rng.normal(0.0, 9.0, steps)]
        light = light if dark_first else 100.0 - light
        hue = rng.uniform(0, 360) + np.linspace(0.0, rng.uniform(-280, 280), steps + 1)
        chroma = rng.uniform(8, 70) * np.r_[0.3, np.ones(steps)]
        found = [_hex_of_lch(*one) for one in zip(np.clip(light, 3, 97), chroma, hue, strict=True)]
        if apart(light_of_hex("colours", found)) >= LEAST_APART:
            return found
    raise ValueError(f"no ladder of {steps} steps has colours that far apart")


def _hex_of_lch(light: float, chroma: float, hue: float) -> str:
    """The colour of the screen that is nearest to this place in CIELAB (CIE 15, backwards; IEC 61966-2-1)."""
    turn = np.radians(hue)
    fy = (light + 16.0) / 116.0
    f = np.array([fy + chroma * np.cos(turn) / 500.0, fy, fy - chroma * np.sin(turn) / 200.0])
    xyz = np.where(f > 6 / 29, f**3, 3 * (6 / 29) ** 2 * (f - 4 / 29)) * np.array([0.9505, 1.0, 1.089])
    to_rgb = np.array([[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]])
    linear = np.clip(to_rgb @ xyz, 0.0, 1.0)
    srgb = np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1 / 2.4) - 0.055)
    return "#" + "".join(f"{round(float(one) * 255):02x}" for one in srgb)


def made_up_screen(levels: Bytes, colours: list[str], bottom_m: float, rng: np.random.Generator) -> MadeUpScreen:
    """A picture of `levels`, shape (rows, pings), the oldest left, on a screen whose layout follows from `rng`."""
    rows, pings = levels.shape
    tall, wide = rows * max(round(240 / rows), 1), pings * max(round(360 / pings), 1)
    left, right = int(rng.integers(14, 90)), int(rng.integers(14, 90))
    top, foot = int(rng.integers(12, 70)), int(rng.integers(12, 60))
    ground = rng.choice([8, 30, 60, 200, 238], p=[0.3, 0.2, 0.15, 0.15, 0.2]) + rng.integers(-6, 7, 3)
    ink = (240, 240, 232) if ground.mean() < 128 else (20, 22, 26)
    image = Image.new("RGB", (left + wide + right, top + tall + foot), tuple(int(one) for one in ground))
    palette = np.array([[int(one[at : at + 2], 16) for at in (1, 3, 5)] for one in colours], np.uint8)
    picture = palette[levels].repeat(tall // rows, axis=0).repeat(wide // pings, axis=1)
    image.paste(Image.fromarray(picture), (left, top))
    draw = ImageDraw.Draw(image)
    if rng.random() < 0.6:
        draw.rectangle((left - 2, top - 2, left + wide + 1, top + tall + 1), outline=ink, width=int(rng.integers(1, 3)))
    _frame(draw, (left, top, left + wide, top + tall), image.size, bottom_m, ink, rng)
    before = np.asarray(image).copy()
    _over_picture(draw, (left, top, left + wide, top + tall), bottom_m, rng)
    pixels = np.asarray(image)
    changed = (pixels != before).any(axis=2)[top : top + tall, left : left + wide]
    covered = changed.reshape(rows, tall // rows, pings, wide // pings).any(axis=(1, 3))
    return MadeUpScreen(pixels, (left, top, left + wide, top + tall), covered)


def _frame(
    draw: ImageDraw.ImageDraw, box: Box, size: tuple[int, int], bottom_m: float, ink: tuple[int, int, int],
    rng: np.random.Generator,
) -> None:  # fmt: skip
    """Numbers about the picture: a scale at one side, readings above or below."""
    left, top, right, foot = box
    font = ImageFont.load_default(float(rng.integers(9, 15)))
    beside = right + 4 if size[0] - right > left else 2
    for k in range(6):
        draw.text((beside, top + k * (foot - top) / 5 - 6), f"{bottom_m * k / 5:.0f}", ink, font)
    over = 2 if top > size[1] - foot else foot + 2
    for k, text in enumerate((f"{bottom_m * 0.87:.1f}", f"G {rng.integers(1, 60)}", f"{rng.integers(1, 9)}x")):
        draw.text((left + k * (right - left) / 3, over), text, ink, font)


def _over_picture(draw: ImageDraw.ImageDraw, box: Box, bottom_m: float, rng: np.random.Generator) -> None:
    """What some screens draw over the picture: large numbers, a bar of what is magnified, a sign in a corner."""
    left, top, right, foot = box
    bright = tuple(int(one) for one in rng.choice([[255, 255, 255], [255, 240, 60], [250, 60, 200], [60, 255, 120]]))
    if rng.random() < 0.4:
        size = float(rng.integers(16, 38))
        draw.text((left + 6, top + 4), f"{bottom_m * 0.87:.1f}", bright, ImageFont.load_default(size))
    if rng.random() < 0.3:
        a = top + int(rng.uniform(0.3, 0.5) * (foot - top))
        b = a + int(rng.uniform(0.15, 0.4) * (foot - top))
        draw.rectangle((right - 6, a, right - 3, min(b, foot - 2)), fill=bright)
    if rng.random() < 0.25:
        side = int(rng.integers(10, 24))
        draw.ellipse((left + 4, foot - side - 4, left + 4 + side, foot - 4), fill=bright)
