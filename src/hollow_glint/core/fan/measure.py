"""What a touched mark of a fan is: how far along the ice, how deep, how high off the bed, how long, and which way.

A mark's place is the middle of what is brighter than the water round it, in the beams and ranges of the last frames.
How long a fish is follows from two things that disagree with its aspect: swimming along the sound it is drawn long and
answers faintly, square to it it is drawn short and answers loud. So length and aspect are weighed together (Bayes, on a
grid), with what the fan does not tell, how far off its plane the fish is, let open. What smears a mark in any case, the
beam's width and the pulse's length, is taken out first: a picture is wider the farther off.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from ..acoustics import beam, sonar_equation, targets
from ..acoustics.array import half_power_width
from ..checks import Floats, InputError, number
from ..lazily import Lazily
from ..search.course import Fix, SpanOf
from ..search.sweep import evening_db
from ..search.usual import PACE_M
from ..wording import Quantity, Sentence
from .beams import angle_number, two_way
from .head import FanHang, FanHead
from .look import FanFrame, FanLook
from .picture import places, shown_deg
from .settings import FanSettings
from .swimmers import BODY
from .water import FanWater

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

TOUCH_M: Final = 0.9
FRAMES: Final = 8  # that a mark is taken from
OVER_DB: Final = 9.0  # a mark is so much over the water round it
FINGER_DB: Final = 12.0  # what something must stand out more to be meant at the edge of what a finger covers
MOST_TRIED: Final = 4
LONGEST_M: Final = 1.7  # no fish is drawn longer
EDGE_DB: Final = 8.0  # and ends where it is so much below its brightest
LENGTHS: Final = np.geomspace(0.05, 1.5, 90)
ASPECTS: Final = np.linspace(0.0, np.pi / 2.0, 31)
OFF_PLANE: Final = np.linspace(0.0, 0.6, 7)  # of the thickness, that a fish one looks at may be off the plane
LEVEL_SD_DB: Final = 1.8  # of a level that some frames' flicker is averaged in; tuned on seeds from 5000 up
LONG_SD_M, LONG_SHARE = 0.05, 0.22  # of a drawn length: the same
SHARE: Final = 0.95
BED_EACH_SIDE_M: Final = 3.0  # of a mark, in which the bed below it is looked for
RANGE_SD_M, RANGE_SHARE = 0.05, 0.01  # how surely a mark's range tells where the middle of what made it is
NEAR_ENOUGH_M: Final = 2.5  # when it is nearer the head may look down


@dataclass(frozen=True)
class FanMark:
    """A mark: when [s], how far through the water [m], its angle in the plane [degrees from level ahead], how far
    ahead of the head and how deep [m]; how loud [dB re 1 m^2] as if it were in the plane; how long it is drawn along
    the sound with the smear taken out [m]; and how far it stands over the water [dB]."""

    time_s: float
    range_m: float
    angle_deg: float
    ahead_m: float
    depth_m: float
    strength_db: float
    drawn_m: float
    over_db: float


@dataclass(frozen=True)
class Measured:
    """What a touched mark comes to. Nothing is known of `off_bed_m` where no bed is seen below it."""

    mark: FanMark
    along_ice_m: SpanOf
    depth_m: SpanOf
    off_bed_m: float | None
    length_m: SpanOf
    fix: Fix
    to_do: Sentence


def find_mark(look: FanLook, ahead_m: float, depth_m: float) -> FanMark | None:
    """The mark at a place of the picture [m]; None where nothing stands out of the water near it.

    Raises ValueError for a place off the picture.
    """
    settings = look.settings
    number("ahead_m", ahead_m, -settings.behind_m, settings.ahead_m, "m")
    number("depth_m", depth_m, 0.0, settings.deep_m, "m")
    frames = [one for one in look.frames if one.hang == look.hang][-FRAMES:]
    return None if not frames else _mark_in(frames, look.water, look.head, look.hang, settings, ahead_m, depth_m)


def _mark_in(
    frames: Sequence[FanFrame],
    here: FanWater,
    head: FanHead,
    hang: FanHang,
    settings: FanSettings,
    ahead_m: float,
    depth_m: float,
) -> FanMark | None:
    down = depth_m - hang.depth_m
    r, angle = float(np.hypot(ahead_m, down)), float(np.degrees(np.arctan2(down, ahead_m)))
    # All by the picture as it is drawn: a head off level that is not levelled is wrong by just that.
    drawn_deg = shown_deg(head, hang, settings)
    drawn_middle = float(drawn_deg[0] - head.beams_deg[0])
    width = float(np.degrees(half_power_width(head.line, 0.0, here.sound_speed_m_s / head.frequency_hz)))
    step = head.fan_deg / head.beams
    middle = (angle - drawn_middle + head.fan_deg / 2.0) / step - 0.5
    reach_beams = max(np.degrees(TOUCH_M / max(r, 1.0)) / step, 2.0 * width / step)
    rows = np.arange(max(int(middle - 2 * reach_beams) - 4, 0), min(int(middle + 2 * reach_beams) + 5, head.beams))
    columns = np.arange(
        max(int((r - 2 * TOUCH_M) / here.bin_m), 0), min(int((r + 2 * TOUCH_M) / here.bin_m) + 1, here.range_m.size)
    )
    if rows.size < 3 or columns.size < 3:
        return None
    part = np.mean([10.0 ** (one.level_db[np.ix_(rows, columns)].astype(np.float64) / 10.0) for one in frames], axis=0)
    # The water of a range is what all beams near it have in common.
    around = np.median(part, axis=0)
    angles = np.radians(drawn_deg[rows])
    x, z = np.outer(np.cos(angles), here.range_m[columns]), np.outer(np.sin(angles), here.range_m[columns])
    shown = np.radians(angle)
    away = np.hypot(x - r * np.cos(shown), z - r * np.sin(shown))
    over_db = 10.0 * np.log10(np.maximum(part, 1e-3) / around)
    # What a finger means is near it, small, and stands out: not the loudest thing thereabouts, which is often the bed.
    meant = over_db - FINGER_DB * (away / TOUCH_M) ** 2
    left = (away < TOUCH_M) & (over_db >= OVER_DB)
    for _ in range(MOST_TRIED):
        if not left.any():
            return None
        top = np.unravel_index(int(np.where(left, meant, -np.inf).argmax()), part.shape)
        labels, _ = ndimage.label(part > part[top] * 10.0 ** (-EDGE_DB / 10.0))
        mine = labels == labels[top]
        touched_rows, touched_columns = np.nonzero(mine)
        inside = touched_columns.min() > 0 and touched_columns.max() < columns.size - 1
        if inside and np.ptp(touched_rows) < 0.8 * rows.size and np.ptp(touched_columns) * here.bin_m < LONGEST_M:
            break
        left &= ~mine
    else:
        return None
    over = over_db[top]
    weight = np.where(mine, np.maximum(part - around, 0.0), 0.0)
    total = weight.sum()
    range_m = float((weight.sum(axis=0) @ here.range_m[columns]) / total) - _late_m(here)
    angle_deg = float(weight.sum(axis=1) @ drawn_deg[rows] / total)
    return FanMark(
        frames[-1].time_s,
        range_m,
        angle_deg,
        range_m * float(np.cos(np.radians(angle_deg))),
        hang.depth_m + range_m * float(np.sin(np.radians(angle_deg))),
        _strength(here, head, weight.sum(axis=1), rows, range_m, angle_deg - drawn_middle),
        _drawn(weight.sum(axis=0), here.range_m[columns], here),
        float(over),
    )


def _late_m(here: FanWater) -> float:
    """How far behind its place the middle of a point's echo lies [m]: the pulse comes back drawn out."""
    bins = np.arange(here.envelope.size)
    return float(here.envelope @ bins / here.envelope.sum()) * here.bin_m


