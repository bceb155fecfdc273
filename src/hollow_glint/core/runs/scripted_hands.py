"""Other hands for a what-if: what a hand would do from a moment on, with its eyes on the rod tip when a fish is near.

Each is given the beats so far and how many steps it has had; it sees what an angler would see, the tip and the lure.
"""

from __future__ import annotations

from collections.abc import Sequence

from ..bench.command import Command
from ..bench.frame import STEP_S
from ..checks import named
from ..fish.hand import LIFT_FAST, LIFT_SLOWLY
from .replay import Beat, ScriptedHand

REACTS_S = 0.3  # between the tip's first sign and the set
SIGNS = ("tap", "load", "slack")


def _then_set(beats: Sequence[Beat], n: int) -> list[Command]:
    """Eyes to the rod tip at once, and a firm set a moment after the tip's first sign."""
    out = [Command(eyes="rod")] if n == 0 else []
    wait = round(REACTS_S / STEP_S)
    if n > wait and beats[-wait - 1].tip.says in SIGNS and beats[-1].tip.says != "fish":
        before = beats[-wait - 2].tip.says if len(beats) > wait + 1 else "still"
        if before not in SIGNS:
            out.append(Command(set_hook=True))
    return out


def _steady(speed: float, seconds: float | None = None) -> ScriptedHand:
    def hand(beats: Sequence[Beat], n: int) -> Sequence[Command]:
        out = _then_set(beats, n)
        if n == 0:
            out.append(Command(lift_m_s=speed))
        if seconds is not None and n == round(seconds / STEP_S):
            out.append(Command(lift_m_s=0.0))
        return out

    return hand


def _lift_and_wait(beats: Sequence[Beat], n: int) -> Sequence[Command]:
    out = _then_set(beats, n)
    phase = (n * STEP_S) % 7.0
    if n == 0 or phase < STEP_S / 2:
        out.append(Command(lift_m_s=LIFT_SLOWLY))
    elif abs(phase - 4.0) < STEP_S / 2:
        out.append(Command(lift_m_s=0.0))
    return out


def _set_now(beats: Sequence[Beat], n: int) -> Sequence[Command]:
    return [Command(lift_m_s=0.0, set_hook=True)] if n == 0 else []


HANDS: dict[str, tuple[str, ScriptedHand]] = {
    "hold": ("hold still, eyes on the rod tip", _steady(0.0)),
    "slow lift": ("lift slowly, eyes on the rod tip", _steady(LIFT_SLOWLY)),
    "lift and wait": ("lift a hand's width, wait, again", _lift_and_wait),
    "lift fast": ("lift fast for two seconds", _steady(LIFT_FAST, 2.0)),
    "drop": ("let it down for a second", _steady(-0.4, 1.0)),
    "set now": ("set the hook at once", _set_now),
}


def hand(name: str) -> ScriptedHand:
    """The hand called `name`, or ValueError naming those there are."""
    return named("hand", name, HANDS)[1]
