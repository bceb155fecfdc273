"""What each control of a fan does and costs just now, in a number: one sentence for each."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import numpy as np

from ..acoustics.array import half_power_width
from ..wording import Quantity, Sentence
from .frame import frame_time
from .head import ControlName
from .picture import CLUTTER_DB, STEPS, TAIL_DB_S, shown_deg
from .settings import FAN_LADDERS
from .situation import FanSituation
from .swimmers import HIGHLIGHT_M
from .water import BINS
from .window import damped_db, fish_strength_db, smallest_fish

Cost = Callable[[FanSituation], Sentence]


def _gain(s: FanSituation) -> Sentence:
    window = s.window
    values = {"floor": Quantity(window.floor, "gain"), "ceiling": Quantity(window.ceiling, "gain")}
    if not window.is_open:
        return Sentence(
            "No gain shows both and keeps the water dark: it lights from {ceiling}, they need {floor}.", values
        )
    by = "what comes in a ping late" if window.ceiling_by == "repeats" else "the water"
    return Sentence(f"Lure and fish show from {{floor}}; {by} lights up from {{ceiling}}.", values)


def _ahead(s: FanSituation) -> Sentence:
    c = s.here.sound_speed_m_s
    wide = float(half_power_width(s.head.line, 0.0, c / s.head.frequency_hz)) * s.settings.ahead_m
    frames = 1.0 / frame_time(s.settings.reach_m, c)
    return Sentence(
        "{frames} frames a second, a step of {row}; at the far end a beam is {wide} wide.",
        {"frames": Quantity(round(frames, 1), "count"), "row": Quantity(s.settings.reach_m / BINS, "m"),
         "wide": Quantity(wide, "m")},
    )  # fmt: skip


def _behind(s: FanSituation) -> Sentence:
    across = s.settings.ahead_m + s.settings.behind_m
    return Sentence(
        "It takes {share} of the picture's width.", {"share": Quantity(100.0 * s.settings.behind_m / across, "percent")}
    )


def _deep(s: FanSituation) -> Sentence:
    return Sentence(
        "To see so deep below the far end it listens {reach} far.", {"reach": Quantity(s.settings.reach_m, "m")}
    )


def _contrast(s: FanSituation) -> Sentence:
    step = s.settings.strong_db / STEPS * 5.0
    small, large = (fish_strength_db(length, 0.2, s.head.frequency_hz) for length in (0.2, 0.4))
    return Sentence(
        "A fish twice as long is {more} brighter; a sixth of the colours is {step}.",
        {"more": Quantity(large - small, "dB"), "step": Quantity(step, "dB")},
    )


def _weak_end(s: FanSituation) -> Sentence:
    hidden = s.settings.weak_steps * s.settings.strong_db / STEPS
    return Sentence("Lure and fish need {hidden} more to show.", {"hidden": Quantity(hidden, "dB")})


def _clutter(s: FanSituation) -> Sentence:
    return Sentence(
        "What stands less than {over} out of the water goes with it.",
        {"over": Quantity(CLUTTER_DB * s.settings.clutter, "dB")},
    )


def _repeats(s: FanSituation) -> Sentence:
    count = s.settings.repeats
    lag = count * frame_time(s.settings.reach_m, s.here.sound_speed_m_s)
    # The lowest of n exponential draws is in the mean an n-th of one.
    faint = 10.0 * float(np.log10(count + 1))
    return Sentence(
        "A mark shows {lag} late, and a fish that flickers {faint} fainter.",
        {"lag": Quantity(lag, "s"), "faint": Quantity(faint, "dB")},
    )


def _damping(s: FanSituation) -> Sentence:
    costs = damped_db(s.settings, s.lure_seen[1])
    return Sentence(
        "It takes {costs} from your lure at {away}.",
        {"costs": Quantity(costs, "dB"), "away": Quantity(s.lure_seen[1], "m")},
    )


def _tails(s: FanSituation) -> Sentence:
    fall = TAIL_DB_S[s.settings.tails]
    lasts = 0.0 if np.isinf(fall) else s.settings.strong_db / 2.0 / fall
    return Sentence("A bright mark stays {lasts} after it has gone.", {"lasts": Quantity(lasts, "s")})


def _ground(_: FanSituation) -> Sentence:
    return Sentence("Off, the bed shows what it is made of. On, nothing below the bottom is told, right or wrong.")


def _squares(s: FanSituation) -> Sentence:
    side = s.settings.square_m
    if side <= 0.0:
        return Sentence("No net: distances are read off the edge.")
    fish = smallest_fish(s.here, s.head, s.hang, s.settings, min(s.sought.away_m, s.settings.reach_m * 0.95))
    values = {"side": Quantity(side, "m"), "away": Quantity(s.sought.away_m, "m")}
    if fish is None:
        return Sentence("A square is {side}. At {away} no fish shows at this gain.", values)
    return Sentence(
        "A square is {side}. At {away} a fish shows from {fish} on, and none is drawn shorter than {drawn}.",
        {**values, "fish": Quantity(fish, "m"), "drawn": Quantity(max(smear(s), HIGHLIGHT_M / 2.0), "m")},
    )


def smear(s: FanSituation) -> float:
    """How large a point is drawn across at the distance sought [m]: the beam's width there."""
    wide = float(half_power_width(s.head.line, 0.0, s.here.sound_speed_m_s / s.head.frequency_hz))
    return wide * s.sought.away_m


def _numbers(s: FanSituation) -> Sentence:
    said = {"none": "none", "distance": "distance", "depth": "depth", "both": "distance and depth"}
    return Sentence(f"On the edge stands {said[s.settings.numbers]}, through the water from the head.")


def _heading(s: FanSituation) -> Sentence:
    return Sentence(
        "Off, only the handle tells where it looks. By the handle it is {handle}.",
        {"handle": Quantity(s.hang.aim_deg, "degrees")},
    )


def _levelling(s: FanSituation) -> Sentence:
    top = float(shown_deg(s.head, s.hang, s.settings)[0])
    return Sentence(
        "The head is {off} off level; the fan's upper edge is drawn {edge} below level.",
        {"off": Quantity(abs(s.hang.nose_up_deg), "degrees"), "edge": Quantity(top, "degrees")},
    )


def _ladder(s: FanSituation) -> Sentence:
    count = len(FAN_LADDERS[s.settings.ladder].steps)
    return Sentence(
        "{count} colours: each stands for {each}.",
        {"count": Quantity(count, "count"), "each": Quantity(s.settings.strong_db / count, "dB")},
    )


def _screen(s: FanSituation) -> Sentence:
    return Sentence("{share} of its light.", {"share": Quantity(100.0 * s.settings.screen, "percent")})


COSTS: Final[dict[ControlName, Cost]] = {
    "gain": _gain, "ahead": _ahead, "behind": _behind, "deep": _deep, "contrast": _contrast, "weak_end": _weak_end,
    "clutter": _clutter, "repeats": _repeats, "damping": _damping, "tails": _tails, "ground": _ground,
    "squares": _squares, "numbers": _numbers, "heading": _heading, "levelling": _levelling, "ladder": _ladder,
    "screen": _screen,
}  # fmt: skip


def costs(s: FanSituation) -> dict[ControlName, Sentence]:
    """What each control that the head has does and costs now."""
    return {name: tell(s) for name, tell in COSTS.items() if s.head.has(name)}
