"""How right the advice is: reader, card, calibration, strike, each on seeds that were never tuned on.

    python -m benchmarks.advice            everything, as docs/advice.md has it (a quarter of an hour)
    python -m benchmarks.advice reader     one part of it: reader, judge, rejection, late, card, calls, calibration

It prints what it measures. docs/advice.md sets it beside what was measured before.
"""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from itertools import product

import numpy as np

from hollow_glint.core.card.hole_card import hole_card
from hollow_glint.core.card.known_hole import LIGHTS, LIVELINESS, KnownHole
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.unit import UnitProfile
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.reader.call_sheet import call_sheet
from hollow_glint.core.tuning import calibration, gain_window, joint
from hollow_glint.core.tuning.calibration import GainReading
from hollow_glint.core.tuning.situation import situation_at
from hollow_glint.stand_ins.sonar_unit import StandInUnit
from tests.core.reader.test_calls_on_the_ice import situations

from .other_scenes import JUDGED, judged
from .reader import Score, lines, score_all, score_one, share, standing_lines
from .reader_scenes import SCORED, Case, scenario

REJECTED = range(400, 1600)  # scenes of the first kind that nothing else looks at
EACH = 8  # scenes for each step of each unit
STEPS = 6  # of a unit's steps of rejection, evenly
CARDS = 120
CALLED = range(1000, 1060)  # holes for the call sheet's situations, none of them looked at by its tests
STAND_INS = 160
EYES_DB = (0.0, 0.3, 0.5)  # how well an eye finds the gain at which a mark just disappears
BEGUN_S = 12.0  # when a reading that begins late begins


def reader() -> Iterator[str]:
    """The reader over the scenes kept for scoring."""
    total = score_all(SCORED)
    yield from [*lines(total), *standing_lines(total)]


def judge() -> Iterator[str]:
    """The reader over the second judge's scenes."""
    total = score_all(JUDGED, judged)
    yield from [*lines(total), *standing_lines(total)]


def _rejected(job: tuple[int, int]) -> Score:
    seed, step = job
    case = scenario(seed)
    return score_one(replace(case, settings=replace(case.settings, rejection=step)))


def cases_of(unit: UnitProfile) -> list[tuple[int, Case]]:
    """The first EACH scenes with this unit and no neighbour."""
    found = []
    for seed in REJECTED:
        case = scenario(seed)
        if case.unit == unit and not case.scene.neighbours:
            found.append((seed, case))
        if len(found) == EACH:
            break
    return found


def rejection() -> Iterator[str]:
    """The same scenes at every step of rejection: how often the lure is named rightly."""
    with ProcessPoolExecutor(2) as pool:
        for unit in SHIPPED:
            seeds = [seed for seed, _ in cases_of(unit)]
            steps = sorted({round(k * (len(unit.rejections) - 1) / STEPS) for k in range(STEPS + 1)})
            said = []
            for step in steps:
                total = Score()
                for one in pool.map(_rejected, [(seed, step) for seed in seeds]):
                    total.add(one)
                said.append(f"{step}: {share(total.lure_right, total.lure_visible)}")
            yield f"lure named rightly by step of rejection, {unit.name}: " + ", ".join(said)


def _begun_late(seed: int) -> Score:
    case = scenario(seed)
    return score_one(case, from_s=BEGUN_S)


def late() -> Iterator[str]:
    """The scenes kept for scoring, read only from BEGUN_S on: how often the lure is named rightly then."""
    total = Score()
    with ProcessPoolExecutor(2) as pool:
        for one in pool.map(_begun_late, range(100), chunksize=4):
            total.add(one)
    yield f"lure named rightly, begun {BEGUN_S:g} s late: {share(total.lure_right, total.lure_visible)}"
    yield f"something else named lure: {share(total.lure_other, total.lure_visible)}"


def _calibrated(job: tuple[int, int, bool, float]) -> tuple[bool, bool, bool, bool]:
    """Whether a reading that was far off was noticed, the fit accepted, within a decibel, and its span right."""
    seed, count, bad, eye_db = job
    rng = np.random.default_rng([20_262, seed, count, bad])
    unit = (TRAIL_UNIT, *SHIPPED)[seed % 5]
    scale, half = unit.gain, unit.gain.step / 2.0
    stand_in, water = StandInUnit(unit, 60_000 + seed), Scene(12.0, "mud", 0.35, 0.45)
    off_db = rng.normal(0.0, eye_db, count) if eye_db else np.zeros(count)
    spoilt = int(rng.integers(count)) if bad else -1
    if bad:
        off_db[spoilt] += float(rng.choice([-1, 1]) * rng.uniform(4.0, 12.0))
    readings = []
    for depth, by in zip(np.sort(rng.uniform(2.0, 11.5, count)), off_db, strict=True):
        one = stand_in.disappears_at(water, GainReading(Lure("jig", 0.005), float(depth), scale.minimum))
        gain = round((one.gain + scale.position(abs(by)) * np.sign(by) - scale.minimum * np.sign(by)) / half) * half
        readings.append(replace(one, gain=float(np.clip(gain, scale.minimum, scale.maximum))))
    try:
        fit = calibration.fit(water, unit, tuple(readings))
    except ValueError:
        return True, False, False, False
    noticed = not fit.usable or (bad and not fit.judged[spoilt].used)
    middle = 0.5 * (scale.minimum + scale.maximum)
    off = fit.profile.gain.first_colour_at(middle) - stand_in.reveal().first_colour_at(middle)
    sd = fit.calibrated.position_sd(fit.profile.gain, middle) * fit.db_per_step / scale.step
    return noticed, fit.usable, abs(off) < 1.0, abs(off) < 1.96 * sd


