"""The log as a file: JSON with everything in it, or three tables of CSV in a ZIP, for a spreadsheet or pandas.

See docs/log-file.md. Either comes in again as it went out; times are UTC, lengths in metres.
"""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass, fields
from typing import Any

from ..core.checks import InputError
from ..core.fields import from_fields
from ..core.gear.settings import Settings
from ..core.log.outing import Happening, Outing, Stay

MARK, VERSION = "hollow-glint-log", 1
MOST_BYTES = 64 * 2**20
TABLES = ("outings.csv", "stays.csv", "happenings.csv")
WRONG_TOLD = 12  # of what is wrong with a file, so many are said


@dataclass(frozen=True)
class StayFile:
    """A stay with its place on the lake [m] where that is known, and what happened."""

    stay: Stay
    happened: tuple[Happening, ...]
    east_m: float | None = None
    north_m: float | None = None


@dataclass(frozen=True)
class OutingFile:
    """An outing with its stays; `lake` its name as the map has it, "" where it is on none."""

    outing: Outing
    stays: tuple[StayFile, ...]
    lake: str = ""


def write_json(outings: Iterable[OutingFile]) -> str:
    """The whole log as JSON."""
    document = {MARK: VERSION, "outings": [_outing_fields(one) for one in outings]}
    return json.dumps(document, ensure_ascii=False, separators=(",", ":")) + "\n"


def _outing_fields(one: OutingFile) -> dict[str, Any]:
    stays = [
        {**asdict(each.stay), "east_m": each.east_m, "north_m": each.north_m,
         "happened": [asdict(note) for note in each.happened]}
        for each in one.stays
    ]  # fmt: skip
    return {**asdict(one.outing), "lake": one.lake, "stays": stays}


def read_json(text: str) -> list[OutingFile]:
    """The outings of a JSON file. Raises ValueError that names what is wrong where; nothing is taken in then."""
    try:
        document = json.loads(text)
    except json.JSONDecodeError as broken:
        raise InputError(f"line {broken.lineno}: the file is not JSON there ({broken.msg})") from None
    except RecursionError:
        raise InputError("the file is nested too deep to be a log") from None
    if not isinstance(document, dict) or MARK not in document:
        raise InputError(f'this is no log: it has no field "{MARK}"')
    if document[MARK] != VERSION:
        raise InputError(f"{MARK} is {document[MARK]!r}: this program reads version {VERSION}")
    wrong: list[str] = []
    found = []
    for n, one in enumerate(_objects(document.get("outings"), "outings"), 1):
        try:
            found.append(_read_outing(one))
        except InputError as problem:
            wrong.append(f"outing {n}: {problem}")
    if wrong:
        raise InputError("; ".join(wrong[:WRONG_TOLD]))
    return found


def _read_outing(given: Mapping[str, Any]) -> OutingFile:
    told = dict(given)
    stays, lake = told.pop("stays", []), told.pop("lake", "")
    outing = from_fields(Outing, told, "an outing")
    return OutingFile(outing, tuple(_read_stay(one) for one in _objects(stays, "stays")), str(lake or ""))


def _read_stay(given: Mapping[str, Any]) -> StayFile:
    told = dict(given)
    happened = told.pop("happened", [])
    east, north = (_place(name, told.pop(name, None)) for name in ("east_m", "north_m"))
    notes = tuple(from_fields(Happening, one, "a note") for one in _objects(happened, "happened"))
    return StayFile(from_fields(Stay, told, "a stay"), notes, east, north)


def _place(name: str, value: Any) -> float | None:
    if value is None:
        return None
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not abs(value) <= 200_000.0:
        raise InputError(f"{name} is {value!r}: a number from -200000 to 200000 m is accepted")
    return float(value)


def _objects(given: Any, name: str) -> Sequence[Mapping[str, Any]]:
    if not isinstance(given, list) or not all(isinstance(one, dict) for one in given):
        raise InputError(f"{name} is no list of objects: such a list is accepted")
    return given


