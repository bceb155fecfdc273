"""Where each verdict begins and where it ends: just inside it is given, with these numbers; just outside it is not."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics import beam
from hollow_glint.core.gear import profiles
from hollow_glint.core.gear.lures import USUAL_JIG as JIG
from hollow_glint.core.gear.settings import Settings, smallest_range
from hollow_glint.core.gear.unit import FOOT
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import still_echoes, transmission
from hollow_glint.core.tuning import coach
from hollow_glint.core.tuning.company import NEIGHBOUR_SHARE, neighbour_share
from hollow_glint.core.tuning.situation import situation_at
from hollow_glint.core.tuning.verdict import Verdict
from hollow_glint.core.tuning.verdicts import beam_width, hanging
from hollow_glint.core.tuning.verdicts.neighbours import enough_rejection

MUD = Scene(9.1, "mud", 0.36, 0.44)
RING, SCROLLER, FINE = profiles.TWO_BEAM_RING, profiles.WIDE_NARROW_SCROLLER, profiles.SHORT_PULSE
WELL = Settings(56.0, 30 * FOOT)


def told(scene=MUD, unit=RING, now=WELL, depth=6.5, lock=None) -> dict[str, Verdict]:
    at = situation_at(scene, unit, now, JIG, depth)
    return {one.code: one for one in coach.verdicts(replace(at, lock_m=lock))}


def says(verdict: Verdict) -> str:
    values = {name: f"{one.value:.2f} {one.unit}" for name, one in verdict.values.items()}
    return f"{verdict.finding} {verdict.reason}".format(**values)


def test_well_hung_and_well_set_nothing_is_wanting():
    assert all(one.severity < 1.0 for one in told().values())


def test_the_gravest_comes_first():
    bad = replace(MUD, face_wet=False, tilt_deg=8.0, on_float=False, face_depth_m=0.2)
    at = situation_at(bad, RING, WELL, JIG, 6.5)
    codes = [one.code for one in coach.verdicts(at)]
    assert codes[:4] == ["inside the ice", "dry face", "off plumb", "swinging"]


# --- how it hangs --------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("tilt", "given"), [(hanging.PLUMB_DEG, False), (hanging.PLUMB_DEG + 0.1, True)])
def test_two_degrees_is_as_straight_as_anyone_hangs_it(tilt, given):
    assert ("off plumb" in told(replace(MUD, tilt_deg=tilt))) == given


def test_off_plumb_tells_how_far_past_the_lure_it_looks_and_what_that_costs():
    one = told(replace(MUD, tilt_deg=6.0))["off plumb"]
    assert one.values["aside"].value == pytest.approx((6.5 - 0.44) * np.tan(np.radians(6.0)))
    ka = beam.ka_from_beam_width(RING.beams[0].width_deg)
    assert one.values["loss"].value == pytest.approx(-2.0 * float(beam.directivity(np.radians(6.0), ka)))
    assert one.change.setting == "tilt_deg" and one.change.value == 0.0


@pytest.mark.parametrize(("face", "given"), [(0.35, True), (0.36, False), (0.5, False)])
def test_inside_the_ice_ends_where_the_ice_ends(face, given):
    found = told(replace(MUD, face_depth_m=face))
    assert ("inside the ice" in found) == given
    if given:
        assert found["inside the ice"].change.value == pytest.approx(0.41)


def test_a_dry_face_loses_twice_what_one_way_loses():
    assert told(replace(MUD, face_wet=False))["dry face"].values["loss"].value == 2.0 * transmission.DRY_FACE_DB


# --- range ---------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("unit", [RING, SCROLLER, FINE], ids=lambda unit: unit.name)
def test_of_all_ranges_only_the_fitting_one_is_left_in_peace(unit):
    fits = smallest_range(unit, MUD.bottom_range_m)
    for span in unit.ranges_m:
        found = told(unit=unit, now=Settings(unit.gain.maximum / 2.0, span))
        if span < MUD.bottom_range_m:
            assert found["range too small"].change.value == fits
        elif abs(span - fits) < 1e-3:
            assert not {"range too small", "range larger than needed"} & set(found)
        elif not unit.free_range or span > 1.15 * fits:
            assert found["range larger than needed"].change.value == fits


def test_a_larger_range_says_how_high_a_row_is_now_and_then():
    one = told(now=replace(WELL, range_m=90 * FOOT))["range larger than needed"]
    assert one.values["row"].value == pytest.approx(90 * FOOT / RING.rows)
    assert one.values["row_then"].value == pytest.approx(one.change.value / RING.rows)


@pytest.mark.parametrize(("share", "given"), [(0.16, False), (0.14, True), (-0.14, True), (-0.16, False)])
def test_a_lock_within_a_seventh_of_the_second_echo_is_a_lock_on_it(share, given):
    second = still_echoes.second_echo_range(MUD)
    unit = replace(RING, auto_range=True)
    now = replace(WELL, auto_range=True)
    found = told(unit=unit, now=now, lock=second + share * MUD.bottom_range_m)
    assert ("locked on a second echo" in found) == given


def test_no_lock_or_no_automatic_range_is_no_false_lock():
    unit = replace(RING, auto_range=True)
    assert "locked on a second echo" not in told(unit=unit, now=replace(WELL, auto_range=True), lock=None)
    second = still_echoes.second_echo_range(MUD)
    assert "locked on a second echo" not in told(unit=unit, now=WELL, lock=second)


# --- windows -------------------------------------------------------------------------------------------------------


def test_a_bottom_window_holds_the_lure_or_a_taller_one_is_named_or_the_full_column():
    unit = replace(RING, bottom_windows_m=(1.5, 3.0, 4.5), free_windows_m=())
    now = replace(WELL, bottom_window_m=1.5)
    assert "window not over the lure" not in told(unit=unit, now=now, depth=8.6)
    taller = told(unit=unit, now=now, depth=6.5)["window not over the lure"]
    assert taller.change.setting == "bottom_window_m" and taller.change.value == 4.5 and "taller" in says(taller)
    none = told(unit=unit, now=now, depth=2.0)["window not over the lure"]
    assert none.change.value == 0.0 and "full column" in says(none)


def test_a_free_window_is_moved_so_that_the_lure_hangs_three_fifths_down():
    unit = replace(RING, bottom_windows_m=(), free_windows_m=(3.0,))
    now = replace(WELL, free_window_m=3.0, free_window_top_m=5.5)
    one = told(unit=unit, now=now, depth=3.44)["window not over the lure"]
    assert one.change.setting == "free_window_top_m" and one.change.value == pytest.approx(3.0 - 0.6 * 3.0)


# --- neighbours ----------------------------------------------------------------------------------------------------

COMPANY = replace(MUD, neighbours=(Neighbour(2.5, ping_interval_s=0.0471), Neighbour(3.2, ping_interval_s=0.0533)))


def test_without_neighbours_nothing_is_lit_and_the_first_step_is_enough():
    at = situation_at(MUD, RING, WELL, JIG, 6.5)
    assert neighbour_share(at, WELL) == 0.0 and enough_rejection(at) == 0


def test_more_rejection_never_lights_more_and_enough_is_the_first_that_is_enough():
    for unit in (RING, SCROLLER):
        now = Settings(0.6 * unit.gain.maximum, smallest_range(unit, MUD.bottom_range_m))
        at = situation_at(COMPANY, unit, now, JIG, 6.5)
        shares = [neighbour_share(at, replace(now, rejection=step)) for step in range(len(unit.rejections))]
        assert shares[0] > NEIGHBOUR_SHARE and shares[-1] < shares[0]
        enough = enough_rejection(at)
        if enough is not None:
            assert shares[enough] <= NEIGHBOUR_SHARE and all(one > NEIGHBOUR_SHARE for one in shares[:enough])


def test_a_further_neighbour_and_a_quieter_one_light_less():
    def share(**changed) -> float:
        scene = replace(MUD, neighbours=(Neighbour(**{"distance_m": 2.0, **changed}),))
        return neighbour_share(situation_at(scene, RING, WELL, JIG, 6.5), WELL)

    base = share()
    assert 0.0 < share(distance_m=20.0) < base
    assert share(power_w=1.0) < base
    assert share(frequency_hz=455e3) < base
    assert share(ping_interval_s=0.094) < base, "half as often"


def test_rejection_says_what_it_costs_in_delay():
    one = told(COMPANY)["rejection too low"]
    assert one.values["to"].value == one.change.value
    assert one.values["share"].value > 100.0 * NEIGHBOUR_SHARE and one.values["lag"].value > 0.0
    high = told(now=replace(WELL, rejection=4))["rejection higher than needed"]
    assert high.change.value == 0 and "enough here" in says(high)


# --- beam ----------------------------------------------------------------------------------------------------------


def test_four_metres_at_the_bottom_is_as_wide_as_a_cone_may_be():
    width = max(one.width_deg for one in RING.beams)
    wide = next(i for i, one in enumerate(RING.beams) if one.width_deg == width)
    limit = beam_width.WIDE_CONE_M / (2.0 * np.tan(np.radians(width / 2.0)))  # metres below the face
    for down, given in ((limit - 0.2, False), (limit + 0.2, True)):
        scene = replace(MUD, bottom_depth_m=down + MUD.face_depth_m)
        now = Settings(60.0, smallest_range(RING, down), beam=wide)
        assert ("beam too wide" in told(scene, now=now, depth=down - 1.5)) == given


def test_the_narrowest_beam_is_never_too_wide():
    narrow = min(range(len(RING.beams)), key=lambda i: RING.beams[i].width_deg)
    deep = replace(MUD, bottom_depth_m=25.0)
    assert "beam too wide" not in told(deep, now=Settings(70.0, smallest_range(RING, 24.6), beam=narrow), depth=20.0)


# --- lure and water ------------------------------------------------------------------------------------------------


def test_the_lure_is_lost_just_below_its_floor_and_shows_at_it():
    at = situation_at(MUD, RING, WELL, JIG, 6.5)
    scale = RING.gain
    shows = scale.at_or_above(at.limits.floor)
    assert "lure lost" not in told(now=replace(WELL, gain=shows))
    lost = told(now=replace(WELL, gain=shows - scale.step))["lure lost"]
    assert lost.values["needed"].value == shows and lost.values["gain"].value == shows - scale.step
    assert "lure lost" not in told(now=replace(WELL, gain=scale.minimum), depth=0.3), "it is not down yet"


def test_a_lure_in_blanked_water_is_told_to_turn_blanking_off():
    unit = replace(RING, blanking_m=(0.0, 3.0))
    one = told(unit=unit, now=replace(WELL, blanking=1), depth=2.5)["lure lost"]
    assert one.change.setting == "blanking" and one.change.value == 0 and "3.00 m" in says(one)
    assert "lure lost" not in told(unit=unit, now=replace(WELL, blanking=1), depth=5.0)


def test_more_power_is_named_where_gain_alone_cannot_do_it():
    weak = replace(RING, powers_w=(1.0, 400.0), gain=replace(RING.gain, first_colour_db=170.0))
    one = told(unit=weak, now=replace(WELL, gain=weak.gain.maximum))["lure lost"]
    assert one.change.setting == "power" and one.values["more"].value == pytest.approx(10 * np.log10(400.0))
    single = replace(weak, powers_w=(1.0,))
    one = told(unit=single, now=replace(WELL, gain=single.gain.maximum))["lure lost"]
    assert one.change is None and "larger lure" in says(one)


@pytest.mark.parametrize(
    ("scene", "depth", "where"),
    [
        (MUD, 9.1, "bottom echo"),
        (replace(MUD, weed_height_m=2.0, weed_density=1.0), 8.0, "the weeds"),
    ],
)
def test_a_buried_lure_is_told_in_what(scene, depth, where):
    assert where in says(told(scene, now=replace(WELL, gain=70.0), depth=depth)["lure buried"])


def test_the_water_is_too_bright_just_above_its_ceiling():
    at = situation_at(MUD, RING, WELL, JIG, 6.5)
    scale = RING.gain
    quiet = scale.at_or_below(at.limits.ceiling)
    assert "water too bright" not in told(now=replace(WELL, gain=quiet))
    bright = told(now=replace(WELL, gain=quiet + 2 * scale.step))["water too bright"]
    assert bright.change.value == pytest.approx(at.limits.advised)


def test_at_night_in_plankton_it_is_plankton_that_lights_the_water():
    night = replace(MUD, plankton="thin", hour=21.0)
    loud = replace(WELL, gain=85.0, tvg=2)
    assert "night plankton" in told(night, now=loud) and "water too bright" not in told(night, now=loud)
    brighter = replace(loud, gain=95.0, tvg=0)
    assert "water too bright" in told(now=brighter) and "night plankton" not in told(now=brighter)
