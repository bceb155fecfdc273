"""A patient eye for a fan's pictures: which schools stood in them so that a touch would have measured them, and when.

It knows where the schools are, which no searcher does: it does not find, it says what was there to be found. A school
counts where a touch on one of its fish finds a mark (`fan.measure`) that the picture shows, in two looks in a row. The
water is the same, the flicker of the frames is not: every look draws its own.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..fan.head import in_fan
from ..fan.look import FanLook
from ..fan.measure import FanMark, find_mark
from ..fan.picture import shown_deg
from ..search.made import seen_from
from ..search.patch import Patch
from .scenes import LASTS_FOR_S, SCHOOLS
from .searched import AimedFrom, Watched

EVERY_S = 3.0  # between two looks at the pictures
LISTEN_S = 0.35  # a look takes some frames: a mark is taken from more than one
LOOKS = 2
MEANT_M = 1.2  # so near the fish has to be what a touch on it finds
LIT = 3  # steps that what is to be seen in glare has at least
FINGERS = 3  # fish of a school that are touched in a look, those nearest the plane
Spot = tuple[float, float]


def told_in_fan(
    water: Patch, watch: Watched, seed: int, tell: Callable[[float], None] = lambda _: None
) -> dict[int, float]:
    """When each school could first be told in the pictures of a watch with a fan [s], by its number; those that never
    could are not in it. `tell` hears how far it is, 0 to 1 of the whole time. Raises IndexError for no fan's watch."""
    here, head = seen_from(water, *watch.place), watch.fan
    out: dict[int, float] = {}
    in_a_row = [0] * SCHOOLS
    for number in range(1, int((watch.until_s - watch.from_s) / EVERY_S) + 1):
        at = watch.from_s + number * EVERY_S
        aim = watch.aimed(at)
        spots = {k: _spots(here, watch, aim, k, at) for k in range(SCHOOLS) if k not in out}
        look = None
        for k, touched in spots.items():
            # What is in no plane costs no frame.
            if touched and look is None:
                rng = np.random.default_rng([seed, 3, number])
                look = FanLook(here, head, aim.hang, aim.settings, rng, (), at - LISTEN_S)
                look.advance(LISTEN_S)
            shown = look is not None and any(_shows(look, spot) for spot in touched)
            in_a_row[k] = in_a_row[k] + 1 if shown else 0
            if in_a_row[k] >= LOOKS:
                out[k] = at
        tell(at / LASTS_FOR_S)
    return out


def _spots(here: Patch, watch: Watched, aim: AimedFrom, school: int, at_s: float) -> list[Spot]:
    """Where the picture draws the fish of a school that are in the fan, ahead and deep [m], the nearest the plane
    first."""
    head, hang, settings = watch.fan, aim.hang, aim.settings
    east, north, deep = here.groups[school].places(np.array([at_s]))[0].T
    away, angle, off = in_fan(hang, east, north, deep - hang.depth_m)
    drawn = angle + np.radians(shown_deg(head, hang, settings)[0] - head.beams_deg[0] - hang.axis_deg)
    ahead, down = away * np.cos(drawn), hang.depth_m + away * np.sin(drawn)
    in_plane = np.abs(off) <= np.radians(head.thickness_deg) / 2.0
    in_angle = np.abs(angle - np.radians(hang.axis_deg)) <= np.radians(head.fan_deg) / 2.0
    in_picture = (ahead >= -settings.behind_m) & (ahead <= settings.ahead_m) & (down >= 0.0) & (down <= settings.deep_m)
    which = np.flatnonzero(in_plane & in_angle & in_picture)
    return [(float(ahead[k]), float(down[k])) for k in which[np.argsort(np.abs(off[which]))][:FINGERS]]


def _shows(look: FanLook, spot: Spot) -> bool:
    """Whether a touch there finds a mark that the picture shows."""
    mark = find_mark(look, *spot)
    return mark is not None and np.hypot(mark.ahead_m - spot[0], mark.depth_m - spot[1]) <= MEANT_M and _lit(look, mark)


def _lit(look: FanLook, mark: FanMark) -> bool:
    """Whether its cells of the newest picture are brighter than the weakest steps."""
    frame = look.newest
    if frame is None:
        return False
    beam = int(np.abs(shown_deg(look.head, frame.hang, frame.settings) - mark.angle_deg).argmin())
    cell = int(mark.range_m / look.water.bin_m)
    return bool(frame.steps[max(beam - 2, 0) : beam + 3, max(cell - 2, 0) : cell + 6].max(initial=0) >= LIT)
