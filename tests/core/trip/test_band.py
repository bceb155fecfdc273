"""The depths to start at: a whole table, one's own log over it, and lines that can be changed."""

from __future__ import annotations

from typing import get_args

import pytest

from hollow_glint.core.trip.band import (
    ANY,
    LEAST_LOGGED,
    TABLE,
    Asked,
    Light,
    Season,
    Starting,
    by_autumn,
    changed,
    proposals,
    season_of,
    starting_band,
)


def test_every_species_has_a_line_for_every_season_and_light_and_says_why():
    species = {one.species for one in TABLE}
    assert ANY in species and len(species) >= 5
    for one in species:
        for season in get_args(Season):
            for light in get_args(Light):
                found = starting_band(one, season, light)
                assert found.by == "table" and "Common practice, no more" in found.why.text
                assert found.band.from_m < found.band.to_m
    assert len(TABLE) == len({(one.species, one.season, one.light) for one in TABLE})


def test_what_the_table_does_not_know_begins_where_any_does():
    found = starting_band("pikeperch", "midwinter", "day")
    assert found == starting_band(ANY, "midwinter", "day")
    with pytest.raises(ValueError, match="the table has no line for it in midwinter by day"):
        starting_band("pikeperch", "midwinter", "day", table=[one for one in TABLE if one.species != ANY])


def test_the_log_overrules_the_table_once_it_holds_enough_and_says_so():
    few = [11.0, 11.5, 12.0]
    assert len(few) < LEAST_LOGGED and starting_band("whitefish", "first ice", "day", few).by == "table"
    found = starting_band("whitefish", "first ice", "day", [*few, 12.5, 11.2])
    assert found.by == "log" and found.band.from_m < 11.2 and 12.0 < found.band.to_m < 14.0
    assert "your own log" in found.why.text and found.why.values["count"].value == 5
    with pytest.raises(ValueError, match="logged_m is -1"):
        starting_band("whitefish", "first ice", "day", [1.0, 2.0, 3.0, -1.0])


def test_a_line_is_changed_or_added_and_nothing_else():
    mine = Starting("whitefish", "first ice", "day", 12.0, 15.0, "as my father had it")
    table = changed(TABLE, mine)
    assert len(table) == len(TABLE) and starting_band("whitefish", "first ice", "day", table=table).band.from_m == 12.0
    assert [a for a, b in zip(TABLE, table, strict=True) if a != b] == [
        one for one in TABLE if (one.species, one.season, one.light) == ("whitefish", "first ice", "day")
    ]
    more = changed(TABLE, Starting("smelt", "late ice", "night", 5.0, 9.0, "over the basin"))
    assert len(more) == len(TABLE) + 1 and starting_band("smelt", "late ice", "night", table=more).band.to_m == 9.0
    with pytest.raises(ValueError, match="band_m is 9 to 5"):
        Starting("smelt", "late ice", "night", 9.0, 5.0, "upside down")


def test_ones_own_band_goes_first_then_the_log_the_table_and_autumn():
    logged, autumn = [7.0, 7.5, 8.0, 8.5], [6.0, 7.0]
    asked = Asked("whitefish", "first ice", "day", (3.0, 4.0))
    assert [one.by for one in proposals(asked, logged, autumn)] == ["own", "log", "table", "autumn"]
    assert [one.by for one in proposals(Asked("whitefish", "first ice", "day"), (), autumn)] == ["table", "autumn"]
    assert [one.by for one in proposals(Asked("whitefish", "midwinter", "day"), logged[:3], autumn)] == ["table"]
    (*_, carried) = proposals(Asked("whitefish", "first ice", "day"), (), autumn)
    assert carried.band.from_m < 6.0 < 7.0 < carried.band.to_m and carried.why.values["count"].value == 2
    assert by_autumn([]) is None
    with pytest.raises(ValueError, match="band_m is 4 to 3"):
        proposals(Asked("whitefish", "first ice", "day", (4.0, 3.0)))


@pytest.mark.parametrize(
    ("date", "season"),
    [("2026-12-05", "first ice"), ("2026-02-14T15:42:00Z", "midwinter"), ("2026-04-01", "late ice"),
     ("2026-07-01", None), ("soon", None)],
)  # fmt: skip
def test_a_date_has_its_season_and_summer_none(date, season):
    assert season_of(date) == season
