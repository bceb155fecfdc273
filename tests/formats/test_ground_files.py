"""The lake's files: there and back, read by outside libraries, and refused with the line at fault."""

from __future__ import annotations

import json

import numpy as np
import pytest
import shapely
from shapely.geometry import shape

from hollow_glint.core.ground.contours import Grid, isobath, water_in
from hollow_glint.core.ground.plane import Plane
from hollow_glint.core.ground.surface import Band
from hollow_glint.formats import ascii_grid, geojson


def bowl() -> Grid:
    side = np.linspace(-100.0, 100.0, 41)
    east, north = np.meshgrid(side, side)
    share = np.hypot(east, north) / 90.0
    return Grid(-100.0, -100.0, 5.0, np.where(share < 1.0, 12.0 * (1.0 - share**2), np.nan))


def test_a_grid_goes_out_and_comes_back_the_same():
    grid = bowl()
    back = ascii_grid.read(ascii_grid.write(grid))
    assert (back.west_m, back.south_m, back.cell_m) == (grid.west_m, grid.south_m, grid.cell_m)
    assert (np.isnan(back.depth_m) == np.isnan(grid.depth_m)).all()
    assert back.depth_m[np.isfinite(back.depth_m)] == pytest.approx(grid.depth_m[np.isfinite(grid.depth_m)], rel=1e-3)


def test_rows_go_from_north_to_south_and_both_kinds_of_corner_are_read():
    """As Esri describes the format: the first row is the northernmost."""
    text = "NCOLS 3\nNROWS 2\nXLLCENTER 10\nYLLCENTER 20\nCELLSIZE 5\nNODATA_VALUE -1\n1 2 3\n4 -1 6\n"
    grid = ascii_grid.read(text)
    assert (grid.west_m, grid.south_m) == (10.0, 20.0)
    assert grid.depth_m[1].tolist() == [1.0, 2.0, 3.0] and grid.depth_m[0, 0] == 4.0 and np.isnan(grid.depth_m[0, 1])
    corner = ascii_grid.read(text.replace("CENTER", "CORNER"))
    assert (corner.west_m, corner.south_m) == (12.5, 22.5)


HEAD = "ncols 3\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 5\n"


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "the head has no ncols, nrows, cellsize, xllcorner, yllcorner"),
        (HEAD + "1 2 3\n4 5\n", "line 7 has 2 numbers: accepted are 3, as ncols says"),
        (HEAD + "1 2 3\n4 five 6\n", "line 7: number 2 is 'five': a number is accepted"),
        (HEAD + "1 2 3\n", "nrows is 2, but 1 rows follow line 5"),
        (HEAD + "1 2 3\n4 nan 6\n", "line 7: number 2 is 'nan'"),
        (HEAD + "1 2 3\n4 -5 6\n", "a depth is outside 0 to 500 m"),
        (HEAD.replace("cellsize 5", "cellsize 0") + "1 2 3\n4 5 6\n", "cellsize is 0"),
        (HEAD.replace("ncols 3", "ncols 3.5") + "1 2 3\n4 5 6\n", "line 1: ncols is 3.5: a whole number"),
        (HEAD.replace("ncols 3", "ncols 100000") + "1 2 3\n4 5 6\n", "up to 40000 cells"),
        (HEAD.replace("cellsize 5", "colour 5"), "line 5 is 'colour 5'"),
    ],
)
def test_a_bad_grid_is_refused_with_its_line(text, said):
    with pytest.raises(ValueError, match=said.replace("(", r"\(")):
        ascii_grid.read(text)


def test_areas_and_lines_open_in_shapely_and_have_the_size_they_had():
    plane, grid = Plane(61.5, 23.8), bowl()
    water = water_in(grid, Band(3.0, 9.0))
    (ring,) = isobath(grid, 6.0)
    text = geojson.write([geojson.area(plane, water, name="band"), geojson.line(plane, ring, depth_m=6.0)])
    features = json.loads(text)["features"]
    area, line = (shape(one["geometry"]) for one in features)
    assert area.is_valid and len(area.geoms) == 1 and len(area.geoms[0].interiors) == 1
    assert shapely.is_ccw(area.geoms[0].exterior) and not shapely.is_ccw(area.geoms[0].interiors[0])
    assert features[1]["properties"] == {"depth_m": 6.0}
    # Back on the plane it is what it was, to a centimetre.
    for given, now in ((water.geoms[0].exterior, area.geoms[0].exterior), (shapely.LineString(ring), line)):
        longitude, latitude = shapely.get_coordinates(now).T
        east, north = plane.to_plane(latitude, longitude)
        assert shapely.hausdorff_distance(shapely.LineString(np.column_stack([east, north])), given) < 0.02
