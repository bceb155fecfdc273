"""Recordings: both formats there and back, files from elsewhere, and files that mean harm."""

from __future__ import annotations

import io
import json
import tracemalloc
from dataclasses import replace
from datetime import UTC, datetime

import h5py
import numpy as np
import pytest
import xarray
from hypothesis import given
from hypothesis import strategies as st

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.bench.tape import Tape
from hollow_glint.core.checks import InputError
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import TRAIL_UNIT, TWO_BEAM_RING
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.reader import recording_reader
from hollow_glint.core.reader.recording import Note, Recording, bounded
from hollow_glint.formats import recording_csv, recording_nc
from hollow_glint.formats.recording_fields import MOST_FILE_BYTES
from hollow_glint.store import recordings
from hollow_glint.store.database import Database, NotFound
from tests.effort import bounded as examples

BEGUN = datetime(2026, 1, 5, 9, 30, tzinfo=UTC)


def bench_recording(steps: int = 160, window: float = 0.0) -> Recording:
    """What a bench showed: the lure lowered, the gain turned half way."""
    settings = Settings(56.0, TWO_BEAM_RING.ranges_m[1], bottom_window_m=window)
    run = BenchRun(Scene(7.0, "sand", 0.3, 0.4), TWO_BEAM_RING, settings, Lure("jig", 0.005), np.random.default_rng(3))
    tape = Tape()
    for k in range(steps):
        commands = [Command(to_depth_m=5.0)] if k == 5 else []
        if k == steps // 2:
            commands.append(Command(settings=replace(settings, gain=61.0)))
        tape.add(run.advance(commands))
    return tape.recording("Kaldmere, a test", run, BEGUN)


@pytest.fixture(scope="module")
def kept() -> Recording:
    return replace(bench_recording(), notes=(Note(3.0, 4.2, "A mark."), Note(1.0, 0.0, "fish in the cone", "reader")))


def same(a: Recording, b: Recording) -> None:
    for name in ("time_s", "levels", "top_m", "bottom_m", "line_in_m"):
        assert np.array_equal(getattr(a, name), getattr(b, name)), name
    for name in ("name", "started_at", "unit", "lure", "settings", "face_depth_m", "temperature_c", "notes"):
        assert getattr(a, name) == getattr(b, name), name


@pytest.mark.parametrize("form", [recording_nc, recording_csv], ids=["netCDF", "CSV"])
def test_there_and_back_is_the_same_to_the_bit(kept, form):
    back, repaired = form.read(form.write(kept))
    same(kept, back)
    assert repaired == [] and back.missing == ()
    assert len(back.settings) == 2


def test_a_window_that_moves_keeps_its_edges():
    moving = bench_recording(80, TWO_BEAM_RING.bottom_windows_m[0])
    same(moving, recording_nc.read(recording_nc.write(moving))[0])


def test_it_opens_in_xarray_with_the_conventions_names(kept):
    """Names of groups and variables: ICES CRR 341, the SONAR-netCDF4 convention; from memory."""
    content = io.BytesIO(recording_nc.write(kept))
    root = xarray.open_dataset(content, engine="h5netcdf")
    assert root.attrs["sonar_convention_name"] == "SONAR-netCDF4"
    beam = xarray.open_dataset(content, engine="h5netcdf", group="Sonar/Beam_group1")
    assert beam["backscatter_r"].dims == ("ping_time", "beam", "range_sample")
    assert beam["ping_time"].values[0].astype("datetime64[s]") == np.datetime64(kept.started_at.rstrip("Z"))
    seconds = (beam["ping_time"].values - beam["ping_time"].values[0]) / np.timedelta64(1, "s")
    assert seconds == pytest.approx(kept.time_s - kept.time_s[0], abs=1e-6)
    assert float(beam["frequency"][0]) == kept.unit.beams[0].frequency_hz
    ours = xarray.open_dataset(content, engine="h5netcdf", group="Vendor_specific")
    assert np.array_equal(ours["level"].values, kept.levels)
    # Dark is dark and a stronger colour is a stronger echo.
    loud = beam["backscatter_r"].values[:80, 0]
    assert np.isnan(loud[kept.levels[:80] == 0]).all() or (loud[kept.levels[:80] == 0] < -900).all()
    assert np.nanmin(loud[kept.levels[:80] == 3]) > np.nanmax(loud[kept.levels[:80] == 1])


