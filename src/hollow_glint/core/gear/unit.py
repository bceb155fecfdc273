"""A sonar unit: what it can do, as data that people copy and edit.

Gain is counted in the unit's own numbers; the profile says how many dB one step is worth and which echo lights the
first colour when the knob stands at its minimum (the unit's system constant).
"""

from __future__ import annotations

from dataclasses import asdict, dataclass, fields
from functools import cached_property
from typing import Annotated, Any

import numpy as np

from ..checks import InputError, number
from ..fields import Len, OneOf, Span, Text, check_fields, doc, from_fields
from .ladders import SIX_STEP, Ladder

FOOT = 0.3048  # m, exact
MOST_LISTED = 32  # entries of any list of a profile: a position on a knob fits in a byte with room to spare
Name = Annotated[str, Text(1, 80)]


@dataclass(frozen=True)
class Beam:
    """One beam."""

    name: Name
    frequency_hz: Annotated[float, Span(20e3, 1e6, "Hz")]
    width_deg: Annotated[float, Span(3.0, 60.0, "degrees"), doc("Full width at level_db")]
    level_db: Annotated[float, Span(-20.0, -1.0, "dB"), doc("One way")] = -3.0

    def __post_init__(self) -> None:
        check_fields(self, "beams")


@dataclass(frozen=True)
class Pulse:
    """One pulse length."""

    name: Name
    duration_s: Annotated[float, Span(5e-6, 2e-3, "s")]

    def __post_init__(self) -> None:
        check_fields(self, "pulses")


@dataclass(frozen=True)
class GainScale:
    """The gain knob: its numbers, the dB each step adds, and the system constant."""

    minimum: Annotated[float, Span(-1000.0, 1000.0), doc("Lowest number on the knob")]
    maximum: Annotated[float, Span(-1000.0, 1000.0), doc("Highest number on the knob")]
    step: Annotated[float, Span(1e-3, 2000.0), doc("From one number to the next")]
    db_per_step: Annotated[float, Span(0.01, 20.0, "dB"), doc("What one step adds")]
    first_colour_db: Annotated[
        float, Span(60.0, 220.0, "dB"), doc("Echo level re 1 uPa that just lights the first colour at the minimum")
    ]

    def __post_init__(self) -> None:
        check_fields(self, "gain")
        if self.maximum <= self.minimum:
            raise InputError(f"gain.maximum is {self.maximum:g}: it must be more than gain.minimum, {self.minimum:g}")
        number("gain.step", self.step, 1e-3, self.maximum - self.minimum)

    def decibels(self, gain: float) -> float:
        """The dB that knob position `gain` adds over the minimum."""
        return (gain - self.minimum) / self.step * self.db_per_step

    def position(self, decibels: float) -> float:
        """The knob position, not rounded and not limited, that adds `decibels` over the minimum."""
        return self.minimum + decibels / self.db_per_step * self.step

    def first_colour_at(self, gain: float) -> float:
        """Echo level [dB re 1 uPa] that lights the six-step ladder's first colour with the knob at `gain`."""
        return self.first_colour_db - self.decibels(gain)

    def nearest(self, gain: float) -> float:
        """The knob step nearest to `gain`, limited to the knob."""
        return self._step(round((gain - self.minimum) / self.step))

    def at_or_above(self, gain: float) -> float:
        """The lowest knob step that is not below `gain`; past the maximum where the knob has none."""
        return float(self.minimum + np.ceil((gain - self.minimum) / self.step - 1e-9) * self.step)

    def at_or_below(self, gain: float) -> float:
        """The highest knob step that is not above `gain`; under the minimum where the knob has none."""
        return float(self.minimum + np.floor((gain - self.minimum) / self.step + 1e-9) * self.step)

    def _step(self, n: float) -> float:
        return float(np.clip(self.minimum + n * self.step, self.minimum, self.maximum))


@dataclass(frozen=True)
class Rejection:
    """One step of interference rejection: keeps what most of the last `pings` pings show."""

    pings: Annotated[int, Span(1, 15), doc("1 for none")]
    rate: Annotated[float, Span(0.1, 1.0), doc("Share of the picture rate that is left")] = 1.0
    stagger: Annotated[float, Span(0.0, 0.5), doc("How far each ping interval is moved about, share of it")] = 0.0

    def __post_init__(self) -> None:
        check_fields(self, "rejections")

    @property
    def needed(self) -> int:
        """In how many of the pings an echo must be to stay: more than half."""
        return int(self.pings) // 2 + 1


@dataclass(frozen=True)
class Calibrated:
    """How surely a unit's gain scale is known from readings taken with a known jig (see `calibration`); 1 sd each."""

    readings: Annotated[int, Span(1, 1000), doc("How many were used")]
    first_colour_sd_db: Annotated[float, Span(0.0, 100.0, "dB"), doc("Of the system constant")]
    db_per_step_sd: Annotated[float, Span(0.0, 100.0, "dB"), doc("Of a gain step's worth")]
    covariance_db2: Annotated[float, Span(-1e4, 1e4), doc("Of the two")]
    colour_step_sd_db: Annotated[float, Span(0.0, 100.0, "dB"), doc("Of a colour step")]

    def __post_init__(self) -> None:
        check_fields(self, "calibrated")

    def position_sd(self, scale: GainScale, gain: float) -> float:
        """How surely a level's place on the knob near `gain` is known, in the knob's numbers [1 sd].

        The knob's n steps answer a level L with n = (constant - L) / slope; their errors carried over to first order.
        """
        n = (gain - scale.minimum) / scale.step
        variance = self.first_colour_sd_db**2 - 2.0 * n * self.covariance_db2 + (n * self.db_per_step_sd) ** 2
        return float(np.sqrt(max(variance, 0.0))) / scale.db_per_step * scale.step


