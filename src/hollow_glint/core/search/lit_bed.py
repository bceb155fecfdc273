"""What sound that goes out sideways meets: bed and what stands on it, along bearings; what it returns, what hides what.

Each facet returns by its incidence as its kind does (Lambert's law and facets: Urick 1983; APL-UW TR 9407); behind what
stands up nothing is seen, by similar triangles. The sweep and the fan both look at this.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..acoustics import bottom
from ..checks import Floats
from .patch import BEDS, Patch

STANDS_LIKE = {"timber": "gravel", "brush": "weed carpet", "boulder": "rock", "rock pile": "rock", "crib": "gravel",
               "weed edge": "weed carpet"}  # fmt: skip
# What wood and stems return more or less than the bed that they are likened to [dB]. Common practice, no source.
LOUDER_DB = {"timber": 5.0, "brush": 6.0, "boulder": 6.0, "rock pile": 6.0, "crib": 7.0, "weed edge": 3.0}
# What sound can meet: the beds, and what stands on them as what it is likened to.
_SURFACES = [(name, 0.0) for name in BEDS] + [(like, LOUDER_DB[kind]) for kind, like in STANDS_LIKE.items()]


@dataclass(frozen=True, eq=False)
class LitBed:
    """Facets along bearings, all (bearings, samples): how far below the head and how far through the water [m], what
    each returns for a radian of bearing [m^2/rad], and the flattest way at which something is still seen, as depth
    below the head over distance along the ice."""

    down_m: Floats
    range_m: Floats
    strength_m2_rad: Floats
    horizon: Floats


def lit_bed(patch: Patch, turn_rad: Floats, along_m: Floats, depth_m: float, wavenumber: float) -> LitBed:
    """The facets that a head at `depth_m` [m] lights along bearings `turn_rad` (bearings,) [rad from north] at evenly
    spaced `along_m` (samples,) [m along the ice]; `wavenumber` [1/m]."""
    x = along_m
    top, looks = _tops(patch, turn_rad, x)
    z = top - depth_m
    # Seen is what no nearer thing stands before: the way to it is the flattest so far.
    flat = np.minimum.accumulate(z / x, axis=1)
    seen = z / x <= flat + 1e-9
    r = np.hypot(x, z)
    fall = np.gradient(z, x, axis=1)
    # The cosine between the way of the sound and what stands square to the bed.
    cosine = (z - x * fall) / (r * np.hypot(1.0, fall))
    incidence = np.arccos(np.clip(cosine, 0.0, 1.0))
    strength = np.zeros_like(r)
    for number, (name, louder) in enumerate(_SURFACES):
        here = looks == number
        strength[here] = bottom.interface_scattering(bottom.bottom_kind(name), wavenumber, incidence[here]) * 10.0 ** (
            louder / 10.0
        )
    area = r * (x[1] - x[0]) * np.hypot(1.0, fall)
    return LitBed(z, r, np.where(seen & (cosine > 0.0), strength * area, 0.0), flat)


def _tops(patch: Patch, turn_rad: Floats, x: Floats) -> tuple[Floats, NDArray[np.intp]]:
    """How deep the topmost thing is along each bearing (bearings, samples) [m], and which surface it has."""
    turn = turn_rad[:, None]
    east, north = x * np.sin(turn), x * np.cos(turn)
    depth = patch.depth_at(east, north)
    looks = patch.bed_at(east, north).astype(np.intp)
    raised = np.zeros_like(depth)
    for thing in patch.standing:
        near = (np.abs(east - thing.east_m) < thing.reach_m) & (np.abs(north - thing.north_m) < thing.reach_m)
        if not near.any():
            continue
        up = np.zeros_like(depth)
        up[near] = thing.raises(east[near], north[near])
        higher = up > raised
        raised[higher] = up[higher]
        looks[higher] = len(BEDS) + list(STANDS_LIKE).index(thing.kind)
    return np.asarray(np.maximum(depth - raised, 0.05)), looks
