"""The hole card: how to hang and set a unit for this hole, this lure and this company, with the numbers behind it.

It is made by the same terms as the picture: the coach is asked, change by change, until it has nothing to change, so
that the card and the Bench never say different things. Then the school decides where in the gain window to stand.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Annotated

import numpy as np

from ..checks import InputError
from ..fields import OneOf, doc
from ..gear.lures import Lure
from ..gear.settings import Settings, starting_settings
from ..gear.unit import PICTURES, UnitProfile
from ..hole.scene import Scene
from ..sonar import transmission
from ..tuning.gain_window import LEAN_SHARE, GainWindow, gain_inside, step_inside
from ..tuning.situation import Situation, situation_at
from ..wording import Quantity, Sentence
from .figures import Numbers, School, numbers_of, school_of
from .knobs import CardView, settled, views_of
from .known_hole import KnownHole
from .remedies import Remedy
from .remedies import remedies as remedies_for

IN_THE_CONE = 0.7  # share of the seen zone within which the second hole is a useful distance away. Common practice


@dataclass(frozen=True)
class Unknown:
    """Something not known: what is assumed, and what it may cost the gain window [dB] if it is otherwise."""

    name: str
    assumed: float | str
    cost_db: Annotated[float, doc("What it may cost the gain window if it is otherwise")]


@dataclass(frozen=True)
class Gains:
    """The gain window in the unit's numbers, and the firm one: what is left of it whatever the unknowns turn out to be.

    floor is None when the lure lies in a stronger echo or out of the beam; open: some knob step lies inside
    sd   how surely floor and ceiling are known from calibration [1 sd, knob numbers]; 0 without
    """

    floor: float | None
    ceiling: float
    firm_floor: float | None
    firm_ceiling: float
    width_db: float | None
    open: bool
    firm: bool
    floor_sd: float
    ceiling_sd: float


@dataclass(frozen=True)
class HoleCard:
    """The card. `settings` are where the knobs go; `float_m` how much cable hangs below the float [m]."""

    at: KnownHole
    unit: UnitProfile
    lure: Lure
    scene: Scene
    lure_depth_m: float
    fish_length_m: float
    settings: Settings
    face_depth_m: Annotated[float, doc("Where to hang the face, below the water's surface")]
    below_ice_m: float
    float_m: Annotated[float, doc("Cable from the float to the face")]
    picture_kind: Annotated[str, OneOf(PICTURES)]
    gains: Gains
    schools: tuple[School, ...]
    views: tuple[CardView, ...]
    numbers: Numbers
    unknowns: tuple[Unknown, ...]
    remedies: tuple[Remedy, ...]
    second_hole_m: float | None
    notes: tuple[Sentence, ...]
    margins_db: Annotated[tuple[float, float], doc("By how much what is not known may move floor and ceiling in")] = (
        0.0,
        0.0,
    )

    @cached_property
    def situation(self) -> Situation:
        """What the coach would look at."""
        fresh = situation_at(self.scene, self.unit, self.settings, self.lure, self.lure_depth_m)
        return replace(fresh, margins_db=self.margins_db)


def hole_card(at: KnownHole, unit: UnitProfile, lure: Lure, second_lure: Lure | None = None) -> HoleCard:
    """The card for `unit` and `lure` at this hole; with a second lure, set by the weaker of the two.

    Raises ValueError when the hole is deeper than the unit's largest range. Sources: those of what it calls; the
    schools and rules are common practice, no source.
    """
    scene, depth = at.scene(), at.lure_at_m
    if scene.bottom_range_m > unit.ranges_m[-1]:
        raise InputError(
            f"depth_m is {at.depth_m:g} m: the largest range of the {unit.name} is {unit.ranges_m[-1]:g} m"
        )
    notes: list[Sentence] = []
    if second_lure is not None:
        lure, notes = _weaker_of(unit, scene, lure, second_lure)
    settings = settled(scene, unit, lure, depth, at)
    views = views_of(at, unit, settings, scene, depth)
    settings = next(one.settings for one in views if one.view == at.view)
    now = situation_at(scene, unit, settings, lure, depth)
    limits = now.limits
    unknowns, margins = _unknowns(at, unit, settings, lure, limits)
    now = replace(now, margins_db=margins)
    limits = now.limits
    gains = _gains(unit, limits)
    settings = replace(settings, gain=_gain(unit, limits, at.school))
    now = replace(now, settings=settings)
    fish = float(at.known("fish_length_m"))
    schools = tuple(
        school_of(name, replace(now, settings=replace(settings, gain=_gain(unit, limits, name))), fish)
        for name in ("lean", "rich")
    )
    views = tuple(replace(one, settings=replace(one.settings, gain=settings.gain)) for one in views)
    numbers = numbers_of(now, fish)
    return HoleCard(
        at=at,
        unit=unit,
        lure=lure,
        scene=scene,
        lure_depth_m=depth,
        fish_length_m=fish,
        settings=settings,
        face_depth_m=at.advised_face_m,
        below_ice_m=at.advised_face_m - at.foot_of_hole_m,
        float_m=at.advised_face_m,
        picture_kind=unit.pictures[0],
        gains=gains,
        schools=schools,
        views=views,
        numbers=numbers,
        unknowns=unknowns,
        remedies=() if gains.open else remedies_for(now),
        second_hole_m=_second_hole(at, numbers) if at.holes == 2 else None,
        notes=tuple(notes),
        margins_db=margins,
    )


def _weaker_of(unit: UnitProfile, scene: Scene, one: Lure, other: Lure) -> tuple[Lure, list[Sentence]]:
    t = transmission.transmit(scene, unit, starting_settings(unit, scene.bottom_range_m))
    strength = [lure.target_strength(t.frequency_hz, t.sound_speed_m_s) for lure in (one, other)]
    weak = one if strength[0] <= strength[1] else other
    values = {"by": Quantity(abs(strength[0] - strength[1]), "dB")}
    return weak, [Sentence(f"Set by the weaker of the two, {weak.name}: it answers {{by}} less.", values)]


def _unknowns(
    at: KnownHole, unit: UnitProfile, settings: Settings, lure: Lure, limits: GainWindow
) -> tuple[tuple[Unknown, ...], tuple[float, float]]:
    """What each unknown may cost, dearest first, and how much [dB] all together draw floor and ceiling in."""
    scale = unit.gain

    def cost(other: KnownHole) -> tuple[float, float]:
        """How far [dB] floor and ceiling move in when it is so."""
        window = situation_at(other.scene(), unit, settings, lure, other.lure_at_m).limits
        up = 0.0
        if np.isfinite(window.floor) and np.isfinite(limits.floor):
            up = max(scale.decibels(window.floor) - scale.decibels(limits.floor), 0.0)
        return up, max(scale.decibels(limits.ceiling) - scale.decibels(window.ceiling), 0.0)

    def worst_of(others: tuple[KnownHole, ...]) -> tuple[float, float]:
        found = [cost(other) for other in others]
        return max(up for up, _ in found), max(down for _, down in found)

    costs = {name: worst_of(others) for name, others in at.could_be().items()}
    found = [Unknown(name, _plain(at.known(name)), sum(costs.get(name, (0.0, 0.0)))) for name in at.unknown()]
    # The firm window is promised whatever they turn out to be, so it is drawn in by the worst of all of them at once.
    worst = [*costs.values(), worst_of(at.at_worst())]
    margins = max(up for up, _ in worst), max(down for _, down in worst)
    return tuple(sorted(found, key=lambda one: -one.cost_db)), margins


def _plain(value: object) -> float | str:
    if isinstance(value, tuple):
        return "none"
    return value if isinstance(value, (float, str)) else str(value)


def _gains(unit: UnitProfile, limits: GainWindow) -> Gains:
    seen = np.isfinite(limits.floor) and not limits.buried
    return Gains(
        floor=float(limits.floor) if seen else None,
        ceiling=limits.ceiling,
        firm_floor=float(limits.firm_floor) if seen else None,
        firm_ceiling=limits.firm_ceiling,
        width_db=limits.width_db if seen else None,
        open=seen and step_inside(unit, limits.floor, limits.ceiling) is not None,
        firm=seen and step_inside(unit, limits.firm_floor, limits.firm_ceiling) is not None,
        floor_sd=limits.floor_sd,
        ceiling_sd=limits.ceiling_sd,
    )


def _gain(unit: UnitProfile, limits: GainWindow, school: str) -> float:
    """Lean stands low in the window, rich at its upper end, where the first fuzz shows; the firm one goes first."""
    found = gain_inside(unit, limits, LEAN_SHARE if school == "lean" else 1.0)
    return limits.advised if found is None else found


def _second_hole(at: KnownHole, numbers: Numbers) -> float | None:
    """How far [m] a second hole may be for the lure in it to stay in the zone; None if the holes would run together."""
    far = 0.5 * IN_THE_CONE * numbers.lure_seen_m
    return far if far >= at.hole_diameter_m + 0.05 else None
