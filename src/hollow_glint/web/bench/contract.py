"""The contract of the Bench step: live benches with their frames and commands, kept scenes and exercises."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StrictBool, StringConstraints

from ...core.bench.command import Command
from ...core.bench.exercises import Exercise
from ...core.bench.frame import Frame
from ...core.fish.events import Event, FishTruth
from ...core.hole.contents import DEEPEST_M
from ...core.runs.levels import Level
from ...core.tuning.coach import CODES
from ...core.tuning.gain_window import GainWindow
from ...core.tuning.touched_mark import TouchedMark
from ...core.tuning.verdict import Verdict
from ...formats.fields import LureFields, SceneFields, Seed, SettingsFields, UnitFields
from ...formats.mirror import Described, Given, NamesOf, Number, mirrors
from ..contract import RowId
from ..search.look_contract import WaterGiven

FishLength = Annotated[float, Field(ge=0.05, le=1.5, strict=True, description="The fish whose seen zone is drawn")]
MOST_REMEMBERED = 2**53


class SceneSummary(Described):
    id: int
    name: str
    note: str


class SceneList(Described):
    scenes: list[SceneSummary]


class ScenePath(Described):
    scene_id: RowId


@mirrors(Exercise, only=("key", "title", "aim", "hint", "learned", "hides_truth"))
class ExerciseOut(Described):
    """A guided exercise, and when it was first finished."""

    done_at: str | None


class ExerciseList(Described):
    exercises: list[ExerciseOut]


class DrilledAt(WaterGiven):
    """A hole in water that was looked at: the look's seed, where the hole is from the look-out hole, and when one looks
    down it, on the water's own clock."""

    seed: Seed
    hole_east_m: Number = Field(ge=-200.0, le=200.0)
    hole_north_m: Number = Field(ge=-200.0, le=200.0)
    at_s: Number = Field(ge=0.0, le=5000.0)


class BenchWanted(Given):
    """One of hole_id or drilled_at (with unit_id and lure_id), scene_id or exercise. A scene's own unit and lure may be
    replaced."""

    hole_id: RowId | None = None
    scene_id: RowId | None = None
    exercise: Annotated[str, StringConstraints(max_length=80)] | None = None
    drilled_at: DrilledAt | None = None
    unit_id: RowId | None = None
    lure_id: RowId | None = None
    seed: Seed | None = Field(None, description="Same seed, same water and fish")
    fish_length_m: FishLength = 0.3
    settings: SettingsFields | None = Field(None, description="At a hole: where the knobs stand to begin with")
    lure_depth_m: Number | None = Field(None, ge=0.0, le=DEEPEST_M, description="At a hole: where the lure hangs")
    scene: SceneFields | None = Field(None, description="At a hole: the water as a card takes it, for the hole's own")


@mirrors(Level, only=("key", "title", "teaches"))
class RunInfo(Described):
    """A run of the strike drill, as it stands before it is played."""

    line: str
    goal_m: float
    longest_s: float
    branch_of: int | None
    begins_s: float = Field(description="Where a branch takes over")


class BenchOut(Described):
    id: str
    seed: int
    frame_s: float
    title: str
    hole_id: int | None
    exercise: ExerciseOut | None
    run: RunInfo | None = None
    scene: SceneFields
    unit: UnitFields
    lure: LureFields
    settings: SettingsFields
    lure_depth_m: float
    past: FrameOut | None = Field(None, description="The water before the start, as one frame of many pings")


@mirrors(Command)
class CommandFields(Given):
    """What the angler does. Only what is given changes."""

    fish_length_m: FishLength | None = None
    read: StrictBool | None = Field(None, description="Whether the reader names the marks in the stream")


class Accepted(Described):
    frame: int = Field(description="The command is in the picture from the frame after this one")


@mirrors(FishTruth)
class FishOut(Described):
    """Where a fish truly is."""


@mirrors(Event)
class EventOut(Described):
    """Something that happened."""

    strike_id: int | None = Field(None, description="The strike in the log, of a fish that is hooked")
    not_kept: str = Field("", description="Why a hooked fish is not in the log yet; it is tried again")


@mirrors(Frame, leave_out=("levels", "shown", "window_levels", "window_shown", "line_in_m"))
class FrameOut(Described):
    """One step of the picture; `levels` is base64 of `pings` times `rows` bytes, each a step of the ladder.

    `window_levels` is the same for the magnified window where it stands beside the full column, else null.
    """

    pings: int
    rows: int
    levels: str
    top_m: float = Field(description="Range from the face at the picture's top edge")
    bottom_m: float = Field(description="Range from the face at the picture's bottom edge")
    window_levels: str | None
    window_top_m: float
    window_bottom_m: float
    scene_changes: int = Field(description="Counts up when the water or how the transducer hangs has changed")
    school: list[list[float]] = Field(description="Fish that mind their own business: x, y, z, length")
    events: list[EventOut]
    run_id: int | None = Field(None, description="In a run that is over: where it is kept")


@mirrors(Verdict, leave_out=("severity",))
class VerdictOut(Described):
    """One finding of the coach, and the change that settles it."""

    code: Annotated[str, NamesOf(tuple(CODES))]


@mirrors(GainWindow, leave_out=("floor", "width_db", "firm_floor", "firm_ceiling"))
class GainWindowOut(Described):
    """In the unit's own numbers; `floor` and `width_db` are null while the lure is not in the beam at all."""

    floor: float | None
    width_db: float | None


class SeenZoneOut(Described):
    """How far off the axis each is seen, at each of `depth_m`; and where the dead zone begins at each `offset_m`."""

    depth_m: list[float]
    lure_m: list[float]
    fish_m: list[float]
    offset_m: list[float]
    dead_zone_top_m: list[float]
    tilt_rad: float = Field(description="How far the axis of both lobes is off plumb, towards +x")


class TuningOut(Described):
    """What the present settings do."""

    gain_window: GainWindowOut
    verdicts: list[VerdictOut]
    seen_zone: SeenZoneOut
    fish_length_m: float
    row_height_m: float
    parted_m: float
    cone_at_lure_m: float
    cone_at_bottom_m: float
    ping_rate_hz: float
    lag_s: float
    smallest_range_m: float
    draw_a: float
    neighbour_percent: float = Field(description="Share of the picture that neighbours' pings light")
    second_echo_m: float


class MarkWanted(Described):
    range_m: float = Field(ge=0.0, le=200.0, description="Range from the face that was touched")
    ping: int | None = Field(None, ge=0, le=MOST_REMEMBERED, description="Number of the ping; the newest if not given")


@mirrors(TouchedMark)
class MarkOut(Described):
    """What made a mark, where that truly is, and why it looks as it does."""
