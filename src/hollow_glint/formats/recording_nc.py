"""Recordings as netCDF-4 in the ICES SONAR-netCDF4 convention, as far as it fits a picture of one beam.

The groups and names of the convention (ICES CRR 341, version 1; from memory) hold what a general reader wants: times,
range samples and a backscatter variable. What only a picture has (colour levels, windows, line, settings) stands beside
it under Vendor_specific. See docs/recording-file.md.
"""

from __future__ import annotations

import io
import itertools
import math
from collections.abc import Iterator
from datetime import UTC, datetime
from typing import Any

import numpy as np

from ..core.acoustics import water
from ..core.checks import InputError
from ..core.reader.recording import MOST_CELLS, MOST_PINGS, Recording, bounded
from ..core.reader.sizing import level_thresholds
from . import recording_fields as said

CONVENTION = "SONAR-netCDF4"
VERSION = "1.0"
BEAM = "Sonar/Beam_group1"
OURS = "Vendor_specific"
NEVER_DB = -999.0  # the fill value of backscatter where the picture is dark
FOREIGN_ROWS = 360
MOST_ARRAY_BYTES = 4 * MOST_CELLS  # in single precision, as backscatter is
MOST_CHUNKS = 200_000  # each is looked up by itself, even where nothing was written
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
        _hostile(content)
        with h5netcdf.File(io.BytesIO(content), "r", decode_vlen_strings=True, phony_dims="sort") as file:
            return _ours(file) if OURS in file.groups and "level" in file[OURS].variables else _foreign(file)
    except InputError:
        raise
    except Exception as wrong:  # a hostile file can make the libraries below raise anything
        said_so = printable(str(wrong))[:160] or type(wrong).__name__
        raise InputError(f"the file cannot be read as netCDF-4: {said_so}") from None


