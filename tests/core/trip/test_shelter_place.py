"""Where to set a shelter down: its lines together reach the best mix, turned as it must be, and it says how surely."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.ground.contours import on_a_grid
from hollow_glint.core.ground.soundings import Structure
from hollow_glint.core.ground.surface import Band, Surface
from hollow_glint.core.trip.shelter_place import (
    LINE_REACH_M,
    Met,
    Placing,
    ShelterPlace,
    judged_placings,
    shelter_places,
)
from hollow_glint.core.trip.start_places import Bed

RING = [[0, 0], [400, 0], [400, 300], [0, 300]]
BAND = Band(6.0, 10.0)
# A long tent: a hole at each end and one in the middle.
LONG = [(0.0, -6.0), (0.0, 0.0), (0.0, 6.0)]


def lake(soundings: int) -> Surface:
    """A flat bed at 8 m behind shores that fall away within 60 m."""
    rng = np.random.default_rng(5)
    place = rng.uniform((10, 10), (390, 290), (soundings, 2))
    walls = np.minimum(np.minimum(place[:, 0], 400 - place[:, 0]), np.minimum(place[:, 1], 300 - place[:, 1]))
    return Surface(place, 8.0 * np.minimum(1.0, walls / 60.0), RING)


@pytest.fixture(scope="module")
def flat() -> Surface:
    return lake(120)


def found(surface: Surface, bed: Bed, now: Placing | None = None, count: int = 1, plan=LONG) -> list[ShelterPlace]:
    return shelter_places(on_a_grid(surface, 1500), BAND, plan, bed, now, count)


def test_a_plan_is_turned_about_its_middle_as_a_compass_turns():
    """Turned by 90 degrees what lay ahead lies to the east."""
    holes = Placing(100.0, 50.0, 90.0).holes(np.array([(0.0, 6.0), (2.0, 0.0)]))
    assert holes == pytest.approx(np.array([(106.0, 50.0), (100.0, 48.0)]))


def test_two_things_twelve_metres_apart_are_each_reached_by_a_line_of_its_own(flat):
    """Timber and rock on a line that runs east by north: the tent is turned along it, which no single hole could do."""
    bearing = np.radians(60.0)
    ends = [np.array([200.0, 150.0]) + 6.0 * sign * np.array([np.sin(bearing), np.cos(bearing)]) for sign in (-1, 1)]
    bed = Bed([Structure(*map(float, ends[0]), "timber"), Structure(*map(float, ends[1]), "rock pile")])
    (best,) = found(flat, bed)
    assert {"timber", "rock"} <= {kind for hole in best.holes for kind in hole.reaches}
    assert not any({"timber", "rock"} <= set(hole.reaches) for hole in best.holes)
    turned = (best.placing.turn_deg - 60.0) % 180.0
    assert min(turned, 180.0 - turned) <= 25.0
    ways = np.array([(one.east_m, one.north_m) for one in best.holes])
    for end in ends:
        assert np.linalg.norm(ways - end, axis=1).min() < 0.8 * LINE_REACH_M
    said = " ".join(one.text for one in best.why)
    assert "reaches timber" in said and "reaches rock" in said


def test_no_placing_of_a_fine_grid_is_worth_much_more(flat):
    """Against every placing within ten metres at a metre and ten degrees."""
    bed = Bed(
        [Structure(150.0, 160.0, "crib"), Structure(158.0, 152.0, "school seen"), Structure(140.0, 150.0, "boulder")]
    )
    (best,) = found(flat, bed)
    grid = [
        Placing(best.placing.east_m + e, best.placing.north_m + n, turn)
        for e in np.arange(-9.0, 9.1, 3.0)
        for n in np.arange(-9.0, 9.1, 3.0)
        for turn in (0.0, 45.0, 90.0, 135.0)
    ]
    others = judged_placings(flat, BAND, LONG, grid, bed)
    assert best.worth >= 0.97 * max(one.worth for one in others)
    assert best.worth > 1.1 * np.median([one.worth for one in others])


def test_it_is_held_against_where_the_party_stands_and_says_how_surely(flat):
    bed = Bed([Structure(200.0, 150.0, "timber")])
    best, stands = found(flat, bed, Placing(20.0, 20.0))
    assert best.worth > stands.worth and best.better > 0.95 and stands.better is None
    # Against itself it is better as often as not; and with few soundings less is sure.
    same, _ = found(flat, bed, best.placing)
    assert same.better == pytest.approx(0.5, abs=0.02)
    middle = Placing(120.0, 150.0)
    known, guessed = (found(lake(many), bed, middle)[0] for many in (120, 7))
    assert known.better > guessed.better - 0.02
    assert 0.0 <= guessed.better <= 1.0


def test_it_stands_over_water_in_the_band_and_warns_of_thin_ice(flat):
    bed = Bed([Structure(210.0, 150.0, "timber"), *(Structure(east, 150.0, "spring") for east in (230.0, 260.0))])
    best, second, third = found(flat, bed, count=3)
    assert best.worth >= second.worth >= third.worth > 0.0
    for hole in best.holes:
        assert 0.0 < hole.east_m < 400.0 and 0.0 < hole.north_m < 300.0 and hole.in_band > 0.5
    (warned,) = best.beware
    assert "spring" in warned.text and warned.values["away"].value < 35.0


def test_proposals_are_places_of_their_own(flat):
    bed = Bed([Structure(200.0, 150.0, "timber"), Structure(204.0, 150.0, "boulder")])
    places = np.array([(one.placing.east_m, one.placing.north_m) for one in found(flat, bed, count=4)])
    apart = np.linalg.norm(places[:, None] - places[None], axis=-1)[np.triu_indices(len(places), 1)]
    assert len(places) >= 3 and apart.min() >= 30.0


def test_it_is_drawn_to_where_fish_passed_in_the_hours_that_are_planned(flat):
    """Two holes of the log alike in all but what came to them; an hour with one look proves nothing."""
    busy, quiet = Met(260.0, 150.0, 24.0, 6.0, 1.0), Met(140.0, 150.0, 2.0, 6.0, 1.0)
    assert busy.times == pytest.approx(26.0 / 8.0) and quiet.times == pytest.approx(0.5)
    assert Met(0.0, 0.0, 2.0, 1.0, 1.0).times < 1.4 < Met(0.0, 0.0, 20.0, 10.0, 1.0).times
    there, elsewhere = judged_placings(flat, BAND, LONG, [Placing(260, 150), Placing(140, 150)], met=[busy, quiet])
    assert "traffic" in there.holes[1].reaches and "traffic" not in elsewhere.holes[1].reaches
    said = there.why[-1]
    assert "In these hours {looks} fish" in said.text and said.values["looks"].value == 24
    # Of edges that are all alike the one where more came: without the log another is as good.
    sheet, on_the_edge = on_a_grid(flat, 1500), Met(350.0, 220.0, 24.0, 6.0, 1.0)
    (best,) = shelter_places(sheet, BAND, LONG, Bed(), count=1, met=[on_the_edge])
    (without,) = shelter_places(sheet, BAND, LONG, Bed(), count=1)
    away = [np.hypot(one.placing.east_m - 350.0, one.placing.north_m - 220.0) for one in (best, without)]
    assert away[0] < 20.0 < away[1] and {"edge", "traffic"} <= {kind for hole in best.holes for kind in hole.reaches}


def test_a_place_with_nothing_near_says_so(flat):
    (stands,) = judged_placings(flat, BAND, LONG, [Placing(200.0, 150.0)])
    assert "No line reaches" in stands.why[-1].text and stands.holes[0].reaches == ()


@pytest.mark.parametrize("plan", [[], [(0.0, 0.0)] * 9, [(90.0, 0.0)], [(1.0, 2.0, 3.0)]])
def test_a_plan_that_cannot_be_is_refused(flat, plan):
    with pytest.raises(InputError, match="accepted are 1 to 8 pairs"):
        found(flat, Bed(), plan=plan)


def test_a_placing_off_the_earth_is_refused():
    with pytest.raises(InputError, match="east_m"):
        Placing(1e9, 0.0)
