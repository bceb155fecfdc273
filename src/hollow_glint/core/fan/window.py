"""The gain window of a fan: the lowest gain that shows this lure and this fish there, the highest before water lights.

As on the Bench, but a place in the fan has an angle too: what steering costs there is part of the answer, so in the
strip where two sub-arrays meet the floor is higher. Everything follows from the same means that the picture is made of.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Final, Literal

import numpy as np

from ..acoustics import beam, sonar_equation, targets
from ..checks import Floats
from ..fields import OneOf, Span, check_fields, doc
from ..gear.lures import USUAL_JIG, Lure
from ..search.sweep import FIRST_DB, evening_db
from .beams import angle_number, two_way
from .frame import ping_interval
from .head import FanHang, FanHead, in_fan
from .picture import CLUTTER_DB, DAMPING_DB, STEPS
from .settings import FanSettings
from .water import BINS, FanWater, leaves_hole

Liking = Literal["clean", "rich"]
LIKINGS: Final[dict[Liking, str]] = {
    "clean": "clean: little more than what one looks for", "rich": "rich: all that there is, to sort out oneself",
}  # fmt: skip
# A fish flickers: so far above the first colour it is seen in three frames of four (an exponential law's quartile).
SURE_DB: Final = float(-10.0 * np.log10(-np.log(0.75)))
LURE_SURE_DB: Final = 1.5  # a lure hardly does
# Water counts as lit when more than one cell in twenty is: so far its mean lies below the first colour then.
LIT_SHARE: Final = 0.05
SPECKLE_DB: Final = float(10.0 * np.log10(-np.log(LIT_SHARE)))
SHARE_OF: Final[dict[Liking, float]] = {"clean": 0.25, "rich": 0.85}  # of the window, from its floor. Ours


@dataclass(frozen=True)
class Sought:
    """What one wants to see, and where it is thought to be: along the fan's plane, counted from the hole."""

    lure: Lure = USUAL_JIG
    lure_ahead_m: Annotated[float, Span(-30.0, 30.0, "m"), doc("Where the lure hangs, ahead of the head")] = 0.0
    lure_aside_m: Annotated[float, Span(-30.0, 30.0, "m"), doc("And to its right")] = 0.0
    lure_depth_m: Annotated[float, Span(0.2, 60.0, "m")] = 5.0
    fish_m: Annotated[float, Span(0.05, 1.5, "m"), doc("How long the fish is")] = 0.3
    away_m: Annotated[float, Span(1.0, 60.0, "m"), doc("How far ahead the fish is looked for")] = 20.0
    fish_depth_m: Annotated[float, Span(0.2, 60.0, "m")] = 5.0
    liking: Annotated[Liking, OneOf(LIKINGS)] = "clean"

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class FanWindow:
    """The window [dB of the gain's own numbers]: from what shows lure and fish to where the water lights up.

    ceiling_by   what lights first: the water, or what is heard a ping late
    advised      within it, by how clean a picture one likes; at the ceiling where there is no window
    fish_over_water_db   how far the fish stands out of the water round it: below nothing no gain shows it
    """

    lure_floor: float
    fish_floor: float
    ceiling: float
    ceiling_by: Literal["water", "repeats"]
    advised: float
    fish_over_water_db: float

    @property
    def floor(self) -> float:
        """The lowest gain that shows the lure and the fish."""
        return max(self.lure_floor, self.fish_floor)

    @property
    def is_open(self) -> bool:
        """Whether any gain shows both and keeps the water dark."""
        return self.floor <= self.ceiling


def fish_strength_db(length_m: float, steep_rad: float, frequency_hz: float) -> float:
    """Mean target strength [dB re 1 m^2] of a fish seen so steeply from above, whichever way it swims."""
    turned = np.linspace(0.0, np.pi, 36, endpoint=False)
    side = float((10.0 ** (np.asarray(targets.fish_target_strength_at_aspect(length_m, turned)) / 10.0)).mean())
    above = 10.0 ** (float(targets.fish_target_strength(length_m, frequency_hz)) / 10.0)
    return float(10.0 * np.log10(side * np.cos(steep_rad) ** 2 + above * np.sin(steep_rad) ** 2))


def beam_loss_db(
    here: FanWater, head: FanHead, hang: FanHang, place: tuple[float, float, float]
) -> tuple[float, float, float]:
    """For a place ahead, to the right and deep [m]: what angle and thickness cost in the beam that hears it best, out
    and back [dB, 0 and less]; its range [m]; and its angle from the fan's middle [degrees]."""
    turn = np.radians(hang.looks_deg)
    ahead, right, deep = place
    east, north = ahead * np.sin(turn) + right * np.cos(turn), ahead * np.cos(turn) - right * np.sin(turn)
    r, angle, off = in_fan(hang, np.array([east]), np.array([north]), np.array([deep - hang.depth_m]))
    middle = angle - np.radians(hang.axis_deg)
    pattern = two_way(head, here.sound_speed_m_s / head.frequency_hz)[angle_number(middle)[0]].max()
    beside = beam.line_amplitude(off, head.thickness_deg)[0] ** 4
    let_out = leaves_hole(hang, angle)[0]
    loss = 10.0 * np.log10(max(float(pattern) * float(beside) * float(let_out), 1e-12))
    return loss, float(r[0]), float((np.degrees(middle[0]) + 180.0) % 360.0 - 180.0)


