"""What a unit must have for one's own waters: what each capability is worth there, in numbers of the model.

A plain unit is taken to each water, and again with one capability more; what that changes is measured by the same sonar
equation that draws the pictures. No makers, no prices: only what would be seen, and what would not.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Literal

import numpy as np

from ..acoustics.sonar_equation import range_resolution
from ..acoustics.water import sound_speed
from ..card.figures import Numbers
from ..card.hole_card import HoleCard, hole_card
from ..card.known_hole import KnownHole
from ..checks import InputError
from ..fields import Span, check_fields, doc
from ..gear import ladders
from ..gear.lures import Lure
from ..gear.profiles import TRAIL_UNIT
from ..gear.settings import Settings, smallest_range
from ..gear.unit import FOOT, Beam, Pulse, Rejection, UnitProfile
from ..hole.contents import Neighbour
from ..hole.scene import BottomDepth, BottomKindName, Clarity
from ..tuning.situation import situation_at
from ..wording import Quantity, QuantityUnit, Sentence

# The plainest unit that shows an echo: one beam, one pulse, one power, three colours, nothing else.
PLAIN = replace(
    TRAIL_UNIT, name="Plain unit", bottom_windows_m=(), ladders=(ladders.THREE_STEP,), rejections=(Rejection(1),)
)
SEARCHED_M = 30.0  # how far a head that turns or looks ahead is used. Common practice, no source
DEEPEST_TRIED_M = 40.0
NOTHING, LITTLE, MUCH = 0.05, 0.25, 0.6
Verdict = Literal["you gain nothing", "a little", "much", "you should not be without it"]


@dataclass(frozen=True)
class FishedWater:
    """A water that one fishes: its depth [m], bottom, what hangs in it, and how many other units are near."""

    depth_m: BottomDepth
    bottom_kind: BottomKindName = "mud"
    clarity: Clarity = "clear"
    others: Annotated[int, Span(0, 4), doc("Other units within a few metres")] = 0
    fish_length_m: Annotated[float, Span(0.03, 1.5, "m")] = 0.3

    def __post_init__(self) -> None:
        check_fields(self, "waters")

    def known(self) -> KnownHole:
        """As the hole card knows it, by day."""
        near = tuple(Neighbour(2.0 + k, ping_interval_s=0.0453 + 0.0031 * k) for k in range(self.others))
        return KnownHole(
            self.depth_m, bottom_kind=self.bottom_kind, clarity=self.clarity, light="day", liveliness="some",
            fish_length_m=self.fish_length_m, neighbours=near,
        )  # fmt: skip


@dataclass(frozen=True)
class Worth:
    """What a capability is worth: the number without it, with it, and of one's own unit; how much that is (0 to 1)."""

    capability: str
    words: str
    verdict: Verdict
    share: float
    without: Quantity
    with_it: Quantity
    own: Quantity | None
    has: bool
    why: Sentence


@dataclass(frozen=True)
class _Measure:
    """Something that a capability may better: how it is measured, in what, whether less of it is better, the change
    that counts in full (common practice, no source), and what is said of it."""

    of: Callable[[_Taken], float]
    unit: QuantityUnit
    less: bool
    matters: float
    said: str

    def share(self, without: float, with_it: float, there: _Taken) -> float:
        """How much the change is worth, 0 to 1. What lies below the bottom of a water is worth nothing there; to show
        the lure where it hangs, where it else would be lost, is worth all."""
        if self.of is _lost_below:
            if without < there.card.lure_depth_m <= with_it:
                return 1.0
            deep = there.water.depth_m
            return float(np.clip((min(with_it, deep) - min(without, deep)) / deep, 0.0, 1.0))
        change = without - with_it if self.less else with_it - without
        return float(np.clip(change / self.matters, 0.0, 1.0))


@dataclass(frozen=True)
class _Capability:
    """A capability: what it is, how a plain unit gets it, what it may better, and how a unit shows that it has it."""

    words: str
    better: Callable[[UnitProfile], UnitProfile]
    measures: tuple[_Measure, ...]
    has: Callable[[UnitProfile], bool]
    nothing: str = "In your waters it changes next to nothing."


@dataclass(frozen=True)
class _Taken:
    """A unit taken to a water."""

    card: HoleCard
    water: FishedWater
    lure: Lure

    @property
    def unit(self) -> UnitProfile:
        return self.card.unit

    @property
    def numbers(self) -> Numbers:
        return self.card.numbers


def _full_gap(of: _Taken) -> float:
    """Smallest gap between fish and bottom: of the smallest row that a picture of the bottom has, and the pulse."""
    row = min(one.row_m for one in of.card.views if one.kind != "free window")
    return max(row, _separation(of))


