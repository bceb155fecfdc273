"""What a mark is by its measures: the table that was learned, and each case that was once misread."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy import special
from scipy.stats import expon

from benchmarks.reader import score_one
from benchmarks.reader_scenes import TUNING_FROM, scenario
from hollow_glint.core.bench.tape import pings_of_frame
from hollow_glint.core.drills.holes import drill_hole, line, swimmer
from hollow_glint.core.gear.profiles import SHIPPED
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.reader import sizing, weighing
from hollow_glint.core.reader.detect import Marks
from hollow_glint.core.reader.evidence import ReaderSetup
from hollow_glint.core.reader.features import FEATURES
from hollow_glint.core.reader.lure_finder import LureFinder
from hollow_glint.core.reader.mark_table import CLASSES, TABLE
from hollow_glint.core.reader.reader import Reader
from hollow_glint.core.reader.reasons import REASONS
from hollow_glint.core.reader.story import Story
from hollow_glint.core.reader.strangers import REMEMBERED_S, Strangers, strangers_about
from hollow_glint.core.reader.tracks import Tracker

from .test_reader import read

# --- the table -----------------------------------------------------------------------------------------------------


def test_the_table_has_a_weight_for_every_bin_of_every_feature_and_class():
    assert tuple(TABLE) == FEATURES and set(REASONS) <= set(FEATURES)
    for edges, weights in TABLE.values():
        assert list(edges) == sorted(edges) and len(weights) == len(CLASSES)
        assert {len(row) for row in weights} == {len(edges) + 2}


def test_weights_add_up_and_chances_are_a_softmax():
    """Against SciPy's softmax, the bins looked up by NumPy."""
    rng = np.random.default_rng(1)
    for _ in range(50):
        row = np.array([rng.choice([np.nan, rng.normal(0.0, 5.0)], p=[0.2, 0.8]) for _ in FEATURES])
        by_hand = np.array(weighing.PRIOR)
        for value, (edges, weights) in zip(row, TABLE.values(), strict=True):
            at = len(edges) + 1 if np.isnan(value) else int(np.searchsorted(edges, value, side="right"))
            by_hand = by_hand + np.array([one[at] for one in weights])
        odds = weighing.log_odds(row)
        assert odds == pytest.approx(by_hand)
        assert weighing.chances(odds) == pytest.approx(special.softmax(odds))


def test_what_decides_speaks_for_the_name_and_most_first():
    row = np.full(len(FEATURES), np.nan)
    row[FEATURES.index("wander")] = 0.05
    named = weighing.deciding(row, weighing.STILL, weighing.FISH, most=3)
    assert "wander" in named


def test_with_one_jig_on_the_line_there_is_no_second_lure():
    row = np.zeros(len(FEATURES))
    two, one = weighing.log_odds(row), weighing.log_odds(row, one_jig=True)
    assert one[weighing.SECOND_LURE] < one.max() - 30.0
    assert one[weighing.LURE] == pytest.approx(np.logaddexp(two[weighing.LURE], two[weighing.SECOND_LURE]))


# --- what a mark shows over its life -------------------------------------------------------------------------------


def test_a_story_knows_what_goes_with_the_rod_and_what_goes_a_part_of_the_way():
    """The spread about a share of the rod's way is the standard deviation of what is left, as NumPy has it."""
    rng = np.random.default_rng(2)
    lines = np.cumsum(rng.normal(0.0, 0.03, 90))
    for share in (1.0, 0.4, 0.0):
        story = Story()
        ranges = 5.0 - share * lines + rng.normal(0.0, 0.004, lines.size)
        for k, (r, pulled) in enumerate(zip(ranges, lines, strict=True)):
            story.note(0.05 * k, float(r), 3, 0.1, float(pulled), 6, 1)
        spreads = {one: story.spread_with(one) for one in (0.0, 0.4, 1.0)}
        assert min(spreads, key=spreads.get) == share
        assert spreads[share] < 0.01


@pytest.mark.parametrize(("pings", "needed"), [(1, 1), (3, 2), (7, 4)])
def test_a_fishs_wander_is_that_of_an_order_statistic(pings, needed):
    """What rejection shows of a Rayleigh scatterer: drawn with SciPy's exponential distribution."""
    drawn = np.sort(expon.rvs(size=(40_000, pings), random_state=3), axis=1)[:, pings - needed]
    assert sizing.fish_wander(pings, needed) == pytest.approx(float(np.std(10 * np.log10(drawn))), rel=0.05)


# --- cases that were misread ---------------------------------------------------------------------------------------


@pytest.mark.parametrize("unit", SHIPPED, ids=lambda one: one.name)
def test_the_line_is_shown_as_rejection_shows_a_mark(unit):
    """A row is lit where enough of the last pings have the lure: its first is the `needed`-th shallowest of them."""
    rng = np.random.default_rng(4)
    at = drill_hole(rng, 1, bottom_depth_m=9.0)
    for position, step in enumerate(unit.rejections):
        settings = replace(at.settings, rejection=0)
        view = ReaderSetup(unit, replace(settings, gain=unit.gain.minimum, range_m=unit.ranges_m[-1], beam=0, power=0,
                                         pulse=0, ladder=0, rejection=position), 0.5)  # fmt: skip
        finder, lines = LureFinder(), []
        for k in range(40):
            pulled = float(rng.normal(0.0, 0.02))
            finder.take_in(0.1 * k, pulled)
            lines.append((lines[-1] if lines else 0.0) + pulled)
        held = sorted(-one for one in lines[-int(step.pings) :])
        assert finder.line_shown(3.9, view) == pytest.approx(-held[step.needed - 1])


