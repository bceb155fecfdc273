"""A phone that photographs a screen: where it is held, what its lens bends, what light falls on the glass, what its
sensor and its file lose. The screen's own grid of red, green and blue is there, so moire comes by itself.

Sources: pinhole with a radial term (Brown 1966); light adds (glare) and is taken away (shade, vignetting); shot noise
(EMVA 1288's linear model). How strong each is: common practice, no source.
"""

from __future__ import annotations

import io
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from ..core.checks import Floats
from ..core.lazily import Lazily
from ..core.photo.colour import LIGHT_OF_BYTE, srgb_of
from .made_up_screen import MadeUpScreen

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

FINER = 2  # places looked at for each pixel, each way
STRIP = 200  # lines of the sensor at a time
GAPS = 0.82  # share of a screen pixel that shines
SKIN = (0.52, 0.29, 0.2)


@dataclass(frozen=True)
class Shot:
    """How a photo is taken. Light as shares of white; widths as shares of the photo's."""

    size: tuple[int, int] = (1600, 1200)
    fill: float = 0.7
    turn_deg: float = 0.0
    keystone: float = 0.0
    bend: float = 0.0
    exposure: float = 1.0
    tint: tuple[float, float, float] = (1.0, 1.0, 1.0)
    curve: float = 1.0
    vignette: float = 0.0
    veil: float = 0.0
    glare: float = 0.0
    glare_wide: float = 0.2
    shade: float = 0.0
    blur_px: float = 0.6
    noise: float = 0.004
    quality: int = 88
    thumb: float = 0.0
    subpixels: bool = True


@dataclass(frozen=True, eq=False)
class Photo:
    """A photo's file, where the picture's corners stand in it [px], which of its pixels a thumb covers, and where it
    was held: what `shown_at` goes by."""

    content: bytes
    corners: list[list[float]]
    thumb: NDArray[np.bool_]
    held: Floats
    shot: Shot
    screen: tuple[int, int]

    def shown_at(self, places: Floats) -> Floats:
        """Where in the photo [px] places of the screen [its px] stand, shape (places, 2)."""
        return _shown_at(places, self.screen, self.held, self.shot)


def shot_by_chance(rng: np.random.Generator) -> Shot:
    """As phones are held on the ice."""

    def now_and_then(chance: float, low: float, high: float) -> float:
        return float(rng.uniform(low, high)) if rng.random() < chance else 0.0

    red, blue = rng.uniform(0.9, 1.1, 2)
    return Shot(
        size=((1600, 1200), (1280, 960))[rng.integers(2)],
        fill=float(rng.uniform(0.55, 0.85)),
        turn_deg=float(rng.normal(0.0, 4.0)),
        keystone=float(rng.uniform(0.0, 0.1)),
        bend=float(rng.uniform(-0.05, 0.03)),
        exposure=float(2.0 ** rng.uniform(-0.8, 0.5)),
        tint=(float(red), 1.0, float(blue)),
        curve=float(rng.uniform(0.88, 1.15)),
        vignette=float(rng.uniform(0.0, 0.25)),
        veil=float(rng.uniform(0.0, 0.03)),
        glare=now_and_then(0.5, 0.05, 0.4),
        glare_wide=float(rng.uniform(0.06, 0.25)),
        shade=now_and_then(0.35, 0.15, 0.55),
        blur_px=float(rng.uniform(0.4, 1.6)),
        noise=float(rng.uniform(0.002, 0.014)),
        quality=int(rng.integers(52, 94)),
        thumb=now_and_then(0.3, 0.05, 0.16),
    )


def photographed(
    screen: MadeUpScreen, shot: Shot, rng: np.random.Generator, as_file: str = "JPEG", held: Floats | None = None,
    grain: np.random.Generator | None = None,
) -> Photo:  # fmt: skip
    """A photo of a screen in its body before whatever lies about; held by chance where nobody says how. What its
    sensor's noise follows from may be told apart, for pictures that differ in nothing else."""
    wide, high = shot.size
    tall, across = screen.pixels.shape[:2]
    by_chance = _held(shot, across / tall, rng)  # always drawn, so that all else follows from the seed alone
    held = by_chance if held is None else held
    places = np.linalg.inv(held)
    light = np.concatenate([
        _gathered(screen.pixels, np.arange(top, min(top + STRIP, high)), places, shot, rng)
        for top in range(0, high, STRIP)
    ])  # fmt: skip
    x, y = np.meshgrid(np.arange(wide) + 0.5, np.arange(high) + 0.5)
    straight = _straightened(np.stack([x, y], axis=-1), shot)
    light += _about(straight, places, rng)
    thumb = _thumb(straight, places, shot, rng)
    light = np.where(thumb[..., None], np.array(SKIN, np.float32) * rng.uniform(0.35, 0.9), light)
    light = _lit(light, shot, rng) * shot.exposure * np.array(shot.tint, np.float32)
    light += (grain or rng).standard_normal(light.shape, np.float32) * shot.noise * np.sqrt(np.maximum(light, 0.02))
    srgb = srgb_of(np.clip(light, 0.0, 1.0)) ** shot.curve
    image = Image.fromarray(np.round(255.0 * srgb).astype(np.uint8))
    out = io.BytesIO()
    image.save(out, as_file, quality=shot.quality)
    left, top, right, foot = screen.box
    square = np.array([[left, top], [right, top], [right, foot], [left, foot]], dtype=float)
    corners = _shown_at(square, (across, tall), held, shot).tolist()
    return Photo(out.getvalue(), corners, thumb, held, shot, (across, tall))


