"""Reading: from the picture and the rod alone to what each mark is, how sure, where it can be, and what to do next.

`Reader.see` takes one ping at a time, as an angler sees it: rows of colours, the settings, and how much line was taken
in. It never sees the truth. `column` says what stands, `detect` finds marks, `tracks` follows them, `sizing` measures
fish; here they are named, and the moments that matter are told.
"""

from __future__ import annotations

from collections import deque
from dataclasses import replace

import numpy as np

from ..sonar import ping, transmission
from ..wording import Quantity, Sentence
from . import sizing
from .bottom_hardness import BottomFit, read_bottom
from .column import Column, Standing
from .detect import NO_MARKS, marks_in
from .evidence import ReaderSetup, SeenPing
from .moments import Teller
from .report import BottomReading, FishReading, Going, Hardness, Interest, MarkName, NamedMark, PictureReading
from .tracks import ABOVE_CHANCE, Track, Tracker

COMPARED_S = 0.25  # how often a track is held against the rod
OVER_S = 0.8  # over this long
ROD_MOVED_M = 0.05  # less line than this says nothing
BAIT_M = 0.085  # fish below the hole no longer than this are bait, when there are several
STILL_SD_M = 0.02
FIT_EVERY = 100  # pings between two looks at what the bottom is made of
LEAST_HITS = 0.25  # share of pings in which a mark that is named is lit
FIRST_PINGS = 40  # before that nobody knows yet what stands
SETTLING_S = 0.5  # a track younger than this is not named yet
ROD_KEPT = 0.88  # how much of what the rod said before still counts at each look: marks change places in crossings
TREND_S = 1.5
FADE_DB_S = 3.0  # a fish whose mark fades this fast while it seems to sink is leaving


