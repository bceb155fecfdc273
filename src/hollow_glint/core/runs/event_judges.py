"""What is to be said of each thing that happened in a run: of a bite, a set, a fish that left and why."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..bench.frame import STEP_S
from ..fish.events import Event, EventKind
from ..fish.traits import EVERY
from ..wording import Quantity
from .judge import FishReached, Judge, m, s

STILL_SHARE = 0.7  # of the time that a fish watched; a lift and a pause as long are no hanging


def judge_event(judge: Judge, k: int, event: Event) -> None:
    """What is to be said of one event at beat `k`."""
    say = JUDGES[event.kind]
    if say is not None:
        say(judge, k, event)


def _put_off_by_the_drop(judge: Judge, k: int, event: Event) -> None:
    _dropped(judge, k, event, "It left.", 3.0)


def _unsettled_by_the_drop(judge: Judge, k: int, event: Event) -> None:
    _dropped(judge, k, event, "It stayed this time, and is warier now.", 1.4)


def _dropped(judge: Judge, k: int, event: Event, then: str, weight: float) -> None:
    # As the hand goes on: how far it fell in all, not only until the fish left.
    first = k
    while first > 0 and judge.rising[first - 1] < -0.02:
        first -= 1
    last = k
    while last + 1 < len(judge.beats) and judge.rising[last + 1] < -0.02 and last < k + 40:
        last += 1
    far = float(judge.lure[last] - judge.lure[max(first - 1, 0)])
    judge.dropped += 1
    judge.tell(
        k, "drop", f"Dropped {{far}} onto a {{fish}} fish, at {{speed}}. {then}", weight, back_s=2.0, far=m(far),
        fish=m(event.fish_length_m), speed=Quantity(event.number, "m/s"),
    )  # fmt: skip


def _put_off_by_the_lift(judge: Judge, k: int, event: Event) -> None:
    judge.tell(
        k, "lift", "Lifted at {speed}, where {best} would have held it. It gave up.", 2.5,
        speed=Quantity(event.number, "m/s"), best=Quantity(EVERY["best_to_m_s"], "m/s"),
    )  # fmt: skip
    _came_up(judge, k, event, False)


def _lost_interest(judge: Judge, k: int, event: Event) -> None:
    first = max(k - round(event.number / STEP_S), 0)
    still = float((np.abs(judge.rising[first:k]) < 0.004).mean()) if k > first else 0.0
    _came_up(judge, k, event, False)
    if event.fish_length_m < EVERY["nip_m"]:
        return
    if still > STILL_SHARE and event.number > 4.0:
        judge.tell(
            k, "hang", "It watched for {watched} and left: the lure hung still for {share} of it.", 1.5,
            back_s=min(event.number, 10.0), watched=s(event.number), share=Quantity(100.0 * still, "percent"),
        )  # fmt: skip
    else:
        judge.tell(
            k, "left", "It watched for {watched} and went its way. Some do, whatever you show them.", 0.2,
            back_s=min(event.number, 10.0), watched=s(event.number),
        )  # fmt: skip


def _turned_at_its_line(judge: Judge, k: int, event: Event) -> None:
    above = max(event.number - float(judge.lure[k]), 0.0)
    judge.tell(
        k, "line", "It turned at {line}; you lifted {above} beyond that.", 1.2, back_s=4.0, line=m(event.number),
        above=m(above),
    )  # fmt: skip
    _came_up(judge, k, event, True)


def _came_up(judge: Judge, k: int, event: Event, turned: bool) -> None:
    judge.reached.append(FishReached(judge.beats[k].time_s, event.depth_m, turned))


def _noticed(judge: Judge, k: int, event: Event) -> None:
    judge.came += 1


def _bite(judge: Judge, k: int, event: Event) -> None:
    _came_up(judge, k, event, False)
    if event.how == "nip":
        return
    looked = judge.beats[k].eyes == "rod"
    judge.count("eyes to the rod tip", float(looked))
    if looked:
        judge.tell(k, "eyes", "Eyes on the rod tip when it took.", 0.5, True)
        return
    later = next((b.time_s for b in judge.beats[k:] if b.eyes == "rod"), None)
    how = {"tap": "a tap", "load": "a load on the tip", "slack": "a slack line"}[event.how]
    if later is None:
        judge.tell(k, "eyes", f"Eyes on the sonar when it took: {how}, and you never looked.", 2.0)
    else:
        judge.tell(
            k, "eyes", f"Eyes on the sonar when it took ({how}). You looked {{later}} later.", 2.0,
            later=s(later - judge.beats[k].time_s),
        )  # fmt: skip


def _let_go(judge: Judge, k: int, event: Event) -> None:
    if event.fish_length_m < EVERY["nip_m"]:
        return
    # A set that comes right after is told of by itjudge.
    soon = judge.beats[k + 1 : k + round(3.0 / STEP_S)]
    if any(one.kind == "too late" for beat in soon for one in beat.events):
        return
    judge.count("set on the bite", 0.0)
    judge.tell(
        k, "missed", "It had the lure for {held} and let go. No hook was set.", 2.2, back_s=event.number + 1.0,
        held=s(event.number),
    )  # fmt: skip


def _too_late(judge: Judge, k: int, event: Event) -> None:
    if event.fish_length_m < EVERY["nip_m"]:
        judge.tell(
            k, "small", "A {fish} fish had nipped and let go before you set: there was nothing to hook.", 0.8,
            fish=m(event.fish_length_m),
        )  # fmt: skip
        return
    judge.count("set on the bite", 0.0)
    judge.tell(k, "late", "Set {late} late: it had let go.", 2.4, back_s=4.0, late=s(event.number))


def _too_early(judge: Judge, k: int, event: Event) -> None:
    judge.count("set on the bite", 0.0)
    judge.tell(k, "early", "Set too early: the fish was still {gap} off the lure. It left.", 2.4, gap=m(event.number))


def _torn_out(judge: Judge, k: int, event: Event) -> None:
    judge.count("set on the bite", 0.0)
    hard = event.number > 3.0
    if hard:
        judge.tell(k, "hard", "Set too hard: {pull} tore the hook out.", 2.4, pull=Quantity(event.number, "N"))
    else:
        judge.tell(
            k, "early", "Set {held} after it took: its mouth had hardly closed, and the hook came out.", 2.0,
            held=s(event.number),
        )  # fmt: skip


def _line_parted(judge: Judge, k: int, event: Event) -> None:
    judge.count("set on the bite", 0.0)
    judge.tell(k, "hard", "Set too hard: {pull}, and the line parted.", 2.6, pull=Quantity(event.number, "N"))


def _too_soft(judge: Judge, k: int, event: Event) -> None:
    judge.count("set on the bite", 0.0)
    judge.tell(
        k, "soft", "Only {pull} reached the hook: slack and stretch ate the rest.", 2.0,
        pull=Quantity(event.number, "N"),
    )  # fmt: skip


def _only_nipped(judge: Judge, k: int, event: Event) -> None:
    judge.tell(k, "small", "A {fish} fish only nipped: there was nothing to hook.", 0.8, fish=m(event.fish_length_m))


def _bite_on_the_stick(judge: Judge, k: int, event: Event) -> None:
    soon = judge.beats[k : k + round(4.0 / STEP_S)]
    if not any(one.kind in ("hooked", "torn out", "too soft", "line parted") for b in soon for one in b.events):
        judge.tell(k, "stick", "The dead stick had a bite, and nobody set.", 1.5)


def _hooked(judge: Judge, k: int, event: Event) -> None:
    judge.count("set on the bite", 1.0)
    bite = next((j for j in range(k, -1, -1) if any("bite" in e.kind for e in judge.beats[j].events)), k)
    after = judge.beats[k].time_s - judge.beats[bite].time_s
    judge.tell(
        k, "set", "Set {after} after it took, with {pull}. It held.", 1.0, True, after=s(after),
        pull=Quantity(event.number, "N"),
    )  # fmt: skip


def _landed(judge: Judge, k: int, event: Event) -> None:
    judge.tell(k, "landed", f"Landed: a {{fish}} {event.species}.", 1.0, True, fish=m(event.fish_length_m))


# What is to be said of each kind of event; None where it is no moment of its own.
JUDGES: dict[EventKind, Callable[[Judge, int, Event], None] | None] = {
    "called": None,
    "noticed": _noticed,
    "following": None,
    "unsettled by the drop": _unsettled_by_the_drop,
    "put off by the drop": _put_off_by_the_drop,
    "put off by the lift": _put_off_by_the_lift,
    "lost interest": _lost_interest,
    "turned at its line": _turned_at_its_line,
    "bite": _bite,
    "let go": _let_go,
    "landed": _landed,
    "hooked": _hooked,
    "too early": _too_early,
    "too late": _too_late,
    "nothing there": None,
    "only nipped": _only_nipped,
    "torn out": _torn_out,
    "too soft": _too_soft,
    "line parted": _line_parted,
    "already on": None,
    "bite on the stick": _bite_on_the_stick,
    "bite beside you": None,  # nobody sits beside one in a run
    "landed beside you": None,
    "gone": None,
    "marks touching": None,
    "nothing on": None,
    "came off": None,
    "aim met": None,
    "run over": None,
    "strike kept": None,
}
