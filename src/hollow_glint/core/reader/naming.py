"""Naming: what each track is, how sure, and the reasons in words."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..wording import Quantity, Sentence
from .lure_finder import LureFinder
from .mark_evidence import MarkEvidence, stands_out
from .report import MarkName, NamedMark
from .track import Track
from .tracks import Tracker

SETTLING_S = 0.5  # a track younger than this is not named yet
BAIT_M = 0.085  # fish below the hole no longer than this are bait, when there are several
STILL_SD_M = 0.02


def named_marks(tracker: Tracker, finder: LureFinder, evidence: MarkEvidence, time_s: float) -> list[NamedMark]:
    """Every track that can be named at `time_s` [s], by range."""
    lure = finder.found(tracker)
    naming = _Naming(finder, evidence, lure, time_s)
    named = [
        naming.name(one)
        for one in tracker.tracks
        if one is lure or (time_s - one.began_s >= SETTLING_S and stands_out(one))
    ]
    return sorted(_flock(named), key=lambda mark: mark.range_m)


class _Naming:
    """One look at all tracks."""

    def __init__(self, finder: LureFinder, evidence: MarkEvidence, lure: Track | None, time_s: float) -> None:
        self._finder, self._evidence, self._lure, self._time_s = finder, evidence, lure, time_s

    def name(self, one: Track) -> NamedMark:
        evidence, lure = self._evidence, self._lure
        view = evidence.view
        depth = view.face_depth_m + one.range_m
        if one is lure:
            score = self._finder.score(one, self._time_s, evidence)
            because = self._why_lure(one)
            return self._named(one, "lure", score, depth, because)
        spacing = 0.0 if view.lure is None else view.lure.spacing_m
        if spacing and lure is not None and one.rod_score > 2.0:
            offset = one.range_m - lure.range_m
            if min(abs(abs(offset) - spacing), abs(offset)) < 0.1 * spacing + 0.04:
                why = Sentence(
                    "It keeps {gap} from your lure and goes with the rod.", {"gap": Quantity(abs(offset), "m")}
                )
                return self._named(one, "second lure", one.rod_score, depth, (why,))
        if self._on_the_line(one):
            why = Sentence("It hangs above your lure and goes a part of the way with it: a bubble on the line.")
            return self._named(one, "still", 1.5, depth, (why,))
        ranges = np.array([entry[1] for entry in one.seen if entry[2] > 0][-160:])
        age = self._time_s - one.began_s
        steady = evidence.steadiness(one)
        unmoved = ranges.size > 30 and float(ranges.std()) < STILL_SD_M + 0.3 * evidence.row_m
        if steady > (0.0 if unmoved and age > 5.0 else 2.0) and age > 1.5:
            why = Sentence(
                "Its colour holds to {by} from ping to ping, as no fish's does, and it has moved {sd} in {age}.",
                {
                    "by": Quantity(evidence.wander_db(one), "dB"), "sd": Quantity(float(np.ptp(ranges)), "m"),
                    "age": Quantity(age, "s"),
                },
            )  # fmt: skip
            return self._named(one, "still", steady + 1.0, depth, (why,))
        fish = evidence.fish(one, lure, self._time_s)
        because = (
            Sentence(
                "Its colour wanders from ping to ping by {sd}; a lure's does not.",
                {"sd": Quantity(evidence.wander_db(one), "dB")},
            ),
            Sentence("It does not go with the rod.") if one.rod_score < -1.0 else Sentence("It moves by itself."),
        )
        score = max(-self._finder.score(one, self._time_s, evidence), 0.5)
        return replace(self._named(one, "fish", score, depth, because), fish=fish)

    def _on_the_line(self, one: Track) -> bool:
        """Whether a faint mark high above the lure keeps its share of the way down to it: it is on the line."""
        lure = self._lure
        if lure is None or one.range_m > 0.8 * lure.range_m or one.level_mean > lure.level_mean + 1.0:
            return False
        if self._time_s - one.began_s < 1.5:
            return False
        both = {entry[0]: entry[1] for entry in lure.seen}
        shares = np.array([entry[1] / both[entry[0]] for entry in one.seen if entry[2] > 0 and entry[0] in both][-100:])
        moved = np.ptp(list(both.values())[-100:]) > 0.15
        together = shares.size > 20 and float(shares.std()) * lure.range_m < 0.06
        return together and (bool(moved) or self._evidence.steadiness(one) > 0.0)

    def _named(
        self, one: Track, kind: MarkName, score: float, depth: float, because: tuple[Sentence, ...]
    ) -> NamedMark:
        sure = 1.0 / (1.0 + float(np.exp(-np.clip(score, -20.0, 20.0))))
        return NamedMark(
            one.id, kind, sure, one.range_m, depth, one.thick_m, one.level_mean, one.hidden_in is not None, because
        )

    def _why_lure(self, one: Track) -> tuple[Sentence, ...]:
        why = [
            Sentence(
                "Its colour holds to {sd} from ping to ping.", {"sd": Quantity(self._evidence.wander_db(one), "dB")}
            )
        ]
        if one.rod_score > 1.0:
            why.insert(0, Sentence("It goes up and down with the rod."))
        return tuple(why)


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
