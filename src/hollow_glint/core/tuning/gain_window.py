"""The gain window: the span of gain in which the lure shows and the water does not, in numbers a knob can be set by.

The floor is the lowest gain that still shows the lure; the ceiling the highest before open water lights up. Both come
from the sonar equation for the unit in hand, by the same terms that make the picture.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..acoustics.special import ndtr
from ..checks import Floats
from ..gear.lures import FLUCTUATION_DB, Lure
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..sonar import picture, receiver
from ..sonar.ping import target_echo_level
from ..sonar.transmission import Transmission

# The lure shows at the floor in 98 of 100 pings: 2.05 standard deviations of its fluctuation.
FLOOR_MARGIN_DB = 2.05 * FLUCTUATION_DB
CEILING_SHARE = 0.02  # share of open-water cells that may light
LIT_COUNTS = 2.0  # a lit share of the water weighs so much against showing the lure, where both cannot be had
MOST_TRIED = 40
MOST_STEPS = 60
NEAR_DB, FARTHEST_DB = 8.0, 80.0
SURE_SD = 2.0  # a calibrated unit's window is drawn in by this many standard deviations
LEAN_SHARE = 0.25  # how far into the window advice goes: as low as the lure allows, with a little in hand


@dataclass(frozen=True)
class GainWindow:
    """The span of gain in which the lure shows and the water does not, in the unit's own numbers.

    floor, ceiling      not rounded; floor above ceiling means that the window is closed, by `-width_db`; the floor is
                        infinite while the lure is not below the face
    advised             the gain to use, on a knob step
    buried              the lure lies in an echo stronger than its own (bottom, ring-down), whatever the gain
    firm_floor, firm_ceiling  what is left of it whatever turns out of what is not known
    floor_sd, ceiling_sd  how surely each is known from the unit's calibration [1 sd], 0 for an uncalibrated unit
    """

    floor: float
    ceiling: float
    width_db: float
    buried: bool
    floor_sd: float
    ceiling_sd: float
    firm_floor: float
    firm_ceiling: float
    _advise: Callable[[GainWindow], float] = field(repr=False, compare=False)

    @cached_property
    def advised(self) -> float:
        """Worked out when it is asked for: of a closed window it takes as long as all the rest, and few ask."""
        return self._advise(self)


def open_water_cells(t: Transmission, unit: UnitProfile, shown: picture.Window) -> NDArray[np.bool_]:
    """Which picture rows show open water, shape (rows,): volume and noise make up most of the echo in every bin."""
    clear = t.open_water >= 0.5 * (t.diffuse + t.steady)
    # From the bottom on nothing is open water, however quiet it is there: a rough bottom has no mirror image to end at.
    bed = t.diffuse + t.steady - t.open_water - t.weeds - t.clutter
    past_bottom = np.flatnonzero(bed > t.open_water)
    if past_bottom.size:
        clear[past_bottom[0] :] = False
    return np.logical_and.reduceat(clear, _starts(t, unit, shown)[:-1])


def lit_rows(
    t: Transmission, unit: UnitProfile, settings: Settings, shown: picture.Window, first_colour_db: float, echo: Floats
) -> Floats:
    """Chance that each picture row lights in a ping, shape (rows,), for reverberation of mean intensity `echo` (bins,).

    A row stays dark when all its bins do.
    """
    over = _over_taken_off(t, unit, settings, echo) * 10.0 ** (-first_colour_db / 10.0)
    return _rows_lit(over, unit, settings, _starts(t, unit, shown))


def _over_taken_off(t: Transmission, unit: UnitProfile, settings: Settings, echo: Floats) -> Floats:
    off: Floats = echo * 10.0 ** (-receiver.taken_off(unit, settings, t.bin_range_m) / 10.0)
    return off


def _starts(t: Transmission, unit: UnitProfile, shown: picture.Window) -> NDArray[np.intp]:
    return picture.row_starts(shown.top_m, shown.bottom_m, unit.rows, t.bin_m, t.bin_range_m.size)


def _rows_lit(over: Floats, unit: UnitProfile, settings: Settings, starts: NDArray[np.intp]) -> Floats:
    """Chance that each row lights, from mean intensity over threshold in each bin."""
    end = max(int(starts[-1]), int(starts[-2]) + 1)
    lit = receiver.lit_chance(over[:end], unit, settings)
    dark = np.log1p(-np.minimum(lit, 1.0 - 1e-12))
    rows: Floats = 1.0 - np.exp(np.add.reduceat(dark, starts[:-1]))
    return rows


def lit_share(
    t: Transmission, unit: UnitProfile, settings: Settings, shown: picture.Window, first_colour_db: float
) -> float:
    """Expected share of open-water cells that light when `first_colour_db` lights the first colour; 0 without any."""
    cells = open_water_cells(t, unit, shown)
    if not cells.any():
        return 0.0
    return float(np.mean(lit_rows(t, unit, settings, shown, first_colour_db, t.open_water)[cells]))


def filter_loss(t: Transmission, unit: UnitProfile, settings: Settings) -> float:
    """What the noise filter takes off a single target's peak [dB, 0 or more]: it evens out marks as it does specks."""
    bins = int(unit.noise_filters[settings.noise_filter])
    return float(10.0 * np.log10(t.kernel.max() / np.convolve(t.kernel, np.ones(bins) / bins).max()))


