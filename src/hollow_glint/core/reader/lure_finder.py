"""Which track is the lure: the one that goes with the rod, shines steadily, and stands where the lure should."""

from __future__ import annotations

from collections import deque
from itertools import islice

import numpy as np

from . import weighing
from .evidence import ReaderSetup
from .mark_evidence import MarkEvidence, stands_out
from .track import Track
from .tracks import Tracker

COMPARED_S = 0.25  # how often a track is held against the rod
OVER_S = 0.8  # over this long
ROD_MOVED_M = 0.05  # less line than this says nothing
BELIEVED, KEPT, RIVAL = 1.0, -3.0, 3.0  # log odds: to be named lure, to stay it, to take its name from another
LEAST_SCORE = 20.0
LIKELIEST, CLEARLY = -0.7, 2.0
HELD = 6.0  # log odds for a mark just where the lure was last held to be, gone with the line since...
TRUSTED_S = 6.0  # ... when it had been held for so long
ROD_KEPT = 0.88  # how much of what the rod said before still counts at each look: marks change places in crossings


class LureFinder:
    """Follows the line that is taken in, and which track goes with it."""

    def __init__(self) -> None:
        self.line_m = 0.0  # taken in since the start
        self.dt = 0.05  # between the last two pings [s]
        self._lines: deque[tuple[float, float]] = deque(maxlen=600)
        self._last_s: float | None = None
        self.track_id: int | None = None
        self._at_m: float | None = None  # where it was last held to be, from the face
        self._lost_s = 0.0
        self._held_s = 0.0  # how long it has been held to be one track

    @property
    def at_m(self) -> float | None:
        """Where it is, from the face [m]; None while no track is the lure."""
        return None if self.track_id is None else self._at_m

    def lose(self) -> None:
        """The tracks of before are gone."""
        self.track_id = None

    def take_in(self, time_s: float, line_in_m: float) -> None:
        """One ping further, with so much line taken in since the ping before."""
        self.dt = 0.05 if self._last_s is None else max(time_s - self._last_s, 1e-3)
        self._last_s = time_s
        self.line_m += line_in_m
        self._lines.append((time_s, self.line_m))

    def went(self, moved_m: float, time_s: float, end_m: float) -> None:
        """Where the lure was held to be goes with the line; past `end_m` or long lost it is nowhere."""
        if self._at_m is None:
            return
        self._at_m -= moved_m
        if self.track_id is None and (not 0.0 < self._at_m < end_m + 0.3 or time_s > self._lost_s + 20.0):
            self._at_m = None  # wherever it is, it is not there

    def line_shown(self, time_s: float, view: ReaderSetup) -> float:
        """Line taken in [m] as the picture shows it at `time_s` [s].

        Rejection shows an echo where `needed` of the last pings have it. A mark begins at its shallowest edge, so of
        the places where the lure was at those pings the picture shows the `needed`-th shallowest: on the way down one
        of long ago, on the way up one of lately.
        """
        step = view.unit.rejections[view.settings.rejection]
        lines = list(islice((line for when, line in reversed(self._lines) if when <= time_s + 1e-9), int(step.pings)))
        return sorted(lines, reverse=True)[min(step.needed, len(lines)) - 1] if lines else 0.0

    def blurred(self, view: ReaderSetup) -> bool:
        """Whether the lure has gone further than its own mark is thick within the pings that rejection keeps: no place
        then holds it in enough of them, and it is not shown."""
        kept = int(view.unit.rejections[view.settings.rejection].pings)
        if kept == 1 or len(self._lines) < kept:
            return False
        lately = [line for _, line in islice(reversed(self._lines), kept)]
        return max(lately) - min(lately) > 0.6 * view.transmission.resolution_m

    def hold_against_rod(self, tracker: Tracker, time_s: float) -> None:
        """Every quarter of a second: did each track go where the rod went?"""
        for one in tracker.tracks:
            if time_s - one.compared_s < COMPARED_S or one.hidden_in is not None or one.last_hit_s < time_s - 0.11:
                continue
            then = next((e for e in reversed(one.seen) if e[0] <= time_s - OVER_S and e[2] > 0), None)
            if then is None or time_s - then[0] > 2.0 * OVER_S:
                continue
            one.compared_s = time_s
            rod = -(one.seen[-1][4] - then[4])
            went = one.range_m - then[1]
            spread = max(0.02 + 0.5 * tracker.row_m, 0.12 * abs(rod))
            if abs(rod) > ROD_MOVED_M:
                chance = (abs(rod) + 0.3) / (spread * 2.5066)
                evidence = float(np.log(chance)) - 0.5 * ((went - rod) / spread) ** 2
                one.rod_score = ROD_KEPT * one.rod_score + float(np.clip(evidence, -3.0, 3.0))
            elif abs(rod) < 0.01:
                evidence = 0.25 - 0.5 * (went / 0.04) ** 2
                one.still_score = ROD_KEPT * one.still_score + float(np.clip(evidence, -2.0, 0.25))

    def score(self, one: Track, time_s: float) -> float:
        """Log odds that a track is the lure, by what is measured of it; while no track is the lure, also by where it
        was last held to be, and for how long it had been held."""
        if one.alone is None:
            return -LEAST_SCORE
        others = np.delete(one.alone, weighing.LURE)
        score = float(one.alone[weighing.LURE] - np.logaddexp.reduce(others))
        if self.track_id is None and self._at_m is not None:
            wide = 0.12 + 0.05 * min(time_s - self._lost_s, 8.0)
            trust = min(self._held_s / TRUSTED_S, 1.0) * HELD
            score += float(np.clip(trust - ((one.range_m - self._at_m) / wide) ** 2, -3.0, trust))
        return score

    def found(self, tracker: Tracker) -> Track | None:
        """The lure's track."""
        return None if self.track_id is None else tracker.by_id(self.track_id)

    def find(self, tracker: Tracker, time_s: float, evidence: MarkEvidence) -> None:
        """The track that is most like the lure; the one of before as long as none is much more like it."""
        now = self.found(tracker)
        if now is None:
            self.track_id = None  # its track has ended
        scores = {
            one.id: self.score(one, time_s) for one in tracker.tracks if one.alone is not None and stands_out(one)
        }
        best = max(scores, key=lambda id: scores[id], default=None)
        if now is not None:
            mine = scores.get(now.id, 0.0)
            rival = best is not None and best != now.id and scores[best] > mine + RIVAL and scores[best] > 2.0
            if mine > KEPT and not rival:
                self._lower_of_two(tracker, scores, evidence)
                if now.hidden_in is None:
                    self._held_s += max(time_s - self._lost_s, 0.0)
                    self._at_m, self._lost_s = now.range_m, time_s
                return
        if now is not None:  # it was another: nothing that it told of where the lure is holds
            self._held_s = 0.0
        second = max((one for id, one in scores.items() if id != best), default=-LEAST_SCORE)
        # One of them is likely the lure: what stands clearly before all others need not be as sure by itself.
        least = LIKELIEST if best is not None and scores[best] > second + CLEARLY else BELIEVED
        self.track_id = best if best is not None and scores[best] > least else None
        self._lower_of_two(tracker, scores, evidence)
        if self.track_id is not None:
            found = tracker.by_id(self.track_id)
            assert found is not None
            self._at_m, self._lost_s = found.range_m, time_s
        elif now is not None:
            self._lost_s = time_s

    def _lower_of_two(self, tracker: Tracker, scores: dict[int, float], evidence: MarkEvidence) -> None:
        """With two jigs on the line the lower one is the lure."""
        spacing = 0.0 if evidence.view.lure is None else evidence.view.lure.parted_m
        upper = self.found(tracker)
        if not spacing or upper is None:
            return
        for one in tracker.tracks:
            good = scores.get(one.id, -9.0) > 0.0
            if good and abs(one.range_m - upper.range_m - spacing) < 0.1 * spacing + 0.03:
                self.track_id = one.id
                return