def _drawn(profile: Floats, range_m: Floats, here: FanWater) -> float:
    """How long a mark is drawn along the sound [m], with what smears a point taken out of it."""
    total = profile.sum()
    middle = profile @ range_m / total
    spread = profile @ (range_m - middle) ** 2 / total
    bins = np.arange(here.envelope.size)
    mean = here.envelope @ bins / here.envelope.sum()
    smear = (here.envelope @ (bins - mean) ** 2 / here.envelope.sum() + 1.0 / 12.0) * here.bin_m**2
    return float(np.sqrt(12.0 * max(spread - smear, 0.0)))


def _strength(
    here: FanWater,
    head: FanHead,
    by_beam: Floats,
    rows: NDArray[np.intp],
    range_m: float,
    from_middle_deg: float,
) -> float:
    """How loud a mark is [dB re 1 m^2], as if in the plane: all of its echo, over what its beams let through."""
    pattern = two_way(head, here.sound_speed_m_s / head.frequency_hz)
    number = angle_number(np.array([np.radians(from_middle_deg)]))[0]
    let = float(pattern[number, rows][by_beam > 0.0].sum())
    total = float(by_beam.sum()) / float(here.envelope.sum()) / max(let, 1e-6)
    lost = 2.0 * float(sonar_equation.transmission_loss(range_m, here.absorption_db_m))
    return float(10.0 * np.log10(max(total, 1e-3))) - here.source_db + lost