def _raw_level(t: Transmission, lure: Lure, lure_depth_m: float) -> float:
    return target_echo_level(t, lure.target_strength(t.frequency_hz, t.sound_speed_m_s), lure_depth_m)


def lure_level(t: Transmission, unit: UnitProfile, settings: Settings, lure: Lure, lure_depth_m: float) -> float:
    """Level [dB re 1 uPa] of the lure's mark after filter, time-varied gain and blanking, straight below the face."""
    level = _raw_level(t, lure, lure_depth_m)
    if not np.isfinite(level):
        return level
    off = receiver.taken_off(unit, settings, np.array([lure_depth_m - t.face_depth_m]))[0]
    return float(level - off - filter_loss(t, unit, settings))


def gain_window(
    t: Transmission,
    unit: UnitProfile,
    settings: Settings,
    lure: Lure,
    lure_depth_m: float,
    shown: picture.Window,
    margins_db: tuple[float, float] = (0.0, 0.0),
) -> GainWindow:
    """The gain window for `lure` straight below the hole at `lure_depth_m` [m below the surface].

    Floor: the lure shows in 98 of 100 pings. Ceiling: 2 of 100 open-water cells light, over the water shown. What is
    not known of the water draws them in by up to `margins_db`, what the calibration leaves open by SURE_SD of it.
    """
    scale = unit.gain
    # The level that lights the ladder's weakest step with the knob at its minimum.
    at_least = receiver.first_colour_level(unit, replace(settings, gain=scale.minimum))
    level = lure_level(t, unit, settings, lure, lure_depth_m)
    floor = scale.position(at_least - (level - FLOOR_MARGIN_DB)) if level > -receiver.BLANKED_DB / 4 else np.inf
    water = _Water.of(t, unit, settings, shown)
    ceiling = scale.position(at_least - water.threshold_db()) if water.seen else scale.maximum
    floor_sd, ceiling_sd = _sd(unit, floor), _sd(unit, ceiling)
    by = scale.step / scale.db_per_step

    def advise(window: GainWindow) -> float:
        inside = gain_inside(unit, window, LEAN_SHARE)
        if inside is not None:
            return inside
        if np.isfinite(floor):
            return _least_bad(unit, floor, ceiling, at_least, level, water)
        # No lure in the beam to show: quiet water is all there is to ask for.
        quiet = scale.at_or_above(scale.position(scale.decibels(ceiling) - 3.0))
        return float(np.clip(quiet, scale.minimum, scale.maximum))

    return GainWindow(
        floor=floor,
        ceiling=ceiling,
        width_db=scale.decibels(ceiling) - scale.decibels(floor),
        buried=_buried(t, _raw_level(t, lure, lure_depth_m), lure_depth_m),
        floor_sd=floor_sd,
        ceiling_sd=ceiling_sd,
        firm_floor=floor + margins_db[0] * by + SURE_SD * floor_sd,
        firm_ceiling=ceiling - margins_db[1] * by - SURE_SD * ceiling_sd,
        _advise=advise,
    )


def gain_inside(unit: UnitProfile, window: GainWindow, share: float) -> float | None:
    """The knob step `share` of the way into the window, into the firm one where a step lies in it; None without."""
    if not np.isfinite(window.floor):
        return None
    firm = step_inside(unit, window.firm_floor, window.firm_ceiling, share)
    return firm if firm is not None else step_inside(unit, window.floor, window.ceiling, share)


