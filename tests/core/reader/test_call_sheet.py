"""The call sheet against the simulator: what it says a mark can be, and where, held to what is truly there."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_glint.core.checks import InputError
from hollow_glint.core.drills import holes
from hollow_glint.core.drills.holes import DrillHole, line, swimmer
from hollow_glint.core.hole.contents import Hung, Neighbour
from hollow_glint.core.reader import observation
from hollow_glint.core.reader.call_sheet import Call, call_sheet
from hollow_glint.core.reader.observation import Observation, SheetContext
from tests.effort import bounded


@dataclass(frozen=True)
class Case:
    """A fish in the simulator, and what an angler would say of its mark."""

    at: SheetContext
    seen: Observation
    depth_m: float
    aside_m: float
    length_m: float


def where(at: DrillHole) -> SheetContext:
    return SheetContext(at.scene, at.unit, at.settings, at.lure, at.lure_m)


def case(seed: int) -> Case | None:
    """A fish in its seen zone, and its mark read off the picture with an angler's eye; None when none shows."""
    rng = np.random.default_rng([77, seed])
    at = holes.drill_hole(rng, int(rng.integers(1, 4)), off_bottom_m=float(rng.uniform(1.0, 2.0)))
    length = float(np.exp(rng.uniform(np.log(0.08), np.log(0.5))))
    depth = float(rng.uniform(2.0, at.bottom_m - 0.25))
    reach = at.seen_aside(length, depth, 2.0)
    aside = reach * float(np.sqrt(rng.uniform(0.0, 1.0)))
    r = at.range_of(depth, aside)
    alone = r < at.scene.bottom_range_m - 0.15 and abs(r - at.range_of(at.lure_m)) > 0.25
    if reach <= 0.0 or not alone:
        return None
    times = at.times(3.0)
    fish = swimmer(line(times, [(0.0, aside, depth), (3.0, aside, depth)]), times, rng, length)
    clip = at.film(times, rng, swimmers=(fish,))
    rows = clip.shown.top_m + (np.arange(at.unit.rows) + 0.5) * clip.shown.height_m / at.unit.rows
    levels = clip.levels[-20:, (rows > r - 0.1) & (rows < r + 0.15)].max(axis=1)
    if levels.max() == 0:
        return None
    colour = max(int(np.sort(levels)[-3]), 1)  # what the eye takes for its colour: not the one brightest ping
    read = max(r + float(rng.normal(0.0, 0.06)), 0.1)
    return Case(where(at), Observation(read, colour), depth, aside, length)


def fish_call(one: Case) -> Call | None:
    calls = call_sheet(one.at, one.seen).calls
    return next((call for call in calls if call.kind in ("a fish", "baitfish")), None)


def test_the_truth_is_inside_the_region_in_nine_of_ten_and_over_200_seeds_too():
    cases = [one for one in map(case, range(230)) if one is not None][:200]
    assert len(cases) >= 190
    called = [fish_call(one) for one in cases]
    inside = [
        call is not None and call.region.holds(one.aside_m, one.depth_m)
        for one, call in zip(cases, called, strict=True)
    ]
    assert np.mean(inside) >= 0.9
    assert sum(inside[:10]) >= 9
    sizes = [
        call is not None and 0.95 * call.length_m[0] <= one.length_m <= 1.05 * call.length_m[1]
        for one, call in zip(cases, called, strict=True)
    ]
    assert np.mean(sizes) >= 0.9
    # A region that held the whole column would hold the truth too: it must say something.
    tall = [call.depth_m[1] - call.depth_m[0] for call in called if call is not None]
    columns = [one.at.scene.bottom_depth_m for one in cases]
    assert np.median(tall) < 0.15 * np.median(columns)


HOLE = holes.drill_hole(np.random.default_rng(3), 1, bottom_depth_m=8.0, bottom_kind="mud", off_bottom_m=1.5)
HERE = where(HOLE)
LURE = HOLE.range_of(HOLE.lure_m)
LINE = HOLE.scene.bottom_range_m
TOP = len(HOLE.unit.ladders[0].steps)


def first(seen: Observation, at: SheetContext = HERE) -> Call:
    return call_sheet(at, seen).calls[0]


@pytest.mark.parametrize(
    ("seen", "kind"),
    [
        (Observation(LURE, 2, "as the lure", "with the rod", "steady", "near the lure"), "your lure"),
        (Observation(4.0, 4, "thicker", "rising", "growing", "open water"), "a fish"),
        (Observation(LINE, TOP, "band", "still", "steady", "at the bottom"), "the bottom"),
        (Observation(0.3, 5, "band", "flickers", "steady", "near the top"), "surface clutter"),
        (Observation(5.0, 1, "band", "flickers", "steady", "open water"), "plankton or silt"),
        (Observation(LINE - 0.8, 3, "band", "flickers", "steady", "at the bottom", "broken, with stems"), "weeds"),
    ],
)
def test_plain_cases_are_called_by_their_names(seen, kind):
    assert first(seen).kind == kind


