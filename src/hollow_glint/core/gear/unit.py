"""A sonar unit: what it can do, as data that people copy and edit.

Gain is counted in the unit's own numbers; the profile says how many dB one step is worth and which echo lights the
first colour when the knob stands at its minimum (the unit's system constant).
"""

from __future__ import annotations

from dataclasses import asdict, dataclass, fields
from functools import cached_property
from typing import Any

import numpy as np

from ..checks import InputError, number, one_of
from .ladders import SIX_STEP, Ladder, Step

FOOT = 0.3048  # m, exact


@dataclass(frozen=True)
class Beam:
    """One beam: frequency [Hz] and full width [degrees] at a stated one-way level [dB]."""

    name: str
    frequency_hz: float
    width_deg: float
    level_db: float = -3.0

    def __post_init__(self) -> None:
        number("beam.frequency_hz", self.frequency_hz, 20e3, 1e6, "Hz")
        number("beam.width_deg", self.width_deg, 3.0, 60.0, "degrees")
        number("beam.level_db", self.level_db, -20.0, -1.0, "dB")


@dataclass(frozen=True)
class Pulse:
    """One pulse length [s]."""

    name: str
    duration_s: float

    def __post_init__(self) -> None:
        number("pulse.duration_s", self.duration_s, 5e-6, 2e-3, "s")


@dataclass(frozen=True)
class GainScale:
    """The gain knob: its numbers, the dB each step adds, and the system constant.

    first_colour_db   echo level [dB re 1 uPa] that just lights the first colour with gain at its minimum
    """

    minimum: float
    maximum: float
    step: float
    db_per_step: float
    first_colour_db: float

    def __post_init__(self) -> None:
        number("gain.minimum", self.minimum, -1000.0, 1000.0)
        number("gain.maximum", self.maximum, -1000.0, 1000.0)
        if self.maximum <= self.minimum:
            raise InputError(f"gain.maximum is {self.maximum:g}: it must be more than gain.minimum, {self.minimum:g}")
        number("gain.step", self.step, 1e-3, self.maximum - self.minimum)
        number("gain.db_per_step", self.db_per_step, 0.01, 20.0, "dB")
        number("gain.first_colour_db", self.first_colour_db, 60.0, 220.0, "dB")

    def decibels(self, gain: float) -> float:
        """The dB that knob position `gain` adds over the minimum."""
        return (gain - self.minimum) / self.step * self.db_per_step

    def position(self, decibels: float) -> float:
        """The knob position, not rounded and not limited, that adds `decibels` over the minimum."""
        return self.minimum + decibels / self.db_per_step * self.step


@dataclass(frozen=True)
class Rejection:
    """One step of interference rejection: keeps what most of the last `pings` pings show [1 for none, to 15].

    rate      share of the picture rate that is left, 0.1 to 1
    stagger   how far each ping interval is moved about [share of the interval, 0 to 0.5]
    """

    pings: int
    rate: float = 1.0
    stagger: float = 0.0

    def __post_init__(self) -> None:
        number("rejections.pings", self.pings, 1, 15)
        number("rejections.rate", self.rate, 0.1, 1.0)
        number("rejections.stagger", self.stagger, 0.0, 0.5)

    @property
    def needed(self) -> int:
        """In how many of the pings an echo must be to stay: more than half."""
        return int(self.pings) // 2 + 1


