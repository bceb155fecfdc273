"""A sonar unit: what it can do (its profile) and where its knobs stand (its settings).

Profiles are data. Gain is counted in the unit's own numbers; the profile says how many dB one step is worth and
which echo lights the first colour when the knob stands at its minimum (the unit's system constant).
"""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

from .checks import InputError, number

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
class UnitProfile:
    """What a unit can do. All lengths [m], powers [W], levels [dB re 1 uPa at 1 m or as received].

    rows                   picture rows from top to bottom
    colours                number of lit steps in the ladder, `colour_step_db` [dB] apart
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
    bottom_windows_m: tuple[float, ...]
    colours: int = 6
    colour_step_db: float = 6.0
    rows: int = 240
    ping_rate_hz: float = 20.0
    efficiency: float = 0.5
    noise_level_db: float = 62.0
    ring_down_db: float = 172.0
    ring_down_decay_db_m: float = 190.0

    def __post_init__(self) -> None:
        for name in ("beams", "powers_w", "pulses", "ranges_m"):
            if not getattr(self, name):
                raise InputError(f"{name} is empty; a unit has at least one")
        for power in self.powers_w:
            number("powers_w", power, 0.1, 5000.0, "W")
        for span in self.ranges_m:
            number("ranges_m", span, 1.0, 150.0, "m")
        if list(self.ranges_m) != sorted(self.ranges_m):
            raise InputError("ranges_m is not in order; list the ranges from smallest to largest")
        for height in self.bottom_windows_m:
            number("bottom_windows_m", height, 0.2, 20.0, "m")
        number("colours", self.colours, 2, 32)
        number("colour_step_db", self.colour_step_db, 0.5, 20.0, "dB")
        number("rows", self.rows, 16, 2048)
        number("ping_rate_hz", self.ping_rate_hz, 1.0, 100.0, "Hz")
        number("efficiency", self.efficiency, 0.01, 1.0)
        number("noise_level_db", self.noise_level_db, 0.0, 150.0, "dB")
        number("ring_down_db", self.ring_down_db, 0.0, 220.0, "dB")
        number("ring_down_decay_db_m", self.ring_down_decay_db_m, 10.0, 2000.0, "dB/m")


@dataclass(frozen=True)
class Settings:
    """Where the knobs stand: gain in the unit's numbers, range and bottom window [m; 0 for none], list positions."""

    gain: float
    range_m: float
    bottom_window_m: float = 0.0
    beam: int = 0
    power: int = 0
    pulse: int = 0

    def checked(self, unit: UnitProfile) -> Settings:
        """These settings if `unit` can be set so, gain brought to its nearest step; else ValueError."""
        scale = unit.gain
        gain = number("gain", self.gain, scale.minimum, scale.maximum)
        gain = scale.minimum + round((gain - scale.minimum) / scale.step) * scale.step
        range_m = _nearest("range_m", self.range_m, unit.ranges_m)
        window = _nearest("bottom_window_m", self.bottom_window_m, (0.0, *unit.bottom_windows_m))
        for name, choices in (("beam", unit.beams), ("power", unit.powers_w), ("pulse", unit.pulses)):
            position = getattr(self, name)
            if isinstance(position, bool) or position not in range(len(choices)):
                raise InputError(f"{name} is {position!r}: this unit has positions 0 to {len(choices) - 1}")
        return Settings(gain, range_m, window, self.beam, self.power, self.pulse)


def _nearest(name: str, value: float, choices: tuple[float, ...]) -> float:
    """The listed choice equal to `value` within a millimetre, or ValueError listing them."""
    wanted = number(name, value, 0.0, 1000.0, "m")
    for choice in choices:
        if abs(choice - wanted) < 1e-3:
            return choice
    raise InputError(f"{name} is {wanted:g} m: this unit has {', '.join(f'{choice:g}' for choice in choices)} m")


def starting_settings(unit: UnitProfile, bottom_range_m: float) -> Settings:
    """Settings to begin with at a hole: the smallest range that fits and gain in the middle of its scale."""
    middle = (unit.gain.minimum + unit.gain.maximum) / 2.0
    return Settings(middle, smallest_range(unit, bottom_range_m)).checked(unit)


def smallest_range(unit: UnitProfile, bottom_range_m: float) -> float:
    """The smallest range [m] of `unit` that shows the bottom with a margin below it; its largest if none does.

    "Smallest range that holds the bottom" is common practice, no source. The margin, 0.3 m or 3 percent, is ours.
    """
    needed = bottom_range_m + max(0.3, 0.03 * bottom_range_m)
    return next((span for span in unit.ranges_m if span >= needed), unit.ranges_m[-1])


def to_dict(unit: UnitProfile) -> dict[str, Any]:
    """The profile as plain dicts and lists, for JSON."""
    return asdict(unit)


def from_dict(fields: dict[str, Any]) -> UnitProfile:
    """The profile described by `fields` (as `to_dict` makes them). Raises ValueError naming what is wrong."""
    try:
        return UnitProfile(
            **{
                **fields,
                "beams": tuple(Beam(**beam) for beam in fields["beams"]),
                "pulses": tuple(Pulse(**pulse) for pulse in fields["pulses"]),
                "gain": GainScale(**fields["gain"]),
                "powers_w": tuple(fields["powers_w"]),
                "ranges_m": tuple(fields["ranges_m"]),
                "bottom_windows_m": tuple(fields["bottom_windows_m"]),
            }
        )
    except KeyError as missing:
        raise InputError(f"the unit profile lacks the field {missing.args[0]}") from None
    except TypeError as wrong:
        raise InputError(f"the unit profile has a field that is not known or of the wrong kind: {wrong}") from None


# One plain unit with invented numbers that hold together: 200 kHz, 12 degrees, 60 W, 0.1 ms.
TRAIL_UNIT = UnitProfile(
    name="One-beam trail unit",
    beams=(Beam("200 kHz", 200e3, 12.0),),
    powers_w=(60.0,),
    pulses=(Pulse("normal", 1e-4),),
    gain=GainScale(minimum=0.0, maximum=50.0, step=1.0, db_per_step=1.2, first_colour_db=140.0),
    ranges_m=tuple(feet * FOOT for feet in (10, 20, 30, 40, 60, 80, 100, 150, 200)),
    bottom_windows_m=tuple(feet * FOOT for feet in (6, 12)),
)
