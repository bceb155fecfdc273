"""What the contracts of all steps share: problems, ids, sentences with quantities, how addresses say what they answer.

Each step's own contract stands beside its blueprint. Models that say what the core's dataclasses say mirror those.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..core.fish.rise_line import RiseLine
from ..core.hole.scene import Scene
from ..core.wording import Change, Quantity, Sentence
from ..formats.fields import LureFields, UnitFields
from ..formats.mirror import Described, mirrors

RowId = Annotated[int, Field(ge=1, le=2**62)]


class FieldProblem(Described):
    """One field that is wrong, the value it had, and what is accepted."""

    field: str
    value: str
    message: str


class Problem(Described):
    """An error a person can act on (RFC 9457)."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] = Field(default=[])


class StaleProblem(Problem):
    """A change of what has been changed since: both versions."""

    yours: int = Field(description="The version that was changed")
    version: int = Field(description="The version there is now")
    now: dict[str, Any] = Field(description="What is kept now, as its address gives it")


# What any address with a body may answer when the body is wrong.
BODY = (400, 413, 415, 422)


def answers(status: int, model: type[BaseModel] | None, *problems: int) -> Any:
    """What an address answers: `model` at `status`, and problem documents at the other statuses named.

    503 and 507 are for all addresses alike, so `app` adds them.
    """
    return {status: model, **dict.fromkeys(problems, Problem)}


class Health(Described):
    status: Literal["ok"]
    version: str
    live_benches: int
    most_live_benches: int
    crew: bool = Field(description="Whether it was started for a crew")


class IfMatch(Described):
    """Which version a change is of: the ETag with which it was read."""

    model_config = ConfigDict(extra="ignore")
    if_match: str = Field(alias="If-Match", pattern=r'^"[0-9]{1,18}"$', description='The version, in quotes: "3"')

    @property
    def version(self) -> int:
        """The number in the quotes."""
        return int(self.if_match.strip('"'))


class Removed(Described):
    """Something is removed."""

    removal: int = Field(description="Its number at /api/removals, by which it can be brought back for a while")


class HolePath(Described):
    hole_id: RowId


class UnitPath(Described):
    unit_id: RowId


class LurePath(Described):
    lure_id: RowId


class BenchPath(Described):
    bench_id: str = Field(max_length=64)


class UnitOut(UnitFields):
    model_config = ConfigDict(extra="ignore")
    id: int
    version: int = Field(description="Counts up with each change")


class LureOut(LureFields):
    model_config = ConfigDict(extra="ignore")
    id: int
    version: int = Field(description="Counts up with each change")


@mirrors(Quantity)
class QuantityOut(Described):
    """A value with its unit."""


@mirrors(Sentence)
class SentenceOut(Described):
    """A sentence with {names} for its values."""


@mirrors(Change)
class ChangeOut(Described):
    """A field of the settings or of the scene and the value to give it; "kick" is a command."""


@mirrors(RiseLine)
class RiseLineOut(Described):
    """How high fish will come today: the middle of the estimate and its 90 % interval, deep to shallow."""


SECTION = ("bottom_depth_m", "bottom_kind", "ice_thickness_m", "face_depth_m", "weed_height_m")


@mirrors(Scene, only=SECTION)
class SectionOut(Described):
    """As much of a scene as its section is drawn from."""


def section_of(scene: Scene) -> dict[str, Any]:
    """The fields of SectionOut."""
    return {name: getattr(scene, name) for name in SECTION}


class PingsWanted(Described):
    first: int = Field(0, ge=0, le=2**31)
    count: int = Field(2000, ge=1, le=4000)


class PingsOut(Described):
    """Pings of a recording, a run or a drill: `levels` is base64 of one byte a row, ping after ping."""

    first: int
    count: int
    rows: int
    levels: str
    time_s: list[float]
    top_m: list[float]
    bottom_m: list[float]
    line_in_m: list[float]


def plain(value: Any, model: type[BaseModel]) -> dict[str, Any]:
    """`value` (a dataclass or a dict) as JSON-ready fields of `model`."""
    return model.model_validate(value, from_attributes=True).model_dump(mode="json")
