"""The controls of a fan's picture, each by what it does. What a profile lacks stands at nothing and cannot be moved."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Final, Literal

import numpy as np

from ..checks import InputError
from ..fields import OneOf, Span, check_fields, doc
from ..gear.ladders import SHIPPED, TWO_ENDED, Ladder
from .head import ControlName, FanHead

Numbers = Literal["none", "distance", "depth", "both"]
FAN_LADDERS: Final[dict[str, Ladder]] = {one.name: one for one in (*SHIPPED, TWO_ENDED)}


@dataclass(frozen=True)
class FanSettings:
    """How a fan's picture is set. Raises ValueError outside the spans."""

    gain_db: Annotated[float, Span(0.0, 70.0, "dB")] = 30.0
    ahead_m: Annotated[float, Span(2.0, 60.0, "m"), doc("How far ahead the picture reaches")] = 25.0
    behind_m: Annotated[float, Span(0.0, 30.0, "m"), doc("How far behind")] = 3.0
    deep_m: Annotated[float, Span(2.0, 40.0, "m"), doc("How deep below the surface")] = 9.0
    strong_db: Annotated[float, Span(12.0, 60.0, "dB"), doc("From the weakest colour to the strongest")] = 36.0
    weak_steps: Annotated[int, Span(0, 12), doc("How many of the weakest steps are left dark")] = 0
    clutter: Annotated[int, Span(0, 3), doc("How hard what fills the water is rejected")] = 0
    repeats: Annotated[int, Span(0, 2), doc("How many frames must agree, beside the newest")] = 0
    damping_m: Annotated[float, Span(0.0, 8.0, "m"), doc("How far from the head echoes are turned down")] = 0.0
    tails: Annotated[int, Span(0, 3), doc("How long a mark stays when it has gone")] = 0
    ground: Annotated[bool, doc("Everything below the bottom in one shade")] = False
    square_m: Annotated[float, Span(0.0, 20.0, "m"), doc("Side of a square of the net; none at 0")] = 0.0
    numbers: Annotated[Numbers, OneOf(("none", "distance", "depth", "both"))] = "both"
    heading: Annotated[bool, doc("Where the head looks, by its compass")] = False
    levelling: Annotated[bool, doc("The picture turned by how far the head is off level")] = False
    ladder: Annotated[str, OneOf(FAN_LADDERS)] = "Six steps"
    screen: Annotated[float, Span(0.1, 1.0), doc("Light of the screen")] = 1.0

    def __post_init__(self) -> None:
        check_fields(self)

    @property
    def reach_m(self) -> float:
        """How far the unit listens [m]: into the farthest corner of its picture."""
        return float(np.hypot(max(self.ahead_m, self.behind_m), self.deep_m))


# Which field each control moves, and the value that stands for its absence.
FIELD_OF: Final[dict[ControlName, str]] = {
    "gain": "gain_db", "ahead": "ahead_m", "behind": "behind_m", "deep": "deep_m", "contrast": "strong_db",
    "weak_end": "weak_steps", "clutter": "clutter", "repeats": "repeats", "damping": "damping_m", "tails": "tails",
    "ground": "ground", "squares": "square_m", "numbers": "numbers", "heading": "heading", "levelling": "levelling",
    "ladder": "ladder", "screen": "screen",
}  # fmt: skip


def without_lacking(head: FanHead, settings: FanSettings) -> FanSettings:
    """The settings with what the head lacks at its default. Never raises."""
    usual = FanSettings()
    return replace(settings, **{FIELD_OF[one]: getattr(usual, FIELD_OF[one]) for one in head.lacks})


def check_settings(head: FanHead, settings: FanSettings) -> None:
    """Raise ValueError for a control that the head lacks, or a reach beyond its longest."""
    usual = FanSettings()
    for one in head.lacks:
        name = FIELD_OF[one]
        if getattr(settings, name) != getattr(usual, name):
            raise InputError(f"{name} is {getattr(settings, name)!r}: {head.name} has no such control")
    if settings.reach_m > head.longest_m:
        raise InputError(
            f"ahead_m {settings.ahead_m:g} m and deep_m {settings.deep_m:g} m reach {settings.reach_m:.1f} m: "
            f"accepted is up to {head.longest_m:g} m with {head.name}"
        )