def test_what_is_known_of_the_hole_counts():
    drifting = Observation(4.0, 3, "as the lure", "flickers", "steady", "open water")
    alone = call_sheet(HERE, drifting)
    with_them = call_sheet(replace(HERE, scene=replace(HERE.scene, neighbours=(Neighbour(3.0),))), drifting)

    def chance(sheet, kind):
        return next((one.chance for one in sheet.calls if one.kind == kind), 0.0)

    assert chance(with_them, "a neighbour's sonar") > chance(alone, "a neighbour's sonar")
    hung = replace(HERE, scene=replace(HERE.scene, second_hole_m=0.6, hung=(Hung("dead stick", 4.5),)))
    still = Observation(4.0, 2, "as the lure", "still", "steady", "open water")
    kind = "something that hangs still"
    assert chance(call_sheet(hung, still), kind) > chance(call_sheet(HERE, still), kind)


def test_a_hard_bottoms_second_echo():
    deep = replace(HERE, settings=replace(HERE.settings, range_m=HOLE.unit.ranges_m[-2]))
    again = 2.0 * 8.0 - HOLE.scene.face_depth_m - HOLE.scene.ice_thickness_m
    seen = Observation(again, 3, "thin", "still", "steady", "under the bottom", "thin and hard")
    assert first(seen, deep).kind == "the second echo of the bottom"


def test_nothing_fits_a_band_that_is_under_the_bottom_and_near_the_top_at_once():
    odd = Observation(LINE + 0.9, 6, "band", "with the rod", "fading", "near the top")
    assert not call_sheet(HERE, odd).fits
    assert call_sheet(HERE, Observation(4.0, 4, "thicker", "rising", "growing")).fits


def test_what_to_do_follows_what_is_seen():
    coming = Observation(LURE + 0.3, 4, "thicker", "rising", "growing", "near the lure")
    assert "rod tip" in first(coming).do
    leaving = Observation(4.0, 3, "thicker", "sinking", "fading", "open water")
    assert "leaving" in first(leaving).do


def test_a_weaker_mark_is_a_smaller_fish_or_one_further_out():
    weak, strong = (fish_call(Case(HERE, Observation(4.0, colour, "thicker", "rising"), 0, 0, 0)) for colour in (2, 5))
    assert weak.likely_length_m[0] < strong.likely_length_m[0]
    assert weak.likely_length_m[1] > weak.likely_length_m[0]


@bounded(60)
@given(
    st.floats(0.0, 9.0),
    st.integers(1, TOP),
    st.sampled_from(observation.THICKNESSES),
    st.sampled_from(observation.MOTIONS),
    st.sampled_from(observation.CHANGES),
    st.sampled_from(observation.NEAR),
    st.sampled_from((None, *observation.BOTTOMS)),
)
def test_every_touch_has_an_answer(shown, colour, thickness, motion, change, near, bottom):
    sheet = call_sheet(HERE, Observation(shown, colour, thickness, motion, change, near, bottom))
    assert sheet.calls
    chances = [one.chance for one in sheet.calls]
    assert chances == sorted(chances, reverse=True) and 0.0 < sum(chances) <= 1.0 + 1e-9
    for one in sheet.calls:
        assert one.do.endswith(".")
        if one.region is not None:
            assert (one.region.top_m <= one.region.bottom_m + 1e-9).all()
            assert one.depth_m[1] <= HERE.scene.bottom_depth_m + 1e-9


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"shown_m": -1.0, "colour": 2}, "shown_m"),
        ({"shown_m": float("nan"), "colour": 2}, "shown_m"),
        ({"shown_m": 3.0, "colour": 0}, "colour"),
        ({"shown_m": 3.0, "colour": 2, "motion": "dances"}, "motion"),
        ({"shown_m": 3.0, "colour": 2, "bottom": "pink"}, "bottom"),
    ],
)
def test_what_nobody_can_have_seen_is_refused(fields, words):
    with pytest.raises(InputError, match=words):
        Observation(**fields)


def test_what_this_unit_cannot_show_is_refused():
    with pytest.raises(InputError, match="this ladder has"):
        call_sheet(HERE, Observation(3.0, TOP + 1))
    with pytest.raises(InputError, match="the picture ends at"):
        call_sheet(HERE, Observation(80.0, 2))
