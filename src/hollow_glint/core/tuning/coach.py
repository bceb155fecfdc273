"""The coach: what is wrong with how the sonar hangs and how it is set, worst first, one change each.

The rules stand in working order: how it hangs, range, company, weeds, the window, the lure, the water, the top, the
bottom. All their thresholds without a source named are common practice or ours; they are here to be argued with.
"""

from __future__ import annotations

from collections.abc import Callable

from .situation import Situation
from .verdict import Verdict
from .verdicts.beam_width import beam_too_wide
from .verdicts.bottom import weak_bottom
from .verdicts.hanging import dry_face, inside_the_ice, off_plumb, swinging
from .verdicts.lure import lure_shows
from .verdicts.neighbours import rejection
from .verdicts.open_water import open_water_lit
from .verdicts.range_and_window import range_fits, second_echo_lock, window_off_the_lure
from .verdicts.top_water import top_water_lit
from .verdicts.weeds import weeds_read_as_bottom


def verdicts(situation: Situation) -> tuple[Verdict, ...]:
    """What is wrong, worst first; empty when there is nothing to change."""
    found = [rule(situation) for rule in RULES]
    return tuple(sorted((v for v in found if v is not None), key=lambda v: -v.severity))


RULES: tuple[Callable[[Situation], Verdict | None], ...] = (
    inside_the_ice,
    dry_face,
    off_plumb,
    swinging,
    second_echo_lock,
    range_fits,
    rejection,
    beam_too_wide,
    weeds_read_as_bottom,
    window_off_the_lure,
    lure_shows,
    open_water_lit,
    top_water_lit,
    weak_bottom,
)
