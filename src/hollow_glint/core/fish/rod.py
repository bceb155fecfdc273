"""Rod, line and hook: how the lure follows the hand, what the tip shows, and what a set of the hook pulls.

The line is a spring (stiffness EA over its length), the tip a softer one; a lure cannot be pushed, so a hand that goes
down faster than the lure sinks leaves slack. Forces in newtons, lengths in metres.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..acoustics.targets import SOLIDS
from ..checks import one_of
from ..gear.lures import Lure
from .events import Bite, SetCameTo, TipSays

TIP_N = 0.15  # load that bends a light spring tip half way. Common practice, no source
MOST_SLACK_M = 0.6
TAP_S = 0.18  # a tap is over in this
REST_BEND = 0.06


@dataclass(frozen=True)
class Line:
    """A line: stiffness EA [N for a stretch of its own length], breaking strength [N], words.

    Nylon: Young's modulus about 2.5 GPa (handbooks of polymers give 2 to 4; from memory), 0.18 mm across. Braid and its
    knots: some thirty times as stiff; common practice, no source.
    """

    stiffness_n: float
    breaks_n: float
    words: str


LINES: dict[str, Line] = {
    "nylon": Line(64.0, 27.0, "0.18 mm nylon: forgiving, and soft in deep water"),
    "braid": Line(2000.0, 45.0, "braid with a leader: every touch is felt, and too hard is soon too hard"),
}
# How far the tip sweeps [m] and the most an arm pulls [N]. Common practice, no source.
SWEEPS: dict[str, tuple[float, float]] = {"firm": (0.45, 9.0), "hard": (0.9, 32.0)}
HOOKS_N = 1.2  # a small sharp hook goes in with this. Invented
GRIP_S = 0.3  # a mouth has closed on the lure after this; before, less of it holds


@dataclass(frozen=True)
class Pull:
    """What a set did: pull at the hook [N], slack it had to take up first [m], and what the mouth and line hold [N]."""

    pull_n: float
    slack_m: float
    mouth_n: float
    line_n: float

    @property
    def outcome(self) -> SetCameTo:
        """ "hooked", "too soft", "torn out" or "line parted"."""
        if self.pull_n < HOOKS_N:
            return "too soft"
        if self.pull_n > self.line_n:
            return "line parted"
        return "torn out" if self.pull_n > self.mouth_n else "hooked"


def set_pull(line: str, length_m: float, slack_m: float, force: str, mouth_n: float, held_s: float) -> Pull:
    """What a sweep of the rod does to a fish that has had the lure for `held_s` [s], over `length_m` [m] of line.

    Hooke's law: stiffness over length times what is left of the sweep when slack is taken up, at most the arm's pull.
    Raises ValueError for a line or force that is not known.
    """
    kind = LINES[one_of("line", line, tuple(LINES))]
    stroke, arm = SWEEPS[one_of("force", force, tuple(SWEEPS))]
    pull = min(kind.stiffness_n / max(length_m, 1.0) * max(stroke - slack_m, 0.0), arm)
    grip = 0.5 + 0.5 * float(np.clip(held_s / GRIP_S, 0.0, 1.0))
    return Pull(pull, slack_m, mouth_n * grip, kind.breaks_n)


def weight_in_water(lure: Lure) -> float:
    """Weight [N] of the lure as the line feels it, as a sphere of its diameter; Archimedes."""
    density = SOLIDS[lure.material].density_kg_m3
    size = min(lure.diameter_m, 0.01)
    return float(np.pi / 6.0 * size**3 * (density - 1000.0) * 9.81)


def bend(load_n: float) -> float:
    """How far a light tip bends under a load [N]: 0 straight, 1 buried."""
    return load_n / (load_n + TIP_N)


@dataclass
class Tip:
    """What the rod tip shows: a word and how far it bends, 0 to 1."""

    says: TipSays = "still"
    bend: float = REST_BEND


def tip_of(  # noqa: PLR0913 - all that hangs on a tip, by name
    lure: Lure,
    *,
    lying: bool,
    slack_m: float,
    rising_m_s: float,
    twitching: bool,
    in_weeds: float,
    bite: Bite | None,
    held_s: float,
    hooked: bool,
) -> Tip:
    """The tip under what hangs on it now. `in_weeds` 0 to 1 how dense; `bite` "tap", "load", "slack", "nip" or None."""
    weight = weight_in_water(lure)
    if hooked:
        return Tip("fish", bend(3.0))
    if bite == "load":
        return Tip("load", bend(0.30))
    if bite in ("tap", "nip"):
        knock = held_s < TAP_S
        return Tip("tap", bend(0.22 if knock else 0.05 + weight))
    if bite == "slack":
        return Tip("slack", 0.0)
    if lying:
        return Tip("bottom", 0.0)
    if slack_m > 0.02:
        return Tip("slack line", 0.0)
    if in_weeds > 0.0 and rising_m_s > 0.005:
        return Tip("weed", bend(0.20 * in_weeds))
    if twitching:
        return Tip("twitch", bend(weight + 0.02))
    drag = weight * min((max(rising_m_s, 0.0) / max(lure.sink_speed_m_s, 0.05)) ** 2, 4.0)
    return Tip("lifting" if rising_m_s > 0.005 else "still", bend(weight + drag))
