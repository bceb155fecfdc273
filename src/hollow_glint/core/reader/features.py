"""What can be measured of one followed mark, as the numbers that `mark_table` weighs: one row of FEATURES a mark.

Not-a-number stands for what cannot be known: no lure named, no bottom in the picture, a rod that has not moved.
"""

from __future__ import annotations

import numpy as np

from ..checks import Floats
from . import sizing
from .column import Standing
from .mark_evidence import MarkEvidence
from .track import Track

UNKNOWN = float("nan")
ROD_MOVED_M = 0.03  # less line than this in the last seconds says nothing of what goes with the rod
ENOUGH_PAIRS = 10
MOST_IN_TOP = 0.5  # from this share on in the strongest colour, how it wanders cannot be seen in its colours

FEATURES = (
    "age", "lit", "lit now", "wander", "wander of thickness", "top", "loud as the lure", "loud as a fish", "goes with",
    "rests with", "off the rod", "stays", "own way", "rod", "thick", "above chance", "off the bottom",
    "under the clutter", "colours", "kept", "speckle", "strangers", "colour", "from the lure", "on the line", "spacing",
)  # fmt: skip
NO_ROD = (UNKNOWN,) * 6
RELATIVE = ("from the lure", "on the line", "spacing")  # known only when the lure is


def features(
    one: Track, evidence: MarkEvidence, standing: Standing, time_s: float, lure: Track | None = None
) -> Floats:
    """The numbers of mark `one` at `time_s` [s], shape (FEATURES,).

    `lure` is the track named lure, None when it is not known.
    """
    view, story = evidence.view, one.story
    t = view.transmission
    rejection = view.unit.rejections[view.settings.rejection]
    steps = view.thresholds_db.size
    known = story.pairs >= ENOUGH_PAIRS
    wander = evidence.wander_db(one) / sizing.fish_wander(int(rejection.pings), rejection.needed)
    in_top = story.top > MOST_IN_TOP
    return np.array((
        time_s - one.began_s,
        story.lit,
        one.hit_share,
        wander if known and not in_top else UNKNOWN,
        story.thick2**0.5 / t.resolution_m if known and in_top else UNKNOWN,
        story.top,
        *evidence.over(one),
        *(_by_the_rod(one) if view.rod_known else NO_ROD),
        story.thick_m / t.resolution_m,
        one.above_chance,
        UNKNOWN if standing.bottom_m is None else standing.bottom_m - one.range_m,
        one.range_m - standing.clutter_end_m,
        float(steps),
        float(rejection.pings),
        one.speckle,
        standing.foreign_per_s,
        story.level / steps,
        *beside(one, evidence, lure),
    ))  # fmt: skip


def _by_the_rod(one: Track) -> tuple[float, ...]:
    """How mark `one` goes with the rod: six of FEATURES, from "goes with" to "rod"."""
    story = one.story
    rod = story.line_var**0.5
    moved = rod > ROD_MOVED_M
    return (
        one.rod_score,
        one.still_score,
        story.spread_with(1.0) / rod if moved else UNKNOWN,
        story.range_var**0.5 / (rod if moved else 1.0) if moved else UNKNOWN,
        story.range_var**0.5 if not moved else UNKNOWN,
        rod,
    )


def beside(one: Track, evidence: MarkEvidence, lure: Track | None) -> tuple[float, float, float]:
    """The RELATIVE numbers of mark `one`: how it stands to the track named lure."""
    gap = on_line = spacing = UNKNOWN
    if lure is None or lure is one:
        return gap, on_line, spacing
    view, story, resolution_m = evidence.view, one.story, evidence.view.transmission.resolution_m
    rod = story.line_var**0.5
    gap = (one.range_m - lure.range_m) / resolution_m
    share = story.range_m / max(lure.range_m, 0.1)
    if rod > ROD_MOVED_M and share < 0.95:
        on_line = story.spread_with(share) / (share * rod)
    if view.lure is not None and view.lure.spacing_m:
        spacing = abs(abs(one.range_m - lure.range_m) - view.lure.spacing_m) / resolution_m
    return gap, on_line, spacing
