"""Tuning: the gain window, the seen zone, and verdicts on the settings, each with its number and its reason.

The floor of the gain window is the lowest gain that still shows the lure; its ceiling the highest before open water
lights up. Both come from the sonar equation for the unit in hand, by the same terms that make the picture.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from . import beam, picture, receiver
from . import unit as units
from .checks import Floats
from .ping import Transmission, target_echo_level
from .scene import JIG_FLUCTUATION_DB, Lure, Scene
from .targets import fish_target_strength
from .unit import Settings, UnitProfile

# The lure shows at the floor in 98 of 100 pings: 2.05 standard deviations of its fluctuation.
FLOOR_MARGIN_DB = 2.05 * JIG_FLUCTUATION_DB
CEILING_SHARE = 0.02  # share of open-water cells that may light
LEAN_SHARE = 0.25  # how far into the window advice goes: as low as the lure allows, with a little in hand


@dataclass(frozen=True)
class GainWindow:
    """The span of gain in which the lure shows and the water does not, in the unit's own numbers.

    floor, ceiling      not rounded; floor above ceiling means that the window is closed, by `-width_db`; the floor is
                        infinite while the lure is not below the face
    advised             the gain to use, on a knob step
    buried              the lure lies in an echo stronger than its own (bottom, ring-down), whatever the gain
    """

    floor: float
    ceiling: float
    advised: float
    width_db: float
    buried: bool


def open_water_cells(t: Transmission, unit: UnitProfile, shown: picture.Window) -> NDArray[np.bool_]:
    """Which picture rows show open water, shape (rows,): volume and noise make up most of the echo in every bin."""
    clear = t.open_water >= 0.5 * (t.diffuse + t.steady)
    past_bottom = np.flatnonzero(t.steady > t.open_water)
    if past_bottom.size:
        clear[past_bottom[0] :] = False
    starts = picture.row_starts(shown.top_m, shown.bottom_m, unit.rows, t.bin_m, t.bin_range_m.size)
    return np.logical_and.reduceat(clear, starts[:-1])


def lit_share(t: Transmission, unit: UnitProfile, shown: picture.Window, first_colour_db: float) -> float:
    """Expected share of open-water cells that light when `first_colour_db` lights the first colour; 0 without any.

    The intensity of reverberation is exponential, so a bin of mean m stays dark under T with 1 - exp(-T/m), and a row
    stays dark when all its bins do.
    """
    cells = open_water_cells(t, unit, shown)
    if not cells.any():
        return 0.0
    threshold = 10.0 ** (first_colour_db / 10.0)
    dark = np.log1p(-np.exp(-np.maximum(threshold / t.open_water, 1e-9)))
    starts = picture.row_starts(shown.top_m, shown.bottom_m, unit.rows, t.bin_m, t.bin_range_m.size)
    end = max(int(starts[-1]), int(starts[-2]) + 1)
    return float(np.mean(1.0 - np.exp(np.add.reduceat(dark[:end], starts[:-1])[cells])))


def gain_window(
    t: Transmission,
    unit: UnitProfile,
    settings: Settings,
    lure: Lure,
    lure_depth_m: float,
    shown: picture.Window,
) -> GainWindow:
    """The gain window for `lure` straight below the hole at `lure_depth_m` [m below the surface].

    Floor: the lure shows in 98 of 100 pings. Ceiling: 2 of 100 open-water cells light, over the water shown.
    """
    scale = unit.gain
    level = target_echo_level(t, lure.target_strength(t.frequency_hz, t.sound_speed_m_s), lure_depth_m)
    floor = scale.position(scale.first_colour_db - (level - FLOOR_MARGIN_DB)) if np.isfinite(level) else np.inf
    if open_water_cells(t, unit, shown).any():
        # Halving the span is all a falling function needs; scipy's root finders would add half a second to every start.
        bright, dark = 0.0, 220.0
        while dark - bright > 0.01:
            middle = (bright + dark) / 2.0
            if lit_share(t, unit, shown, middle) > CEILING_SHARE:
                bright = middle
            else:
                dark = middle
        ceiling = scale.position(scale.first_colour_db - dark)
    else:
        ceiling = scale.maximum
    return GainWindow(
        floor=floor,
        ceiling=ceiling,
        advised=_advised(unit, floor, ceiling),
        width_db=scale.decibels(ceiling) - scale.decibels(floor),
        buried=_buried(t, level, lure_depth_m),
    )


def _advised(unit: UnitProfile, floor: float, ceiling: float) -> float:
    """The lowest knob step a quarter into the window; with the window closed, the first step that shows the lure."""
    scale = unit.gain
    if np.isfinite(floor):
        floor = max(floor, scale.minimum)  # a loud lure may show below where the knob begins
        wanted = floor + LEAN_SHARE * max(ceiling - floor, 0.0)
    else:  # no lure in the beam to show: quiet water is all there is to ask for
        wanted, floor = scale.position(scale.decibels(ceiling) - 3.0), scale.minimum
    steps = np.ceil((wanted - scale.minimum) / scale.step - 1e-9)
    inside = np.floor((ceiling - scale.minimum) / scale.step)  # the last step under the ceiling
    if steps > inside and scale.minimum + inside * scale.step >= floor:
        steps = inside
    return float(np.clip(scale.minimum + steps * scale.step, scale.minimum, scale.maximum))


def _buried(t: Transmission, level_db: float, depth_m: float) -> bool:
    """Whether anything but open water answers as loud as the lure in the first half of the lure's own pulse."""
    at = int((depth_m - t.face_depth_m) / t.bin_m)
    if not 0 <= at < t.bin_range_m.size:
        return at < 0
    pulse = slice(at, at + max(int(0.5 * t.resolution_m / t.bin_m), 1) + 1)
    background = (t.diffuse + t.steady - t.open_water)[pulse]
    return bool(background.max() > 10.0 ** (level_db / 10.0))


