"""Who lives here: every thing that the picture round a hole shows, each once, with what it can be and where.

Marks are gathered into things as a finger would gather them, the brightest first. Whether something stays or moves is
seen from two turns, so there is nothing before the second is whole.
"""

from __future__ import annotations

from dataclasses import dataclass

from .course import Fix
from .kinds import CanBe, what_kind
from .look import Look
from .marks import PictureMark, find_marks, fix_of, looked_at, thing_at


@dataclass(frozen=True)
class AroundThing:
    """A thing of the picture: its marks, where and when it was, and what it can be, the likeliest first."""

    marks: tuple[PictureMark, ...]
    fix: Fix
    kinds: tuple[CanBe, ...]


def things_around(look: Look) -> list[AroundThing]:
    """Every thing of the picture as it stands, the brightest first; none before the second turn."""
    before = look.picture_before
    if before is None:
        return []
    left = find_marks(look.levels, look.seen_s, look.hang.range_m, before)
    out = []
    while left:
        thing = thing_at(left, left[0].bearing_deg, left[0].range_m)
        left = [one for one in left if one not in thing]
        out.append(AroundThing(tuple(thing), fix_in(look, thing), tuple(what_kind(looked_at(thing)))))
    return out


def fix_in(look: Look, thing: list[PictureMark]) -> Fix:
    """The fix of a thing of this look's picture."""
    return fix_of(thing, look.head.across_deg, look.still.sound_speed_m_s * look.head.pulse_s / 2.0)