def _free_gap(of: _Taken) -> float:
    """The same at the lure, where a window that follows the bottom may not reach."""
    up = of.card.scene.bottom_depth_m - of.card.lure_depth_m
    rows = [one.row_m for one in of.card.views if one.kind == "full column"]
    rows += [
        max(height / of.unit.rows, 1e-3) for height in of.unit.free_windows_m if height < of.card.scene.bottom_range_m
    ]
    rows += [height / of.unit.rows for height in of.unit.bottom_windows_m if up < height < of.card.scene.bottom_range_m]
    return max(min(rows), _separation(of))


def _separation(of: _Taken) -> float:
    """Half the shortest pulse's length in this water."""
    shortest = min(one.duration_s for one in of.unit.pulses)
    return float(range_resolution(shortest, sound_speed(of.card.scene.temperature_c)))


def _hidden_at_edge(of: _Taken) -> float:
    """How high above the bottom a fish at the cone's edge is hidden, by the narrowest beam."""
    angle = np.radians(min(one.width_deg for one in of.unit.beams)) / 2.0
    return float(of.card.scene.bottom_range_m * (1.0 - np.cos(angle))) + _separation(of) / 2.0


def _seen_across(of: _Taken) -> float:
    """Width of the water at the lure in which the fish is seen, by the widest beam."""
    widest = max(range(len(of.unit.beams)), key=lambda i: of.unit.beams[i].width_deg)
    if widest == of.card.settings.beam:
        return of.numbers.fish_seen_m
    one = replace(of.unit, beams=(of.unit.beams[widest],))
    return hole_card(of.water.known(), one, of.lure).numbers.fish_seen_m


def _neighbours(of: _Taken) -> float:
    """Share of the picture that other units light, in percent."""
    return of.numbers.neighbour_percent if of.water.others else 0.0


def _lost_below(of: _Taken) -> float:
    """The deepest that the lure is shown in such water, by the best of the unit's beams, pulses and powers [m]."""
    narrowest = min(range(len(of.unit.beams)), key=lambda i: of.unit.beams[i].width_deg)
    strongest = max(range(len(of.unit.powers_w)), key=lambda i: of.unit.powers_w[i])
    shortest = min(range(len(of.unit.pulses)), key=lambda i: of.unit.pulses[i].duration_s)
    settings = replace(of.card.settings, power=strongest, beam=narrowest)
    return max(_shown_to(of, replace(settings, pulse=one)) for one in {settings.pulse, shortest})


def _shown_to(of: _Taken, settings: Settings) -> float:
    """The deepest that the lure's gain window is open with these settings [m]."""
    deep = replace(of.card.scene, bottom_depth_m=DEEPEST_TRIED_M + 2.0)
    low, high = of.card.face_depth_m + 0.5, DEEPEST_TRIED_M

    def is_open(depth: float) -> bool:
        range_m = smallest_range(of.unit, min(depth + 2.0, of.unit.ranges_m[-1]))
        limits = situation_at(deep, of.unit, replace(settings, range_m=range_m), of.lure, depth).limits
        return not limits.buried and limits.width_db > 0.0

    if is_open(high):
        return high
    while high - low > 0.25:
        middle = 0.5 * (low + high)
        low, high = (middle, high) if is_open(middle) else (low, middle)
    return low


def _buried_above(of: _Taken) -> float:
    """How far under the face the lure drowns in the transducer's own ringing, at the unit's least power [m]."""
    power = min(range(len(of.unit.powers_w)), key=lambda i: of.unit.powers_w[i])
    settings = replace(of.card.settings, power=power)
    face = of.card.face_depth_m
    for under in np.arange(0.15, 2.5, 0.05):
        depth = face + float(under)
        if depth >= of.card.scene.bottom_depth_m - 0.3:
            break
        if not situation_at(of.card.scene, of.unit, settings, of.lure, depth).limits.buried:
            return float(under)
    return float(under)


def _colours_apart(of: _Taken) -> float:
    """How many colours lie between lure and fish."""
    return float(max(of.numbers.fish_colour - of.numbers.lure_colour, 0))


def _reach(of: _Taken) -> float:
    """How far from the hole something is seen."""
    return of.numbers.fish_seen_m / 2.0


def _feet(*values: float) -> tuple[float, ...]:
    return tuple(one * FOOT for one in values)


