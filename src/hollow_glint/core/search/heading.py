"""The heading check: handle, pole mark, head and north mark should stand in one line; a known thing tells whether.

A thing whose bearing is known, a second hole with a weight let down, timber marked before, is seen at a bearing. What
they differ by is how far the mark stands off; several are weighed by their errors, round the circle (Mardia and Jupp
2000, Directional Statistics, section 2.2).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np

from ..checks import InputError
from ..fields import Span, check_fields
from ..wording import Quantity, Sentence

LINE_UP = ("handle", "pole mark", "head", "north mark")
STRAIGHT_DEG = 3.0  # what nobody notices: half a metre at ten. Ours, no source
DOUBT = 2.0  # deviations from which on an error is one


@dataclass(frozen=True)
class Known:
    """A known thing: its true bearing and the one at which it was seen [degrees clockwise from north], and how surely
    (1 sd, of both together)."""

    true_deg: Annotated[float, Span(-360.0, 720.0, "degrees")]
    seen_deg: Annotated[float, Span(-360.0, 720.0, "degrees")]
    sd_deg: Annotated[float, Span(0.1, 90.0, "degrees")] = 3.0

    def __post_init__(self) -> None:
        check_fields(self, "known")


@dataclass(frozen=True)
class HeadingError:
    """By how much the picture is turned [degrees, clockwise positive], how surely, and what to do."""

    error_deg: float
    sd_deg: float
    say: Literal["straight", "correct", "look again"]
    why: Sentence

    def corrected(self, seen_deg: float) -> float:
        """The true bearing of something seen [degrees, 0 to 360)."""
        return (seen_deg - self.error_deg) % 360.0


def heading_error(known: Sequence[Known]) -> HeadingError:
    """How far the mark stands off, from one known thing or more. Raises ValueError for none."""
    if not known:
        raise InputError("known has 0 entries: at least 1 is needed to check the heading")
    weight = np.array([one.sd_deg**-2 for one in known])
    off = np.radians([one.seen_deg - one.true_deg for one in known])
    error = float(np.degrees(np.arctan2(weight @ np.sin(off), weight @ np.cos(off))))
    sd = float(weight.sum() ** -0.5)
    apart = [(np.degrees(one) - error + 180.0) % 360.0 - 180.0 for one in off]
    worst = max(abs(a) / one.sd_deg for a, one in zip(apart, known, strict=True))
    values = {"error": Quantity(abs(error), "degrees"), "sd": Quantity(sd, "degrees")}
    if len(known) > 1 and worst > 3.0:
        said = "The known things do not agree: one of them is another thing, or the pole was turned. Look again."
        return HeadingError(error, sd, "look again", Sentence(said))
    if abs(error) <= max(STRAIGHT_DEG, DOUBT * sd):
        said = "The picture stands as the pole does, within {sd}."
        return HeadingError(error, sd, "straight", Sentence(said, values))
    side = "clockwise" if error > 0.0 else "anticlockwise"
    said = f"The picture is turned {{error}} {side}, give or take {{sd}}: line up handle, pole mark, head and north "
    return HeadingError(error, sd, "correct", Sentence(said + "mark, or let it be corrected here.", values))