def test_the_lure_is_named_with_rejection_on():
    """A scroller's second step once called the lure a fish from first to last."""
    scrollers = (
        one
        for one in map(scenario, range(TUNING_FROM, TUNING_FROM + 200))
        if one.unit.name == "Wide and narrow scroller" and one.lure.form == "jig" and not one.scene.neighbours
    )
    right = visible = 0
    for case, _ in zip(scrollers, range(3), strict=False):
        score = score_one(replace(case, settings=replace(case.settings, rejection=2), hand=case.hand[:440]))
        right, visible = right + score.lure_right, visible + score.lure_visible
    assert right > 0.6 * visible > 0


def test_nothing_is_told_of_an_empty_hole_while_the_lure_falls_and_moves():
    """Bubbles on the line and the falling lure itself were once called fish, every time."""
    empty = (
        one
        for one in map(scenario, range(TUNING_FROM, TUNING_FROM + 200))
        if not (one.scene.visitors or one.scene.shoals or one.scene.neighbours) and one.scene.plankton == "none"
    )
    told = 0
    for case, _ in zip(empty, range(4), strict=False):
        score = score_one(replace(case, hand=case.hand[:300]))
        told += score.fish_told - score.fish_true
    assert told <= 1


def test_a_track_that_coasts_past_the_face_breaks_nothing():
    tracker = Tracker(0.07, 0.03, 6)
    rows = np.arange(200) * 0.03
    lit = np.zeros((6, 200))
    near = np.array([0.05]), np.array([0.1]), np.array([4], dtype=np.uint8)
    for k in range(60):
        shown = Marks(near[0] + 0.3 - 0.006 * k, near[1], near[2]) if k < 50 else Marks(*(one[:0] for one in near))
        tracker.follow(0.05 * k, 0.05, shown, 0.006, 0.006 * k, 5.0, None, rows, lit)
    for k in range(60, 90):
        tracker.follow(0.05 * k, 0.05, Marks(*(one[:0] for one in near)), 0.03, 0.3, 5.0, None, rows, lit)
    assert all(one.range_m >= 0.0 for one in tracker.every)


def test_a_fish_that_swims_through_the_lures_mark_does_not_carry_its_name_off():
    rng = np.random.default_rng(5)
    at = drill_hole(rng, 1, bottom_depth_m=9.0, bottom_kind="mud", off_bottom_m=2.0, spare_db=3.0)
    time_s = at.times(16.0)
    up = line(time_s, [(0, 0.1, at.lure_m + 1.0), (6, 0.1, at.lure_m + 0.9), (12, 0.05, at.lure_m - 1.0)])
    readings = read(at, at.film(time_s, rng, swimmers=(swimmer(up, time_s, rng, 0.35),)))
    named = [mark.depth_m for one in readings[-40:] for mark in one.marks if mark.kind == "lure"]
    assert named and np.allclose(named, at.lure_m, atol=0.12)


# --- marks of one ping ---------------------------------------------------------------------------------------------


def seen(ranges_of, seconds: float = 12.0) -> Strangers:
    strangers, rng = Strangers(0.07, 0.03, 6), np.random.default_rng(6)
    for k in range(int(20 * seconds)):
        at = np.asarray(ranges_of(k, rng), dtype=float)
        strangers.see(0.05 * k, Marks(at, np.full(at.size, 0.08), np.full(at.size, 4, dtype=np.uint8)))
    return strangers


def test_marks_all_over_the_water_are_a_strangers_and_marks_in_one_place_are_not():
    all_over = seen(lambda k, rng: rng.uniform(1.0, 8.0, int(k % 4 == 0))).measures(1.0, 8.0, 0.0, 1)
    one_place = seen(lambda k, rng: rng.uniform(4.0, 4.6, int(k % 4 == 0))).measures(1.0, 8.0, 0.0, 1)
    few = seen(lambda k, rng: rng.uniform(1.0, 8.0, int(k % 100 == 0))).measures(1.0, 8.0, 0.0, 1)
    assert strangers_about(all_over) and not strangers_about(one_place) and not strangers_about(few)
    assert all_over[0] == pytest.approx(5.0, rel=0.1), "five a second"


def test_a_steady_drift_is_found_and_chance_has_none():
    drifting = seen(lambda k, rng: [1.0 + (0.31 * k) % 7.0])
    step, agree = drifting.drift()
    assert step == pytest.approx(0.31, abs=0.06) and agree > 0.8
    _, by_chance = seen(lambda k, rng: rng.uniform(1.0, 8.0, 1)).drift()
    assert by_chance < 0.3
    assert drifting.measures(1.0, 8.0, 0.0, 1)[0] <= 20.0 * (1.0 + 1.0 / REMEMBERED_S)


def test_a_neighbour_beside_the_hole_is_told():
    told = 0
    for seed in range(TUNING_FROM, TUNING_FROM + 3):
        case = scenario(seed)
        beside = Neighbour(2.0, case.unit.beams[0].frequency_hz, power_w=200.0, ping_interval_s=0.061)
        calm = replace(case.scene, neighbours=(beside,), plankton="none", clarity="clear", weed_height_m=0.0)
        one = replace(case, scene=calm, settings=replace(case.settings, rejection=0))
        run, reader, last = one.run(), Reader(one.view), 0.0
        for commands in one.hand[:220]:
            frame = run.advance(commands)
            for ping in pings_of_frame(frame, last):
                reader.see(ping)
            last = frame.time_s
        told += reader.standing.company
    assert told >= 2
