"""What both recording formats say of a recording besides its pings, and how the arrays of either are mended."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ValidationError

from ..core.checks import InputError
from ..core.fields import from_fields
from ..core.gear.lures import Lure
from ..core.gear.profiles import TRAIL_UNIT
from ..core.gear.settings import Settings, smallest_range
from ..core.gear.unit import UnitProfile, unit_from_dict, unit_to_dict
from ..core.reader.recording import LONGEST_S, MOST_KNOB_CHANGES, Note, Recording
from .fields import LureFields, SettingsFields, UnitFields

MOST_FILE_BYTES = 32 * 1024 * 1024


def unit_text(recording: Recording) -> str:
    """The unit's profile as JSON."""
    return json.dumps(unit_to_dict(recording.unit), ensure_ascii=False)


def lure_text(recording: Recording) -> str:
    """The lure as JSON, empty without one."""
    return "" if recording.lure is None else json.dumps(asdict(recording.lure), ensure_ascii=False)


def settings_text(recording: Recording) -> str:
    """Where the knobs stood from which ping on, as JSON."""
    return json.dumps([{"ping": at, **asdict(one)} for at, one in recording.settings])


def notes_text(recording: Recording) -> str:
    """The notes as JSON."""
    return json.dumps([asdict(note) for note in recording.notes], ensure_ascii=False)


def _json(text: str, name: str) -> Any:
    try:
        return json.loads(text)
    except (ValueError, RecursionError) as wrong:
        raise InputError(f"{name} is not JSON: {wrong}") from None


def _meets(model: type[BaseModel], given: Any, name: str) -> dict[str, Any]:
    try:
        return model.model_validate(given).model_dump()
    except ValidationError as wrong:
        first = wrong.errors()[0]
        where = ".".join([name, *(str(part) for part in first["loc"])])
        raise InputError(f"{where} is {str(first['input'])[:40]!r}: {first['msg'].lower()}") from None


def read_unit(text: str) -> UnitProfile:
    """The unit of a file, or ValueError."""
    return unit_from_dict(_meets(UnitFields, _json(text, "unit"), "unit"))


def read_lure(text: str) -> Lure | None:
    """The lure of a file, None for an empty text, or ValueError."""
    return from_fields(Lure, _meets(LureFields, _json(text, "lure"), "lure"), "the lure") if text else None


def read_settings(text: str) -> tuple[tuple[int, Settings], ...]:
    """The settings of a file, or ValueError."""
    given = _json(text, "settings")
    most = MOST_KNOB_CHANGES + 1
    if not isinstance(given, list) or not 1 <= len(given) <= most or not all(isinstance(one, dict) for one in given):
        raise InputError(f"settings: a list of 1 to {most} objects is accepted")
    out = []
    for one in given:
        at = one.pop("ping", None)
        if isinstance(at, bool) or not isinstance(at, int):
            raise InputError(f"settings.ping is {at!r}: a whole number is accepted")
        out.append((at, from_fields(Settings, _meets(SettingsFields, one, "settings"), "the settings")))
    return tuple(sorted(out, key=lambda pair: pair[0]))


def read_notes(text: str) -> tuple[Note, ...]:
    """The notes of a file, or ValueError."""
    given = _json(text, "notes")
    if not isinstance(given, list) or not all(isinstance(one, dict) for one in given):
        raise InputError("notes: a list of objects is accepted")
    return tuple(from_fields(Note, one, "a note") for one in given)


def fallback_unit(rows: int, range_m: float, frequency_hz: float | None) -> tuple[UnitProfile, Settings]:
    """A plain unit for a recording that says nothing of its own: one beam, six colours of 6 dB."""
    beam = TRAIL_UNIT.beams[0]
    if frequency_hz is not None and 20e3 <= frequency_hz <= 1e6:
        beam = type(beam)(f"{frequency_hz / 1e3:g} kHz", frequency_hz, beam.width_deg)
    unit = type(TRAIL_UNIT)(
        name="Unit not told", beams=(beam,), powers_w=TRAIL_UNIT.powers_w, pulses=TRAIL_UNIT.pulses,
        gain=TRAIL_UNIT.gain, ranges_m=(min(max(range_m, 1.0), 150.0),), rows=rows,
    )  # fmt: skip
    return unit, Settings(TRAIL_UNIT.gain.minimum, smallest_range(unit, 0.0)).checked(unit)


def mended(
    time_s: NDArray[Any], pings: list[NDArray[Any]], repaired: list[str]
) -> tuple[NDArray[Any], list[NDArray[Any]]]:
    """Times and what goes with each ping, with pings left out whose time is no number or runs backwards, and said."""
    time_s = np.asarray(time_s, dtype=np.float64)
    good = np.isfinite(time_s)
    if not good.all():
        repaired.append(f"time_s was not a number in {int((~good).sum())} pings: left out")
    running = np.where(good, time_s, -np.inf)
    latest = np.maximum.accumulate(running)
    forward = good & (running > np.concatenate([[-np.inf], latest[:-1]]))
    back = int((good & ~forward).sum())
    if back:
        repaired.append(f"time_s ran backwards or stood still in {back} pings: left out")
    if int(forward.sum()) < 2:
        raise InputError("time_s: fewer than 2 pings have times that rise")
    last = float(np.abs(time_s[forward]).max())
    if last > LONGEST_S:
        raise InputError(f"time_s runs to {last:g} s: accepted are up to {LONGEST_S:g} s")
    kept = [one[forward] for one in pings]
    return time_s[forward], kept