@dataclass(frozen=True, eq=False)
class _Water:
    """The open water of a picture: mean intensity in each bin (bins,), where its rows begin, which of them show it."""

    over: Floats
    starts: NDArray[np.intp]
    cells: NDArray[np.bool_]
    unit: UnitProfile
    settings: Settings

    @classmethod
    def of(cls, t: Transmission, unit: UnitProfile, settings: Settings, shown: picture.Window) -> _Water:
        cells = open_water_cells(t, unit, shown)
        return cls(_over_taken_off(t, unit, settings, t.open_water), _starts(t, unit, shown), cells, unit, settings)

    @property
    def seen(self) -> bool:
        """Whether the picture shows any."""
        return bool(self.cells.any())

    def lit(self, threshold_db: float) -> float:
        """Share of its cells that light when this echo level [dB] lights the first colour."""
        rows = _rows_lit(self.over * 10.0 ** (-threshold_db / 10.0), self.unit, self.settings, self.starts)
        return float(rows[self.cells].mean())

    def threshold_db(self) -> float:
        """The level [dB] that must light the first colour for CEILING_SHARE of the cells to light, to 0.01 dB."""
        # About where it must be: a row lights as often as is allowed some decibels above its own mean level.
        rows = np.maximum.reduceat(self.over, self.starts[:-1])[self.cells]
        guess = 10.0 * float(np.log10(np.quantile(rows, 1.0 - CEILING_SHARE)))
        bright, dark = guess - NEAR_DB, guess + NEAR_DB
        over, under = (self._excess(one) for one in (bright, dark))
        while over <= 0.0 and bright > guess - FARTHEST_DB:
            bright -= NEAR_DB
            over = self._excess(bright)
        while under > 0.0 and dark < guess + FARTHEST_DB:
            dark += NEAR_DB
            under = self._excess(dark)
        # False position, either end's weight halved when it stays (Illinois): scipy's finders would slow every start.
        for _ in range(MOST_STEPS):
            if dark - bright <= 0.01 or over <= 0.0:
                break
            middle = float(np.clip(dark - under * (dark - bright) / (under - over), bright + 0.004, dark - 0.004))
            now = self._excess(middle)
            if abs(now) < 0.005:  # by less than 0.01 dB
                return middle
            if now > 0.0:
                bright, over, under = middle, now, 0.5 * under
            else:
                dark, over, under = middle, 0.5 * over, now
        return dark

    def _excess(self, threshold_db: float) -> float:
        """By how much more than CEILING_SHARE lights, as a logarithm: nearly straight in dB."""
        return float(np.log(max(self.lit(threshold_db), 1e-12) / CEILING_SHARE))


def _least_bad(unit: UnitProfile, floor: float, ceiling: float, at_least: float, level: float, water: _Water) -> float:
    """With no knob step inside the window, the one from which most is to be seen: the share of pings that show the lure
    against LIT_COUNTS times the share of water that lights. Where nothing is to be gained by it, the water stays dark.
    """
    scale = unit.gain
    quiet = float(np.clip(scale.at_or_below(ceiling), scale.minimum, scale.maximum))
    best, gain = 0.0, quiet
    first, last = (float(np.clip(one, scale.minimum, scale.maximum)) for one in (quiet, scale.at_or_above(floor)))
    for step in np.linspace(first, last, min(round((last - first) / scale.step) + 1, MOST_TRIED)):
        one = scale.nearest(float(step))
        threshold = at_least - scale.decibels(one)
        shows = float(ndtr((level - threshold) / FLUCTUATION_DB))
        worth = shows - LIT_COUNTS * (water.lit(threshold) if water.seen else 0.0)
        if worth > best + 1e-6:
            best, gain = worth, one
    return gain


def _sd(unit: UnitProfile, gain: float) -> float:
    if unit.calibrated is None or not np.isfinite(gain):
        return 0.0
    return unit.calibrated.position_sd(unit.gain, gain)


def step_inside(unit: UnitProfile, floor: float, ceiling: float, share: float = 0.0) -> float | None:
    """The knob step `share` of the way into the window, to the next step up while that is inside; None if none is."""
    scale = unit.gain
    low, high = max(floor, scale.minimum), min(ceiling, scale.maximum)
    first, last = scale.at_or_above(low), scale.at_or_below(high)
    if first > last + 1e-9 * scale.step:
        return None
    return float(np.clip(scale.at_or_above(low + share * (high - low)), first, last))


def _buried(t: Transmission, level_db: float, depth_m: float) -> bool:
    """Whether anything but open water answers as loud as the lure in the first half of the lure's own pulse."""
    at = int((depth_m - t.face_depth_m) / t.bin_m)
    if not 0 <= at < t.bin_range_m.size:
        return at < 0
    pulse = slice(at, at + max(int(0.5 * t.resolution_m / t.bin_m), 1) + 1)
    background = (t.diffuse + t.steady - t.open_water)[pulse]
    return bool(background.max() > 10.0 ** (level_db / 10.0))