def shown_db(here: FanWater, settings: FanSettings, strength_db: float, range_m: float, loss_db: float) -> float:
    """How loud something is in the picture's own measure: evened, damped, before gain [dB below what is sent]."""
    lost = 2.0 * float(sonar_equation.transmission_loss(range_m, here.absorption_db_m))
    level = strength_db - lost + loss_db + float(evening_db(np.array([range_m]), here.absorption_db_m)[0])
    return level - damped_db(settings, range_m)


def damped_db(settings: FanSettings, range_m: float) -> float:
    """What damping takes at a range [dB]."""
    if settings.damping_m <= 0.0:
        return 0.0
    return DAMPING_DB * max(1.0 - range_m / settings.damping_m, 0.0)


def first_gain(settings: FanSettings, shown: float, sure_db: float) -> float:
    """The gain at which something so loud is surely seen, with the weak end left dark as it is set."""
    return -FIRST_DB - shown + sure_db + settings.weak_steps * settings.strong_db / STEPS


def lit_gain(here: FanWater, settings: FanSettings, levels: Floats) -> float:
    """The gain at which the brightest of these means (beams, BINS) begins to light cells here and there."""
    even = evening_db(here.range_m, here.absorption_db_m)
    seen = 10.0 * np.log10(np.maximum(levels, 1e-3)) + even - here.source_db
    damped = np.array([damped_db(settings, float(r)) for r in here.range_m])
    # Beams on the normal of their sub-array hear more of it than those far off.
    brightest = float((np.quantile(seen, 0.9, axis=0) - damped)[here.range_m > 1.0].max())
    return first_gain(settings, brightest, -SPECKLE_DB)


def repeats_gain(here: FanWater, settings: FanSettings) -> float:
    """The gain at which what is heard a ping late lights a spot of open water; 1000 where it never does."""
    if settings.repeats:
        return 1000.0
    late = round(ping_interval(here.reach_m, here.sound_speed_m_s) * here.sound_speed_m_s / 2.0 / here.bin_m)
    if late >= 2 * BINS:
        return 1000.0
    heard = np.zeros_like(here.mean)
    heard[:, : 2 * BINS - late] = here.beyond[:, late - BINS :]
    # Where the bed or its arc is brighter it lights nothing new.
    alone = heard > 2.0 * here.mean
    if alone.sum() < 12:
        return 1000.0
    even = evening_db(here.range_m, here.absorption_db_m)
    shown = (10.0 * np.log10(np.maximum(heard, 1e-3)) + even - here.source_db)[alone]
    return first_gain(settings, float(np.quantile(shown, 0.9)), 0.0)


def gain_window(here: FanWater, head: FanHead, hang: FanHang, settings: FanSettings, sought: Sought) -> FanWindow:
    """The window for a lure and a fish at their places, as the head hangs and is set in this water."""
    loss, away, _ = beam_loss_db(here, head, hang, (sought.lure_ahead_m, sought.lure_aside_m, sought.lure_depth_m))
    lure = sought.lure.target_strength(head.frequency_hz, here.sound_speed_m_s)
    lure_floor = first_gain(settings, shown_db(here, settings, lure, away, loss), LURE_SURE_DB)
    # A fish may be in the middle of its beam or of a strip; the middle of a sub-array is meant.
    off_m = float(np.hypot(sought.away_m, sought.fish_depth_m - hang.depth_m))
    steep = float(np.arcsin(np.clip((sought.fish_depth_m - hang.depth_m) / off_m, -1.0, 1.0)))
    fish_loss, r, _ = beam_loss_db(here, head, hang, (sought.away_m, 0.0, sought.fish_depth_m))
    strength = fish_strength_db(sought.fish_m, steep, head.frequency_hz)
    fish = shown_db(here, settings, strength, r, fish_loss)
    fish_floor = first_gain(settings, fish, SURE_DB)
    water, repeats = lit_gain(here, settings, here.open), repeats_gain(here, settings)
    if settings.clutter >= 2:  # what is left of the water then is less than one cell in twenty, or near it
        water = 1000.0
    ceiling = min(water, repeats, 70.0)
    number = min(int(r / here.bin_m), BINS - 1)
    even = float(evening_db(np.array([r]), here.absorption_db_m)[0])
    around = 10.0 * np.log10(float(np.median(here.open[:, number]))) + even - here.source_db - damped_db(settings, r)
    over = fish - SURE_DB - around - CLUTTER_DB * settings.clutter
    floor = max(lure_floor, fish_floor)
    share = SHARE_OF[sought.liking]
    advised = floor + share * (ceiling - floor) if floor <= ceiling else ceiling
    return FanWindow(
        lure_floor, fish_floor, ceiling, "repeats" if repeats < water else "water",
        float(np.clip(advised, 0.0, 70.0)), over,
    )  # fmt: skip


def smallest_fish(here: FanWater, head: FanHead, hang: FanHang, settings: FanSettings, away_m: float) -> float | None:
    """How short a fish still shows at a distance, in the middle of a sub-array [m]; None where none does."""
    lost = 10.0 * np.log10(float(two_way(head, here.sound_speed_m_s / head.frequency_hz).max()))
    number = min(int(away_m / here.bin_m), BINS - 1)
    even = float(evening_db(np.array([away_m]), here.absorption_db_m)[0])
    around = 10.0 * np.log10(float(np.median(here.open[:, number]))) + even - here.source_db
    for length in np.geomspace(0.02, 1.5, 60):
        shown = shown_db(here, settings, fish_strength_db(float(length), 0.2, head.frequency_hz), away_m, lost)
        if shown > around + CLUTTER_DB and first_gain(settings, shown, SURE_DB) <= settings.gain_db:
            return float(length)
    return None