def foreign(**changes) -> bytes:
    """Another program's file: one beam, backscatter in dB, times in nanoseconds, no word of a unit."""
    pings, samples = 300, 800
    rng = np.random.default_rng(1)
    data = rng.normal(-90.0, 3.0, (pings, samples)).astype(np.float32)
    data[:, 300:306] = -48.0  # something that hangs still
    data[:, 600:660] = -20.0  # the bottom
    fields = {
        "ping_time": (1_700_000_000_000_000_000 + np.arange(pings) * 50_000_000).astype(np.int64),
        "backscatter_r": data, "sample_interval": np.float64(2.0 * 10.0 / samples / 1405.0),
        "frequency": np.array([120e3]),
    }  # fmt: skip
    fields.update(changes)
    target = io.BytesIO()
    with h5py.File(target, "w") as file:
        file.attrs["sonar_convention_name"] = "SONAR-netCDF4"
        beam = file.create_group("Sonar/Beam_group1")
        for name, value in fields.items():
            if value is not None:
                beam.create_dataset(name, data=value)
        if "ping_time" in beam:
            beam["ping_time"].attrs["units"] = "nanoseconds since 1970-01-01 00:00:00Z"
        if "backscatter_r" in beam:
            beam["backscatter_r"].attrs["units"] = "dB"
    return target.getvalue()


def test_a_file_from_elsewhere_is_pictured_and_read_and_what_is_missing_is_said():
    recording, repaired = recording_nc.read(foreign())
    assert repaired == []
    said = " ".join(recording.missing)
    for word in ("unit", "line and rod", "sound speed", "face depth"):
        assert word in said
    assert recording.time_s[-1] == pytest.approx(299 * 0.05)
    assert recording.unit.beams[0].frequency_hz == 120e3
    reading = recording_reader.reading_at(recording, 14.0)
    assert reading.bottom is not None and reading.bottom.range_m == pytest.approx(7.5, abs=0.1)
    assert [mark.range_m for mark in reading.marks] == pytest.approx([3.75], abs=0.1)


def test_not_a_number_is_silence_and_times_that_run_backwards_are_left_out():
    data = np.full((300, 800), -90.0, dtype=np.float32)
    data[5, 10:20] = np.nan
    times = (np.arange(300) * 50_000_000).astype(np.int64)
    times[100:110] = 0
    recording, repaired = recording_nc.read(foreign(backscatter_r=data, ping_time=times))
    assert recording.time_s.size == 290
    assert any("not a number in 10 cells" in one for one in repaired)
    assert any("ran backwards or stood still in 10 pings" in one for one in repaired)


def csv_lines(kept: Recording) -> list[str]:
    return recording_csv.write(kept).decode().splitlines()


def test_a_csv_with_faults_is_mended_and_each_is_named(kept):
    lines = csv_lines(kept)
    head = next(k for k, text in enumerate(lines) if text.startswith("time_s"))
    lines[head + 3] = "nan," + lines[head + 3].split(",", 1)[1]
    lines[head + 5] = lines[head + 5][:-4] + "??"
    back, repaired = recording_csv.read("\n".join(lines).encode())
    assert back.time_s.size == kept.time_s.size - 1
    said = " ".join(repaired)
    assert "not a number in 1 pings" in said and "2 characters" in said and "another number of rows in 1" in said


def test_a_missing_unit_is_said(kept):
    lines = [text for text in csv_lines(kept) if not text.startswith(("# unit", "# settings"))]
    back, _ = recording_csv.read("\n".join(lines).encode())
    assert any(one.startswith("unit") for one in back.missing)
    assert np.array_equal(back.levels, kept.levels)


# -- files that mean harm ---------------------------------------------------------------------------------------------


def hostile(make) -> bytes:
    target = io.BytesIO()
    with h5py.File(target, "w") as file:
        make(file)
    return target.getvalue()


def a_gigabyte(file: h5py.File) -> None:
    beam = file.create_group("Sonar/Beam_group1")
    beam.create_dataset("backscatter_r", shape=(60_000, 4_500), dtype="f4", chunks=(1, 4500), compression="gzip")