def length_span(mark: FanMark, head: FanHead, hang: FanHang) -> SpanOf:
    """How long a fish is [m]: a span that holds it in 95 of 100 cases, and its middle."""
    length, aspect, off = LENGTHS[:, None, None], ASPECTS[:, None], OFF_PLANE
    steep = np.arcsin(np.clip((mark.depth_m - hang.depth_m) / max(mark.range_m, 0.1), -1.0, 1.0))
    side = 10.0 ** (np.asarray(targets.fish_target_strength_at_aspect(length, aspect)) / 10.0)
    above = 10.0 ** (np.asarray(targets.fish_target_strength(length, head.frequency_hz)) / 10.0)
    strength = 10.0 * np.log10(side * np.cos(steep) ** 2 + above * np.sin(steep) ** 2)
    aside = 40.0 * np.log10(beam.line_amplitude(off * np.radians(head.thickness_deg), head.thickness_deg))
    drawn = BODY * length * np.abs(np.cos(aspect)) * np.cos(steep)
    chance = -0.5 * ((mark.strength_db - strength - aside) / LEVEL_SD_DB) ** 2
    spread = np.hypot(LONG_SD_M, LONG_SHARE * drawn)
    chance = chance - 0.5 * ((mark.drawn_m - drawn) / spread) ** 2 - np.log(spread)
    weight = np.exp(chance - chance.max()).sum(axis=(1, 2))
    share = np.cumsum(weight) / weight.sum()
    low, likely, high = (float(np.interp(at, share, LENGTHS)) for at in ((1.0 - SHARE) / 2.0, 0.5, (1.0 + SHARE) / 2.0))
    return SpanOf(low, likely, high)


def bed_below(look: FanLook, mark: FanMark) -> float | None:
    """How deep the bed is under a mark [m], as the picture shows it; None where none is seen."""
    here, hang, head = look.water, look.hang, look.head
    frames = [one for one in look.frames if one.hang == hang][-FRAMES:]
    mean = np.mean([10.0 ** (one.level_db.astype(np.float32) / 10.0) for one in frames], axis=0)
    level = 10.0 * np.log10(mean) + evening_db(here.range_m, here.absorption_db_m)
    ahead, deep = places(here, head, hang, look.settings)
    found = []
    # One column may end in another fish: the bed is what most of those round it agree on.
    for off in np.arange(-BED_EACH_SIDE_M, BED_EACH_SIDE_M + 0.1, 0.5):
        column = (np.abs(ahead - mark.ahead_m - off) < 0.35) & (deep > mark.depth_m + 0.25)
        if column.sum() < 12:
            continue
        order = np.argsort(deep[column])
        levels, depths = level[column][order], deep[column][order]
        evened = ndimage.uniform_filter1d(levels, min(7, levels.size))
        top = float(evened.max())
        if top > np.median(evened) + 6.0:
            # The deepest that is nearly as bright as the brightest: fish hang over the bed, nothing lies under it.
            near = np.flatnonzero(evened > top - 4.0)
            last = np.split(near, np.flatnonzero(np.diff(near) > 8) + 1)[-1]
            found.append(float(depths[last[int(evened[last].argmax())]]))
    return float(np.median(found)) if len(found) >= 3 else None


def fix_of(mark: FanMark, head: FanHead, hang: FanHang) -> Fix:
    """A mark as a fix for a course, by the handle: the fan tells the bearing no better than it is thick."""
    ahead = mark.ahead_m >= 0.0
    return Fix(
        mark.time_s, (hang.aim_deg + (0.0 if ahead else 180.0)) % 360.0, max(mark.range_m, 0.1),
        head.thickness_deg / 4.0, RANGE_SD_M + RANGE_SHARE * mark.range_m,
    )  # fmt: skip


def measured(look: FanLook, ahead_m: float, depth_m: float) -> Measured | None:
    """All that a touched mark tells; None where nothing stands out. Raises ValueError for a place off the picture."""
    mark = find_mark(look, ahead_m, depth_m)
    if mark is None:
        return None
    head, hang = look.head, look.hang
    width = float(half_power_width(head.line, 0.0, look.water.sound_speed_m_s / head.frequency_hz))
    # Half a beam at the worst: a mark's middle is known to about a quarter of one.
    error = max(0.35 * width * mark.range_m, 0.5 * look.water.bin_m)
    off = 0.4 * np.radians(head.thickness_deg)
    aside = mark.range_m * float(np.sin(off))
    far = float(np.hypot(mark.ahead_m, aside))
    along = SpanOf(max(abs(mark.ahead_m) - error, 0.0), float(np.hypot(mark.ahead_m, aside / 2.5)), far + error)
    bed = bed_below(look, mark)
    return Measured(
        mark,
        along,
        SpanOf(max(mark.depth_m - error, 0.0), mark.depth_m, mark.depth_m + error),
        None if bed is None else max(bed - mark.depth_m, 0.0),
        length_span(mark, head, hang),
        fix_of(mark, head, hang),
        _to_do(along.likely, mark, hang),
    )


