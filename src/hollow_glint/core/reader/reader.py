"""Reading: from the picture and the rod alone to what each mark is, how sure, where it can be, and what to do next.

`Reader.see` takes one ping at a time, as an angler sees it: rows of colours, the settings, and how much line was taken
in. It never sees the truth. `column` says what stands, `detect` finds marks, `tracks` follows them, `lure_finder` says
which goes with the rod, `mark_evidence` and `sizing` measure them, `naming` names them, `moments` tells what matters.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..checks import Floats
from .bottom_hardness import BottomFit, read_bottom
from .column import Column, Standing
from .detect import NO_MARKS, marks_in, out_of_clutter
from .evidence import ReaderSetup, SeenPing
from .lure_finder import LureFinder
from .mark_evidence import MarkEvidence
from .moments import LureNow, Teller
from .naming import named_marks, weigh
from .report import BottomReading, PictureReading
from .standing_words import bottom_reading, water_words
from .strangers import Strangers, strangers_about
from .tracks import Tracker

FIT_EVERY = 100  # pings between two looks at what the bottom is made of
STRANGERS_EVERY = 20  # pings between two looks at marks of one ping alone
NAMED_EVERY, MANY = 2, 6  # pings between two looks at what marks are, half as often at a school of many
FIRST_S, FIRST_PINGS = 2.0, 12  # before that nobody knows yet what stands


class Reader:
    """Reads a picture ping by ping. Deterministic: the same pings always give the same reading."""

    def __init__(self, view: ReaderSetup) -> None:
        self.view = view
        self._column: Column | None = None
        self.tracker: Tracker | None = None
        self._lure = LureFinder()
        self._teller = Teller()
        self._evidence: MarkEvidence | None = None
        self.strangers: Strangers | None = None
        self._company, self._per_s = False, 0.0
        self._step: float | None = None
        self._pings = 0
        self._first_s = 0.0
        self._fit: BottomFit | None = None
        self._fit_due = 0

    @property
    def standing(self) -> Standing:
        """What stands in the picture now."""
        if self._column is None:
            return Standing()
        return replace(
            self._column.standing, company=self._company, foreign_per_s=self._per_s, foreign_step_m=self._step
        )

    @property
    def bottom(self) -> BottomReading | None:
        """The bottom now."""
        return self._bottom(self.standing)

    def company_measures(self) -> Floats:
        """What the marks of one ping alone measure now, shape (strangers.MEASURES,)."""
        assert self.strangers is not None
        top, foot = self._open_water
        kept = int(self.view.unit.rejections[self.view.settings.rejection].pings)
        return self.strangers.measures(top, foot, self.speckle, kept)

    @property
    def _open_water(self) -> tuple[float, float]:
        """The ranges [m from the face] between clutter and bottom or weeds."""
        assert self._column is not None
        standing = self.standing
        foot = standing.bottom_m if standing.weed_top_m is None else standing.weed_top_m
        return standing.clutter_end_m, self._column.shown.bottom_m if foot is None else foot

    @property
    def speckle(self) -> float:
        """Share of the open water that short-lived marks light."""
        return 0.0 if self._column is None else self._column.speckle(*self._open_water)

    def point_at_lure(self, range_m: float, time_s: float) -> None:
        """Somebody says that the mark at `range_m` [m from the face] is the lure: from now on it is, for as long as it
        can be followed."""
        self._lure.pointed_at(range_m, time_s)

    def turn(self, view: ReaderSetup) -> None:
        """The knobs have moved, or the transducer has."""
        old, self.view = self.view, view
        if old.settings == view.settings and old.face_depth_m == view.face_depth_m:
            return
        self._lure.face_moved(view.face_depth_m - old.face_depth_m)
        same_pulse = (old.settings.pulse, old.settings.range_m, old.settings.ladder) == (
            view.settings.pulse, view.settings.range_m, view.settings.ladder
        )  # fmt: skip
        if not same_pulse:
            self.tracker = None
            self._lure.lose()
        elif self.tracker is not None:
            for one in self.tracker.every:  # levels of another gain are nothing to compare with
                one.exceed = np.zeros(0)
                one.seen.clear()
                one.story.shines_anew()
        self._column = None
        self.strangers, self._company = None, False
        self._fit = None

    def see(self, seen: SeenPing) -> PictureReading:
        """One ping further."""
        view, t = self.view, self.view.transmission
        steps = view.thresholds_db.size
        row_m = seen.shown.height_m / seen.levels.size
        column = self._over(seen, steps)
        if self.tracker is None or abs(self.tracker.row_m - row_m) > 1e-9:
            self.tracker = Tracker(t.resolution_m, row_m, steps)
            self._lure.lose()
        step = view.unit.rejections[view.settings.rejection]
        self.tracker.apart = int(step.pings)
        # Of a line that nobody knows it is held that it hangs still; not so of a lure that somebody pointed at.
        self.tracker.lure_by_line = view.rod_known or not self._lure.pointed
        self._lure.take_in(seen.time_s, seen.line_in_m)
        self._pings += 1
        if self._pings == 1:
            self._first_s = seen.time_s
        struck = column.see(seen.levels, np.array([one.range_m for one in self.tracker.tracks]))
        if self._pings % 4 == 0 or self._pings < 12:
            column.read(self._lure.at_m)
        standing = self.standing
        end = seen.shown.bottom_m
        if standing.bottom_m is not None:  # what begins in the bottom's own rise is the bottom, in weeds is weed
            end = standing.bottom_m if standing.weed_top_m is None else standing.weed_top_m
            end -= max(0.4 * t.resolution_m, 1.5 * row_m)
        self.tracker.foot_m = end
        levels, start = seen.levels, max(standing.clutter_end_m, seen.shown.top_m)
        if start > seen.shown.top_m and self._pings > FIRST_PINGS:  # a lure is seen through it while it falls
            levels = out_of_clutter(levels, column.mean, int((start - seen.shown.top_m) / row_m))
            start = seen.shown.top_m
        marks = NO_MARKS if struck else marks_in(levels, seen.shown, t.resolution_m, start, end)
        shown_line = self._lure.line_shown(seen.time_s, view)
        dt = self._lure.dt
        moved = shown_line - self._lure.line_shown(seen.time_s - dt, view)
        loose = self.tracker.follow(
            seen.time_s, dt, marks, moved, shown_line, standing.bottom_m, self._lure.track_id,
            column.range_m, column.at_least, self._lure.blurred(view),
        )  # fmt: skip
        if self.strangers is None:
            self.strangers = Strangers(t.resolution_m, row_m, steps)
        self.strangers.see(seen.time_s, loose)
        if self._pings % STRANGERS_EVERY == 0:
            measured = self.company_measures()
            self._company, self._per_s = strangers_about(measured), float(measured[0])
            self._step = self.strangers.drift()[0] if self._company else None
        self._lure.went(moved, seen.time_s, end)
        if view.rod_known:
            self._lure.hold_against_rod(self.tracker, seen.time_s)
        every = NAMED_EVERY if len(self.tracker.tracks) <= MANY else 2 * NAMED_EVERY
        if self._pings % every or self._pings < FIRST_PINGS or seen.time_s < self._first_s + FIRST_S:
            return PictureReading(seen.time_s, standing=standing, complete=False)
        return self._reading(self.tracker, seen.time_s, standing)

    def _over(self, seen: SeenPing, steps: int) -> Column:
        """The running means for the window shown; one that only slid a little takes its rows along."""
        now = self._column
        if now is None or abs(now.shown.height_m - seen.shown.height_m) > 1e-9 or now.range_m.size != seen.levels.size:
            self._column = now = Column(seen.shown, seen.levels.size, steps, self.view.transmission.resolution_m)
        elif now.shown != seen.shown:
            now.slide(seen.shown)
        return now

    def _reading(self, tracker: Tracker, time_s: float, standing: Standing) -> PictureReading:
        view, finder = self.view, self._lure
        evidence = self._evidence
        if evidence is None or evidence.view is not view or evidence.row_m != tracker.row_m:
            self._evidence = evidence = MarkEvidence(view, tracker.row_m)
        weigh(tracker, finder, evidence, standing, time_s)
        named = named_marks(tracker, finder, evidence, time_s)
        bottom = self._bottom(standing)
        lure = finder.found(tracker)
        now = None
        if lure is not None:
            moved = abs(finder.line_m - finder.line_shown(time_s - 1.0, view))
            now = LureNow(lure, moved, view.lure is not None and view.lure.kind.glide > 0.0)
        moments = self._teller.moments(named, now, bottom, time_s, view.transmission.resolution_m, tracker.row_m)
        return PictureReading(time_s, tuple(named), bottom, standing, water_words(standing, view.face_depth_m), moments)

    def _bottom(self, standing: Standing) -> BottomReading | None:
        if standing.bottom_m is None:
            return None
        row_m = self.tracker.row_m if self.tracker else 0.03
        return bottom_reading(standing.bottom_m, standing, self._hardness(standing), row_m)

    def _hardness(self, standing: Standing) -> BottomFit:
        """The kind of bottom that fits, worked out anew every few seconds."""
        assert standing.bottom_m is not None and self._column is not None
        if self._fit is None or self._pings >= self._fit_due:
            view, column = self.view, self._column
            self._fit = read_bottom(
                view.unit, view.settings, view.face_depth_m, view.temperature_c, standing.bottom_m,
                column.shown, column.mean,
            )  # fmt: skip
            self._fit_due = self._pings + FIT_EVERY
        return self._fit
