"""Situations as an angler would touch them in at many holes, each with its first answer and what to do. The answers are
common practice, no source; depths and colours come from the model of each hole."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.drills import holes
from hollow_glint.core.hole.contents import Hung, Structure
from hollow_glint.core.reader.call_sheet import call_sheet
from hollow_glint.core.reader.observation import Observation, SheetContext
from tests.effort import EFFORT

Wanted = tuple[str, SheetContext, Observation, tuple[str, ...], str]


def situations(seed: int) -> Iterator[Wanted]:
    """Name, where, what was seen, what may come first, and a word of the advice."""
    rng = np.random.default_rng([4_711, seed])
    drilled = holes.drill_hole(rng, 1 + seed % 3, off_bottom_m=float(rng.uniform(1.0, 1.8)))
    at = SheetContext(drilled.scene, drilled.unit, drilled.settings, drilled.lure, drilled.lure_m)
    top = len(at.unit.ladders[at.settings.ladder].steps)
    lure = drilled.range_of(drilled.lure_m)
    edge = at.scene.bottom_range_m
    open_m = float(rng.uniform(0.4, 0.7)) * lure
    middle = max(top - 1, 1)
    fish = ("a fish",)
    yield "coming in low", at, Observation(edge - 0.3, 1, "thin", "rising", "growing", "at the bottom"), fish, "Hold"
    yield (
        "growing low",
        at,
        Observation(edge - 0.35, max(middle - 1, 1), "as the lure", "still", "growing", "at the bottom"),
        fish,
        "Hold",
    )
    for motion in ("still", "rising"):
        swollen = Observation(lure, top, "thicker", motion, "growing", "near the lure")
        yield f"merged, {motion}", at, swollen, ("a fish", "your lure"), "rod tip"
    yield (
        "restless edge",
        at,
        Observation(edge, top, "band", "still", "steady", "at the bottom", "restless"),
        ("the bottom", "a fish"),
        "pound",
    )
    yield (
        "soft tail",
        at,
        Observation(
            min(edge + 0.6, at.settings.range_m - 0.05),
            middle,
            "band",
            "still",
            "steady",
            "under the bottom",
            "thick and soft",
        ),
        ("the bottom",),
        "depth",
    )
    yield "does not react", at, Observation(open_m, top, "thicker", "still", "steady", "open water"), fish, "another"
    yield "leaving", at, Observation(open_m, middle, "thicker", "sinking", "fading", "open water"), fish, "chase"
    yield "rising", at, Observation(open_m, middle, "thicker", "rising", "growing", "open water"), fish, "Lift slowly"
    yield (
        "the lure",
        at,
        Observation(lure, middle, "as the lure", "with the rod", "steady", "near the lure"),
        ("your lure",),
        "rod",
    )
    log = Structure("log", 0.3, 0.6)
    known = replace(at, scene=replace(drilled.scene, structures=(log,)))
    log_m = float(np.hypot(drilled.scene.bottom_depth_m - 0.6 - drilled.scene.face_depth_m, 0.3))
    yield (
        "a known log",
        known,
        Observation(log_m, middle, "as the lure", "still", "steady", "at the bottom"),
        ("something that hangs still",),
        "Lift",
    )
    stick = drilled.scene.face_depth_m + open_m
    with_stick = replace(drilled.scene, second_hole_m=0.5, hung=(Hung("dead stick", stick),))
    hung = replace(at, scene=with_stick)
    stick_m = float(np.hypot(open_m, 0.5))
    yield (
        "a known dead stick",
        hung,
        Observation(stick_m, middle, "as the lure", "still", "steady", "open water"),
        ("something that hangs still",),
        "Lift",
    )


ALL = [(seed, one) for seed in range(8 * EFFORT) for one in situations(seed)]


@pytest.mark.parametrize("name", sorted({one[0] for _, one in ALL}))
def test_the_first_answer_and_its_advice_are_what_practice_says(name):
    mine = [(seed, one) for seed, one in ALL if one[0] == name]
    wrong = []
    for seed, (_, at, seen, kinds, word) in mine:
        best = call_sheet(at, seen).calls[0]
        if best.kind not in kinds or word not in best.do:
            wrong.append((seed, best.kind, best.chance, best.do))
    assert len(wrong) <= 0.1 * len(mine), wrong


def test_numbers_say_what_they_are_measured_from():
    for _, (_, at, seen, _, _) in ALL[:40]:
        for call in call_sheet(at, seen).calls:
            for sentence in call.because:
                if "stands at" in sentence.text or "hangs at" in sentence.text:
                    assert "on this scale" in sentence.text
                if "{true}" in sentence.text:
                    shown = sentence.values["true"].value - at.scene.face_depth_m
                    assert shown == pytest.approx(sentence.values["at"].value, abs=0.02)


def test_what_is_drawn_and_what_is_said_agree():
    """A length under the hole is only told where the drawn region reaches under the hole."""
    told = 0
    for _, (_, at, seen, _, _) in ALL:
        for call in call_sheet(at, seen).calls:
            if call.region is not None:
                under = call.region.aside_m[0] == 0.0
                assert (call.under_the_hole_m is not None) == under
                told += under
    assert told
