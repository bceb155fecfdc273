"""Sunrise, sunset and dusk: by almanac figures, and where the sun does not rise."""

from __future__ import annotations

import pytest

from hollow_glint.core.trip.sun import sun_times


def minutes(clock: str) -> float:
    hours, rest = clock.split(":")
    return 60.0 * float(hours) + float(rest)


@pytest.mark.parametrize(
    ("date", "dawn", "sunrise", "sunset", "dusk"),
    [
        # London, the almanac examples that the library `astral` publishes with its source; values from memory.
        ("2015-12-01", "07:04", "07:43", "15:55", "16:34"),
        ("2015-12-25", "07:25", "08:06", "15:55", "16:36"),
    ],
)
def test_the_sun_over_london_as_the_almanac_has_it(date, dawn, sunrise, sunset, dusk):
    sun = sun_times(51.4733, -0.0008333, date, 0.0)
    found = (sun.dawn_min, sun.sunrise_min, sun.sunset_min, sun.dusk_min)
    assert found == pytest.approx([minutes(one) for one in (dawn, sunrise, sunset, dusk)], abs=2.0)


def test_by_the_day_length_formula():
    """cos(H) = (sin(-0.833) - sin(lat) sin(dec)) / (cos(lat) cos(dec)) (Meeus 1998, chapter 15); at the solstice dec is
    -23.44 degrees: at 60 degrees north the day lasts 5 h 52 min."""
    sun = sun_times(60.0, 25.0, "2026-12-21", 120.0)
    assert sun.sunset_min - sun.sunrise_min == pytest.approx(352.0, abs=3.0)
    # The clock of another land moves the figures and nothing else.
    other = sun_times(60.0, 25.0, "2026-12-21", 60.0)
    assert sun.sunset_min - other.sunset_min == pytest.approx(60.0)


def test_where_it_does_not_rise_or_set():
    night, day = sun_times(70.0, 25.0, "2026-12-21", 60.0), sun_times(70.0, 25.0, "2026-06-21", 60.0)
    assert night.sunrise_min is None and night.dusk_min is not None and not night.noon_up
    assert {night.light(60.0 * h) for h in range(24)} == {"dusk", "night"}
    assert day.sunset_min is None and day.noon_up and {day.light(60.0 * h) for h in range(24)} == {"day"}


def test_light_by_the_clock_and_what_is_no_day():
    sun = sun_times(62.0, 15.0, "2026-12-05", 60.0)
    assert [sun.light(60.0 * h) for h in (3, 12, 23)] == ["night", "day", "night"]
    assert sun.light(sun.sunset_min + 1.0) == "dusk" and sun.light(sun.dusk_min + 1.0) == "night"
    with pytest.raises(ValueError, match="date is '2026-02-30': accepted is a day as 2026-12-05"):
        sun_times(62.0, 15.0, "2026-02-30", 60.0)
