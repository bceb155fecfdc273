"""How good and how fast the plan for a shelter is: against every seating there is, and with eight units in eight holes.

`python -m benchmarks.shelter` prints what docs/shelter.md tells and makes its picture. Parties are made up by chance:
seeds 0 to 199 against brute force, 1000 to 1099 for the time and for what is proved.
"""

from __future__ import annotations

import statistics
import time
from pathlib import Path

import numpy as np

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.card.known_hole import KnownHole
from hollow_glint.core.gear.lures import USUAL_JIG
from hollow_glint.core.shelter import choices, heard
from hollow_glint.core.shelter.branch_and_bound import best_seating
from hollow_glint.core.shelter.party import Party, Seat, ShelterHole
from hollow_glint.core.shelter.plan import SeatState, ShelterPlan, shelter_plan
from tests.core.shelter.parties import FINE, RING, SCROLLER, THREE, TRAIL, UNITS, party
from tests.core.shelter.test_branch_and_bound import brute_force, case, cost_of

DOCS = Path(__file__).parents[1] / "docs"
TIMED = range(1000, 1100)


def eight(seed: int, units: tuple = UNITS) -> Party:
    """Eight seats in eight holes, with up to five kinds of unit, over water of a depth by chance."""
    rng = np.random.default_rng(seed)
    kinds = rng.choice(len(units), size=rng.integers(1, len(units) + 1))
    while True:
        at = np.round(rng.uniform(-2.5, 2.5, (8, 2)), 2)
        if (np.hypot(*(at[:, None] - at[None]).transpose(2, 0, 1)) + np.eye(8)).min() > 0.5:
            break
    holes = tuple(ShelterHole(*map(float, one)) for one in at)
    seats = tuple(
        Seat(f"Seat {k + 1}", units[rng.choice(kinds)], USUAL_JIG, int(h)) for k, h in enumerate(rng.permutation(8))
    )
    return Party(KnownHole(float(rng.choice([2.5, 4.0, 6.0, 9.4, 14.0]))), holes, seats)


def forget() -> None:
    """Nothing that an earlier party left worked out."""
    choices.choices_of.cache_clear()
    heard._lit_table.cache_clear()


def agreement() -> str:
    """A line of docs/shelter.md: how often the search costs what brute force finds."""
    same = proved = 0
    for seed in range(200):
        table = case(seed)
        found = best_seating(table)
        same += cost_of(table, found) == brute_force(table)
        proved += found.proved
    return f"Of 200 parties of two or three seats, {same} are seated as brute force would, {proved} said to be proved."


def planned(wanted: Party) -> tuple[ShelterPlan, float]:
    """A plan, and how long it took [s], nothing worked out beforehand."""
    forget()
    begun = time.perf_counter()
    plan = shelter_plan(wanted)
    return plan, time.perf_counter() - begun


def row() -> tuple[str, str, str]:
    """The row of docs/benchmarks.md."""
    took = [planned(eight(seed))[1] for seed in TIMED[:20]]
    said = f"{statistics.median(took):.2f} s; {max(took):.2f} s"
    return "Eight units seated in eight holes, any kinds: median; longest of 20", said, "3 s"


def timed(units: tuple, called: str) -> str:
    """A line of docs/shelter.md."""
    took, proved, before, after = [], 0, 0, 0
    for seed in TIMED:
        plan, one = planned(eight(seed, units))
        took.append(one)
        proved += plan.proved
        before, after = before + plan.disturbed_before, after + plan.disturbed_after
    return f"| {called} | {proved} | {statistics.median(took):.2f} s | {max(took):.2f} s | {before} | {after} |"


def trace(unit, state: SeatState, lure_depth_m: float, pings: int = 400) -> np.ndarray:
    """The Bench's own history with all on, (rows, pings)."""
    run = BenchRun(state.scene, unit, state.settings, USUAL_JIG, np.random.default_rng(3), lure_depth_m)
    return np.concatenate([run.advance().levels for _ in range(pings)])[-pings:].T


def picture(plan: ShelterPlan, units: tuple) -> None:
    """docs/shelter.png: the screens of three of six before and after."""
    import matplotlib

    matplotlib.use("Agg")
    from matplotlib import pyplot

    figure, axes = pyplot.subplots(2, 3, figsize=(10, 5.4), dpi=80, constrained_layout=True)
    for column, k in enumerate((0, 2, 4)):
        seat = plan.seats[k]
        for row, (word, state) in enumerate((("before", seat.before), ("after", seat.after))):
            here = axes[row][column]
            shown = trace(units[k], state, seat.lure_depth_m)
            here.imshow(shown, aspect="auto", cmap="Greys", vmin=0, vmax=6, interpolation="nearest")
            here.set_title(f"{seat.name}, {units[k].name.lower()}, {word}", fontsize=9)
            here.set_xticks([])
            here.set_yticks([])
            here.set_xlabel(f"{100 * (state.share or 0):.1f} % lit by others", fontsize=9)
    figure.savefig(DOCS / "shelter.png")


def main() -> None:
    """All of it."""
    print(agreement())
    print("\n| units of eight | proved of 100 | median | longest | disturbed before, of 800 | after |")
    print("|---|---|---|---|---|---|")
    for units, called in (
        ((RING,), "two-beam rings"),
        ((THREE, RING, SCROLLER, FINE), "any with a rejection"),
        (UNITS, "any, some without rejection"),
    ):
        print(timed(units, called))
    six = (RING, RING, THREE, SCROLLER, FINE, TRAIL)
    plan = shelter_plan(party(*six))
    for seat in plan.seats:
        print(seat.line, seat.before.share, seat.after.share)
    picture(plan, six)


if __name__ == "__main__":
    main()