def _to_do(away_m: float, mark: FanMark, hang: FanHang) -> Sentence:
    """What to do about a mark: walk there, or turn the head down."""
    away = {"away": Quantity(away_m, "m"), "depth": Quantity(mark.depth_m, "m")}
    if hang.mounting == "down" or away_m < max(NEAR_ENOUGH_M, 0.4 * mark.depth_m):
        said = "It is {away} from this hole, {depth} down: " + (
            "put the lure over it." if hang.mounting == "down" else "turn the head down and fish."
        )
        return Sentence(said, away)
    way = "the way the handle points" if mark.ahead_m >= 0.0 else "away from where the handle points"
    paces = {"paces": Quantity(round(away_m / PACE_M), "count"), "degrees": Quantity(hang.aim_deg, "degrees")}
    return Sentence(f"Walk {{away}} {way}, {{paces}} paces, and drill. It is {{depth}} down.", {**away, **paces})


@dataclass(frozen=True)
class TurnTo:
    """How far to turn the handle to have a thing in the plane [degrees, more to the right], and how surely (1 sd)."""

    turn_deg: float
    sd_deg: float


def turn_to(seen: Sequence[tuple[float, float]], head: FanHead, aim_deg: float) -> TurnTo:
    """From levels [dB] of one mark at two aims or more [degrees], by the fan's thickness: where it is brightest.

    Raises ValueError for fewer than two aims that differ.
    """
    aims = np.array([one for one, _ in seen], dtype=np.float64)
    levels = np.array([one for _, one in seen], dtype=np.float64)
    if aims.size < 2 or np.ptp((aims - aims[0] + 180.0) % 360.0 - 180.0) < 1.0:
        raise InputError("seen has one aim: accepted are two or more, a degree or more apart")
    off = (aims - aim_deg + 180.0) % 360.0 - 180.0
    # Where it was loudest it was in the main lobe: beyond that a side lobe could be meant.
    tried = off[levels.argmax()] + np.linspace(-0.9, 0.9, 361) * head.thickness_deg
    pattern = 40.0 * np.log10(beam.line_amplitude(np.radians(off - tried[:, None]), head.thickness_deg))
    rest = levels - pattern
    rest = rest - rest.mean(axis=1, keepdims=True)
    chance = -0.5 * (rest**2).sum(axis=1) / LEVEL_SD_DB**2
    weight = np.exp(chance - chance.max())
    weight /= weight.sum()
    middle = float(weight @ tried)
    return TurnTo(middle, float(np.sqrt(weight @ (tried - middle) ** 2)))


@dataclass(frozen=True)
class Closing:
    """How fast a thing comes nearer along the sound [m/s, less than nothing when it leaves], how surely (1 sd), and in
    words."""

    speed_m_s: float
    sd_m_s: float
    said: Sentence


def closing(seen: Sequence[tuple[float, float]]) -> Closing:
    """From a thing's ranges [m] at two times or more [s]: a straight line by least squares, each range with the error
    that `fix_of` gives it. How it goes across the plane the fan cannot tell.

    Raises ValueError for fewer than two times that differ.
    """
    t = np.array([one for one, _ in seen], dtype=np.float64)
    r = np.array([one for _, one in seen], dtype=np.float64)
    if t.size < 2 or np.ptp(t) < 0.5:
        raise InputError("seen has one time: accepted are two or more, half a second or more apart")
    weight = 1.0 / (RANGE_SD_M + RANGE_SHARE * r) ** 2
    t0, r0 = weight @ t / weight.sum(), weight @ r / weight.sum()
    spread = float(weight @ (t - t0) ** 2)
    slope, sd = float(weight @ ((t - t0) * (r - r0))) / spread, float(1.0 / np.sqrt(spread))
    values = {"speed": Quantity(abs(slope), "m/s"), "sd": Quantity(sd, "m/s")}
    if abs(slope) < 2.0 * sd:
        return Closing(-slope, sd, Sentence("Whether it comes or leaves is not sure yet: touch it again later.", {}))
    way = "comes nearer" if slope < 0.0 else "leaves"
    return Closing(-slope, sd, Sentence(f"It {way} by {{speed}}, give or take {{sd}}.", values))
