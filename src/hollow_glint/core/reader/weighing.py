"""What a mark is, by adding up what each of its measures weighs (`mark_table`), and which of them decided it."""

from __future__ import annotations

from bisect import bisect_right
from itertools import accumulate

import numpy as np

from ..checks import Floats
from .features import FEATURES
from .mark_table import CLASSES, PRIOR, TABLE

LURE, SECOND_LURE, FISH, STILL, NOTHING = range(len(CLASSES))

RULED_OUT = 60.0

_EDGES = [TABLE[name][0] for name in FEATURES]
_STARTS = np.array([0, *accumulate(len(edges) + 2 for edges in _EDGES)])
_WEIGHTS: Floats = np.concatenate([np.array(TABLE[name][1]).T for name in FEATURES])
_PRIOR = np.array(PRIOR)


def _bins(features: Floats) -> list[int]:
    return [
        int(start) + (len(edges) + 1 if one != one else bisect_right(edges, one))  # what is not known has a bin too
        for start, edges, one in zip(_STARTS, _EDGES, features.tolist(), strict=False)
    ]


def log_odds(features: Floats, one_jig: bool = False) -> Floats:
    """What a row of FEATURES says for each of CLASSES: natural logarithms of odds, shape (classes,).

    With `one_jig` alone on the line what looks like a second one is the first.
    """
    weighed: Floats = _PRIOR + _WEIGHTS[_bins(features)].sum(axis=0)
    if one_jig:
        weighed[LURE] = np.logaddexp(weighed[LURE], weighed[SECOND_LURE])
        weighed[SECOND_LURE] = -RULED_OUT
    return weighed


def chances(odds: Floats) -> Floats:
    """Log odds as chances that add up to one, same shape."""
    rising = np.exp(odds - odds.max())
    share: Floats = rising / rising.sum()
    return share


def deciding(features: Floats, of: int, against: int, most: int = 2) -> list[str]:
    """The features that speak most for class `of` and against class `against`, most first."""
    part = _WEIGHTS[_bins(features)]
    speaks = part[:, of] - part[:, against]
    # What is not known may weigh a little, but it is no reason that anybody could look at.
    speaks = np.where(np.isnan(features[: speaks.size]), 0.0, speaks)
    return [FEATURES[k] for k in np.argsort(-speaks)[:most] if speaks[k] > 0.0]
