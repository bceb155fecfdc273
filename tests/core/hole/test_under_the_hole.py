"""What is under the hole: water by the hour, schools that swim, things that lie, lures that hang, who else pings."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.gear.lures import FORMS, Lure
from hollow_glint.core.gear.profiles import TRAIL_UNIT, TWO_BEAM_RING
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.hole import interference, scatterers, shoals, structure
from hollow_glint.core.hole.contents import Hung, Neighbour, Shoal, Structure
from hollow_glint.core.hole.scene import Scene, night_share, scene_from_dict
from hollow_glint.core.hole.swing import Swing, swing
from hollow_glint.core.sonar import ping, transmission

HOLE = Scene(9.45, "mud", 0.36, 0.44)
NOW = Settings(25.0, 12.192)
LURES = {
    "jig": Lure("jig", 0.005),
    "baited jig": Lure("baited", 0.005, "tungsten", "baited jig", 0.03),
    "chain jig": Lure("chain", 0.005, "tungsten", "chain jig", 0.0, 0.06),
    "two jigs": Lure("two", 0.005, "tungsten", "two jigs", 0.0, 0.15),
    "spoon": Lure("spoon", 0.012, "brass", "spoon", 0.04),
    "minnow": Lure("minnow", 0.010, "lead", "minnow", 0.05),
    "camera": Lure("camera", 0.03, "steel", "camera", 0.08),
}


# --- water --------------------------------------------------------------------------------------------------------


def test_water_is_coldest_under_the_ice_and_settles_below():
    scene = replace(HOLE, temperature_c=4.0, under_ice_c=0.2)
    t = scene.temperature_at(np.array([0.36, 1.0, 3.0, 9.0]))
    assert t[0] == pytest.approx(0.2) and np.all(np.diff(t) > 0) and t[-1] == pytest.approx(4.0, abs=0.01)
    # Colder water is slower, so the whole column takes longer: about 5 m/s a degree near freezing.
    speeds = [
        transmission.transmit(one, TRAIL_UNIT, NOW).sound_speed_m_s for one in (scene, replace(scene, under_ice_c=None))
    ]
    assert 1.0 < speeds[1] - speeds[0] < 6.0


@pytest.mark.parametrize(("hour", "share"), [(12.0, 0.0), (16.5, 0.5), (21.0, 1.0), (2.0, 1.0), (8.0, 0.5), (9.0, 0.0)])
def test_plankton_rises_at_dusk_and_sinks_at_dawn(hour, share):
    assert night_share(hour) == pytest.approx(share, abs=0.01)


def test_plankton_lies_low_by_day_and_fills_the_column_at_night():
    day, night = (replace(HOLE, plankton="thick", hour=hour) for hour in (12.0, 21.0))
    depth = np.array([3.0, 8.3])
    by_day, by_night = day.volume_scattering(depth), night.volume_scattering(depth)
    assert by_day[1] > 100 * by_day[0] and by_night[0] > 100 * by_day[0]


def test_silt_stands_at_the_bottom_and_weeds_only_where_they_grow():
    silty = replace(HOLE, silt=1.0).volume_scattering(np.array([5.0, 9.3]))
    assert silty[1] > 50 * silty[0]
    weedy = replace(HOLE, weed_height_m=1.0, weed_density=0.8)
    stems = weedy.weed_scattering(np.array([8.0, 9.0]))
    assert stems[0] == 0.0 and stems[1] > 0.0
    assert replace(weedy, weed_density=0.0).weed_top_m == HOLE.bottom_depth_m


def test_weeds_shade_what_stands_in_them():
    thick = transmission.transmit(replace(HOLE, weed_height_m=1.5, weed_density=1.0), TRAIL_UNIT, NOW)
    open_water = transmission.transmit(HOLE, TRAIL_UNIT, NOW)
    lost = [ping.target_echo_level(t, -40.0, 9.2) for t in (open_water, thick)]
    assert 15.0 < lost[0] - lost[1] < 30.0
    assert ping.target_echo_level(thick, -40.0, 5.0) == pytest.approx(ping.target_echo_level(open_water, -40.0, 5.0))


def test_a_slope_moves_the_nearest_bottom_aside_and_nearer():
    flat, steep = (transmission.transmit(replace(HOLE, slope_deg=slope), TRAIL_UNIT, NOW) for slope in (0.0, 20.0))
    bed = [t.bin_range_m[np.argmax(t.diffuse - t.open_water - t.clutter > 10 * t.open_water)] for t in (flat, steep)]
    assert bed[1] == pytest.approx(HOLE.bottom_range_m * np.cos(np.radians(20.0)), abs=0.1)
    assert bed[0] == pytest.approx(HOLE.bottom_range_m, abs=0.1)


# --- what swims and lies ------------------------------------------------------------------------------------------


def test_a_tight_ball_is_tighter_than_a_loose_school_and_all_stay_in_the_water():
    spreads = {}
    for form in ("loose", "ball"):
        scene = replace(HOLE, shoals=(Shoal("bait", 40, form, 6.0),))
        (swimming,) = shoals.set_swimming(scene, np.random.default_rng(2))
        place = swimming.places(np.linspace(0.0, 300.0, 50), scene.bottom_depth_m)
        assert place.shape == (50, 40, 3)
        assert place[:, :, 2].min() >= 0.1 and place[:, :, 2].max() <= scene.bottom_depth_m
        assert np.abs(np.diff(swimming.places(np.arange(0.0, 20.0, 0.05), 9.45), axis=0)).max() < 0.1  # no leaps
        spreads[form] = place[0].std(axis=0).mean()
    assert spreads["ball"] < 0.4 * spreads["loose"]


def test_a_fish_off_level_answers_less():
    assert shoals.tilt_loss_db(np.array([0.0, 13.0, 90.0])) == pytest.approx([0.0, -3.0, -10.0])


@pytest.mark.parametrize("kind", ["log", "boulder", "brush"])
def test_structure_lies_on_the_bottom_as_high_as_it_is(kind):
    place, strength = structure.lying(Structure(kind, 1.5, 0.8), 9.45, 0.0)
    assert place.shape == (strength.size, 3)
    assert place[:, 2].min() == pytest.approx(9.45 - 0.8, abs=0.12) and place[:, 2].max() <= 9.45
    assert place[:, 0].mean() == pytest.approx(1.5, abs=0.2)
    assert -60.0 < strength.max() < -5.0


def test_everything_that_answers_is_gathered_with_its_name():
    scene = replace(
        HOLE, second_hole_m=0.9, hung=(Hung("dead stick", 7.0), Hung("camera", 6.0)),
        shoals=(Shoal("char", 3, "loose", 6.0),), structures=(Structure("log", 1.0, 0.3),),
    )  # fmt: skip
    swimming = shoals.set_swimming(scene, np.random.default_rng(1))
    heard, names = scatterers.gather(
        scene, LURES["two jigs"], np.tile([0.0, 0.0, 8.0], (4, 1)), None, np.tile([[0.5, 0.0, 7.5]], (4, 1, 1)),
        ((0.3, "whitefish"),), swimming, np.arange(4) * 0.05, 200e3, 1405.0,
    )  # fmt: skip
    kinds = [who.kind for who in names]
    assert heard.x.shape == (4, len(names))
    assert {"lure", "line", "fish", "school", "dead stick", "camera", "log"} == set(kinds)
    assert kinds.count("lure") == 2 and kinds.count("school") == 3
    at = {kind: heard.z[0, kinds.index(kind)] for kind in ("lure", "fish", "dead stick", "camera")}
    assert at == {
        "lure": pytest.approx(8.0),
        "fish": 7.5,
        "dead stick": pytest.approx(7.0),
        "camera": pytest.approx(6.0),
    }
    line = heard.z[0, [i for i, kind in enumerate(kinds) if kind == "line"]]
    assert np.all((line > scene.face_depth_m) & (line < 8.0))
    assert heard.x[0, kinds.index("dead stick")] == pytest.approx(0.9)


# --- lures --------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("form", FORMS)
def test_every_form_has_points_that_answer_believably(form):
    lure = LURES[form]
    points = lure.highlights(200e3, 1405.0)
    assert points.below_m.shape == points.strength_db.shape
    assert -75.0 < points.strength_db.max() < -20.0
    assert lure.target_strength(200e3, 1405.0) == points.strength_db.max()
    assert 0.1 < lure.sink_speed_m_s < 2.0


def test_a_lures_sizes_are_checked_by_its_form():
    with pytest.raises(ValueError, match="length_m is 0"):
        Lure("spoon", 0.012, "brass", "spoon")
    with pytest.raises(ValueError, match=r"length_m is 0\.03 m: a jig has none"):
        Lure("jig", 0.005, length_m=0.03)
    with pytest.raises(ValueError, match="spacing_m"):
        Lure("two", 0.005, "tungsten", "two jigs")
    with pytest.raises(ValueError, match="diameter_m"):
        Lure("cannon ball", 0.03)


def test_a_swing_dies_out_and_heavy_line_swings_slower():
    out = Swing(0.5, 0.0, 0.3)
    course = [out]
    for _ in range(400):
        course.append(swing(course[-1], LURES["spoon"], 0.0, False, 6.0, 1.0, 0.05))
    aside = np.array([one.aside_m for one in course])
    assert abs(aside[-1]) < 0.01 and aside.min() < 0.0  # past plumb, and to rest
    assert np.abs(aside[200:]).max() < 0.5 * np.abs(aside[:100]).max()
    assert course[10].x == pytest.approx(course[10].aside_m * np.cos(0.3))


# --- company ------------------------------------------------------------------------------------------------------


def test_a_neighbours_pings_come_at_its_own_interval_by_three_ways():
    scene = replace(HOLE, neighbours=(Neighbour(3.0, ping_interval_s=0.05),))
    t = transmission.transmit(scene, TRAIL_UNIT, NOW)
    assert [path.kind for path in t.paths] == ["direct", "bottom", "twice"]
    lengths = [path.travel_s * t.sound_speed_m_s for path in t.paths]
    # Straight-line image paths, by hand.
    down, gap = scene.bottom_range_m, scene.bottom_depth_m - scene.ice_thickness_m
    assert lengths == pytest.approx([3.0, np.hypot(2 * down, 3.0), np.hypot(2 * down + 2 * gap, 3.0)])
    # Our pings 60 ms apart: each finds the next of theirs 10 ms sooner, modulo their interval.
    heard = interference.NeighbourArrivals.of(t.paths, 0.2)
    delay, strength = interference.arrivals(heard, np.arange(5) * 0.06)
    first = delay.reshape(5, 3, -1)[:, 0, 0]
    assert np.allclose(np.diff(first) % 0.05, 0.04, atol=1e-9)
    assert np.all(strength[delay < 0.2] > 0.0) and np.all(strength[delay >= 0.2] == 0.0)


def test_other_frequencies_and_distance_weaken_a_neighbour():
    assert interference.out_of_band_db(200e3, 200e3, 1e-4) == 0.0
    assert interference.out_of_band_db(210e3, 200e3, 1e-4) < -15.0
    assert interference.out_of_band_db(83e3, 200e3, 1e-4) == -interference.DEAFEST_DB
    near, far = (
        transmission.transmit(replace(HOLE, neighbours=(Neighbour(away),)), TWO_BEAM_RING, Settings(50.0, 13.716)).paths
        for away in (1.0, 10.0)
    )
    assert near[0].intensity > 50 * far[0].intensity


# --- scenes as fields ---------------------------------------------------------------------------------------------


def test_a_scene_comes_back_from_its_fields():
    from dataclasses import asdict

    scene = replace(HOLE, neighbours=(Neighbour(2.0),), shoals=(Shoal("bait", 5, "ball", 4.0),))
    assert scene_from_dict(asdict(scene)) == scene and hash(scene_from_dict(asdict(scene))) == hash(scene)
    with pytest.raises(ValueError, match="colour is not a field of the scene"):
        scene_from_dict({**asdict(scene), "colour": 1})


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        ({"hung": (Hung("camera", 5.0),)}, "hung needs a second hole"),
        ({"second_hole_m": 0.1}, "second_hole_m is 0.1"),
        ({"neighbours": (Neighbour(2.0),) * 9}, "neighbours has 9"),
        ({"shoals": (Shoal("bait", 60, "ball", 4.0),) * 3}, "adds up to 180"),
        ({"shoals": (Shoal("bait", 6, "ball", 14.0),)}, "shoals.depth_m is 14 m"),
        ({"weed_height_m": 9.3}, "weed_height_m"),
        ({"plankton": "soup"}, "plankton is 'soup'"),
        ({"visitors": 9}, "visitors is 9"),
        ({"tilt_deg": 80.0}, "tilt_deg is 80"),
    ],
)
def test_waters_that_cannot_be_are_refused(wrong, said):
    with pytest.raises(ValueError, match=said):
        replace(HOLE, **wrong)
