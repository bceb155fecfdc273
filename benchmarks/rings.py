"""How well photos and films of dials are read. `python -m benchmarks.rings FIRST COUNT`.

Seeds 0 to 299 are only for judging; from photo_cases' TUNING_FROM up for trying things out.
"""

from __future__ import annotations

import io
import sys
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace

import numpy as np
from PIL import Image

from hollow_glint.core.checks import Floats, InputError
from hollow_glint.core.photo.colour import light_of_hex
from hollow_glint.core.photo.following import Follower
from hollow_glint.core.photo.perspective import Pixels, as_outline
from hollow_glint.core.photo.ring import Ring
from hollow_glint.core.photo.ring_finder import find_ring
from hollow_glint.core.photo.ring_photo import read_rings
from hollow_glint.stand_ins.made_up_dial import Dial, dial_by_chance, made_up_dial
from hollow_glint.stand_ins.made_up_screen import made_up_ladder
from hollow_glint.stand_ins.phone_camera import Photo, filmed, photographed, shot_by_chance

from .photo_cases import away_from_edges, shown_on_screen

PICTURES, EACH_S, SHAKE = 24, 0.2, 0.02
FOLLOWED_PX = 2.0  # of 640, that a rim's place may be off and count as followed


@dataclass(frozen=True)
class Judged:
    """Of one dial: shares of cells away from edges that are right within a step, in one photo and in a film; whether
    either was refused; shares of the film's pictures in which the ring was lost and in which it was followed; how far
    the rim that was found unaided is off at most, as a share of its radius, and the inner radius as one of the outer.
    """

    photo: float
    film: float
    refused: int
    lost: float
    followed: float
    rim_off: float
    inner_off: float


def _pixels(photo: Photo) -> Pixels:
    return np.asarray(Image.open(io.BytesIO(photo.content)).convert("RGB"))


def _ring(photo: Photo, dial: Dial, pixels: Pixels) -> Ring:
    square = as_outline(photo.shown_at(dial.quarters).tolist(), pixels.shape[1], pixels.shape[0], "rim")
    return Ring(square, dial.scale, dial.inner, dial.clockwise)


def _right(shown: list[Pixels], ring: Ring, colours: Floats, levels: np.ndarray) -> float | None:
    """The share of cells that are right; None where the photo was refused."""
    try:
        read = read_rings(shown, len(shown), ring, colours, levels.shape[1])
    except InputError:
        return None
    away = away_from_edges(levels)
    return float((np.abs(read.levels.astype(int) - levels) <= 1)[away].mean())


def judged(seed: int) -> Judged:
    """Everything that is measured of one case."""
    rng = np.random.default_rng([seed, 0x72])
    recording = shown_on_screen(seed)
    steps = len(recording.unit.ladders[recording.settings[0][1].ladder].steps)
    dial, colours, shot = dial_by_chance(rng), made_up_ladder(rng, steps), shot_by_chance(rng)
    light, bottom_m = light_of_hex("colours", colours), float(recording.bottom_m[0])
    last = recording.levels[-1:]
    photo = photographed(made_up_dial(last[0], colours, bottom_m, dial), replace(shot, size=(1280, 960)), rng)
    pixels = _pixels(photo)
    one = _right([pixels], _ring(photo, dial, pixels), light, last)
    begin = max(recording.seconds - PICTURES * EACH_S, 0.0)
    at = np.searchsorted(recording.time_s, begin + EACH_S * np.arange(PICTURES)).clip(0, len(recording.time_s) - 1)
    screens = (made_up_dial(recording.levels[k], colours, bottom_m, dial) for k in at)
    photos = list(filmed(screens, replace(shot, size=(640, 480)), SHAKE, rng, seed))
    shown = [_pixels(one) for one in photos]
    ring = _ring(photos[0], dial, shown[0])
    off = _off(Follower(shown[0], ring), photos[1:], shown[1:], dial)
    film = _right(shown, ring, light, recording.levels[at])
    refused = (one is None) + (film is None)
    return Judged(
        one or 0.0, film or 0.0, refused, float(np.isnan(off).mean()), float((off < FOLLOWED_PX).mean()),
        *_found_off(photo, dial, pixels),
    )  # fmt: skip


def _found_off(photo: Photo, dial: Dial, pixels: Pixels) -> tuple[float, float]:
    """How far a ring that is found unaided is off; infinitely where none is."""
    truth = photo.shown_at(dial.at(np.arange(36) / 36.0, 1.0))
    try:
        found = find_ring(pixels)
    except InputError:
        return float("inf"), float("inf")
    ring = Ring(as_outline(found.rim.tolist(), pixels.shape[1], pixels.shape[0], "rim"))
    off = truth[:, None] - ring.at(np.arange(720) / 720.0, np.ones(720))
    radius = np.hypot(*(truth - truth.mean(axis=0)).T).mean()
    return float(np.hypot(off[..., 0], off[..., 1]).min(axis=1).max() / radius), abs(found.inner - dial.inner)


def _off(follower: Follower, photos: list[Photo], shown: list[Pixels], dial: Dial) -> Floats:
    """How far the worst of the rim's four places is off in each picture [px]; not a number where it was lost."""
    off = []
    for photo, pixels in zip(photos, shown, strict=True):
        found = follower.found(pixels)
        truth = photo.shown_at(dial.quarters)
        off.append(np.nan if found is None else float(np.abs(np.array(found.square.corners) - truth).max()))
    return np.array(off)


def page(every: list[Judged]) -> str:
    """The figures as lines of text."""
    photo, film = (np.array([getattr(one, name) for one in every]) for name in ("photo", "film"))
    return "\n".join((
        f"dials {len(every)}, refused {sum(one.refused for one in every)} of twice as many",
        f"one photo: within a step {100 * photo.mean():.1f} %, with 95 % of them {100 * (photo >= 0.95).mean():.0f} %",
        f"film: within a step {100 * film.mean():.1f} %, with 95 % of them {100 * (film >= 0.95).mean():.0f} %",
        f"pictures in which the ring was followed: {100 * np.mean([one.followed for one in every]):.0f} %, lost: "
        f"{100 * np.mean([one.lost for one in every]):.0f} %",
        f"found unaided within 2 % of the radius: {100 * np.mean([one.rim_off < 0.02 for one in every]):.0f} %; "
        f"their inner rim within 3 % of it: {100 * np.mean([one.inner_off < 0.03 for one in every]):.0f} %",
    ))  # fmt: skip


if __name__ == "__main__":
    first, count = (int(one) for one in sys.argv[1:3])
    with ProcessPoolExecutor(2) as pool:
        print(page(list(pool.map(judged, range(first, first + count)))))
