"""Lines of equal depth and water in a band, against closed forms."""

from __future__ import annotations

import numpy as np
import pytest
import shapely

from hollow_glint.core.ground.contours import Grid, depths_between, isobath, on_a_grid, water_in
from hollow_glint.core.ground.surface import Band, Surface

ACROSS, DEEP = 200.0, 20.0


def round_lake(shape) -> Grid:
    """A round lake of 200 m, whose depth over the share of the way out is `shape`."""
    side = np.linspace(-120.0, 120.0, 121)
    east, north = np.meshgrid(side, side)
    share = np.hypot(east, north) / (ACROSS / 2.0)
    return Grid(-120.0, -120.0, 2.0, np.where(share <= 1.0, DEEP * shape(share), np.nan))


def cone(share):
    return 1.0 - share


def bowl(share):
    return 1.0 - share**2


@pytest.mark.parametrize(
    ("shape", "radius"),
    [(cone, lambda depth: 100.0 * (1.0 - depth / DEEP)), (bowl, lambda depth: 100.0 * np.sqrt(1.0 - depth / DEEP))],
)
@pytest.mark.parametrize("depth", [4.0, 10.0, 16.0])
def test_the_lines_of_a_cone_and_a_paraboloid_are_circles(shape, radius, depth):
    (line,) = isobath(round_lake(shape), depth)
    assert np.hypot(line[:, 0], line[:, 1]) == pytest.approx(radius(depth), abs=0.6)
    assert shapely.length(shapely.LineString(line)) == pytest.approx(2.0 * np.pi * radius(depth), rel=0.01)


@pytest.mark.parametrize(("shape", "share"), [(cone, lambda d: (1 - d / DEEP) ** 2), (bowl, lambda d: 1 - d / DEEP)])
def test_the_water_in_a_band_is_a_ring_of_the_area_that_geometry_says(shape, share):
    band = Band(5.0, 12.0)
    water = water_in(round_lake(shape), band)
    wanted = np.pi * 100.0**2 * (share(5.0) - share(12.0))
    assert water.area == pytest.approx(wanted, rel=0.01)
    assert len(water.geoms) == 1 and len(water.geoms[0].interiors) == 1
    assert not water.contains(shapely.Point(0.0, 0.0))
    assert water_in(round_lake(shape), Band(30.0, 40.0)).is_empty


def test_a_surface_on_a_grid_knows_its_land():
    ring = [[0, 0], [300, 0], [300, 200], [0, 200]]
    surface = Surface([[150, 100], [80, 60], [220, 140]], [9.0, 6.0, 6.0], ring)
    drawn = on_a_grid(surface, 1500)
    grid, sd = drawn.grid, drawn.sd_m
    assert 1200 < grid.depth_m.size < 2200 and sd.shape == grid.depth_m.shape
    inside = surface.shore.inside(grid.places).reshape(grid.depth_m.shape)
    assert (np.isfinite(grid.depth_m) == inside).all()
    assert np.nanmax(grid.depth_m) == pytest.approx(9.0, abs=1.5)
    assert all(line.shape[1] == 2 for line in isobath(grid, 4.0)) and isobath(grid, 4.0)
    assert depths_between(grid) == [float(k) for k in range(1, int(np.nanmax(grid.depth_m)) + 1)]


def test_what_is_no_grid_is_refused_by_name():
    with pytest.raises(ValueError, match=r"depth_m has the shape \(1, 4\)"):
        Grid(0.0, 0.0, 1.0, np.zeros((1, 4)))
    with pytest.raises(ValueError, match="cell_m is 0"):
        Grid(0.0, 0.0, 0.0, np.zeros((3, 4)))
    with pytest.raises(ValueError, match="accepted are up to 40000"):
        Grid(0.0, 0.0, 1.0, np.zeros((300, 300)))
