"""Places to start at: where the chance of the band, the edge, structure and rest come together, each with its reasons.

How much each counts is common practice without a source, and stands in one table that is shown with the scores.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Annotated, Literal

import numpy as np

from ..checks import number
from ..fields import Pattern, Span, Text, check_fields
from ..ground.contours import Drawn
from ..ground.edges import falls as falls_of
from ..ground.regression import Array
from ..ground.soundings import FAR_M, THIN_ICE, Structure
from ..ground.surface import Band, Surface, chance_in
from ..wording import Quantity, Sentence
from .sun import day_of

# What a place in the band gains by each, as a share of the band's own worth. Common practice, no source.
COUNTS = {"edge": 0.35, "structure": 0.35, "bottom": 0.2, "rest": 0.6, "log": 0.8}
TAUGHT_LEAST, TAUGHT_MOST = -0.6, 1.0  # of the usual, that a place gains by the log beyond it: it is no oracle
NEAR_M = 25.0  # structure further off than a few of these counts for nothing
RESTS_DAYS = 4.0  # a place that was fished has forgotten it after a few of these
STEEP = 0.15  # a fall of 15 in a hundred is an edge
KNOWN_M = 100.0  # how far from where the bottom was felt its kind is believed
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


# What one's own log says of places (n, 2) [m] of a depth [m] and fall (n,): how many times the usual is to be expected
# at each, and the reason where that is worth one. The log itself knows nothing of this room.
TaughtAt = Callable[[Array, Array, Array], Sequence[tuple[float, Sentence | None]]]


@dataclass(frozen=True)
class Bed:
    """What is known of a lake besides its depth: what stands on the bed, what lies there (east, north [m] and kind of
    bottom), where it was fished, and what one's own log has taught of such places."""

    structures: Sequence[Structure] = ()
    bottoms: Sequence[tuple[float, float, str]] = ()
    fished: Sequence[Fished] = ()
    taught: TaughtAt | None = None


def start_places(
    drawn: Drawn, band: Band, bed: Bed | None = None, count: int = 6, apart_m: float = 40.0
) -> list[StartPlace]:
    """The best `count` places of a lake on a grid, best first, none nearer to another than `apart_m` [m]; fewer where
    there are no more.

    Raises ValueError naming what is outside its span.
    """
    number("count", count, 1, 50)
    number("apart_m", apart_m, 1.0, 10_000.0, "m")
    grid, sd = drawn.grid, drawn.sd_m
    water = np.isfinite(grid.depth_m.ravel())
    judged = Judged(
        grid.places[water],
        grid.depth_m.ravel()[water],
        sd.ravel()[water],
        falls_of(grid).ravel()[water],
        band,
        bed or Bed(),
    )
    found: list[StartPlace] = []
    left = judged.worth.copy()
    while len(found) < count and left.size and left.max() > 0.0:
        i = int(left.argmax())
        found.append(judged.place(i))
        left[np.linalg.norm(judged.places - judged.places[i], axis=1) < apart_m] = 0.0
    return found


def judged_places(
    surface: Surface, band: Band, at: Sequence[Sequence[float]], bed: Bed | None = None
) -> list[StartPlace]:
    """Places (n, 2) [m] that somebody chose, judged as the proposed ones are."""
    places = np.asarray(at, dtype=np.float64).reshape(-1, 2)
    depth, sd = surface.at(places)
    judged = Judged(places, depth, sd, surface.slope(places)[0], band, bed or Bed())
    return [judged.place(i) for i in range(len(places))]


