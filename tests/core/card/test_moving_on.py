"""From hole to hole and from unit to unit: what changes, what it would cost to leave, what cannot be matched."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.card.from_hole_to_hole import LEAST_DB, changes
from hollow_glint.core.card.hole_card import hole_card
from hollow_glint.core.card.known_hole import KnownHole
from hollow_glint.core.card.translate import translate
from hollow_glint.core.checks import InputError
from hollow_glint.core.gear import profiles
from hollow_glint.core.gear.lures import USUAL_JIG as JIG
from hollow_glint.core.gear.unit import FOOT, Rejection
from hollow_glint.core.hole.contents import Neighbour

RING, SCROLLER, SHORT = profiles.TWO_BEAM_RING, profiles.WIDE_NARROW_SCROLLER, profiles.SHORT_PULSE
KNOWN = KnownHole(
    9.45, ice_thickness_m=0.36, slush_m=0.0, bottom_kind="mud", clarity="clear", light="day",
    liveliness="quiet", weed_height_m=0.0, fish_length_m=0.3, neighbours=(),
)  # fmt: skip


def moved(unit=RING, **changed):
    """What to change from the known hole to one that differs so, by the setting's name."""
    here, there = (hole_card(at, unit, JIG) for at in (KNOWN, replace(KNOWN, **changed)))
    return {one.setting: one for one in changes(here, there)}


# --- from hole to hole --------------------------------------------------------------------------------------------


def test_the_same_hole_again_asks_for_nothing():
    assert moved() == {}


def test_a_deeper_hole_that_the_range_no_longer_holds_comes_first():
    found = moved(depth_m=20.0)
    first = next(iter(found.values()))
    assert first.setting == "range_m" and first.effect_db == 40.0
    assert first.was < 20.0 <= first.now + 0.5


def test_a_shallower_hole_on_the_old_range_only_costs_size():
    """Marks shrink by the ratio of the ranges: 20 log of it."""
    found = moved(depth_m=5.0)
    one = found["range_m"]
    assert one.effect_db == pytest.approx(20.0 * np.log10(one.was / one.now))


def test_gain_left_as_it_was_costs_its_decibels():
    found = moved(clarity="murky", depth_m=12.0)
    one, scale = found["gain"], RING.gain
    assert one.effect_db == pytest.approx(abs(scale.decibels(one.now) - scale.decibels(one.was)))


def test_thicker_ice_lowers_the_face_and_a_face_left_inside_it_costs_much():
    found = moved(ice_thickness_m=0.7)
    one = found["face_depth_m"]
    assert one.now == pytest.approx(0.78) and one.was == pytest.approx(0.44)
    assert one.effect_db == 20.0, "its old place is inside the new ice"
    # The other way round, thinner ice leaves the face lower than need be, which costs next to nothing.
    back = moved(ice_thickness_m=0.2)["face_depth_m"]
    assert LEAST_DB <= back.effect_db < 3.0


def test_a_lure_left_below_the_new_bottom_costs_all():
    found = moved(depth_m=5.0)
    assert found["lure_depth_m"].effect_db == 40.0
    assert found["lure_depth_m"].now < 5.0


def test_every_change_says_where_it_was_and_where_it_goes_and_is_worth_saying():
    for there in ({"depth_m": 4.0}, {"depth_m": 20.0}, {"liveliness": "lively", "light": "night"}, {"view": "window"}):
        for unit in (RING, SCROLLER, SHORT, profiles.TRAIL_UNIT):
            here, then = (hole_card(at, unit, JIG) for at in (KNOWN, replace(KNOWN, **there)))
            found = changes(here, then)
            effects = [one.effect_db for one in found]
            assert effects == sorted(effects, reverse=True) and all(one >= LEAST_DB or one == 0.0 for one in effects)
            for one in found:
                if one.setting in vars(here.settings):
                    assert (one.was, one.now) == (
                        float(getattr(here.settings, one.setting)),
                        float(getattr(then.settings, one.setting)),
                    )
                assert one.was != one.now


def test_a_neighbour_asks_for_rejection_and_says_what_leaving_it_off_shows():
    found = moved(neighbours=(Neighbour(2.0),))
    assert found["rejection"].now > found["rejection"].was
    assert found["rejection"].effect_db > LEAST_DB


def test_another_unit_is_no_change_but_another_card():
    assert changes(hole_card(KNOWN, RING, JIG), hole_card(KNOWN, SCROLLER, JIG)) is None


# --- from unit to unit --------------------------------------------------------------------------------------------


def across(other, mine=RING, **knobs):
    card = hole_card(KNOWN, mine, JIG)
    now = replace(card.settings, **knobs)
    made = translate(card.scene, JIG, card.lure_depth_m, mine, now, other)
    return made, " ".join(one.text for one in made.unmatched), " ".join(one.text for one in made.matched)


@pytest.mark.parametrize("other", [RING, SCROLLER, SHORT, profiles.TRAIL_UNIT], ids=lambda unit: unit.name)
def test_what_comes_out_can_be_set_and_every_sentence_can_be_said(other):
    made, _, _ = across(other)
    assert made.settings.checked(other) == made.settings
    assert made.matched or made.unmatched
    for said in (*made.matched, *made.unmatched):
        said.text.format(**said.values)


