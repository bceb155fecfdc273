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
LIKELIEST, CLEARLY = -1.6, 2.5
HELD = 6.0  # log odds for a mark just where the lure was last held to be, gone with the line since...
TRUSTED_S = 6.0  # ... when it had been held for so long
POINTED = 3.0  # times as much, when somebody said that it is the lure
SURE_AGAIN_S = 2.0  # a mark held for less than this, and then let go, has not moved what was known before
LET_DOWN, NOT_LET_DOWN = 2.7, -0.4  # log odds for a mark that hangs as if let down from the face since the reading
# began (taken to be so three times in ten, as against anywhere in ten metres), and for one that does not
LEAST_OUT_M, FROM_FACE_M = 0.5, 0.15  # from this much line on it tells something; how well the start is known
FORGOTTEN_S = 20.0  # after so long out of sight nobody knows where it is
ROD_KEPT = 0.88  # how much of what the rod said before still counts at each look: marks change places in crossings


class LureFinder:
    """Follows the line that is taken in, and which track goes with it."""

    def __init__(self) -> None:
        self.line_m = 0.0  # taken in since the start
        self.dt = 0.05  # between the last two pings [s]
        self._lines: deque[tuple[float, float]] = deque(maxlen=600)
        self._last_s: float | None = None
        self.track_id: int | None = None
        self._named_s = 0.0  # since when that track is the lure
        self._carried = 0.0  # what told for it then, of where it stood
        self._at_m: float | None = None  # where it is held to be, from the face
        self._known_m: float | None = None  # where what was long held to be the lure would be now
        self._known_s = 0.0  # for how long that was held
        self._pointed = False  # whether somebody said so
        self._sworn: int | None = None  # the track of which somebody did
        self._lost_s = 0.0  # when it was last there
        self._from_face_m: float | None = 0.0  # where it began, if it was let down since; None when it was not

    @property
    def at_m(self) -> float | None:
        """Where it is, from the face [m]; None while no track is the lure."""
        return None if self.track_id is None else self._at_m

    @property
    def pointed(self) -> bool:
        """Whether the track that is the lure is so because somebody said it."""
        return self._sworn is not None and self._sworn == self.track_id

    def lose(self) -> None:
        """The tracks of before are gone."""
        self.track_id = None

    def pointed_at(self, range_m: float, time_s: float) -> None:
        """It is held to be there, as if it had long been."""
        self.track_id = self._sworn = None
        self._known_m, self._known_s, self._lost_s = range_m, TRUSTED_S, time_s
        self._pointed = True

    def take_in(self, time_s: float, line_in_m: float) -> None:
        """One ping further, with so much line taken in since the ping before."""
        self.dt = 0.05 if self._last_s is None else max(time_s - self._last_s, 1e-3)
        self._last_s = time_s
        self.line_m += line_in_m
        self._lines.append((time_s, self.line_m))

    def went(self, moved_m: float, time_s: float, end_m: float) -> None:
        """Where the lure was held to be goes with the line; past `end_m` or long lost it is nowhere."""
        if self._at_m is not None:
            self._at_m -= moved_m
        if self._known_m is None:
            return
        self._known_m -= moved_m
        if not 0.0 < self._known_m < end_m + 0.3 or time_s > self._lost_s + FORGOTTEN_S:
            self._known_m, self._known_s, self._pointed = None, 0.0, False  # wherever it is, it is not there

    def face_moved(self, down_m: float) -> None:
        """The face hangs `down_m` [m] lower: all that hangs is as much nearer to it."""
        if self._at_m is not None:
            self._at_m -= down_m
        if self._known_m is not None:
            self._known_m -= down_m
        if self._from_face_m is not None:
            self._from_face_m -= down_m

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
        """Log odds that a track is the lure, by what is measured of it and by where it stands."""
        if one.alone is None:
            return -LEAST_SCORE
        others = np.delete(one.alone, weighing.LURE)
        return float(one.alone[weighing.LURE] - np.logaddexp.reduce(others)) + self.by_place(one, time_s)

    def by_place(self, one: Track, time_s: float) -> float:
        """Log odds for where a track stands: as let down from the face; and, while no track is the lure, where it was
        last held to be, for as long as it had been held. What told so for a track wanes as it tells for itself."""
        said = 0.0
        if self._from_face_m is not None and -one.story.line_m > LEAST_OUT_M:
            off = one.story.range_m + one.story.line_m - self._from_face_m
            said = float(np.clip(LET_DOWN - (off / FROM_FACE_M) ** 2, NOT_LET_DOWN, LET_DOWN))
        if one.id == self._sworn:
            return said + POINTED * HELD  # what somebody said does not wane
        if one.id == self.track_id:
            return said + self._carried * max(1.0 - (time_s - self._named_s) / TRUSTED_S, 0.0)
        return said + (self._as_known(one, time_s) if self.track_id is None else 0.0)

    def _as_known(self, one: Track, time_s: float) -> float:
        if self._known_m is None:
            return 0.0
        wide = 0.12 + 0.05 * min(time_s - self._lost_s, 8.0)
        trust = min(self._known_s / TRUSTED_S, 1.0) * HELD
        if self._pointed:
            trust *= POINTED
        return float(np.clip(trust - ((one.range_m - self._known_m) / wide) ** 2, -3.0, trust))

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
                self._hold(now, time_s)
                return
            if time_s - self._named_s > SURE_AGAIN_S:
                # It was another: where it stood tells nothing of the lure.
                self._known_m, self._known_s, self._pointed = None, 0.0, False
            self.track_id = None
            scores = {id: one + self._as_known(tracker.by_id(id) or now, time_s) for id, one in scores.items()}
            scores.pop(now.id, None)
            best = max(scores, key=lambda id: scores[id], default=None)
        second = max((one for id, one in scores.items() if id != best), default=-LEAST_SCORE)
        # One of them is likely the lure: what stands clearly before all others need not be as sure by itself.
        least = LIKELIEST if best is not None and scores[best] > second + CLEARLY else BELIEVED
        if best is None or scores[best] <= least:
            return
        found = tracker.by_id(best)
        assert found is not None
        self._carried = max(self._as_known(found, time_s), 0.0)
        if self._pointed and self._carried > HELD:
            self._sworn = best
        self.track_id, self._named_s = best, time_s
        self._lower_of_two(tracker, scores, evidence)
        now = self.found(tracker)
        self._at_m = None if now is None else now.range_m

    def _hold(self, now: Track, time_s: float) -> None:
        """The track that is the lure still is."""
        if now.hidden_in is not None:
            return
        self._at_m = now.range_m
        if time_s - self._named_s < SURE_AGAIN_S:
            return
        if self._known_m is None:
            self._lost_s = self._named_s
        self._known_s += max(min(time_s - self._lost_s, 1.0), 0.0)
        self._known_m, self._lost_s = now.range_m, time_s
        off = now.story.range_m + now.story.line_m - (self._from_face_m or 0.0)
        if self._known_s > TRUSTED_S and abs(off) > 3.0 * FROM_FACE_M:
            self._from_face_m = None  # it hung elsewhere when the reading began

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