def a_large_chunk(file: h5py.File) -> None:
    group = file.create_group("Vendor_specific")
    group.create_dataset("level", shape=(4, 32), maxshape=(None, None), dtype="u1", chunks=(40_000, 10_000))


def a_link_out(file: h5py.File) -> None:
    file["Sonar"] = h5py.ExternalLink("/etc/passwd", "/")


def data_outside(file: h5py.File) -> None:
    file.create_dataset("outside", shape=(100,), dtype="u1", external=[("/etc/passwd", 0, 100)])


def no_beam(file: h5py.File) -> None:
    file.attrs["Conventions"] = "CF-1.7"
    file.create_dataset("temperature", data=np.arange(5.0))


def words_for_numbers(file: h5py.File) -> None:
    file.create_group("Sonar/Beam_group1").create_dataset("backscatter_r", data=[b"loud", b"quiet"])


def too_many(file: h5py.File) -> None:
    for k in range(600):
        file.create_group(f"g{k}")


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (a_gigabyte, "claims 1080000000 bytes"),
        (a_large_chunk, "one chunk, claims 400000000 bytes"),
        (a_link_out, "link out of its place"),
        (data_outside, "outside the file"),
        (no_beam, "no group Sonar/Beam_group1"),
        (words_for_numbers, "backscatter_r"),
        (too_many, "more than 500"),
    ],
)
def test_a_hostile_file_is_refused_before_it_takes_memory(make, words):
    content = hostile(make)
    recording_nc.read(foreign())  # so that what is loaded once is loaded
    tracemalloc.start()
    try:
        with pytest.raises(InputError, match=words):
            recording_nc.read(content)
        _, most = tracemalloc.get_traced_memory()
    finally:
        tracemalloc.stop()
    assert most < 20e6


def test_a_file_cut_short_is_refused(kept):
    whole = recording_nc.write(kept)
    for share in (0.02, 0.5, 0.95):
        with pytest.raises(InputError):
            recording_nc.read(whole[: int(share * len(whole))])
    text = recording_csv.write(kept)
    with pytest.raises(InputError, match="columns"):
        recording_csv.read(text[: text.rindex(b",") - 2])


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "line 1"),
        (b"\xff\xfe\x00", "not UTF-8"),
        (b"time_s,levels\n", "line 1: this is not a recording"),
        (b"# hollow_glint_recording: 1\n# no colon here\n", "line 2"),
        (b"# hollow_glint_recording: 1\ntime,levels\n", "the columns should be"),
        (b"# hollow_glint_recording: 1\ntime_s,top_m,bottom_m,line_in_m,levels\n0,0,1,0,0\n", "claims 1 pings"),
        (b"x" * (MOST_FILE_BYTES + 1), "bytes: accepted are up to"),
    ],
    ids=["empty", "binary", "no mark", "no colon", "columns", "one ping", "too large"],
)
def test_a_csv_that_is_none_is_refused_with_its_line(content, words):
    with pytest.raises(InputError, match=words):
        recording_csv.read(content)


def test_a_bad_unit_or_settings_in_a_file_are_named(kept):
    lines = csv_lines(kept)
    unit = next(k for k, text in enumerate(lines) if text.startswith("# unit"))
    broken = json.loads(lines[unit].split(":", 1)[1])
    broken["gain"]["step"] = "fast"
    for text, words in ((json.dumps(broken), "unit.gain.step"), ("{", "unit is not JSON"), ("[]", "unit")):
        with pytest.raises(InputError, match=words):
            recording_csv.read("\n".join([*lines[:unit], f"# unit: {text}", *lines[unit + 1 :]]).encode())
    settings = next(k for k, text in enumerate(lines) if text.startswith("# settings"))
    for text, words in (
        ("[]", "settings"),
        ('[{"ping": "x"}]', "settings.ping"),
        ('[{"ping": 0, "gain": 1}]', "range_m"),
    ):
        with pytest.raises(InputError, match=words):
            recording_csv.read("\n".join([*lines[:settings], f"# settings: {text}", *lines[settings + 1 :]]).encode())


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"time_s": np.zeros(200)}, "time_s"),
        ({"name": ""}, "name has 0"),
        ({"face_depth_m": 9.0}, "face_depth_m"),
        ({"line_in_m": np.full(160, np.inf)}, "line_in_m"),
        ({"line_in_m": np.full(160, 90.0)}, "line_in_m is 90"),
        ({"bottom_m": np.full(160, 900.0)}, "bottom_m is 900"),
        ({"top_m": np.full(160, 99.0)}, "top_m and bottom_m"),
        ({"levels": np.full((160, 360), 9, dtype=np.uint8)}, "levels reach 9"),
        ({"settings": ()}, "settings"),
    ],
)
def test_a_recording_that_cannot_be_is_refused(kept, change, words):
    with pytest.raises(InputError, match=words):
        replace(kept, **change)


