"""What a touched mark is named for: where a neighbour's pulse ends, each source by its words, the water's kinds."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.gear.lures import USUAL_JIG
from hollow_glint.core.gear.profiles import TRAIL_UNIT
from hollow_glint.core.gear.settings import starting_settings
from hollow_glint.core.hole import interference, scatterers
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.hole.scatterers import BUBBLES_DOWN, EchoSource, SourceKind
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import ping, transmission
from hollow_glint.core.tuning.touched_mark import CALLED, HeardPing, explain

HOLE = Scene(9.45, "mud", 0.36, 0.44, visitors=0)
QUIET_DB = 60.0  # a first colour that anything would light


def heard(scene: Scene, targets=(), time_s: float = 0.0) -> HeardPing:
    """A ping over `targets`: (source, x, y, z, strength dB)."""
    t = transmission.transmit(scene, TRAIL_UNIT, starting_settings(TRAIL_UNIT, scene.bottom_range_m))
    place = np.array([[x, y, z] for _, x, y, z, _ in targets], dtype=np.float32).reshape(-1, 3)
    strength = np.array([db for *_, db in targets])
    return HeardPing(0, time_s, t, place, strength, tuple(source for source, *_ in targets))


def text(mark) -> str:
    values = {name: f"{one.value:.2f} {one.unit}" for name, one in mark.values.items()}
    return f"{mark.finding.format(**values)} {mark.reason.format(**values)}"


# --- single targets ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", [kind for kind in CALLED if kind != "lure"])
def test_whatever_hangs_or_lies_is_called_by_its_name(kind: SourceKind):
    mark = explain(HOLE, heard(HOLE, [(EchoSource(kind), 0.0, 0.0, 5.0, -30.0)]), 5.0 - 0.44 + 0.03, QUIET_DB)
    assert mark.kind == kind and CALLED[kind] in text(mark)
    assert "true depth" in text(mark) and mark.depth_m == pytest.approx(5.0)


def test_a_fish_is_told_with_its_kind_and_length_and_a_school_as_one_of_it():
    one = explain(HOLE, heard(HOLE, [(EchoSource("fish", 0, 0.4, "char"), 0, 0, 5.0, -30.0)]), 4.59, QUIET_DB)
    assert "a char of 0.40 m, truly at 5.00 m" in text(one) and "as strong as it gets" in text(one)
    school = explain(HOLE, heard(HOLE, [(EchoSource("school", 0, 0.2, "grayling"), 0, 0, 5.0, -30.0)]), 4.59, QUIET_DB)
    assert "one of a school of grayling, 0.20 m" in text(school)
    bait = explain(HOLE, heard(HOLE, [(EchoSource("school", 0, 0.05, "bait"), 0, 0, 5.0, -30.0)]), 4.59, QUIET_DB)
    assert "a baitfish of 0.05 m, one of many" in text(bait)


def test_of_two_in_one_mark_the_louder_is_named():
    two = [(EchoSource("fish", 0, 0.1, "char"), 0.0, 0.0, 5.0, -45.0), (EchoSource("lure"), 0.0, 0.0, 5.0, -35.0)]
    assert explain(HOLE, heard(HOLE, two), 4.59, QUIET_DB).kind == "lure"
    louder = [(*two[0][:4], -25.0), two[1]]
    assert explain(HOLE, heard(HOLE, louder), 4.59, QUIET_DB).kind == "fish"


def test_a_fifth_of_a_metre_aside_goes_the_long_way_and_a_tenth_does_not():
    for aside, long_way in ((0.1, False), (0.2, True)):
        mark = explain(HOLE, heard(HOLE, [(EchoSource("fish", 0, 0.4, "char"), aside, 0, 5.0, -30)]), 4.59, QUIET_DB)
        assert ("the long way" in text(mark)) == long_way
        assert mark.aside_m == pytest.approx(aside)


def test_what_is_above_the_face_makes_no_mark():
    mark = explain(HOLE, heard(HOLE, [(EchoSource("lure"), 0.0, 0.0, 0.3, 0.0)]), 0.14, QUIET_DB)
    assert mark.kind != "lure"


def test_too_weak_to_light_is_nothing():
    dark = explain(HOLE, heard(HOLE), 4.0, 200.0)
    assert dark.kind == "nothing" and dark.depth_m is None


# --- neighbours ----------------------------------------------------------------------------------------------------

NEXT_DOOR = replace(HOLE, neighbours=(Neighbour(2.0, ping_interval_s=0.05), Neighbour(8.0, ping_interval_s=0.0471)))


def first_arrival(scene: Scene, path: interference.NeighbourPath, time_s: float) -> float:
    """Range [m] at which that neighbour's sound comes into our ping, by hand: its next ping, less ours."""
    t = heard(scene).transmission
    wait = (path.first_s + path.travel_s - time_s) % path.interval_s
    return 0.5 * t.sound_speed_m_s * wait


