"""Drills on the fan's picture: whole, never twice alike, answered from the picture alone, true in their numbers."""

from __future__ import annotations

import re

import numpy as np
import pytest
from scipy import ndimage

from hollow_glint.core.drills.catalogue import drill
from hollow_glint.core.drills.drill import Drill
from hollow_glint.core.drills.fan_film import MOST_FRAMES, FanFilm
from hollow_glint.core.drills.fans import KINDS
from hollow_glint.core.fan.picture import STEPS
from hollow_glint.core.fan.water import BINS

KEYS = [one.key for one in KINDS]
FRESH = range(300, 312)  # seeds that nothing was made on

# --- eyes: each answers from the picture alone, by a rule as plain as the one taught ----------------------------------


def places(film: FanFilm) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """How far ahead and how deep each cell is drawn (beams, bins), and its range (bins,)."""
    r = (np.arange(BINS) + 0.5) * film.settings.reach_m / BINS
    angle = np.radians(film.beams_deg)[:, None]
    return r * np.cos(angle), film.hang.depth_m + r * np.sin(angle), r


def near(film: FanFilm, place: tuple[float, float], radius_m: float) -> np.ndarray:
    ahead, deep, _ = places(film)
    return np.hypot(ahead - place[0], deep - place[1]) < radius_m


def middles(film: FanFilm, place: tuple[float, float], radius_m: float, least: int = 6) -> list[tuple[float, float]]:
    """Where a mark's middle is in each picture that shows it."""
    ahead, deep, _ = places(film)
    where = near(film, place, radius_m)
    out = []
    for levels in film.levels:
        weight = np.where(where & (levels <= STEPS), levels, 0).astype(float) ** 2
        if (weight > 0).sum() >= least:
            out.append((float((weight * ahead).sum() / weight.sum()), float((weight * deep).sum() / weight.sum())))
    return out


def jig(one: Drill) -> str:
    (film,) = one.fans
    goes = [np.ptp([z for _, z in middles(film, place, 0.75, 2)] or [0.0]) for place in film.places]
    return "AB"[int(np.argmax(goes))]


def larger(one: Drill) -> str:
    (film,) = one.fans
    loud = [np.mean([levels[near(film, place, 1.0)].max() for levels in film.levels]) for place in film.places]
    return "AB"[int(np.argmax(loud))]


def strip(one: Drill) -> str:
    """Where the mark was seen last on its way down, off straight down."""
    (film,) = one.fans
    ahead, deep, r = places(film)
    water = (r > 1.2) & (deep < 2.4) & (np.abs(ahead) > 0.5) & (np.abs(ahead) < 1.7)
    begins = np.where(water, film.levels[0], 0).argmax()
    x, last = float(ahead.ravel()[begins]), 90.0
    for levels in film.levels:
        on_line = np.where((r > 1.2) & (np.abs(ahead - x) < 0.25) & (deep < 5.0), levels, 0)
        if on_line.max() > 0:
            last = np.degrees(np.arctan2(abs(x), float(deep.ravel()[on_line.argmax()]) - film.hang.depth_m))
    return "strip" if last < 29.0 else "gone"


def repeat(one: Drill) -> str:
    first, second = one.fans
    assert first.ring is not None
    stays = [
        np.median([levels[near(film, first.ring, 0.5)].max() for levels in film.levels]) for film in (first, second)
    ]
    return "fish" if stays[1] > 0.5 * stays[0] else "repeat"


def weeds(one: Drill) -> str:
    """How much is lit over the bed's line beyond each place, and before it."""
    (film,) = one.fans
    ahead, deep, _ = places(film)
    depth = film.places[0][1]
    over = (deep < depth - 0.45) & (deep > depth - 2.0)
    lit = (film.levels > 0).mean(axis=0)
    step = film.places[1][0] - film.places[0][0]
    shares = [lit[over & (ahead > x + 0.15 * step) & (ahead < x + 0.85 * step)].mean() for x, _ in film.places]
    before = lit[over & (ahead > film.places[0][0] - step) & (ahead < film.places[0][0] - 0.2)].mean()
    grows = np.diff([before, *shares])
    return "ABC"[int(np.argmax(np.array(shares) > before + 0.4 * (max(shares) - before)))] if grows.max() > 0 else "A"


def squares(one: Drill) -> str:
    (film,) = one.fans
    assert film.ring is not None
    (x, _), *_ = middles(film, film.ring, 0.8)
    return str(round(x / film.settings.square_m))


