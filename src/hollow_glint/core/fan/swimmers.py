"""What moves before a fan, as points that answer: fish along their bodies, and lures on their lines.

A fish longer than a bin is more than a point: highlights along its body share its strength, each flickering by itself.
How loud it is follows from where it is seen from: from the side by its aspect, from above by Love's dorsal strength,
and between the two by the squares of cosine and sine, which is ours.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Final

import numpy as np
from numpy.typing import NDArray

from ..acoustics import targets
from ..checks import Floats
from ..fields import Span, check_fields, doc
from ..gear.lures import FLUCTUATION_DB, USUAL_JIG, Lure
from ..search.patch import Group, Patch

HIGHLIGHT_M: Final = 0.09  # of body for each point
MOST_POINTS: Final = 5
BODY: Final = 0.8  # of its length that answers: head to the root of the tail


@dataclass(frozen=True)
class HungLure:
    """A lure in a hole: where the hole is, counted from the head's [m], how deep it hangs, and how it is moved."""

    east_m: Annotated[float, Span(-60.0, 60.0, "m")] = 0.0
    north_m: Annotated[float, Span(-60.0, 60.0, "m")] = 0.0
    depth_m: Annotated[float, Span(0.2, 60.0, "m")] = 5.0
    lift_m: Annotated[float, Span(0.0, 2.0, "m"), doc("How far it is lifted each time")] = 0.15
    every_s: Annotated[float, Span(0.5, 60.0, "s"), doc("How often it is lifted")] = 3.0
    lure: Lure = USUAL_JIG

    def __post_init__(self) -> None:
        check_fields(self)

    def depth_at(self, time_s: float) -> float:
        """How deep it is [m]: lifted quickly, let down slowly, still for the rest."""
        phase = (time_s % self.every_s) / self.every_s
        up = np.interp(phase, [0.0, 0.12, 0.25, 0.5, 1.0], [0.0, 1.0, 1.0, 0.0, 0.0])
        return max(self.depth_m - self.lift_m * float(up), 0.1)


@dataclass(frozen=True, eq=False)
class Points:
    """Points that answer at one moment: where (points, 3), east, north and depth [m], how loud (points,) [m^2] in the
    mean, and which of them flicker as fish do (points,); the others only wander a little, as lures do."""

    place_m: Floats
    strength_m2: Floats
    flickers: NDArray[np.bool_]

    def drawn(self, rng: np.random.Generator) -> Floats:
        """How loud each is this time (points,) [m^2]."""
        size = self.strength_m2.size
        fish, lure = rng.standard_exponential(size), 10.0 ** (rng.normal(0.0, FLUCTUATION_DB, size) / 10.0)
        return np.asarray(self.strength_m2 * np.where(self.flickers, fish, lure))


@dataclass(frozen=True, eq=False)
class AtTheHole:
    """Fish that have come to a hole and mind its lures: where (fish, 3) [m], how long [m] and which way they head [rad
    from north] (fish,); and who they were among the patch's groups, (group, fish): there they are no more."""

    place_m: Floats
    length_m: Floats
    heading_rad: Floats
    taken: frozenset[tuple[int, int]] = frozenset()


def points_at(
    patch: Patch,
    lures: tuple[HungLure, ...],
    head_depth_m: float,
    frequency_hz: float,
    c: float,
    time_s: float,
    came: AtTheHole | None = None,
) -> Points:
    """All fish of a patch and the lures, as they are seen at `time_s` [s] from a head so deep [m]; mean strengths."""
    parts = []
    for number, group in enumerate(patch.groups):
        left = [k for k in range(group.length_m.size) if came is None or (number, k) not in came.taken]
        parts.append((*fish_points(group, head_depth_m, frequency_hz, time_s, left), True))
    if came is not None and came.length_m.size:
        parts.append((*body_points(came.place_m, came.length_m, came.heading_rad, head_depth_m, frequency_hz), True))
    for one in lures:
        lit = one.lure.highlights(frequency_hz, c)
        place = np.tile([one.east_m, one.north_m, one.depth_at(time_s)], (lit.strength_db.size, 1))
        place[:, 2] += lit.below_m
        parts.append((place, 10.0 ** (lit.strength_db / 10.0), False))
    if not parts:
        return Points(np.zeros((0, 3)), np.zeros(0), np.zeros(0, dtype=bool))
    return Points(
        np.concatenate([place for place, _, _ in parts]),
        np.concatenate([strength for _, strength, _ in parts]),
        np.concatenate([np.full(strength.size, fish) for _, strength, fish in parts]),
    )


def fish_points(
    group: Group, head_depth_m: float, frequency_hz: float, time_s: float, left: list[int] | None = None
) -> tuple[Floats, Floats]:
    """Places (points, 3) [m] and mean strengths (points,) [m^2] of a group's fish, or of those `left` of it."""
    now = np.array([time_s])
    which = slice(None) if left is None else left
    swims = group.velocity(now)[0]
    heading = float(np.arctan2(swims[0], swims[1])) if np.hypot(*swims) > 1e-6 else float(group.phase[0, 0])
    length = group.length_m[which]
    return body_points(group.places(now)[0][which], length, np.full(length.size, heading), head_depth_m, frequency_hz)


def body_points(
    place: Floats, length: Floats, heading: Floats, head_depth_m: float, frequency_hz: float
) -> tuple[Floats, Floats]:
    """Places (points, 3) [m] and mean strengths (points,) [m^2] of fish at places (fish, 3) [m], so long [m] and
    heading so [rad from north] (fish,)."""
    count = np.clip(np.ceil(length / HIGHLIGHT_M), 1, MOST_POINTS).astype(np.intp)
    along = np.hypot(place[:, 0], place[:, 1])
    steep = np.arctan2(place[:, 2] - head_depth_m, along)
    aspect = heading - np.arctan2(place[:, 0], place[:, 1])
    side = 10.0 ** (np.asarray(targets.fish_target_strength_at_aspect(length, aspect)) / 10.0)
    above = 10.0 ** (np.asarray(targets.fish_target_strength(length, frequency_hz)) / 10.0)
    strength = side * np.cos(steep) ** 2 + above * np.sin(steep) ** 2
    which = np.repeat(np.arange(length.size), count)
    rank = np.arange(which.size) - np.repeat(np.cumsum(count) - count, count)
    share = (rank + 0.5) / count[which] - 0.5
    body = np.stack([np.sin(heading), np.cos(heading), np.zeros_like(heading)], axis=-1)[which]
    return place[which] + (share * BODY * length[which])[:, None] * body, strength[which] / count[which]
