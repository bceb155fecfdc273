"""What is known of a lake's bed: soundings, structures, and what lies at the bottom. Places are on the plane [m]."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ..acoustics.bottom import BOTTOM_KINDS
from ..fields import OneOf, Span, Text, check_fields, doc

How = Literal["drilled hole", "lead line", "sonar", "typed in"]
StructureKind = Literal[
    "timber", "brush", "boulder", "rock pile", "crib", "weed edge", "school seen", "spring", "inlet", "pressure ridge"
]
# What is thin or moving ice, wherever it stands: places that a plan warns of. Public safety advice in general.
THIN_ICE: tuple[StructureKind, ...] = ("spring", "inlet", "pressure ridge")
FAR_M = 100_000.0


@dataclass(frozen=True)
class Sounding:
    """A depth [m] at a place, when it was taken (ISO 8601, or nothing), and how."""

    east_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    north_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    depth_m: Annotated[float, Span(0.0, 500.0, "m")]
    how: How = "typed in"
    at: Annotated[str, Text(0, 40)] = ""
    bottom: Annotated[str, OneOf(("", *BOTTOM_KINDS)), doc("What lies there, where that is known")] = ""

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class Structure:
    """Something on the bed or in the ice, or where a school was seen, with a note."""

    east_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    north_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    kind: StructureKind
    note: Annotated[str, Text(0, 200)] = ""

    def __post_init__(self) -> None:
        check_fields(self)