class Reader:
    """Reads a picture ping by ping. Deterministic: the same pings always give the same reading."""

    def __init__(self, view: ReaderSetup) -> None:
        self.view = view
        self._column: Column | None = None
        self._tracker: Tracker | None = None
        self._line = 0.0  # taken in since the start [m]
        self._lines: deque[tuple[float, float]] = deque(maxlen=600)
        self._last_s: float | None = None
        self._dt = 0.05
        self._lure: int | None = None
        self._lure_at: float | None = None  # where it was last held to be [m from the face]
        self._lure_lost_s = 0.0
        self._teller = Teller()
        self._pings = 0
        self._fit: BottomFit | None = None
        self._fit_due = 0

    @property
    def standing(self) -> Standing:
        """What stands in the picture now."""
        return Standing() if self._column is None else self._column.standing

    @property
    def bottom(self) -> BottomReading | None:
        """The bottom now."""
        return self._bottom(self.standing)

    def turn(self, view: ReaderSetup) -> None:
        """The knobs have moved, or the transducer has."""
        old, self.view = self.view, view
        if old.settings == view.settings and old.face_depth_m == view.face_depth_m:
            return
        same_pulse = (old.settings.pulse, old.settings.range_m, old.settings.ladder) == (
            view.settings.pulse, view.settings.range_m, view.settings.ladder
        )  # fmt: skip
        if not same_pulse:
            self._tracker = None
            self._lure = None
        elif self._tracker is not None:
            for one in self._tracker.every:  # levels of another gain are nothing to compare with
                one.exceed = np.zeros(0)
                one.seen.clear()
        self._column = None
        self._fit = None

    def see(self, seen: SeenPing) -> PictureReading:
        """One ping further."""
        view, t = self.view, self.view.transmission
        steps = view.thresholds_db.size
        row_m = seen.shown.height_m / seen.levels.size
        column = self._over(seen, steps)
        if self._tracker is None or abs(self._tracker.row_m - row_m) > 1e-9:
            self._tracker = Tracker(t.resolution_m, row_m, steps)
            self._lure = None
        self._dt = 0.05 if self._last_s is None else max(seen.time_s - self._last_s, 1e-3)
        self._last_s = seen.time_s
        self._line += seen.line_in_m
        self._lines.append((seen.time_s, self._line))
        self._pings += 1
        struck = column.see(seen.levels, np.array([one.range_m for one in self._tracker.tracks]))
        if self._pings % 4 == 0 or self._pings < 12:
            column.read(self._lure_at if self._lure is not None else None)
        standing = column.standing
        end = seen.shown.bottom_m
        if standing.bottom_m is not None:  # what begins in the bottom's own rise is the bottom, in weeds is weed
            end = standing.bottom_m if standing.weed_top_m is None else standing.weed_top_m
            end -= max(0.4 * t.resolution_m, 1.5 * row_m)
        start = max(standing.clutter_end_m, seen.shown.top_m)
        marks = NO_MARKS if struck else marks_in(seen.levels, seen.shown, t.resolution_m, start, end)
        shown_line = self._line_shown(seen.time_s)
        moved = shown_line - self._line_shown(seen.time_s - self._dt)
        loose = self._tracker.follow(
            seen.time_s, self._dt, marks, moved, shown_line, standing.bottom_m, self._lure, column.range_m, column.lit
        )
        column.alone(seen.time_s, loose)
        if self._lure_at is not None:
            self._lure_at -= moved
            if self._lure is None and (not 0.0 < self._lure_at < end + 0.3 or seen.time_s > self._lure_lost_s + 20.0):
                self._lure_at = None  # wherever it is, it is not there
        self._hold_against_rod(seen.time_s)
        if self._pings >= FIRST_PINGS and self._pings % 2 == 0:
            self._find_lure(seen.time_s)
        if self._pings % 2 or self._pings < FIRST_PINGS:
            return PictureReading(seen.time_s, standing=standing, complete=False)
        return self._reading(seen.time_s, standing)

    # -- what stands -------------------------------------------------------------------------------------------------

    def _over(self, seen: SeenPing, steps: int) -> Column:
        """The running means for the window shown; one that only slid a little takes its rows along."""
        now = self._column
        if now is None or abs(now.shown.height_m - seen.shown.height_m) > 1e-9 or now.range_m.size != seen.levels.size:
            self._column = now = Column(seen.shown, seen.levels.size, steps, self.view.transmission.resolution_m)
        elif now.shown != seen.shown:
            now.slide(seen.shown)
        return now

    # -- the lure ----------------------------------------------------------------------------------------------------

    def _line_shown(self, time_s: float) -> float:
        """Line taken in [m] as the picture shows it: rejection believes a move only half its pings later."""
        pings = int(self.view.unit.rejections[self.view.settings.rejection].pings)
        then = time_s - 0.5 * (pings - 1) * self._dt
        for when, line in reversed(self._lines):
            if when <= then + 1e-9:
                return line
        return self._lines[0][1] if self._lines else 0.0

    def _hold_against_rod(self, time_s: float) -> None:
        """Every quarter of a second: did each track go where the rod went?"""
        assert self._tracker is not None
        for one in self._tracker.tracks:
            if time_s - one.compared_s < COMPARED_S or one.hidden_in is not None or one.last_hit_s < time_s - 0.11:
                continue
            then = next((e for e in reversed(one.seen) if e[0] <= time_s - OVER_S and e[2] > 0), None)
            if then is None or time_s - then[0] > 2.0 * OVER_S:
                continue
            one.compared_s = time_s
            rod = -(one.seen[-1][4] - then[4])
            went = one.range_m - then[1]
            spread = max(0.02 + 0.5 * self._tracker.row_m, 0.12 * abs(rod))
            if abs(rod) > ROD_MOVED_M:
                chance = (abs(rod) + 0.3) / (spread * 2.5066)
                evidence = float(np.log(chance)) - 0.5 * ((went - rod) / spread) ** 2
                one.rod_score = ROD_KEPT * one.rod_score + float(np.clip(evidence, -3.0, 3.0))
            elif abs(rod) < 0.01:
                evidence = 0.25 - 0.5 * (went / 0.04) ** 2
                one.still_score = float(np.clip(one.still_score + np.clip(evidence, -2.0, 0.25), -6.0, 3.0))

    def _lure_score(self, one: Track, time_s: float) -> float:
        """Log odds that a track is the lure: goes with the rod, shines steadily, stands where the lure should."""
        score = one.rod_score + one.still_score + self._steadiness(one) + self._as_loud_as_the_lure(one)
        if self._lure_at is not None:
            wide = 0.12 + 0.05 * (time_s - self._lure_lost_s)
            score += float(np.clip(4.0 - ((one.range_m - self._lure_at) / wide) ** 2, -2.0, 4.0))
        return score

    def _as_loud_as_the_lure(self, one: Track) -> float:
        """Log odds from how loud what is tied on would be there: known lures answer as the sonar equation says."""
        view, t = self.view, self.view.transmission
        if view.lure is None or len(one.seen) < 8:
            return 0.0
        strength = view.lure.target_strength(t.frequency_hz, t.sound_speed_m_s)
        expected = ping.target_echo_level(t, strength, view.face_depth_m + max(one.range_m, 0.1))
        expected -= sizing.echo_level(0.0, one.range_m, view.unit, view.settings)
        limits = view.thresholds_db
        step = float(np.diff(limits).mean())
        heard = float(limits[0]) + (one.level_mean - 0.5) * step
        if one.level_mean > limits.size - 0.4:  # as loud as the picture goes, or louder
            heard = max(heard, expected)
        return float(np.clip(1.5 - 0.5 * ((heard - expected) / (3.0 + 0.4 * step)) ** 2, -3.0, 1.5))

    def _steadiness(self, one: Track) -> float:
        """A lure's level wanders by a dB, a fish's by six: log odds for the lure, in colours of this unit."""
        if len(one.seen) < 12:
            return 0.0
        step = self.view.unit.rejections[self.view.settings.rejection]
        fish_db = sizing.fish_wander(int(step.pings), step.needed)
        return float(np.clip((0.6 - self._wander_db(one) / fish_db) * 14.0, -6.0, 4.0))

    def _wander_db(self, one: Track) -> float:
        """How far its level wanders [dB, 1 sd]: by its colours, or by its thickness where those end."""
        steps = self.view.thresholds_db
        by_colour = one.wander * float(np.diff(steps).mean())
        if one.level_mean < steps.size - 0.5 or self._tracker is None:
            return by_colour
        rows = max(one.thick_wander2 - self._tracker.row_m**2 / 6.0, 0.0)  # less what whole rows make of it
        return max(by_colour, transmission.SKIRT_DB_PER_PULSE * float(np.sqrt(rows)) / self._tracker.resolution_m)

    def _find_lure(self, time_s: float) -> None:
        assert self._tracker is not None
        tracker = self._tracker
        now = None if self._lure is None else tracker.by_id(self._lure)
        scores = {
            one.id: self._lure_score(one, time_s) for one in tracker.tracks if one.hits >= 10 and _stands_out(one)
        }
        best = max(scores, key=lambda id: scores[id], default=None)
        if now is not None:
            mine = scores.get(now.id, 0.0)
            rival = best is not None and best != now.id and scores[best] > mine + 5.0 and scores[best] > 4.0
            if mine > -4.0 and not rival:
                self._lower_of_two(scores)
                if now.hidden_in is None:
                    self._lure_at, self._lure_lost_s = now.range_m, time_s
                return
        self._lure = best if best is not None and scores[best] > 2.5 else None
        self._lower_of_two(scores)
        if self._lure is not None:
            found = tracker.by_id(self._lure)
            assert found is not None
            self._lure_at, self._lure_lost_s = found.range_m, time_s
        elif now is not None:
            self._lure_lost_s = time_s

    def _lower_of_two(self, scores: dict[int, float]) -> None:
        """With two jigs on the line the lower one is the lure."""
        spacing = 0.0 if self.view.lure is None else self.view.lure.parted_m
        tracker = self._tracker
        if not spacing or self._lure is None or tracker is None:
            return
        upper = tracker.by_id(self._lure)
        if upper is None:
            return
        for one in tracker.tracks:
            good = scores.get(one.id, -9.0) > 0.0
            if good and abs(one.range_m - upper.range_m - spacing) < 0.1 * spacing + 0.03:
                self._lure = one.id
                return

    # -- names -------------------------------------------------------------------------------------------------------

    def _reading(self, time_s: float, standing: Standing) -> PictureReading:
        assert self._tracker is not None
        tracker = self._tracker
        lure = None if self._lure is None else tracker.by_id(self._lure)
        named: list[NamedMark] = []
        for one in tracker.tracks:
            if one is not lure and (time_s - one.began_s < SETTLING_S or not _stands_out(one)):
                continue
            named.append(self._name(one, lure, time_s))
        named = self._flock(named)
        named.sort(key=lambda mark: mark.range_m)
        bottom = self._bottom(standing)
        still = abs(self._line - self._line_shown(time_s - 1.0)) < ROD_MOVED_M
        moments = self._teller.moments(
            named, lure, bottom, time_s, self.view.transmission.resolution_m, tracker.row_m, still
        )
        return PictureReading(time_s, tuple(named), bottom, standing, self._water(standing), moments)

    def _name(self, one: Track, lure: Track | None, time_s: float) -> NamedMark:
        view = self.view
        depth = view.face_depth_m + one.range_m
        if one is lure:
            score = self._lure_score(one, time_s)
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
        if self._on_the_line(one, lure, time_s):
            why = Sentence("It hangs above your lure and goes a part of the way with it: a bubble on the line.")
            return self._named(one, "still", 1.5, depth, (why,))
        ranges = np.array([entry[1] for entry in one.seen if entry[2] > 0][-160:])
        age = time_s - one.began_s
        steady = self._steadiness(one)
        row_m = self._tracker.row_m if self._tracker else 0.05
        unmoved = ranges.size > 30 and float(ranges.std()) < STILL_SD_M + 0.3 * row_m
        if steady > (0.0 if unmoved and age > 5.0 else 2.0) and age > 1.5:
            why = Sentence(
                "Its colour holds to {by} from ping to ping, as no fish's does, and it has moved {sd} in {age}.",
                {
                    "by": Quantity(self._wander_db(one), "dB"), "sd": Quantity(float(np.ptp(ranges)), "m"),
                    "age": Quantity(age, "s"),
                },
            )  # fmt: skip
            return self._named(one, "still", steady + 1.0, depth, (why,))
        fish = self._fish(one, lure, time_s)
        because = (
            Sentence(
                "Its colour wanders from ping to ping by {sd}; a lure's does not.",
                {"sd": Quantity(self._wander_db(one), "dB")},
            ),
            Sentence("It does not go with the rod.") if one.rod_score < -1.0 else Sentence("It moves by itself."),
        )
        score = max(-self._lure_score(one, time_s), 0.5)
        return replace(self._named(one, "fish", score, depth, because), fish=fish)

    def _on_the_line(self, one: Track, lure: Track | None, time_s: float) -> bool:
        """Whether a faint mark high above the lure keeps its share of the way down to it: it is on the line."""
        if lure is None or one.range_m > 0.8 * lure.range_m or one.level_mean > lure.level_mean + 1.0:
            return False
        if time_s - one.began_s < 1.5:
            return False
        both = {entry[0]: entry[1] for entry in lure.seen}
        shares = np.array([entry[1] / both[entry[0]] for entry in one.seen if entry[2] > 0 and entry[0] in both][-100:])
        moved = np.ptp(list(both.values())[-100:]) > 0.15
        together = shares.size > 20 and float(shares.std()) * lure.range_m < 0.06
        return together and (bool(moved) or self._steadiness(one) > 0.0)

    def _named(
        self, one: Track, kind: MarkName, score: float, depth: float, because: tuple[Sentence, ...]
    ) -> NamedMark:
        sure = 1.0 / (1.0 + float(np.exp(-np.clip(score, -20.0, 20.0))))
        return NamedMark(
            one.id, kind, sure, one.range_m, depth, one.thick_m, one.level_mean, one.hidden_in is not None, because
        )

    def _why_lure(self, one: Track) -> tuple[Sentence, ...]:
        why = [Sentence("Its colour holds to {sd} from ping to ping.", {"sd": Quantity(self._wander_db(one), "dB")})]
        if one.rod_score > 1.0:
            why.insert(0, Sentence("It goes up and down with the rod."))
        return tuple(why)

    def _fish(self, one: Track, lure: Track | None, time_s: float) -> FishReading:
        view, t = self.view, self.view.transmission
        exceed = one.exceed if one.exceed.size else np.zeros(view.thresholds_db.size)
        level, saturated = sizing.mean_level(exceed, view.thresholds_db)
        echo = sizing.echo_level(level, one.range_m, view.unit, view.settings)
        sd = sizing.level_sd(len(one.seen), view.unit, view.settings) + (2.0 if saturated else 0.0)
        row_m = self._tracker.row_m if self._tracker else 0.05
        span = sizing.fish_span(t, one.range_m, echo, sd, row_m)
        seems, trend = self._trend(one, time_s)
        leaving = seems > 0.01 and trend < -FADE_DB_S
        closing = seems < -0.005 and trend > FADE_DB_S
        speed = 0.0 if leaving or closing else seems
        going: Going = "leaving" if leaving else "closing" if closing else "here"
        if going == "here" and abs(speed) > 0.025:
            going = "sinking" if speed > 0.0 else "rising"
        gap = None if lure is None else one.range_m - lure.range_m
        return FishReading(span, speed, seems, trend, going, _interest(gap, seems, going), gap)

    def _trend(self, one: Track, time_s: float) -> tuple[float, float]:
        """How fast the mark moves [m/s, down positive] and its level changes [dB/s], over the last TREND_S."""
        recent = [entry for entry in one.seen if entry[0] > time_s - 2.0 * TREND_S]
        if len(recent) < 12:
            return one.speed_m_s, 0.0
        when = np.array([entry[0] for entry in recent])
        at = np.array([entry[1] for entry in recent])
        late = when > time_s - TREND_S
        if late.sum() < 6 or (~late).sum() < 6:
            return float(np.polyfit(when - time_s, at, 1)[0]), 0.0
        level = np.array([entry[2] for entry in recent])
        steps = np.arange(self.view.thresholds_db.size)
        halves = [
            sizing.mean_level((level[part][:, None] > steps).mean(axis=0), self.view.thresholds_db)[0]
            for part in (~late, late)
        ]
        between = float(when[late].mean() - when[~late].mean())
        lit = late & (level > 0)
        speed = float(np.polyfit(when[lit] - time_s, at[lit], 1)[0]) if lit.sum() > 5 else one.speed_m_s
        return speed, (halves[1] - halves[0]) / max(between, 0.3)

    def _flock(self, named: list[NamedMark]) -> list[NamedMark]:
        """Several small fish near each other are bait."""
        small = [m for m in named if m.kind == "fish" and m.fish is not None and m.fish.span.curve_length_m[0] < BAIT_M]
        out = []
        for mark in named:
            near = sum(abs(mark.range_m - other.range_m) < 0.8 for other in small)
            if any(mark is one for one in small) and near >= 4:
                why = Sentence(
                    "Small as it would be below the hole, one of {n} together.", {"n": Quantity(near, "count")}
                )
                mark = replace(mark, kind="bait", because=(why,))
            out.append(mark)
        return out

    def _bottom(self, standing: Standing) -> BottomReading | None:
        if standing.bottom_m is None:
            return None
        tail, second = standing.tail_m, standing.second_m
        fit = self._hardness(standing)
        # Its sound comes back by way of the ice only from a hard one.
        hardness: Hardness = "hard" if second is not None else fit.hardness
        because = [Sentence("It stays lit for {tail} below its edge.", {"tail": Quantity(tail, "m")})]
        because.append(Sentence(f"Of all kinds of bottom, {fit.kind} would paint it most like this."))
        if second is not None:
            because.append(Sentence("A second echo stands at {at}.", {"at": Quantity(second, "m")}))
        restless = standing.restless_m > max(0.035, 1.2 * (self._tracker.row_m if self._tracker else 0.03))
        if restless:
            because.append(Sentence("Its edge moves by {by}.", {"by": Quantity(standing.restless_m, "m")}))
        if standing.weed_top_m is not None:
            because.append(
                Sentence(
                    "Something stands on it, {up} high.", {"up": Quantity(standing.bottom_m - standing.weed_top_m, "m")}
                )
            )
        return BottomReading(standing.bottom_m, hardness, tail, second, restless, standing.weed_top_m, tuple(because))

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

    def _water(self, standing: Standing) -> tuple[Sentence, ...]:
        face = self.view.face_depth_m
        out: list[Sentence] = []
        for layer in standing.layers:
            values = {
                "top": Quantity(face + layer.top_m, "m"), "bottom": Quantity(face + layer.bottom_m, "m"),
                "share": Quantity(100.0 * layer.share, "percent"),
            }  # fmt: skip
            out.append(Sentence("Specks from {top} to {bottom}, {share} lit: plankton, bait or too much gain.", values))
        if standing.foreign_per_s > 1.5:
            what = {"n": Quantity(standing.foreign_per_s, "count")}
            if standing.foreign_step_m is not None:
                text = "A neighbour's marks: {n} a second live for one ping, and they drift {step} a ping."
                out.append(Sentence(text, {**what, "step": Quantity(abs(standing.foreign_step_m), "m")}))
            else:
                out.append(Sentence("{n} marks a second live for one ping: a neighbour's, or electrical noise.", what))
        if standing.struck > 0.02:
            share = {"share": Quantity(100.0 * standing.struck, "percent")}
            out.append(Sentence("Electrical noise lights {share} of pings from end to end.", share))
        if standing.clutter_end_m > 0.3:
            out.append(
                Sentence("Surface clutter down to {end}.", {"end": Quantity(face + standing.clutter_end_m, "m")})
            )
        return tuple(out)


def _stands_out(one: Track) -> bool:
    """Whether a mark is there clearly more often than the water about it lights by itself."""
    return one.above_chance > 0.6 * ABOVE_CHANCE and one.hit_share > LEAST_HITS


def _interest(gap_m: float | None, seems_m_s: float, going: Going) -> Interest:
    """What a fish seems to want of the lure, from how the gap between the marks changes."""
    if gap_m is None or going == "leaving":
        return "put off" if going == "leaving" and gap_m is not None and abs(gap_m) < 1.2 else "steady"
    towards = -seems_m_s if gap_m > 0.0 else seems_m_s
    if towards > 0.25:
        return "charging"
    if towards > 0.02:
        return "curious"
    if towards < -0.08 and abs(gap_m) < 1.2:
        return "put off"
    return "steady"
