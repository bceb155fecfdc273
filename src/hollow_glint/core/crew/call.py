"""A call turned to one's own hole: "10 o'clock, 40 ft from the look-out hole" as bearing, paces and holes to shift.

Twelve o'clock is where the look-out faces. Left and right are the look-out's too: who hears a call by the clock thinks
of it so. How far off a clock is read is common practice without a source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Final

import numpy as np

from ..checks import InputError
from ..fields import Span, Text, check_fields, doc
from ..ground.plane import bearing
from ..ground.soundings import FAR_M
from ..hole.contents import DEEPEST_M
from ..search.usual import PACE_M
from ..wording import Quantity, Sentence

HOUR_DEG: Final = 30.0
READ_DEG: Final = 15.0  # a clock is read to half an hour
NEARER: Final = 0.8  # of the way that is left, from which on a hole is worth the walk. Common practice
AT_IT_M: Final = 3.0  # fish that near are at the hole


@dataclass(frozen=True)
class CrewHole:
    """A hole by its name and place [m]."""

    name: Annotated[str, Text(1, 80)]
    east_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    north_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]

    def __post_init__(self) -> None:
        check_fields(self, "hole")


@dataclass(frozen=True)
class FishCall:
    """Where fish are, as a look-out says it: at which hour of the clock and how far, seen from a hole.

    twelve_deg   where twelve o'clock points there [degrees from north]
    depth_m      how deep they are, where that was seen
    """

    lookout: CrewHole
    clock_h: Annotated[float, Span(0.0, 12.0, "h")]
    distance_m: Annotated[float, Span(0.0, 500.0, "m")]
    twelve_deg: Annotated[float, Span(0.0, 360.0, "degrees")] = 0.0
    depth_m: Annotated[float | None, Span(0.1, DEEPEST_M, "m"), doc("Of the fish")] = None

    def __post_init__(self) -> None:
        check_fields(self, "call")

    @property
    def bearing_deg(self) -> float:
        """From the look-out [degrees from north, 0 to 360)."""
        return float((self.twelve_deg + HOUR_DEG * self.clock_h) % 360.0)

    @property
    def place(self) -> tuple[float, float]:
        """Where that is: east and north [m]."""
        turn = np.radians(self.bearing_deg)
        return (
            self.lookout.east_m + self.distance_m * float(np.sin(turn)),
            self.lookout.north_m + self.distance_m * float(np.cos(turn)),
        )

    @property
    def sure_m(self) -> float:
        """Half the width [m] of where they may be, for how a clock is read."""
        return float(self.distance_m * np.radians(READ_DEG))


@dataclass(frozen=True)
class CallHere:
    """A call from one's own hole: how far and where to, in paces and by the look-out's clock; the hole to go to, None
    where one's own is as good as any; by how many holes that is to the right (left below 0); all of it in words."""

    distance_m: float
    bearing_deg: float
    paces: int
    clock_h: float
    hole: str | None
    shift: int
    said: tuple[Sentence, ...]


def call_from(own: CrewHole, call: FishCall, holes: Sequence[CrewHole]) -> CallHere:
    """The call as it is from `own`, with the holes there are to go to (one's own may be among them).

    Raises ValueError where two holes have one name.
    """
    every = [own, *(one for one in holes if one != own)]
    if len({one.name for one in every}) != len(every):
        raise InputError("holes have one name twice: accepted is each once")
    target = np.array(call.place)
    at = np.array([(one.east_m, one.north_m) for one in every])
    away = np.linalg.norm(at - target, axis=1)
    east, north = target - at[0]
    towards = float(bearing(east, north))
    distance = float(away[0])
    best = int(away.argmin())
    goes = best != 0 and distance > AT_IT_M and away[best] < NEARER * distance
    # Along the row as the look-out sees it, left to right.
    right = np.radians(call.twelve_deg + 90.0)
    order = np.argsort(at @ np.array([np.sin(right), np.cos(right)]), kind="stable").tolist()
    shift = order.index(best) - order.index(0) if goes else 0
    clock = ((towards - call.twelve_deg) / HOUR_DEG) % 12.0
    return CallHere(
        distance, towards, round(distance / PACE_M), float(clock), every[best].name if goes else None, shift,
        tuple(_said(call, distance, towards, every[best].name if goes else None, shift)),
    )  # fmt: skip


def _said(call: FishCall, distance: float, towards: float, hole: str | None, shift: int) -> list[Sentence]:
    values = {"away": Quantity(distance, "m"), "bearing": Quantity(towards, "degrees"),
              "paces": Quantity(round(distance / PACE_M), "count"), "sure": Quantity(call.sure_m, "m")}  # fmt: skip
    if distance <= max(AT_IT_M, call.sure_m):
        said = [Sentence("The fish are at your hole, give or take {sure}. Lines down.", values)]
    else:
        said = [Sentence("From your hole: {away} on {bearing}, {paces} paces, give or take {sure}.", values)]
    if hole is not None:
        side = "left" if shift < 0 else "right"
        holes = "one hole" if abs(shift) == 1 else f"{abs(shift)} holes"
        by = f", {holes} to the {side} as the look-out faces" if shift else ""
        said.append(Sentence(f"Go to {hole}{by}."))
    elif distance > max(AT_IT_M, call.sure_m):
        said.append(Sentence("No other hole is much nearer: stay, or drill there."))
    if call.depth_m is not None:
        said.append(Sentence("They are {deep} down.", {"deep": Quantity(call.depth_m, "m")}))
    return said
