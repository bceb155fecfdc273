"""How well photos of screens are read: levels, depths, marks, corners. `python -m benchmarks.photo FIRST COUNT`.

Seeds 0 to 439 are only for judging; from TUNING_FROM up for trying things out.
"""

from __future__ import annotations

import io
import sys
import time
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from PIL import Image
from threadpoolctl import threadpool_limits

from hollow_glint.core.checks import InputError
from hollow_glint.core.photo.colour import light_of_hex, srgb_of
from hollow_glint.core.photo.corners import find_corners
from hollow_glint.core.photo.perspective import as_outline
from hollow_glint.core.photo.screen_photo import read_photo
from hollow_glint.core.reader.recording_reader import reading_at

from .photo_cases import TUNING_FROM, PhotoCase, away_from_edges, case_of, shown_on_screen

TIMED = 20
NEAR_M, NEAR_SHARE = 0.1, 0.02  # a mark of the same name so near is the same


@dataclass(frozen=True)
class Judged:
    """Of one photo: shares of cells away from edges that are right within a step, exactly, and of lit ones within a
    step; how far the bottom is off as a share of the range; marks named as on the original, of how many; how far the
    worst corner found unaided is off as a share of the width, and whether it was called sure; seconds to read it and to
    name its marks."""

    seed: int
    refused: bool = False
    within: float = 0.0
    exactly: float = 0.0
    lit: float = 0.0
    unsure: float = 0.0
    bottom_off: float = np.nan
    named: int = 0
    marks: int = 0
    corners_off: float = np.nan
    corners_sure: bool = False
    read_s: float = 0.0
    name_s: float = 0.0
    pings: int = 0


def judged(seed: int) -> Judged:
    """Everything that is measured of one case."""
    case = case_of(seed)
    pixels = np.asarray(Image.open(io.BytesIO(case.photo.content)).convert("RGB"))
    high, wide = pixels.shape[:2]
    levels = case.recording.levels
    begun = time.perf_counter()
    try:
        outline = as_outline(case.photo.corners, wide, high)
        colours = light_of_hex("colours", case.colours)
        read = read_photo(pixels, outline, colours, levels.shape[1], levels.shape[0])
    except InputError:
        off, sure = _corners_off(case, pixels)
        return Judged(seed, refused=True, corners_off=off, corners_sure=sure)
    read_s = time.perf_counter() - begun
    away = away_from_edges(levels)
    off = np.abs(read.levels.astype(int) - levels)[away]
    shown = replace(case.recording, line_in_m=np.zeros_like(case.recording.line_in_m))
    original = reading_at(shown, shown.seconds)
    begun = time.perf_counter()
    again = reading_at(replace(shown, levels=read.levels), shown.seconds)
    name_s = time.perf_counter() - begun
    span = float(shown.bottom_m[0] - shown.top_m[0])
    near = NEAR_M + NEAR_SHARE * span
    named = sum(
        any(one.kind == mark.kind and abs(one.range_m - mark.range_m) < near for one in again.marks)
        for mark in original.marks
    )
    bottom = np.nan
    if original.bottom is not None and again.bottom is not None:
        bottom = abs(again.bottom.range_m - original.bottom.range_m) / span
    lit = levels[away] > 0
    return Judged(
        seed, False, float((off <= 1).mean()), float((off == 0).mean()),
        float((off[lit] <= 1).mean()) if lit.any() else np.nan, float(read.unsure.mean()), bottom, named,
        len(original.marks), *_corners_off(case, pixels), read_s, name_s, levels.shape[0],
    )  # fmt: skip


def judged_if_shown(seed: int) -> Judged | None:
    """The same; None for a seed whose last ping shows another range than those before: one ping is no recording."""
    try:
        shown_on_screen(seed)
    except InputError:
        return None
    return judged(seed)


def _corners_off(case: PhotoCase, pixels: np.ndarray) -> tuple[float, bool]:
    true = np.array(case.photo.corners)
    try:
        found = find_corners(pixels)
    except InputError:
        return float("inf"), False
    off = np.array(found.outline.corners) - true
    return float(np.hypot(*off.T).max() / np.hypot(*(true[1] - true[0]))), found.sure