@pytest.mark.parametrize("neighbour", [0, 1])
def test_a_neighbours_mark_is_found_where_its_ping_comes_in_and_named_with_its_distance(neighbour):
    scene = replace(NEXT_DOOR, neighbours=(NEXT_DOOR.neighbours[neighbour],))
    t = heard(scene).transmission
    direct = next(path for path in t.paths if path.kind == "direct")
    # A moment at which it comes into open water.
    time_s = next(s for s in np.arange(0.0, 2.0, 0.001) if 3.0 < first_arrival(scene, direct, float(s)) < 6.0)
    at = first_arrival(scene, direct, float(time_s))
    mark = explain(scene, heard(scene, time_s=float(time_s)), at + 0.02, QUIET_DB)
    assert mark.kind == "neighbour" and f"{scene.neighbours[0].distance_m:.2f} m away" in text(mark)
    # Just before it begins there is half a pulse's leave, and after two pulses it is over.
    assert explain(scene, heard(scene, time_s=float(time_s)), at - 0.5 * t.resolution_m, QUIET_DB).kind == "neighbour"
    for off in (-0.7, 2.1):
        aside = at + off * t.resolution_m
        assert explain(scene, heard(scene, time_s=float(time_s)), aside, QUIET_DB).kind != "neighbour"


def test_a_neighbours_marks_drift_as_fast_as_the_intervals_differ():
    """Ours every 50 ms, theirs every 47.1: each of our pings finds theirs 2.9 ms sooner, by hand 2.04 m of range."""
    scene = replace(HOLE, neighbours=(Neighbour(2.0, ping_interval_s=0.0471),))
    t = heard(scene).transmission
    delay, strength = interference.arrivals(t.arriving, np.arange(200) * 0.05)
    first = delay[:, 0]
    step = (np.diff(first) + 0.0029) % 0.0471
    assert np.all(np.minimum(step, 0.0471 - step) < 1e-9)
    assert np.all((strength > 0.0) == (delay < t.listen_s))


def test_two_units_in_step_stand_still_in_each_others_pictures():
    scene = replace(HOLE, neighbours=(Neighbour(2.0, ping_interval_s=0.05),))
    delay, _ = interference.arrivals(heard(scene).transmission.arriving, np.arange(50) * 0.05)
    assert np.ptp(delay[:, 0]) == pytest.approx(0.0, abs=1e-9)


def test_neighbours_do_not_begin_all_at_once():
    t = heard(NEXT_DOOR).transmission
    phases = {path.neighbour: path.first_s / path.interval_s for path in t.paths}
    assert abs(phases[0] - phases[1]) > 0.2 and all(0.0 <= share < 1.0 for share in phases.values())


def test_the_picture_has_a_neighbour_where_its_arithmetic_says():
    """Loudest bin of the ping against the arrival worked out by hand, in pings in which it comes into open water."""
    scene = replace(HOLE, neighbours=(Neighbour(1.0, ping_interval_s=0.0471),))
    t = heard(scene).transmission
    direct = next(path for path in t.paths if path.kind == "direct")
    times = np.arange(120) * 0.05
    echoes = ping.echo_levels(t, None, times.size, np.random.default_rng(0), times)
    checked = 0
    for time_s, row in zip(times, echoes, strict=True):
        at = first_arrival(scene, direct, float(time_s))
        if 1.5 < at < 8.0:
            water = (t.bin_range_m > 1.0) & (t.bin_range_m < 8.4)
            found = t.bin_range_m[water][int(row[water].argmax())]
            assert -t.bin_m <= found - at <= 1.1 * t.resolution_m
            checked += 1
    assert checked > 10


# --- the water -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("scene", "range_m", "kind", "words"),
    [
        (replace(HOLE, silt=1.0), 8.5, "silt", "stirred up"),
        (replace(HOLE, silt=1.0), 5.0, "silt", "stirred up"),
        (replace(HOLE, silt=1.0), 1.5, "water", "specks"),
        (replace(HOLE, silt=0.2, clarity="plankton"), 5.0, "plankton", "dusk"),
        (replace(HOLE, clarity="plankton"), 4.0, "plankton", "dusk"),
        (replace(HOLE, plankton="thick", hour=22.0), 4.5, "plankton", "dusk"),
        (HOLE, 4.0, "water", "specks"),
        (replace(HOLE, weed_height_m=1.5, weed_density=0.8), 8.0, "weeds", "standing up to 7.95 m"),
        (HOLE, 9.05, "bottom", "mud"),
        (HOLE, 0.05, "ringing", "ringing"),
        (replace(HOLE, face_depth_m=0.1, ice_thickness_m=0.8), 0.9, "walls", "0.70 m up inside"),
    ],
)
def test_each_part_of_the_water_is_named_with_what_makes_it(scene, range_m, kind, words):
    mark = explain(scene, heard(scene), range_m, 20.0)
    assert mark.kind == kind and words in text(mark)


def test_far_under_the_first_line_is_the_bottoms_tail():
    near, far = (explain(HOLE, heard(HOLE), 9.01 + under, 20.0) for under in (0.05, 0.7))
    assert "This is the bottom, mud" in text(near) and "tail of the bottom" in text(far)


# --- what is on the line -------------------------------------------------------------------------------------------


def test_bubbles_hang_at_their_shares_of_the_way_from_the_face_to_the_lure():
    where, names = scatterers.gather(
        HOLE, USUAL_JIG, np.array([[0.4, -0.2, 8.0]]), None, np.zeros((1, 0, 3)), (), (), np.zeros(1), 200e3, 1405.0
    )
    line = [k for k, who in enumerate(names) if who.kind == "line"]
    assert where.z[0, line] == pytest.approx(0.44 + (8.0 - 0.44) * BUBBLES_DOWN, abs=1e-5)
    assert where.x[0, line] == pytest.approx(0.4 * BUBBLES_DOWN, abs=1e-6)
    assert where.place[1, 0, line] == pytest.approx(-0.2 * BUBBLES_DOWN, abs=1e-6)