def seen_radius(t: Transmission, target_strength_db: float, first_colour_db: float, depth_m: Floats) -> Floats:
    """How far off the axis [m] a target is seen, at each of `depth_m` [m below the surface], same shape; 0 for not.

    Inside the main lobe, by the target's mean echo. More gain widens it: a nominal cone is only one such lobe.
    """
    below = np.maximum(depth_m - t.face_depth_m, 0.0)
    radius: Floats = np.zeros_like(below)
    # The slant adds to the loss as the target moves off; thrice round settles it to millimetres.
    for _ in range(3):
        r = np.maximum(np.hypot(below, radius), 0.05)
        on_axis = t.source_level_db + target_strength_db - 40.0 * np.log10(r) - 2.0 * t.absorption_db_m * r
        spare = on_axis - first_colour_db
        angle = beam.off_axis_at_level(-np.clip(spare, 0.0, 400.0) / 2.0, t.ka)
        radius = np.where(spare > 0.0, below * np.tan(angle), 0.0)
    return radius


def dead_zone_top(scene: Scene, resolution_m: float, offset_m: Floats) -> Floats:
    """Depth [m below the surface] below which a target `offset_m` aside is hidden in the bottom echo; same shape.

    Its echo must be over, one pulse length after it began, before the first bottom arrival. Source: the geometry of
    Ona and Mitson 1996, ICES J. Mar. Sci. 53, 677.
    """
    reach = max(scene.bottom_range_m - resolution_m, 0.0)
    return scene.face_depth_m + np.sqrt(np.maximum(reach**2 - np.asarray(offset_m, dtype=np.float64) ** 2, 0.0))


@dataclass(frozen=True)
class Quantity:
    """A value with its unit: "m" lengths, "gain" the unit's knob, "dB", "percent", "colours" a count."""

    value: float
    unit: str


@dataclass(frozen=True)
class Change:
    """One change of the settings: the field of `Settings` and the value to give it."""

    setting: str
    value: float


@dataclass(frozen=True)
class Verdict:
    """One finding about the settings. `{names}` in the two sentences stand for `values`, written out at the face.

    severity   larger is worse; the coach speaks of the worst alone
    """

    code: str
    severity: float
    finding: str
    reason: str
    values: dict[str, Quantity] = field(default_factory=dict)
    change: Change | None = None


def verdicts(
    t: Transmission,
    scene: Scene,
    unit: UnitProfile,
    settings: Settings,
    lure: Lure,
    lure_depth_m: float,
    shown: picture.Window,
) -> tuple[Verdict, ...]:
    """What is wrong with the settings, worst first; empty when there is nothing to change.

    Three so far: the lure is lost, the water is too bright, the range is not the smallest that fits.
    """
    limits = gain_window(t, unit, settings, lure, lure_depth_m, shown)
    found = [
        _range_verdict(scene, unit, settings, limits),
        _lure_verdict(scene, unit, settings, lure_depth_m, limits),
        _water_verdict(t, unit, settings, limits, shown),
    ]
    return tuple(sorted((v for v in found if v is not None), key=lambda v: -v.severity))


