"""Verdicts on interference rejection: how much of the picture neighbours light, and which step keeps them out."""

from __future__ import annotations

from dataclasses import replace

from ...acoustics.sonar_equation import max_ping_rate
from ...gear.settings import picture_rate
from ...sonar import receiver
from ...wording import Change, Quantity
from ..company import NEIGHBOUR_SHARE, neighbour_share
from ..situation import Situation
from ..verdict import Verdict, rule


def enough_rejection(s: Situation) -> int | None:
    """The lowest step that keeps the neighbours out, or None if none does."""
    for step in range(len(s.unit.rejections)):
        if neighbour_share(s, replace(s.settings, rejection=step)) <= NEIGHBOUR_SHARE:
            return step
    return None


def _lag_quantity(s: Situation, step: int) -> Quantity:
    settings = replace(s.settings, rejection=step)
    rate = picture_rate(s.unit, settings, max_ping_rate(settings.range_m, s.transmission.sound_speed_m_s))
    return Quantity(receiver.lag(s.unit, settings, rate), "s")


@rule("rejection too low", "rejection higher than needed")
def rejection(s: Situation) -> Verdict | None:
    now = s.settings.rejection
    enough = enough_rejection(s)
    top = len(s.unit.rejections) - 1
    if now < (top if enough is None else enough):
        to = top if enough is None else enough
        return Verdict(
            "rejection too low",
            3.6,
            "A neighbour's pings light {share} of the picture. Turn interference rejection from {now} to {to}.",
            "Their marks drift; yours stay. Keeping only what repeats drops theirs and costs {lag} of delay.",
            {
                "share": Quantity(100.0 * neighbour_share(s, s.settings), "percent"),
                "now": Quantity(now, "count"),
                "to": Quantity(to, "count"),
                "lag": _lag_quantity(s, to),
            },
            Change("rejection", to),
        )
    if enough is not None and now > enough and not s.closes_with(rejection=enough):
        return Verdict(
            "rejection higher than needed",
            0.6,
            "Interference rejection {now} makes the picture lag by {lag}. {to} is enough here.",
            "It waits to see a mark again before it shows it. Lower, the lag is {lag_then} and a moving lure is crisp.",
            {
                "now": Quantity(now, "count"),
                "to": Quantity(enough, "count"),
                "lag": _lag_quantity(s, now),
                "lag_then": _lag_quantity(s, enough),
            },
            Change("rejection", enough),
        )
    return None
