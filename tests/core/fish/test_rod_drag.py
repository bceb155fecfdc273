"""What the rod's tip shows of a lure by itself: its weight, its drag, its rest, and line that lies slack."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.fish import rod
from hollow_glint.core.gear.lures import USUAL_JIG, Lure

HANGING = {
    "lying": False,
    "slack_m": 0.0,
    "rising_m_s": 0.0,
    "twitching": False,
    "in_weeds": 0.0,
    "bite": None,
    "held_s": 0.0,
    "hooked": False,
}


def tip(lure=USUAL_JIG, **changed):
    return rod.tip_of(lure, **{**HANGING, **changed})


def test_a_lure_at_rest_bends_the_tip_by_its_weight_alone():
    for lure in (USUAL_JIG, Lure("4 mm lead", 0.004, "lead"), Lure("8 mm tungsten", 0.008)):
        assert tip(lure).says == "still"
        assert tip(lure).bend == pytest.approx(rod.bend(rod.weight_in_water(lure)))


def test_drag_grows_with_the_square_of_the_speed():
    """At its sink speed, drag is its weight: that is what terminal speed means."""
    weight, sink = rod.weight_in_water(USUAL_JIG), USUAL_JIG.sink_speed_m_s

    def load(speed: float) -> float:
        bend = tip(rising_m_s=speed).bend
        return rod.TIP_N * bend / (1.0 - bend)  # the tip's own law, backwards

    for share in (0.25, 0.5, 1.0, 1.5):
        assert load(share * sink) == pytest.approx(weight * (1.0 + share**2))
    assert tip(rising_m_s=0.5 * sink).says == "lifting"


def test_drag_ends_somewhere_and_a_falling_lure_has_none():
    sink = USUAL_JIG.sink_speed_m_s
    assert tip(rising_m_s=2.0 * sink).bend == tip(rising_m_s=9.0 * sink).bend
    assert tip(rising_m_s=-0.3).bend == tip().bend and tip(rising_m_s=-0.3).says == "still"


def test_a_heavier_lure_bends_it_more_and_a_large_one_counts_as_a_centimetre():
    bends = [tip(replace(USUAL_JIG, diameter_m=mm / 1000.0)).bend for mm in (2, 4, 6, 8, 10)]
    assert bends == sorted(bends) and bends[-1] > 3.0 * bends[0]
    blade = [Lure("s", mm / 1000.0, "brass", "spoon", 0.06) for mm in (10, 20, 40)]
    assert len({rod.weight_in_water(one) for one in blade}) == 1


def test_a_tip_bends_half_way_under_its_own_load_and_never_further_than_all():
    assert rod.bend(rod.TIP_N) == 0.5
    loads = np.linspace(0.0, 50.0, 200)
    bends = [rod.bend(float(one)) for one in loads]
    assert bends[0] == 0.0 and bends == sorted(bends) and bends[-1] < 1.0


@pytest.mark.parametrize(
    ("state", "says"),
    [
        ({"hooked": True, "bite": "load", "lying": True}, "fish"),
        ({"bite": "load", "lying": True}, "load"),
        ({"bite": "tap", "slack_m": 0.3}, "tap"),
        ({"bite": "nip"}, "tap"),
        ({"bite": "slack"}, "slack"),
        ({"lying": True, "slack_m": 0.3}, "bottom"),
        ({"slack_m": 0.03, "in_weeds": 0.9, "rising_m_s": 0.1}, "slack line"),
        ({"slack_m": 0.02}, "still"),
        ({"in_weeds": 0.9, "rising_m_s": 0.1, "twitching": True}, "weed"),
        ({"in_weeds": 0.9, "rising_m_s": 0.004}, "still"),
        ({"twitching": True, "rising_m_s": 0.1}, "twitch"),
        ({"rising_m_s": 0.0051}, "lifting"),
        ({"rising_m_s": 0.005}, "still"),
    ],
)
def test_of_two_things_the_tip_shows_the_one_that_hides_the_other(state, says):
    assert tip(**state).says == says


def test_a_tap_is_over_in_its_time_and_the_lures_weight_comes_back():
    before, after = tip(bite="tap", held_s=rod.TAP_S - 0.01), tip(bite="tap", held_s=rod.TAP_S)
    assert before.bend == rod.bend(0.22) > 2.0 * after.bend
    assert after.bend == rod.bend(0.05 + rod.weight_in_water(USUAL_JIG))


def test_thicker_weed_bends_it_further():
    bends = [tip(in_weeds=density, rising_m_s=0.1).bend for density in (0.1, 0.5, 1.0)]
    assert bends == sorted(bends) and bends[0] == pytest.approx(rod.bend(0.02))


def test_a_mouth_holds_all_of_its_strength_once_it_has_closed():
    held = [rod.set_pull("braid", 7.0, 0.0, "firm", 14.0, s).mouth_n for s in (0.0, 0.15, rod.GRIP_S, 5.0)]
    assert held == pytest.approx([7.0, 10.5, 14.0, 14.0])


@pytest.mark.parametrize("line", list(rod.LINES))
def test_slack_is_taken_up_before_anything_pulls(line):
    pulls = [rod.set_pull(line, 10.0, slack, "hard", 14.0, 1.0).pull_n for slack in (0.0, 0.3, 0.6, 0.9, 1.2)]
    assert pulls == sorted(pulls, reverse=True) and pulls[-2:] == [0.0, 0.0]


def test_less_than_a_metre_of_line_counts_as_a_metre():
    assert rod.set_pull("nylon", 0.2, 0.4, "firm", 90.0, 1.0) == rod.set_pull("nylon", 1.0, 0.4, "firm", 90.0, 1.0)


@pytest.mark.parametrize(
    ("pull", "mouth", "breaks", "outcome"),
    [
        (1.19, 14.0, 27.0, "too soft"),
        (1.2, 14.0, 27.0, "hooked"),
        (14.0, 14.0, 27.0, "hooked"),
        (14.01, 14.0, 27.0, "torn out"),
        (27.0, 14.0, 27.0, "torn out"),
        (27.01, 14.0, 27.0, "line parted"),
        (20.0, 30.0, 15.0, "line parted"),
    ],
)
def test_where_one_outcome_ends_and_the_next_begins(pull, mouth, breaks, outcome):
    assert rod.Pull(pull, 0.0, mouth, breaks).outcome == outcome
