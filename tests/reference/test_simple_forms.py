"""Simple-form target strengths against an outside library, bottoms against their table, the dead zone against geometry.

echosms: rigid finite cylinder by the modal series of the deformed cylinder, rigid sphere by the modal series
(Jech and others 2015, Journal of the Acoustical Society of America 138, 3742). The model's valid span stands beside
each check.
"""

from __future__ import annotations

import numpy as np
import pytest
from echosms import DCMModel, MSSModel
from numpy.testing import assert_allclose

from hollow_glint.core.acoustics import bottom, targets
from hollow_glint.core.gear.profiles import TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import transmission
from hollow_glint.core.tuning import seen_zone
from tests.core.watching import steady, watch

WATER = {"medium_c": 1405.0, "medium_rho": 1000.0, "boundary_type": "fixed-rigid", "validate_parameters": False}


@pytest.mark.parametrize("f_hz", [200e3, 455e3])
@pytest.mark.parametrize(("length_m", "diameter_m"), [(0.05, 0.010), (0.10, 0.008), (0.03, 0.008), (0.05, 0.006)])
def test_rigid_cylinder_near_broadside(length_m, diameter_m, f_hz):
    # Urick's form is for ka well above 1 and near broadside: within 1.5 dB for ka from 2 and to 10 degrees.
    assert np.pi * f_hz * diameter_m / 1405.0 > 2.0
    model = DCMModel()
    for tilt in (0.0, 2.0, 4.0, 6.0, 10.0):
        theirs = model.calculate_ts_single(a=diameter_m / 2, b=length_m, theta=90.0 - tilt, f=f_hz, **WATER)
        ours = targets.cylinder_target_strength(length_m, diameter_m, f_hz, 1405.0, np.radians(tilt))
        assert ours == pytest.approx(theirs, abs=1.5)


@pytest.mark.parametrize("f_hz", [200e3, 455e3])
@pytest.mark.parametrize("diameter_m", [0.02, 0.03, 0.04])
def test_rigid_sphere(diameter_m, f_hz):
    # a^2/4 is the limit of large ka: within 1 dB from ka of about 9.
    theirs = MSSModel().calculate_ts_single(a=diameter_m / 2, f=f_hz, **WATER)
    assert targets.rigid_sphere_target_strength(diameter_m) == pytest.approx(theirs, abs=1.0)


def test_plate_broadside_and_edge():
    # Urick 1983, by hand: a 40 by 12 mm oval has 377 mm^2; at 200 kHz in 1405 m/s, 20 log10(A / lambda) = -25.4 dB.
    assert targets.plate_target_strength(0.04, 0.012, 200e3, 1405.0) == pytest.approx(-25.4, abs=0.1)
    tilts = np.radians([0.0, 5.0, 10.0, 20.0])
    strengths = targets.plate_target_strength(0.04, 0.012, 200e3, 1405.0, tilts)
    assert strengths[0] == strengths.max() and strengths[3] < strengths[0] - 15.0


# Density and sound-speed ratios, APL-UW TR 9407 (from memory); reflection by the Rayleigh formula at normal incidence,
# (rho c - 1) / (rho c + 1), worked by hand.
PUBLISHED = {
    "mud": (1.145, 0.9801, -24.8),
    "silt": (1.147, 0.9849, -24.3),
    "sand": (1.845, 1.1782, -8.65),
    "gravel": (2.492, 1.3370, -5.38),
    "rock": (2.500, 2.5000, -2.80),
}


@pytest.mark.parametrize("name", PUBLISHED)
def test_bottom_reflection_by_rayleigh_from_the_published_ratios(name):
    density, speed, loss_db = PUBLISHED[name]
    kind = bottom.BOTTOM_KINDS[name]
    assert (kind.density_ratio, kind.speed_ratio) == (density, speed)
    ours = 20 * np.log10(bottom.reflection_coefficient(kind))
    assert ours == pytest.approx(20 * np.log10((density * speed - 1) / (density * speed + 1)), abs=1e-9)
    assert ours == pytest.approx(loss_db, abs=0.1)


def test_the_mirror_image_is_the_image_method():
    # A flat mirror at H answers as a source at 2 H: SL + R - 20 log 2H - 2 alpha H; image method, any acoustics text.
    scene = Scene(8.0, "sand", 0.3, 0.4, roughness_m=0.0)
    t = transmission.transmit(scene, TRAIL_UNIT, Settings(25.0, 12.192))
    down = scene.bottom_range_m
    kind = bottom.BOTTOM_KINDS["sand"]
    expected = t.source_level_db + 20 * np.log10(bottom.reflection_coefficient(kind))
    expected -= 20 * np.log10(2 * down) + 2 * t.absorption_db_m * down
    near = (t.bin_range_m > down) & (t.bin_range_m < down + 0.2)
    assert 10 * np.log10(t.steady[near].max()) == pytest.approx(expected, abs=0.1)


def test_dead_zone_height_is_its_geometry():
    # Ona and Mitson 1996, ICES Journal of Marine Science 53, 677: the shell between the first bottom arrival and the
    # bottom at an angle, H (1 / cos(theta) - 1) seen along the slant, and c tau / 2.
    scene = Scene(20.0, "mud", 0.4, 0.5)
    t = transmission.transmit(scene, TRAIL_UNIT, Settings(25.0, 30.48))
    height = scene.bottom_range_m
    offset = np.array([0.0, 0.5, 1.0, 2.0, 4.0])
    top = seen_zone.dead_zone_top(scene, t.resolution_m, offset)
    assert_allclose(np.hypot(top - scene.face_depth_m, offset), height - t.resolution_m, rtol=1e-12)
    assert scene.bottom_depth_m - top[0] == pytest.approx(t.resolution_m)
    angle = np.arctan2(offset[-1], height)
    shell = height * (1.0 - np.cos(angle)) + t.resolution_m * np.cos(angle)
    assert scene.bottom_depth_m - top[-1] == pytest.approx(shell, rel=0.05)


@pytest.mark.parametrize("aside", [0.0, 1.5])
def test_the_dead_zone_is_where_the_picture_loses_a_target(aside):
    """A strong target stands clear of the bottom line above the zone and has no line of its own inside it."""
    scene = Scene(9.45, "mud", 0.36, 0.44)
    unit, settings = TRAIL_UNIT, Settings(20.0, 12.192, 6 * 0.3048)
    t = transmission.transmit(scene, unit, settings)
    top = float(seen_zone.dead_zone_top(scene, t.resolution_m, np.array([aside]))[0])

    def marks(depth: float) -> int:
        seen = watch(scene, settings, steady((depth, aside, -38.0 if aside == 0.0 else -14.0)), unit)
        return seen.runs(seen.range_m[0], scene.bottom_range_m + 0.2)

    assert marks(top - 0.14) == 2
    assert marks(top + 0.06) == 1