@dataclass(frozen=True)
class Calibrated:
    """How surely a unit's gain scale is known from readings taken with a known jig (see `calibration`).

    readings             how many were used
    first_colour_sd_db   of the system constant [dB, 1 sd], db_per_step_sd of a gain step's worth [dB],
    covariance_db2       of the two [dB^2], colour_step_sd_db of a colour step's [dB]
    """

    readings: int
    first_colour_sd_db: float
    db_per_step_sd: float
    covariance_db2: float
    colour_step_sd_db: float

    def __post_init__(self) -> None:
        number("calibrated.readings", self.readings, 1, 1000)
        number("calibrated.first_colour_sd_db", self.first_colour_sd_db, 0.0, 100.0, "dB")
        number("calibrated.db_per_step_sd", self.db_per_step_sd, 0.0, 100.0, "dB")
        number("calibrated.covariance_db2", self.covariance_db2, -1e4, 1e4)
        number("calibrated.colour_step_sd_db", self.colour_step_sd_db, 0.0, 100.0, "dB")

    def position_sd(self, scale: GainScale, gain: float) -> float:
        """How surely a level's place on the knob near `gain` is known, in the knob's numbers [1 sd].

        The knob's n steps answer a level L with n = (constant - L) / slope; their errors carried over to first order.
        """
        n = (gain - scale.minimum) / scale.step
        variance = self.first_colour_sd_db**2 - 2.0 * n * self.covariance_db2 + (n * self.db_per_step_sd) ** 2
        return float(np.sqrt(max(variance, 0.0))) / scale.db_per_step * scale.step


PICTURES = ("trace", "strip", "ring")


@dataclass(frozen=True)
class UnitProfile:
    """What a unit can do. All lengths [m], powers [W], levels [dB re 1 uPa at 1 m or as received].

    ranges_m               what the range knob has; with `free_range` anything from the first to the last
    auto_range             whether it can choose the range by itself
    bottom_windows_m       heights of windows that follow the bottom; free_windows_m of windows put anywhere
    window_beside          whether a window can stand beside the full column
    rejections             steps of interference rejection, off first
    noise_filters          bins each step averages over, 1 (off) first
    tvg_db_decade          time-varied gain [dB per decade of range], 0 (off) first
    blanking_m             surface blanking [m below the face], 0 (off) first
    ladders, pictures      colour ladders and picture kinds it has, first is what it starts with
    scroll_speeds          columns each ping draws on the trace
    brightness             steps of the screen's light [share of full]; draw_a and light_a current draw [A]
    rows                   picture rows from top to bottom; colour_step_db [dB] between colours
    directional            whether the transducer looks to one side and has to be turned
    lowest_battery_v       what the battery must be above [V]
    calibrated             how surely the gain scale is known, None for as the profile says
    noise_level_db         the receiver's own noise, as an echo level [dB re 1 uPa]
    ring_down_db           level of the transducer's ringing just after the pulse [dB re 1 uPa]
    ring_down_decay_db_m   how fast it dies away [dB per m of range]

    Raises ValueError naming the field.
    """

    name: str
    beams: tuple[Beam, ...]
    powers_w: tuple[float, ...]
    pulses: tuple[Pulse, ...]
    gain: GainScale
    ranges_m: tuple[float, ...]
    bottom_windows_m: tuple[float, ...] = ()
    colour_step_db: float = 6.0
    rows: int = 240
    ping_rate_hz: float = 20.0
    efficiency: float = 0.5
    noise_level_db: float = 62.0
    ring_down_db: float = 172.0
    ring_down_decay_db_m: float = 190.0
    free_range: bool = False
    auto_range: bool = False
    free_windows_m: tuple[float, ...] = ()
    window_beside: bool = False
    rejections: tuple[Rejection, ...] = (Rejection(1),)
    noise_filters: tuple[int, ...] = (1,)
    tvg_db_decade: tuple[float, ...] = (0.0,)
    blanking_m: tuple[float, ...] = (0.0,)
    ladders: tuple[Ladder, ...] = (SIX_STEP,)
    pictures: tuple[str, ...] = ("trace", "strip")
    scroll_speeds: tuple[int, ...] = (1,)
    brightness: tuple[float, ...] = (1.0,)
    draw_a: float = 0.2
    light_a: float = 0.25
    directional: bool = False
    lowest_battery_v: float = 11.0
    calibrated: Calibrated | None = None

    def __hash__(self) -> int:
        # As a scene's: looked up by at every ping.
        return self._hash

    @cached_property
    def _hash(self) -> int:
        return hash(tuple(getattr(self, one.name) for one in fields(self)))

    def __post_init__(self) -> None:
        for name in ("beams", "powers_w", "pulses", "ranges_m", *LISTED):
            if not getattr(self, name):
                raise InputError(f"{name} is empty; a unit has at least one")
            if len(getattr(self, name)) > 32:
                raise InputError(f"{name} has {len(getattr(self, name))} entries: accepted are up to 32")
        for power in self.powers_w:
            number("powers_w", power, 0.1, 5000.0, "W")
        for span in self.ranges_m:
            number("ranges_m", span, 1.0, 150.0, "m")
        if list(self.ranges_m) != sorted(self.ranges_m):
            raise InputError("ranges_m is not in order; list the ranges from smallest to largest")
        for name in ("bottom_windows_m", "free_windows_m"):
            for height in getattr(self, name):
                number(name, height, 0.2, 20.0, "m")
        for bins in self.noise_filters:
            number("noise_filters", bins, 1, 31)
        for slope in self.tvg_db_decade:
            number("tvg_db_decade", slope, 0.0, 60.0, "dB")
        for depth in self.blanking_m:
            number("blanking_m", depth, 0.0, 10.0, "m")
        for kind in self.pictures:
            one_of("pictures", kind, PICTURES)
        for speed in self.scroll_speeds:
            number("scroll_speeds", speed, 1, 8)
        for share in self.brightness:
            number("brightness", share, 0.1, 1.0)
        if len(self.rejections) > 21:
            raise InputError(f"rejections has {len(self.rejections) - 1} steps above off: accepted are up to 20")
        number("colour_step_db", self.colour_step_db, 0.5, 20.0, "dB")
        number("rows", self.rows, 16, 2048)
        number("ping_rate_hz", self.ping_rate_hz, 1.0, 100.0, "Hz")
        number("efficiency", self.efficiency, 0.01, 1.0)
        number("noise_level_db", self.noise_level_db, 0.0, 150.0, "dB")
        number("ring_down_db", self.ring_down_db, 0.0, 220.0, "dB")
        number("ring_down_decay_db_m", self.ring_down_decay_db_m, 10.0, 2000.0, "dB/m")
        number("draw_a", self.draw_a, 0.0, 20.0, "A")
        number("light_a", self.light_a, 0.0, 20.0, "A")
        number("lowest_battery_v", self.lowest_battery_v, 1.0, 60.0, "V")


