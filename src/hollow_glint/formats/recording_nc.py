"""Recordings as netCDF-4 in the ICES SONAR-netCDF4 convention, as far as it fits a picture of one beam.

The groups and names of the convention (ICES CRR 341, version 1; from memory) hold what a general reader wants: times,
range samples and a backscatter variable. What only a picture has (colour levels, windows, line, settings) stands beside
it under Vendor_specific. See docs/recording-file.md.
"""

from __future__ import annotations

import io
from datetime import UTC, datetime
from typing import Any

import numpy as np

from ..core.acoustics import water
from ..core.checks import InputError
from ..core.reader.recording import Recording, bounded
from ..core.reader.sizing import level_thresholds
from . import recording_fields as said
from .netcdf_guard import array_of, check_file, printable, scalar_of, text_of
from .recording_foreign import BEAM, CONVENTION, NEVER_DB, frequency_of, read_foreign

VERSION = "1.0"
OURS = "Vendor_specific"
MOST_NANOSECONDS = 2**62  # since 1970: the year 2116, clear of what 64 bits hold


def write(recording: Recording) -> bytes:
    """The file's bytes. Opens in xarray, group by group."""
    import h5netcdf  # only here: it takes a third of a second to come in

    target = io.BytesIO()
    pings, rows = recording.levels.shape
    with h5netcdf.File(target, "w") as file:
        file.attrs["Conventions"] = "CF-1.7, SONAR-netCDF4-1.0"
        file.attrs["sonar_convention_name"] = CONVENTION
        file.attrs["sonar_convention_version"] = VERSION
        file.attrs["title"] = recording.name
        file.attrs["date_created"] = recording.started_at
        file.attrs["keywords"] = "ice fishing, single-beam echosounder, picture levels"
        environment = file.create_group("Environment")
        speed = float(water.sound_speed(recording.temperature_c))
        _put(environment, "sound_speed_indicative", (), np.float64(speed), units="m s-1")
        _put(environment, "temperature", (), np.float64(recording.temperature_c), units="degree_C")
        platform = file.create_group("Platform")
        _put(platform, "transducer_offset_z", (), np.float64(recording.face_depth_m), units="m",
             long_name="depth of the transducer's face below the water's surface")  # fmt: skip
        sonar = file.create_group("Sonar")
        sonar.attrs["sonar_model"] = recording.unit.name
        sonar.attrs["sonar_software_name"] = "Hollow Glint"
        beam = file.create_group(BEAM)
        beam.dimensions = {"ping_time": pings, "beam": 1, "range_sample": rows}
        settings = recording.settings[0][1]
        used, pulse = recording.unit.beams[settings.beam], recording.unit.pulses[settings.pulse]
        _put(beam, "ping_time", ("ping_time",), _nanoseconds(recording), calendar="proleptic_gregorian",
             units="nanoseconds since 1970-01-01 00:00:00", long_name="time-stamp of each ping")  # fmt: skip
        _put(beam, "range_sample", ("range_sample",), np.arange(rows, dtype=np.int32), long_name="picture row")
        _put(beam, "frequency", ("beam",), np.array([used.frequency_hz]), units="Hz")
        _put(beam, "beamwidth_receive_major", ("beam",), np.array([used.width_deg]), units="arc_degree")
        _put(beam, "transmit_duration_nominal", ("ping_time",), np.full(pings, pulse.duration_s), units="s")
        _put(beam, "sample_interval", ("ping_time",), 2.0 * (recording.bottom_m - recording.top_m) / rows / speed,
             units="s")  # fmt: skip
        _put(beam, "sample_time_offset", ("ping_time",), 2.0 * recording.top_m / speed, units="s")
        _put(beam, "backscatter_r", ("ping_time", "beam", "range_sample"), _backscatter(recording)[:, None, :],
             units="dB", long_name="echo level at which the painted colour begins, dB re 1 uPa",
             missing=np.float32(NEVER_DB), compressed=True)  # fmt: skip
        ours = file.create_group(OURS)
        ours.dimensions = {"ping_time": pings, "row": rows}
        ours.attrs["about"] = "What was on the screen: see docs/recording-file.md"
        ours.attrs["unit"] = said.unit_text(recording)
        ours.attrs["lure"] = said.lure_text(recording)
        ours.attrs["settings"] = said.settings_text(recording)
        _put(ours, "level", ("ping_time", "row"), recording.levels, long_name="step of the colour ladder, 0 dark",
             compressed=True)  # fmt: skip
        _put(ours, "time", ("ping_time",), recording.time_s, long_name="from the start, in seconds")
        _put(ours, "top", ("ping_time",), recording.top_m, units="m")
        _put(ours, "bottom", ("ping_time",), recording.bottom_m, units="m")
        _put(ours, "line_in", ("ping_time",), recording.line_in_m, units="m")
        annotation = file.create_group("Annotation")
        annotation.attrs["notes"] = said.notes_text(recording)
    return target.getvalue()


def _put(group: Any, name: str, dimensions: tuple[str, ...], data: Any, compressed: bool = False, **attrs: Any) -> None:
    more = {"compression": "gzip", "shuffle": True} if compressed else {}
    variable = group.create_variable(name, dimensions, data=data, **more)
    for key, value in attrs.items():
        variable.attrs["missing_value" if key == "missing" else key] = value


