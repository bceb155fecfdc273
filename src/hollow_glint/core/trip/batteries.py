"""A battery through a day on the ice: what is in it by its volts, what age has taken, when it is dead, and what helps.

Volts at rest and fading with age are handbook curves (Reddy 2011, Linden's Handbook of Batteries, 4th edition, chapters
16 and 26), from memory; so each answer is a span.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

import numpy as np

from ..checks import number
from ..fields import Span, Text, check_fields, doc
from ..wording import Quantity, Sentence
from .power import Chemistry, Hours, lasts

# Volts at rest, hours after charging, of a battery called 12 V, and the share that is in it. From memory.
VOLTS: dict[str, tuple[tuple[float, float], ...]] = {
    "lead": (
        (10.5, 0.0), (11.51, 0.1), (11.66, 0.2), (11.81, 0.3), (11.96, 0.4), (12.10, 0.5), (12.24, 0.6), (12.37, 0.7),
        (12.50, 0.8), (12.62, 0.9), (12.73, 1.0),
    ),
    "lithium iron phosphate": (
        (10.0, 0.0), (12.0, 0.09), (12.5, 0.14), (12.8, 0.17), (12.9, 0.2), (13.0, 0.3), (13.1, 0.4), (13.2, 0.7),
        (13.3, 0.9), (13.4, 0.99), (13.6, 1.0),
    ),
}  # fmt: skip
METER_V = 0.05  # what a common volt meter leaves unsure, for a battery called 12 V. Common practice, no source
# Charges after which four fifths of the capacity are left. From memory.
FADES_CHARGES: dict[str, float] = {"lead": 300.0, "lithium iron phosphate": 2000.0}
FADED = 0.2


@dataclass(frozen=True)
class Battery:
    """A battery: its kind, capacity [Ah] over the hours it is rated for, volts it is called by, and how often it was
    charged."""

    name: Annotated[str, Text(1, 60)]
    chemistry: Chemistry
    capacity_ah: Annotated[float, Span(0.1, 1000.0, "Ah")]
    rated_hours: Annotated[float, Span(0.5, 100.0, "h"), doc("Over how long it is rated; 20 is common")] = 20.0
    nominal_v: Annotated[float, Span(3.0, 60.0, "V"), doc("What it is called: 12 V")] = 12.0
    charges: Annotated[int, Span(0, 10_000), doc("How often it was charged")] = 0
    spare: Annotated[bool, doc("Comes along for another, warm in the bag")] = False

    def __post_init__(self) -> None:
        check_fields(self)

    @property
    def left_by_age(self) -> float:
        """The share of its capacity that its charges have left."""
        return max(1.0 - FADED * self.charges / FADES_CHARGES[self.chemistry], 0.3)


@dataclass(frozen=True)
class Charged:
    """The share of a full battery that is in it: at the least, likely, at the most."""

    low: float
    likely: float
    high: float


FULL = Charged(1.0, 1.0, 1.0)


def charge_by_volts(battery: Battery, volts: float) -> Charged:
    """How full a battery is by its volts [V] at rest. Raises ValueError outside half to one and a half of its name."""
    number("volts", volts, 0.5 * battery.nominal_v, 1.5 * battery.nominal_v, "V")
    at = volts * 12.0 / battery.nominal_v
    known, share = zip(*VOLTS[battery.chemistry], strict=True)
    low, likely, high = (float(np.interp(one, known, share)) for one in (at - METER_V, at, at + METER_V))
    return Charged(low, likely, high)


def hours_of(battery: Battery, draw_a: float, temperature_c: float, charged: Charged = FULL) -> Hours:
    """How long it gives a draw [A] in a cold [deg C], with what is in it and what age has taken."""
    new = lasts(battery.chemistry, battery.capacity_ah, battery.rated_hours, draw_a, temperature_c).hours
    age = battery.left_by_age
    return Hours(new.low * age * charged.low, new.likely * age * charged.likely, new.high * age * charged.high)


@dataclass(frozen=True)
class Draw:
    """What a unit draws: with its light off, and what full light adds [A]."""

    dark_a: float
    light_a: float

    def at(self, brightness: float) -> float:
        """At a share of its light [A]."""
        return max(self.dark_a + self.light_a * brightness, 0.005)


@dataclass(frozen=True)
class Alive:
    """When a battery is dead, as minutes of the day at the least, likely and at the most; whether it lives the day; why
    and what would help."""

    dead_min: Hours
    lives: Literal["yes", "perhaps", "no"]
    said: Sentence
    helps: tuple[Sentence, ...]


@dataclass(frozen=True)
class Use:
    """A unit's day: from when to when it runs [min], how cold it is, how bright its screen, and when the sun sets."""

    begins_min: float
    ends_min: float
    temperature_c: float
    brightness: float
    sunset_min: float | None
    turned_down: float | None = None  # the light after sunset, where it is turned down


