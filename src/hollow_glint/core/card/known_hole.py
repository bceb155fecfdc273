"""What is known at a hole before fishing it, and what is assumed of the rest: the hole card's inputs.

Depth alone is enough. Everything else may be None, for "not known yet": then a middling value is assumed, and
`could_be` names what else it might be, so that the card can say which unknown costs most.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from itertools import product
from typing import Annotated, Any

from ..checks import InputError
from ..fields import Len, OneOf, Span, doc, problems_of
from ..gear.lures import OFF_BOTTOM_M
from ..hole.contents import SPECIES, Depth, Neighbour
from ..hole.scene import (
    MOST_NEIGHBOURS,
    BottomDepth,
    BottomKindName,
    Clarity,
    FaceDepth,
    HoleDiameter,
    IceThickness,
    Scene,
    Slush,
    Temperature,
    WeedHeight,
)
from .ice_guidance import ICE_KINDS

LIGHTS: dict[str, float] = {"day": 12.0, "dusk": 16.75, "night": 21.0}  # and the hour each stands for
LIVELINESS: dict[str, str] = {"quiet": "none", "some": "thin", "lively": "thick"}  # and the plankton it stands for
LIFE_WORDS = {"quiet": "quiet water", "some": "some life", "lively": "full of life"}
SCHOOLS = ("lean", "rich")
VIEWS = ("full", "window")
DEPTHS = ("true", "displayed")
FACE_MARGIN_M = 0.08  # a hand's width under the ice. Common practice, no source

ASSUMED: dict[str, Any] = {
    "ice_thickness_m": 0.35, "slush_m": 0.0, "bottom_kind": "mud", "clarity": "stained", "light": "day",
    "liveliness": "some", "weed_height_m": 0.0, "fish_length_m": 0.3, "neighbours": (),
}  # fmt: skip
# The worst that an unknown might be instead, where that moves the gain window by anything worth telling. Plankton
# stands elsewhere at dusk than at night, and which is worse depends on the time-varied gain.
COULD_BE: dict[str, tuple[str, ...]] = {
    "clarity": ("murky",), "light": ("dusk", "night"), "liveliness": ("lively",),
}  # fmt: skip


@dataclass(frozen=True)
class KnownHole:
    """What someone knows at a hole, in the order in which it becomes known; None for not known.

    Raises ValueError naming, all together, what is out of its span or contradicts another.
    """

    depth_m: Annotated[BottomDepth, doc("Depth of the bottom")]
    depth_is: Annotated[str, OneOf(DEPTHS), doc("Below the water's surface, or as the unit displays it")] = "true"
    ice_thickness_m: IceThickness | None = None
    ice_kind: Annotated[str | None, OneOf(ICE_KINDS)] = None
    snow_m: Annotated[float | None, Span(0.0, 2.0, "m"), doc("Snow on the ice")] = None
    slush_m: Slush | None = None
    face_depth_m: Annotated[FaceDepth | None, doc("Where the transducer's face hangs now")] = None
    hole_diameter_m: HoleDiameter = 0.2
    temperature_c: Temperature = 1.0
    bottom_kind: BottomKindName | None = None
    clarity: Clarity | None = None
    light: Annotated[str | None, OneOf(LIGHTS)] = None
    liveliness: Annotated[str | None, OneOf(LIVELINESS, LIFE_WORDS), doc("How much lives in the water")] = None
    weed_height_m: WeedHeight | None = None
    lure_depth_m: Annotated[Depth | None, doc("Of the lower lure, below the surface; null: a little off bottom")] = None
    lure_gap_m: Annotated[float, Span(0.01, 1.0, "m"), doc("From the first lure up to the second")] = 0.15
    species: Annotated[str | None, OneOf(SPECIES), doc("Whom it is for")] = None
    fish_length_m: Annotated[float | None, Span(0.03, 1.5, "m")] = None
    neighbours: Annotated[
        tuple[Neighbour, ...] | None, Len(0, MOST_NEIGHBOURS), doc("Other units; null for not known")
    ] = None
    holes: Annotated[int, Span(1, 2), doc("2 with a second hole for the line")] = 1
    school: Annotated[str, OneOf(SCHOOLS)] = "lean"
    view: Annotated[str, OneOf(VIEWS), doc("Full column or window")] = "full"
    window_m: Annotated[float | None, Span(0.2, 20.0, "m"), doc("Height of the window wished for")] = None

    def __post_init__(self) -> None:
        problems = problems_of(self)
        if not problems:
            problems = self._contradictions()
        if problems:
            raise InputError("; ".join(problems))

    def _contradictions(self) -> list[str]:
        """What cannot be true together: all of it, not the first alone."""
        true = self.true_depth_m
        deep = f"the bottom is at {true:g} m"
        found = [
            f"{name} is {value:g} m but {deep}: {name} must leave at least {room:g} m of water"
            for name, value, room in (
                ("ice_thickness_m", self.ice_thickness_m, 0.4),
                ("face_depth_m", self.face_depth_m, 0.2),
                ("weed_height_m", self.weed_height_m, self.advised_face_m + 0.1),
            )
            if value is not None and value > true - room
        ]
        column = true - self.advised_face_m
        if self.window_m is not None and self.window_m > column:
            found.append(f"window_m is {self.window_m:g} m but the column under the face is {column:g} m high")
        if self.foot_of_hole_m > true - 0.4 and self.ice_thickness_m is None:
            found.append(f"depth_m is {self.depth_m:g} m: with ice of usual thickness that leaves no water to fish")
        if self.lure_depth_m is not None:
            if self.lure_depth_m > true:
                found.append(f"lure_depth_m is {self.lure_depth_m:g} m but {deep}: the lure hangs above the bottom")
            elif self.lure_depth_m < self.advised_face_m + 0.1:
                found.append(
                    f"lure_depth_m is {self.lure_depth_m:g} m: the transducer's face hangs at "
                    f"{self.advised_face_m:.2f} m, and sees only what is at least 0.1 m below it"
                )
        return found

    @property
    def foot_of_hole_m(self) -> float:
        """Where [m] ice and slush end."""
        return float(max(self.known("ice_thickness_m"), self.known("slush_m")))

    @property
    def advised_face_m(self) -> float:
        """Where [m below the surface] the face should hang: a hand's width below ice and slush."""
        return self.foot_of_hole_m + FACE_MARGIN_M

    @property
    def true_depth_m(self) -> float:
        """The bottom [m below the surface]: a displayed depth is short by what the face hangs down."""
        if self.depth_is == "true":
            return self.depth_m
        return self.depth_m + (self.advised_face_m if self.face_depth_m is None else self.face_depth_m)

    @property
    def lure_at_m(self) -> float:
        """Where [m below the surface] the lure is fished: as given, or a little off the bottom, or above the weeds."""
        if self.lure_depth_m is not None:
            return self.lure_depth_m
        off = max(OFF_BOTTOM_M, float(self.known("weed_height_m")) + 0.3)
        return max(self.true_depth_m - off, 0.5 * (self.advised_face_m + self.true_depth_m))

    def known(self, name: str) -> Any:
        """The value of `name`, or what is assumed of it; a species brings a usual length."""
        value = getattr(self, name)
        if value is not None:
            return value
        if name == "fish_length_m" and self.species is not None:
            return round(sum(SPECIES[self.species].length_m) / 2.0, 3)
        return ASSUMED[name]

    def unknown(self) -> tuple[str, ...]:
        """Names of what is not known and has to be assumed, in the order in which it would become known."""
        missing = [one.name for one in fields(self) if getattr(self, one.name) is None and one.name in ASSUMED]
        return tuple(name for name in missing if not (name == "fish_length_m" and self.species is not None))

    def could_be(self) -> dict[str, tuple[KnownHole, ...]]:
        """For each unknown that moves the gain window, this hole with the worst that it might be."""
        unknown = [name for name in self.unknown() if name in COULD_BE]
        return {name: tuple(replace(self, **{name: one}) for one in COULD_BE[name]) for name in unknown}  # type: ignore[arg-type]

    def at_worst(self) -> tuple[KnownHole, ...]:
        """This hole with the worst of all that is unknown at once."""
        unknown = [name for name in self.unknown() if name in COULD_BE]
        return tuple(
            replace(self, **dict(zip(unknown, values, strict=True)))  # type: ignore[arg-type]
            for values in product(*(COULD_BE[name] for name in unknown))
        )

    def scene(self) -> Scene:
        """The water as it is taken to be, the transducer hung as the card hangs it."""
        return Scene(
            bottom_depth_m=self.true_depth_m,
            bottom_kind=self.known("bottom_kind"),
            ice_thickness_m=self.known("ice_thickness_m"),
            face_depth_m=self.advised_face_m,
            hole_diameter_m=self.hole_diameter_m,
            temperature_c=self.temperature_c,
            clarity=self.known("clarity"),
            slush_m=self.known("slush_m"),
            hour=LIGHTS[self.known("light")],
            plankton=LIVELINESS[self.known("liveliness")],
            weed_height_m=self.known("weed_height_m"),
            neighbours=self.known("neighbours"),
            visitors=1,
        )