def level(one: Drill) -> str:
    """The bed's slope, by the brightest of each beam that looks down at it."""
    (film,) = one.fans
    ahead, deep, _ = places(film)
    mean = film.levels.astype(float).mean(axis=0)
    down = (film.beams_deg > 30.0) & (film.beams_deg < 110.0)
    at = ndimage.uniform_filter1d(mean, 9, axis=1)[down].argmax(axis=1)
    rows = np.flatnonzero(down)
    slope = np.degrees(np.arctan(np.polyfit(ahead[rows, at], deep[rows, at], 1)[0]))
    slope += 1.9  # a beam meets a bed's near side first
    return "level" if abs(slope) < 2.4 else "high" if slope > 0 else "low"


def mends(one: Drill) -> str:
    (film,) = one.fans
    ahead, deep, r = places(film)
    shown = (ahead > 3.0) & (ahead < 14.0) & (deep > 1.5) & (deep < 3.5)
    lit = (film.levels[:, shown] > 0).mean()
    close = (film.levels[:, :, (r > 0.3) & (r < 1.0)] > 0).mean()
    return "down" if lit > 0.01 else "lower" if close > 0.6 else "up"


def comes(one: Drill) -> str:
    (film,) = one.fans
    fish = one.truth[0]
    seen = middles(film, (fish.aside_m, fish.depth_m), 2.6)
    gone = seen[-1][0] - seen[0][0]
    return "across" if abs(gone) < 0.4 else "leaves" if gone > 0 else "comes"


EYES = dict(zip(KEYS, (jig, larger, strip, repeat, weeds, squares, level, mends, comes, larger), strict=True))


def test_there_are_ten_kinds():
    assert len(KEYS) == 10 and len(set(KEYS)) == 10


@pytest.mark.parametrize("hard", [1, 2, 3])
@pytest.mark.parametrize("kind", KEYS)
def test_the_picture_alone_answers_it(kind, hard):
    wrong = [seed for seed in FRESH if EYES[kind](one := drill(kind, hard, seed)) != one.right]
    assert len(wrong) <= 2, wrong


@pytest.mark.parametrize("kind", KEYS)
def test_each_is_whole_and_no_two_are_alike(kind):
    made = [drill(kind, hard, seed) for hard in (1, 2, 3) for seed in range(2)]
    for one in made:
        keys = [choice.key for choice in one.choices]
        assert one.right in keys and len(set(keys)) == len(keys) >= 2 and not one.by_pointing
        assert not one.clips and not one.sweeps and 1 <= len(one.fans) <= 2 and one.truth
        for said in (one.question, one.why):
            assert set(re.findall(r"\{(\w+)\}", said.text)) == set(said.values), said
        assert 1 <= len(re.findall(r"[.?:](?: |$)", one.why.text)) <= 4
        for film in one.fans:
            assert film.levels.shape[1:] == (film.beams_deg.size, BINS) and 1 <= len(film.levels) <= MOST_FRAMES
            assert 0 < film.levels.max() <= STEPS
            shown = film.settings
            for x, z in (*film.places, *([film.ring] if film.ring else [])):
                assert -shown.behind_m < x < shown.ahead_m and 0.0 < z < shown.deep_m
    again = drill(kind, 1, 0)
    assert (again.fans[0].levels == made[0].fans[0].levels).all() and again.right == made[0].right
    assert made[0].fans[0].levels.tobytes() != made[1].fans[0].levels.tobytes()


@pytest.mark.parametrize("kind", KEYS)
def test_no_answer_is_always_right(kind):
    first = drill(kind, 1, 0).right
    assert any(drill(kind, 1, seed).right != first for seed in range(1, 12))


def test_the_numbers_of_the_reasons_are_the_pictures_own():
    for seed in FRESH[:6]:
        walk = drill("fan: where to walk", 3, seed)
        (film,) = walk.fans
        (x, z), *_ = middles(film, film.ring, 0.8)
        values = {name: told.value for name, told in walk.why.values.items()}
        assert values["away"] == pytest.approx(x, abs=0.35)
        assert values["slant"] == pytest.approx(np.hypot(x, z - film.hang.depth_m), abs=0.35)
        goes = drill("fan: coming or leaving", 1, seed)
        if goes.right != "across":
            fish = goes.truth[0]
            seen = middles(goes.fans[0], (fish.aside_m, fish.depth_m), 2.6)
            assert goes.why.values["gone"].value == pytest.approx(abs(seen[-1][0] - seen[0][0]), abs=0.6)
