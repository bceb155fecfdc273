"""A head that looks along one upright plane: its sub-arrays, how it is mounted, how it hangs and where it is aimed.

Angles in the plane are counted from straight ahead, downwards [degrees]: 0 is level ahead, 90 straight down, 180 level
behind. The two profiles are the demo's own; their sizes are such as heads of this kind have.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Annotated, Literal, get_args

import numpy as np

from ..acoustics.array import LineArray
from ..checks import Floats
from ..fields import OneOf, Span, Text, check_fields, doc

Mounting = Literal["ahead", "down"]
ControlName = Literal[
    "gain", "ahead", "behind", "deep", "contrast", "weak_end", "clutter", "repeats", "damping", "tails", "ground",
    "squares", "numbers", "heading", "levelling", "ladder", "screen",
]  # fmt: skip
CONTROLS: tuple[ControlName, ...] = get_args(ControlName)
AXIS_DEG: dict[Mounting, float] = {"ahead": 60.0, "down": 90.0}  # where the fan's middle looks, hung as it should


@dataclass(frozen=True)
class FanHead:
    """A head: its sound, its sub-arrays side by side, what is sent and heard with, and which controls it has."""

    name: Annotated[str, Text(1, 80)]
    frequency_hz: Annotated[float, Span(300e3, 2e6, "Hz")]
    beams: Annotated[int, Span(16, 256), doc("Shown, over the whole fan")]
    sub_arrays: Annotated[int, Span(1, 6)]
    sub_array_deg: Annotated[float, Span(10.0, 90.0, "degrees"), doc("How wide a part of the fan one of them has")]
    thickness_deg: Annotated[
        float, Span(4.0, 40.0, "degrees"), doc("Of the fan, square to its plane, at -3 dB one way")
    ]
    elements: Annotated[int, Span(4, 256), doc("In the line that a sub-array hears with")]
    spacing_m: Annotated[float, Span(2e-4, 0.02, "m")]
    element_m: Annotated[float, Span(2e-4, 0.02, "m")]
    sends_m: Annotated[float, Span(2e-4, 0.02, "m"), doc("Length of the face that a sub-array sends with")]
    pulse_s: Annotated[float, Span(10e-6, 500e-6, "s")]
    power_w: Annotated[float, Span(1.0, 1000.0, "W")]
    efficiency: Annotated[float, Span(0.05, 1.0)]
    longest_m: Annotated[float, Span(10.0, 150.0, "m"), doc("How far it can be told to listen")]
    lacks: tuple[ControlName, ...] = ()

    def __post_init__(self) -> None:
        check_fields(self)

    @property
    def line(self) -> LineArray:
        """What a sub-array hears with."""
        return LineArray(self.elements, self.spacing_m, self.element_m)

    @property
    def face(self) -> LineArray:
        """What a sub-array sends with: one even face."""
        return LineArray(1, self.sends_m, self.sends_m)

    @property
    def fan_deg(self) -> float:
        """How wide the fan is [degrees]."""
        return self.sub_arrays * self.sub_array_deg

    @cached_property
    def beams_deg(self) -> Floats:
        """Where each beam looks, from the fan's middle (beams,) [degrees]; more is further behind."""
        return (np.arange(self.beams) + 0.5) / self.beams * self.fan_deg - self.fan_deg / 2.0

    @cached_property
    def normals_deg(self) -> Floats:
        """Where the sub-array of each beam looks, unsteered, from the fan's middle (beams,) [degrees]."""
        which = np.minimum((self.beams_deg + self.fan_deg / 2.0) // self.sub_array_deg, self.sub_arrays - 1)
        return np.asarray((which + 0.5) * self.sub_array_deg - self.fan_deg / 2.0)

    @property
    def seams_deg(self) -> tuple[float, ...]:
        """Where two sub-arrays meet, from the fan's middle [degrees]."""
        return tuple(k * self.sub_array_deg - self.fan_deg / 2.0 for k in range(1, self.sub_arrays))

    def has(self, control: ControlName) -> bool:
        """Whether the unit has this control."""
        return control not in self.lacks


@dataclass(frozen=True)
class FanHang:
    """How a head hangs: how deep, how it is mounted, how far off level it is, where the handle points, and how far the
    head stands off the handle; and the ice it hangs through."""

    depth_m: Annotated[float, Span(0.1, 20.0, "m"), doc("Of the head below the surface")] = 0.9
    mounting: Annotated[Mounting, OneOf({"ahead": "looks ahead", "down": "looks down"})] = "ahead"
    aim_deg: Annotated[float, Span(0.0, 360.0, "degrees"), doc("Where the handle points, from north")] = 0.0
    off_deg: Annotated[float, Span(-180.0, 180.0, "degrees"), doc("How far the head stands off the handle")] = 0.0
    nose_up_deg: Annotated[float, Span(-30.0, 30.0, "degrees"), doc("How far the head looks higher than it should")] = (
        0.0
    )
    roll_deg: Annotated[float, Span(-30.0, 30.0, "degrees"), doc("How far its plane leans; more is to the right")] = 0.0
    ice_m: Annotated[float, Span(0.05, 2.0, "m"), doc("How thick the ice is")] = 0.4

    def __post_init__(self) -> None:
        check_fields(self)

    @property
    def looks_deg(self) -> float:
        """Where the head really looks, from north [degrees]."""
        return (self.aim_deg + self.off_deg) % 360.0

    @property
    def axis_deg(self) -> float:
        """Where the fan's middle really looks, from level ahead downwards [degrees]."""
        return AXIS_DEG[self.mounting] - self.nose_up_deg

    @property
    def inside_ice_m(self) -> float:
        """How far the head is above the ice's underside [m]; 0 in the water."""
        return max(self.ice_m - self.depth_m, 0.0)


def in_fan(hang: FanHang, east_m: Floats, north_m: Floats, down_m: Floats) -> tuple[Floats, Floats, Floats]:
    """Range [m], angle in the plane and angle off the plane [rad] of places counted from the head, same shape.

    The plane holds the way ahead, and straight down leaned over by the roll. Raises nothing: any place has them.
    """
    aim, roll = np.radians(hang.looks_deg), np.radians(hang.roll_deg)
    ahead = east_m * np.sin(aim) + north_m * np.cos(aim)
    right = east_m * np.cos(aim) - north_m * np.sin(aim)
    r = np.sqrt(east_m**2 + north_m**2 + down_m**2)
    down = down_m * np.cos(roll) + right * np.sin(roll)
    off = right * np.cos(roll) - down_m * np.sin(roll)
    return r, np.arctan2(down, ahead), np.arcsin(np.clip(off / np.maximum(r, 1e-9), -1.0, 1.0))


# 0.95 of a wavelength apart: wide enough for a narrow lobe from few elements, and close enough that the second lobe
# falls where the sending face has little to give.
NEAR_REACH = FanHead(
    "Near reach", 1.0e6, 128, 3, 45.0, 18.0, 48, 1.337e-3, 1.266e-3, 1.83e-3, 60e-6, 90.0, 0.5, 40.0, ("heading",)
)
FAR_REACH = replace(
    NEAR_REACH, name="Far reach", frequency_hz=550e3, beams=96, thickness_deg=14.0, elements=32, spacing_m=2.43e-3,
    element_m=2.30e-3, sends_m=3.33e-3, pulse_s=110e-6, power_w=250.0, longest_m=60.0, lacks=("ground", "tails"),
)  # fmt: skip
FAN_HEADS: dict[str, FanHead] = {"near reach": NEAR_REACH, "far reach": FAR_REACH}
