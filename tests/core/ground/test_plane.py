"""The sheet about an anchor: to a millimetre and back, against closed forms of WGS 84."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.integrate import quad

from hollow_glint.core.ground.plane import Plane, bearing

# WGS 84: NIMA TR8350.2, third edition, table 3.1.
A, F = 6378137.0, 1.0 / 298.257223563
E2 = F * (2.0 - F)


@pytest.mark.parametrize(("latitude", "longitude"), [(61.5, 23.8), (-44.0, 169.0), (0.0, 179.99), (84.0, -100.0)])
def test_there_and_back_agrees_to_a_millimetre_over_20_km(latitude, longitude):
    plane, rng = Plane(latitude, longitude), np.random.default_rng(1)
    east, north = rng.uniform(-14_000.0, 14_000.0, (2, 200))
    back_east, back_north = plane.to_plane(*plane.to_degrees(east, north))
    assert np.hypot(back_east - east, back_north - north).max() < 1e-3


def test_along_the_equator_and_the_meridian_as_the_ellipsoid_has_it():
    plane = Plane(0.0, 10.0)
    east, north = plane.to_plane(0.0, 10.5)
    assert float(east) == pytest.approx(A * np.pi / 360.0, abs=1e-6) and abs(float(north)) < 1e-6
    # The meridian's radius of curvature (Snyder 1987, equation 4-18), integrated.
    arc = quad(lambda phi: A * (1.0 - E2) / (1.0 - E2 * np.sin(phi) ** 2) ** 1.5, 0.0, np.pi / 360.0)[0]
    east, north = plane.to_plane(0.5, 10.0)
    assert float(north) == pytest.approx(arc, abs=1e-6) and abs(float(east)) < 1e-6


def test_shapes_are_kept_and_what_is_no_map_is_refused():
    plane = Plane(61.5, 23.8)
    east, north = plane.to_plane(np.full((2, 3), 61.6), 23.8)
    assert east.shape == north.shape == (2, 3) and north[0, 0] > 11_000
    with pytest.raises(ValueError, match=r"distance from the anchor is .*: accepted are values from 0 to 100000 m"):
        plane.to_plane(63.0, 23.8)
    with pytest.raises(ValueError, match="latitude is 91"):
        plane.to_plane(91.0, 0.0)
    with pytest.raises(ValueError, match="latitude is 89"):
        Plane(89.0, 0.0)


def test_bearings_go_clockwise_from_north():
    assert bearing([0, 1, 0, -1, 1], [1, 0, -1, 0, 1]) == pytest.approx([0, 90, 180, 270, 45])


@pytest.mark.parametrize(("latitude", "longitude"), [(61.5, 23.8), (-44.0, 169.0), (0.0, 179.99), (84.0, -100.0)])
def test_many_places_are_laid_down_as_one_by_one(latitude, longitude):
    plane, rng = Plane(latitude, longitude), np.random.default_rng(2)
    places = plane.to_degrees(*rng.uniform(-60_000.0, 60_000.0, (2, 401)))
    at_once = np.array(plane.to_plane(*places))
    singly = np.array([plane.to_plane(*one) for one in zip(*places, strict=True)]).T
    assert np.abs(at_once - singly).max() < 1e-4
    assert not any(plane.is_far(*one) for one in zip(*places, strict=True)) and plane.is_far(-latitude + 30, longitude)
