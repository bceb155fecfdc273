"""The fan's cards of one head, at every whole metre: to search with and to fish with, in each light."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from ..checks import InputError
from ..fan.card import FanCard, FanKnown, fan_card
from ..fan.head import FanHead
from ..fan.situation import JOBS, Job
from .along import DEEPEST_M, SHALLOWEST_M

FAN_DEPTHS_M: Final = tuple(float(one) for one in range(int(SHALLOWEST_M), int(DEEPEST_M) + 1))


@dataclass(frozen=True)
class FanThere:
    """A card for a job in a light at a depth [m]; None where the ice leaves too little water."""

    job: Job
    light: str
    depth_m: float
    card: FanCard | None


def fan_cards(
    head: FanHead, clarity: str, lights: tuple[str, ...], ice_m: float, tell: Callable[[float], None] = lambda _: None
) -> list[FanThere]:
    """All of them: lights first, then jobs, then depths. Raises ValueError as `FanKnown`, except for shallow water."""
    found = []
    every = [(light, job, depth) for light in lights for job in JOBS for depth in FAN_DEPTHS_M]
    for n, (light, job, depth) in enumerate(every, 1):
        try:
            known = FanKnown(depth, job, clarity, light, ice_m=ice_m)
        except InputError:
            if depth > SHALLOWEST_M + 1.0:
                raise
            card = None
        else:
            card = fan_card(known, head)
        found.append(FanThere(job, light, depth, card))
        tell(n / len(every))
    return found
