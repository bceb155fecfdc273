"""The contract of the Read step: recordings, the call sheet and drills, in SI units, as pydantic models."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints

from ..core.reader.recording import LONGEST_NOTE
from ..core.reader.report import Moment, PictureReading
from ..formats.fields import Described, Given, LureFields, Name, Number, SettingsFields, UnitFields
from .contract import QuantityOut, RowId


class SaidOut(Described):
    text: str
    values: dict[str, QuantityOut]


class FishReadingOut(Described):
    depth_m: tuple[float, float] = Field(description="Least and most true depth")
    aside_m: tuple[float, float] = Field(description="Least and most distance off the hole's axis")
    length_m: tuple[float, float]
    curve_aside_m: list[float]
    curve_length_m: list[float]
    speed_m_s: float
    trend_db_s: float
    going: str
    interest: str
    gap_m: float | None


class NamedOut(Described):
    track: int
    kind: str
    sure: float
    range_m: float
    depth_m: float
    thick_m: float
    hidden: bool
    because: list[SaidOut]
    fish: FishReadingOut | None


class BottomReadingOut(Described):
    range_m: float
    hardness: str
    restless: bool
    second_m: float | None
    weed_top_m: float | None
    because: list[SaidOut]


class MomentOut(Described):
    kind: str
    time_s: float
    say: SaidOut
    do: str


class ReadingOut(Described):
    """What the reader says of the picture at a time."""

    time_s: float
    marks: list[NamedOut]
    bottom: BottomReadingOut | None
    water: list[SaidOut]
    moment: MomentOut | None = Field(description="The newest thing worth telling, for as long as it holds")


class RecordingOut(Described):
    id: int
    hole_id: int | None
    name: str
    started_at: str
    seconds: float
    pings: int
    remarks: list[str] = Field(description="What was repaired or missing when it came from a file")


class RecordingList(Described):
    recordings: list[RecordingOut]


class RecordingPath(Described):
    recording_id: RowId


class NotePath(RecordingPath):
    note_id: RowId


class RecordingWanted(Given):
    name: Name
    hole_id: RowId | None = None


class NoteFields(Given):
    time_s: Number = Field(ge=0.0, le=1e6)
    depth_m: Number = Field(ge=0.0, le=200.0, description="Below the water's surface")
    text: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_NOTE)]


class NoteOut(Described):
    id: int
    time_s: float
    depth_m: float
    text: str
    by: Literal["angler", "reader"]


class KnobsOut(Described):
    ping: int
    settings: SettingsFields


class RecordingWhole(RecordingOut):
    """A recording without its pings: those come by the hundred from its own address."""

    unit: UnitFields
    lure: LureFields | None
    face_depth_m: float
    rows: int
    knobs: list[KnobsOut]
    notes: list[NoteOut]


class PingsWanted(Described):
    first: int = Field(0, ge=0, le=2**31)
    count: int = Field(2000, ge=1, le=4000)


class PingsOut(Described):
    """Pings of a recording or a drill: `levels` is base64 of one byte a row, ping after ping."""

    first: int
    count: int
    rows: int
    levels: str
    time_s: list[float]
    top_m: list[float]
    bottom_m: list[float]
    line_in_m: list[float]


class AtTime(Described):
    time_s: float = Field(ge=0.0, le=1e6)


class FileAs(Described):
    format: Literal["nc", "csv"] = "nc"


class FileGiven(Described):
    name: str = Field("", max_length=200, description="The file's name: .csv is read as CSV, all else as netCDF-4")
    hole_id: RowId | None = None


class ImportPath(Described):
    import_id: str = Field(max_length=40)


class ImportOut(Described):
    """A file being read in: how far it is, and what came of it."""

    id: str
    state: Literal["reading", "done", "refused"]
    share: float = Field(ge=0.0, le=1.0)
    problem: str
    recording: RecordingOut | None


def reading_fields(reading: PictureReading, moment: Moment | None) -> dict[str, Any]:
    """A reading as fields of `ReadingOut`."""
    marks = []
    for mark in reading.marks:
        fields = {name: value for name, value in vars(mark).items() if name not in ("because", "fish", "level")}
        fish = mark.fish
        told = None
        if fish is not None:
            every = max(fish.span.curve_aside_m.size // 24, 1)
            told = {
                "depth_m": fish.span.depth_m, "aside_m": fish.span.aside_m, "length_m": fish.span.length_m,
                "curve_aside_m": fish.span.curve_aside_m[::every].round(3).tolist(),
                "curve_length_m": fish.span.curve_length_m[::every].round(3).tolist(),
                "speed_m_s": fish.speed_m_s, "trend_db_s": fish.trend_db_s, "going": fish.going,
                "interest": fish.interest, "gap_m": fish.gap_m,
            }  # fmt: skip
        marks.append({**fields, "because": [asdict(one) for one in mark.because], "fish": told})
    bottom = reading.bottom and {
        **{
            name: getattr(reading.bottom, name)
            for name in ("range_m", "hardness", "restless", "second_m", "weed_top_m")
        },
        "because": [asdict(one) for one in reading.bottom.because],
    }
    return {
        "time_s": reading.time_s, "marks": marks, "bottom": bottom, "water": [asdict(one) for one in reading.water],
        "moment": moment and {"kind": moment.kind, "time_s": moment.time_s, "say": asdict(moment.say), "do": moment.do},
    }  # fmt: skip
