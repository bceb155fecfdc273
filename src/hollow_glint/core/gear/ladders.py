"""Colour ladders: which step an echo lights, what the step is called, and its colour in either theme.

Every shipped ladder is even in lightness (CIE L*), so that it survives glare and every colour vision. Thresholds are
counted in the unit's own colour steps above the level that lights the first colour of the six-step ladder.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from ..checks import InputError, number
from ..fields import Len, Pattern, Span, Text, check_fields

HALF_STEPS = 96  # half colour steps told apart; the lowest lies below any that a ladder may begin with
BELOW_FIRST = 7

Colour = Annotated[str, Pattern(r"^#[0-9a-fA-F]{6}$", "a colour as #1a2b3c")]


@dataclass(frozen=True)
class Step:
    """One step of a ladder: where it begins [colour steps, -3 to 40, in halves], its name, its colour by theme."""

    name: Annotated[str, Text(1, 24)]
    begins: Annotated[float, Span(-3.0, 40.0)]
    rime: Colour
    lantern: Colour

    def __post_init__(self) -> None:
        check_fields(self, "ladders.steps")
        if round(2 * self.begins) != 2 * self.begins:
            raise InputError(f"ladders.steps.begins is {self.begins:g}: accepted are halves, as 1 or 1.5")


@dataclass(frozen=True)
class Ladder:
    """A ladder: the dark water's colour and at least two steps, weakest first. Raises ValueError if out of order."""

    name: Annotated[str, Text(1, 40)]
    rime_dark: Colour
    lantern_dark: Colour
    steps: Annotated[tuple[Step, ...], Len(2, 32)]

    def __post_init__(self) -> None:
        check_fields(self, "ladders")
        begins = [step.begins for step in self.steps]
        if any(b <= a for a, b in zip(begins, begins[1:], strict=False)):
            raise InputError(f"ladders.steps begin at {begins}: each step must begin above the one before it")

    def colours(self, theme: str) -> tuple[str, ...]:
        """Colours of level 0, dark water, and of each step, as #rrggbb, for "rime" or "lantern"."""
        return (getattr(self, f"{theme}_dark"), *(getattr(step, theme) for step in self.steps))

    @property
    def first_begins(self) -> float:
        """Where the weakest step begins [colour steps]."""
        return self.steps[0].begins

    @cached_property
    def level_of_half_step(self) -> NDArray[np.uint8]:
        """Ladder level, 0 for dark, of each count of half colour steps from BELOW_FIRST under the first colour up."""
        begins = np.array([step.begins for step in self.steps])
        halves = (np.arange(HALF_STEPS) - BELOW_FIRST) / 2.0
        level: NDArray[np.uint8] = (halves[:, None] >= begins).sum(axis=1).astype(np.uint8)
        return level


def dimmed(colours: tuple[str, ...], share: float) -> tuple[str, ...]:
    """`colours` at `share` of the screen's full brightness, 0.1 to 1: what the backlight lets through."""
    number("brightness", share, 0.1, 1.0)
    return tuple(
        "#" + "".join(f"{round(int(one[at : at + 2], 16) * share):02x}" for at in (1, 3, 5)) for one in colours
    )


def _ladder(name: str, begins: tuple[float, ...], words: str, rime: str, lantern: str) -> Ladder:
    day, night = rime.split(), lantern.split()
    steps = tuple(Step(*one) for one in zip(words.split(), begins, day[1:], night[1:], strict=True))
    return Ladder(name, day[0], night[0], steps)


# Graphite for Rime and Hearth for Lantern, laid out evenly in lightness; a blue-to-straw ramp for colour blindness.
GRAPHITE_7 = "#f3f7f6 #c1ced1 #93a6ad #687f8a #425a65 #233741 #08171e"
HEARTH_7 = "#0b1822 #223844 #3c5c68 #58828d #aca282 #f5c18d #fff3df"
GRAPHITE_8 = "#f3f7f6 #c8d4d6 #a0b1b7 #7a9099 #576f7a #37505b #1f323b #08171e"
HEARTH_8 = "#0b1822 #1e333f #34525e #4c727d #78918f #d3a570 #f7c899 #fff3df"
SIX_WORDS = "faint weak fair firm strong solid"

SIX_STEP = _ladder("Six steps", (0, 1, 2, 3, 4, 5), SIX_WORDS, GRAPHITE_7, HEARTH_7)
THREE_STEP = _ladder(
    "Three steps", (0, 2, 4), "weak fair strong", "#f3f7f6 #93a6ad #425a65 #08171e", "#0b1822 #3c5c68 #aca282 #fff3df"
)
HIDE_WEAKEST = Ladder("Hide the weakest", SIX_STEP.rime_dark, SIX_STEP.lantern_dark, SIX_STEP.steps[1:])
EXTRA_ABOVE = _ladder("One more above", (0, 1, 2, 3, 4, 5, 7), SIX_WORDS + " huge", GRAPHITE_8, HEARTH_8)
EXTRA_BELOW = _ladder("One more below", (-1.5, 0, 1, 2, 3, 4, 5), "hint " + SIX_WORDS, GRAPHITE_8, HEARTH_8)
FOR_COLOUR_BLINDNESS = _ladder(
    "Blue to straw", (0, 1, 2, 3, 4, 5), SIX_WORDS,
    "#f6f7f2 #dccd86 #ada47b #6e7e95 #365988 #1a375b #06172e",
    "#0a1626 #18345b #365686 #657aa0 #a2a096 #d5c885 #fff2a8",
)  # fmt: skip
SHIPPED = (SIX_STEP, THREE_STEP, HIDE_WEAKEST, EXTRA_ABOVE, EXTRA_BELOW, FOR_COLOUR_BLINDNESS)

# Weak echoes in one hue and strong ones in another, for a picture in which one looks for what stands out. Even in
# lightness as the others are.
TWO_ENDED = _ladder(
    "Two ends", (0, 1, 2, 3, 4, 5), SIX_WORDS,
    "#f3f7f6 #c3ccdc #8fa4c3 #537eaf #943a17 #5d220a #2b0b02",
    "#0b1822 #11394e #205d7c #3c83aa #d79453 #efc2a1 #fcf3ee",
)  # fmt: skip
