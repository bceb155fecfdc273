"""The judge of a run: walks its story once and tells what was decisive, with its number.

It looks at what truly happened (`replay.story`) and at how the knobs stood, never at what the angler could not help.
Where practice is agreed on the judgement follows it ("common practice, no source"); the weights are ours.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..bench.frame import STEP_S
from ..fish.events import Event, EventKind
from ..fish.traits import EVERY
from ..tuning.situation import situation_at
from ..wording import Quantity, Sentence
from .replay import Beat
from .run_log import RunLog

SEEN_EVERY_S = 1.0  # how often the picture is asked whether the lure shows
NEAR_M = 1.2  # a fish this near the lure is the one being worked
STILL_SHARE = 0.7  # of the time that a fish watched; a lift and a pause as long are no hanging
LEVEL_M = -0.15  # a fish no more above the lure than this is at its height
WASTED_S = 20.0  # so long on a fish too small to hook is a waste
SLOW_ENOUGH = 0.7  # share of lifting that must have been slow to be called so
LOST_SHARE = 0.15

Mistake = Literal[
    "lift", "drop", "hang", "eyes", "late", "missed", "early", "hard", "soft", "small", "line", "picture", "stick"
]
MomentCode = Literal[Mistake, "left", "far", "set", "landed"]
RunSkill = Literal[
    "eyes to the rod tip", "set on the bite", "lift slowly", "leave small fish", "keep the lure in the picture",
    "never chase it down",
]  # fmt: skip


@dataclass(frozen=True)
class JudgedMoment:
    """One decisive moment: when [s], what it is about, whether it was well done, what is said of it, how much it
    weighs, and (for a mistake) the moment [s] to go back to and try it otherwise."""

    time_s: float
    code: MomentCode
    is_good: bool
    say: Sentence
    weight: float
    back_s: float


@dataclass(frozen=True)
class SkillFigure:
    """How one skill went in a run: times well done, of how many."""

    skill: RunSkill
    good: float
    of: float


@dataclass(frozen=True)
class FishReached:
    """The highest a fish came up [m below the surface], and whether it turned there."""

    time_s: float
    depth_m: float
    turned: bool


def m(value: float) -> Quantity:
    return Quantity(value, "m")


def s(value: float) -> Quantity:
    return Quantity(value, "s")


class Judge:
    """Walks the story once and keeps what was decisive."""

    def __init__(self, log: RunLog, beats: Sequence[Beat]) -> None:
        self.log, self.beats = log, beats
        self.found: list[JudgedMoment] = []
        self.skills: dict[RunSkill, list[float]] = {}
        self.reached: list[FishReached] = []
        self.came = self.dropped = 0
        self.lure = np.array([beat.lure_m for beat in beats])
        self.rising = np.array([beat.rising_m_s for beat in beats])

    def tell(self, k: int, code: MomentCode, text: str, weight: float = 1.0, is_good: bool = False, back_s: float = 3.0,
             **values: Quantity) -> None:  # fmt: skip
        at = self.beats[k].time_s
        self.found.append(JudgedMoment(at, code, is_good, Sentence(text, values), weight, max(at - back_s, STEP_S)))

    def count(self, skill: RunSkill, good: float, of: float = 1.0) -> None:
        """Once more for a skill: `good` of `of`."""
        have = self.skills.setdefault(skill, [0.0, 0.0])
        have[0] += good
        have[1] += of

    def event(self, k: int, event: Event) -> None:
        """What is to be said of one event."""
        judge = JUDGES[event.kind]
        if judge is not None:
            judge(self, k, event)

    def _put_off_by_the_drop(self, k: int, event: Event) -> None:
        self._dropped(k, event, "It left.", 3.0)

    def _unsettled_by_the_drop(self, k: int, event: Event) -> None:
        self._dropped(k, event, "It stayed this time, and is warier now.", 1.4)

    def _dropped(self, k: int, event: Event, then: str, weight: float) -> None:
        # As the hand goes on: how far it fell in all, not only until the fish left.
        first = k
        while first > 0 and self.rising[first - 1] < -0.02:
            first -= 1
        last = k
        while last + 1 < len(self.beats) and self.rising[last + 1] < -0.02 and last < k + 40:
            last += 1
        far = float(self.lure[last] - self.lure[max(first - 1, 0)])
        self.dropped += 1
        self.tell(
            k, "drop", f"Dropped {{far}} onto a {{fish}} fish, at {{speed}}. {then}", weight, back_s=2.0, far=m(far),
            fish=m(event.fish_length_m), speed=Quantity(event.number, "m/s"),
        )  # fmt: skip

    def _put_off_by_the_lift(self, k: int, event: Event) -> None:
        self.tell(
            k, "lift", "Lifted at {speed}, where {best} would have held it. It gave up.", 2.5,
            speed=Quantity(event.number, "m/s"), best=Quantity(EVERY["best_to_m_s"], "m/s"),
        )  # fmt: skip
        self._came_up(k, event, False)

    def _lost_interest(self, k: int, event: Event) -> None:
        first = max(k - round(event.number / STEP_S), 0)
        still = float((np.abs(self.rising[first:k]) < 0.004).mean()) if k > first else 0.0
        self._came_up(k, event, False)
        if event.fish_length_m < EVERY["nip_m"]:
            return
        if still > STILL_SHARE and event.number > 4.0:
            self.tell(
                k, "hang", "It watched for {watched} and left: the lure hung still for {share} of it.", 1.5,
                back_s=min(event.number, 10.0), watched=s(event.number), share=Quantity(100.0 * still, "percent"),
            )  # fmt: skip
        else:
            self.tell(
                k, "left", "It watched for {watched} and went its way. Some do, whatever you show them.", 0.2,
                back_s=min(event.number, 10.0), watched=s(event.number),
            )  # fmt: skip

    def _turned_at_its_line(self, k: int, event: Event) -> None:
        above = max(event.number - float(self.lure[k]), 0.0)
        self.tell(
            k, "line", "It turned at {line}; you lifted {above} beyond that.", 1.2, back_s=4.0, line=m(event.number),
            above=m(above),
        )  # fmt: skip
        self._came_up(k, event, True)

    def _came_up(self, k: int, event: Event, turned: bool) -> None:
        self.reached.append(FishReached(self.beats[k].time_s, event.depth_m, turned))

    def _noticed(self, k: int, event: Event) -> None:
        self.came += 1

    def _bite(self, k: int, event: Event) -> None:
        self._came_up(k, event, False)
        if event.how == "nip":
            return
        looked = self.beats[k].eyes == "rod"
        self.count("eyes to the rod tip", float(looked))
        if looked:
            self.tell(k, "eyes", "Eyes on the rod tip when it took.", 0.5, True)
            return
        later = next((b.time_s for b in self.beats[k:] if b.eyes == "rod"), None)
        how = {"tap": "a tap", "load": "a load on the tip", "slack": "a slack line"}[event.how]
        if later is None:
            self.tell(k, "eyes", f"Eyes on the sonar when it took: {how}, and you never looked.", 2.0)
        else:
            self.tell(
                k, "eyes", f"Eyes on the sonar when it took ({how}). You looked {{later}} later.", 2.0,
                later=s(later - self.beats[k].time_s),
            )  # fmt: skip

    def _let_go(self, k: int, event: Event) -> None:
        if event.fish_length_m < EVERY["nip_m"]:
            return
        # A set that comes right after is told of by itself.
        soon = self.beats[k + 1 : k + round(3.0 / STEP_S)]
        if any(one.kind == "too late" for beat in soon for one in beat.events):
            return
        self.count("set on the bite", 0.0)
        self.tell(
            k, "missed", "It had the lure for {held} and let go. No hook was set.", 2.2, back_s=event.number + 1.0,
            held=s(event.number),
        )  # fmt: skip

    def _too_late(self, k: int, event: Event) -> None:
        if event.fish_length_m < EVERY["nip_m"]:
            self.tell(
                k, "small", "A {fish} fish had nipped and let go before you set: there was nothing to hook.", 0.8,
                fish=m(event.fish_length_m),
            )  # fmt: skip
            return
        self.count("set on the bite", 0.0)
        self.tell(k, "late", "Set {late} late: it had let go.", 2.4, back_s=4.0, late=s(event.number))

    def _too_early(self, k: int, event: Event) -> None:
        self.count("set on the bite", 0.0)
        self.tell(
            k, "early", "Set too early: the fish was still {gap} off the lure. It left.", 2.4, gap=m(event.number)
        )

    def _torn_out(self, k: int, event: Event) -> None:
        self.count("set on the bite", 0.0)
        hard = event.number > 3.0
        if hard:
            self.tell(k, "hard", "Set too hard: {pull} tore the hook out.", 2.4, pull=Quantity(event.number, "N"))
        else:
            self.tell(
                k, "early", "Set {held} after it took: its mouth had hardly closed, and the hook came out.", 2.0,
                held=s(event.number),
            )  # fmt: skip

    def _line_parted(self, k: int, event: Event) -> None:
        self.count("set on the bite", 0.0)
        self.tell(k, "hard", "Set too hard: {pull}, and the line parted.", 2.6, pull=Quantity(event.number, "N"))

    def _too_soft(self, k: int, event: Event) -> None:
        self.count("set on the bite", 0.0)
        self.tell(
            k, "soft", "Only {pull} reached the hook: slack and stretch ate the rest.", 2.0,
            pull=Quantity(event.number, "N"),
        )  # fmt: skip

    def _only_nipped(self, k: int, event: Event) -> None:
        self.tell(k, "small", "A {fish} fish only nipped: there was nothing to hook.", 0.8, fish=m(event.fish_length_m))

    def _bite_on_the_stick(self, k: int, event: Event) -> None:
        soon = self.beats[k : k + round(4.0 / STEP_S)]
        if not any(one.kind in ("hooked", "torn out", "too soft", "line parted") for b in soon for one in b.events):
            self.tell(k, "stick", "The dead stick had a bite, and nobody set.", 1.5)

    def _hooked(self, k: int, event: Event) -> None:
        self.count("set on the bite", 1.0)
        bite = next((j for j in range(k, -1, -1) if any("bite" in e.kind for e in self.beats[j].events)), k)
        after = self.beats[k].time_s - self.beats[bite].time_s
        self.tell(
            k, "set", "Set {after} after it took, with {pull}. It held.", 1.0, True, after=s(after),
            pull=Quantity(event.number, "N"),
        )  # fmt: skip

    def _landed(self, k: int, event: Event) -> None:
        self.tell(k, "landed", f"Landed: a {{fish}} {event.species}.", 1.0, True, fish=m(event.fish_length_m))

    def lifting(self) -> None:
        """How the lure was lifted while a fish followed or looked on from near, at its height or below it.

        A lift towards one that is above takes nothing away.
        """
        slow_from, slow_to = EVERY["slow_from_m_s"], 0.06
        watched = np.array([
            any(f.mood in ("curious", "following") and LEVEL_M < f.z - beat.lure_m < NEAR_M and f.aside_m < NEAR_M
                for f in beat.fish)
            for beat in self.beats
        ])  # fmt: skip
        up = watched & (self.rising > slow_from)
        if up.sum() * STEP_S < 0.5:
            return
        slow = up & (self.rising <= slow_to)
        self.count("lift slowly", float(slow.sum()) * STEP_S, float(up.sum()) * STEP_S)
        k = int(np.flatnonzero(up)[-1])
        if slow.sum() > SLOW_ENOUGH * up.sum():
            speed = float(np.median(self.rising[slow]))
            self.tell(k, "lift", "Lifted at {speed} while it looked on: that draws.", 0.6, True,
                      speed=Quantity(speed, "m/s"))  # fmt: skip
        elif not any(one.code == "lift" for one in self.found):
            fast = up & ~slow
            k = int(np.flatnonzero(fast)[np.argmax(self.rising[fast])])
            self.tell(k, "lift", "Lifted at {speed} with a fish looking on; {best} draws.", 1.6,
                      speed=Quantity(float(self.rising[k]), "m/s"), best=Quantity(0.03, "m/s"))  # fmt: skip

    def onlooker(self) -> None:
        """When nothing else is to be told of a fish that looked on: how near it came."""
        near = [
            (float(np.hypot(f.aside_m, f.z - beat.lure_m)), k, f)
            for k, beat in enumerate(self.beats)
            for f in beat.fish
            if f.mood in ("curious", "following")
        ]
        if near and not self.found:
            away, k, fish = min(near, key=lambda one: one[:2])
            self.tell(k, "far", "A {fish} fish looked on, at its nearest {away} from the lure and {aside} off to the "
                      "side. Nothing came of it.", 0.1, back_s=4.0, fish=m(fish.length_m), away=m(away),
                      aside=m(fish.aside_m))  # fmt: skip

    def small_fish(self) -> None:
        """Time spent on fish that are too small to hook."""
        worked, length, last = 0, 0.0, 0
        for k, beat in enumerate(self.beats):
            near = [f for f in beat.fish if f.mood in ("curious", "following", "mouthing")
                    and abs(f.z - beat.lure_m) < NEAR_M and f.aside_m < NEAR_M]  # fmt: skip
            if near and all(f.length_m < EVERY["nip_m"] for f in near):
                worked, length, last = worked + 1, max(f.length_m for f in near), k
        wasted = worked * STEP_S
        if self.log.setup.small:
            self.count("leave small fish", float(wasted < WASTED_S))
        if wasted >= WASTED_S:
            self.tell(last, "small", "Stayed {wasted} on a {fish} fish.", 1.8, back_s=min(wasted, 20.0),
                      wasted=s(wasted), fish=m(length))  # fmt: skip

    def picture(self) -> None:
        """How much of the time the lure was lost in the picture, by its gain window."""
        setup, settings = self.log.setup, self.log.setup.settings
        changes = [(at, c.settings) for at, c in self.log.commands if c.settings is not None]
        lost, looked, worst, last = 0, 0, 0.0, 0
        for k in range(round(8.0 / STEP_S), len(self.beats), round(SEEN_EVERY_S / STEP_S)):
            while changes and changes[0][0] <= k + 1:
                settings = changes.pop(0)[1]
            beat = self.beats[k]
            if beat.lure_m < setup.scene.face_depth_m + 1.5:
                continue
            limits = situation_at(setup.scene, setup.unit, settings, setup.lure, round(beat.lure_m, 1)).limits
            looked += 1
            if np.isfinite(limits.floor) and settings.gain < limits.floor:
                lost, last = lost + 1, k
                worst = max(worst, float(limits.floor) - settings.gain)
        if looked < 5:
            return
        self.count("keep the lure in the picture", float(looked - lost), float(looked))
        if lost > LOST_SHARE * looked:
            share = Quantity(100.0 * lost / looked, "percent")
            self.tell(last, "picture", "The lure was lost from the picture for {share} of the time: {less} too little "
                      "gain.", 1.7, share=share, less=Quantity(worst, "gain"))  # fmt: skip


# What is to be said of each kind of event; None where it is no moment of its own.
JUDGES: dict[EventKind, Callable[[Judge, int, Event], None] | None] = {
    "called": None,
    "noticed": Judge._noticed,
    "following": None,
    "unsettled by the drop": Judge._unsettled_by_the_drop,
    "put off by the drop": Judge._put_off_by_the_drop,
    "put off by the lift": Judge._put_off_by_the_lift,
    "lost interest": Judge._lost_interest,
    "turned at its line": Judge._turned_at_its_line,
    "bite": Judge._bite,
    "let go": Judge._let_go,
    "landed": Judge._landed,
    "hooked": Judge._hooked,
    "too early": Judge._too_early,
    "too late": Judge._too_late,
    "nothing there": None,
    "only nipped": Judge._only_nipped,
    "torn out": Judge._torn_out,
    "too soft": Judge._too_soft,
    "line parted": Judge._line_parted,
    "already on": None,
    "bite on the stick": Judge._bite_on_the_stick,
    "gone": None,
    "marks touching": None,
    "nothing on": None,
    "came off": None,
    "aim met": None,
    "run over": None,
    "strike kept": None,
}
