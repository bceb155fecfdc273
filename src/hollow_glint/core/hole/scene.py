"""What is true under the hole: ice, water, bottom, weeds, what hangs, what swims, who else is pinging. The start.

Co-ordinates: x and y [m] to the side of the hole's middle, z [m] downwards from the water's surface in the hole.
The transducer's face hangs at (0, 0, face_depth_m); the range the sonar shows is measured from there.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import cached_property
from typing import Annotated, Any

import numpy as np

from ..acoustics.bottom import BOTTOM_KINDS
from ..checks import Floats, InputError, number
from ..fields import Len, OneOf, Span, check_fields, doc, from_fields
from .contents import DEEPEST_M, Hung, Neighbour, Shoal, Structure

# Volume backscattering strength [dB re 1/m] for words people use of water. Sized so that open water at 9.4 m returns
# about 78 dB when clear and 98 dB with plankton at night on the design's 200 kHz unit. Common practice, no source.
CLARITY_DB: dict[str, float] = {"clear": -84.0, "stained": -76.0, "murky": -70.0, "plankton": -64.0}
# The thickest part of a plankton layer, same measure. It lies low by day and rises into the column at dusk.
PLANKTON_DB: dict[str, float] = {"none": -200.0, "thin": -70.0, "thick": -62.0}
SILT_DB = -50.0  # just stirred up, at the bottom
SILT_HEIGHT_M = 0.8  # how high it stands: its strength falls to 1/e over this
WEED_DB = -26.0  # a dense bed, stems and bubbles; sized so that its top reads as a bottom. Common practice
WEED_LOSS_DB_M = 9.0  # one way through a dense bed


# What several places say of a hole, each with its span here alone.
BottomDepth = Annotated[float, Span(0.5, DEEPEST_M, "m"), doc("Depth of the bottom below the water's surface")]
BottomKindName = Annotated[str, OneOf(BOTTOM_KINDS), doc("What the bottom is made of")]
IceThickness = Annotated[float, Span(0.0, 3.0, "m"), doc("Thickness of the ice")]
FaceDepth = Annotated[float, Span(0.0, 5.0, "m"), doc("Transducer face below the water's surface")]
HoleDiameter = Annotated[float, Span(0.08, 1.0, "m"), doc("Diameter of the hole")]
Temperature = Annotated[float, Span(0.0, 25.0, "degrees C"), doc("Temperature of the deeper water")]
Clarity = Annotated[str, OneOf(CLARITY_DB, {"plankton": "full of plankton"}), doc("How much hangs in the water")]
Slush = Annotated[float, Span(0.0, 0.5, "m"), doc("Slush in the hole")]
WeedHeight = Annotated[float, Span(0.0, 5.0, "m"), doc("Height of standing weed")]
MOST_NEIGHBOURS = 8
MOST_SCHOOLING = 120  # fish in all shoals together


@dataclass(frozen=True)
class Scene:
    """One hole, as it is. Depths are below the water's surface in the hole; the spans stand with the fields.

    Raises ValueError naming every field that is out of its span or contradicts another.
    """

    bottom_depth_m: BottomDepth
    bottom_kind: BottomKindName
    ice_thickness_m: IceThickness
    face_depth_m: FaceDepth
    hole_diameter_m: HoleDiameter = 0.2
    temperature_c: Temperature = 1.0
    clarity: Clarity = "clear"
    slush_m: Slush = 0.0
    tilt_deg: Annotated[float, Span(0.0, 30.0, "degrees"), doc("How far the face hangs off plumb, to +x")] = 0.0
    face_wet: Annotated[bool, doc("False for a dry, unrubbed face")] = True
    on_float: Annotated[bool, doc("False when it hangs by its cable alone, and swings")] = True
    second_hole_m: Annotated[
        float, Span(0.0, 5.0, "m"), doc("Distance along +x to a second hole, from 0.3 m; 0: none")
    ] = 0.0
    under_ice_c: Annotated[
        float | None, Span(0.0, 25.0, "degrees C"), doc("Temperature just under the ice; null for the same")
    ] = None
    hour: Annotated[float, Span(0.0, 24.0, "h"), doc("Hour of the day; plankton rises at dusk")] = 12.0
    plankton: Annotated[str, OneOf(PLANKTON_DB), doc("How thick the plankton is")] = "none"
    silt: Annotated[float, Span(0.0, 1.0), doc("How much silt is stirred up")] = 0.0
    slope_deg: Annotated[float, Span(0.0, 30.0, "degrees"), doc("Slope of the bottom, deeper towards +x")] = 0.0
    roughness_m: Annotated[float | None, Span(0.0, 0.2, "m"), doc("In place of the roughness of its kind")] = None
    weed_height_m: WeedHeight = 0.0
    weed_density: Annotated[float, Span(0.0, 1.0), doc("Density of the weed")] = 0.5
    visitors: Annotated[int, Span(0, 6), doc("Fish that may come to the lure at once")] = 1
    structures: Annotated[tuple[Structure, ...], Len(0, 4), doc("What lies on the bottom")] = ()
    hung: Annotated[tuple[Hung, ...], Len(0, 2), doc("What hangs in the second hole")] = ()
    shoals: Annotated[tuple[Shoal, ...], Len(0, 6), doc("Schools and bait")] = ()
    neighbours: Annotated[tuple[Neighbour, ...], Len(0, MOST_NEIGHBOURS), doc("Who else pings near")] = ()

    def __post_init__(self) -> None:
        check_fields(self)
        if self.second_hole_m != 0.0:
            number("second_hole_m", self.second_hole_m, 0.3, 5.0, "m")
        if sum(one.count for one in self.shoals) > MOST_SCHOOLING:
            raise InputError(
                f"shoals.count adds up to {sum(one.count for one in self.shoals)}: "
                f"accepted are up to {MOST_SCHOOLING} fish"
            )
        if self.hung and self.second_hole_m == 0.0:
            raise InputError("hung needs a second hole: give second_hole_m from 0.3 to 5 m, or hang nothing")
        deep = [
            ("ice_thickness_m", self.ice_thickness_m, 0.2),
            ("face_depth_m", self.face_depth_m, 0.2),
            ("weed_height_m", self.weed_height_m + max(self.ice_thickness_m, self.face_depth_m), 0.0),
            *(("hung.depth_m", one.depth_m, 0.0) for one in self.hung),
            *(("shoals.depth_m", one.depth_m, 0.05) for one in self.shoals),
        ]
        problems = [
            f"{name} is {value:g} m but bottom_depth_m is {self.bottom_depth_m:g} m: "
            f"{name} must leave at least {room:g} m of water above the bottom"
            for name, value, room in deep
            if value > self.bottom_depth_m - room
        ]
        if problems:
            raise InputError("; ".join(problems))

    def __hash__(self) -> int:
        # What is worked out for a scene is looked up by it at every ping, and it has many fields: hash them once.
        return self._hash

    @cached_property
    def _hash(self) -> int:
        return hash(tuple(getattr(self, one.name) for one in fields(self)))

    @property
    def volume_scattering_db(self) -> float:
        """Volume backscattering strength [dB re 1/m] of the water itself, without plankton or silt."""
        return CLARITY_DB[self.clarity]

    @property
    def bottom_range_m(self) -> float:
        """Distance from the transducer's face straight down to the bottom [m]."""
        return self.bottom_depth_m - self.face_depth_m

    @property
    def inside_ice_m(self) -> float:
        """How far [m] above the foot of the hole, ice or slush, the transducer's face is; 0 when it is clear."""
        return max(max(self.ice_thickness_m, self.slush_m) - self.face_depth_m, 0.0)

    @cached_property
    def weed_top_m(self) -> float:
        """Depth [m] at which the weeds end; the bottom's own depth when there are none."""
        return self.bottom_depth_m - (self.weed_height_m if self.weed_density > 0.0 else 0.0)

    def temperature_at(self, depth_m: Floats) -> Floats:
        """Water temperature [degrees C] at `depth_m` [m], same shape: coldest under the ice, settled 3 m below it."""
        top = self.temperature_c if self.under_ice_c is None else self.under_ice_c
        below = np.maximum(np.asarray(depth_m, dtype=np.float64) - self.ice_thickness_m, 0.0)
        return self.temperature_c + (top - self.temperature_c) * np.exp(-below)

    def volume_scattering(self, depth_m: Floats) -> Floats:
        """Volume backscattering coefficient [1/m] of open water at `depth_m` [m], same shape: clarity, plankton, silt.

        By day plankton lies low in the water; it rises at dusk, fills the upper column at night, and sinks at dawn.
        """
        depth = np.asarray(depth_m, dtype=np.float64)
        strength = np.full_like(depth, 10.0 ** (CLARITY_DB[self.clarity] / 10.0))
        if self.plankton != "none":
            up = night_share(self.hour)
            middle = self.ice_thickness_m + (self.bottom_depth_m - self.ice_thickness_m) * (0.88 - 0.38 * up)
            spread = (self.bottom_depth_m - self.ice_thickness_m) * (0.06 + 0.44 * up)
            strength += 10.0 ** (PLANKTON_DB[self.plankton] / 10.0) * np.exp(-(((depth - middle) / spread) ** 4))
        if self.silt > 0.0:
            above = np.maximum(self.bottom_depth_m - depth, 0.0)
            strength += self.silt * 10.0 ** (SILT_DB / 10.0) * np.exp(-above / SILT_HEIGHT_M)
        return strength

    def weed_scattering(self, depth_m: Floats) -> Floats:
        """Volume backscattering coefficient [1/m] of the weeds at `depth_m` [m], same shape; stems stand in clumps."""
        depth = np.asarray(depth_m, dtype=np.float64)
        if self.weed_height_m == 0.0 or self.weed_density == 0.0:
            return np.zeros_like(depth)
        inside = (depth >= self.weed_top_m) & (depth <= self.bottom_depth_m)
        clumps = 0.55 + 0.45 * np.sin(2.0 * np.pi * depth / 0.23) * np.sin(2.0 * np.pi * depth / 0.61 + 1.0)
        standing: Floats = inside * clumps * self.weed_density * 10.0 ** (WEED_DB / 10.0)
        return standing


def night_share(hour: float) -> float:
    """How far plankton has risen at `hour` [h, 0 to 24]: 0 by day, 1 at night, an hour and a half to rise or sink.

    Dusk about 16:30 and dawn about 8, as in a northern January. Common practice, no source.
    """
    dusk = float(np.clip((hour - 15.75) / 1.5, 0.0, 1.0))
    dawn = float(np.clip((8.75 - hour) / 1.5, 0.0, 1.0))
    return max(dusk, dawn)


def scene_from_dict(given: dict[str, Any]) -> Scene:
    """The scene described by plain fields, as `asdict` makes them. Raises ValueError naming what is wrong."""
    return from_fields(Scene, given, "the scene")
