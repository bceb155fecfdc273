"""Places to start at: in the band, on the edge, by structure, rested, apart from one another, and each says why."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.ground.contours import on_a_grid
from hollow_glint.core.ground.soundings import Structure
from hollow_glint.core.ground.surface import Band, Surface
from hollow_glint.core.trip.start_places import Bed, Fished, FishedPlace, judged_places, start_places

RING = [[0, 0], [600, 0], [600, 400], [0, 400]]


@pytest.fixture(scope="module")
def basin() -> Surface:
    """Shallow in the west, an edge across the middle, deep in the east."""
    rng = np.random.default_rng(2)
    place = rng.uniform((20, 20), (580, 380), (90, 2))
    walls = np.minimum(np.minimum(place[:, 0], 600 - place[:, 0]), np.minimum(place[:, 1], 400 - place[:, 1]))
    depth = (4.0 + 8.0 / (1.0 + np.exp(-(place[:, 0] - 300.0) / 20.0))) * np.minimum(1.0, walls / 80.0)
    return Surface(place, depth, RING)


BAND = Band(6.5, 9.5)


def test_they_are_in_the_band_apart_and_best_first(basin):
    found = start_places(on_a_grid(basin), BAND, count=6, apart_m=45.0)
    assert len(found) == 6
    worths = [one.worth for one in found]
    assert worths == sorted(worths, reverse=True) and 0.0 < worths[-1] <= worths[0] <= 10.0
    at = np.array([(one.east_m, one.north_m) for one in found])
    apart = np.linalg.norm(at[:, None] - at[None], axis=-1) + np.eye(6) * 1e9
    assert apart.min() >= 45.0
    # Where the bed falls through the band: across the middle, and as steeply off the east shore.
    assert (at[:, 0] > 240.0).all() and any("edge" in said.text for said in found[0].why)
    for one in found:
        (first, *_) = one.why
        assert first.values["depth"].value == pytest.approx(one.depth_m)
        assert basin.in_band([[one.east_m, one.north_m]], BAND)[0] == pytest.approx(one.in_band)


def test_structure_draws_a_place_and_is_named(basin):
    timber = Structure(302.0, 200.0, "timber", "sunken logs")
    without, with_it = (
        start_places(on_a_grid(basin), BAND, count=1),
        start_places(on_a_grid(basin), BAND, Bed([timber]), count=1),
    )
    near = lambda one: np.hypot(one.east_m - 302.0, one.north_m - 200.0)  # noqa: E731
    assert near(with_it[0]) < 30.0 and near(with_it[0]) <= near(without[0])
    assert any("timber" in sentence.text for sentence in with_it[0].why)


def test_what_was_fished_lately_rests(basin):
    (best,) = start_places(on_a_grid(basin), BAND, count=1)
    (again,) = start_places(on_a_grid(basin), BAND, Bed(fished=[Fished(best.east_m, best.north_m, 0.5)]), count=1)
    (later,) = start_places(on_a_grid(basin), BAND, Bed(fished=[Fished(best.east_m, best.north_m, 60.0)]), count=1)
    assert np.hypot(again.east_m - best.east_m, again.north_m - best.north_m) > 10.0
    assert later.worth == pytest.approx(best.worth, rel=0.001), "after two months it has forgotten"
    assert again.worth < best.worth


def test_thin_ice_is_warned_of_and_never_a_reason(basin):
    (best,) = start_places(on_a_grid(basin), BAND, count=1)
    (warned,) = start_places(
        on_a_grid(basin), BAND, Bed([Structure(best.east_m + 20.0, best.north_m, "spring")]), count=1
    )
    assert any("ice there may be thin" in sentence.text for sentence in warned.beware)
    assert warned.worth <= best.worth + 1e-9
    assert not any("spring" in sentence.text for sentence in warned.why)


def test_a_lake_without_the_band_has_no_place(basin):
    assert all(one.in_band < 0.05 for one in start_places(on_a_grid(basin), Band(40.0, 45.0), count=2))
    with pytest.raises(ValueError, match="count is 0"):
        start_places(on_a_grid(basin), BAND, count=0)


def test_where_the_bottom_changes_is_worth_more_and_said(basin):
    (best,) = start_places(on_a_grid(basin), BAND, count=1)
    at = [[best.east_m, best.north_m]]
    # Mud felt 20 m to one side and sand 20 m to the other: it changes half way, at the place itself.
    bottoms = [(best.east_m - 20.0, best.north_m, "mud"), (best.east_m + 20.0, best.north_m, "sand")]
    (plain,), (changed,) = judged_places(basin, BAND, at), judged_places(basin, BAND, at, Bed(bottoms=bottoms))
    assert changed.worth > plain.worth and changed.worth <= 10.0
    (said,) = [one for one in changed.why if "bottom changes" in one.text]
    assert said.values["away"].value == pytest.approx(0.0, abs=1e-6) and "from mud to sand" in said.text
    same = [(e, n, "mud") for e, n, _ in bottoms]
    assert judged_places(basin, BAND, at, Bed(bottoms=same))[0].worth == pytest.approx(plain.worth)


def test_a_place_that_somebody_chose_is_judged_as_the_proposed_ones_are(basin):
    found = start_places(on_a_grid(basin), BAND, count=4)
    again = judged_places(basin, BAND, [[one.east_m, one.north_m] for one in found])
    for one, same in zip(found, again, strict=True):
        assert same.worth == pytest.approx(one.worth, abs=0.25)  # a fall over 8 m is not quite that over a cell
        assert same.in_band == pytest.approx(one.in_band, abs=1e-6)
    (land,) = judged_places(basin, BAND, [[-50.0, 100.0]])
    assert land.worth == 0.0 and land.depth_m == 0.0


def test_a_fished_place_counts_from_its_own_day():
    place = FishedPlace(1.0, 2.0, "2026-12-01")
    assert place.on("2026-12-05") == Fished(1.0, 2.0, 4.0) and place.on("2026-11-01").days_ago == 0.0
    with pytest.raises(ValueError, match="how is 'dreamt'"):
        FishedPlace(1.0, 2.0, "2026-12-01", "dreamt")
