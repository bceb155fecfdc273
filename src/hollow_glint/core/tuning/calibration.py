"""A unit calibrated with a known jig: its system constant, its dB per gain step and its colour step, by least squares.

Someone lowers a lure of known form to known depths and notes the gain at which its mark just disappears, or just turns
to the next colour. The sonar equation gives each echo level L; on the knob, n steps above its minimum, the unit answers

    L = first_colour_db - db_per_step n + colour_step_db begins

which is linear in what is sought. So acousticians calibrate with a standard sphere (Foote and others 1987, ICES
Cooperative Research Report 144); the least squares are the textbook's. Known limit: source level and receiver are one
constant, so power and efficiency of the profile are taken as they stand.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import combinations
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, InputError
from ..fields import Span, check_fields, doc
from ..gear.lures import Lure
from ..gear.settings import Position, Settings, smallest_range
from ..gear.unit import MOST_LISTED, Calibrated, UnitProfile
from ..hole.contents import Depth
from ..hole.scene import Scene
from ..sonar import receiver, transmission
from ..wording import Quantity, Sentence
from . import doubt, gain_window

SEEING_DB = 0.5  # how well an eye finds the gain at which a wavering mark is there half the time. Common practice,
SEEING_KNOWN = 6.0  # known as well as from so many readings to spare: theirs move it
# What is assumed of a value that the readings do not fix: its profile's, give or take so much (1 standard deviation).
SLOPE_KNOWN = 0.15  # share of dB per step
COLOUR_KNOWN_DB = 1.0
CONSTANT_KNOWN_DB = 15.0  # and of its first colour
FARTHEST = 4.0  # times the profile's dB per step is no unit's
UNSURE_DB = 4.0  # a floor known no better than this [1 sd] is no calibration
MOST_READINGS = 60


@dataclass(frozen=True)
class GainReading:
    """One reading: at `depth_m` the lure's mark just lights the step `colour` at `gain`, the knobs as they stood."""

    lure: Lure
    depth_m: Depth
    gain: Annotated[float, doc("In the unit's own numbers")]
    colour: Annotated[int, Span(0, MOST_LISTED - 1), doc("0: the weakest step, it just disappears; 1: the next")] = 0
    beam: Position = 0
    power: Position = 0
    pulse: Position = 0

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class FittedReading:
    """A reading and what the fit makes of it: echo level [dB], expected gain, residual [dB], used or why not."""

    reading: GainReading
    level_db: float
    expected_gain: float
    residual_db: float
    used: bool
    why: str


@dataclass(frozen=True)
class NextReading:
    """Where one more reading would tell most: depth [m], and the floor's uncertainty [dB] now and with it."""

    depth_m: float
    now_db: float
    then_db: float


@dataclass(frozen=True)
class Fit:
    """What the readings say. Standard deviations are 1 sigma.

    assumed   names of the values that the readings do not fix, taken from the profile with its wide uncertainty
    doubts    why these readings are no calibration yet, and what to do; `usable` when there are none
    unseen    what these readings cannot show by themselves, and what would
    """

    calibrated: Calibrated
    first_colour_db: float
    db_per_step: float
    colour_step_db: float
    residual_sd_db: float
    assumed: tuple[str, ...]
    judged: tuple[FittedReading, ...]
    next_reading: NextReading | None
    profile: UnitProfile
    doubts: tuple[Sentence, ...] = ()
    usable: bool = True
    unseen: tuple[Sentence, ...] = ()


def echo_level(scene: Scene, unit: UnitProfile, reading: GainReading) -> float:
    """Mean level [dB re 1 uPa] of the lure's mark in `reading`, straight under the face of `scene`.

    Raises ValueError, all at once, for what cannot be: a depth outside the water, knobs that the unit does not have.
    """
    scale, problems = unit.gain, []
    if not scale.minimum <= reading.gain <= scale.maximum:
        problems.append(f"gain is {reading.gain:g}: this unit's scale has {scale.minimum:g} to {scale.maximum:g}")
    top, foot = scene.face_depth_m + 0.5, scene.bottom_depth_m - 0.1
    if not top <= reading.depth_m <= foot:
        problems.append(f"depth_m is {reading.depth_m:g} m: the lure must hang between {top:g} and {foot:g} m here")
    for name, listed in (("beam", unit.beams), ("power", unit.powers_w), ("pulse", unit.pulses)):
        if getattr(reading, name) not in range(len(listed)):
            problems.append(f"{name} is {getattr(reading, name)}: this unit has positions 0 to {len(listed) - 1}")
    if reading.colour not in range(len(unit.ladders[0].steps)):
        problems.append(f"colour is {reading.colour}: this unit shows steps 0 to {len(unit.ladders[0].steps) - 1}")
    if problems:
        raise InputError("; ".join(problems))
    settings = _knobs(scene, unit, reading)
    return gain_window.lure_level(
        transmission.transmit(scene, unit, settings), unit, settings, reading.lure, reading.depth_m
    )


