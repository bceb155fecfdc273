"""What came to holes in the hours that are planned."""

from __future__ import annotations

import pytest

from hollow_glint.core.log.passing import met_in_hours, share_of_hours
from hollow_glint.core.log.season import Piece, Went

LAST, EARLY, BEFORE = "the last hour before sunset", "4 to 2 h before sunset", "more than 4 h before sunset"
AT = {"A": (10.0, 20.0), "B": (30.0, 40.0)}


def piece(hole: str, hour: str, looks: int, hours: float = 1.0) -> Piece:
    went = tuple(Went("look", None, "2026-12-05T14:00:00Z") for _ in range(looks))
    return Piece(hole, "d1", "w", "2026-12-05T13:00:00Z", hours, {"hour": hour} if hour else {}, went)


def test_hours_are_shared_out_over_the_classes_that_they_lie_in():
    assert share_of_hours(-180.0, -30.0) == {
        EARLY: pytest.approx(0.5), "2 to 1 h before sunset": 1.0, LAST: pytest.approx(0.5)
    }  # fmt: skip
    assert share_of_hours(-600.0, -400.0) == {}
    assert share_of_hours(-600.0, -240.0) == {BEFORE: 1.0}


def test_only_what_came_in_these_hours_counts_and_against_what_comes_at_any_hour():
    pieces = [piece("A", LAST, 6), piece("A", EARLY, 0), piece("B", EARLY, 6), piece("B", LAST, 0),
              piece("C", LAST, 9), piece("A", "", 40)]  # fmt: skip
    a, b = met_in_hours(pieces, AT, (-60.0, 0.0))
    assert (a.east_m, a.north_m, a.looks, a.hours) == (10.0, 20.0, 6.0, 1.0) and b.looks == 0.0
    assert a.usual == pytest.approx(61.0 / 6.0)
    assert b.times < a.times < 1.0
    # Where nobody knows when the sun sets every hour counts, and a piece whose hour is not known as well.
    a, b = met_in_hours(pieces, AT, None)
    assert (a.looks, a.hours) == (46.0, 3.0) and (b.looks, b.hours) == (6.0, 2.0)


def test_of_minutes_nothing_is_said():
    assert met_in_hours([piece("A", LAST, 3, 0.1)], AT, (-60.0, 0.0)) == []
    assert met_in_hours([], AT, None) == []