def test_full_column_goes_to_full_column_and_a_window_to_the_nearest_of_its_kind():
    _, _, matched = across(SCROLLER)
    assert "full column" in matched
    wide = replace(RING, bottom_windows_m=(2.0,), free_windows_m=())
    other = replace(SCROLLER, bottom_windows_m=(1.0, 2.2, 4.0), free_windows_m=())
    made, _, matched = across(other, wide, bottom_window_m=2.0)
    assert made.settings.bottom_window_m == 2.2 and "The window" in matched


def test_a_window_far_from_any_that_it_has_is_said():
    wide = replace(RING, bottom_windows_m=(2.0,), free_windows_m=())
    made, unmatched, _ = across(
        replace(SCROLLER, bottom_windows_m=(4.0,), free_windows_m=()), wide, bottom_window_m=2.0
    )
    assert made.settings.bottom_window_m == 4.0 and "nearest window" in unmatched


def test_a_bottom_window_becomes_a_free_one_at_the_same_water():
    wide = replace(RING, bottom_windows_m=(2.0,), free_windows_m=())
    other = replace(SCROLLER, bottom_windows_m=(), free_windows_m=(2.0,))
    made, unmatched, _ = across(other, wide, bottom_window_m=2.0)
    assert made.settings.free_window_m == 2.0 and made.settings.bottom_window_m == 0.0
    assert "nearest window" in unmatched
    # The window's top is where the other's was: the bottom, less its height but for what it keeps below the line.
    down = hole_card(KNOWN, wide, JIG).scene.bottom_range_m
    assert made.settings.free_window_top_m == pytest.approx(down + 0.15 * 2.0 - 2.0, abs=0.02)


def test_a_unit_without_windows_shows_the_full_column_and_says_so():
    wide = replace(RING, bottom_windows_m=(2.0,))
    made, unmatched, _ = across(replace(SCROLLER, bottom_windows_m=(), free_windows_m=()), wide, bottom_window_m=2.0)
    assert made.settings.bottom_window_m == made.settings.free_window_m == 0.0
    assert "no window" in unmatched


def test_knobs_that_are_lists_go_to_what_does_most_nearly_the_same():
    mine = replace(RING, tvg_db_decade=(0.0, 20.0, 40.0), noise_filters=(1, 3, 5))
    other = replace(RING, tvg_db_decade=(0.0, 38.0, 60.0), noise_filters=(1, 4))
    made, _, _ = across(other, mine, tvg=2, noise_filter=2)
    assert made.settings.tvg == 1 and made.settings.noise_filter == 1


def test_a_knob_that_it_lacks_is_said():
    mine = replace(RING, tvg_db_decade=(0.0, 40.0))
    _, unmatched, _ = across(replace(RING, tvg_db_decade=(0.0,)), mine, tvg=1)
    assert "no time-varied gain to turn" in unmatched


def test_a_picture_that_lags_otherwise_is_said():
    mine = replace(RING, rejections=(Rejection(1), Rejection(9, 0.5)))
    other = replace(RING, rejections=(Rejection(1),))
    _, unmatched, _ = across(other, mine, rejection=1)
    assert "lags by" in unmatched
    _, unmatched, _ = across(mine, mine, rejection=1)
    assert "lags" not in unmatched


def test_a_knob_that_ends_too_soon_is_said_with_how_many_colours_are_missing():
    deaf = replace(RING, gain=replace(RING.gain, first_colour_db=220.0))
    made, unmatched, _ = across(deaf)
    assert "colours weaker" in unmatched and made.settings.gain == deaf.gain.maximum
    loud = replace(RING, gain=replace(RING.gain, first_colour_db=60.0))
    made, unmatched, _ = across(loud)
    assert "colours stronger" in unmatched and made.settings.gain == loud.gain.minimum


@pytest.mark.parametrize(("short_db", "said"), [(0.3, False), (0.7, True), (1.5, True)])
def test_half_a_colour_too_little_is_still_the_same_colour(short_db, said):
    """The knob ends so many colour steps before the gain that would match."""
    now = hole_card(KNOWN, RING, JIG).settings
    steps = round(short_db * RING.colour_step_db / RING.gain.db_per_step)
    ends = replace(
        RING, beams=(RING.beams[now.beam],), gain=replace(RING.gain, maximum=now.gain - steps * RING.gain.step)
    )
    _, unmatched, matched = across(ends)
    assert ("colours weaker" in unmatched) == said and ("same colour" in matched) != said


def test_of_two_beams_the_one_that_sees_as_wide_is_taken():
    for beam in range(len(RING.beams)):
        made, _, _ = across(RING, RING, beam=beam)
        assert made.settings.beam == beam


def test_a_hole_too_deep_for_the_other_and_settings_that_mine_lacks_are_refused():
    card = hole_card(KNOWN, RING, JIG)
    shallow = replace(RING, ranges_m=(2.0, 4.0), bottom_windows_m=(), free_windows_m=(), free_range=False)
    with pytest.raises(InputError, match=r"bottom_depth_m is 9\.45 m: the largest range"):
        translate(card.scene, JIG, card.lure_depth_m, RING, card.settings, shallow)
    with pytest.raises(InputError, match="beam"):
        translate(card.scene, JIG, card.lure_depth_m, RING, replace(card.settings, beam=9), SCROLLER)


def test_a_foot_is_a_foot():
    assert FOOT == 0.3048
