"""Recordings as CSV: a header of `# name: value` lines, then a line a ping. See docs/recording-file.md."""

from __future__ import annotations

import csv
import io

import numpy as np

from ..core.checks import InputError
from ..core.reader.recording import Recording, bounded
from . import recording_fields as said

MARK = "# hollow_glint_recording: 1"
COLUMNS = ("time_s", "top_m", "bottom_m", "line_in_m", "levels")
DIGITS = "0123456789abcdefghijklmnopqrstuvw"  # one character a row: levels up to 32
VALUE = {digit: value for value, digit in enumerate(DIGITS)}


def write(recording: Recording) -> bytes:
    """The file's bytes, UTF-8."""
    out = io.StringIO()
    head = {
        "name": recording.name, "started_at": recording.started_at, "face_depth_m": repr(recording.face_depth_m),
        "temperature_c": repr(recording.temperature_c), "unit": said.unit_text(recording),
        "lure": said.lure_text(recording), "settings": said.settings_text(recording),
        "notes": said.notes_text(recording),
    }  # fmt: skip
    out.write(MARK + "\n")
    for key, value in head.items():
        out.write(f"# {key}: {value}\n")
    out.write(",".join(COLUMNS) + "\n")
    digits = np.array(list(DIGITS))
    for k in range(recording.time_s.size):
        numbers = (recording.time_s[k], recording.top_m[k], recording.bottom_m[k], recording.line_in_m[k])
        out.write(",".join(repr(float(one)) for one in numbers) + "," + "".join(digits[recording.levels[k]]) + "\n")
    return out.getvalue().encode()


@np.errstate(over="ignore", invalid="ignore")
def read(content: bytes) -> tuple[Recording, list[str]]:
    """The recording that a file holds and what was repaired in it, or ValueError with the line at fault."""
    if len(content) > said.MOST_FILE_BYTES:
        raise InputError(f"the file has {len(content)} bytes: accepted are up to {said.MOST_FILE_BYTES}")
    try:
        lines = content.decode("utf-8").splitlines()
    except UnicodeDecodeError as wrong:
        raise InputError(f"the file is not UTF-8 text at byte {wrong.start}") from None
    if not lines or lines[0].strip() != MARK:
        raise InputError(f"line 1: this is not a recording: it should begin with {MARK!r}")
    head: dict[str, str] = {}
    at = 1
    while at < len(lines) and lines[at].startswith("#"):
        key, colon, value = lines[at][1:].partition(":")
        if not colon:
            raise InputError(f"line {at + 1}: '# name: value' is accepted in the header")
        head[key.strip()] = value.strip()
        at += 1
    if at >= len(lines) or tuple(lines[at].strip().split(",")) != COLUMNS:
        raise InputError(f"line {at + 1}: the columns should be {', '.join(COLUMNS)}")
    return _recording(head, lines[at + 1 :], at + 2)


def _recording(head: dict[str, str], lines: list[str], first_line: int) -> tuple[Recording, list[str]]:
    repaired: list[str] = []
    body = [line for line in lines if line.strip()]
    rows = len(body[0].rsplit(",", 1)[-1].strip()) if body else 0
    bounded(len(body), rows)
    numbers = np.empty((len(body), 4))
    levels = np.zeros((len(body), rows), dtype=np.uint8)
    strange = short = 0
    for k, fields in enumerate(csv.reader(body)):
        where = f"line {first_line + k}"
        if len(fields) != len(COLUMNS):
            raise InputError(f"{where}: {len(fields)} columns: {len(COLUMNS)} are accepted")
        try:
            numbers[k] = [float(one) for one in fields[:4]]
        except ValueError:
            raise InputError(f"{where}: {', '.join(fields[:4])[:60]!r}: four numbers are accepted") from None
        text = fields[4].strip()
        short += len(text) != rows
        values = [VALUE.get(one, 255) for one in text[:rows]]
        strange += values.count(255)
        levels[k, : len(values)] = [0 if one == 255 else one for one in values]
    if strange:
        repaired.append(f"levels held {strange} characters that are no level: taken for dark")
    if short:
        repaired.append(f"levels had another number of rows in {short} pings: cut or filled with dark")
    time_s, (top, bottom, line, levels) = said.mended(
        numbers[:, 0], [numbers[:, 1], numbers[:, 2], numbers[:, 3], levels], repaired
    )
    missing: list[str] = []
    if head.get("unit"):
        unit = said.read_unit(head["unit"])
        settings = said.read_settings(head.get("settings", ""))
        if time_s.size != len(body):
            settings = ((0, settings[0][1]),)
    else:
        unit, one = said.fallback_unit(rows, float(np.nanmax(bottom)), None)
        settings = ((0, one),)
        missing.append("unit: the file has no profile, so a plain one of six colours, 6 dB each, stands for it")
    name = head.get("name", "").strip() or "Recording"
    recording = Recording(
        name[:80], head.get("started_at", "")[:40], unit, settings, time_s, levels, top,
        bottom, line, _number(head, "face_depth_m", missing), _number(head, "temperature_c", missing),
        said.read_lure(head.get("lure", "")), said.read_notes(head.get("notes") or "[]"), tuple(missing),
    )  # fmt: skip
    return recording, repaired


def _number(head: dict[str, str], name: str, missing: list[str]) -> float:
    if name not in head:
        missing.append(f"{name}: taken as 0")
        return 0.0
    try:
        return float(head[name])
    except ValueError:
        raise InputError(f"{name} is {head[name][:40]!r}: a number is accepted") from None
