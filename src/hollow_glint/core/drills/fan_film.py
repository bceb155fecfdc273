"""A fan's picture, or a few of them one after another, as a drill shows them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..fan.head import NEAR_REACH, FanHang, FanHead
from ..fan.look import FanLook
from ..fan.picture import STEPS, picture
from ..fan.settings import FanSettings
from ..fan.swimmers import HungLure
from ..fan.water import BINS
from ..search.patch import Patch

Place = tuple[float, float]
LEADS_S: Final = 0.6  # the head has listened so long before the first picture that is shown
MOST_FRAMES: Final = 8


@dataclass(frozen=True, eq=False)
class FanFilm:
    """What a fan showed, picture by picture.

    levels    (pictures, beams, bins); a picture each `every_s` [s]
    beams_deg where each beam is drawn (beams,) [degrees from level ahead, downwards]
    ring      a place ahead and deep [m] that the question points at; None for none
    places    places ahead and deep [m] that are named A, B, C
    seams_deg where two sub-arrays meet [degrees from level ahead], where they are drawn
    """

    levels: NDArray[np.uint8]
    beams_deg: Floats
    hang: FanHang
    settings: FanSettings
    every_s: float
    colours: tuple[tuple[str, ...], tuple[str, ...]]
    dark: tuple[str, str]
    ring: Place | None = None
    places: tuple[Place, ...] = ()
    seams_deg: tuple[float, ...] = ()
    caption: str = ""

    @property
    def steps(self) -> int:
        """The strongest step."""
        return STEPS

    @property
    def bins(self) -> int:
        """From the head to the end of its reach."""
        return BINS


def fan_film(
    patch: Patch,
    rng: np.random.Generator,
    times_s: tuple[float, ...],
    hang: FanHang,
    settings: FanSettings,
    lures: Callable[[float], tuple[HungLure, ...]] | None = None,
    head: FanHead = NEAR_REACH,
) -> FanFilm:
    """The pictures at these moments [s], the lures where they are then. Nothing is laid over them yet."""
    look = FanLook(patch, head, hang, settings, rng, () if lures is None else lures(times_s[0]), times_s[0] - LEADS_S)
    shown = []
    for moment in times_s:
        if lures is not None:
            look.lures = lures(moment)
        look.advance(moment - look.time_s + look.frame_s, newest_only=True)
        if look.newest is not None:
            shown.append(look.newest.steps.copy())
    by = [picture(shown[-1], head, hang, settings, theme) for theme in ("rime", "lantern")]
    every = float(times_s[1] - times_s[0]) if len(times_s) > 1 else 0.0
    return FanFilm(
        np.array(shown),
        by[0].beams_deg,
        hang,
        settings,
        every,
        (by[0].colours, by[1].colours),
        (by[0].dark, by[1].dark),
    )
