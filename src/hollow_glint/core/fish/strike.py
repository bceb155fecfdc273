"""The strike: the hand, the lure that follows it, the fish that answer, and what setting the hook does.

One step moves the hand and the lure (`rod.py`), tells the fish what the lure did (`stimulus.py`, `fish.py`), and puts
what happened into words. It pings nothing and paints nothing, so it serves the Bench, the runs and their replays.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Sequence
from typing import Protocol

import numpy as np

from ..checks import one_of
from ..gear.lures import Lure
from ..hole.scene import Scene
from ..hole.swing import Swing, swing
from . import rod
from .day import Day
from .events import Event, EventKind, FishTruth
from .fish import Visitors
from .hand import FASTEST
from .states import BITES, CURIOUS, FOLLOWING, HOOKED, MOOD_NAMES, MOUTHING, FishAct, Newcomer
from .stimulus import LureStimulus

RUNS_OUT_M_S = 0.25  # how much faster than the lure sinks a hand can let out line
TWITCH_M = 0.04
TWITCH_S = 0.2
FIRST_FISH_S = 12.0  # time to lower the lure and set the gain before there is something to look at
NEXT_FISH_S = (6.0, 14.0)
GONE_M = 5.0  # a fish that far off the hole is out of the picture for good
LATE_S = 3.0  # a set this long after it let go was late; after that there is nothing there
RODS = ("jig", "stick")


class Asked(Protocol):
    """The part of a bench's command that hand and rod obey; see `bench_run.Command`."""

    @property
    def lift_m_s(self) -> float | None: ...
    @property
    def to_depth_m(self) -> float | None: ...
    @property
    def twitch(self) -> bool: ...
    @property
    def set_hook(self) -> bool: ...
    @property
    def force(self) -> str: ...
    @property
    def rod(self) -> str: ...


class Beside(Protocol):
    """The jig of a person beside: where its hole is from the angler's [m], how large it is [m], how deep when."""

    @property
    def x_m(self) -> float: ...
    @property
    def y_m(self) -> float: ...
    @property
    def size_m(self) -> float: ...
    def depth_at(self, time_s: float) -> float: ...


THEY_WAIT_S = 0.7  # after the bite, until the person beside sets the hook. Invented


