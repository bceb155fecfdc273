"""What is true under the hole: temperature, plankton, weeds, schools, structure; and what contradicts itself."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics.targets import rigid_sphere_target_strength
from hollow_glint.core.checks import InputError
from hollow_glint.core.hole import shoals
from hollow_glint.core.hole.contents import SPECIES, Hung, Neighbour, Shoal, Structure
from hollow_glint.core.hole.hole import SCENE_FIELDS, Hole
from hollow_glint.core.hole.scene import CLARITY_DB, PLANKTON_DB, SILT_DB, SILT_HEIGHT_M, WEED_DB, Scene, night_share
from hollow_glint.core.hole.structure import HIGHLIGHTS, lying

PLAIN = Scene(bottom_depth_m=9.0, bottom_kind="mud", ice_thickness_m=0.4, face_depth_m=0.5)


def db(share: np.ndarray) -> np.ndarray:
    return 10.0 * np.log10(share)


# --- temperature --------------------------------------------------------------------------------------------------


def test_water_is_as_cold_as_told_under_the_ice_and_settles_below():
    scene = replace(PLAIN, temperature_c=4.0, under_ice_c=0.0)
    at = scene.temperature_at(np.array([0.0, 0.4, 1.4, 3.4, 9.0]))
    assert at[0] == at[1] == 0.0
    # To 1/e of the difference in a metre, and to a twentieth in three.
    assert at[2] == pytest.approx(4.0 * (1.0 - np.exp(-1.0)))
    assert 4.0 - at[3] < 4.0 / 20.0 and np.all(np.diff(at) >= 0.0)


def test_without_a_word_for_the_top_the_column_is_even():
    assert set(PLAIN.temperature_at(np.linspace(0.0, 9.0, 7))) == {PLAIN.temperature_c}


# --- what hangs in the water --------------------------------------------------------------------------------------


def test_clarity_alone_is_what_open_water_returns():
    depth = np.linspace(0.5, 9.0, 30)
    for clarity, strength in CLARITY_DB.items():
        assert db(replace(PLAIN, clarity=clarity).volume_scattering(depth)) == pytest.approx(strength)
    assert list(CLARITY_DB.values()) == sorted(CLARITY_DB.values()), "from clear to thick"


@pytest.mark.parametrize(
    ("hour", "share"),
    [(12.0, 0.0), (15.75, 0.0), (16.5, 0.5), (17.25, 1.0), (23.0, 1.0), (0.0, 1.0), (7.25, 1.0), (8.0, 0.5), (8.75, 0)],
)
def test_plankton_rises_at_dusk_and_sinks_at_dawn(hour, share):
    assert night_share(hour) == pytest.approx(share)


def test_plankton_lies_low_by_day_and_fills_the_middle_by_night():
    depth = np.linspace(0.5, 9.0, 400)
    day, night = (replace(PLAIN, plankton="thick", hour=hour).volume_scattering(depth) for hour in (12.0, 22.0))
    assert depth[day.argmax()] > 7.5 and 4.0 < depth[night.argmax()] < 5.5
    assert db(day.max()) == pytest.approx(PLANKTON_DB["thick"], abs=0.2)
    middle = (depth > 3.0) & (depth < 6.0)
    assert night[middle].mean() > 10.0 * day[middle].mean()


def test_silt_stands_on_the_bottom_and_falls_off_over_its_height():
    scene = replace(PLAIN, silt=1.0)
    at = scene.volume_scattering(np.array([9.0, 9.0 - SILT_HEIGHT_M]))
    water = 10.0 ** (CLARITY_DB["clear"] / 10.0)
    assert db(at[0] - water) == pytest.approx(SILT_DB)
    assert (at[1] - water) / (at[0] - water) == pytest.approx(np.exp(-1.0))
    half = replace(PLAIN, silt=0.5).volume_scattering(np.array([9.0]))[0] - water
    assert half == pytest.approx(0.5 * (at[0] - water))


def test_weeds_stand_from_the_bottom_to_their_height_and_nowhere_else():
    scene = replace(PLAIN, weed_height_m=2.0, weed_density=0.5)
    assert scene.weed_top_m == 7.0
    depth = np.linspace(0.5, 9.0, 1000)
    standing = scene.weed_scattering(depth)
    assert np.all(standing[depth < 7.0] == 0.0) and np.all(standing[depth > 7.0] > 0.0)
    assert db(standing.max()) <= WEED_DB + db(0.5) + 0.01
    # Twice as dense, twice as loud; in clumps, not even.
    assert replace(scene, weed_density=1.0).weed_scattering(depth).sum() == pytest.approx(2.0 * standing.sum())
    inside = standing[depth > 7.0]
    assert inside.max() > 3.0 * inside.min()


@pytest.mark.parametrize("without", [{"weed_height_m": 0.0}, {"weed_density": 0.0}])
def test_no_height_or_no_density_is_no_weed(without):
    scene = replace(PLAIN, weed_height_m=2.0, **without) if "weed_height_m" not in without else PLAIN
    scene = replace(scene, **without)
    assert scene.weed_top_m == scene.bottom_depth_m
    assert not scene.weed_scattering(np.linspace(0.0, 9.0, 50)).any()


@pytest.mark.parametrize(
    ("ice", "slush", "face", "inside"),
    [(0.4, 0.0, 0.5, 0.0), (0.4, 0.0, 0.3, 0.1), (0.4, 0.5, 0.3, 0.2), (0.4, 0, 0, 0.4)],
)
def test_how_far_the_face_is_inside_the_ice_or_slush(ice, slush, face, inside):
    scene = replace(PLAIN, ice_thickness_m=ice, slush_m=slush, face_depth_m=face)
    assert scene.inside_ice_m == pytest.approx(inside)
    assert scene.bottom_range_m == pytest.approx(9.0 - face)


# --- what contradicts itself --------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("changed", "names"),
    [
        ({"bottom_depth_m": 61.0}, ["bottom_depth_m", "60"]),
        ({"bottom_kind": "jelly"}, ["bottom_kind", "mud"]),
        ({"face_depth_m": 4.9, "bottom_depth_m": 5.0}, ["face_depth_m", "0.2 m of water"]),
        ({"ice_thickness_m": 2.95, "bottom_depth_m": 3.0}, ["ice_thickness_m"]),
        ({"weed_height_m": 4.8, "bottom_depth_m": 5.0}, ["weed_height_m"]),
        ({"second_hole_m": 0.2}, ["second_hole_m", "0.3"]),
        ({"hung": (Hung("camera", 5.0),)}, ["hung", "second_hole_m"]),
        ({"second_hole_m": 1.0, "hung": (Hung("camera", 9.5),)}, ["hung.depth_m"]),
        ({"shoals": (Shoal("bait", 60, "ball", 4.0),) * 3}, ["shoals.count", "180", "120"]),
        ({"shoals": (Shoal("char", 2, "loose", 8.99),)}, ["shoals.depth_m"]),
        ({"visitors": 7}, ["visitors", "6"]),
        ({"tilt_deg": -1.0}, ["tilt_deg"]),
        ({"hour": float("inf")}, ["hour"]),
    ],
)
def test_a_scene_that_cannot_be_is_refused_by_the_name_of_the_field(changed, names):
    with pytest.raises(InputError) as refused:
        replace(PLAIN, **changed)
    for name in names:
        assert name in str(refused.value)


def test_all_that_is_wrong_is_said_at_once():
    with pytest.raises(InputError) as refused:
        replace(PLAIN, tilt_deg=99.0, hour=-1.0, bottom_kind="jelly")
    assert all(name in str(refused.value) for name in ("tilt_deg", "hour", "bottom_kind"))


@pytest.mark.parametrize(
    ("kind", "wrong"),
    [
        (Structure, {"kind": "wreck", "aside_m": 0.0, "height_m": 1.0}),
        (Structure, {"kind": "log", "aside_m": 11.0, "height_m": 1.0}),
        (Hung, {"kind": "anchor", "depth_m": 3.0}),
        (Shoal, {"species": "whale", "count": 1, "form": "loose", "depth_m": 3.0}),
        (Shoal, {"species": "bait", "count": 61, "form": "ball", "depth_m": 3.0}),
        (Shoal, {"species": "bait", "count": 5, "form": "heap", "depth_m": 3.0}),
        (Neighbour, {"distance_m": 0.1}),
        (Neighbour, {"distance_m": 5.0, "ping_interval_s": 0.0}),
    ],
)
def test_what_a_scene_holds_is_refused_on_its_own(kind, wrong):
    with pytest.raises(InputError, match=r"is .*accepted|is one of|accepted are"):
        kind(**wrong)


def test_a_hole_is_a_scene_with_its_facts_and_nothing_of_its_own_made_up():
    hole = Hole("Test", 7.0, "sand", 0.3, 0.35, 0.15, 2.0, "stained", "Somewhere", "deep side")
    scene = hole.scene()
    for name in SCENE_FIELDS:
        assert getattr(scene, name) == getattr(hole, name)
    assert scene == Scene(7.0, "sand", 0.3, 0.35, 0.15, 2.0, "stained")
    with pytest.raises(InputError, match="face_depth_m"):
        replace(hole, bottom_depth_m=0.5)


# --- schools ------------------------------------------------------------------------------------------------------


def swimming(form: str, seed: int = 1, count: int = 40) -> shoals.Swimming:
    scene = replace(PLAIN, shoals=(Shoal("grayling", count, form, 5.0),))
    return shoals.set_swimming(scene, np.random.default_rng(seed))[0]


def test_a_ball_is_tighter_than_a_loose_school():
    moments = np.arange(0.0, 120.0, 2.0)
    spread = {form: swimming(form).places(moments, 9.0).std(axis=1).mean(axis=0) for form in ("loose", "ball")}
    assert np.all(spread["loose"] > 2.0 * spread["ball"])


def test_a_school_moves_no_faster_than_its_kind_and_stays_in_the_water():
    for form in ("loose", "ball"):
        moments = np.arange(0.0, 300.0, 0.25)
        place = swimming(form).places(moments, 5.2)
        assert place[:, :, 2].min() >= 0.1 and place[:, :, 2].max() <= 5.15
        middle = place.mean(axis=1)
        speed = np.hypot(*np.diff(middle[:, :2], axis=0).T) / 0.25
        assert speed.mean() < SPECIES["grayling"].cruise_m_s


def test_where_a_school_is_follows_from_the_time_alone():
    school = swimming("loose")
    at = school.places(np.array([3.0, 7.5, 40.0]), 9.0)
    assert np.array_equal(at[1], school.places(np.array([7.5]), 9.0)[0])
    assert np.array_equal(at, swimming("loose").places(np.array([3.0, 7.5, 40.0]), 9.0))
    assert not np.array_equal(at, swimming("loose", seed=2).places(np.array([3.0, 7.5, 40.0]), 9.0))


def test_fish_are_of_their_kinds_lengths():
    low, high = SPECIES["grayling"].length_m
    length = swimming("loose", count=60).length_m
    assert length.min() >= low and length.max() <= high and length.std() > 0.03


def test_a_fish_off_level_is_fainter():
    assert shoals.tilt_loss_db(np.array([0.0, 13.0, 26.0, 90.0])).tolist() == pytest.approx([0.0, -3.0, -10.0, -10.0])


# --- structure ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", list(HIGHLIGHTS))
def test_structure_lies_on_the_bottom_as_high_as_it_is(kind):
    place, strength = lying(Structure(kind, 1.5, 0.8), 9.0, 0.0)
    assert place.shape == (HIGHLIGHTS[kind], 3) and strength.shape == (HIGHLIGHTS[kind],)
    assert place[:, 2].max() <= 9.0 and 9.0 - place[:, 2].min() == pytest.approx(0.8, abs=0.13)
    assert place[:, 0].mean() == pytest.approx(1.5, abs=0.25)
    assert np.all((strength > -60.0) & (strength < 0.0))


def test_structure_on_a_slope_lies_where_the_slope_has_the_bottom():
    flat, deeper = (lying(Structure("log", 2.0, 0.5), 9.0, slope)[0] for slope in (0.0, np.radians(10.0)))
    assert np.allclose(deeper[:, 2] - flat[:, 2], 2.0 * np.tan(np.radians(10.0)))


def test_a_boulder_is_loudest_at_its_crown_and_no_louder_than_a_smooth_one():
    place, strength = lying(Structure("boulder", 0.0, 1.0), 9.0, 0.0)
    assert strength.argmax() == 0 and place[0, 2] == 8.0
    assert strength.max() < float(rigid_sphere_target_strength(1.0))


def test_a_log_is_long_and_brush_is_all_through():
    log, _ = lying(Structure("log", 0.0, 0.4), 9.0, 0.0)
    brush, _ = lying(Structure("brush", 0.0, 1.0), 9.0, 0.0)
    assert np.ptp(log[:, 1]) == pytest.approx(1.0) and np.ptp(log[:, 2]) == 0.0
    assert np.ptp(brush[:, 2]) > 0.7
