"""Every drill is answered from its picture alone, and every number in its reason is the water's own."""

from __future__ import annotations

import re

import numpy as np
import pytest

from hollow_glint.core.acoustics import targets
from hollow_glint.core.drills import fans, sweeps
from hollow_glint.core.drills.catalogue import KINDS as EVERY_KIND
from hollow_glint.core.drills.catalogue import drill
from hollow_glint.core.drills.drill import Drill
from hollow_glint.core.sonar import still_echoes, transmission

from .eyes import EYES, answered, seen

KINDS = [key for key, one in EVERY_KIND.items() if one not in (*sweeps.KINDS, *fans.KINDS)]
FRESH = range(200, 216)  # seeds that the eyes were not made on


def test_there_are_eyes_for_every_kind():
    assert set(EYES) == set(KINDS)


@pytest.mark.parametrize("level", [1, 2, 3])
@pytest.mark.parametrize("kind", KINDS)
def test_the_picture_alone_answers_it(kind, level):
    wrong = [seed for seed in FRESH if not answered(drill(kind, level, seed))]
    assert len(wrong) <= 2, wrong


# --- what the reasons say ---------------------------------------------------------------------------------------------


def value(one: Drill, name: str) -> float:
    return one.why.values[name].value


def fish_of(one: Drill):
    return one.clips[0].swimmers[-1].way


def ranges(one: Drill, way: np.ndarray) -> np.ndarray:
    below = way - np.array([0.0, 0.0, one.clips[0].face_depth_m])
    return np.sqrt((below**2).sum(axis=1))


def face(one: Drill) -> float:
    return one.clips[0].face_depth_m


def bottom_range(one: Drill) -> float:
    return one.clips[0].scene.bottom_range_m


def arc(one: Drill) -> dict[str, float]:
    far = ranges(one, fish_of(one))
    out = value(one, "aside")
    return {
        "top": float(far.min()), "face": face(one), "depth": float(far.min()) + face(one), "aside": out,
        "looks": float(np.hypot(far.min(), out) - far.min()),
    }  # fmt: skip


def beside(one: Drill) -> dict[str, float]:
    where = fish_of(one)[-1]
    aside, below = float(np.hypot(*where[:2])), float(where[2]) - face(one)
    return {"aside": aside, "looks": float(np.hypot(below, aside) - below), "length": one.clips[0].swimmers[0].length_m}


def larger(one: Drill) -> dict[str, float]:
    lengths = sorted(clip.swimmers[0].length_m for clip in one.clips)
    loud = [float(targets.fish_target_strength(length, 200e3)) for length in lengths]
    return {"small": lengths[0], "large": lengths[1], "loud": loud[1] - loud[0]}


def sank(one: Drill) -> dict[str, float]:
    way, far = fish_of(one), ranges(one, fish_of(one))
    out = value(one, "out") if "out" in one.why.values else 0.0
    at = int(np.argmax(np.abs(way[:, 0]) >= out - 0.02)) if out else -1
    return {"fall": float(far[at] - far[:20].mean()), "out": float(np.abs(way[at, 0]))}


def jigs(one: Drill) -> dict[str, float]:
    return {"gap": one.truth[0].depth_m - one.truth[1].depth_m}


def met(one: Drill) -> dict[str, float]:
    clip = one.clips[0]
    t = transmission.transmit(clip.scene, clip.unit, clip.settings)
    return {"gap": float(fish_of(one)[-1, 2] - clip.lure_way[-1, 2]), "res": t.resolution_m}


ON_THE_COLUMN = ("top", "depth", "first", "again", "second")
NUMBERS = {
    "which is the lure": lambda one: {"moved": float(np.ptp(one.clips[0].lure_way[:, 2]))},
    "two jigs": jigs,
    "touching": met,
    "where did the spoon go": lambda one: {"aside": float(np.abs(one.clips[0].lure_way[-1, 0]))},
    "how hard is the bottom": lambda one: {
        "second": still_echoes.second_echo_range(one.clips[0].scene), "face": face(one)
    },
    "second echo or bottom": lambda one: {
        "first": bottom_range(one), "again": still_echoes.second_echo_range(one.clips[0].scene), "face": face(one)
    },
    "weed or bottom": lambda one: {"height": one.clips[0].scene.weed_height_m},
    "restless bottom": lambda one: {"aside": float(np.abs(fish_of(one)[:, 0]).mean())},
    "which knob mends it": lambda one: {"off": one.truth[1].depth_m - one.truth[0].depth_m},
    "how many fish": lambda one: {
        "n": len(one.clips[0].swimmers) + 1.0, "off": one.clips[0].scene.bottom_depth_m - one.clips[0].lure_way[-1, 2]
    },
    "centre or edge": beside,
    "where is it really": arc,
    "which is larger": larger,
    "leaving or diving": sank,
    "does it follow": lambda one: {"lift": float(np.ptp(one.clips[0].lure_way[:, 2]))},
    "predict": lambda one: {"rise": float(fish_of(one)[20, 2] - fish_of(one)[-1, 2]) / one.clips[0].time_s[-1]},
}  # fmt: skip


@pytest.mark.parametrize("level", [1, 2, 3])
@pytest.mark.parametrize("kind", KINDS)
def test_every_number_in_a_reason_is_the_waters_own(kind, level):
    for seed in FRESH:
        one = drill(kind, level, seed)
        if not one.why.values:
            continue
        true = NUMBERS[kind](one)
        assert set(one.why.values) <= set(true), "a number that nothing checks"
        for name, quantity in one.why.values.items():
            # A fish is restless by two centimetres a way, and a mark's own front is a tenth of a pulse.
            assert quantity.value == pytest.approx(true[name], rel=0.1, abs=0.05), (seed, name)


@pytest.mark.parametrize("level", [1, 2, 3])
@pytest.mark.parametrize("kind", KINDS)
def test_a_depth_named_in_a_reason_says_on_which_axis_and_where_it_begins(kind, level):
    """What stands on the picture's axis counts from the face: whoever names it says so and how deep the face is."""
    for seed in FRESH:
        one = drill(kind, level, seed)
        depths = [name for name in one.why.values if name in ON_THE_COLUMN]
        if not depths:
            continue
        assert "shown axis" in one.why.text and "{face}" in one.why.text, one.why.text
        steps = seen(one.clips[0])
        on_axis = [value(one, name) for name in depths if name != "depth"]
        assert all(steps.rows[0] <= at <= steps.rows[-1] for at in on_axis)
        assert re.search(r"true depth|second", one.why.text)