GAP = _Measure(_full_gap, "m", True, 0.15, "A fish is told from the bottom {with_it} above it, without it {without}.")
FREE = _Measure(_free_gap, "m", True, 0.15, "Lure and fish part at {with_it}, without it at {without}.")
EDGE = _Measure(
    _hidden_at_edge, "m", True, 0.3, "Beside the hole fish hide {with_it} over the bottom, without it {without}."
)
LOST = _Measure(
    _lost_below, "m", False, 1.0, "Your lure is shown down to {with_it}; without it, it is lost below {without}."
)
PARTS = _Measure(
    _separation, "m", True, 0.15, "Two marks part at {with_it}, without it at {without}, where the rows allow it."
)
SEEN = _Measure(
    _seen_across, "m", False, 12.0, "Fish are seen over {with_it} of water at the lure, without it {without}."
)
OTHERS = _Measure(_neighbours, "percent", True, 10.0, "Others light {with_it} of the picture, without it {without}.")
NEAR = _Measure(_buried_above, "m", True, 0.5, "The lure shows {with_it} under the face, without it {without}.")
COLOURS = _Measure(
    _colours_apart, "count", False, 4.0, "{with_it} colours lie between lure and fish, without it {without}."
)
_AGAIN = (Rejection(1), Rejection(3, 0.85, 0.15), Rejection(5, 0.7, 0.2), Rejection(7, 0.5, 0.3))
NARROW, WIDE = Beam("8 degrees", 200e3, 8.0), Beam("24 degrees", 200e3, 24.0)
CAPABILITIES: dict[str, _Capability] = {
    "bottom window": _Capability(
        "a window that follows the bottom", lambda u: replace(u, bottom_windows_m=_feet(6, 12)), (GAP,),
        lambda u: bool(u.bottom_windows_m),
    ),
    "free window": _Capability(
        "a window put anywhere", lambda u: replace(u, free_windows_m=_feet(6, 12)), (FREE,),
        lambda u: bool(u.free_windows_m),
    ),
    "narrow beam": _Capability(
        "a second, narrow beam (8°)", lambda u: replace(u, beams=(*u.beams, NARROW)), (LOST, EDGE),
        lambda u: min(one.width_deg for one in u.beams) <= 9.5,
    ),
    "wide beam": _Capability(
        "a second, wide beam (24°)", lambda u: replace(u, beams=(*u.beams, WIDE)), (SEEN,),
        lambda u: max(one.width_deg for one in u.beams) >= 18.0,
    ),
    "fine pulse": _Capability(
        "a pulse of 18 microseconds", lambda u: replace(u, pulses=(*u.pulses, Pulse("short", 1.8e-5))), (PARTS, LOST),
        lambda u: min(one.duration_s for one in u.pulses) <= 3e-5,
    ),
    "rejection": _Capability(
        "steps of interference rejection", lambda u: replace(u, rejections=_AGAIN), (OTHERS,),
        lambda u: len(u.rejections) > 1, "You fish alone there, or nearly: there is nobody to be rejected.",
    ),
    "low power": _Capability(
        "low power (10 W)", lambda u: replace(u, powers_w=(10.0, *u.powers_w)), (NEAR,),
        lambda u: min(u.powers_w) <= 30.0,
        "It shows no more of the lure here; it troubles others less.",
    ),
    "more power": _Capability(
        "twice the power", lambda u: replace(u, powers_w=(*u.powers_w, 2.0 * max(u.powers_w))), (LOST,),
        lambda u: max(u.powers_w) >= 100.0,
        "The water itself limits what is seen here, and more power lights that up as well.",
    ),
    "more colours": _Capability(
        "six colours", lambda u: replace(u, ladders=(ladders.SIX_STEP,)), (COLOURS,),
        lambda u: max(len(one.steps) for one in u.ladders) >= 5,
    ),
}  # fmt: skip


def worth(
    waters: Sequence[FishedWater],
    lure: Lure,
    own: UnitProfile | None = None,
    tell: Callable[[float], None] = lambda share: None,
) -> list[Worth]:
    """What each capability is worth in one's waters, most first, beside what one's own unit does.

    A number is of the water in which the capability does most. Raises ValueError where there is no water, or one is
    deeper than the largest range.
    """  # fmt: skip
    if not waters:
        raise InputError("waters is empty: at least one water is needed")
    plain = [_Taken(hole_card(one.known(), PLAIN, lure), one, lure) for one in waters]
    mine = [] if own is None else [_Taken(hole_card(one.known(), own, lure), one, lure) for one in waters]
    found: list[Worth] = []
    known: dict[tuple[object, int], float] = {}  # what was measured on the plain unit already
    for k, (name, one) in enumerate(CAPABILITIES.items()):
        better = one.better(PLAIN)
        richer = [_Taken(hole_card(x.known(), better, lure), x, lure) for x in waters]
        found.append(_worth(name, one, plain, richer, mine, known))
        tell((k + 1) / (len(CAPABILITIES) + 1))
    found += _search(plain, waters, own)
    return sorted(found, key=lambda one: -one.share)


