"""Soundings from elsewhere: what the columns are, which lines are wrong and why, and there and back."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.ground.plane import Plane
from hollow_glint.core.ground.soundings import Sounding
from hollow_glint.formats.soundings_csv import Columns, read, sniff, write

PLANE = Plane(61.5, 23.8)


@pytest.mark.parametrize(
    ("head", "columns"),
    [
        ("lon,lat,depth", Columns(0, 1, 2, "m")),
        ("Latitude;Longitude;Depth (ft)", Columns(1, 0, 2, "ft")),
        ("id\tX\tY\tZ [fathom]", Columns(1, 2, 3, "fathom")),
        ("time,latitude,longitude,depth_ft", Columns(2, 1, 3, "ft")),
    ],
)
def test_columns_are_guessed_from_their_names(head, columns):
    found = sniff(head + "\n" + head.replace("lon", "1") + "\n")
    assert found.guess == columns and found.missing == ()
    assert len(found.names) == head.count(found.separator) + 1


def test_what_cannot_be_guessed_is_named_and_what_is_no_table_is_refused():
    found = sniff("a,b,depth\n1,2,3\n")
    assert found.guess is None and found.missing == ("longitude", "latitude") and found.first == (("1", "2", "3"),)
    for text in ("", "one word\n", "a,b\n1,2\n"):
        with pytest.raises(ValueError, match="fewer than three columns"):
            sniff(text)


def test_three_wrong_lines_of_five_thousand_are_named_and_the_rest_is_there():
    rng = np.random.default_rng(1)
    lines = ["lon,lat,depth"]
    lines += [
        f"{23.8 + a:.6f},{61.5 + b:.6f},{d:.2f}"
        for a, b, d in rng.uniform((-0.05, -0.05, 0), (0.05, 0.05, 30), (5000, 3))
    ]
    lines[17], lines[1234], lines[4999] = "23.8,61.5,deep", "23.8,161.5,4.0", "23.8,61.5"
    taken = read("\n".join(lines), Columns(0, 1, 2, "m"), PLANE)
    assert len(taken) == 4997
    assert [(one.line, one.why) for one in taken.refused] == [
        (18, "depth in m is 'deep': a number is accepted"),
        (1235, "latitude is 161.5: accepted are values from -90 to 90"),
        (5000, "it has 2 columns: column 3 is needed"),
    ]


def test_feet_and_decimal_commas_are_read_and_a_place_on_another_lake_is_told():
    text = "lat;lon;depth ft\n61,5;23,8;32,8084\n61,5;23,81;3,28084\n0;0;5\n\n"
    taken = read(text, sniff(text).guess, PLANE)
    assert [one.depth_m for one in taken.soundings()] == pytest.approx([10.0, 1.0], abs=1e-4)
    assert taken.soundings()[0].east_m == pytest.approx(0.0, abs=1e-6)
    # A hundredth of a degree of longitude at 61.5 degrees north: the parallel's radius on WGS 84.
    assert taken.soundings()[1].east_m == pytest.approx(532.9, abs=0.5)
    assert taken.refused[0].line == 4 and "distance from the anchor" in taken.refused[0].why


def test_there_and_back():
    given = [Sounding(100.0, -250.0, 7.25), Sounding(-3000.5, 12.0, 0.0)]
    taken = read(write(given, PLANE), sniff(write(given, PLANE)).guess, PLANE)
    assert taken.refused == ()
    for was, now in zip(given, taken.soundings(), strict=True):
        assert (now.east_m, now.north_m, now.depth_m) == pytest.approx((was.east_m, was.north_m, was.depth_m), abs=0.01)
