"""The fan's card: how to hang and set a fan from what one knows at a hole, with no picture and no data to hand.

Everything on it follows from the same means that the picture is made of, worked out for flat water of that depth; what
is not known is taken for what is usual, and said. Which gain another head needs for the same picture follows too.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Annotated, Final

import numpy as np

from ..acoustics.bottom import BOTTOM_KINDS
from ..card.known_hole import ASSUMED, LIFE_WORDS, LIGHTS, LIVELINESS
from ..checks import InputError
from ..fields import OneOf, Span, check_fields, doc
from ..gear.lures import USUAL_JIG, Lure
from ..ground.contours import Grid
from ..hole.scene import CLARITY_DB, PLANKTON_DB, night_share
from ..search.patch import BEDS, Patch
from ..wording import Quantity, Sentence
from .coach import fan_verdicts, with_change
from .costs import costs
from .head import ControlName, FanHang, FanHead
from .settings import FIELD_OF, FanSettings, check_settings, without_lacking
from .situation import JOBS, REACH_M, FanSituation, Job
from .water import fan_water
from .window import LIKINGS, FanWindow, Liking, Sought

CARD_DEPTHS_M: Final = (1.5, 40.0)
MOST_CHANGES: Final = 12  # of the coach's, until nothing is wrong
BELOW_ICE_M: Final = 0.3
SIDE_M: Final = 2.0  # of a square of the net in water to fish in; searching twice as much
DEEP_M: Final = 12.0  # from here on what hangs under the hole is worth damping


@dataclass(frozen=True)
class FanKnown:
    """What someone knows at a hole who owns a fan. Raises ValueError naming what is out of its span."""

    depth_m: Annotated[float, Span(*CARD_DEPTHS_M, "m"), doc("Of the water")]
    job: Annotated[Job, OneOf(JOBS)] = "search"
    clarity: Annotated[str, OneOf(CLARITY_DB)] = "clear"
    light: Annotated[str, OneOf(LIGHTS)] = "day"
    liveliness: Annotated[str, OneOf(LIVELINESS, LIFE_WORDS)] = ASSUMED["liveliness"]
    liking: Annotated[Liking, OneOf(LIKINGS)] = "clean"
    bottom_kind: Annotated[str, OneOf(BOTTOM_KINDS)] = "mud"
    ice_m: Annotated[float, Span(0.05, 1.2, "m")] = 0.4
    fish_m: Annotated[float, Span(0.05, 1.5, "m"), doc("How long the fish is that one wants to see")] = 0.3
    lure: Lure = USUAL_JIG

    def __post_init__(self) -> None:
        check_fields(self)
        if self.depth_m < self.ice_m + BELOW_ICE_M + 0.5:
            raise InputError(
                f"depth_m is {self.depth_m:g} m: accepted is at least {self.ice_m + BELOW_ICE_M + 0.5:.1f} m under "
                f"{self.ice_m:g} m of ice"
            )

    @property
    def risen_db(self) -> float:
        """What has risen into the water at this hour, as volume scattering [dB re 1/m]."""
        share = night_share(LIGHTS[self.light])
        return PLANKTON_DB[LIVELINESS[self.liveliness]] + 10.0 * float(np.log10(max(share, 1e-12)))


@dataclass(frozen=True)
class FanCard:
    """How to hang and set a head: the window of its gain, a line for each control it has, and what to do when."""

    head: FanHead
    hang: FanHang
    settings: FanSettings
    window: FanWindow
    lines: dict[ControlName, Sentence]
    later: tuple[Sentence, ...]


@lru_cache(maxsize=16)
def flat_water(depth_m: float, bottom_kind: str, clarity: str) -> Patch:
    """Flat water of a depth [m] and one kind of bottom, with nothing in it."""
    side = 3
    depth = np.full((side, side), depth_m)
    return Patch(Grid(-80.0, -80.0, 80.0, depth), np.full((side, side), BEDS.index(bottom_kind), np.uint8), (), (),
                 clarity=clarity)  # fmt: skip


def situation_of(known: FanKnown, head: FanHead, hang: FanHang, settings: FanSettings) -> FanSituation:
    """A head that hangs and is set so in the water that is known."""
    here = fan_water(
        flat_water(known.depth_m, known.bottom_kind, known.clarity), head, hang, settings.reach_m, known.risen_db
    )
    return FanSituation(here, head, hang, settings, _sought(known, settings), known.job, known.light == "night")


def _sought(known: FanKnown, settings: FanSettings) -> Sought:
    """The lure at seven tenths of the depth, the fish near it or far out in the picture."""
    deep = max(0.7 * known.depth_m, known.ice_m + BELOW_ICE_M + 0.3)
    away = 0.8 * settings.ahead_m if known.job == "search" else 0.3 * settings.ahead_m
    return Sought(known.lure, 0.0, 0.0, float(deep), known.fish_m, float(max(away, 1.0)), float(deep), known.liking)


def fan_card(known: FanKnown, head: FanHead) -> FanCard:
    """The card for a head: begun from what is usual for the job, then mended until its coach has nothing to say."""
    hang = FanHang(
        depth_m=round(known.ice_m + BELOW_ICE_M, 2), mounting="down" if known.job == "fish" else "ahead",
        ice_m=known.ice_m,
    )  # fmt: skip
    deep = float(np.ceil(known.depth_m * 1.15 + 0.5))
    low, high = REACH_M[known.job]
    longest = float(np.sqrt(max(head.longest_m**2 - deep**2, 4.0)))
    ahead = min(0.5 * (low + high) if known.job == "search" else low, longest)
    settings = without_lacking(
        head,
        FanSettings(
            ahead_m=round(ahead, 1),
            behind_m=round(ahead, 1) if known.job == "fish" else 3.0,
            deep_m=min(deep, 40.0),
            square_m=2.0 * SIDE_M if known.job == "search" else SIDE_M,
            damping_m=1.0 if known.depth_m >= DEEP_M else 0.0,
            screen=0.4 if known.light == "night" else 1.0,
            weak_steps=0,
        ),
    )
    s = situation_of(known, head, hang, settings)
    settings = replace(settings, gain_db=round(s.window.advised, 0))
    for _ in range(MOST_CHANGES):
        s = situation_of(known, head, hang, settings)
        wrong = [one for one in fan_verdicts(s) if one.change is not None and one.code not in _JOBS_OWN]
        if not wrong:
            break
        assert wrong[0].change is not None
        hang, settings = with_change(hang, settings, wrong[0].change)
    return FanCard(head, hang, settings, s.window, costs(s), tuple(_later(known, head, s)))


# What follows from the job itself, as it was chosen, is no fault of the card.
_JOBS_OWN: Final = frozenset({"reach too long", "reach too short"})


def card_at(depth_m: float, clarity: str, job: Job, head: FanHead) -> FanCard:
    """The card for a place of which one knows no more than how deep [m] and how clear it is, by day and clean; where it
    is shallower or deeper than a card is made for, the one for the nearest depth."""
    low, high = CARD_DEPTHS_M
    return fan_card(FanKnown(min(max(round(depth_m, 1), low), high), job, clarity), head)


def _later(known: FanKnown, head: FanHead, s: FanSituation) -> list[Sentence]:
    """What to change as things change: darkness, turning, being near."""
    out = []
    if known.light != "night":
        by_night = situation_of(replace(known, light="night"), head, s.hang, s.settings).window
        less = s.settings.gain_db - by_night.advised
        if less >= 1.0:
            out.append(
                Sentence(
                    "When it is dark turn gain down by {less}, to {to}: what drifts in the water has risen.",
                    {"less": Quantity(round(less), "gain"), "to": Quantity(round(by_night.advised), "gain")},
                )
            )
    if known.job == "search":
        out.append(Sentence("Walk to the fish, drill, and turn the head down: then set it by the card for fishing."))
    else:
        strip = min(abs(one) for one in head.seams_deg) if head.seams_deg else 0.0
        below = s.sought.lure_depth_m - s.hang.depth_m
        out.append(
            Sentence(
                "A lure at that depth is in a weak strip {aside} to the side of the head: keep other jigs nearer or "
                "further.",
                {"aside": Quantity(float(np.tan(np.radians(strip))) * below, "m")},
            )
        )
    return out


@dataclass(frozen=True)
class FanTranslated:
    """One head's settings on another, for the same picture as nearly as can be; and what cannot be matched."""

    settings: FanSettings
    unmatched: tuple[Sentence, ...]


