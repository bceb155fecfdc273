"""The numbers behind a card against the simulator and each other; what a school is worth; choosing the knobs."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics import beam
from hollow_glint.core.acoustics.targets import fish_target_strength
from hollow_glint.core.card.hole_card import hole_card
from hollow_glint.core.card.knobs import ROOM_ABOVE_M
from hollow_glint.core.card.known_hole import KnownHole
from hollow_glint.core.gear import profiles
from hollow_glint.core.gear.lures import USUAL_JIG as JIG
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.settings import draw, smallest_range
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.sonar import picture, ping, receiver
from hollow_glint.core.tuning.gain_window import step_inside

from ..watching import painted, steady

UNITS = [profiles.TRAIL_UNIT, *profiles.SHIPPED]
KNOWN = KnownHole(
    9.45, ice_thickness_m=0.36, slush_m=0.0, bottom_kind="mud", clarity="clear", light="day",
    liveliness="quiet", weed_height_m=0.0, fish_length_m=0.3, neighbours=(),
)  # fmt: skip


@pytest.fixture(scope="module", params=UNITS, ids=lambda unit: unit.name)
def card(request):
    return hole_card(KNOWN, request.param, JIG)


def test_depths_cones_and_current_are_those_of_the_settings(card):
    numbers, width = card.numbers, card.unit.beams[card.settings.beam].width_deg
    assert numbers.true_depth_m == 9.45
    assert numbers.displayed_depth_m == pytest.approx(9.45 - card.face_depth_m)
    assert numbers.cone_at_bottom_m == pytest.approx(beam.footprint_diameter(numbers.displayed_depth_m, width))
    assert numbers.cone_at_lure_m < numbers.cone_at_bottom_m
    assert numbers.draw_a == draw(card.unit, card.settings)
    assert numbers.lag_s == pytest.approx(receiver.lag(card.unit, card.settings, numbers.ping_rate_hz))
    assert numbers.gap_m >= max(numbers.row_m, card.situation.transmission.resolution_m) - 1e-9


def test_a_colour_on_the_card_is_the_colour_in_the_picture(card):
    """A steady target as strong as the lure, where the lure hangs: its strongest row in the picture."""
    s = card.situation
    t = s.transmission
    strength = card.lure.target_strength(t.frequency_hz, t.sound_speed_m_s)
    target = steady((card.lure_depth_m, 0.0, strength), pings=60)
    echoes = ping.echo_levels(t, target, 60, np.random.default_rng(1))
    rows = picture.row_range(card.unit, s.shown)
    near = np.abs(rows - (card.lure_depth_m - card.face_depth_m)) < 1.5 * t.resolution_m + picture.row_height(
        card.unit, s.shown
    )
    seen = painted(echoes, card.unit, card.settings, t, s.shown)[:, near].max(axis=1)
    assert abs(float(np.median(seen)) - card.numbers.lure_colour) <= 1


def test_at_the_edge_of_the_cone_everything_is_weaker(card):
    numbers = card.numbers
    assert numbers.lure_colour_edge <= numbers.lure_colour
    assert numbers.fish_colour_edge <= numbers.fish_colour
    assert numbers.fish_colour >= numbers.lure_colour, "a fish of a foot is louder than a jig"
    assert numbers.dead_zone_edge_m > numbers.dead_zone_middle_m > 0.0


def test_the_smallest_fish_that_shows_is_one_that_just_shows(card):
    """Love 1971 and the sonar equation, back again."""
    s, lean = card.situation, card.schools[0]
    t = s.transmission
    strength = float(fish_target_strength(min(max(lean.smallest_fish_m, 0.01), 3.0), t.frequency_hz))
    if 0.011 < lean.smallest_fish_m < 2.9:
        settings = replace(card.settings, gain=lean.gain)
        level = ping.target_echo_level(t, strength, card.lure_depth_m)
        off = receiver.taken_off(card.unit, settings, np.array([card.lure_depth_m - card.face_depth_m]))[0]
        first = receiver.first_colour_level(card.unit, settings)
        assert level - off == pytest.approx(first, abs=1.2), "to what the noise filter takes"


def test_a_larger_jig_is_seen_further_out_and_asks_for_less_gain():
    small, large = (hole_card(KNOWN, profiles.TWO_BEAM_RING, Lure("jig", size)) for size in (0.005, 0.008))
    assert large.gains.floor < small.gains.floor
    assert large.gains.ceiling == pytest.approx(small.gains.ceiling, abs=0.01), "the water is the same"


def test_of_two_lures_the_weaker_sets_the_gain_and_is_named():
    small, large = Lure("the small one", 0.003), Lure("the large one", 0.008)
    for one, other in ((small, large), (large, small)):
        made = hole_card(KNOWN, profiles.TWO_BEAM_RING, one, other)
        assert made.lure == small and "the small one" in made.notes[0].text and made.notes[0].values["by"].value > 3.0


def test_two_jigs_close_together_take_the_shorter_pulse_that_parts_them():
    unit = profiles.SHORT_PULSE
    apart = {}
    for gap in (0.02, 0.05, 0.3):
        made = hole_card(KNOWN, unit, Lure("two", 0.005, form="two jigs", spacing_m=gap))
        apart[gap] = unit.pulses[made.settings.pulse].duration_s
    assert apart[0.02] <= apart[0.05] <= apart[0.3] and apart[0.02] < apart[0.3]


def test_a_neighbour_turns_rejection_on_and_its_share_is_told():
    quiet, crowded = (
        hole_card(replace(KNOWN, neighbours=company), profiles.TWO_BEAM_RING, JIG)
        for company in ((), (Neighbour(2.0), Neighbour(3.0, ping_interval_s=0.0531)))
    )
    assert crowded.settings.rejection > quiet.settings.rejection == 0
    assert crowded.numbers.neighbour_percent < 1.0 and quiet.numbers.neighbour_percent == 0.0


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_a_window_holds_the_lure_with_water_above_it(unit):
    made = hole_card(replace(KNOWN, view="window"), unit, JIG)
    one = next(view for view in made.views if view.view == "window")
    at = made.lure_depth_m - made.face_depth_m
    assert one.top_m <= at - min(ROOM_ABOVE_M, at) + 1e-9 and at <= one.bottom_m
    assert one.row_m == pytest.approx((one.bottom_m - one.top_m) / unit.rows)
    assert made.settings.range_m == smallest_range(unit, made.scene.bottom_range_m)


@pytest.mark.parametrize(
    ("floor", "ceiling", "share", "step"),
    [(10.2, 10.8, 0.0, None), (10.2, 11.8, 0.0, 11.0), (10.0, 20.0, 0.25, 13.0), (10.0, 20.0, 1.0, 20.0),
     (-50.0, 5.0, 0.0, 0.0), (98.5, 400.0, 1.0, 100.0), (30.0, 20.0, 0.5, None)],
)  # fmt: skip
def test_a_knobs_step_inside_a_window(floor, ceiling, share, step):
    """On a knob from 0 to 100 in ones."""
    assert step_inside(profiles.TWO_BEAM_RING, floor, ceiling, share) == step
