"""Lures: each form as a few highlights, how it hangs and how it sinks.

A lure is a handful of points that answer: a jig is one sphere, a spoon is a blade and the ring it hangs by, a minnow
bait is a cylinder lying across the beam. Sizes of highlights without a source named are common practice.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..acoustics.targets import SOLIDS, cylinder_target_strength, plate_target_strength, sphere_target_strength
from ..checks import Floats, InputError, number, one_of

# A bait or jig is never quite still on its line; its echo wanders a little from ping to ping. Common practice.
FLUCTUATION_DB = 0.8
HANGING_BLADE = np.radians(76.0)  # a spoon hangs nearly on edge, seen from straight above
GLIDING_BLADE = np.radians(38.0)
ROCKING = np.radians(np.linspace(-8.0, 8.0, 65))  # how far a hanging blade or body rocks
RING_AND_HOOK_M = 0.010  # the split ring and treble of a spoon, as a steel sphere
BEAD_M = 0.002  # one bead of a hanging chain
CHAIN_BEADS = 4
SOFT_BODY_DB = -12.0  # a plastic or a grub against a rigid cylinder of its size: nearly water itself


@dataclass(frozen=True)
class Form:
    """One form of lure: what its second and third size mean, and how it moves on slack line.

    glide   metres aside for each metre that it falls on slack line
    """

    words: str
    length_m: tuple[float, float] | None = None
    spacing_m: tuple[float, float] | None = None
    glide: float = 0.0


FORMS: dict[str, Form] = {
    "jig": Form("small jig"),
    "baited jig": Form("jig with plastic or bait on the hook", length_m=(0.005, 0.08)),
    "chain jig": Form("jig with a hanging chain", spacing_m=(0.02, 0.12)),
    "two jigs": Form("two jigs on one line", spacing_m=(0.01, 1.0)),
    "spoon": Form("spoon", length_m=(0.015, 0.12), glide=0.55),
    "minnow": Form("horizontal minnow bait", length_m=(0.02, 0.12), glide=0.25),
    "camera": Form("camera", length_m=(0.02, 0.15)),
}


@dataclass(frozen=True)
class Highlights:
    """Points that answer: metres below the lure's depth, and target strength [dB re 1 m^2] of each, shape (points,)."""

    below_m: Floats
    strength_db: Floats


@lru_cache(maxsize=256)
def _sphere_strength(diameter_m: float, frequency_hz: float, sound_speed_m_s: float, material: str) -> float:
    """The modal series takes milliseconds and a lure keeps its size, so each is worked out once."""
    return float(sphere_target_strength(diameter_m, frequency_hz, sound_speed_m_s, material=material))


@dataclass(frozen=True)
class Lure:
    """A lure: its form, material and sizes [m].

    diameter_m   of the jig, the body or across the blade, 1 to 40 mm
    length_m     of the blade, body or soft bait, for the forms that have one; 0 otherwise
    spacing_m    between two jigs, or the chain's length; 0 otherwise

    Raises ValueError outside the spans.
    """

    name: str
    diameter_m: float
    material: str = "tungsten"
    form: str = "jig"
    length_m: float = 0.0
    spacing_m: float = 0.0

    def __post_init__(self) -> None:
        form = FORMS[one_of("form", self.form, tuple(FORMS))]
        one_of("material", self.material, tuple(SOLIDS))
        number("diameter_m", self.diameter_m, 0.001, 0.02 if form.length_m is None else 0.04, "m")
        for name, span in (("length_m", form.length_m), ("spacing_m", form.spacing_m)):
            value = getattr(self, name)
            if span is not None:
                number(name, value, *span, "m")
            elif value != 0.0:
                raise InputError(f"{name} is {value:g} m: a {form.words} has none, so only 0 is accepted")

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
        a jig of 3 mm would.
        """
        density = SOLIDS[self.material].density_kg_m3
        size = self.diameter_m if FORMS[self.form].length_m is None or self.form == "baited jig" else 0.003
        return 0.5 * float(np.sqrt(4.0 / 3.0 * 9.81 * size * (density / 1000.0 - 1.0) / 0.45))


@lru_cache(maxsize=1024)
def _highlights(lure: Lure, f: float, c: float, tilt: float | None) -> Highlights:
    if lure.form in ("spoon", "minnow", "camera"):
        return _long_body(lure, f, c, tilt)
    jig = _sphere_strength(lure.diameter_m, f, c, lure.material)
    points: list[tuple[float, float]] = [(0.0, jig)]
    if lure.form == "baited jig":
        body = float(cylinder_target_strength(lure.length_m, max(0.2 * lure.length_m, 0.002), f, c, np.radians(35.0)))
        # What hangs on a hook is curled and soft: its sides answer together, never like a straight rod end on.
        points.append((0.4 * lure.length_m, max(body, jig - 20.0) + SOFT_BODY_DB))
    elif lure.form == "chain jig":
        bead = _sphere_strength(BEAD_M, f, c, "brass")
        points += [(lure.spacing_m * (k + 1) / CHAIN_BEADS, bead) for k in range(CHAIN_BEADS)]
    elif lure.form == "two jigs":
        points.append((-lure.spacing_m, jig))
    below, strength = zip(*points, strict=True)
    return Highlights(np.array(below), np.array(strength))


def _long_body(lure: Lure, f: float, c: float, tilt: float | None) -> Highlights:
    """A blade, a minnow bait or a camera: its body by its tilt, and a ring or a lens that answers whatever the tilt."""
    # Nothing hangs quite still, so a body answers with the mean over the angles it rocks through.
    if lure.form == "spoon":
        lies = HANGING_BLADE if tilt is None else tilt
        body = plate_target_strength(lure.length_m, lure.diameter_m, f, c, lies + ROCKING)
        always = _sphere_strength(RING_AND_HOOK_M, f, c, "steel")
    else:
        lies = 0.0 if tilt is None else tilt
        body = cylinder_target_strength(lure.length_m, lure.diameter_m, f, c, lies + ROCKING)
        always = _sphere_strength(min(lure.diameter_m, 0.02), f, c, "steel")
    return Highlights(np.zeros(2), np.array([10.0 * np.log10(np.mean(10.0 ** (body / 10.0))), always]))