class Judged:
    """Places with their worth and all that it is made of."""

    def __init__(self, places: Array, depth: Array, sd: Array, falls: Array, band: Band, bed: Bed) -> None:
        self.places, self.depth, self.sd, self.falls, self.bed = places, depth, sd, falls, bed
        self.chance = np.clip(chance_in(depth, sd, band), 0.0, 1.0)
        # Thin ice draws nobody: it is only warned of.
        self.holds = [one for one in bed.structures if one.kind not in THIN_ICE]
        where = np.array([(one.east_m, one.north_m) for one in self.holds]).reshape(-1, 2)
        self.away, self.which = _nearest(places, where)
        self.tired = _tired(places, bed.fished)
        self.change_m, self.kinds = _to_another_bottom(places, bed.bottoms)
        gains = (
            COUNTS["edge"] * np.minimum(falls / STEEP, 1.0)
            + COUNTS["structure"] * np.exp(-self.away / NEAR_M)
            + COUNTS["bottom"] * np.exp(-self.change_m / NEAR_M)
        )
        most = 1.0 + COUNTS["edge"] + COUNTS["structure"] + COUNTS["bottom"]
        self.taught = [] if bed.taught is None else bed.taught(places, depth, falls)
        if self.taught:
            times = np.array([one for one, _ in self.taught])
            gains = gains + COUNTS["log"] * np.clip(times - 1.0, TAUGHT_LEAST, TAUGHT_MOST)
            most += COUNTS["log"]
        self.worth = 10.0 * self.chance * (1.0 + gains) / most * (1.0 - COUNTS["rest"] * self.tired)

    def place(self, i: int) -> StartPlace:
        return StartPlace(
            float(self.places[i, 0]), float(self.places[i, 1]), float(self.worth[i]), float(self.depth[i]),
            float(self.sd[i]), float(self.chance[i]), self._why(i), _beware(self.places[i], self.bed.structures),
        )  # fmt: skip

    def _why(self, i: int) -> tuple[Sentence, ...]:
        said = [
            Sentence(
                "About {depth} deep, sure to {sd}: in the band with a chance of {chance}.",
                {
                    "depth": Quantity(float(self.depth[i]), "m"),
                    "sd": Quantity(2.0 * float(self.sd[i]), "m"),
                    "chance": Quantity(100.0 * float(self.chance[i]), "percent"),
                },
            )
        ]
        falls = float(self.falls[i])
        if falls > 0.3 * STEEP:
            word = "An edge" if falls >= 0.7 * STEEP else "A slope"
            said.append(
                Sentence(f"{word}: the bed falls {{fall}} in a hundred.", {"fall": Quantity(100.0 * falls, "count")})
            )
        if self.holds and self.away[i] < 3.0 * NEAR_M:
            kind = self.holds[self.which[i]].kind
            said.append(Sentence(f"Near it ({kind}): {{away}}.", {"away": Quantity(float(self.away[i]), "m")}))
        if self.change_m[i] < 2.0 * NEAR_M:
            one, other = self.kinds[i]
            said.append(
                Sentence(
                    f"The bottom changes from {one} to {other} about {{away}} off.",
                    {"away": Quantity(float(self.change_m[i]), "m")},
                )
            )
        if self.taught and (told := self.taught[i][1]) is not None:
            said.append(told)
        if self.tired[i] > 0.1:
            said.append(Sentence("Fished not long ago: {share} of its worth is gone.", {
                "share": Quantity(100.0 * COUNTS["rest"] * float(self.tired[i]), "percent")}))  # fmt: skip
        return tuple(said)


def _to_another_bottom(
    places: Array, bottoms: Sequence[tuple[float, float, str]]
) -> tuple[Array, list[tuple[str, str]]]:
    """How far each place is from where the kind of bottom changes [m], infinite where that is not known, and the kinds.

    The change is taken to lie half way between the nearest known bottom and the nearest one of another kind.
    """
    far = np.full(places.shape[0], np.inf)
    if len({kind for *_, kind in bottoms}) < 2:
        return far, [("", "")] * places.shape[0]
    where = np.array([(e, n) for e, n, _ in bottoms], dtype=np.float64)
    kinds = np.array([kind for *_, kind in bottoms])
    away = np.linalg.norm(places[:, None] - where[None], axis=-1)
    nearest = away.argmin(axis=1)
    other = np.where(kinds[None] == kinds[nearest][:, None], np.inf, away)
    second = other.argmin(axis=1)
    rows = np.arange(places.shape[0])
    half = 0.5 * (other[rows, second] - away[rows, nearest])
    known = away[rows, nearest] < KNOWN_M
    return np.where(known, half, np.inf), [(str(kinds[a]), str(kinds[b])) for a, b in zip(nearest, second, strict=True)]


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