# --- tables --------------------------------------------------------------------------------------------------------

OUTING_COLUMNS = ("outing", "lake", *(one.name for one in fields(Outing)))
STAY_COLUMNS = ("outing", "stay", *(one.name for one in fields(Stay) if one.name != "settings"), "east_m", "north_m",
                *(f"set_{one.name}" for one in fields(Settings)))  # fmt: skip
HAPPENING_COLUMNS = ("stay", *(one.name for one in fields(Happening)))
NUMBERS = frozenset({
    "utc_offset_min", "ice_m", "temperature_c", "pressure_hpa", "lines", "depth_m", "lure_size_m", "length_m", "east_m",
    "north_m",
})  # fmt: skip


def write_tables(outings: Iterable[OutingFile]) -> bytes:
    """The whole log as three tables of CSV in a ZIP, their rows tied by the numbers of outing and stay."""
    rows: tuple[list[list[Any]], ...] = ([], [], [])
    stay_number = 0
    for n, one in enumerate(outings, 1):
        rows[0].append([n, one.lake, *(getattr(one.outing, name) for name in OUTING_COLUMNS[2:])])
        for each in one.stays:
            stay_number += 1
            told = {**asdict(each.stay), "east_m": each.east_m, "north_m": each.north_m}
            knobs = told.pop("settings") or {}
            told |= {f"set_{name}": value for name, value in knobs.items()}
            rows[1].append([n, stay_number, *(told.get(name) for name in STAY_COLUMNS[2:])])
            rows[2].extend(
                [stay_number, *(getattr(note, name) for name in HAPPENING_COLUMNS[1:])] for note in each.happened
            )
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as file:
        for name, columns, mine in zip(TABLES, (OUTING_COLUMNS, STAY_COLUMNS, HAPPENING_COLUMNS), rows, strict=True):
            file.writestr(name, table_text(columns, mine))
    return packed.getvalue()


def table_text(columns: Sequence[str], rows: Iterable[Sequence[Any]]) -> str:
    """A table as CSV (RFC 4180), with a mark by which a spreadsheet knows its letters."""
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\r\n")
    writer.writerow(columns)
    for row in rows:
        writer.writerow([_cell(one) for one in row])
    return "\ufeff" + text.getvalue()


def _cell(value: Any) -> Any:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    # A spreadsheet would take such words for a formula.
    if isinstance(value, str) and value[:1] in ("=", "+", "-", "@"):
        return "'" + value
    return value


def read_tables(packed: bytes) -> list[OutingFile]:
    """The outings of a ZIP of the three tables. Raises ValueError that names the table and the line."""
    tables = dict(zip(TABLES, _unpacked(packed), strict=True))
    notes: dict[str, list[Happening]] = {}
    wrong: list[str] = []
    for line, row in _rows(tables["happenings.csv"], "happenings.csv", HAPPENING_COLUMNS):
        stay = row.pop("stay")
        _kept(wrong, "happenings.csv", line, lambda row=row, stay=stay: notes.setdefault(stay, []).append(
            from_fields(Happening, row, "a note")))  # fmt: skip
    stays: dict[str, list[StayFile]] = {}
    known: set[str] = set()
    for line, row in _rows(tables["stays.csv"], "stays.csv", STAY_COLUMNS):
        outing, stay = row.pop("outing"), row.pop("stay")
        known.add(stay)
        mine = tuple(notes.get(stay, ()))
        _kept(wrong, "stays.csv", line, lambda row=row, outing=outing, mine=mine: stays.setdefault(outing, []).append(
            _stay_of_row(row, mine)))  # fmt: skip
    wrong += [f"happenings.csv: stay {one} is not in stays.csv" for one in notes if one not in known]
    found: list[OutingFile] = []
    numbers = set()
    for line, row in _rows(tables["outings.csv"], "outings.csv", OUTING_COLUMNS):
        number, lake = row.pop("outing"), row.pop("lake") or ""
        numbers.add(number)
        _kept(wrong, "outings.csv", line, lambda row=row, lake=lake, number=number: found.append(
            OutingFile(from_fields(Outing, row, "an outing"), tuple(stays.get(number, ())), lake)))  # fmt: skip
    wrong += [f"stays.csv: outing {one} is not in outings.csv" for one in stays if one not in numbers]
    if wrong:
        raise InputError("; ".join(wrong[:WRONG_TOLD]))
    return found


