"""Places to start at: where the chance of the band, the edge, structure and rest come together, each with its reasons.

How much each counts is common practice without a source, and stands in one table that is shown with the scores.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Annotated, Literal

import numpy as np

from ..checks import number
from ..fields import Pattern, Span, Text, check_fields
from ..ground.contours import on_a_grid
from ..ground.edges import falls as falls_of
from ..ground.regression import Array
from ..ground.soundings import FAR_M, THIN_ICE, Structure
from ..ground.surface import Band, Surface
from ..wording import Quantity, Sentence
from .sun import day_of

# What a place in the band gains by each, as a share of the band's own worth. Common practice, no source.
COUNTS = {"edge": 0.35, "structure": 0.35, "rest": 0.6}
NEAR_M = 25.0  # structure further off than a few of these counts for nothing
RESTS_DAYS = 4.0  # a place that was fished has forgotten it after a few of these
STEEP = 0.15  # a fall of 15 in a hundred is an edge
WARN_M = 60.0  # of springs, inlets and ridges a plan warns within this


@dataclass(frozen=True)
class Fished:
    """A place that was fished [m], so many days ago."""

    east_m: float
    north_m: float
    days_ago: float


@dataclass(frozen=True)
class FishedPlace:
    """A place as it was fished [m]: on which day ("2026-12-05"), and whether fish were left there in autumn."""

    east_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    north_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    at: Annotated[str, Pattern(r"\d{4}-\d{2}-\d{2}", "a day as 2026-12-05")]
    how: Literal["fished", "left in autumn"] = "fished"
    note: Annotated[str, Text(0, 200)] = ""

    def __post_init__(self) -> None:
        check_fields(self)
        day_of("at", self.at)

    def on(self, date: str) -> Fished:
        """How long ago that is on another day; a day that is still to come is today."""
        ago = (day_of("date", date) - day_of("at", self.at)).days
        return Fished(self.east_m, self.north_m, float(max(ago, 0)))


@dataclass(frozen=True)
class StartPlace:
    """A place to start at [m], its worth (0 to 10), why, and what to beware of there."""

    east_m: float
    north_m: float
    worth: float
    depth_m: float
    sd_m: float
    in_band: float
    why: tuple[Sentence, ...]
    beware: tuple[Sentence, ...] = field(default=())


def start_places(
    surface: Surface,
    band: Band,
    structures: Sequence[Structure] = (),
    fished: Sequence[Fished] = (),
    count: int = 6,
    apart_m: float = 40.0,
) -> list[StartPlace]:
    """The best `count` places, best first, none nearer to another than `apart_m` [m]; fewer where there are no more.

    Raises ValueError naming what is outside its span.
    """
    number("count", count, 1, 50)
    number("apart_m", apart_m, 1.0, 10_000.0, "m")
    grid, sd = on_a_grid(surface)
    places = grid.places
    chance = surface.in_band(places, band)
    falls = falls_of(grid).ravel()
    edge = np.minimum(falls / STEEP, 1.0)
    # Thin ice draws nobody: it is only warned of.
    holds = [one for one in structures if one.kind not in THIN_ICE]
    away, which = _nearest(places, np.array([(one.east_m, one.north_m) for one in holds]).reshape(-1, 2))
    by_structure = np.exp(-away / NEAR_M)
    tired = _tired(places, fished)
    most = 1.0 + COUNTS["edge"] + COUNTS["structure"]
    worth = 10.0 * chance * (1.0 + COUNTS["edge"] * edge + COUNTS["structure"] * by_structure) / most
    worth = worth * (1.0 - COUNTS["rest"] * tired)
    worth[~np.isfinite(grid.depth_m.ravel())] = 0.0
    found: list[StartPlace] = []
    left = worth.copy()
    while len(found) < count and left.max() > 0.0:
        i = int(left.argmax())
        kind = holds[which[i]].kind if holds and away[i] < 3.0 * NEAR_M else None
        found.append(
            StartPlace(
                float(places[i, 0]), float(places[i, 1]), float(worth[i]), float(grid.depth_m.ravel()[i]),
                float(sd.ravel()[i]), float(chance[i]),
                _why(float(grid.depth_m.ravel()[i]), float(sd.ravel()[i]), float(chance[i]), float(falls[i]), kind,
                     float(away[i]), float(tired[i])),
                _beware(places[i], structures),
            )
        )  # fmt: skip
        left[np.linalg.norm(places - places[i], axis=1) < apart_m] = 0.0
    return found


def _nearest(places: Array, others: Array) -> tuple[Array, Array]:
    """How far each place is from the nearest of the others [m], and which that is."""
    if others.shape[0] == 0:
        return np.full(places.shape[0], np.inf), np.zeros(places.shape[0], dtype=np.intp)
    away = np.linalg.norm(places[:, None] - others[None], axis=-1)
    return away.min(axis=1), away.argmin(axis=1)


def _tired(places: Array, fished: Sequence[Fished]) -> Array:
    """How much of a place's rest is gone, 0 to 1, for having been fished lately nearby."""
    tired = np.zeros(places.shape[0])
    for one in fished:
        near = np.exp(-np.hypot(places[:, 0] - one.east_m, places[:, 1] - one.north_m) / NEAR_M)
        tired = np.maximum(tired, near * np.exp(-max(one.days_ago, 0.0) / RESTS_DAYS))
    return tired


def _why(
    depth: float, sd: float, chance: float, falls: float, kind: str | None, away: float, tired: float
) -> tuple[Sentence, ...]:
    said = [
        Sentence(
            "About {depth} deep, sure to {sd}: in the band with a chance of {chance}.",
            {
                "depth": Quantity(depth, "m"),
                "sd": Quantity(2.0 * sd, "m"),
                "chance": Quantity(100.0 * chance, "percent"),
            },
        )
    ]
    if falls > 0.3 * STEEP:
        word = "An edge" if falls >= 0.7 * STEEP else "A slope"
        said.append(
            Sentence(f"{word}: the bed falls {{fall}} in a hundred.", {"fall": Quantity(100.0 * falls, "count")})
        )
    if kind is not None:
        said.append(Sentence(f"Near it ({kind}): {{away}}.", {"away": Quantity(away, "m")}))
    if tired > 0.1:
        said.append(Sentence("Fished not long ago: {share} of its worth is gone.", {
            "share": Quantity(100.0 * COUNTS["rest"] * tired, "percent")}))  # fmt: skip
    return tuple(said)


def _beware(place: Array, structures: Sequence[Structure]) -> tuple[Sentence, ...]:
    said = []
    for one in structures:
        away = float(np.hypot(place[0] - one.east_m, place[1] - one.north_m))
        if one.kind in THIN_ICE and away < WARN_M:
            said.append(
                Sentence(
                    f"{{away}} from a {one.kind}: ice there may be thin or open. Measure as you go, or leave it out.",
                    {"away": Quantity(away, "m")},
                )
            )
    return tuple(said)
