"""GPX: opened by the outside library, back the same, and nothing that blows up."""

from __future__ import annotations

import gpxpy
import pytest

from hollow_glint.core.ground.plane import Plane
from hollow_glint.core.ground.soundings import Sounding
from hollow_glint.formats.soundings_gpx import Waypoint, read, write

PLANE = Plane(61.5, 23.8)
PLACES = (
    Waypoint(120.0, -40.0, "1 Timber", "in the band, 40 m from the edge"),
    Waypoint(-800.0, 950.0, "2 <Basin> & rim"),
)
SOUNDINGS = (Sounding(0.0, 0.0, 9.45), Sounding(-310.5, 77.25, 4.3))


def test_what_is_written_opens_in_gpxpy_and_comes_back_the_same():
    text = write(PLACES, SOUNDINGS, PLANE)
    outside = gpxpy.parse(text)
    assert outside.version == "1.1" and len(outside.waypoints) == 4
    assert [one.name for one in outside.waypoints[:2]] == ["1 Timber", "2 <Basin> & rim"]
    taken, places = read(text, PLANE)
    assert taken.refused == ()
    for was, now in zip(SOUNDINGS, taken.soundings(), strict=True):
        assert (now.east_m, now.north_m, now.depth_m) == pytest.approx((was.east_m, was.north_m, was.depth_m), abs=1e-3)
    for was, now in zip(PLACES, places, strict=True):
        assert (now.name, now.note) == (was.name, was.note)
        assert (now.east_m, now.north_m) == pytest.approx((was.east_m, was.north_m), abs=1e-3)


TRACK = """<?xml version="1.0"?>
<gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1" xmlns:e="urn:elsewhere">
<trk><trkseg>
<trkpt lat="61.5" lon="23.8"><time>2026-01-10T09:00:00Z</time>
<extensions><e:more><e:Depth>7.5</e:Depth></e:more></extensions></trkpt>
<trkpt lat="61.5001" lon="23.8"><extensions><e:depth>deep</e:depth></extensions></trkpt>
<trkpt lat="0" lon="0"><extensions><e:depth>3</e:depth></extensions></trkpt>
<trkpt lat="61.5002" lon="23.8"/>
</trkseg></trk></gpx>"""


def test_a_track_with_depths_of_somebody_elses_namespace_is_taken_point_by_point():
    taken, places = read(TRACK, PLANE)
    (one,) = taken.soundings()
    assert one.depth_m == 7.5 and one.at.startswith("2026-01-10T09:00") and places == ()
    assert [refused.line for refused in taken.refused] == [2, 3]
    assert "track point 2: depth is 'deep'" in taken.refused[0].why and "distance" in taken.refused[1].why


BOMB = """<?xml version="1.0"?><!DOCTYPE gpx [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>
<gpx version="1.1"><wpt lat="1" lon="2"><name>&b;</name></wpt></gpx>"""


@pytest.mark.parametrize(
    ("text", "said"),
    [
        (BOMB, "declares entities"),
        ("<gpx", "line 1, column"),
        ("", "not XML"),
        ("<html/>", "holds <html>: accepted is <gpx>"),
        (TRACK.replace('lat="61.5"', 'lat="north"', 1), "not GPX 1.1"),
    ],
)
def test_what_is_no_gpx_is_refused_by_name(text, said):
    with pytest.raises(ValueError, match=said):
        read(text, PLANE)