DAY_END_MIN = 1439.0
TURNED_DOWN = (0.5, 0.3, 0.1)  # lights that are tried, brightest first


def through_the_day(
    battery: Battery, draw: Draw, use: Use, spares: tuple[Battery, ...] = (), charged: Charged = FULL
) -> Alive:
    """When the battery is dead, and what would keep the unit alive."""
    dead = _dead(battery, draw, use, charged)
    values = {
        "low": Quantity(dead.low, "clock"),
        "likely": Quantity(dead.likely, "clock"),
        "cold": Quantity(use.temperature_c, "degrees C"),
        "draw": Quantity(draw.at(use.brightness), "A"),
    }
    if dead.low >= use.ends_min:
        return Alive(dead, "yes", Sentence("It lives through the day at {draw} and {cold}.", values), ())
    lives: Literal["perhaps", "no"] = "perhaps" if dead.likely >= use.ends_min else "no"
    words = "At {draw} and {cold} it is dead at {likely}, or as early as {low}."
    if lives == "perhaps":
        words = "At {draw} and {cold} it likely lives through the day, but may be dead as early as {low}."
    return Alive(dead, lives, Sentence(words, values), _helps(battery, draw, use, spares, charged, dead))


def _dead(battery: Battery, draw: Draw, use: Use, charged: Charged) -> Hours:
    """Minute of the day at which it is empty: what the bright hours leave is used up in the darker ones."""
    first = hours_of(battery, draw.at(use.brightness), use.temperature_c, charged)
    if use.turned_down is None or use.sunset_min is None:
        each = (60.0 * one for one in (first.low, first.likely, first.high))
        return Hours(*(use.begins_min + one for one in each))
    then = hours_of(battery, draw.at(use.turned_down), use.temperature_c, charged)
    bright_h = max(use.sunset_min - use.begins_min, 0.0) / 60.0
    found = []
    for a, b in ((first.low, then.low), (first.likely, then.likely), (first.high, then.high)):
        hours = a if a <= bright_h else bright_h + (1.0 - bright_h / a) * b
        found.append(use.begins_min + 60.0 * hours)
    return Hours(*found)


def _turned_down(
    battery: Battery, draw: Draw, use: Use, charged: Charged, from_min: float
) -> tuple[float, Hours] | None:
    """The brightest light from a minute on that likely saves the day, else the lowest, and when it is dead then."""
    found = None
    for light in TURNED_DOWN:
        if light < use.brightness:
            found = light, _dead(battery, draw, replace(use, sunset_min=from_min, turned_down=light), charged)
            if found[1].likely >= use.ends_min:
                break
    return found


def _helps(
    battery: Battery, draw: Draw, use: Use, spares: tuple[Battery, ...], charged: Charged, dead: Hours
) -> tuple[Sentence, ...]:
    said = []
    for from_, words in (
        (use.sunset_min, "Turned down to {light} of its light after sunset ({when})"),
        (use.begins_min, "Turned down to {light} of its light from the start"),
    ):
        tried = None if from_ is None or from_ >= dead.likely else _turned_down(battery, draw, use, charged, from_)
        if tried is None or from_ is None:
            continue
        light, then = tried
        values = {
            "light": Quantity(100.0 * light, "percent"),
            "when": Quantity(from_, "clock"),
            "until": Quantity(min(then.likely, DAY_END_MIN), "clock"),
            "least": Quantity(min(then.low, DAY_END_MIN), "clock"),
        }
        less = "" if then.likely >= use.ends_min else " That does not save the day."
        said.append(Sentence(f"{words}, it lives until {{until}}, at the least {{least}}.{less}", values))
    for spare in spares:
        more = hours_of(spare, draw.at(use.brightness), use.temperature_c)
        values = {
            "until": Quantity(min(dead.likely + 60.0 * more.likely, DAY_END_MIN), "clock"),
            "least": Quantity(min(dead.low + 60.0 * more.low, DAY_END_MIN), "clock"),
        }
        words = f"With the spare ({spare.name}) it lives until {{until}}, at the least {{least}}."
        said.append(Sentence(words, values))
    if not spares:
        said.append(Sentence("A spare battery, kept warm in the bag, would carry it on."))
    return tuple(said)


CAUTIONS: tuple[str, ...] = (
    "Never charge lithium below freezing: bring it in and let it warm through first.",
    "Keep spares warm and dry, and their terminals covered.",
    "A battery that is swollen, dented, hot or leaking is not used, not charged and not carried in a vehicle's cabin.",
    "Charge on a surface that does not burn, with the charger made for that kind, and never unwatched.",
    "How batteries may be carried in aircraft and by mail is ruled by law: ask first.",
)
