"""What happens between hand, lure and fish, and where each fish truly is: what the Bench, runs and replays are told."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

# What a fish does by itself, as far as anyone is told of it.
FishDid = Literal[
    "called", "noticed", "following", "unsettled by the drop", "put off by the drop", "put off by the lift",
    "lost interest", "turned at its line", "bite", "let go", "landed",
]  # fmt: skip
# What a set of the hook comes to.
SetCameTo = Literal[
    "hooked", "too early", "too late", "nothing there", "only nipped", "torn out", "too soft", "line parted",
    "already on",
]  # fmt: skip
# What the person beside one does.
Beside = Literal["bite beside you", "landed beside you"]
# Besides: marks that touch, a fish that is gone, what an angler feels of a set in a run, and what ends something, a
# strike that is in the log at last.
EventKind = Literal[
    FishDid, SetCameTo, Beside, "bite on the stick", "gone", "marks touching", "nothing on", "came off", "aim met",
    "run over", "strike kept",
]  # fmt: skip
FishMood = Literal["passing", "curious", "following", "mouthing", "hooked", "put off"]
Bite = Literal["tap", "load", "slack", "nip"]
Eyes = Literal["sonar", "rod"]
# What a rod tip shows; "felt" and "unwatched" while the eyes are elsewhere.
TipSays = Literal[
    "still", "lifting", "twitch", "bottom", "slack line", "weed", "tap", "load", "slack", "fish", "felt", "unwatched"
]


@dataclass(frozen=True)
class Event:
    """Something that happened: a code; depth [m] and fish length [m] where there is a fish in it (else 0); the number
    behind it (a speed [m/s], a time [s], a pull [N]); the species once it is caught; how it bit."""

    kind: EventKind
    depth_m: float = 0.0
    fish_length_m: float = 0.0
    number: float = 0.0
    species: str = ""
    how: Bite | Literal[""] = ""


@dataclass(frozen=True)
class FishTruth:
    """Where the fish truly is [m], what it is about, how keen it is (0 to 1), how high it will go [m], and which of
    all that came it is."""

    x: float
    y: float
    z: float
    length_m: float
    mood: FishMood
    species: str
    keen: float = 0.0
    highest_m: float = 0.0
    who: int = 0

    @property
    def aside_m(self) -> float:
        """Distance off the hole's axis [m]."""
        return float(np.hypot(self.x, self.y))
