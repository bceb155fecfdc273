"""A straight line of equal elements, steered by delays: its main lobe, its side lobes, and what steering costs.

The response is the array factor times the element's own pattern. Steered off its normal a line's lobe widens, and what
the element's pattern takes away there is lost; with elements too far apart a second, equal lobe appears. Sources: Urick
1983, Principles of Underwater Sound, chapter 3; Van Trees 2002, Optimum Array Processing, chapter 2.

Angles are from the line's normal [rad]. Amplitudes are one way and relative to an unsteered line on its normal.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np
from numpy.typing import ArrayLike

from ..checks import Floats, number, within
from ..fields import Span, check_fields, doc

HALF_POWER_WIDTHS = 0.8858929413789046  # of a long line's lobe, in wavelengths over its length: 2 x 1.39156 / pi


@dataclass(frozen=True)
class LineArray:
    """How many elements stand in the line, how far apart their middles are and how long each is [m]."""

    elements: Annotated[int, Span(1, 512)]
    spacing_m: Annotated[float, Span(1e-5, 0.1, "m")]
    element_m: Annotated[float, Span(1e-5, 0.1, "m"), doc("No longer than they are apart")]

    def __post_init__(self) -> None:
        check_fields(self)
        number("element_m", self.element_m, 1e-5, self.spacing_m, "m")

    @property
    def length_m(self) -> float:
        """How long the line is [m], half a gap at each end counted in."""
        return self.elements * self.spacing_m


def array_factor(line: LineArray, off_rad: ArrayLike, steered_rad: ArrayLike, wavelength_m: float) -> Floats:
    """Amplitude of the line's delays alone, 0 to 1: |sin(N u)/(N sin u)|, u = pi d/lambda (sin off - sin steered).

    `off_rad` and `steered_rad` broadcast [-pi/2 to pi/2]. Raises ValueError outside the spans. Source: Van Trees 2002;
    Urick 1983.
    """
    off, steered = (np.sin(_angle(*one)) for one in (("off_rad", off_rad), ("steered_rad", steered_rad)))
    u = np.pi * line.spacing_m / _wavelength(wavelength_m) * (off - steered)
    # Where u is a whole number of pi every element adds up: the main lobe, and grating lobes.
    turned = np.abs(np.sin(u)) < 1e-9
    below = np.where(turned, 1.0, line.elements * np.sin(u))
    return np.asarray(np.where(turned, 1.0, np.abs(np.sin(line.elements * u) / below)))


def element_amplitude(line: LineArray, off_rad: ArrayLike, wavelength_m: float) -> Floats:
    """Amplitude of one element, 0 to 1: |sinc(w/lambda sin off)|, an evenly driven face. Any shape [-pi/2 to pi/2].

    Raises ValueError outside the spans. Source: Urick 1983, line source.
    """
    return np.asarray(np.abs(np.sinc(line.element_m / _wavelength(wavelength_m) * np.sin(_angle("off_rad", off_rad)))))


def array_amplitude(line: LineArray, off_rad: ArrayLike, steered_rad: ArrayLike, wavelength_m: float) -> Floats:
    """Amplitude at `off_rad` of a line steered to `steered_rad`: its delays times its element. Shapes broadcast.

    Raises ValueError outside the spans. Source: pattern multiplication (Van Trees 2002).
    """
    return np.asarray(
        array_factor(line, off_rad, steered_rad, wavelength_m) * element_amplitude(line, off_rad, wavelength_m)
    )


def half_power_width(line: LineArray, steered_rad: ArrayLike, wavelength_m: float) -> Floats:
    """Full width of the main lobe at -3 dB one way [rad], steered to `steered_rad`; good for lines of some wavelengths.

    Where the line is steered so far that its lobe passes the line itself, it ends there. Any shape. Raises ValueError
    outside the spans. Source: Van Trees 2002.
    """
    middle = np.sin(_angle("steered_rad", steered_rad))
    half = 0.5 * HALF_POWER_WIDTHS * _wavelength(wavelength_m) / line.length_m
    return np.asarray(np.arcsin(np.minimum(middle + half, 1.0)) - np.arcsin(np.maximum(middle - half, -1.0)))


def widest_spacing(steered_rad: ArrayLike, wavelength_m: float) -> Floats:
    """How far apart elements may stand [m] so that nowhere a grating lobe is as loud as the main one, when the line is
    steered so far: lambda/(1 + |sin steered|). Any shape. Raises ValueError outside the spans. Source: Van Trees 2002.
    """
    return np.asarray(_wavelength(wavelength_m) / (1.0 + np.abs(np.sin(_angle("steered_rad", steered_rad)))))


def steering_loss_db(line: LineArray, steered_rad: ArrayLike, wavelength_m: float) -> Floats:
    """What steering costs in the main lobe, one way [dB, 0 and less]: the element's pattern there. Any shape.

    Raises ValueError outside the spans. Source: pattern multiplication (Van Trees 2002).
    """
    return np.asarray(20.0 * np.log10(np.maximum(element_amplitude(line, steered_rad, wavelength_m), 1e-10)))


def _angle(name: str, value: ArrayLike) -> Floats:
    return within(name, value, -np.pi / 2.0 - 1e-12, np.pi / 2.0 + 1e-12, "rad")


def _wavelength(value: float) -> float:
    return number("wavelength_m", value, 1e-5, 0.1, "m")