def page(every: list[Judged]) -> str:
    """The figures as lines of text."""
    read = [one for one in every if not one.refused]
    within = np.array([one.within for one in every])
    bottoms = np.array([one.bottom_off for one in read])
    seen = bottoms[np.isfinite(bottoms)]
    marks = sum(one.marks for one in read)
    named = sum(one.named for one in read)
    corners = np.array([one.corners_off for one in every])
    sure = np.array([one.corners_sure for one in every])
    seconds = np.array([one.read_s + one.name_s for one in read])
    return "\n".join((
        f"photos {len(every)}, refused {len(every) - len(read)}",
        f"cells away from edges right within a step: {100 * within.mean():.1f} % in the mean of all photos",
        f"photos with 95 % of them right: {100 * (within >= 0.95).mean():.0f} %",
        f"exactly right: {100 * np.mean([one.exactly for one in read]):.1f} %",
        f"lit ones within a step: {100 * np.nanmean([one.lit for one in read]):.1f} %",
        f"said to be unsure: {100 * np.mean([one.unsure for one in read]):.1f} %",
        f"bottom within 1 % of the range: {100 * (seen < 0.01).mean():.0f} % of {seen.size}",
        f"marks named as on the original: {named} of {marks}, {100 * named / max(marks, 1):.0f} %",
        f"corners found unaided within 1 % of the width: {100 * (corners < 0.01).mean():.0f} %",
        f"called sure: {100 * sure.mean():.0f} %, of those within 1 %: {100 * (corners[sure] < 0.01).mean():.0f} %",
        f"to read and to name: {np.median(seconds):.1f} s in the middle, {seconds.max():.1f} s at most",
    ))  # fmt: skip


def rows() -> list[tuple[str, str, str]]:
    """(what, measured, bar) for the page of benchmarks: some tuning photos, one after another on one core."""
    with threadpool_limits(1):
        read = [one for one in map(judged, range(TUNING_FROM, TUNING_FROM + TIMED)) if not one.refused]
    whole = np.array([one.read_s + one.name_s for one in read])
    each = np.array([1000.0 * one.name_s / one.pings for one in read])
    return [
        (f"A photo to its named marks, one core: median; longest of {len(read)}",
         f"{np.median(whole):.1f} s; {whole.max():.1f} s", "3 s"),
        ("Reading on, each ping of those: median; longest", f"{np.median(each):.1f} ms; {each.max():.1f} ms", "3 ms"),
    ]  # fmt: skip


def pictures(seeds: range, path: Path) -> None:
    """Each photo beside what was read from it, in the ladder's own colours, as one file."""
    wide, high, gap = 300, 225, 6
    sheet = Image.new("RGB", (2 * (2 * wide + 3 * gap), len(seeds) // 2 * (high + gap) + gap), (245, 248, 247))
    for k, seed in enumerate(seeds):
        case = case_of(seed)
        photo = Image.open(io.BytesIO(case.photo.content))
        levels = case.recording.levels
        outline = as_outline(case.photo.corners, photo.width, photo.height)
        light = light_of_hex("colours", case.colours)
        read = read_photo(np.asarray(photo), outline, light, levels.shape[1], levels.shape[0])
        shown = Image.fromarray(np.round(255.0 * srgb_of(light)).astype(np.uint8)[read.levels.T])
        left, top = gap + k % 2 * (2 * wide + 3 * gap), gap + k // 2 * (high + gap)
        sheet.paste(photo.resize((wide, high)), (left, top))
        sheet.paste(shown.resize((wide, high), Image.Resampling.NEAREST), (left + wide + gap, top))
    sheet.save(path, quality=84)


if __name__ == "__main__":
    if sys.argv[1] == "pictures":
        pictures(range(10), Path("docs/photos-read.jpg"))
        raise SystemExit
    first, count = (int(one) for one in sys.argv[1:3])
    with ProcessPoolExecutor(2) as pool:
        every = [one for one in pool.map(judged_if_shown, range(first, first + count)) if one is not None]
    if len(every) < count:
        print(f"{count - len(every)} of {count} seeds make no picture: their range is turned at the last ping")
    print(page(every))