def fan_translate(known: FanKnown, mine: FanHead, now: FanSettings, other: FanHead) -> FanTranslated:
    """What `mine` set to `now` shows of lure and fish, on `other`: as far over its floor, with the same reach.

    Raises ValueError for settings that `mine` cannot have.
    """
    hang = FanHang(depth_m=round(known.ice_m + BELOW_ICE_M, 2), ice_m=known.ice_m)
    check_settings(mine, now)
    to = without_lacking(other, now)
    unmatched = [
        Sentence(f"{other.name} has no {control.replace('_', ' ')}.")
        for control in other.lacks
        if getattr(now, FIELD_OF[control]) != getattr(to, FIELD_OF[control])
    ]
    if to.reach_m > other.longest_m:
        ahead = float(np.sqrt(max(other.longest_m**2 - to.deep_m**2, 4.0)))
        unmatched.append(
            Sentence(f"{other.name} reaches {{longest}} at most.", {"longest": Quantity(other.longest_m, "m")})
        )
        to = replace(to, ahead_m=round(ahead - 0.05, 1), behind_m=min(to.behind_m, round(ahead - 0.05, 1)))
    before, after = (situation_of(known, head, hang, one).window for head, one in ((mine, now), (other, to)))
    gain = after.floor + now.gain_db - before.floor
    if now.gain_db <= before.ceiling and gain > after.ceiling:
        unmatched.append(
            Sentence("There the water lights up from {ceiling}.", {"ceiling": Quantity(after.ceiling, "gain")})
        )
    return FanTranslated(replace(to, gain_db=float(np.clip(round(gain), 0.0, 70.0))), tuple(unmatched))