def _kept(wrong: list[str], table: str, line: int, make: Any) -> None:
    try:
        make()
    except InputError as problem:
        wrong.append(f"{table}, line {line}: {problem}")


def _unpacked(packed: bytes) -> list[str]:
    try:
        with zipfile.ZipFile(io.BytesIO(packed)) as file:
            if sum(one.file_size for one in file.infolist()) > MOST_BYTES:
                raise InputError(f"the tables are larger than {MOST_BYTES // 2**20} MB: so much is accepted")
            missing = [name for name in TABLES if name not in file.namelist()]
            if missing:
                raise InputError(f"{missing[0]} is missing: accepted is a ZIP of {', '.join(TABLES)}")
            return [file.read(name).decode("utf-8-sig") for name in TABLES]
    except zipfile.BadZipFile:
        raise InputError("the file is no ZIP, or it was cut short") from None
    except UnicodeDecodeError:
        raise InputError("a table is not in UTF-8: that is accepted") from None
    except (NotImplementedError, RuntimeError, OSError, zipfile.zlib.error) as problem:  # type: ignore[attr-defined]
        raise InputError(f"the ZIP cannot be unpacked ({problem})") from None


def _rows(text: str, table: str, columns: Sequence[str]) -> Iterable[tuple[int, dict[str, Any]]]:
    reader = csv.reader(io.StringIO(text))
    head = next(reader, [])
    unknown = [name for name in head if name not in columns]
    missing = [name for name in columns if name not in head]
    if unknown or missing:
        said = f"{unknown[0]!r} is no column" if unknown else f"the column {missing[0]} is missing"
        raise InputError(f"{table}, line 1: {said}; accepted are {', '.join(columns)}")
    for cells in reader:
        if not any(cells):
            continue
        if len(cells) != len(head):
            raise InputError(f"{table}, line {reader.line_num}: {len(cells)} cells, and the head has {len(head)}")
        row = {name: _value(name, cell) for name, cell in zip(head, cells, strict=True)}
        yield reader.line_num, row


def _value(name: str, cell: str) -> Any:
    if cell == "":
        return "" if name in WORDS else None
    if name.startswith("set_") or name in NUMBERS:
        if cell in ("yes", "no"):
            return cell == "yes"
        try:
            number = float(cell)
        except ValueError:
            raise InputError(f"{name} is {cell!r}: a number is accepted") from None
        return int(number) if name == "lines" or (name.startswith("set_") and number.is_integer()) else number
    if name == "kept":
        if cell.lower() not in ("yes", "no"):
            raise InputError(f"kept is {cell!r}: accepted are yes and no")
        return cell.lower() == "yes"
    return cell[1:] if cell[:1] == "'" and cell[1:2] in ("=", "+", "-", "@") else cell


# Words that are empty rather than unknown.
WORDS = frozenset(
    one.name for kind in (Outing, Stay, Happening) for one in fields(kind) if one.default == "" or one.name == "lake"
)


def _stay_of_row(row: dict[str, Any], mine: tuple[Happening, ...]) -> StayFile:
    knobs = {name.removeprefix("set_"): row.pop(name) for name in list(row) if name.startswith("set_")}
    east, north = _place("east_m", row.pop("east_m")), _place("north_m", row.pop("north_m"))
    settings = None
    if knobs.get("gain") is not None:
        settings = from_fields(Settings, {name: one for name, one in knobs.items() if one is not None}, "settings")
    return StayFile(from_fields(Stay, {**row, "settings": settings}, "a stay"), mine, east, north)
