"""How right the advice is: reader, card, calibration, strike, each on seeds that were never tuned on.

    python -m benchmarks.advice            everything, as docs/advice.md has it (a quarter of an hour)
    python -m benchmarks.advice reader     one part of it: reader, judge, rejection, card, calibration

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
from hollow_glint.core.tuning import gain_window, joint
from hollow_glint.core.tuning.situation import situation_at

from .other_scenes import JUDGED, judged
from .reader import Score, lines, score_all, score_one, share, standing_lines
from .reader_scenes import SCORED, Case, scenario

REJECTED = range(400, 1600)  # scenes of the first kind that nothing else looks at
EACH = 8  # scenes for each step of each unit
STEPS = 6  # of a unit's steps of rejection, evenly
CARDS = 120


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


PARTS: dict[str, Callable[[], Iterator[str]]] = {
    "reader": reader, "judge": judge, "rejection": rejection, "card": card,
}  # fmt: skip


def main() -> None:
    """Measure what is asked for, or everything."""
    for name in sys.argv[1:] or PARTS:
        print(f"## {name}", flush=True)
        for line in PARTS[name]():
            print(f"- {line}", flush=True)


if __name__ == "__main__":
    main()