PICTURES = ("trace", "strip", "ring")
AtLeastOne = Len(1, MOST_LISTED)
AnyNumber = Len(0, MOST_LISTED)


@dataclass(frozen=True)
class UnitProfile:
    """What a unit can do. The first of each list of steps is off; the first ladder and picture are what it starts with.

    Raises ValueError naming every field that is wrong.
    """

    name: Name
    beams: Annotated[tuple[Beam, ...], AtLeastOne]
    powers_w: Annotated[tuple[Annotated[float, Span(0.1, 5000.0, "W")], ...], AtLeastOne, doc("Electrical")]
    pulses: Annotated[tuple[Pulse, ...], AtLeastOne]
    gain: GainScale
    ranges_m: Annotated[
        tuple[Annotated[float, Span(1.0, 150.0, "m")], ...], AtLeastOne,
        doc("What the range knob has; with free_range anything from the first to the last"),
    ]  # fmt: skip
    bottom_windows_m: Annotated[
        tuple[Annotated[float, Span(0.2, 20.0, "m")], ...], AnyNumber, doc("Heights of windows that follow the bottom")
    ] = ()
    colour_step_db: Annotated[float, Span(0.5, 20.0, "dB"), doc("Between two colours")] = 6.0
    rows: Annotated[int, Span(16, 2048), doc("Picture rows from top to bottom")] = 240
    ping_rate_hz: Annotated[float, Span(1.0, 100.0, "Hz")] = 20.0
    efficiency: Annotated[float, Span(0.01, 1.0), doc("Sound out of electrical power")] = 0.5
    noise_level_db: Annotated[
        float, Span(0.0, 150.0, "dB"), doc("The receiver's own noise with the first pulse, as an echo level re 1 uPa")
    ] = 62.0
    ring_down_db: Annotated[
        float,
        Span(0.0, 220.0, "dB"),
        doc("The transducer's ringing just after a pulse of the greatest power, re 1 uPa"),
    ] = 172.0
    ring_down_decay_db_m: Annotated[float, Span(10.0, 2000.0, "dB/m"), doc("How fast it dies away")] = 190.0
    free_range: Annotated[bool, doc("Whether the range knob stands anywhere")] = False
    auto_range: Annotated[bool, doc("Whether it can choose the range by itself")] = False
    free_windows_m: Annotated[
        tuple[Annotated[float, Span(0.2, 20.0, "m")], ...], AnyNumber, doc("Heights of windows put anywhere")
    ] = ()
    window_beside: Annotated[bool, doc("Whether a window can stand beside the full column")] = False
    rejections: Annotated[tuple[Rejection, ...], Len(1, 21), doc("Steps of interference rejection")] = (Rejection(1),)
    noise_filters: Annotated[tuple[Annotated[int, Span(1, 31)], ...], AtLeastOne, doc("Bins averaged over")] = (1,)
    tvg_db_decade: Annotated[
        tuple[Annotated[float, Span(0.0, 60.0, "dB")], ...], AtLeastOne, doc("Time-varied gain a decade of range")
    ] = (0.0,)
    blanking_m: Annotated[
        tuple[Annotated[float, Span(0.0, 10.0, "m")], ...], AtLeastOne, doc("Surface blanking below the face")
    ] = (0.0,)
    ladders: Annotated[tuple[Ladder, ...], AtLeastOne, doc("Colour ladders")] = (SIX_STEP,)
    pictures: Annotated[tuple[Annotated[str, OneOf(PICTURES)], ...], Len(1, len(PICTURES))] = ("trace", "strip")
    scroll_speeds: Annotated[tuple[Annotated[int, Span(1, 8)], ...], Len(1, 8), doc("Columns a ping draws")] = (1,)
    brightness: Annotated[
        tuple[Annotated[float, Span(0.1, 1.0)], ...], AtLeastOne, doc("Steps of the screen's light, share of full")
    ] = (1.0,)
    draw_a: Annotated[float, Span(0.0, 20.0, "A"), doc("Current it draws with the screen's light off")] = 0.2
    light_a: Annotated[float, Span(0.0, 20.0, "A"), doc("What full light draws besides")] = 0.25
    directional: Annotated[bool, doc("Whether the transducer looks to one side and has to be turned")] = False
    lowest_battery_v: Annotated[float, Span(1.0, 60.0, "V"), doc("What the battery must be above")] = 11.0
    calibrated: Annotated[Calibrated | None, doc("How surely the gain scale is known; null: as the profile says")] = (
        None
    )

    def __hash__(self) -> int:
        # As a scene's: looked up by at every ping.
        return self._hash

    @cached_property
    def _hash(self) -> int:
        return hash(tuple(getattr(self, one.name) for one in fields(self)))

    def __post_init__(self) -> None:
        check_fields(self)
        if list(self.ranges_m) != sorted(self.ranges_m):
            raise InputError("ranges_m is not in order; list the ranges from smallest to largest")


def unit_to_dict(unit: UnitProfile) -> dict[str, Any]:
    """The profile as plain dicts and lists, for JSON."""
    return asdict(unit)


def unit_from_dict(given: dict[str, Any]) -> UnitProfile:
    """The profile of plain fields, as `unit_to_dict` makes them. Raises ValueError naming what is wrong."""
    return from_fields(UnitProfile, given, "the unit profile")
