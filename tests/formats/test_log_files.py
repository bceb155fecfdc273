"""The log out and in: JSON, tables for a spreadsheet and pandas, a station's CSV; what is no such file is refused."""

from __future__ import annotations

import datetime
import io
import zipfile

import pandas
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.log.outing import Happening, Outing, Stay
from hollow_glint.formats import log_file, station_csv
from hollow_glint.formats.log_file import OutingFile, StayFile
from tests.effort import bounded

STAY = Stay("2026-02-14T12:00:00Z", "2026-02-14T13:00:00Z", "By the reeds, left", 2, 8.0, "mud", "clear", "My unit",
            "narrow", Settings(28.5, 12.2, rejection=2, auto_range=True), "Spoon", "spoon", 0.04, "slow lift",
            "=1+1\nand a second line")  # fmt: skip
NOTES = (
    Happening("2026-02-14T12:20:00Z", "bite", 7.1, "slow lift", "char"),
    Happening("2026-02-14T12:21:00Z", "fish", 7.1, "slow lift", "char", 0.41, False, "released", 'a "fine" one'),
)
DAY = Outing("2026-02-14T12:00:00Z", "2026-02-14T16:00:00Z", "Kaldmere", "A party of two", 60.0, 0.4, "bare ice",
             "clear", "light", -8.5, 1013.2, "falling", "ö, 冰")  # fmt: skip
WHOLE = [
    OutingFile(DAY, (StayFile(STAY, NOTES, 12.5, -3.0), StayFile(Stay("2026-02-14T14:00:00Z"), ())), "Kaldmere"),
    OutingFile(Outing("2026-02-20T08:00:00Z"), ()),
]


def test_a_log_comes_back_as_it_went_out():
    assert log_file.read_json(log_file.write_json(WHOLE)) == WHOLE
    assert log_file.read_tables(log_file.write_tables(WHOLE)) == WHOLE


words = st.text(st.characters(exclude_categories=["C", "Z"]), max_size=30)


@given(words, words, st.floats(0.1, 60.0), st.integers(0, 9))
@bounded(60)
def test_any_words_and_numbers_come_back(name, note, depth, rejection):
    knobs = Settings(7.25, 9.144, rejection=rejection)
    stay = Stay("2026-02-14T12:00:00Z", hole=name, depth_m=depth, note=note, settings=knobs)
    whole = [OutingFile(Outing("2026-02-14T12:00:00Z", who=note), (StayFile(stay, ()),))]
    assert log_file.read_json(log_file.write_json(whole)) == whole
    assert log_file.read_tables(log_file.write_tables(whole)) == whole


def test_pandas_reads_the_tables():
    with zipfile.ZipFile(io.BytesIO(log_file.write_tables(WHOLE))) as file:
        frames = {name: pandas.read_csv(file.open(name)) for name in log_file.TABLES}
    stays, notes = frames["stays.csv"], frames["happenings.csv"]
    assert stays.merge(notes, on="stay").groupby("hole")["kind"].count()["By the reeds, left"] == 2
    assert stays["depth_m"][0] == 8.0 and notes["length_m"][1] == 0.41
    assert pandas.to_datetime(frames["outings.csv"]["began_at"]).dt.tz is not None


def test_no_cell_is_a_formula():
    text = log_file.table_text(("a",), [("=1+1",), ("-2",), ("@x",), (-2.0,)])
    assert text.splitlines()[1:] == ["'=1+1", "'-2", "'@x", "-2.0"]


def packed(**tables: str) -> bytes:
    with zipfile.ZipFile(io.BytesIO(log_file.write_tables(WHOLE))) as file:
        now = {name: file.read(name).decode("utf-8-sig") for name in log_file.TABLES}
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as file:
        for name, text in (now | {f"{key}.csv": text for key, text in tables.items()}).items():
            file.writestr(name, text)
    return made.getvalue()


HEAD = ",".join(log_file.HAPPENING_COLUMNS)


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"PK nonsense", "no ZIP"),
        (log_file.write_tables(WHOLE)[:-40], "no ZIP"),
        (packed(happenings="stay,at\n1,2"), "the column kind is missing"),
        (packed(happenings=f"{HEAD}\n1,2026-02-14T12:00:00Z,wave,,,,,,,\n"), "happenings.csv, line 2: kind is 'wave'"),
        (packed(happenings=f"{HEAD}\n9,2026-02-14T12:00:00Z,look,,,,,,,\n"), "stay 9 is not in stays.csv"),
        (packed(happenings=f"{HEAD}\n1,2026-02-14T12:00:00Z,look,deep,,,,,,\n"), "depth_m is 'deep'"),
        (packed(happenings=f"{HEAD}\n1,2\n"), "2 cells"),
    ],
)
def test_tables_that_are_not_what_they_should_be_are_refused_with_the_line(content, said):
    with pytest.raises(ValueError, match=said):
        log_file.read_tables(content)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("{", "line 1: the file is not JSON"),
        ("[]", "this is no log"),
        ('{"hollow-glint-log": 7, "outings": []}', "reads version 1"),
        ('{"hollow-glint-log": 1, "outings": 3}', "outings is no list"),
        ('{"hollow-glint-log": 1, "outings": [{"water": "x"}]}', "outing 1: began_at is missing"),
        ('{"hollow-glint-log": 1, "outings": [{"began_at": "2026-02-14T12:00:00Z", "stays": [{"began_at": "2026-02-14T12:00:00Z", "lines": 90}]}]}', "lines is 90"),  # noqa: E501
    ],
)  # fmt: skip
def test_json_that_is_no_log_is_refused(text, said):
    with pytest.raises(ValueError, match=said):
        log_file.read_json(text)


def test_a_stations_file_is_read_by_its_columns_names_and_sizes():
    for text in (
        "Time,Temp (C),Pressure (hPa)\n2026-02-14 12:00,-4.5,1013.2\n",
        "date_time;pressure;temperature\n2026-02-14T12:00;1013,2;-4,5\n",
        "\ufeffutc\tbaro\n2026-02-14T12:00:00\t29.92\n",
        "time,pressure\n2026-02-14T13:00:00+01:00,760\n",
    ):
        (one,) = station_csv.read(text)
        assert one.at == datetime.datetime(2026, 2, 14, 12, tzinfo=datetime.UTC)
        assert one.pressure_hpa == pytest.approx(1013.2, abs=0.1)
    assert station_csv.read("time,pressure\n2026-02-14 12:00,1013\n", 60.0)[0].at.hour == 11


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("a,b\n1,2\n", "no column is called time"),
        ("time,wind\n1,2\n", "no column is called pressure"),
        ("time,pressure\n", "no reading"),
        ("time,pressure\nyesterday,1013\n", "line 2: 'yesterday' is no time"),
        ("time,pressure\n2026-02-14,12\n", "line 2: pressure is '12'"),
    ],
)
def test_what_is_no_stations_file_is_said(text, said):
    with pytest.raises(ValueError, match=said):
        station_csv.read(text)
