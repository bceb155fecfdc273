"""Drills on a picture that turns: whole, never twice alike, answered from the picture alone, true in their numbers."""

from __future__ import annotations

import re

import numpy as np
import pytest
from scipy import ndimage

from hollow_glint.core.drills.catalogue import drill
from hollow_glint.core.drills.drill import Drill
from hollow_glint.core.drills.sweep_picture import SweepPicture
from hollow_glint.core.drills.sweeps import KINDS, SHARES, WAYS
from hollow_glint.core.search.marks import PictureMark, find_marks, looked_at, middle_of, thing_at
from hollow_glint.core.search.stay_or_go import Waters, stay_or_go
from hollow_glint.core.search.sweep import BEARINGS, BINS
from hollow_glint.core.search.usual import USUAL_FISH_M_S, USUAL_SCHOOLS_PER_KM2, USUAL_SURE_M2

KEYS = [one.key for one in KINDS]
FRESH = range(300, 312)  # seeds that nothing was made on

# --- eyes: each answers from the picture alone, by a rule as plain as the one taught ----------------------------------


def disc(picture: SweepPicture) -> float:
    """How wide the dark middle is [m]: where the mean over all bearings first is brightest on its way up."""
    mean = ndimage.uniform_filter1d(picture.levels[-1].astype(float).mean(axis=0), 3)
    rise = np.diff(mean)
    return float((int(rise[20:].argmax()) + 20) * picture.range_m / BINS)


def marks(picture: SweepPicture) -> list[PictureMark]:
    return find_marks(picture.levels[-1], np.zeros(BEARINGS), picture.range_m)


def pointed(picture: SweepPicture) -> list[PictureMark]:
    assert picture.arrow
    return thing_at(marks(picture), *picture.arrow)


def moved(one: Drill) -> tuple[np.ndarray, np.ndarray]:
    """Where the fish are in both pictures, along the ice as if half way down: (2,), (2,)."""
    out = []
    for picture in one.sweeps:
        # The school is where most marks are close together.
        found = marks(picture)
        places = np.array([mark.place for mark in found])
        near = (np.hypot(*(places[:, None] - places).transpose(2, 0, 1)) < 3.0).sum(axis=1)
        first = found[int(near.argmax())]
        bearing, away, _ = middle_of([m for m in found if np.hypot(*(m.place - first.place)) < 3.0])
        flat = np.sqrt(max(away**2 - (0.45 * picture.bottom_depth_m) ** 2, 1.0))
        out.append(flat * np.array([np.sin(np.radians(bearing)), np.cos(np.radians(bearing))]))
    return out[0], out[1]


def along(one: Drill) -> str:
    (picture,) = one.sweeps
    slant = picture.arrow[1]
    share = np.sqrt(max(slant**2 - disc(picture) ** 2, 0.0)) / slant
    offered = [(key, is_so) for key, _, is_so in SHARES if key in {choice.key for choice in one.choices}]
    return min(offered, key=lambda known: abs(known[1] - share))[0]


def deeper(one: Drill) -> str:
    left, right = (disc(picture) for picture in one.sweeps)
    return "left" if left > right else "right"


def swims(one: Drill) -> str:
    bearing, away = one.sweeps[0].arrow
    now, then = pointed(one.sweeps[0]), thing_at(marks(one.sweeps[1]), bearing, away)
    if not then or not now:
        return "fish"
    was, is_at = (np.mean([mark.place for mark in thing], axis=0) for thing in (now, then))
    dark = min(mark.behind_db for mark in now)
    return "thing" if np.hypot(*(is_at - was)) < 0.9 and dark < -3.0 else "fish"


def many(one: Drill) -> str:
    return "school" if looked_at(pointed(one.sweeps[0])).marks >= 5 else "hunters"


def stands(one: Drill) -> str:
    (picture,) = one.sweeps
    bearing, away = picture.arrow
    turn = np.radians(bearing)
    around = [m for m in marks(picture) if np.hypot(*(m.place - away * np.array([np.sin(turn), np.cos(turn)]))) < 6.0]
    widest = max(mark.wide_m for mark in around)
    return "weed edge" if widest > 14.0 else "timber" if widest > 4.5 else "boulder"


def harder(one: Drill) -> str:
    levels = one.sweeps[0].levels[-1].astype(float)
    east, west = levels[20:100, 300:].mean(), levels[140:220, 300:].mean()
    return "right" if east > west else "left"


def goes(one: Drill) -> str:
    before, after = moved(one)
    step = after - before
    at = np.degrees(np.arctan2(*(0.5 * (before + after))))
    turn = (np.degrees(np.arctan2(*step)) - at + 180.0) % 360.0 - 180.0
    return min(WAYS, key=lambda way: abs((turn - way[2] + 180.0) % 360.0 - 180.0))[0]


