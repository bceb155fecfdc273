"""The contract of recordings and of what the reader says of a picture."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any, Literal

from pydantic import Field

from ...core.reader.mending import Mend, PictureState
from ...core.reader.recording import Note
from ...core.reader.report import BottomReading, FishReading, Moment, NamedMark, PictureReading
from ...formats.fields import LureFields, Name, SettingsFields, UnitFields
from ...formats.mirror import Described, Given, mirrors
from ...store.recordings import KeptRecording
from ..contract import RowId, SentenceOut

CURVE_POINTS = 24  # that a curve is drawn through


@mirrors(FishReading, leave_out=("span", "seems_m_s"))
class FishReadingOut(Described):
    """What can be said of one fish."""

    depth_m: tuple[float, float] = Field(description="Least and most true depth")
    aside_m: tuple[float, float] = Field(description="Least and most distance off the hole's axis")
    told_length_m: tuple[float, float] | None = Field(
        description="Least and most length; null where its size is not known"
    )
    curve_aside_m: list[float]
    curve_length_m: list[float]


@mirrors(NamedMark, leave_out=("level", "fish"))
class NamedOut(Described):
    """A mark with its name."""

    fish: FishReadingOut | None


@mirrors(BottomReading, leave_out=("tail_m",))
class BottomReadingOut(Described):
    """The bottom as the picture has it."""


@mirrors(Moment, leave_out=("track",))
class MomentOut(Described):
    """Something worth telling."""


class ReadingOut(Described):
    """What the reader says of the picture at a time."""

    time_s: float
    marks: list[NamedOut]
    bottom: BottomReadingOut | None
    water: list[SentenceOut]
    moment: MomentOut | None = Field(description="The newest thing worth telling, for as long as it holds")


@mirrors(KeptRecording)
class RecordingOut(Described):
    """A recording without its picture; `remarks` are what was repaired or missing when it came from a file."""


class RecordingList(Described):
    recordings: list[RecordingOut]


@mirrors(Mend)
class MendOut(Described):
    """What would mend a picture, what shows it, and the knob's change where one is known."""


@mirrors(PictureState, leave_out=("mends",))
class MendingOut(Described):
    """What a picture alone tells of how it is tuned; what hides most first."""

    mends: list[MendOut]


class RecordingPath(Described):
    recording_id: RowId


class NotePath(RecordingPath):
    note_id: RowId


class RecordingWanted(Given):
    name: Name
    hole_id: RowId | None = None


@mirrors(Note, leave_out=("by",))
class NoteFields(Given):
    """A note at a time and depth."""


@mirrors(Note)
class NoteOut(Described):
    """A note, and who wrote it."""

    id: int


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


class AtTime(Described):
    time_s: float = Field(ge=0.0, le=1e6)


class FileAs(Described):
    format: Literal["nc", "csv"] = "nc"


class FileGiven(Described):
    name: str = Field("", max_length=200, description="The file's name: .csv is read as CSV, all else as netCDF-4")
    hole_id: RowId | None = None


ImportState = Literal["reading", "done", "refused"]


class ImportPath(Described):
    import_id: str = Field(max_length=40)


class ImportOut(Described):
    """A file being read in: how far it is, and what came of it."""

    id: str
    state: ImportState
    share: float = Field(ge=0.0, le=1.0)
    problem: str
    recording: RecordingOut | None


def moment_fields(moment: Moment | None) -> dict[str, Any] | None:
    """A moment as fields of `MomentOut`."""
    return None if moment is None else {name: value for name, value in asdict(moment).items() if name != "track"}


def reading_fields(reading: PictureReading, moment: Moment | None) -> dict[str, Any]:
    """A reading as fields of `ReadingOut`, ready for JSON: in a stream they go out as they are."""
    bottom = reading.bottom
    return {
        "time_s": reading.time_s,
        "marks": [_mark_fields(mark) for mark in reading.marks],
        "bottom": bottom and {name: value for name, value in asdict(bottom).items() if name != "tail_m"},
        "water": [asdict(one) for one in reading.water],
        "moment": moment_fields(moment),
    }


def _mark_fields(mark: NamedMark) -> dict[str, Any]:
    fields = {name: value for name, value in vars(mark).items() if name not in ("because", "fish", "level")}
    return {**fields, "because": [asdict(one) for one in mark.because], "fish": mark.fish and _fish_fields(mark.fish)}


def _fish_fields(fish: FishReading) -> dict[str, Any]:
    every = max(fish.span.curve_aside_m.size // CURVE_POINTS, 1)
    return {
        **{name: value for name, value in vars(fish).items() if name not in ("span", "seems_m_s")},
        **{name: getattr(fish.span, name) for name in ("depth_m", "aside_m", "told_length_m")},
        **{name: getattr(fish.span, name)[::every].round(3).tolist() for name in ("curve_aside_m", "curve_length_m")},
    }
