"""Edges of a bed, lakes as they are drawn, soundings made fewer: closed forms, and what a user would miss."""

from __future__ import annotations

import numpy as np
import pytest
import shapely

from hollow_glint.core.ground.contours import on_a_grid
from hollow_glint.core.ground.edges import edges, falls
from hollow_glint.core.ground.lake_map import LIKELY, POSSIBLE, lake_map
from hollow_glint.core.ground.surface import Band, Surface
from hollow_glint.core.ground.thinning import thinned

from .lakes import lake
from .test_contours import bowl, cone, round_lake


@pytest.mark.parametrize("at", [0.45, 0.7])
def test_the_edge_of_a_basin_is_where_it_falls_most_steeply(at):
    # A logistic step of 12 m about a ring: its slope is greatest on the ring, 12 / (4 x 0.06 x 100 m) = 0.5.
    grid = round_lake(lambda share: 0.2 + 0.6 / (1.0 + np.exp((share - at) / 0.06)))
    found = edges(grid)
    ring = max(found, key=lambda one: len(one.line))
    away = np.hypot(*ring.line.T)
    assert away == pytest.approx(100.0 * at, abs=2.0)
    assert shapely.LineString(ring.line).length == pytest.approx(2.0 * np.pi * 100.0 * at, rel=0.03)
    assert ring.falls == pytest.approx(0.5, rel=0.15)
    # The deep, which is inside, lies on its right hand: it goes round with the clock.
    assert not shapely.LinearRing(ring.line).is_ccw


def test_what_falls_evenly_or_hardly_at_all_has_no_edge():
    assert edges(round_lake(lambda share: 0.5 + 0.02 / (1.0 + np.exp((share - 0.5) / 0.06)))) == []
    inner = [one for one in edges(round_lake(bowl)) if np.hypot(*one.line.T).min() < 90.0]
    assert inner == []


def test_a_slope_is_told_as_a_share():
    assert np.median(falls(round_lake(cone))[50:70, 30:45]) == pytest.approx(0.2, rel=0.01)


def test_the_slope_and_the_way_down_of_a_plane_bed():
    rng = np.random.default_rng(12)
    place = rng.uniform(0.0, 200.0, (60, 2))
    surface = Surface(place, 5.0 + 0.03 * place[:, 0] + 0.04 * place[:, 1])  # down to the north-east, 3 : 4
    fall, way = surface.slope([[100.0, 100.0], [60.0, 140.0]])
    assert fall == pytest.approx(0.05, rel=0.05) and way == pytest.approx(np.degrees(np.arctan2(3, 4)), abs=4.0)
    with pytest.raises(ValueError, match="over_m is 0"):
        surface.slope([[1.0, 1.0]], 0.0)


@pytest.fixture(scope="module")
def sounded():
    true = lake(5003, "smooth")
    places = true.places(60, np.random.default_rng(3))
    return true, Surface(places, true.depth(places), true.ring)


def test_a_band_is_solid_where_the_map_is_sure_and_a_guess_where_it_may_be(sounded):
    true, surface = sounded
    band = Band(0.3 * true.deep_m, 0.6 * true.deep_m)
    drawn = lake_map(on_a_grid(surface), band)
    assert drawn.band.likely_m2 > 0.0 and drawn.band.possible_m2 > 0.0
    assert drawn.band.likely.intersection(drawn.band.possible).area < 0.01 * drawn.band.likely_m2
    asked = true.places(800, np.random.default_rng(4))
    chance = surface.in_band(asked, band)
    inside = shapely.contains_xy(drawn.band.likely, asked[:, 0], asked[:, 1])
    assert chance[inside].mean() > LIKELY and chance[~inside].max() < 1.0
    maybe = shapely.contains_xy(drawn.band.possible, asked[:, 0], asked[:, 1])
    assert POSSIBLE < chance[maybe].mean() < LIKELY
    # One sounding more on the guess makes less of it.
    place = asked[maybe][0]
    more = lake_map(on_a_grid(surface.with_sounding(place, float(true.depth(place[None])[0]))), band)
    assert more.band.possible_m2 < drawn.band.possible_m2