def _hostile(content: bytes) -> None:
    """Refuse links out of the file, data kept outside it, and arrays or chunks that claim more than they may."""
    import h5py

    with h5py.File(io.BytesIO(content), "r") as file:
        waiting, seen = [("", file)], 0
        while waiting:
            path, group = waiting.pop()
            for name in group:
                seen += 1
                if seen > 500:
                    raise InputError("the file has more than 500 variables and groups: fewer are accepted")
                where = f"{path}/{name}"
                if not isinstance(group.get(name, getlink=True), h5py.HardLink):
                    raise InputError(f"{where} is a link out of its place: only data in the file itself is accepted")
                item = group[name]
                if isinstance(item, h5py.Group):
                    if where.count("/") > 8:
                        raise InputError(f"{where} is nested too deeply")
                    waiting.append((where, item))
                elif isinstance(item, h5py.Dataset):
                    if item.external or item.is_virtual:
                        raise InputError(f"{where} keeps its data outside the file: that is not followed")
                    _check_size(where, item.shape or (), item.dtype.itemsize)
                    if item.chunks:
                        _check_size(f"{where}, one chunk,", item.chunks, item.dtype.itemsize)
                        chunks = math.prod(-(-n // of) for n, of in zip(item.shape, item.chunks, strict=True))
                        if chunks > MOST_CHUNKS:
                            raise InputError(f"{where} is in {chunks} chunks: accepted are up to {MOST_CHUNKS}")


def _check_size(where: str, shape: tuple[int, ...], itemsize: int) -> None:
    claimed = itemsize
    for one in shape:
        claimed *= int(one)
    if claimed > MOST_ARRAY_BYTES:
        raise InputError(f"{where} claims {claimed} bytes: accepted are up to {MOST_ARRAY_BYTES}")


def _array(group: Any, name: str, where: str, dimensions: int = 1) -> np.ndarray[Any, Any]:
    if name not in group.variables:
        raise InputError(f"{where}/{name} is missing")
    variable = group.variables[name]
    if variable.dtype.kind not in "iuf":
        raise InputError(f"{where}/{name} holds {variable.dtype}: numbers are accepted")
    if len(variable.shape) != dimensions:
        raise InputError(f"{where}/{name} has {len(variable.shape)} dimensions: {dimensions} are accepted")
    if variable.shape[0] > MOST_PINGS:
        raise InputError(f"{where}/{name} claims {variable.shape[0]} pings: accepted are up to {MOST_PINGS}")
    return np.asarray(variable[...])


def _text(attrs: Any, name: str, otherwise: str = "") -> str:
    value = attrs.get(name, otherwise)
    if isinstance(value, bytes):
        value = value.decode("utf-8", "replace")
    return printable(value) if isinstance(value, str) else otherwise


def printable(text: str) -> str:
    """The text without what cannot be shown: control characters, and bytes that were no UTF-8."""
    return "".join(one for one in text if one.isprintable() or one in "\n\t")


def _few(variable: Any, name: str) -> np.ndarray[Any, np.dtype[np.float64]]:
    """A variable of at most a number a ping, in one dimension."""
    if variable.dtype.kind not in "iuf":
        raise InputError(f"{name} holds {variable.dtype}: numbers are accepted")
    if math.prod(variable.shape) > MOST_PINGS:
        raise InputError(f"{name} claims {math.prod(variable.shape)} numbers: accepted are up to {MOST_PINGS}")
    return np.asarray(variable[...], dtype=np.float64).ravel()


def _scalar(file: Any, group: str, name: str) -> float | None:
    if group not in file or name not in file[group].variables:
        return None
    value = _few(file[group].variables[name], name)
    return float(value[0]) if value.size and np.isfinite(value[0]) else None


def _ours(file: Any) -> tuple[Recording, list[str]]:
    repaired: list[str] = []
    ours = file[OURS]
    shape = ours.variables["level"].shape
    if len(shape) != 2:
        raise InputError(f"{OURS}/level has {len(shape)} dimensions: 2 are accepted")
    bounded(int(shape[0]), int(shape[1]))
    levels = _array(ours, "level", OURS, 2)
    if levels.dtype.kind == "f":
        bad = ~np.isfinite(levels)
        if bad.any():
            repaired.append(f"level was not a number in {int(bad.sum())} cells: taken for dark")
            levels[bad] = 0
    if levels.size and (levels.min() < 0 or levels.max() > 32):
        raise InputError(f"{OURS}/level runs from {levels.min()} to {levels.max()}: accepted are 0 to 32")
    time_s = _array(ours, "time", OURS)
    arrays = [levels.astype(np.uint8)] + [
        _array(ours, name, OURS).astype(np.float64) for name in ("top", "bottom", "line_in")
    ]
    for name, one in zip(("level", "top", "bottom", "line_in"), arrays, strict=True):
        if one.shape[0] != time_s.size:
            raise InputError(f"{OURS}/{name} has {one.shape[0]} pings: {OURS}/time has {time_s.size}")
    before = time_s.size
    time_s, (levels, top, bottom, line) = said.mended(time_s, arrays, repaired)
    unit_text = _text(ours.attrs, "unit")
    missing: list[str] = []
    if unit_text:
        unit = said.read_unit(unit_text)
        settings = said.read_settings(_text(ours.attrs, "settings"))
        if time_s.size != before:  # ping numbers have moved: the first settings stand for all
            settings = ((0, settings[0][1]),)
    else:
        unit, one = said.fallback_unit(levels.shape[1], float(bottom.max()), _frequency(file))
        settings = ((0, one),)
        missing.append("unit: the file has no profile, so a plain one of six colours, 6 dB each, stands for it")
    notes = said.read_notes(_text(file["Annotation"].attrs, "notes", "[]")) if "Annotation" in file.groups else ()
    face = _scalar(file, "Platform", "transducer_offset_z")
    if face is None:
        missing.append("face depth: taken as 0 m")
    recording = Recording(
        (_text(file.attrs, "title") or "Recording")[:80], _text(file.attrs, "date_created")[:40], unit, settings,
        time_s, levels, top, bottom, line, face or 0.0, _scalar(file, "Environment", "temperature") or 0.0,
        said.read_lure(_text(ours.attrs, "lure")), notes, tuple(missing),
    )  # fmt: skip
    return recording, repaired


def _frequency(file: Any) -> float | None:
    return _scalar(file, BEAM, "frequency")


def _foreign(file: Any) -> tuple[Recording, list[str]]:
    """Another program's file in the convention: its backscatter becomes colours, and what it does not say is said."""
    repaired: list[str] = []
    missing: list[str] = []
    beam = _beam_of(file, missing)
    pooled, samples = _pooled(beam, missing, repaired)
    pings, rows = pooled.shape
    top, bottom = _shown(file, beam, pings, samples, missing)
    time_s = _times(beam, missing)
    if time_s.size != pings:
        raise InputError(f"{BEAM}/ping_time has {time_s.size} pings: backscatter_r has {pings}")
    unit, settings = said.fallback_unit(rows, float(np.nanmax(bottom)), _frequency(file))
    # The first colour at what one cell in fifty of the quieter half reaches: as a hand would set the gain.
    lit = pooled[pooled > NEVER_DB + 1.0]
    zero = float(np.percentile(lit, 75.0)) if lit.size else 0.0
    levels = np.clip(np.floor((pooled - zero) / unit.colour_step_db) + 1.0, 0.0, 6.0).astype(np.uint8)
    missing += [
        "unit: not told, so a plain one of six colours, 6 dB each, stands for it; sizes of fish are not to be trusted",
        "line and rod: not recorded, so the lure can only be told by its steadiness",
    ]
    face = _scalar(file, "Platform", "transducer_offset_z")
    if face is None or not 0.0 <= face <= 5.0:
        missing.append("face depth: not told, taken as 0 m")
        face = 0.0
    time_s, (levels, top, bottom) = said.mended(time_s, [levels, top, bottom], repaired)
    name = _text(file.attrs, "title").strip() or "Recording from elsewhere"
    line = np.zeros(time_s.size)
    recording = Recording(
        name[:80], _text(file.attrs, "date_created")[:40], unit, ((0, settings),), time_s, levels, top, bottom, line,
        face, missing=tuple(missing),
    )  # fmt: skip
    return recording, repaired


def _beam_of(file: Any, missing: list[str]) -> Any:
    """The group of the first beam, with backscatter of a size that is read."""
    convention = _text(file.attrs, "sonar_convention_name") + " " + _text(file.attrs, "Conventions")
    if BEAM not in file:
        raise InputError(
            f"the file says it follows {convention.strip()[:60] or 'no convention'!r} and has no group {BEAM}: "
            f"{CONVENTION} with one beam group is accepted"
        )
    if CONVENTION.lower() not in convention.lower():
        missing.append(f"convention: the file does not say {CONVENTION}; it is read as if it did")
    beam = file[BEAM]
    if "backscatter_r" not in beam.variables:
        raise InputError(f"{BEAM}/backscatter_r is missing")
    variable = beam.variables["backscatter_r"]
    shape = tuple(int(one) for one in variable.shape)
    if len(shape) not in (2, 3) or variable.dtype.kind not in "iuf":
        raise InputError(
            f"{BEAM}/backscatter_r has shape {shape} of {variable.dtype}: numbers by ping and range sample are accepted"
        )
    pings, samples = shape[0], shape[-1]
    # Counted as they are unpacked, all beams of them: a file of nothing but noughts is small until it is read.
    if not 2 <= pings <= MOST_PINGS or samples < 16 or math.prod(shape) > MOST_CELLS:
        raise InputError(
            f"{BEAM}/backscatter_r claims {' x '.join(map(str, shape))} cells: accepted are 2 to {MOST_PINGS} pings of "
            f"16 samples or more, up to {MOST_CELLS} cells in all"
        )
    if len(shape) == 3 and shape[1] > 1:
        missing.append(f"beams: the file has {shape[1]}; the first is read")
    return beam


def _pooled(beam: Any, missing: list[str], repaired: list[str]) -> tuple[np.ndarray[Any, np.dtype[np.float32]], int]:
    """Backscatter of the first beam [dB] in at most FOREIGN_ROWS rows, the strongest sample in each; and how many
    samples there were. Read a stretch at a time and in single precision, so that memory holds one stretch and the
    picture."""
    variable = beam.variables["backscatter_r"]
    pings, samples = int(variable.shape[0]), int(variable.shape[-1])
    linear = _text(variable.attrs, "units", "dB").lower() not in ("db", "db re 1 upa")
    rows = min(samples, FOREIGN_ROWS)
    edges = np.linspace(0, samples, rows + 1).astype(int)[:-1]
    out = np.empty((pings, rows), dtype=np.float32)
    silent = 0
    for first, last in _stretches(variable, pings):
        raw = variable[first:last] if len(variable.shape) == 2 else variable[first:last, 0, :]
        data = np.asarray(raw).astype(np.float32)
        bad = ~np.isfinite(data)
        silent += int(bad.sum())
        if linear:
            np.log10(np.maximum(np.where(bad, np.float32(0.0), data), np.float32(1e-20)), out=data)
            data *= np.float32(10.0)
        data[bad] = NEVER_DB
        np.maximum.reduceat(data, edges, axis=1, out=out[first:last])
    if silent:
        repaired.append(f"backscatter_r was not a number in {silent} cells: taken for silence")
    return out, samples


def _stretches(variable: Any, pings: int) -> Iterator[tuple[int, int]]:
    """Stretches of pings of about a million cells, each of whole chunks, so that none is unpacked twice."""
    chunk = int(variable.chunks[0]) if variable.chunks else 1
    cells = max(math.prod(variable.shape[1:]), 1)
    step = max(2**20 // cells // chunk, 1) * chunk
    yield from itertools.pairwise([*range(0, pings, step), pings])


def _shown(
    file: Any, beam: Any, pings: int, samples: int, missing: list[str]
) -> tuple[np.ndarray[Any, np.dtype[np.float64]], np.ndarray[Any, np.dtype[np.float64]]]:
    """The water that each ping shows [m from the face]: from where, to where."""
    interval = _per_ping(beam, "sample_interval", pings)
    if interval is None:
        raise InputError(f"{BEAM}/sample_interval is missing: without it no depth can be told")
    speed = _scalar(file, "Environment", "sound_speed_indicative")
    if speed is None:
        speed = float(water.sound_speed(1.0))
        missing.append(f"sound speed: taken as {speed:.0f} m/s, fresh water at 1 degree C")
    offset = _per_ping(beam, "sample_time_offset", pings)
    top = np.zeros(pings) if offset is None else 0.5 * speed * offset
    bottom = top + 0.5 * speed * interval * samples
    for name, one in (("sample_time_offset", top), ("sample_interval", bottom)):
        if not np.isfinite(one).all() or float(np.abs(one).max()) > 1e6:
            raise InputError(f"{BEAM}/{name} shows water that no picture has: numbers of seconds are accepted")
    return top, bottom


def _per_ping(beam: Any, name: str, pings: int) -> np.ndarray[Any, np.dtype[np.float64]] | None:
    if name not in beam.variables:
        return None
    value = _few(beam.variables[name], name)
    return np.full(pings, value[0]) if value.size == 1 else value[:pings] if value.size >= pings else None


def _times(beam: Any, missing: list[str]) -> np.ndarray[Any, np.dtype[np.float64]]:
    """Times of the pings [s], whatever unit they are in; the convention has nanoseconds since 1601 or 1970."""
    time = _array(beam, "ping_time", BEAM).astype(np.float64)
    unit = _text(beam.variables["ping_time"].attrs, "units").lower()
    scale = next((by for word, by in (("nanosec", 1e-9), ("microsec", 1e-6), ("millisec", 1e-3), ("sec", 1.0))
                  if word in unit), None)  # fmt: skip
    if scale is None:
        missing.append("unit of time: not told, taken as seconds")
        scale = 1.0
    finite = time[np.isfinite(time)]
    return (time - (finite[0] if finite.size else 0.0)) * scale


def now() -> str:
    """The present moment as recordings write it: UTC as ISO 8601."""
    return datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