def _worth(
    name: str,
    one: _Capability,
    plain: Sequence[_Taken],
    richer: Sequence[_Taken],
    mine: Sequence[_Taken],
    known: dict[tuple[object, int], float],
) -> Worth:
    """By the measure and in the water in which it does most."""
    found = []
    for measure in one.measures:
        for k, (before, after) in enumerate(zip(plain, richer, strict=True)):
            if (measure.of, k) not in known:
                known[measure.of, k] = measure.of(before)
            without, with_it = known[measure.of, k], measure.of(after)
            found.append((measure.share(without, with_it, before), measure, k, without, with_it))
    share, measure, k, without, with_it = max(found, key=lambda one: one[0])
    verdict = _verdict(share)
    values = {"without": Quantity(without, measure.unit), "with_it": Quantity(with_it, measure.unit)}
    said = one.nothing if verdict == "you gain nothing" else measure.said
    own = Quantity(measure.of(mine[k]), measure.unit) if mine else None
    has = bool(mine) and one.has(mine[k].unit)
    return Worth(
        name, one.words, verdict, share, values["without"], values["with_it"], own, has, Sentence(said, values)
    )


def _verdict(share: float) -> Verdict:
    if share < NOTHING:
        return "you gain nothing"
    return "a little" if share < LITTLE else "much" if share < MUCH else "you should not be without it"


def _search(plain: Sequence[_Taken], waters: Sequence[FishedWater], own: UnitProfile | None) -> list[Worth]:
    """What is no matter of the picture under the hole: finding the hole, and finding the range."""
    reach = float(np.median([_reach(one) for one in plain]))
    deep = float(np.median([one.depth_m for one in waters]))
    found = []
    for name, words, said in (
        ("turns", "a sonar that turns round the hole",
         "From one hole you see {without} to each side; one that turns, the bed from about {deep} out to {with_it}."),
        ("ahead", "a sonar that looks ahead",
         "From one hole you see {without} to each side; one that looks ahead shows a strip out to {with_it}."),
    ):  # fmt: skip
        # Finding the hole is another job than reading it: worth much to some, and nobody's need.
        share = float(np.clip(1.0 - max(reach, deep) / SEARCHED_M, 0.0, MUCH - 0.01))
        values = {"without": Quantity(reach, "m"), "with_it": Quantity(SEARCHED_M, "m"), "deep": Quantity(deep, "m")}
        found.append(
            Worth(name, words, _verdict(share), share, values["without"], values["with_it"], None, False,
                  Sentence(said, values))
        )  # fmt: skip
    ranges = len({smallest_range(PLAIN, one.card.scene.bottom_range_m) for one in plain})
    share = min((ranges - 1) / 8.0, 1.0)  # eight turns of the knob in a day count in full. Common practice, no source
    values = {"without": Quantity(ranges, "count"), "with_it": Quantity(1, "count")}
    said = "Your waters want {without} ranges: it saves turning the knob from hole to hole."
    if ranges == 1:
        said = "One range serves all your waters."
    found.append(
        Worth("automatic range", "a range that sets itself", _verdict(share), share, values["without"],
              values["with_it"], None, own is not None and own.auto_range, Sentence(said, values))
    )  # fmt: skip
    return found


@dataclass(frozen=True)
class Cone:
    """A cone at a depth: how wide it is at lure and bottom, where lure and fish are seen, how high a fish at its edge
    is hidden [m], what is left between lure and noise [dB], how much of the picture others light [percent]."""

    width_deg: float
    at_lure_m: float
    at_bottom_m: float
    lure_seen_m: float
    fish_seen_m: float
    hidden_m: float
    window_db: float | None
    neighbour_percent: float


CONES_DEG = (6.0, 8.0, 10.0, 12.0, 16.0, 20.0, 24.0, 30.0)


def cones(water: FishedWater, lure: Lure) -> list[Cone]:
    """Which cone for a water: each width on the same plain unit, narrowest first."""
    found = []
    for width in CONES_DEG:
        unit = replace(PLAIN, beams=(Beam(f"{width:g} degrees", 200e3, width),))
        card = hole_card(water.known(), unit, lure)
        n = card.numbers
        found.append(
            Cone(width, n.cone_at_lure_m, n.cone_at_bottom_m, n.lure_seen_m, n.fish_seen_m, n.dead_zone_edge_m,
                 card.gains.width_db, n.neighbour_percent if water.others else 0.0)
        )  # fmt: skip
    return found