def test_lines_are_parted_where_the_soundings_cease_to_carry_them(sounded):
    true, _ = sounded
    places = true.places(200, np.random.default_rng(5))
    middle = np.median(places[:, 0])
    half = places[places[:, 0] < middle]  # only the western half was sounded
    drawn = lake_map(on_a_grid(Surface(half, true.depth(half), true.ring)))
    length = {sure: [0.0, 0.0] for sure in (True, False)}
    for line in drawn.contours:
        west = line.line[:, 0].mean() < middle
        length[line.is_sure][0 if west else 1] += shapely.LineString(line.line).length
    assert length[True][0] > 2.0 * length[False][0] and length[False][1] > 2.0 * length[True][1]
    assert drawn.water_m2 == pytest.approx(true.polygon.area, rel=1e-6)


def test_an_edge_is_sure_where_the_soundings_carry_it():
    rng = np.random.default_rng(14)

    def drawn(count):
        place = rng.uniform(0.0, 400.0, (count, 2))
        depth = 4.0 + 8.0 / (1.0 + np.exp(-(place[:, 0] - 200.0) / 10.0))
        return lake_map(on_a_grid(Surface(place, depth))).edges

    many, few = drawn(300), drawn(9)
    assert [one.is_sure for one in many[:1]] == [True]
    assert np.median(many[0].edge.line[:, 0]) == pytest.approx(200.0, abs=3.0)
    assert not any(one.is_sure for one in few)


def test_many_soundings_are_thinned_to_the_middle_of_each_square():
    rng = np.random.default_rng(6)
    place = rng.uniform(0.0, 400.0, (30_000, 2))
    depth = 5.0 + 0.02 * place[:, 0] + rng.normal(0.0, 0.1, 30_000)
    depth[7] = 80.0  # a fish, or a slip
    fewer = thinned(place, depth, 4000)
    assert 2500 < fewer.kept.size <= 4000 and 7 not in fewer.kept
    squares = np.floor((place - place.min(axis=0)) / fewer.cell_m)
    assert np.unique(squares[fewer.kept], axis=0).shape[0] == fewer.kept.size == np.unique(squares, axis=0).shape[0]
    assert 0.1 < fewer.within_m < 0.5 and fewer.most_m > 60.0
    # One sounding far off, a slip in a file, makes the net no coarser for the others.
    far = thinned(np.vstack([place, [[90_000.0, 0.0]]]), np.append(depth, 3.0), 4000)
    assert far.cell_m == pytest.approx(fewer.cell_m, rel=0.2) and 30_000 in far.kept
    assert thinned(place[:10], depth[:10], 10).kept.tolist() == list(range(10))
    with pytest.raises(ValueError, match="most is 0"):
        thinned(place, depth, 0)


def test_one_sounding_more_is_drawn_where_it_reaches_and_the_rest_stays_as_it_was():
    true = lake(5004, "rough")
    places = true.places(2500, np.random.default_rng(8))
    surface = Surface(places, true.depth(places), true.ring)
    before = on_a_grid(surface, 1500)
    (one,) = true.places(1, np.random.default_rng(9))
    more = surface.with_sounding(one, float(true.depth(one[None])[0]) + 1.0)
    mended, anew = on_a_grid(more, 1500, before), on_a_grid(more, 1500)
    assert np.allclose(mended.grid.depth_m, anew.grid.depth_m, equal_nan=True, atol=1e-9)
    assert np.allclose(mended.sd_m, anew.sd_m, atol=1e-9)
    changed = np.nan_to_num(mended.grid.depth_m - before.grid.depth_m) != 0.0
    assert 0 < changed.sum() < 0.1 * changed.size
    # Of another lake nothing is taken over.
    other = Surface(places[:2000], true.depth(places[:2000]), true.ring)
    assert np.allclose(on_a_grid(other, 1500, before).sd_m, on_a_grid(other, 1500).sd_m)