def filmed(
    screens: Iterable[MadeUpScreen], shot: Shot, shake: float, rng: np.random.Generator, seed: int
) -> Iterator[Photo]:
    """A hand-held film of a screen, picture by picture: the hand wanders by about `shake` of the photo's width and
    turns as much [rad], in a walk that is drawn back to where it began. What lies about stays where it is."""
    held: Floats | None = None
    off = np.zeros(4)
    for screen in screens:
        here = np.random.default_rng(seed)
        if held is None:
            photo = photographed(screen, shot, here)
            held = photo.held
        else:
            off = 0.9 * off + 0.45 * shake * rng.standard_normal(4)
            photo = photographed(screen, shot, here, held=_shaken(off, shot) @ held, grain=rng)
        yield photo


def _shaken(off: Floats, shot: Shot) -> Floats:
    """The matrix that moves a photo across and down by shares of its width, turns it, and brings it nearer."""
    wide, high = shot.size
    cos, sin, near = np.cos(off[2]), np.sin(off[2]), 1.0 + off[3]
    turn = near * np.array([[cos, -sin], [sin, cos]])
    middle = np.array([wide / 2.0, high / 2.0])
    moved = np.eye(3)
    moved[:2, :2], moved[:2, 2] = turn, middle - turn @ middle + off[:2] * wide
    return moved


def _shown_at(places: Floats, screen: tuple[int, int], held: Floats, shot: Shot) -> Floats:
    """Where in a photo [px] places of a screen of so many pixels across and down stand."""
    flat = np.concatenate([places / np.array(screen, dtype=float), np.ones((len(places), 1))], axis=1) @ held.T
    return _bent(flat[:, :2] / flat[:, 2:], shot)


def _gathered(
    pixels: NDArray[np.uint8], lines: NDArray[np.intp], places: Floats, shot: Shot, rng: np.random.Generator
) -> Floats:
    """What some lines of the sensor gather of the screen. The lens blurs before anything is counted: what is left
    of the screen's own grid is moire. Looked at by chance within each part of a pixel: no grid of ours adds any.
    """
    sigma = FINER * (0.35 + shot.blur_px)
    rim = int(3.0 * sigma / FINER) + 1
    first, last, wide = lines[0] - rim, lines[-1] + 1 + rim, shot.size[0]
    shape = ((last - first) * FINER, (wide + 2 * rim) * FINER)
    y = first + (np.arange(shape[0])[:, None] + rng.random(shape, np.float32)) / FINER
    x = -rim + (np.arange(shape[1])[None, :] + rng.random(shape, np.float32)) / FINER
    straight = _straightened(np.stack([x, y], axis=-1), shot)
    on = straight @ places[:, :2].T + places[:, 2]
    tall, across = pixels.shape[:2]
    seen = _shines(pixels, on[..., 0] / on[..., 2] * across, on[..., 1] / on[..., 2] * tall, shot)
    seen = ndimage.gaussian_filter(seen, (sigma, sigma, 0), truncate=3.0)
    blocks = seen.reshape(last - first, FINER, wide + 2 * rim, FINER, 3).mean(axis=(1, 3))
    gathered: Floats = blocks[rim:-rim, rim:-rim]
    return gathered


def _held(shot: Shot, aspect: float, rng: np.random.Generator) -> Floats:
    """The matrix from the screen (the unit square) to the photo, before the lens bends it."""
    wide, high = shot.size
    half = np.array([shot.fill * wide / 2.0, shot.fill * wide / 2.0 / aspect])
    half *= min(1.0, 0.9 * high / 2.0 / half[1])
    square = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * half
    square = square + rng.uniform(-1.0, 1.0, (4, 2)) * shot.keystone * half
    turn = np.radians(shot.turn_deg)
    turned = square @ np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
    at = turned + np.array(shot.size) / 2.0 + rng.uniform(-0.03, 0.03, 2) * wide
    rows, right = [], []
    for (u, v), (x, y) in zip([(0, 0), (1, 0), (1, 1), (0, 1)], at, strict=True):
        rows += [[u, v, 1, 0, 0, 0, -u * x, -v * x], [0, 0, 0, u, v, 1, -u * y, -v * y]]
        right += [x, y]
    held: Floats = np.append(np.linalg.solve(np.array(rows, dtype=float), np.array(right)), 1.0).reshape(3, 3)
    return held