def _knobs(scene: Scene, unit: UnitProfile, reading: GainReading) -> Settings:
    span = smallest_range(unit, scene.bottom_range_m)
    return Settings(unit.gain.minimum, span, beam=reading.beam, power=reading.power, pulse=reading.pulse)


def fit(scene: Scene, unit: UnitProfile, readings: tuple[GainReading, ...]) -> Fit:
    """Fit `unit` to `readings` taken at `scene`. One fixes the constant, two levels the slope, colours the step.

    Readings that cannot be right are named and left out. Raises ValueError for none or too many, or any that cannot be.
    """
    if not 1 <= len(readings) <= MOST_READINGS:
        raise InputError(f"readings has {len(readings)} entries: accepted are 1 to {MOST_READINGS}")
    problems, level = [], np.zeros(len(readings))
    for i, reading in enumerate(readings):
        try:
            level[i] = echo_level(scene, unit, reading)
        except InputError as wrong:
            problems += [f"readings.{i}.{part}" for part in str(wrong).split("; ")]
    if problems:
        raise InputError("; ".join(problems))
    why = [""] * len(readings)
    for i, reading in enumerate(readings):
        for end, at in (("lowest", unit.gain.minimum), ("highest", unit.gain.maximum)):
            if abs(reading.gain - at) < 1e-9:
                why[i] = (
                    f"taken at the knob's {end}: it would disappear somewhere past that, so this tells only a bound"
                )
    if all(why):
        raise InputError(
            "readings all stand at an end of the gain scale: hang the lure where its mark disappears somewhere between"
        )
    for i in _louder_when_deeper(unit, readings, level):
        why[i] = "lower gain than a shallower reading of the same lure: a lure cannot be louder when deeper"
    solved = _solve(unit, readings, level, np.array([not one for one in why]))
    weighed = doubt.weigh(
        _rows(unit, readings), level, _prior(unit), reading_sd(unit, readings), np.array([not one for one in why])
    )
    for i in np.flatnonzero(weighed.bad > 0.5).tolist() if why.count("") > 2 else ():  # of two, who is to say which
        used = np.array([not one for one in why])
        used[i] = False
        if used.any():
            off = _solve(unit, readings, level, used)[2][i]
            why[i] = f"{abs(off):.1f} dB from where the other readings put it"
            solved = _solve(unit, readings, level, used)
    values, covariance, residual, sd, assumed = solved
    if weighed.bad[np.array([not one for one in why])].max(initial=0.0) > doubt.SOME:
        covariance = covariance + weighed.between  # one of them may be far off: then it is elsewhere
    constant, slope, colour = (float(v) for v in values)
    # Readings that contradict each other can ask for a knob that turns backwards: they are doubted below.
    slope = float(np.clip(slope, unit.gain.db_per_step / FARTHEST, unit.gain.db_per_step * FARTHEST))
    sure = Calibrated(
        readings=sum(not one for one in why),
        first_colour_sd_db=float(np.sqrt(covariance[0, 0])),
        db_per_step_sd=float(np.sqrt(covariance[1, 1])),
        covariance_db2=float(covariance[0, 1]),
        colour_step_sd_db=float(np.sqrt(covariance[2, 2])),
    )
    profile = replace(
        unit, gain=replace(unit.gain, first_colour_db=constant, db_per_step=slope), colour_step_db=colour,
        calibrated=sure,
    )  # fmt: skip
    judged = tuple(
        FittedReading(reading, heard, _expected(profile, reading, heard), off, not doubt, doubt)
        for reading, heard, off, doubt in zip(readings, level.tolist(), residual.tolist(), why, strict=True)
    )
    ahead = _next_reading(scene, profile, readings[0], covariance, sd)
    doubts = _doubts(weighed, why, ahead)
    return Fit(
        sure, constant, slope, colour, float(sd), assumed, judged, ahead, profile, doubts, not doubts, _unseen(readings)
    )


def _unseen(readings: tuple[GainReading, ...]) -> tuple[Sentence, ...]:
    """What is wrong with all readings alike shows in none of them."""
    if len({one.lure for one in readings}) > 1:
        return ()
    text = (
        "All of them are of one lure on one line: another size than you think, or a line marked wrong, moves them "
        "together and cannot be seen here. One reading with a second lure would show it."
    )
    return (Sentence(text),)


