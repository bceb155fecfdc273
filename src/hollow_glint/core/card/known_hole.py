"""What is known at a hole before fishing it, and what is assumed of the rest: the hole card's inputs.

Depth alone is enough. Everything else may be None, for "not known yet": then a middling value is assumed, and
`could_be` names what else it might be, so that the card can say which unknown costs most.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields, replace
from typing import Any

from ..acoustics.bottom import BOTTOM_KINDS
from ..checks import InputError, number, one_of
from ..hole.contents import DEEPEST_M, SPECIES, Neighbour
from ..hole.scene import CLARITY_DB, Scene
from .ice_guidance import ICE_KINDS

LIGHTS: dict[str, float] = {"day": 12.0, "dusk": 16.75, "night": 21.0}  # and the hour each stands for
LIVELINESS: dict[str, str] = {"quiet": "none", "some": "thin", "lively": "thick"}  # and the plankton it stands for
SCHOOLS = ("lean", "rich")
VIEWS = ("full", "window")
DEPTHS = ("true", "displayed")
FACE_MARGIN_M = 0.08  # a hand's width under the ice. Common practice, no source
LURE_OFF_BOTTOM_M = 1.2  # where a lure is begun with, for want of a better word. Common practice, no source

ASSUMED: dict[str, Any] = {
    "ice_thickness_m": 0.35, "slush_m": 0.0, "bottom_kind": "mud", "clarity": "stained", "light": "day",
    "liveliness": "some", "weed_height_m": 0.0, "fish_length_m": 0.3, "neighbours": (),
}  # fmt: skip
# The worst that an unknown might be instead, where that moves the gain window by anything worth telling.
COULD_BE: dict[str, Any] = {"clarity": "murky", "light": "night", "liveliness": "lively"}


@dataclass(frozen=True)
class KnownHole:
    """What someone knows at a hole, in the order in which it becomes known; None for not known.

    depth_m, depth_is     [m] of the bottom, below the surface ("true") or as the unit shows it ("displayed")
    face_depth_m          [m below the surface] where the transducer's face hangs now; None: where the card hangs it
    ice_thickness_m, ice_kind, snow_m, slush_m   [m]; kind in ice.ICE_KINDS
    bottom_kind, clarity  as a Scene's; light in LIGHTS; liveliness in LIVELINESS; weed_height_m [m]
    lure_depth_m          [m below the surface] of the (lower) lure; None: a little off the bottom
    lure_gap_m            [m] the second lure hangs above the first
    species, fish_length_m   whom it is for, and how long [m]
    neighbours            other units; None for not known
    holes                 1, or 2 with a second for the line
    school, view          "lean" or "rich"; "full" column or "window"
    window_m              height [m] of the window wished for; None: the card chooses
    temperature_c         [degrees C] of the water; hole_diameter_m [m]

    Raises ValueError naming, all together, what is out of its span or contradicts another.
    """

    depth_m: float
    depth_is: str = "true"
    ice_thickness_m: float | None = None
    ice_kind: str | None = None
    snow_m: float | None = None
    slush_m: float | None = None
    face_depth_m: float | None = None
    hole_diameter_m: float = 0.2
    temperature_c: float = 1.0
    bottom_kind: str | None = None
    clarity: str | None = None
    light: str | None = None
    liveliness: str | None = None
    weed_height_m: float | None = None
    lure_depth_m: float | None = None
    lure_gap_m: float = 0.15
    species: str | None = None
    fish_length_m: float | None = None
    neighbours: tuple[Neighbour, ...] | None = None
    holes: int = 1
    school: str = "lean"
    view: str = "full"
    window_m: float | None = None

    def __post_init__(self) -> None:
        problems: list[str] = []

        def tried(check: Callable[..., object], *arguments: object) -> None:
            try:
                check(*arguments)
            except InputError as wrong:
                problems.append(str(wrong))

        spans = {
            "depth_m": (0.5, DEEPEST_M), "ice_thickness_m": (0.0, 3.0), "snow_m": (0.0, 2.0), "slush_m": (0.0, 0.5),
            "face_depth_m": (0.0, 5.0), "hole_diameter_m": (0.08, 1.0), "weed_height_m": (0.0, 5.0),
            "lure_depth_m": (0.1, DEEPEST_M), "lure_gap_m": (0.01, 1.0), "fish_length_m": (0.03, 1.5),
            "window_m": (0.2, 20.0),
        }  # fmt: skip
        for name, (low, high) in spans.items():
            if getattr(self, name) is not None:
                tried(number, name, getattr(self, name), low, high, "m")
        tried(number, "temperature_c", self.temperature_c, 0.0, 25.0, "degrees C")
        names: dict[str, tuple[str, ...]] = {
            "depth_is": DEPTHS, "ice_kind": tuple(ICE_KINDS), "bottom_kind": tuple(BOTTOM_KINDS),
            "clarity": tuple(CLARITY_DB), "light": tuple(LIGHTS), "liveliness": tuple(LIVELINESS),
            "species": tuple(SPECIES), "school": SCHOOLS, "view": VIEWS,
        }  # fmt: skip
        for name, accepted in names.items():
            if getattr(self, name) is not None:
                tried(one_of, name, getattr(self, name), accepted)
        if self.holes not in (1, 2):
            problems.append(f"holes is {self.holes!r}: accepted are 1 and 2")
        if self.neighbours is not None and len(self.neighbours) > 6:
            problems.append(f"neighbours has {len(self.neighbours)} entries: accepted are up to 6")
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
        off = max(LURE_OFF_BOTTOM_M, float(self.known("weed_height_m")) + 0.3)
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

    def could_be(self) -> dict[str, KnownHole]:
        """For each unknown that moves the gain window, this hole with the worst that it might be."""
        return {name: replace(self, **{name: COULD_BE[name]}) for name in self.unknown() if name in COULD_BE}

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
