"""The fields of scenes, units, settings, lures, rounds and runs: for files and for the web alike, in SI units."""

from __future__ import annotations

from typing import Annotated

from pydantic import ConfigDict, Field

from ..core.bench.command import Command
from ..core.bench.frame import STEP_S
from ..core.drills.rounds import Round, RoundPart
from ..core.fields import Text
from ..core.fish.day import Day
from ..core.fish.states import Newcomer
from ..core.gear.forms import FORMS
from ..core.gear.ladders import Ladder, Step
from ..core.gear.lures import Lure
from ..core.gear.settings import Settings
from ..core.gear.unit import Beam, Calibrated, GainScale, Pulse, Rejection, UnitProfile
from ..core.hole.contents import DEEPEST_M, Hung, Neighbour, Shoal, Structure
from ..core.hole.scene import Scene
from ..core.runs.run_log import LONGEST_S, MOST_COMMANDS, MOST_SEED, RunSetup
from .mirror import Given, Number, Whole, limits_of, mirrors

MOST_FRAMES = round(LONGEST_S / STEP_S)
Name = Annotated[str, limits_of(Text(1, 80))]
Remark = Annotated[str, limits_of(Text(0, 500, lines=True))]
Seed = Annotated[int, Field(strict=True, ge=0, le=MOST_SEED)]


@mirrors(Structure)
class StructureFields(Given):
    """Something lying on the bottom."""


@mirrors(Hung)
class HungFields(Given):
    """What hangs in the second hole."""


@mirrors(Shoal)
class ShoalFields(Given):
    """Fish that mind their own business."""


@mirrors(Neighbour)
class NeighbourFields(Given):
    """Another unit that pings nearby."""


@mirrors(Scene)
class SceneFields(Given):
    """What is true under the hole."""


@mirrors(Settings)
class SettingsFields(Given):
    """Where the knobs stand."""


@mirrors(Beam)
class BeamFields(Given):
    """One beam."""


@mirrors(Pulse)
class PulseFields(Given):
    """One pulse length."""


@mirrors(GainScale)
class GainScaleFields(Given):
    """The gain knob."""


@mirrors(Rejection)
class RejectionFields(Given):
    """One step of interference rejection."""


@mirrors(Step)
class StepFields(Given):
    """One step of a colour ladder."""


@mirrors(Ladder)
class LadderFields(Given):
    """A colour ladder."""


@mirrors(Calibrated)
class CalibratedFields(Given):
    """How surely the gain scale is known from readings; standard deviations are 1 sigma."""


@mirrors(UnitProfile)
class UnitFields(Given):
    """What a unit can do."""


@mirrors(Lure)
class LureFields(Given):
    """A lure by form, material and sizes."""

    model_config = ConfigDict(
        json_schema_extra={
            "x-forms": [
                {name: value for name, value in vars(form).items() if name != "answers"} for form in FORMS.values()
            ]
        }
    )


class GearFields(Given):
    """Units and lures."""

    units: list[UnitFields] = Field([], max_length=20)
    lures: list[LureFields] = Field([], max_length=100)


class GearFile(GearFields):
    """A gear file as it is given out."""

    hollow_glint_gear: int = Field(description="The version of the format")


class SavedSceneFields(Given):
    """A scene with everything that is needed to see it again: the unit as it was set, the lure and where it hung."""

    name: Name
    note: Remark = ""
    scene: SceneFields
    unit: UnitFields
    settings: SettingsFields
    lure: LureFields
    lure_depth_m: Number = Field(ge=0.0, le=DEEPEST_M)
    seed: Seed


class SceneFile(SavedSceneFields):
    """A scene file as it is given out."""

    hollow_glint_scene: int = Field(description="The version of the format")


@mirrors(RoundPart)
class RoundPartFields(Given):
    """Part of a round: a kind of drill, its level, how many."""


@mirrors(Round)
class RoundFields(Given):
    """A round of drills."""


class RoundFile(RoundFields):
    """A round file as it is given out."""

    hollow_glint_round: int = Field(description="The version of the format")


@mirrors(Newcomer)
class NewcomerFields(Given):
    """A fish on its way to the hole."""


@mirrors(Day)
class DayFields(Given):
    """How the day is for every fish."""


@mirrors(Command, leave_out=("scene",))
class HandFields(Given):
    """What an angler did with hand, eyes and knobs in one frame. Only what is given was done."""

    frame: Whole = Field(ge=1, le=MOST_FRAMES)


@mirrors(RunSetup)
class RunSetupFields(Given):
    """What a run started from."""


class RunFields(Given):
    """A run of the strike drill: what it started from and what the angler did."""

    setup: RunSetupFields
    commands: list[HandFields] = Field(max_length=MOST_COMMANDS)
    frames: Whole = Field(ge=1, le=MOST_FRAMES)


class RunFile(RunFields):
    """A run file as it is given out."""

    hollow_glint_run: int = Field(description="The version of the format")