def _bent(places: Floats, shot: Shot) -> Floats:
    middle, half = np.array(shot.size) / 2.0, np.hypot(*shot.size) / 2.0
    off = (places - middle) / half
    bent: Floats = middle + half * off * (1.0 + shot.bend * (off**2).sum(-1, keepdims=True))
    return bent


def _straightened(places: Floats, shot: Shot) -> Floats:
    middle, half = np.array(shot.size) / 2.0, np.hypot(*shot.size) / 2.0
    off = (places - middle) / half
    out = off
    for _ in range(4):
        out = off / (1.0 + shot.bend * (out**2).sum(-1, keepdims=True))
    return np.asarray(middle + half * out)


def _shines(pixels: NDArray[np.uint8], x: Floats, y: Floats, shot: Shot) -> Floats:
    """What a screen sends from places on it [its px]: each pixel a red, a green and a blue stripe with dark between."""
    tall, wide = pixels.shape[:2]
    on = (x >= 0) & (x < wide) & (y >= 0) & (y < tall)
    i, j = np.clip(y, 0, tall - 1).astype(np.intp), np.clip(x, 0, wide - 1).astype(np.intp)
    light: Floats = LIGHT_OF_BYTE[pixels[i, j]] * on[..., None]
    if not shot.subpixels:
        return light
    stripe = (3.0 * (x - np.floor(x))).astype(np.intp)
    lit = (y - np.floor(y)) < GAPS
    # A stripe shines three times as bright as a pixel without stripes would.
    striped: Floats = light * (lit / GAPS)[..., None] * (3.0 * (stripe[..., None] == np.arange(3)))
    return striped.astype(np.float32)


def _about(straight: Floats, places: Floats, rng: np.random.Generator) -> Floats:
    """The unit's body about the screen, and whatever lies behind it."""
    high, wide = straight.shape[:2]
    on = np.concatenate([straight, np.ones((high, wide, 1))], axis=-1) @ places.T
    on = on[..., :2] / on[..., 2:]
    screen = ((on >= 0.0) & (on < 1.0)).all(axis=-1)
    rim = rng.uniform(0.05, 0.14)
    body = ((on >= -rim) & (on < 1.0 + rim)).all(axis=-1) & ~screen
    rough = ndimage.zoom(rng.uniform(0.6, 1.4, (high // 24 + 2, wide // 24 + 2)), 24, order=1)[:high, :wide]
    behind = rng.choice([0.05, 0.2, 0.7]) * rough
    plastic = rng.choice([0.01, 0.03, 0.12])
    grey = np.where(screen, 0.0, np.where(body, plastic, behind))
    light: Floats = (grey[..., None] * rng.uniform(0.85, 1.15, 3)).astype(np.float32)
    return light


def _thumb(straight: Floats, places: Floats, shot: Shot, rng: np.random.Generator) -> NDArray[np.bool_]:
    """A thumb over a corner of the screen."""
    high, wide = straight.shape[:2]
    if not shot.thumb:
        return np.zeros((high, wide), dtype=bool)
    on = np.concatenate([straight, np.ones((high, wide, 1))], axis=-1) @ places.T
    on = on[..., :2] / on[..., 2:]
    corner = rng.integers(0, 2, 2)
    off = (on - corner) / (shot.thumb * rng.uniform(0.8, 1.6, 2))
    covered: NDArray[np.bool_] = (off**2).sum(-1) < 1.0
    return covered


def _lit(light: Floats, shot: Shot, rng: np.random.Generator) -> Floats:
    """Shade, glare and the lens's own falling off."""
    high, wide = light.shape[:2]
    x, y = np.meshgrid(np.linspace(-1, 1, wide), np.linspace(-1, 1, high) * high / wide)
    fall = 1.0 - shot.vignette * (x**2 + y**2) / (1.0 + (high / wide) ** 2)
    turn = rng.uniform(0.0, 2.0 * np.pi)
    along = x * np.cos(turn) + y * np.sin(turn) - rng.uniform(-0.4, 0.4)
    shade = 1.0 - shot.shade / (1.0 + np.exp(-along / 0.15))
    at = rng.uniform(-0.7, 0.7, 2) * [1.0, high / wide]
    spread = 2.0 * shot.glare_wide * rng.uniform(0.6, 1.6, 2)
    spot = np.exp(-0.5 * (((x - at[0]) / spread[0]) ** 2 + ((y - at[1]) / spread[1]) ** 2))
    glare = (shot.veil + shot.glare * spot)[..., None] * rng.uniform(0.92, 1.08, 3)
    lit: Floats = ((light * shade[..., None] + glare) * fall[..., None]).astype(np.float32)
    return lit
