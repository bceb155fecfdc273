"""How far apart fish and lure are by their marks: fronts of loud and faint echoes, rejection's lag, two in one mark."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.gear.profiles import SHIPPED
from hollow_glint.core.gear.settings import starting_settings
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.reader.detect import Marks
from hollow_glint.core.reader.evidence import ReaderSetup
from hollow_glint.core.reader.mark_evidence import MarkEvidence
from hollow_glint.core.reader.track import Track
from hollow_glint.core.reader.tracks import Tracker, _middle
from hollow_glint.core.sonar.pulse import RISE_PULSES, begins_behind, pulse_envelope

HOLE = Scene(bottom_depth_m=9.0, bottom_kind="sand", ice_thickness_m=0.36, face_depth_m=0.4)


# The unit whose rejection keeps the most pings.
SLOW = max(SHIPPED, key=lambda unit: max(step.pings for step in unit.rejections))


def evidence(rejection: int = 0) -> MarkEvidence:
    settings = replace(starting_settings(SLOW, HOLE.bottom_range_m), rejection=rejection)
    return MarkEvidence(ReaderSetup(SLOW, settings, HOLE.face_depth_m, HOLE.temperature_c), 0.02)


def mark(range_m: float, level: float, speed_m_s: float = 0.0) -> Track:
    track = Track(1, range_m, speed_m_s, 0.0, level_mean=level)
    track.seen.extend((0.05 * k, range_m, round(level), 0.08, 0.0) for k in range(40))
    return track


@pytest.mark.parametrize("over_db", [0.5, 3.0, 6.0, 12.0, 20.0, 30.0])
def test_an_echo_lights_where_its_own_envelope_passes_the_colour(over_db):
    """Against the envelope that the picture is made with, searched in ten-thousandths of a pulse."""
    lengths = np.linspace(0.0, 0.4, 4001)
    lit = lengths[10.0 * np.log10(np.maximum(pulse_envelope(lengths), 1e-30)) + over_db >= 0.0]
    assert begins_behind(over_db) == pytest.approx(lit[0], abs=2e-4)


def test_the_loudest_echo_lights_at_once_and_the_faintest_at_the_end_of_its_rise():
    assert begins_behind(80.0) < 1e-3
    assert begins_behind(-5.0) == begins_behind(0.0) == pytest.approx(RISE_PULSES)


def test_a_loud_fish_is_further_below_a_faint_lure_than_their_fronts_are():
    seen = evidence()
    resolution = seen.view.transmission.resolution_m
    as_loud = seen.gap_m(mark(5.1, 2.0), mark(5.0, 2.0))
    louder = seen.gap_m(mark(5.1, 6.0), mark(5.0, 1.0))
    assert as_loud == pytest.approx(0.1)
    assert 0.08 * resolution < louder - as_loud < RISE_PULSES * resolution


def test_what_goes_on_while_rejection_lags_is_counted():
    """A picture of what most of the last pings have is half of them behind."""
    kept = [int(step.pings) for step in SLOW.rejections]
    most = int(np.argmax(kept))
    lag_s = 0.5 * 0.05 * (kept[most] - 1)
    still, risen = (evidence(most).gap_m(mark(5.2, 3.0, v), mark(5.0, 3.0)) for v in (0.0, -0.2))
    assert kept[most] > 2
    assert still - risen == pytest.approx(min(0.2 * lag_s, evidence(most).view.transmission.resolution_m))
    assert evidence(0).gap_m(mark(5.2, 3.0, -0.2), mark(5.0, 3.0)) == pytest.approx(0.2)


def follow(tracker: Tracker, ping: int, *marks: tuple[float, float, int]) -> None:
    ranges, thick, level = (np.array(one) for one in zip(*marks, strict=True))
    rows = (np.arange(400) + 0.5) * 0.02
    seen = Marks(ranges, thick, level.astype(np.uint8))
    tracker.follow(0.05 * ping, 0.05, seen, 0.0, 0.0, None, None, rows, np.zeros((6, 400)))


@pytest.mark.parametrize("true_gap_m", [0.04, 0.06])
def test_the_lower_of_two_in_one_mark_ends_it(true_gap_m):
    """Two marks 8 cm thick, 10 cm apart, that come together: the one mark ends where the lower one does."""
    tracker = Tracker(0.08, 0.02, 6)
    for k in range(60):
        follow(tracker, k, (5.0, 0.08, 3), (5.10, 0.08, 4))
    assert len(tracker.tracks) == 2
    for k in range(60, 90):
        follow(tracker, k, (5.0, 0.08 + true_gap_m, 4))
    upper, lower = sorted(tracker.tracks, key=lambda one: one.range_m)
    assert (upper.hidden_in is None) != (lower.hidden_in is None)
    assert lower.range_m - upper.range_m == pytest.approx(true_gap_m, abs=0.015)


def test_the_middle_is_the_median():
    rng = np.random.default_rng(4)
    for shape in ((1,), (4,), (13,), (5, 8), (5, 9)):
        of = rng.random(shape)
        assert _middle(of) == pytest.approx(np.median(of, axis=-1))