def test_only_so_much_is_a_recording():
    for pings, rows in ((1, 100), (200_000, 100), (100, 8), (100, 4000), (100_000, 2000)):
        with pytest.raises(InputError, match="claims"):
            bounded(pings, rows)


# -- kept -------------------------------------------------------------------------------------------------------------


@pytest.fixture
def database(tmp_path):
    return Database(tmp_path / "store.sqlite3")


def test_what_is_kept_comes_back_with_its_notes(database, kept):
    one = recordings.add(database, kept, None, ["something was mended"])
    assert one.seconds == pytest.approx(kept.seconds) and one.remarks == ("something was mended",)
    again = recordings.picture(database, one.id)
    assert np.array_equal(again.levels, kept.levels)
    assert sorted(again.notes, key=lambda note: note.time_s) == sorted(kept.notes, key=lambda note: note.time_s)
    written = recordings.write_note(database, one.id, Note(2.0, 3.0, "  later  "))
    assert written.note.text == "later"
    recordings.remove_note(database, one.id, written.id)
    assert len(recordings.notes(database, one.id)) == 2
    recordings.remove(database, one.id)
    assert recordings.every(database) == []
    assert database.connection().execute("SELECT count(*) FROM recording_note").fetchone()[0] == 0
    for act in (recordings.get, recordings.picture, recordings.remove):
        with pytest.raises(NotFound):
            act(database, one.id)


def test_a_recording_may_hold_so_many_notes_and_no_more(database, kept, monkeypatch):
    one = recordings.add(database, replace(kept, notes=()), None, [])
    monkeypatch.setattr(recordings, "MOST_NOTES", 2)
    for k in range(2):
        recordings.write_note(database, one.id, Note(float(k), 0.0, "x"))
    with pytest.raises(InputError, match="notes has 2"):
        recordings.write_note(database, one.id, Note(3.0, 0.0, "x"))


def test_the_tape_is_five_minutes_long():
    settings = Settings(20.0, TRAIL_UNIT.ranges_m[1])
    run = BenchRun(Scene(4.0, "sand", 0.3, 0.4), TRAIL_UNIT, settings, Lure("jig", 0.005), np.random.default_rng(3))
    tape = Tape()
    with pytest.raises(InputError, match="nothing has been shown"):
        tape.recording("x", run, BEGUN)
    frame = run.advance()
    for _ in range(7000):
        tape.add(frame)
    assert len(tape._frames) == 6000


# -- files that end in a sentence, whatever is wrong with them --------------------------------------------------------


def beam_file(shape, data=None, *, time=None, title=b"A file", dtype="i1", chunks=None, **compression) -> bytes:
    """A file of the convention from elsewhere, as small as it can be."""

    def make(file: h5py.File) -> None:
        file.attrs["sonar_convention_name"] = "SONAR-netCDF4"
        file.attrs["title"] = np.bytes_(title)
        beam = file.create_group("Sonar/Beam_group1")
        sound = beam.create_dataset(
            "backscatter_r", shape=shape, dtype=dtype, data=data, chunks=chunks or True, **compression
        )
        sound.attrs["units"] = "dB"
        pings = shape[0]
        at = np.arange(pings) * 50_000_000 if time is None else time
        stamp = beam.create_dataset("ping_time", data=at)
        stamp.attrs["units"] = "nanoseconds since 1970-01-01" if time is None else "seconds"
        beam.create_dataset("sample_interval", data=np.full(pings, 2e-5))

    return hostile(make)