LISTED = ("rejections", "noise_filters", "tvg_db_decade", "blanking_m", "ladders", "pictures", "scroll_speeds",
          "brightness")  # fmt: skip
PLAIN_LISTS = ("bottom_windows_m", "free_windows_m", "noise_filters", "tvg_db_decade", "blanking_m", "pictures",
               "scroll_speeds", "brightness")  # fmt: skip


def _ladder(given: dict[str, Any]) -> Ladder:
    return Ladder(**{**given, "steps": tuple(Step(**step) for step in given["steps"])})


def unit_to_dict(unit: UnitProfile) -> dict[str, Any]:
    """The profile as plain dicts and lists, for JSON."""
    return asdict(unit)


def unit_from_dict(given: dict[str, Any]) -> UnitProfile:
    """The profile described by `given` fields (as `to_dict` makes them). Raises ValueError naming what is wrong."""
    try:
        return UnitProfile(
            **{
                **given,
                "beams": tuple(Beam(**beam) for beam in given["beams"]),
                "pulses": tuple(Pulse(**pulse) for pulse in given["pulses"]),
                "gain": GainScale(**given["gain"]),
                "powers_w": tuple(given["powers_w"]),
                "ranges_m": tuple(given["ranges_m"]),
                **{name: tuple(given[name]) for name in PLAIN_LISTS if name in given},
                "rejections": tuple(Rejection(**one) for one in given.get("rejections", [{"pings": 1}])),
                "ladders": tuple(_ladder(one) for one in given["ladders"]) if "ladders" in given else (SIX_STEP,),
                "calibrated": Calibrated(**given["calibrated"]) if given.get("calibrated") else None,
            }
        )
    except KeyError as missing:
        raise InputError(f"the unit profile lacks the field {missing.args[0]}") from None
    except TypeError as wrong:
        raise InputError(f"the unit profile has a field that is not known or of the wrong kind: {wrong}") from None