def _lure_verdict(
    scene: Scene, unit: UnitProfile, settings: Settings, lure_depth_m: float, limits: GainWindow
) -> Verdict | None:
    """The lure does not show, for want of gain or because a stronger echo covers it."""
    depth = Quantity(lure_depth_m, "m")
    if lure_depth_m <= scene.face_depth_m + 0.05:
        return None  # not lowered yet: nothing to lose
    if limits.buried:
        near_bottom = lure_depth_m > scene.bottom_depth_m - 1.0
        return Verdict(
            "lure buried",
            2.5,
            "Your lure at {depth} is inside the bottom echo."
            if near_bottom
            else "Your lure at {depth} is inside the ringing under the transducer.",
            "The bottom answers louder than the lure, so no gain can part them. Lift it a little."
            if near_bottom
            else "The transducer still rings from its own pulse up there. Lower the lure below it.",
            {"depth": depth},
        )
    if settings.gain >= limits.floor:
        return None
    short_db = unit.gain.decibels(limits.floor) - unit.gain.decibels(settings.gain)
    needed = unit.gain.minimum + np.ceil((limits.floor - unit.gain.minimum) / unit.gain.step - 1e-9) * unit.gain.step
    values = {
        "depth": depth,
        "needed": Quantity(float(needed), "gain"),
        "gain": Quantity(settings.gain, "gain"),
        "short": Quantity(short_db, "dB"),
    }
    if needed > unit.gain.maximum:
        return Verdict(
            "lure lost",
            3.0,
            "Your lure is lost at {depth}, and gain alone cannot show it.",
            "It would need gain {needed}, more than this unit has. A larger lure is what helps.",
            values,
        )
    return Verdict(
        "lure lost",
        3.0 + short_db / 100.0,
        "Your lure is lost at {depth}. It needs gain {needed} or more; you are at {gain}.",
        "Its echo is {short} too weak to light the first colour in nearly every ping.",
        values,
        Change("gain", limits.advised),
    )


def _water_verdict(
    t: Transmission, unit: UnitProfile, settings: Settings, limits: GainWindow, shown: picture.Window
) -> Verdict | None:
    """Open water lights up."""
    if settings.gain <= limits.ceiling:
        return None
    share = 100.0 * lit_share(t, unit, shown, receiver.first_colour_level(unit, settings))
    values = {
        "share": Quantity(share, "percent"),
        "ceiling": Quantity(limits.ceiling, "gain"),
        "gain": Quantity(settings.gain, "gain"),
    }
    closed = bool(np.isfinite(limits.floor) and limits.width_db < 0.0)
    if closed:
        values |= {"floor": Quantity(limits.floor, "gain"), "closed": Quantity(-limits.width_db, "dB")}
    if settings.gain <= limits.advised:
        # Gain cannot mend it: less would lose the lure, or there is no less. Said last, for other things can be mended.
        return Verdict(
            "window closed",
            0.4,
            "No gain shows this lure in quiet water: the window is closed by {closed}."
            if closed
            else "The water lights at {ceiling}, and gain {gain} is the least that will do here.",
            "The water lights at {ceiling} and the lure needs {floor}. A larger lure or a lesser depth opens it."
            if closed
            else "The window is narrower than one step of the knob, or lies below its end.",
            values,
        )
    change = Change("gain", limits.advised)
    if closed:
        return Verdict(
            "water too bright",
            2.0,
            "The water is too bright: {share} of it lights up. The lure needs {floor} and no more.",
            "The window is closed by {closed} here, so take the least gain that still shows the lure.",
            values,
            change,
        )
    return Verdict(
        "water too bright",
        2.0,
        "The water is too bright: {share} of it lights up. The ceiling is {ceiling}; you are at {gain}.",
        "Every speck in the water now reaches the first colour, and a fish can hide among them.",
        values,
        change,
    )


def _range_verdict(scene: Scene, unit: UnitProfile, settings: Settings, limits: GainWindow) -> Verdict | None:
    """The range is not the smallest that holds the bottom."""
    fits = units.smallest_range(unit, scene.bottom_range_m)
    if settings.range_m == fits:
        return None
    values = {
        "range": Quantity(settings.range_m, "m"),
        "fits": Quantity(fits, "m"),
        "bottom": Quantity(scene.bottom_range_m, "m"),
        "row": Quantity(settings.range_m / unit.rows, "m"),
        "row_then": Quantity(fits / unit.rows, "m"),
    }
    if settings.range_m < fits:
        return Verdict(
            "range too small",
            4.0,
            "The range stops at {range}, short of the bottom at {bottom}. Take {fits}.",
            "Without the bottom in the picture you cannot tell where the lure is in the column.",
            values,
            Change("range_m", fits),
        )
    return Verdict(
        "range larger than needed",
        0.5,
        "The range is {range}; {fits} still holds the bottom at {bottom}.",
        "One picture row now stands for {row} of water. At the smaller range it is {row_then}, so marks are taller.",
        values,
        Change("range_m", fits),
    )


def fish_seen_radius(t: Transmission, length_m: float, first_colour_db: float, depth_m: Floats) -> Floats:
    """How far off the axis [m] a fish of `length_m` [m] is seen at each of `depth_m` [m], same shape. Love 1971."""
    strength = float(fish_target_strength(length_m, t.frequency_hz))
    return seen_radius(t, strength, first_colour_db, depth_m)
