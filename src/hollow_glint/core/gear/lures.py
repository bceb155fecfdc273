"""Lures: a form with its material and sizes, how loud it answers and how fast it sinks."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated

import numpy as np

from ..acoustics.targets import SOLIDS
from ..checks import InputError, number
from ..fields import OneOf, Span, Text, check_fields, doc
from .form import Form, Highlights
from .forms import FORMS

# A bait or jig is never quite still on its line; its echo wanders a little from ping to ping. Common practice.
FLUCTUATION_DB = 0.8
OFF_BOTTOM_M = 1.2  # where a lure is begun with, for want of a better word. Common practice, no source


@dataclass(frozen=True)
class Lure:
    """A lure: its form, material and sizes. Length and spacing are 0 for the forms that have none.

    Raises ValueError outside the spans, which the form narrows.
    """

    name: Annotated[str, Text(1, 80)]
    diameter_m: Annotated[float, Span(0.001, 0.04, "m"), doc("Of the jig or body, or across the blade")]
    material: Annotated[str, OneOf(SOLIDS)] = "tungsten"
    form: Annotated[str, OneOf(FORMS)] = "jig"
    length_m: Annotated[float, Span(0.0, 0.15, "m"), doc("Of blade, body or soft bait")] = 0.0
    spacing_m: Annotated[float, Span(0.0, 1.0, "m"), doc("Between two jigs, or the chain's length")] = 0.0

    def __post_init__(self) -> None:
        check_fields(self)
        number("diameter_m", self.diameter_m, *self.kind.diameter_m, "m")
        for name, span in (("length_m", self.kind.length_m), ("spacing_m", self.kind.spacing_m)):
            value = getattr(self, name)
            if span is not None:
                number(name, value, *span, "m")
            elif value != 0.0:
                raise InputError(f"{name} is {value:g} m: a {self.form} has none, so only 0 is accepted")

    @property
    def kind(self) -> Form:
        """The lure's form."""
        return FORMS[self.form]

    @property
    def size_m(self) -> float:
        """How long [m] a fish takes the lure to be."""
        return max(self.diameter_m, self.length_m)

    @property
    def parted_m(self) -> float:
        """How far [m] a second jig hangs above the first; 0 with one."""
        return self.spacing_m if self.kind.parts else 0.0

    def highlights(self, frequency_hz: float, sound_speed_m_s: float, tilt_rad: float | None = None) -> Highlights:
        """The points that answer at `frequency_hz` [Hz], a blade or body tilted by `tilt_rad`, by itself if None.

        Jigs by Faran 1951; blades and bodies by the simple forms of Urick 1983.
        """
        return _highlights(self, frequency_hz, sound_speed_m_s, tilt_rad)

    def target_strength(self, frequency_hz: float, sound_speed_m_s: float) -> float:
        """Target strength [dB re 1 m^2] of the lure's strongest point as it hangs: what its gain floor rests on."""
        return float(self.highlights(frequency_hz, sound_speed_m_s).strength_db.max())

    @property
    def sink_speed_m_s(self) -> float:
        """Terminal speed [m/s] of the lure as a falling sphere, drag coefficient 0.45, slowed to half by its line.

        Standard drag; that the line about halves it is common practice, no source. Blades and bodies fall slower, as
        a small ball would.
        """
        density = SOLIDS[self.material].density_kg_m3
        size = self.diameter_m if self.kind.sinks_as_m is None else self.kind.sinks_as_m
        return 0.5 * float(np.sqrt(4.0 / 3.0 * 9.81 * size * (density / 1000.0 - 1.0) / 0.45))


USUAL_JIG = Lure("5 mm tungsten jig", 0.005)  # what most people tie on first. Common practice, no source


@lru_cache(maxsize=1024)
def _highlights(lure: Lure, f: float, c: float, tilt: float | None) -> Highlights:
    return lure.kind.answers(lure, f, c, tilt)
