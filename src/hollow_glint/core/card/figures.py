"""The numbers behind a hole card: what is seen how far out, in which colour, how fine and how late.

And what a school is worth here.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np

from ..acoustics import beam
from ..acoustics.sonar_equation import max_ping_rate
from ..acoustics.targets import fish_target_strength
from ..checks import Floats
from ..fields import OneOf, doc
from ..gear.settings import Settings, draw, picture_rate
from ..gear.unit import UnitProfile
from ..sonar import picture, ping, receiver
from ..tuning import company, gain_window, seen_zone
from ..tuning.situation import Situation
from .known_hole import SCHOOLS


@dataclass(frozen=True)
class School:
    """What a school gives here: the gain, and what it gains and loses. Diameters and lengths [m], share [percent]."""

    school: Annotated[str, OneOf(SCHOOLS)]
    gain: float
    water_lit_percent: float
    lure_seen_m: float
    fish_seen_m: float
    smallest_fish_m: float
    lure_colour: int


@dataclass(frozen=True)
class Numbers:
    """The numbers behind the card. Lengths [m]; colours are ladder steps, 0 none, on axis and at the cone's edge."""

    true_depth_m: float
    displayed_depth_m: float
    cone_at_lure_m: float
    cone_at_bottom_m: float
    lure_seen_m: Annotated[float, doc("Width of the zone in which the lure is seen, at its depth")]
    fish_seen_m: float
    fish_seen_at_bottom_m: float
    row_m: float
    gap_m: Annotated[float, doc("Smallest gap between two marks")]
    dead_zone_middle_m: float
    dead_zone_edge_m: Annotated[float, doc("Height of the dead zone at the cone's edge")]
    lure_colour: Annotated[int, doc("Step of the ladder that the lure lights on axis; 0 for none")]
    lure_colour_edge: int
    fish_colour: int
    fish_colour_edge: int
    lag_s: float
    ping_rate_hz: float
    neighbour_percent: float
    draw_a: float


def _colour(unit: UnitProfile, settings: Settings, over_first_db: float) -> int:
    """The ladder's step that an echo lights which lies so many dB above the first colour; 0 for none."""
    steps = unit.ladders[settings.ladder].steps
    over = over_first_db + steps[0].begins * unit.colour_step_db
    return int(sum(over >= step.begins * unit.colour_step_db for step in steps))


def _hidden(s: Situation, range_m: float) -> float:
    return float(receiver.taken_off(s.unit, s.settings, np.array([range_m]))[0])


def _over(s: Situation, strength_db: float, depth_m: float, aside_m: float = 0.0) -> float:
    """How far [dB] a target's mean echo lies above the first colour, filter and time-varied gain taken off."""
    t = s.transmission
    level = ping.target_echo_level(t, strength_db, depth_m, aside_m)
    off = _hidden(s, float(np.hypot(depth_m - s.scene.face_depth_m, aside_m)))
    return level - off - gain_window.filter_loss(t, s.unit, s.settings) - s.first_colour()


def seen_across(s: Situation, strength_db: float, depth_m: float) -> float:
    """Diameter [m] of the zone at `depth_m` in which a target of this strength is seen."""
    t = s.transmission
    first = gain_window.filter_loss(t, s.unit, s.settings) + s.first_colour()

    def hidden(r: Floats) -> Floats:
        return receiver.taken_off(s.unit, s.settings, r)

    return 2.0 * float(seen_zone.seen_radius(t, strength_db, first, np.array([depth_m]), hidden)[0])


def school_of(name: str, s: Situation, fish_m: float) -> School:
    t = s.transmission
    lure = s.lure.target_strength(t.frequency_hz, t.sound_speed_m_s)
    fish = float(fish_target_strength(fish_m, t.frequency_hz))
    # Love 1971 the other way about: the length whose mean echo on axis just reaches the first colour.
    short = fish - _over(s, fish, s.lure_depth_m)
    smallest = 0.01 * 10.0 ** ((short + 0.9 * np.log10(t.frequency_hz / 1e3) + 62.0) / 19.1)
    return School(
        name,
        s.settings.gain,
        100.0 * gain_window.lit_share(t, s.unit, s.settings, s.shown, s.first_colour()),
        seen_across(s, lure, s.lure_depth_m),
        seen_across(s, fish, s.lure_depth_m),
        float(smallest),
        _colour(s.unit, s.settings, _over(s, lure, s.lure_depth_m)),
    )


def numbers_of(s: Situation, fish_m: float) -> Numbers:
    t, scene, unit, settings = s.transmission, s.scene, s.unit, s.settings
    lure = s.lure.target_strength(t.frequency_hz, t.sound_speed_m_s)
    fish = float(fish_target_strength(fish_m, t.frequency_hz))
    width = unit.beams[settings.beam].width_deg
    below = max(s.lure_depth_m - scene.face_depth_m, 0.0)
    cone, cone_bottom = (beam.footprint_diameter(m, width) for m in (below, scene.bottom_range_m))
    dead = seen_zone.dead_zone_top(scene, t.resolution_m, np.array([0.0, 0.5 * cone_bottom]))
    rate = picture_rate(unit, settings, max_ping_rate(settings.range_m, t.sound_speed_m_s))

    def colour(strength: float, aside: float) -> int:
        return _colour(unit, settings, _over(s, strength, s.lure_depth_m, aside))

    return Numbers(
        true_depth_m=scene.bottom_depth_m,
        displayed_depth_m=scene.bottom_range_m,
        cone_at_lure_m=cone,
        cone_at_bottom_m=cone_bottom,
        lure_seen_m=seen_across(s, lure, s.lure_depth_m),
        fish_seen_m=seen_across(s, fish, s.lure_depth_m),
        fish_seen_at_bottom_m=seen_across(s, fish, float(dead[0])),
        row_m=picture.row_height(unit, s.zoom),
        gap_m=max(t.separation_m, picture.row_height(unit, s.zoom)),
        dead_zone_middle_m=scene.bottom_depth_m - float(dead[0]),
        dead_zone_edge_m=scene.bottom_depth_m - float(dead[1]),
        lure_colour=colour(lure, 0.0),
        lure_colour_edge=colour(lure, 0.5 * cone),
        fish_colour=colour(fish, 0.0),
        fish_colour_edge=colour(fish, 0.5 * cone),
        lag_s=receiver.lag(unit, settings, rate),
        ping_rate_hz=rate,
        neighbour_percent=100.0 * company.neighbour_share(s, settings),
        draw_a=draw(unit, settings),
    )