def _doubts(weighed: doubt.Weighed, why: list[str], ahead: NextReading | None) -> tuple[Sentence, ...]:
    """Why these readings are no calibration yet, each with what to do; empty when they are one."""
    found = []
    kept = [i for i, one in enumerate(why) if not one]
    doubtful = [i for i in kept if weighed.bad[i] > doubt.MUCH]
    where = {} if ahead is None else {"depth": Quantity(ahead.depth_m, "m")}
    one_more = " One more at {depth} tells which." if ahead is not None else " One more tells which."
    if len(kept) < 2 and len(why) > 1:
        found.append(Sentence("Only one reading is left that can be right: take the others again."))
    elif doubtful:
        names = " or ".join(f"reading {i + 1}" for i in doubtful)
        text = f"These readings do not agree with each other or with the profile: {names} looks far off. Take it again."
        found.append(Sentence(text + one_more, where))
    if ahead is not None and ahead.now_db > UNSURE_DB:
        values = {**where, "now": Quantity(2.0 * ahead.now_db, "dB"), "then": Quantity(2.0 * ahead.then_db, "dB")}
        text = "The floor is known to {now} either way, which is no use yet. A reading at {depth} makes it {then}."
        found.append(Sentence(text, values))
    return tuple(found)


def _rows(unit: UnitProfile, readings: tuple[GainReading, ...]) -> Floats:
    """What each reading says of constant, slope and colour step, (readings, 3)."""
    n, begins = _steps(unit, readings), np.array([_begins(unit, one) for one in readings])
    return np.stack([np.ones_like(n), -n, begins], axis=1)


def _prior(unit: UnitProfile) -> tuple[Floats, Floats]:
    """The profile's constant, slope and colour step, and how far from it a unit may be [1 sd]."""
    held = np.array([unit.gain.first_colour_db, unit.gain.db_per_step, unit.colour_step_db])
    return held, np.array([CONSTANT_KNOWN_DB, SLOPE_KNOWN * unit.gain.db_per_step, COLOUR_KNOWN_DB])


def _steps(unit: UnitProfile, readings: tuple[GainReading, ...]) -> Floats:
    """Gain steps above the knob's minimum, (readings,)."""
    return np.array([(one.gain - unit.gain.minimum) / unit.gain.step for one in readings])


def _begins(unit: UnitProfile, reading: GainReading) -> float:
    """Where the reading's colour begins, in colour steps."""
    return unit.ladders[0].steps[reading.colour].begins


def reading_sd(unit: UnitProfile, readings: tuple[GainReading, ...]) -> float:
    """How sure one reading is beforehand [dB, 1 sd]: what the knob's numbers are rounded to, and the eye's judgement.

    Readings between two steps show that halves were told apart.
    """
    n = _steps(unit, readings)
    rounded = 1.0 if np.allclose(n, np.round(n), atol=0.01) else 0.5
    return float(np.hypot(rounded * unit.gain.db_per_step / np.sqrt(12.0), SEEING_DB))


Solved = tuple[Floats, Floats, Floats, float, tuple[str, ...]]


def _solve(unit: UnitProfile, readings: tuple[GainReading, ...], level: Floats, used: NDArray[np.bool_]) -> Solved:
    """Least squares for constant, slope and colour step over the readings used.

    Values (3,), their covariance (3, 3), residuals of all readings [dB], the sd of a reading [dB], and what is assumed.
    A value that the readings cannot fix is held at the profile's, its wide uncertainty carried into the others'.
    """
    design, (held, wide) = _rows(unit, readings), _prior(unit)
    rows = design[used]
    free = [0]
    for column in (1, 2):
        tried = rows[:, [*free, column]]
        # Fixed when the readings spread enough to tell it better than it is known already.
        if rows.shape[0] > len(free) and np.linalg.matrix_rank(tried) == len(free) + 1:
            spread = np.linalg.inv(tried.T @ tried)[-1, -1] * reading_sd(unit, readings) ** 2
            if np.sqrt(spread) < wide[column]:
                free.append(column)
    fixed = [column for column in range(3) if column not in free]
    target = level[used] - rows[:, fixed] @ held[fixed]
    inverse = np.linalg.inv(rows[:, free].T @ rows[:, free])
    solved = inverse @ rows[:, free].T @ target
    values = held.copy()
    values[free] = solved
    residual = level - design @ values
    spare = rows.shape[0] - len(free)
    # Few residuals tell little: knob and eye weigh as so many more (a conjugate prior, Gelman and others 2013).
    beforehand = reading_sd(unit, readings)
    sd = float(np.sqrt((SEEING_KNOWN * beforehand**2 + np.sum(residual[used] ** 2)) / (SEEING_KNOWN + spare)))
    covariance = np.zeros((3, 3))
    covariance[np.ix_(free, free)] = inverse * sd**2
    # What is held, but not known, moves what is solved: by the same linear equations.
    moves = -inverse @ rows[:, free].T @ rows[:, fixed]
    covariance[np.ix_(free, free)] += moves @ np.diag(wide[fixed] ** 2) @ moves.T
    covariance[np.ix_(free, fixed)] = moves @ np.diag(wide[fixed] ** 2)
    covariance[np.ix_(fixed, free)] = covariance[np.ix_(free, fixed)].T
    covariance[np.ix_(fixed, fixed)] = np.diag(wide[fixed] ** 2)
    names = ("first_colour_db", "db_per_step", "colour_step_db")
    return values, covariance, residual, sd, tuple(names[column] for column in fixed)


