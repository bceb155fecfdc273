"""Verdicts on interference rejection: how much of the picture neighbours light, and which step keeps them out."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ...acoustics.sonar_equation import max_ping_rate
from ...gear.settings import Settings, picture_rate
from ...sonar import pulse, receiver, transmission
from ...wording import Change, Quantity
from ..situation import Situation
from ..verdict import Verdict, rule

NEIGHBOUR_SHARE = 0.002  # share of picture cells that neighbours may light


def neighbour_share(s: Situation, settings: Settings) -> float:
    """Share of picture cells that neighbours' pings light at `settings`, past what rejection drops.

    A path lights its pulse, skirt and all, once in each of its intervals. Two pings in a row show it at one place only
    if its drift and our stagger both move it by less than its own mark.
    """
    t = transmission.transmit(s.scene, s.unit, settings)
    step = s.unit.rejections[settings.rejection]
    most = max_ping_rate(settings.range_m, t.sound_speed_m_s)
    ours_s = 1.0 / picture_rate(s.unit, settings, most)
    half_c = 0.5 * t.sound_speed_m_s
    threshold = s.first_colour(settings) + receiver.taken_off(s.unit, settings, t.bin_range_m)
    dark = 1.0
    for path in t.paths:
        excess = 10.0 * np.log10(path.intensity) - threshold
        mark_m = t.resolution_m * (0.9 + np.maximum(excess, 0.0) / pulse.SKIRT_DB_PER_PULSE)
        drift_s = (ours_s + 0.5 * path.interval_s) % path.interval_s - 0.5 * path.interval_s
        moved_m = half_c * max(abs(drift_s), step.stagger * ours_s)
        hit = np.where(excess > 0.0, mark_m / (half_c * path.interval_s), 0.0)
        kept = np.where(moved_m > mark_m, receiver.kept_chance(hit, s.unit, settings), hit)
        dark *= 1.0 - float(np.mean(kept))
    return 1.0 - dark


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