def test_cells_are_counted_as_they_are_unpacked():
    """Half a megabyte of noughts is a gigabyte unpacked: refused by its claim, with no memory taken."""
    content = beam_file((12_000, 20, 2_000), chunks=(500, 20, 100), compression="gzip", fillvalue=-60)
    assert len(content) < 600_000
    recording_nc.read(foreign())
    tracemalloc.start()
    try:
        with pytest.raises(InputError, match=r"12000 x 20 x 2000 cells|claims 480000000 bytes"):
            recording_nc.read(content)
        _, most = tracemalloc.get_traced_memory()
    finally:
        tracemalloc.stop()
    assert most < 20e6


def test_a_large_file_is_read_a_stretch_at_a_time_and_in_single_precision():
    """Forty million cells of a byte: the picture that is kept of them and one stretch, never eight bytes a cell."""
    pings, samples = 20_000, 2_000
    content = beam_file((pings, samples), compression="gzip", chunks=(250, samples), fillvalue=-70,
                        time=np.arange(pings) * 0.05)  # fmt: skip
    recording_nc.read(foreign())
    tracemalloc.start()
    try:
        back, _ = recording_nc.read(content)
        _, most = tracemalloc.get_traced_memory()
    finally:
        tracemalloc.stop()
    assert back.levels.shape == (pings, 360)
    assert most < 4 * pings * samples  # float64 of all of it would be eight times


def test_the_strongest_sample_of_each_row_is_kept():
    data = np.full((40, 720), -90, dtype=np.int8)
    data[:, 300] = -20
    data[::2, 301] = -10
    back, _ = recording_nc.read(beam_file(data.shape, data))
    assert back.levels.shape == (40, 360)
    assert (back.levels[:, 150] == back.levels.max()).all()
    assert back.levels[:, 149].max() < back.levels[:, 150].min()


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (lambda: beam_file((40, 64), time=np.linspace(0, 1e300, 40)), "time_s runs to 1e.300"),
        (lambda: beam_file((40, 64), time=np.full(40, np.nan)), "fewer than 2 pings"),
        (lambda: beam_file((30_000, 160), chunks=(1, 1)), "is in 4800000 chunks"),
        (lambda: beam_file((2, 8)), "16 samples or more"),
    ],
)
def test_times_and_shapes_that_no_recording_has(content, words):
    with pytest.raises(InputError, match=words):
        recording_nc.read(content())


def test_a_title_that_is_no_text_is_taken_as_far_as_it_is():
    """Bytes that are no UTF-8 must not poison what is kept: no such letter may reach the store or a page."""
    back, _ = recording_nc.read(beam_file((40, 64), title=b"ice \xff\xfe\x00 hole"))
    assert back.name.startswith("ice")
    assert back.name.encode("utf-8")
    assert back.name.isprintable()


@pytest.mark.parametrize("year", ["0001-01-01T00:00:00Z", "9999-12-31T23:59:59Z", "1677-01-01T00:00:00+14:00"])
def test_years_that_nanoseconds_do_not_reach_go_out_and_come_back(kept, year):
    old = replace(kept, started_at=year)
    for one in (recording_nc, recording_csv):
        back, _ = one.read(one.write(old))
        assert back.started_at == year
        assert np.allclose(back.time_s, old.time_s)


def test_times_of_any_size_in_a_csv_are_named(kept):
    text = recording_csv.write(kept).decode()
    _, _, body = text.partition("levels\n")
    first = body.split("\n", 1)[0]
    mad = text.replace(first, "-1e300" + first[first.index(",") :])
    with pytest.raises(InputError, match="time_s runs to 1e"):
        recording_csv.read(mad.encode())


@examples(60)
@given(at=st.lists(st.tuples(st.floats(0, 1, exclude_max=True), st.integers(0, 255)), min_size=1, max_size=40))
def test_flipped_bytes_end_in_a_sentence(at):
    """A good file with bytes of it changed is read, or refused in words: never anything else."""
    content = bytearray(GOOD)
    for share, value in at:
        content[int(share * len(content))] = value
    try:
        recording_nc.read(bytes(content))
    except InputError:
        return  # in words, as every InputError is


GOOD = recording_nc.write(bench_recording(40))