class Striking:
    """Hand, lure and fish over one hole. `move` it a step at a time; read its public fields between steps.

    schedule    who comes, in order of time; None lets chance send `scene.visitors` at most at once
    """

    def __init__(  # noqa: PLR0913 - all that a start is made of
        self,
        scene: Scene,
        lure: Lure,
        day: Day,
        line: str,
        rng: np.random.Generator,
        lure_depth_m: float | None = None,
        schedule: Sequence[Newcomer] | None = None,
        beside: Beside | None = None,
    ) -> None:
        self.scene = scene
        self.lure = lure
        self.day = day
        self.line = one_of("line", line, tuple(rod.LINES))
        self._luck = rng
        top = self._top_m
        # Where the hand lets the lure hang on a tight line; slack and twitches move the lure off that.
        self.hang_m = top if lure_depth_m is None else float(np.clip(lure_depth_m, top, scene.bottom_depth_m))
        self._tight_m = self.hang_m  # the lure without a twitch
        self.lure_depth_m = self.hang_m
        self.swing = Swing()
        self.lift_m_s = 0.0
        self.to_depth_m: float | None = None
        self._twitch_s = 0.0
        self._began_twitch = False
        self.visitors = Visitors(day, scene.clarity, scene.hour, scene.bottom_depth_m, rng)
        self._sensed = LureStimulus(self.hang_m, lure.size_m, lure.parted_m)
        self._stick = self._dead_stick()
        self._beside = beside
        self._theirs: LureStimulus | None = None
        self._schedule = None if schedule is None else deque(schedule)
        self._first: Newcomer | None = None
        self._next_fish_s = FIRST_FISH_S
        self._let_go_s, self._let_go_m = -1e9, 0.0
        self.rising_m_s = 0.0
        self.tip = rod.Tip()
        self.stick_tip = rod.Tip("still", rod.REST_BEND)

    @property
    def _top_m(self) -> float:
        # Held a little under the ice at the highest: a jig is not reeled through the slab.
        return self.scene.ice_thickness_m + 0.05

    @property
    def slack_m(self) -> float:
        """How much line [m] lies slack between hand and lure."""
        return max(self.hang_m - self._tight_m, 0.0)

    @property
    def stick_depth_m(self) -> float | None:
        """Depth [m] of the dead stick in the second hole, None without one."""
        return next((one.depth_m for one in self.scene.hung if one.kind == "dead stick"), None)

    def _dead_stick(self) -> LureStimulus | None:
        depth = self.stick_depth_m
        if depth is None:
            return None
        lured = LureStimulus(depth, 0.02, baited=True)
        lured.x = self.scene.second_hole_m
        return lured

    def change_scene(self, scene: Scene) -> None:
        """The water as it is from now on; fish beyond what it lets come are forgotten."""
        self.scene = scene
        gone = np.arange(self.visitors.count) >= scene.visitors
        if gone.any() and self._schedule is None:
            self.visitors.leave_out(gone)
        self.hang_m = float(np.clip(self.hang_m, self._top_m, scene.bottom_depth_m))
        self._tight_m = min(self._tight_m, self.hang_m)
        self._stick = self._dead_stick()

    def expect(self, first: Newcomer) -> None:
        """Have this one come before those that chance sends."""
        self._first, self._next_fish_s = first, first.at_s

    def twitch(self) -> None:
        """One short twitch of the rod."""
        self._twitch_s = TWITCH_S
        self._began_twitch = True

    def obey(self, time_s: float, asked: Asked) -> list[Event]:
        """What one command asks of hand and rod; what a set of the hook came to."""
        if asked.lift_m_s is not None:
            self.lift_m_s, self.to_depth_m = asked.lift_m_s, None
        if asked.to_depth_m is not None:
            self.lift_m_s, self.to_depth_m = 0.0, asked.to_depth_m
        if asked.twitch:
            self.twitch()
        return [self.set_hook(time_s, asked.force, asked.rod)] if asked.set_hook else []

    def move(self, time_s: float, dt: float) -> list[Event]:
        """Hand, lure and fish `dt` [s] on from `time_s` [s]; what happened."""
        before = self._tight_m
        self._move_lure(dt)
        self._arrivals(time_s)
        events = self._move_fish(time_s, dt, before)
        self.tip = self._tip_of(0)
        self.stick_tip = self._tip_of(1)
        self._began_twitch = False
        return events

    def _move_lure(self, dt: float) -> None:
        """The lure follows the hand up; down it cannot pass its own sink speed; the bottom stops it.

        A blade that falls as fast as it can is on slack line: it glides off, and swings back when the line is tight.
        """
        speed = -self.lift_m_s  # downwards positive from here on
        sink = min(FASTEST, self.lure.sink_speed_m_s)
        if self.to_depth_m is not None:
            speed = min((self.to_depth_m - self.hang_m) / dt, sink)  # lowered with care, on a tight line
        glides = self.lure.kind.glide > 0.0
        slack = speed > 0.98 * sink and glides
        speed = min(max(speed, -FASTEST), FASTEST, sink if glides else sink + RUNS_OUT_M_S)
        top, bottom = self._top_m, self.scene.bottom_depth_m
        was = self._tight_m
        self.hang_m = min(max(self.hang_m + speed * dt, top), bottom)
        self.hang_m = min(self.hang_m, max(was + rod.MOST_SLACK_M, self.hang_m - abs(speed) * dt))
        self._tight_m = min(was + sink * dt, self.hang_m)
        self._twitch_s = max(self._twitch_s - dt, 0.0)
        lifted = TWITCH_M * float(np.sin(np.pi * self._twitch_s / TWITCH_S)) if self._twitch_s else 0.0
        self.lure_depth_m = max(self._tight_m - lifted, top)
        self.rising_m_s = (was - self._tight_m) / dt
        if glides:
            heading = 2.0 * np.pi * float(self._luck.random())
            falling = (self._tight_m - was) / dt
            length = max(self.lure_depth_m, 0.5)
            self.swing = swing(self.swing, self.lure, falling, slack and falling > 0.0, length, heading, dt)

    def _arrivals(self, time_s: float) -> None:
        visitors = self.visitors
        if self._schedule is not None:
            while self._schedule and self._schedule[0].at_s <= time_s + 1e-9:
                visitors.join([self._schedule.popleft()])
            return
        if visitors.count < self.scene.visitors and time_s >= self._next_fish_s:
            comes, self._first = self._first or self._passer_by(), None
            visitors.join([comes])
            more = self.scene.visitors > 1
            self._next_fish_s = time_s + float(self._luck.uniform(*NEXT_FISH_S)) if more else np.inf

    def _passer_by(self) -> Newcomer:
        """3 to 4 m off, heading to pass within half a metre of the hole, in the lower part of the column."""
        luck, scene = self._luck, self.scene
        column = scene.bottom_depth_m - scene.face_depth_m
        return Newcomer(
            "whitefish",
            float(luck.uniform(0.22, 0.48)),
            float(scene.bottom_depth_m - luck.uniform(0.08, 0.25) * column),
            float(luck.uniform(3.0, 4.0)),
            float(luck.uniform(0.0, 2.0 * np.pi)),
            float(luck.uniform(-0.5, 0.5)),
        )

    def _move_fish(self, time_s: float, dt: float, before: float) -> list[Event]:
        visitors = self.visitors
        carried = self._holding(0)
        sensed = self._sensed
        sensed.x, sensed.y = self.swing.x, self.swing.y
        if carried is None or visitors.mood[carried] == HOOKED:
            sensed.move(self._tight_m, dt, self._began_twitch, self.scene.bottom_depth_m)
        lures = [sensed] if self._stick is None else [sensed, self._stick]
        if self._stick is not None:
            self._stick.move(self._stick.depth_m, dt, False, self.scene.bottom_depth_m)
        if self._beside is not None:
            lures.append(self._move_theirs(self._beside, time_s, dt))
        did = visitors.step(lures, dt)
        events = [told for one in did if (told := self._event(one)) is not None]
        for one in did:
            if one.kind == "let go" and not self._is_theirs(one):
                self._let_go_s, self._let_go_m = time_s, one.length_m
        carried = self._holding(0)
        if carried is not None and visitors.mood[carried] == MOUTHING:
            z, below = float(visitors.z[carried]), sensed.spacing_m
            # A fish on the upper of two jigs has the lower one hanging under it.
            z += below if abs(z + below - self._tight_m) < abs(z - self._tight_m) else 0.0
            if z < self._tight_m:
                # It swims up with the lure in its mouth, and the line goes slack.
                self._tight_m = self.lure_depth_m = z
        gone = (visitors.aside_m > GONE_M) & (visitors.mood != HOOKED)
        for one in did:
            if one.kind == "landed":
                gone[one.fish] = True
        events += [Event("gone") for k in np.flatnonzero(gone) if visitors.mood[k] != HOOKED]
        if gone.any():
            visitors.leave_out(gone)
            if self._schedule is None and np.isinf(self._next_fish_s):
                self._next_fish_s = time_s + float(self._luck.uniform(*NEXT_FISH_S))
        return events

    @property
    def _their_number(self) -> int:
        return 1 if self._stick is None else 2

    def _is_theirs(self, did: FishAct) -> bool:
        """Whether a fish did it at the jig of whoever sits beside."""
        return self._beside is not None and bool(self.visitors.at[did.fish] == self._their_number)

    def _move_theirs(self, beside: Beside, time_s: float, dt: float) -> LureStimulus:
        """The other's jig moved on, and the hook set when a fish has had it for a moment."""
        depth = beside.depth_at(time_s)
        if self._theirs is None:
            self._theirs = LureStimulus(depth, beside.size_m)
            self._theirs.x, self._theirs.y = beside.x_m, beside.y_m
        k = self._holding(self._their_number)
        if k is not None and self.visitors.mood[k] == MOUTHING and self.visitors.watched_s[k] > THEY_WAIT_S:
            self.visitors.hook(k)
        self._theirs.move(depth, dt, False, self.scene.bottom_depth_m)
        return self._theirs

    def _event(self, did: FishAct) -> Event | None:
        visitors = self.visitors
        kind: EventKind = did.kind
        if self._is_theirs(did):  # of a fish at their jig one is told what they would cry out
            theirs: EventKind | None = {"bite": "bite beside you", "landed": "landed beside you"}.get(did.kind)  # type: ignore[assignment]
            return None if theirs is None else Event(theirs, did.depth_m, did.length_m, 0.0, visitors.species[did.fish])
        if kind == "bite":
            kind = "bite" if visitors.at[did.fish] == 0 else "bite on the stick"
            return Event(kind, did.depth_m, did.length_m, how=BITES[int(did.number)])
        if kind == "landed":
            return Event(kind, did.depth_m, did.length_m, 0.0, visitors.species[did.fish])
        return Event(kind, did.depth_m, did.length_m if kind != "called" else 0.0, did.number)

    def _holding(self, which: int) -> int | None:
        """The fish that has the lure of rod `which` in its mouth, hooked or not."""
        v = self.visitors
        for k, mood in enumerate(v.mood.tolist()):
            if mood in (MOUTHING, HOOKED) and v.at[k] == which:
                return k
        return None

    def set_hook(self, time_s: float, force: str = "firm", which: str = "jig") -> Event:
        """Set the hook at `time_s` [s]: what came of it. Raises ValueError for a force or rod that is not known."""
        one_of("force", force, tuple(rod.SWEEPS))
        at = RODS.index(one_of("rod", which, RODS))
        v = self.visitors
        k = self._holding(at) if at == 0 or self._stick is not None else None
        depth = self.lure_depth_m if at == 0 else (self.stick_depth_m or 0.0)
        if k is not None and v.mood[k] == HOOKED:
            return Event("already on", depth)
        if k is not None:
            length, z, held = float(v.length_m[k]), float(v.z[k]), float(v.watched_s[k])
            if BITES[v.bite[k]] == "nip":
                v.turn_away(np.arange(v.count) == k)
                return Event("only nipped", z, length, held)
            slack = self.slack_m if at == 0 else 0.0
            pull = rod.set_pull(self.line, z, slack, force, float(v.traits.mouth_n[k]), held)
            v.make_wary(z, k)
            if pull.outcome == "hooked":
                v.hook(k)
                return Event("hooked", z, length, pull.pull_n, v.species[k])
            v.miss(np.arange(v.count) == k, np.zeros(v.count, dtype=bool))
            return Event(
                pull.outcome, z, length, held if pull.outcome == "torn out" and force == "firm" else pull.pull_n
            )
        looking = (v.mood == CURIOUS) | (v.mood == FOLLOWING)
        close = looking & (v.at == at) & (np.abs(v.z - depth) < 0.8) & (v.aside_m < 0.8)
        since = time_s - self._let_go_s
        if since < LATE_S:
            # Whether it stayed or not, it had the lure a moment ago.
            self._let_go_s = -1e9
            v.turn_away(close)
            return Event("too late", depth, self._let_go_m, since)
        if at == 0 and close.any():
            nearest = np.arange(v.count) == int(np.argmin(np.where(close, np.abs(v.z - depth), np.inf)))
            gap = float(np.abs(v.z - depth)[nearest][0])
            length = float(v.length_m[nearest][0])
            v.turn_away(nearest)
            return Event("too early", depth, length, gap)
        return Event("nothing there", depth)

    def _tip_of(self, which: int) -> rod.Tip:
        if which == 1 and self._stick is None:
            return rod.Tip()
        v, scene = self.visitors, self.scene
        k = self._holding(which)
        hooked = k is not None and bool(v.mood[k] == HOOKED)
        bite = None if k is None or hooked else BITES[v.bite[k]]
        held = 0.0 if k is None else float(v.watched_s[k])
        if which == 1:
            still = Lure("dead-stick jig", 0.005)
            return rod.tip_of(still, lying=False, slack_m=0.0, rising_m_s=0.0, twitching=False, in_weeds=0.0,
                              bite=bite, held_s=held, hooked=hooked)  # fmt: skip
        weeds = scene.weed_density if self._tight_m > scene.weed_top_m and scene.weed_height_m > 0.0 else 0.0
        return rod.tip_of(
            self.lure,
            lying=self.lure_depth_m >= scene.bottom_depth_m - 1e-6,
            slack_m=self.slack_m,
            rising_m_s=self.rising_m_s,
            twitching=self._twitch_s > 0.0,
            in_weeds=weeds,
            bite=bite,
            held_s=held,
            hooked=hooked,
        )

    def truths(self) -> tuple[FishTruth, ...]:
        """Where each fish truly is."""
        v = self.visitors
        return tuple(
            FishTruth(
                float(v.x[k]), float(v.y[k]), float(v.z[k]), float(v.length_m[k]), MOOD_NAMES[v.mood[k]], v.species[k],
                round(float(v.keen[k]), 3), float(v.highest_m[k]), int(v.who[k]),
            )
            for k in range(v.count)
        )  # fmt: skip
