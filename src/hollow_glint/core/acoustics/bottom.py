"""The bottom: what it mirrors, what its roughness scatters aside, and the tail from inside the sediment.

Normal-incidence reflection by the Rayleigh formula; the coherent mirror image loses exp(-4 k^2 h^2) in intensity
to roughness (Eckart 1953) and what it loses is scattered by facets (high-frequency Kirchhoff form) and by a small
Lambert term; sound that enters the sediment is scattered back from within while it decays. Known limits: refraction
and the sediment's own sound speed are left out of the tail's geometry.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..checks import Floats, one_of


@dataclass(frozen=True)
class BottomKind:
    """One kind of bottom.

    density_ratio, speed_ratio   sediment over water [1]
    loss_parameter               imaginary over real wave number in the sediment [1]
    volume_parameter             sediment volume scattering over its attenuation [(1/m sr) / (dB/m)]
    roughness_m                  rms height inside one Fresnel zone [m]
    facet_slope                  rms slope of the facets [1]
    lambert_db                   Lambert coefficient [dB]
    """

    name: str
    density_ratio: float
    speed_ratio: float
    loss_parameter: float
    volume_parameter: float
    roughness_m: float
    facet_slope: float
    lambert_db: float
    feel: Literal["soft", "hard"] = "soft"

    @property
    def words(self) -> str:
        """What to call it: a weight on a line tells soft from hard."""
        return f"{self.name}, {self.feel}"


# Density, speed and loss: APL-UW TR 9407, geoacoustic table (clay, silt as sandy clay, medium sand, gravel as sandy
# gravel, rough rock), values from memory. Weed carpet: mud under a low fur of stems, no source.
# Roughness, slope, Lambert and volume terms: sizes common in lakes, chosen by us, no source.
BOTTOM_KINDS: dict[str, BottomKind] = {
    "mud": BottomKind("mud", 1.145, 0.9801, 0.00148, 0.0006, 0.3e-3, 0.08, -38.0),
    "silt": BottomKind("silt", 1.147, 0.9849, 0.00242, 0.0010, 0.35e-3, 0.09, -36.0),
    "sand": BottomKind("sand", 1.845, 1.1782, 0.01624, 0.0006, 0.4e-3, 0.10, -30.0, "hard"),
    "gravel": BottomKind("gravel", 2.492, 1.3370, 0.01705, 0.0004, 0.8e-3, 0.18, -23.0, "hard"),
    "rock": BottomKind("rock", 2.500, 2.5000, 0.01374, 0.0001, 0.5e-3, 0.25, -20.0, "hard"),
    "weed carpet": BottomKind("weed carpet", 1.10, 0.985, 0.0040, 0.0020, 1.2e-3, 0.30, -27.0),
}


def bottom_kind(name: str) -> BottomKind:
    """The bottom kind called `name`, or ValueError naming those there are."""
    return BOTTOM_KINDS[one_of("bottom_kind", name, tuple(BOTTOM_KINDS))]


def reflection_coefficient(kind: BottomKind) -> float:
    """Pressure reflection coefficient at normal incidence [1], (z - 1)/(z + 1). Rayleigh; Urick 1983."""
    impedance = kind.density_ratio * kind.speed_ratio
    return (impedance - 1.0) / (impedance + 1.0)


def coherent_share(roughness_m: float, wave_number: float) -> float:
    """Share of the reflected intensity that stays a mirror image [1], exp(-4 k^2 h^2). Source: Eckart 1953."""
    return float(np.exp(-4.0 * (wave_number * roughness_m) ** 2))


def interface_scattering(kind: BottomKind, wave_number: float, incidence_rad: Floats) -> Floats:
    """Backscattering cross-section of the interface per unit area [1/sr], same shape as `incidence_rad` [rad].

    Facets (Kirchhoff, high-frequency limit) carry what roughness takes from the mirror image; Lambert's law adds
    the wide-angle part. Source: Urick 1983; the facet form as in standard texts on sea-floor scattering, from memory.
    """
    scattered = reflection_coefficient(kind) ** 2 * (1.0 - coherent_share(kind.roughness_m, wave_number))
    s2 = kind.facet_slope**2
    facets: Floats = scattered / (8.0 * np.pi * s2 * np.cos(incidence_rad) ** 4)
    facets = facets * np.exp(-(np.tan(incidence_rad) ** 2) / (2.0 * s2))
    lambert: Floats = 10.0 ** (kind.lambert_db / 10.0) * np.cos(incidence_rad) ** 2
    return facets + lambert


def sediment_attenuation(kind: BottomKind, wave_number: float) -> float:
    """Attenuation inside the sediment [dB/m], one way. Source: APL-UW TR 9407 (loss parameter), Hamilton."""
    return 8.686 * kind.loss_parameter * wave_number / kind.speed_ratio


def sediment_tail(kind: BottomKind, wave_number: float, below_m: Floats) -> Floats:
    """Backscatter from inside the sediment per unit area and metre [1/(m sr)] at `below_m` under the interface."""
    attenuation = sediment_attenuation(kind, wave_number)
    entering = (1.0 - reflection_coefficient(kind) ** 2) ** 2
    return kind.volume_parameter * attenuation * entering * 10.0 ** (-2.0 * attenuation * below_m / 10.0)
