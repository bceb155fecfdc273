"""Naming: what each track is, how sure, and the reasons in words.

What a track's measures weigh is added up (`weighing`), and evened out over its last moments, so that one odd look
renames nothing. First it is asked which of them is the lure; once that is known, what the others are.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..checks import Floats
from ..wording import Quantity, Sentence
from . import weighing
from .column import Standing
from .features import RELATIVE, beside, features
from .lure_finder import LureFinder
from .mark_evidence import MarkEvidence, stands_out
from .reasons import because
from .report import MarkName, NamedMark
from .track import Track
from .tracks import Tracker

SETTLING_S = 0.5  # a track younger than this is not named yet
EVENED_S = 1.0  # over how long what is said of a track is evened out
BAIT_M = 0.085  # fish below the hole no longer than this are bait, when there are several
LEAST_HITS = 6
NAMES: dict[int, MarkName] = {
    weighing.LURE: "lure", weighing.SECOND_LURE: "second lure", weighing.FISH: "fish", weighing.STILL: "still",
}  # fmt: skip


def weigh(tracker: Tracker, finder: LureFinder, evidence: MarkEvidence, standing: Standing, time_s: float) -> None:
    """Look at every track once: what it is by itself, which is the lure, and what the others are beside it."""
    one_jig = evidence.view.lure is None or not evidence.view.lure.spacing_m
    looked = [one for one in tracker.tracks if one.hits >= LEAST_HITS and stands_out(one) and one.hidden_in is None]
    for one in looked:
        one.features = features(one, evidence, standing, time_s)
        one.alone = _evened(one.alone, weighing.log_odds(one.features, one_jig), time_s - one.looked_s)
    finder.find(tracker, time_s, evidence)
    lure = finder.found(tracker)
    for one in looked:
        if lure is not None and one is not lure:
            one.features[-len(RELATIVE) :] = beside(one, evidence, lure)
        odds = weighing.log_odds(one.features, one_jig)
        one.beside = _evened(one.beside, odds, time_s - one.looked_s)
        one.looked_s = time_s


def _evened(before: Floats | None, now: Floats, since_s: float) -> Floats:
    if before is None:
        return now
    evened: Floats = before + (now - before) * min(since_s / EVENED_S, 1.0)
    return evened


def named_marks(tracker: Tracker, finder: LureFinder, evidence: MarkEvidence, time_s: float) -> list[NamedMark]:
    """Every track that can be named at `time_s` [s], by range."""
    lure = finder.found(tracker)
    named = []
    for one in tracker.tracks:
        if one.beside is None or not (one is lure or (time_s - one.began_s >= SETTLING_S and stands_out(one))):
            continue
        odds = one.beside.copy()
        if one is not lure:
            odds[weighing.LURE] = -np.inf  # there is one lure
        elif int(np.argmax(odds)) != weighing.LURE:
            odds = one.alone.copy() if one.alone is not None else odds
        if one is lure:
            odds[weighing.LURE] += finder.by_place(one, time_s)
        chance = weighing.chances(odds)
        kind = weighing.LURE if one is lure else int(np.argmax(chance))
        if kind not in NAMES:
            continue  # specks
        named.append(_named(one, kind, chance, lure, evidence, time_s))
    return sorted(_flock(named), key=lambda mark: mark.range_m)


def _named(
    one: Track, kind: int, chance: Floats, lure: Track | None, evidence: MarkEvidence, time_s: float
) -> NamedMark:
    rival = int(np.argmax(np.where(np.arange(chance.size) == kind, -1.0, chance)))
    deciding = weighing.deciding(one.features, kind, rival, most=6)
    mark = NamedMark(
        one.id,
        NAMES[kind],
        float(chance[kind]),
        one.range_m,
        evidence.view.face_depth_m + one.range_m,
        one.thick_m,
        one.level_mean,
        one.hidden_in is not None,
        because(deciding, one, evidence, time_s),
    )
    return replace(mark, fish=evidence.fish(one, lure, time_s)) if kind == weighing.FISH else mark


def _flock(named: list[NamedMark]) -> list[NamedMark]:
    """Several small fish near each other are bait."""
    small = [m for m in named if m.kind == "fish" and m.fish is not None and m.fish.span.curve_length_m[0] < BAIT_M]
    out = []
    for mark in named:
        near = sum(abs(mark.range_m - other.range_m) < 0.8 for other in small)
        if any(mark is one for one in small) and near >= 4:
            why = Sentence("Small as it would be below the hole, one of {n} together.", {"n": Quantity(near, "count")})
            mark = replace(mark, kind="bait", because=(why,))
        out.append(mark)
    return out
