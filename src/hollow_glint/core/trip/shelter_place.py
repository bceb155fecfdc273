"""Where to set a shelter down and how to turn it: the place from which its lines together reach the best mix.

Each line is worth what its own hole is worth (`start_places`); and a party is worth more whose lines do not all fish
the same thing: one by the timber, one on the edge, one where schools were seen. How much a mix counts, and how far a
line reaches, is common practice without a source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal, get_args

import numpy as np
from numpy.typing import NDArray

from ..checks import InputError, number
from ..fields import Span, check_fields, doc
from ..ground.contours import Drawn
from ..ground.regression import Array
from ..ground.soundings import FAR_M, StructureKind
from ..ground.surface import Band, Surface
from ..wording import Quantity, Sentence
from .start_places import STEEP, Bed, Judged, start_places

LINE_REACH_M = 5.0  # how far off a fish still comes to a lure that it has seen or felt
PASS_M = 15.0  # how far from a hole what passed there in these hours is believed to pass as well
DOUBTS_H = 2.0  # hours of one line at the usual that a hole's own hours are put beside: an hour proves little
MIX = 0.4  # all kinds reached are worth so much of a line's best
TELLS = 0.3  # a kind reached by less is not named
SHORTLIST, APART_M, MORE = 8, 30.0, 2
DRAWS = 4000
JITTER_M2 = 1e-6
SAME = 1e-6  # in worth

Reach = Literal["edge", "timber", "rock", "weeds", "change of bottom", "traffic"]
REACHES: tuple[Reach, ...] = get_args(Reach)
OF_KIND: dict[StructureKind, Reach] = {
    "timber": "timber", "brush": "timber", "crib": "timber", "boulder": "rock", "rock pile": "rock",
    "weed edge": "weeds", "school seen": "traffic",
}  # fmt: skip


@dataclass(frozen=True)
class Placing:
    """A shelter's middle [m] and its turn [degrees clockwise]: where its plan's y axis points, from north."""

    east_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    north_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    turn_deg: Annotated[float, Span(0.0, 360.0, "degrees")] = 0.0

    def __post_init__(self) -> None:
        check_fields(self, "now")

    def holes(self, plan_m: Array) -> Array:
        """Where the holes of a plan (holes, 2) [m] come to lie, same shape."""
        turn = np.radians(self.turn_deg)
        x, y = plan_m[:, 0], plan_m[:, 1]
        east = self.east_m + x * np.cos(turn) + y * np.sin(turn)
        return np.column_stack([east, self.north_m - x * np.sin(turn) + y * np.cos(turn)])


@dataclass(frozen=True)
class Met:
    """What came to a hole [m] in the hours that are planned, on other days: looks in hours of one line, and what your
    holes bring an hour at any time."""

    east_m: float
    north_m: float
    looks: float
    hours: float
    usual: float

    @property
    def times(self) -> float:
        """How many times the usual came in these hours, pulled to the usual as far as they were few."""
        return 1.0 if self.usual <= 0.0 else (self.looks / self.usual + DOUBTS_H) / (self.hours + DOUBTS_H)


@dataclass(frozen=True)
class HoleThere:
    """A hole of the shelter where it comes to lie [m], its worth as a start place (0 to 10), depth and chance of the
    band, and what its line reaches, most first."""

    east_m: float
    north_m: float
    worth: float
    depth_m: float
    sd_m: float
    in_band: float
    reaches: tuple[Reach, ...]


@dataclass(frozen=True)
class ShelterPlace:
    """A placing with its worth (0 to 14), its holes, why, and what to beware of.

    better   the chance that it is worth more than where the party stands, over what is not known of the depths; None
             where it stands nowhere yet
    """

    placing: Placing
    worth: float
    holes: tuple[HoleThere, ...]
    why: tuple[Sentence, ...]
    beware: tuple[Sentence, ...]
    better: Annotated[float | None, doc("Chance, 0 to 1")] = None


def shelter_places(
    drawn: Drawn,
    band: Band,
    plan_m: Sequence[Sequence[float]],
    bed: Bed | None = None,
    now: Placing | None = None,
    count: int = 3,
    met: Sequence[Met] = (),
) -> list[ShelterPlace]:
    """The best places for a shelter with holes at `plan_m` [m from its middle], best first; where it stands `now` last.

    met   what came to holes near in the hours that are planned

    Raises ValueError naming what is outside its span.
    """
    number("count", count, 1, 10)
    search = _Search(drawn.surface, band, _plan(plan_m), bed or Bed(), met)
    cell = drawn.grid.cell_m
    # Coarsely about each place to start at and each hole where more came than usual, finely about the best of those.
    starts = [(one.east_m, one.north_m) for one in start_places(drawn, band, bed, SHORTLIST, APART_M)]
    busiest = sorted((one for one in met if one.times > 1.0), key=lambda one: -one.times)[:SHORTLIST]
    coarse = [
        one
        for start in (*starts, *((one.east_m, one.north_m) for one in busiest))
        if (one := search.best(Placing(*start), max(0.5 * cell, 2.0), 1, 45.0)) is not None
    ]
    coarse.sort(key=lambda one: -search.place(one, None).worth)
    fine = [search.best(one, max(0.2 * cell, 0.7), 2, 15.0) or one for one in coarse[: count + MORE]]
    best: list[ShelterPlace] = []
    for place in sorted((search.place(one, now) for one in fine), key=lambda one: -one.worth):
        if len(best) < count and all(_apart(place.placing, other.placing) >= APART_M for other in best):
            best.append(place)
    return best if now is None else [*best, search.place(now, None)]


def judged_placings(
    surface: Surface,
    band: Band,
    plan_m: Sequence[Sequence[float]],
    placings: Sequence[Placing],
    bed: Bed | None = None,
    met: Sequence[Met] = (),
) -> list[ShelterPlace]:
    """Placings that somebody chose, judged as the proposed ones are."""
    search = _Search(surface, band, _plan(plan_m), bed or Bed(), met)
    return [search.place(one, None) for one in placings]


def _apart(one: Placing, other: Placing) -> float:
    return float(np.hypot(one.east_m - other.east_m, one.north_m - other.north_m))


def _plan(plan_m: Sequence[Sequence[float]]) -> Array:
    plan = np.asarray(plan_m, dtype=np.float64)
    if plan.ndim != 2 or plan.shape[1:] != (2,) or not 1 <= plan.shape[0] <= 8 or np.abs(plan).max(initial=0.0) > 25.0:
        raise InputError("plan_m: accepted are 1 to 8 pairs of metres, each -25 to 25 m from the shelter's middle")
    return plan


class _Search:
    """Placings of one plan over one lake, judged many at a time."""

    def __init__(self, surface: Surface, band: Band, plan: Array, bed: Bed, met: Sequence[Met]) -> None:
        self.surface, self.band, self.plan, self.bed, self.met = surface, band, plan, bed, met
        self.met_at = np.array([(one.east_m, one.north_m) for one in met]).reshape(-1, 2)
        self.met_times = np.array([one.times for one in met])
        kinds = [OF_KIND.get(one.kind) for one in bed.structures]
        self.stands = {
            kind: np.array(
                [(s.east_m, s.north_m) for s, its in zip(bed.structures, kinds, strict=True) if its == kind]
            ).reshape(-1, 2)
            for kind in REACHES
        }

    def judged(self, places: Array) -> Judged:
        """Places (n, 2) as start places."""
        depth, sd = self.surface.at(places)
        return Judged(places, depth, sd, self.surface.slope(places)[0], self.band, self.bed)

    def reached(self, judged: Judged) -> Array:
        """How well a line at each place reaches each of REACHES, 0 to 1: shape (n, kinds)."""
        score = np.zeros((judged.places.shape[0], len(REACHES)))
        for k, kind in enumerate(REACHES):
            if self.stands[kind].size:
                away = np.linalg.norm(judged.places[:, None] - self.stands[kind][None], axis=-1).min(axis=1)
                score[:, k] = np.exp(-((away / LINE_REACH_M) ** 2))
        score[:, REACHES.index("edge")] = np.minimum(judged.falls / STEEP, 1.0)
        score[:, REACHES.index("change of bottom")] = np.exp(-((judged.change_m / LINE_REACH_M) ** 2))
        traffic = REACHES.index("traffic")
        if judged.taught:
            more = np.clip(np.array([times for times, _ in judged.taught]) - 1.0, 0.0, 1.0)
            score[:, traffic] = np.maximum(score[:, traffic], more)
        if self.met:
            score[:, traffic] = np.maximum(score[:, traffic], self._passed(judged.places).max(axis=1))
        return score

    def _passed(self, places: Array) -> Array:
        """How well a line at each place reaches what passed each hole of the log in these hours: (n, met), 0 to 1."""
        away = np.linalg.norm(places[:, None] - self.met_at[None], axis=-1)
        return np.asarray(np.exp(-((away / PASS_M) ** 2)) * np.clip(self.met_times - 1.0, 0.0, 1.0))

    def best(self, near: Placing, step_m: float, steps: int, turn_deg: float) -> Placing | None:
        """The best placing on a grid of `steps` each way about `near`, in all turns; None where none is over water."""
        shifts = step_m * np.arange(-steps, steps + 1)
        tried = [
            Placing(near.east_m + e, near.north_m + n, float(turn))
            for e in shifts
            for n in shifts
            for turn in np.arange(0.0, 360.0, turn_deg)
        ]
        places = np.concatenate([one.holes(self.plan) for one in tried])
        judged = self.judged(places)
        party = (len(tried), self.plan.shape[0])
        reached = self.reached(judged).reshape(*party, -1)
        worth = _worth(_in_band_worth(judged).reshape(party), reached, judged.chance.reshape(party))
        worth[~self._over_water(places).reshape(len(tried), -1).all(axis=1)] = -1.0
        k = int(worth.argmax())
        return tried[k] if worth[k] >= 0.0 else None

    def _over_water(self, places: Array) -> NDArray[np.bool_]:
        shore = self.surface.shore
        return np.ones(places.shape[0], dtype=np.bool_) if shore is None else shore.inside(places)

    def place(self, placing: Placing, now: Placing | None) -> ShelterPlace:
        """A placing with its reasons, against where the party stands."""
        holes = placing.holes(self.plan)
        judged = self.judged(holes)
        reached = self.reached(judged)
        held = reached * judged.chance[:, None]
        worth = float(_worth(_in_band_worth(judged), reached, judged.chance))
        there = tuple(
            HoleThere(
                float(holes[j, 0]), float(holes[j, 1]), float(judged.worth[j]), float(judged.depth[j]),
                float(judged.sd[j]), float(judged.chance[j]),
                tuple(REACHES[k] for k in np.argsort(-held[j], kind="stable") if held[j, k] > TELLS),
            )
            for j in range(holes.shape[0])
        )  # fmt: skip
        beware = tuple(said for j in range(holes.shape[0]) for said in judged.place(j).beware)
        better = None if now is None else self._better(placing, now)
        return ShelterPlace(placing, worth, there, self._why(judged, held), _nearest_only(beware), better)

    def _why(self, judged: Judged, held: Array) -> tuple[Sentence, ...]:
        chance = min(float(judged.chance.mean()), 0.99)  # nothing between soundings is certain
        text = "Its holes lie in the band with a chance of {chance} on average."
        said = [Sentence(text, {"chance": Quantity(100.0 * chance, "percent")})]
        words = {"edge": "the edge", "change of bottom": "the change of bottom", "traffic": "where fish pass"}
        for k in np.argsort(-held.max(axis=0), kind="stable"):
            kind, by = REACHES[int(k)], [j for j in range(held.shape[0]) if held[j, k] > TELLS]
            if by:
                names = ", ".join(str(j + 1) for j in by)
                lines = "The line of hole" if len(by) == 1 else "The lines of holes"
                reach = "reaches" if len(by) == 1 else "reach"
                said.append(Sentence(f"{lines} {names} {reach} {words.get(kind, kind)}."))
        if self.met:
            passed = self._passed(judged.places).max(axis=0)
            one = self.met[int(passed.argmax())]
            if passed.max() > TELLS:
                text = (
                    "In these hours {looks} fish looked at a hole {away} from here in {hours} of one line: taken with "
                    "caution {times} times your usual."
                )
                away = float(np.hypot(*(judged.places - (one.east_m, one.north_m)).T).min())
                values = {"looks": Quantity(round(one.looks), "count"), "away": Quantity(away, "m"),
                          "hours": Quantity(one.hours, "h"), "times": Quantity(one.times, "count")}  # fmt: skip
                said.append(Sentence(text, values))
        if len(said) == 1:
            said.append(Sentence("No line reaches an edge, structure, a change of bottom or a place where fish pass."))
        return tuple(said)

    def _better(self, there: Placing, now: Placing) -> float:
        """The chance that a placing is worth more than another, over depths drawn for all holes together."""
        places = np.concatenate([there.holes(self.plan), now.holes(self.plan)])
        judged = self.judged(places)
        covariance = self.surface.covariance_between(places, places)
        root = np.linalg.cholesky(0.5 * (covariance + covariance.T) + JITTER_M2 * np.eye(places.shape[0]))
        depths = judged.depth + np.random.default_rng(0).standard_normal((DRAWS, places.shape[0])) @ root.T
        inside = ((depths >= self.band.from_m) & (depths <= self.band.to_m)).astype(np.float64)
        half = self.plan.shape[0]
        each, reached = _in_band_worth(judged), self.reached(judged)
        mine, its = (_worth(each[part], reached[part], inside[:, part]) for part in (slice(0, half), slice(half, None)))
        # Where neither is worth more, as often as not.
        ahead = mine - its
        return float(np.mean((ahead > SAME) + 0.5 * (np.abs(ahead) <= SAME)))


def _in_band_worth(judged: Judged) -> Array:
    """What each place would be worth if it lay in the band for sure, (places,)."""
    return np.divide(judged.worth, judged.chance, out=np.zeros_like(judged.worth), where=judged.chance > 0.0)


def _worth(each: Array, reached: Array, in_band: Array) -> Array:
    """What parties are worth, (...,): holes worth `each` (..., holes) in the band, that reach (..., holes, kinds), for
    the chance or the truth that they lie in it (..., holes). Shapes broadcast."""
    mix = (reached * in_band[..., None]).max(axis=-2).mean(axis=-1)
    return np.asarray((each * in_band).mean(axis=-1) + 10.0 * MIX * mix)


def _nearest_only(said: tuple[Sentence, ...]) -> tuple[Sentence, ...]:
    """Of warnings in the same words the one that is nearest."""
    nearest: dict[str, Sentence] = {}
    for one in said:
        known = nearest.get(one.text)
        if known is None or one.values["away"].value < known.values["away"].value:
            nearest[one.text] = one
    return tuple(nearest.values())
