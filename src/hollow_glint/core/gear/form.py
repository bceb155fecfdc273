"""What a form of lure is: the points that answer, how it hangs and glides, how it sinks, and which sizes it has.

Each form is one file of `forms`, found by itself: a new file there is a new form in Gear, on the Bench, in cards and in
files. Sizes of highlights without a source named are common practice.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Protocol

import numpy as np

from ..acoustics.targets import sphere_target_strength
from ..checks import Floats


class Sizes(Protocol):
    """The part of a lure that its form looks at: material and sizes [m]."""

    @property
    def material(self) -> str: ...
    @property
    def diameter_m(self) -> float: ...
    @property
    def length_m(self) -> float: ...
    @property
    def spacing_m(self) -> float: ...


@dataclass(frozen=True)
class Highlights:
    """Points that answer: metres below the lure's depth, and target strength [dB re 1 m^2] of each, shape (points,)."""

    below_m: Floats
    strength_db: Floats


# Of a lure at a frequency [Hz] and sound speed [m/s], tilted [rad off level] or, for None, as the form hangs.
Answers = Callable[[Sizes, float, float, float | None], Highlights]


@dataclass(frozen=True)
class Form:
    """One form of lure.

    name, words          what it is called in files, and on the page; `order` where it stands in lists
    answers              the points that answer
    diameter_m           least and most diameter [m]; length_m and spacing_m the same, None where it has none
    diameter_words       what its diameter, length and spacing are called on the page
    parts                whether its spacing parts two jigs, each a mark of its own
    glide                metres aside for each metre that it falls on slack line
    gliding_tilt_rad     how it lies while it glides [rad off flat], None for as it hangs
    sinks_as_m           diameter of the ball that sinks as fast [m], None for its own diameter
    """

    name: str
    words: str
    order: int
    answers: Answers
    diameter_m: tuple[float, float] = (0.001, 0.02)
    length_m: tuple[float, float] | None = None
    spacing_m: tuple[float, float] | None = None
    diameter_words: str = "Diameter"
    length_words: str = ""
    spacing_words: str = ""
    parts: bool = False
    glide: float = 0.0
    gliding_tilt_rad: float | None = None
    sinks_as_m: float | None = None


@lru_cache(maxsize=256)
def sphere_strength(diameter_m: float, frequency_hz: float, sound_speed_m_s: float, material: str) -> float:
    """The modal series takes milliseconds and a lure keeps its size, so each is worked out once."""
    return float(sphere_target_strength(diameter_m, frequency_hz, sound_speed_m_s, material=material))


def points(*each: tuple[float, float]) -> Highlights:
    """Highlights from (metres below the lure's depth, target strength) pairs."""
    below, strength = zip(*each, strict=True)
    return Highlights(np.array(below), np.array(strength))


ROCKING = np.radians(np.linspace(-8.0, 8.0, 65))  # how far a hanging blade or body rocks


def rocking_mean(strength_db: Floats) -> float:
    """The mean echo [dB re 1 m^2] over the angles that a blade or body rocks through: nothing hangs quite still."""
    return float(10.0 * np.log10(np.mean(10.0 ** (strength_db / 10.0))))
