"""Every fish that a mark could be: each length at each distance aside, with the colour the sonar equation gives it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..hole.scene import Scene
from ..sonar import ping
from ..sonar.transmission import Transmission
from . import sizing
from .observation import COLOUR_SD, SHOWN_SD_M, Observation, SheetContext

IMPOSSIBLE = -40.0
UNDER_THE_HOLE_M = 0.15
INSIDE = 0.95  # share of the chance that the drawn region holds
LENGTHS_M = np.geomspace(0.04, 0.8, 28)
# How common fish of a length are where people fish for them. Common practice, no source: falls with length.
LENGTH_CHANCE = (LENGTHS_M / 0.1) ** -0.7
LENGTH_CHANCE = LENGTH_CHANCE / LENGTH_CHANCE.sum()


@dataclass(frozen=True, eq=False)
class Region:
    """Where a fish can be: least and most depth at each distance aside [m], shape (points,)."""

    aside_m: Floats
    top_m: Floats
    bottom_m: Floats

    def holds(self, aside_m: float, depth_m: float) -> bool:
        """Whether a place is inside."""
        if not self.aside_m[0] - 1e-9 <= aside_m <= self.aside_m[-1] + 1e-9:
            return False
        return bool(
            np.interp(aside_m, self.aside_m, self.top_m) <= depth_m <= np.interp(aside_m, self.aside_m, self.bottom_m)
        )


@dataclass(frozen=True, eq=False)
class FishGrid:
    """Chance of a fish at each distance aside and of each length, shape (asides, lengths), and log of its sum."""

    scene: Scene
    range_m: float
    aside_m: Floats
    chance: Floats
    log_evidence: float

    def asides(self) -> tuple[int, int]:
        """First and last distance aside of the smallest set that holds INSIDE of the chance."""
        return self._asides

    @cached_property
    def _asides(self) -> tuple[int, int]:
        share = self.chance.sum(axis=1)
        share = share / max(share.sum(), 1e-300)
        order = np.argsort(-share)
        held = order[: int(np.searchsorted(np.cumsum(share[order]), INSIDE)) + 1]
        # The middle is small, not forbidden: what reaches near it reaches it.
        first = int(held.min())
        return 0 if self.aside_m[first] < UNDER_THE_HOLE_M else first, int(held.max())

    def region(self) -> Region:
        """Where the fish can be: a shell at its slant range, as wide as the chance reaches."""
        first, last = self.asides()
        aside = self.aside_m[first : last + 1]
        if aside.size == 1:
            aside = np.array([aside[0], aside[0] + 0.05])
        face, slack = self.scene.face_depth_m, 2.0 * SHOWN_SD_M
        near, far = max(self.range_m - slack, 0.05), self.range_m + slack
        top = face + np.sqrt(np.maximum(near**2 - aside**2, 0.0))
        bottom = np.minimum(face + np.sqrt(np.maximum(far**2 - aside**2, 0.0)), self.scene.bottom_depth_m)
        return Region(aside, np.minimum(top, bottom), bottom)

    def lengths(self) -> tuple[float, float]:
        """Least and most length that hold INSIDE of the chance."""
        return self._lengths

    @cached_property
    def _lengths(self) -> tuple[float, float]:
        share = self.chance.sum(axis=0)
        total = np.cumsum(share) / max(share.sum(), 1e-300)
        low, high = np.searchsorted(total, [(1.0 - INSIDE) / 2.0, (1.0 + INSIDE) / 2.0])
        return float(LENGTHS_M[low]), float(LENGTHS_M[min(high, LENGTHS_M.size - 1)])

    def likely(self) -> tuple[float, float]:
        """The middle length nearest to the hole, and at the outer edge."""
        out = []
        for at in self.asides():
            share = self.chance[at] / max(self.chance[at].sum(), 1e-300)
            out.append(float(LENGTHS_M[min(int(np.searchsorted(np.cumsum(share), 0.5)), LENGTHS_M.size - 1)]))
        return out[0], out[1]


def fish_grid(at: SheetContext, seen: Observation) -> FishGrid:
    """Every length at every distance aside that this range leaves open, and the chance that it paints that colour."""
    return fish_grids(at, seen.shown_m, (seen.colour,))[0]


def fish_grids(at: SheetContext, shown_m: float, colours: Sequence[int]) -> list[FishGrid]:
    """The same for each of several colours at one place on the scale."""
    t = at.transmission
    r = max(shown_m, 0.1)
    angle = np.radians(np.linspace(0.0, 50.0, 121))
    aside = r * np.sin(angle)
    two_way = 10.0 * np.log10(np.maximum(t.two_way_pattern[_sine_index(t, angle)], 1e-30))
    on_axis = ping.target_echo_level(t, 0.0, t.face_depth_m + max(r, 0.06))
    strength = sizing.fish_strengths(LENGTHS_M, t.frequency_hz)
    mean_db = on_axis + two_way[:, None] + strength[None, :]
    limits = sizing.level_thresholds(at.unit, at.unit.ladders[at.settings.ladder])
    above = _chance_above(mean_db - sizing.echo_level(0.0, r, at.unit, at.settings), limits)
    # More water lies further out, and a fish that is not under the hole is as common there as anywhere.
    area = np.gradient(aside**2)
    prior = np.maximum(area, area[area > 0].min())[:, None] * LENGTH_CHANCE[None, :]
    # Nothing swims in the bottom; what would have to is not there.
    deep = t.face_depth_m + np.sqrt(np.maximum(r**2 - aside**2, 0.0))
    prior = prior * (deep < at.scene.bottom_depth_m)[:, None]
    shows, most = float((prior * above[0]).sum()), float(prior.sum())
    found = []
    for weight in prior * _called(above, colours):
        # Under the bottom, or nowhere that any fish would show; else, of the fish that show there, the share that shows
        # so.
        log = IMPOSSIBLE if shows <= 1e-6 * most else float(np.log(max(min(float(weight.sum()) / shows, 1.0), 1e-12)))
        found.append(FishGrid(at.scene, r, aside, weight, log))
    return found


def _sine_index(t: Transmission, angle: Floats) -> NDArray[np.intp]:
    index: NDArray[np.intp] = (np.sin(angle) * (t.two_way_pattern.size - 1)).astype(np.intp)
    return index


def _chance_above(over_db: Floats, limits_db: Floats) -> list[Floats]:
    """Chance that a Rayleigh scatterer whose mean is `over_db` [dB over the ladder's zero] shows at each step or above.

    Over a second or so the eye takes the strongest of a handful of pings.
    """
    pings = 6.0
    mean = 10.0 ** (over_db / 10.0)
    above = [1.0 - (1.0 - np.exp(-np.minimum(10.0 ** (limit / 10.0) / mean, 700.0))) ** pings for limit in limits_db]
    return [*above, np.zeros_like(mean)]


def _called(above: Sequence[Floats], colours: Sequence[int]) -> Floats:
    """Chance that it is called each of these colours, shape (colours, asides, lengths): the eye may be a step off
    either way."""
    shows = np.stack([one - next_one for one, next_one in pairwise(above)])
    steps = np.arange(1, len(shows) + 1)
    weight = np.exp(-0.5 * ((steps - np.asarray(colours)[:, None]) / COLOUR_SD) ** 2)
    weight /= weight.sum(axis=1, keepdims=True)
    called: Floats = np.maximum(np.tensordot(weight, shows, axes=1), 1e-12)
    return called