def _nanoseconds(recording: Recording) -> np.ndarray[Any, np.dtype[np.int64]]:
    """When each ping was [ns since 1970], the start taken as 1970 when nobody knows it."""
    try:
        begun = datetime.fromisoformat(recording.started_at.replace("Z", "+00:00"))
        start = int(begun.replace(tzinfo=begun.tzinfo or UTC).timestamp()) * 1_000_000_000
    except ValueError:
        start = 0
    if abs(start) > MOST_NANOSECONDS:  # a year that nanoseconds do not reach; date_created still says it
        start = 0
    return start + np.round(recording.time_s * 1e9).astype(np.int64)


def _backscatter(recording: Recording) -> np.ndarray[Any, np.dtype[np.float32]]:
    """Echo level [dB re 1 uPa] at which each painted colour begins, (pings, rows); dark is NEVER_DB."""
    out = np.full(recording.levels.shape, NEVER_DB, dtype=np.float32)
    ends = [at for at, _ in recording.settings[1:]] + [recording.time_s.size]
    for (at, settings), end in zip(recording.settings, ends, strict=True):
        unit = recording.unit
        zero = unit.gain.first_colour_db - unit.gain.decibels(settings.gain)
        begins = np.append(NEVER_DB, level_thresholds(unit, unit.ladders[settings.ladder]) + zero)
        out[at:end] = begins.astype(np.float32)[np.minimum(recording.levels[at:end], begins.size - 1)]
    return out


def read(content: bytes) -> tuple[Recording, list[str]]:
    """The recording that a file holds and what was repaired in it, or ValueError with a sentence.

    Sizes are checked from the header before any array is read, and nothing outside the file is followed.
    """
    import h5netcdf

    if len(content) > said.MOST_FILE_BYTES:
        raise InputError(f"the file has {len(content)} bytes: accepted are up to {said.MOST_FILE_BYTES}")
    try:
        check_file(content)
        with h5netcdf.File(io.BytesIO(content), "r", decode_vlen_strings=True, phony_dims="sort") as file:
            return _ours(file) if OURS in file.groups and "level" in file[OURS].variables else read_foreign(file)
    except InputError:
        raise
    except Exception as wrong:  # a hostile file can make the libraries below raise anything
        said_so = printable(str(wrong))[:160] or type(wrong).__name__
        raise InputError(f"the file cannot be read as netCDF-4: {said_so}") from None


def _ours(file: Any) -> tuple[Recording, list[str]]:
    repaired: list[str] = []
    ours = file[OURS]
    shape = ours.variables["level"].shape
    if len(shape) != 2:
        raise InputError(f"{OURS}/level has {len(shape)} dimensions: 2 are accepted")
    bounded(int(shape[0]), int(shape[1]))
    levels = array_of(ours, "level", OURS, 2)
    if levels.dtype.kind == "f":
        bad = ~np.isfinite(levels)
        if bad.any():
            repaired.append(f"level was not a number in {int(bad.sum())} cells: taken for dark")
            levels[bad] = 0
    if levels.size and (levels.min() < 0 or levels.max() > 32):
        raise InputError(f"{OURS}/level runs from {levels.min()} to {levels.max()}: accepted are 0 to 32")
    time_s = array_of(ours, "time", OURS)
    arrays = [levels.astype(np.uint8)] + [
        array_of(ours, name, OURS).astype(np.float64) for name in ("top", "bottom", "line_in")
    ]
    for name, one in zip(("level", "top", "bottom", "line_in"), arrays, strict=True):
        if one.shape[0] != time_s.size:
            raise InputError(f"{OURS}/{name} has {one.shape[0]} pings: {OURS}/time has {time_s.size}")
    before = time_s.size
    time_s, (levels, top, bottom, line) = said.mended(time_s, arrays, repaired)
    unit_text = text_of(ours.attrs, "unit")
    missing: list[str] = []
    if unit_text:
        unit = said.read_unit(unit_text)
        settings = said.read_settings(text_of(ours.attrs, "settings"))
        if time_s.size != before:  # ping numbers have moved: the first settings stand for all
            settings = ((0, settings[0][1]),)
    else:
        unit, one = said.fallback_unit(levels.shape[1], float(bottom.max()), frequency_of(file))
        settings = ((0, one),)
        missing.append("unit: the file has no profile, so a plain one of six colours, 6 dB each, stands for it")
    notes = said.read_notes(text_of(file["Annotation"].attrs, "notes", "[]")) if "Annotation" in file.groups else ()
    face = scalar_of(file, "Platform", "transducer_offset_z")
    if face is None:
        missing.append("face depth: taken as 0 m")
    recording = Recording(
        (text_of(file.attrs, "title") or "Recording")[:80], text_of(file.attrs, "date_created")[:40], unit, settings,
        time_s, levels, top, bottom, line, face or 0.0, scalar_of(file, "Environment", "temperature") or 0.0,
        said.read_lure(text_of(ours.attrs, "lure")), notes, tuple(missing),
    )  # fmt: skip
    return recording, repaired


def now() -> str:
    """The present moment as recordings write it: UTC as ISO 8601."""
    return datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
