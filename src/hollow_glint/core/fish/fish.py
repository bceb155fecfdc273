"""Fish that come, look, follow and take: one animal with reasons for what it does, many at a time.

A fish passes at its own depth, may notice a lure, comes and stops below it, grows keener with a slow lift and cools
beside a lure that hangs or flees, follows to its own highest depth and never beyond, takes when it is keen enough and
near enough, holds the lure a second or two, and lets go or is hooked. A second fish makes it bolder, a missed bite
makes it wary. Every number is in `traits.py`, with its unit and reason; none is measured on real fish.

All fish move in one sweep of arrays, so that the same animal serves the Bench, where there are one or two, and the
cadence lab, where there are hundreds, each alone with its own lure.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from .events import FishDid
from .present import FishPresent
from .sense import Sense
from .states import CURIOUS, FOLLOWING, HOOKED, MOUTHING, NIP, PASSING, PUT_OFF, SLACK, FishAct
from .stimulus import LureStimulus, between
from .traits import EVERY

MOST_LURES = 3  # the angler's, a dead stick, and the jig of whoever sits beside
LUCK = 10  # draws a fish uses at every step, whatever it does: what one decides never shifts another's luck
SWIMS_UP_M_S = 0.12  # with the lure in its mouth, where a bite shows as slack line. Invented
PLAYED_S = 4.0  # a hooked fish is landed after this


class Visitors(FishPresent):
    """The fish that have come, and what they do with what their lures do."""

    def step(self, lures: Sequence[LureStimulus], dt: float) -> list[FishAct]:
        """The fish `dt` [s] later and what they did; `lures` is the angler's and, where there are any, others."""
        if self.count == 0:
            lures[0].spend_news()
            return []
        luck = self._rng.random((LUCK, self.count))
        sense = Sense(lures, self.at, self.x, self.y, self.z)
        did: list[FishAct] = []
        passing = self.mood == PASSING
        watching = (self.mood == CURIOUS) | (self.mood == FOLLOWING)
        self._swim_on(passing, lures, luck, dt, did)
        self._make_off(self.mood == PUT_OFF, luck, dt)
        self._on_the_lure((self.mood == MOUTHING) | (self.mood == HOOKED), sense, luck, dt, did)
        self._watch(watching, sense, luck, dt, did)
        self._follow(watching & (self.mood <= FOLLOWING), sense, luck, dt, did)
        self._take(watching & (self.mood <= FOLLOWING), sense, luck, dt, did)
        for one in lures:
            one.spend_news()
        return did

    def _tell(self, did: list[FishAct], kind: FishDid, which: NDArray[np.bool_], number: Floats | float = 0.0) -> None:
        if not which.any():
            return
        numbers = np.broadcast_to(np.asarray(number, dtype=np.float64), self.x.shape)
        did.extend(
            FishAct(kind, int(k), float(self.z[k]), float(self.length_m[k]), float(numbers[k]))
            for k in np.flatnonzero(which)
        )

    def _sight(self, which: NDArray[np.bool_]) -> Floats:
        """How far these see or smell a lure [m]."""
        dark = 1.0 + self._night * (self.traits.night_sight[which] - 1.0)
        sight: Floats = EVERY["sight_m"] * self._clear * dark
        return sight

    def _swim_on(
        self, which: NDArray[np.bool_], lures: Sequence[LureStimulus], luck: Floats, dt: float, did: list[FishAct]
    ) -> None:
        """Passing by, called by a thump, or noticing a lure in sight: the livelier the lure, the sooner."""
        if not which.any():
            return
        e, t = EVERY, self.traits
        self.x[which] += (self.vx[which] + (luck[0, which] - 0.5) * 0.04) * dt
        self.y[which] += (self.vy[which] + (luck[1, which] - 0.5) * 0.04) * dt
        self.z[which] += (self.home_m[which] - self.z[which]) * 0.8 * dt
        for k, lure in enumerate(lures):
            aside = np.hypot(self.x - lure.x, self.y - lure.y)
            away = np.hypot(aside, self.z - lure.depth_m)
            calls = t.pound_calls * (0.6 + 0.4 * self.pounding)
            called = which & lure.thumped & (away < e["hear_m"]) & (luck[2] < calls) & self.comes
            if called.any():
                to = np.arctan2(lure.y - self.y, lure.x - self.x)
                self.vx = np.where(called, t.cruise_m_s * np.cos(to), self.vx)
                self.vy = np.where(called, t.cruise_m_s * np.sin(to), self.vy)
                self._tell(did, "called", called, away)
            seen = np.zeros(self.count, dtype=bool)
            seen[which] = away[which] < self._sight(which)
            per_s = t.notice_per_s * (0.12 + 0.88 * lure.lively)
            noticed = which & seen & ~self.looked & (self.mood == PASSING) & (luck[3 + k] < per_s * dt)
            if not noticed.any():
                continue
            self.looked |= noticed
            came = noticed & self.comes
            self.mood[came] = CURIOUS
            self.at[came] = k
            self.keen[came] = e["keen_at_first"] * (1.0 - 0.5 * self.shy[came])
            self.watched_s[came] = 0.0
            self.topmost_m[came] = self.z[came]
            self._tell(did, "noticed", came)

    def _make_off(self, which: NDArray[np.bool_], luck: Floats, dt: float) -> None:
        if not which.any():
            return
        self.x[which] += (self.vx[which] * 2.2 + (luck[0, which] - 0.5) * 0.04) * dt
        self.y[which] += (self.vy[which] * 2.2 + (luck[1, which] - 0.5) * 0.04) * dt
        self.z[which] += (self.home_m[which] - self.z[which]) * 0.8 * dt

    def turn_away(self, which: NDArray[np.bool_]) -> None:
        """These have had enough: outwards from the hole and back to their own depth."""
        bearing = np.arctan2(self.y[which], self.x[which])
        self.mood[which] = PUT_OFF
        self.keen[which] = 0.0
        self.vx[which] = self.traits.cruise_m_s[which] * np.cos(bearing)
        self.vy[which] = self.traits.cruise_m_s[which] * np.sin(bearing)

    def _watch(self, which: NDArray[np.bool_], s: Sense, luck: Floats, dt: float, did: list[FishAct]) -> None:
        """Keener or cooler with what the lure does; and the reasons for turning away."""
        if not which.any():
            return
        e, t = EVERY, self.traits
        self.watched_s[which] += dt
        near = which & (s.away_m < e["near_m"])
        open_to = (1.0 - self.shy) * self.bold
        pause = (s.still_s > 0.3) & (s.since_lift_s < e["pause_s"])
        resting = (s.still_s > 0.3) & ~pause
        company = self._company(which, s)
        fast = between(s.speed_m_s / e["fast_m_s"] - 1.0, 0.0, 2.0)
        in_face = (s.gap_m > -0.05) & (s.gap_m < t.comfort_m)
        per_s = (
            t.lift_draw_per_s * s.lifting * open_to
            + t.pause_draw_per_s * pause * open_to
            - t.still_loss_per_s * resting * (1.0 - s.lively) * ~s.baited
            + e["bait_draw_per_s"] * s.baited * open_to
            - t.fast_loss_per_s * fast
            + 0.05 * self.face * in_face
            + t.company_draw_per_s * company * open_to
            - 0.06 * (self.watched_s > self.stays_s)
            - 0.04 * (s.size_m > e["mouthful"] * self.length_m) * (self.length_m > e["nip_m"])
        )
        at_once = t.twitch_draw * s.news * s.twitched * open_to + t.thump_draw * self.pounding * s.thumped
        self.keen = np.where(near, np.minimum(self.keen + per_s * dt + at_once, 1.0), self.keen)
        self.topmost_m = np.where(which, np.minimum(self.topmost_m, self.z), self.topmost_m)
        below = (s.gap_m > 0.1) & (s.gap_m < e["drop_within_m"])
        dropping = near & (s.falling_m_s > e["drop_m_s"]) & below & (s.aside_m < 0.8)
        dropped = dropping & ~self.dropped_on
        self.dropped_on = np.where(which, dropping, self.dropped_on)
        put_off = dropped & (luck[5] < t.drop_puts_off)
        self.shy = np.where(dropped & ~put_off, np.minimum(self.shy + 0.25, 0.9), self.shy)
        wanders = near & (luck[9] < t.wanders_off_per_s * (1.0 - self.keen) * dt)
        self._tell(did, "unsettled by the drop", dropped & ~put_off, s.falling_m_s)
        left = which & ((self.keen <= 0.0) | wanders) & ~put_off
        fled = left & (s.fastest_m_s > 0.6 * e["fast_m_s"])
        turned = which & (s.depth_m < self.highest_m - e["turn_off_m"]) & ~put_off & ~left
        if not (put_off | left | turned).any():
            return
        reasons: tuple[tuple[FishDid, NDArray[np.bool_], Floats], ...] = (
            ("put off by the drop", put_off, s.falling_m_s),
            ("put off by the lift", fled, s.fastest_m_s),
            ("lost interest", left & ~fled, self.watched_s),
            ("turned at its line", turned, self.highest_m),
        )
        for kind, those, number in reasons:
            if those.any():
                self._tell(did, kind, those, number)
                self.turn_away(those)

    def _company(self, which: NDArray[np.bool_], s: Sense) -> NDArray[np.bool_]:
        """Whether another fish is at the same lure too."""
        if self.alone or self.count < 2:
            return np.zeros(self.count, dtype=bool)
        there = which & (s.away_m < EVERY["company_m"])
        return there & bool(there.sum() >= 2)

    def _follow(self, which: NDArray[np.bool_], s: Sense, luck: Floats, dt: float, did: list[FishAct]) -> None:
        """In to the lure's middle and below it, nearer the keener; up with it as far as it goes and can keep up."""
        if not which.any():
            return
        e, t = EVERY, self.traits
        short = between((t.takes_from - self.keen) / (t.takes_from - 0.2), 0.0, 1.0)
        goal = np.maximum(np.minimum(s.depth_m + t.stand_off_m * short, self._lowest_m), self.highest_m)
        reach = t.follow_m_s * dt
        climb = between(goal - self.z, -reach, reach)
        inwards = np.minimum(1.3 * t.cruise_m_s, 0.6 * s.aside_m + 0.01)
        shrink = np.maximum(s.aside_m - inwards * dt, 0.0) / np.maximum(s.aside_m, 1e-6)
        wander = (luck[0:3] - 0.5) * 0.05 * dt
        self.x = np.where(which, s.x + (self.x - s.x) * shrink + wander[0], self.x)
        self.y = np.where(which, s.y + (self.y - s.y) * shrink + wander[1], self.y)
        self.z = np.where(which, np.maximum(self.z + climb + wander[2], np.minimum(self.highest_m, self.z)), self.z)
        follows = which & (self.keen >= e["following_from"])
        self._tell(did, "following", follows & (self.mood == CURIOUS), self.keen)
        self.mood = np.where(which, np.where(follows, FOLLOWING, CURIOUS), self.mood)

    def _take(self, which: NDArray[np.bool_], s: Sense, luck: Floats, dt: float, did: list[FishAct]) -> None:
        """Takes when keen and touching: a hot fish on the lift, a careful one in the pause after it."""
        if not which.any():
            return
        e, t = EVERY, self.traits
        touching = (
            which & (s.aside_m < 0.12) & (np.abs(self.z - s.depth_m) < e["touch_m"]) & (self.keen >= t.takes_from)
        )
        if not touching.any():
            return
        pause = (s.still_s > 0.3) & (s.since_lift_s < e["pause_s"])
        per_s = t.take_lift_per_s * s.lifting + t.take_pause_per_s * np.where(
            pause | s.baited, 1.0, np.maximum(0.2 * s.lively, 0.06)
        )
        # One hooked fish has the lure to itself; so has one that mouths it.
        free = np.ones(self.count, dtype=bool)
        if not self.alone:
            for k in range(MOST_LURES):
                if ((self.mood >= MOUTHING) & (self.mood <= HOOKED) & (self.at == k)).any():
                    free &= self.at != k
        bites = touching & free & (luck[6] < per_s * dt)
        if not self.alone:
            for k in range(MOST_LURES):
                rest = np.flatnonzero(bites & (self.at == k))[1:]
                bites[rest] = False
        if not bites.any():
            return
        self.mood[bites] = MOUTHING
        self.timer_s = np.where(
            bites, t.holds_s * (0.8 + 0.5 * luck[7]) * np.where(self.bite == NIP, 0.3, 1.0), self.timer_s
        )
        self.watched_s = np.where(bites, 0.0, self.watched_s)  # from here on: how long it has the lure
        self._tell(did, "bite", bites, self.bite.astype(np.float64))

    def _on_the_lure(self, which: NDArray[np.bool_], s: Sense, luck: Floats, dt: float, did: list[FishAct]) -> None:
        """Has the lure in its mouth: goes where it goes, or swims up with it; lets go in the end unless hooked."""
        if not which.any():
            return
        t = self.traits
        rises = which & (self.bite == SLACK) & (self.mood == MOUTHING)
        self.x = np.where(which, s.x + (self.x - s.x) * 0.9, self.x)
        self.y = np.where(which, s.y + (self.y - s.y) * 0.9, self.y)
        swum = np.maximum(self.z - SWIMS_UP_M_S * dt, self.highest_m)
        self.z = np.where(rises, np.minimum(swum, self.z), np.where(which, s.depth_m, self.z))
        self.timer_s = np.where(which, self.timer_s - dt, self.timer_s)
        self.watched_s = np.where(which, self.watched_s + dt, self.watched_s)
        over = which & (self.timer_s <= 0.0)
        if not over.any():
            return
        landed = over & (self.mood == HOOKED)
        let_go = over & (self.mood == MOUTHING)
        stays = let_go & (luck[8] < t.back_after_miss)
        self._tell(did, "landed", landed)
        self._tell(did, "let go", let_go, self.watched_s)
        self.miss(let_go, stays)

    def miss(self, which: NDArray[np.bool_], stays: NDArray[np.bool_]) -> None:
        """A bite was missed: it is warier from now on, and stays to look again or goes."""
        self.shy = np.where(which, np.minimum(self.shy + self.traits.shy_after_miss, 0.95), self.shy)
        self.turn_away(which & ~stays)
        back = which & stays
        self.mood[back] = CURIOUS
        self.keen[back] = EVERY["following_from"]
        self.watched_s[back] = 0.0

    def make_wary(self, depth_m: float, but: int | None) -> None:
        """A hook was set at `depth_m` [m]: those near it, but the one it was set on, think again."""
        near = (np.abs(self.z - depth_m) < EVERY["wary_m"]) & (self.aside_m < EVERY["wary_m"])
        near &= (self.mood == CURIOUS) | (self.mood == FOLLOWING)
        if but is not None:
            near[but] = False
        self.shy[near] = np.minimum(self.shy[near] + 0.2, 0.95)
        self.keen[near] = np.maximum(self.keen[near] - 0.2, 0.02)

    def hook(self, k: int) -> None:
        """The hook holds: it is played, and landed."""
        self.mood[k] = HOOKED
        self.timer_s[k] = PLAYED_S