def in_time(one: Drill) -> str:
    before, after = moved(one)
    ahead = after + (after - before) * 60.0 / 26.0
    places = [away * np.array([np.sin(np.radians(b)), np.cos(np.radians(b))]) for b, away in one.sweeps[1].holes]
    return "ABC"[int(np.argmin([np.hypot(*(place - ahead)) for place in places]))]


def straight(one: Drill) -> str:
    bearing = max(marks(one.sweeps[0]), key=lambda mark: mark.over_db * mark.wide_m).bearing_deg
    off = (bearing + 180.0) % 360.0 - 180.0
    return "straight" if abs(off) < 12.0 else "clockwise" if off > 0.0 else "anticlockwise"


def by_the_clock(one: Drill) -> str:
    said = one.question.values
    waters = Waters(20.0, USUAL_FISH_M_S, USUAL_SCHOOLS_PER_KM2, USUAL_SURE_M2, said["move"].value)
    seen = 0 if "no school" in one.question.text else 1
    return "stay" if stay_or_go(waters, said["watched"].value, seen).stay else "go"


EYES = {
    "along the ice": along, "the dark middle": deeper, "fish or thing": swims, "school or hunters": many,
    "what stands there": stands, "which bed is hard": harder, "which way it swims": goes,
    "which of three holes": in_time, "is the heading off": straight, "stay or go": by_the_clock,
}  # fmt: skip


def test_there_are_ten_kinds_and_eyes_for_each():
    assert len(KEYS) >= 10 and set(EYES) == set(KEYS)


@pytest.mark.parametrize("level", [1, 2, 3])
@pytest.mark.parametrize("kind", KEYS)
def test_the_picture_alone_answers_it(kind, level):
    wrong = [seed for seed in FRESH if EYES[kind](one := drill(kind, level, seed)) != one.right]
    assert len(wrong) <= 2, wrong


@pytest.mark.parametrize("kind", KEYS)
def test_each_is_whole_and_no_two_are_alike(kind):
    made = [drill(kind, level, seed) for level in (1, 2, 3) for seed in range(3)]
    for one in made:
        keys = [choice.key for choice in one.choices]
        assert one.right in keys and len(set(keys)) == len(keys) >= 2 and not one.by_pointing
        assert not one.clips and 1 <= len(one.sweeps) <= 2 and one.truth and one.moment_s > 0.0
        for said in (one.question, one.why):
            assert set(re.findall(r"\{(\w+)\}", said.text)) == set(said.values), said
        assert 1 <= len(re.findall(r"[.?:](?: |$)", one.why.text)) <= 4
        for picture in one.sweeps:
            assert picture.levels.shape[1:] == (BEARINGS, BINS) and picture.levels.max() > 0
            assert picture.arrow is None or 0.0 < picture.arrow[1] < picture.range_m
        assert all(0.0 < mark.depth_m < 40.0 for mark in one.truth)
    again = drill(kind, 1, 0)
    assert (again.sweeps[0].levels == made[0].sweeps[0].levels).all() and again.right == made[0].right
    assert made[0].sweeps[0].levels.tobytes() != made[1].sweeps[0].levels.tobytes()


@pytest.mark.parametrize("kind", KEYS)
def test_no_answer_is_always_right(kind):
    first = drill(kind, 1, 0).right
    assert any(drill(kind, 1, seed).right != first for seed in range(1, 14))


@pytest.mark.parametrize("level", [1, 3])
def test_the_numbers_of_the_reasons_are_the_pictures_own(level):
    for seed in FRESH[:6]:
        one = drill("along the ice", level, seed)
        values = {name: told.value for name, told in one.why.values.items()}
        assert values["down"] == pytest.approx(disc(one.sweeps[0]), abs=0.35)
        assert values["slant"] == pytest.approx(one.sweeps[0].arrow[1], abs=0.01)
        assert values["away"] == pytest.approx(np.sqrt(values["slant"] ** 2 - values["down"] ** 2), abs=0.02)
        two = drill("the dark middle", level, seed)
        for side, picture in zip(("left", "right"), two.sweeps, strict=True):
            assert two.why.values[side].value == pytest.approx(disc(picture), abs=0.35)
        turned = drill("is the heading off", level, seed)
        if turned.right != "straight":
            bearing = max(marks(turned.sweeps[0]), key=lambda mark: mark.over_db * mark.wide_m).bearing_deg
            off = abs((bearing + 180.0) % 360.0 - 180.0)
            assert turned.why.values["off"].value == pytest.approx(off, abs=5.0)


def test_how_far_a_school_has_gone_is_what_the_pictures_show():
    off = []
    for seed in FRESH:
        one = drill("which way it swims", 1, seed)
        before, after = moved(one)
        off.append(one.why.values["gone"].value - np.hypot(*(after - before)))
    assert np.median(np.abs(off)) < 1.0 and abs(np.mean(off)) < 0.7
