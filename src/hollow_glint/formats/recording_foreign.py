"""Recordings from elsewhere in the ICES SONAR-netCDF4 convention: what one beam shows, and what is missing, said."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator
from typing import Any

import numpy as np

from ..core.acoustics import water
from ..core.checks import InputError
from ..core.reader.recording import MOST_CELLS, MOST_PINGS, Recording
from . import recording_fields as said
from .netcdf_guard import array_of, few_of, scalar_of, text_of

CONVENTION = "SONAR-netCDF4"
BEAM = "Sonar/Beam_group1"
NEVER_DB = -999.0  # the fill value of backscatter where the picture is dark
FOREIGN_ROWS = 360


def frequency_of(file: Any) -> float | None:
    return scalar_of(file, BEAM, "frequency")


def read_foreign(file: Any) -> tuple[Recording, list[str]]:
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
    unit, settings = said.fallback_unit(rows, float(np.nanmax(bottom)), frequency_of(file))
    # The first colour at what one cell in fifty of the quieter half reaches: as a hand would set the gain.
    lit = pooled[pooled > NEVER_DB + 1.0]
    zero = float(np.percentile(lit, 75.0)) if lit.size else 0.0
    levels = np.clip(np.floor((pooled - zero) / unit.colour_step_db) + 1.0, 0.0, 6.0).astype(np.uint8)
    missing += [
        "unit: not told, so a plain one of six colours, 6 dB each, stands for it; sizes of fish are not to be trusted",
        "line and rod: not recorded, so the lure can only be told by its steadiness",
    ]
    face = scalar_of(file, "Platform", "transducer_offset_z")
    if face is None or not 0.0 <= face <= 5.0:
        missing.append("face depth: not told, taken as 0 m")
        face = 0.0
    time_s, (levels, top, bottom) = said.mended(time_s, [levels, top, bottom], repaired)
    name = text_of(file.attrs, "title").strip() or "Recording from elsewhere"
    line = np.zeros(time_s.size)
    recording = Recording(
        name[:80], text_of(file.attrs, "date_created")[:40], unit, ((0, settings),), time_s, levels, top, bottom, line,
        face, missing=tuple(missing),
    )  # fmt: skip
    return recording, repaired


def _beam_of(file: Any, missing: list[str]) -> Any:
    """The group of the first beam, with backscatter of a size that is read."""
    convention = text_of(file.attrs, "sonar_convention_name") + " " + text_of(file.attrs, "Conventions")
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
    linear = text_of(variable.attrs, "units", "dB").lower() not in ("db", "db re 1 upa")
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
    speed = scalar_of(file, "Environment", "sound_speed_indicative")
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
    value = few_of(beam.variables[name], name)
    return np.full(pings, value[0]) if value.size == 1 else value[:pings] if value.size >= pings else None


def _times(beam: Any, missing: list[str]) -> np.ndarray[Any, np.dtype[np.float64]]:
    """Times of the pings [s], whatever unit they are in; the convention has nanoseconds since 1601 or 1970."""
    time = array_of(beam, "ping_time", BEAM).astype(np.float64)
    unit = text_of(beam.variables["ping_time"].attrs, "units").lower()
    scale = next((by for word, by in (("nanosec", 1e-9), ("microsec", 1e-6), ("millisec", 1e-3), ("sec", 1.0))
                  if word in unit), None)  # fmt: skip
    if scale is None:
        missing.append("unit of time: not told, taken as seconds")
        scale = 1.0
    finite = time[np.isfinite(time)]
    return (time - (finite[0] if finite.size else 0.0)) * scale