def _louder_when_deeper(unit: UnitProfile, readings: tuple[GainReading, ...], level: Floats) -> list[int]:
    """Readings that contradict the order of the others: of each pair at odds, the one at odds with most."""
    allowed = 2.0 * np.sqrt(2.0) * reading_sd(unit, readings)
    clashes = [set[int]() for _ in readings]
    for i, k in combinations(range(len(readings)), 2):
        a, b = readings[i], readings[k]
        if (a.lure, a.colour, a.beam, a.power, a.pulse) != (b.lure, b.colour, b.beam, b.power, b.pulse):
            continue
        quieter = level[i] - level[k]
        needs = (b.gain - a.gain) / unit.gain.step * unit.gain.db_per_step
        if abs(quieter) > 0.1 and needs * np.sign(quieter) < -allowed:
            clashes[i].add(k)
            clashes[k].add(i)
    out: list[int] = []
    while any(clashes):
        most = max(len(one) for one in clashes)
        tied = [i for i, one in enumerate(clashes) if len(one) == most]
        worst = min(tied, key=lambda i: _scatter_without(unit, readings, level, [*out, i]))
        out.append(worst)
        for other in clashes[worst]:
            clashes[other].discard(worst)
        clashes[worst] = set()
    return out


def _scatter_without(
    unit: UnitProfile, readings: tuple[GainReading, ...], level: Floats, out: list[int]
) -> tuple[float, float]:
    """How ill the readings without those in `out` fit [dB^2]; of two alike, the deeper one is doubted."""
    used = np.ones(len(readings), dtype=np.bool_)
    used[out] = False
    deep = -readings[out[-1]].depth_m
    if not used.any():
        return np.inf, deep
    residual = _solve(unit, readings, level, used)[2]
    return round(float(np.sum(residual[used] ** 2)), 3), deep


def _expected(unit: UnitProfile, reading: GainReading, level: float) -> float:
    at_colour = unit.gain.first_colour_db + _begins(unit, reading) * unit.colour_step_db
    return unit.gain.position(at_colour - level)


def _next_reading(
    scene: Scene, unit: UnitProfile, like: GainReading, covariance: Floats, sd: float
) -> NextReading | None:
    """The depth at which one more reading of the same lure would best narrow the gain window's floor in this hole."""
    depths = np.linspace(scene.face_depth_m + 1.0, scene.bottom_depth_m - 0.3, 12)
    rows = []
    for depth in depths:
        settings = _knobs(scene, unit, like)
        t = transmission.transmit(scene, unit, settings)
        n = receiver.first_colour_level(unit, settings) - gain_window.lure_level(
            t, unit, settings, like.lure, float(depth)
        )
        rows.append([1.0, -n / unit.gain.db_per_step, 0.0])
    design = np.array(rows)
    reach = (unit.gain.maximum - unit.gain.minimum) / unit.gain.step
    possible = (-design[:, 1] >= 0.0) & (-design[:, 1] <= reach)
    if not possible.any():
        return None

    def worst(cov: Floats) -> float:
        return float(np.sqrt(max(np.einsum("ij,jk,ik->i", design, cov, design))))

    best: tuple[float, float] | None = None
    for depth, row in zip(depths[possible], design[possible], strict=True):
        carried = covariance @ row
        after = covariance - np.outer(carried, carried) / (row @ carried + sd**2)  # Kalman's update, one reading more
        if best is None or worst(after) < best[0]:
            best = worst(after), float(depth)
    assert best is not None
    return NextReading(round(best[1], 2), worst(covariance), best[0])