def calibration_of() -> Iterator[str]:
    """Stand-ins with hidden numbers: two to six readings, one of them 4 to 12 dB off or none, eyes of some error."""
    with ProcessPoolExecutor(2) as pool:
        for count, bad, eye_db in product((2, 3, 4, 6), (False, True), EYES_DB):
            jobs = [(seed, count, bad, eye_db) for seed in range(STAND_INS)]
            noticed, usable, near, held = np.array(list(pool.map(_calibrated, jobs, chunksize=20))).T
            used = int(usable.sum())
            said = f"noticed {share(noticed.sum(), noticed.size)}; " if bad else ""
            yield (
                f"{count} readings, {'one' if bad else 'none'} bad, eye {eye_db:g} dB: {said}accepted {used}, of them "
                f"within 1 dB {share((near & usable).sum(), used)}, span holds {share((held & usable).sum(), used)}"
            )


def card() -> Iterator[str]:
    """The card over random holes: nothing works, firm, and how far from the best of all settings."""
    rng = np.random.default_rng(20_261)
    closed = wrongly = firm = not_firm = lit = 0
    for k in range(CARDS):
        unit = (TRAIL_UNIT, *SHIPPED)[k % 5]
        hard = k % 2 == 0
        known = {"clarity": "murky", "liveliness": "lively", "light": "night"} if hard else {}
        at = KnownHole(float(rng.uniform(4.0, 24.0 if hard else 14.0)), bottom_kind="sand", **known)  # type: ignore[arg-type]
        lure = Lure("jig", float(rng.uniform(0.003, 0.008)))
        made = hole_card(at, unit, lure)
        s = made.situation
        if not made.gains.open:
            closed += 1
            best = max(
                joint.room_of(s, replace(s.settings, beam=b, pulse=p, noise_filter=f, rejection=r, tvg=v))
                for b, p, f, r, v in product(
                    range(len(unit.beams)), range(len(unit.pulses)), range(len(unit.noise_filters)),
                    range(len(unit.rejections)), range(len(unit.tvg_db_decade)),
                )
            )  # fmt: skip
            wrongly += best >= unit.gain.db_per_step
            lit += gain_window.lit_share(s.transmission, unit, made.settings, s.shown, s.first_colour()) > 0.5
        elif made.gains.firm and not hard:
            firm += 1
            not_firm += not all(
                _holds(replace(at, clarity=c, light=h, liveliness=v), unit, made.settings, lure)
                for c, h, v in product(("clear", "stained", "murky"), LIGHTS, LIVELINESS)
            )
    yield f"nothing works is said of {closed} of {CARDS} holes; wrongly of {wrongly}; most of the water lit then: {lit}"
    yield f"called firm: {firm}; not so for some water that was not known: {not_firm}"


def _holds(at: KnownHole, unit: UnitProfile, settings: object, lure: Lure) -> bool:
    limits = situation_at(at.scene(), unit, settings, lure, at.lure_at_m).limits  # type: ignore[arg-type]
    return limits.floor - 1e-6 <= settings.gain <= limits.ceiling + 0.02  # type: ignore[attr-defined]


def calls() -> Iterator[str]:
    """The call sheet's first answer, and that with its advice, in the situations of its tests at other holes."""
    kind_right = right = asked = 0
    for seed in CALLED:
        for _, at, seen, kinds, word in situations(seed):
            best = call_sheet(at, seen).calls[0]
            asked += 1
            kind_right += best.kind in kinds
            right += best.kind in kinds and word in best.do
    yield f"first answer right: {share(kind_right, asked)} of {asked}; with its advice: {share(right, asked)}"


PARTS: dict[str, Callable[[], Iterator[str]]] = {
    "reader": reader, "judge": judge, "rejection": rejection, "late": late, "card": card, "calls": calls,
    "calibration": calibration_of,
}  # fmt: skip


def main() -> None:
    """Measure what is asked for, or everything."""
    for name in sys.argv[1:] or PARTS:
        print(f"## {name}", flush=True)
        for line in PARTS[name]():
            print(f"- {line}", flush=True)


if __name__ == "__main__":
    main()
