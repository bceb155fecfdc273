"""Guided exercises: each starts from a bad setting, ends when the picture measurably meets its aim, and says what was
learned. In working order.

An aim looks at what the unit shows (picture levels, where its bottom is found) and at where the hands have put things;
it must hold for a second on end. The waters are made up.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..gear import profiles
from ..gear.lures import USUAL_JIG, Lure
from ..gear.settings import Settings
from ..gear.unit import FOOT, UnitProfile
from ..hole.contents import Neighbour
from ..hole.scene import Scene
from ..sonar import picture
from ..tuning import gain_window
from .bench_run import BenchRun

HELD_PINGS = 15  # an aim must be met by this many pings on end

MUD = Scene(9.1, "mud", 0.36, 0.44, visitors=0)


@dataclass(frozen=True)
class Exercise:
    """One exercise: what to do, where it starts, when its aim is met, and what it taught.

    hides_truth   whether the section of the hole would give the answer away, and is shown only when the aim is met
    """

    key: str
    title: str
    aim: str
    hint: str
    learned: str
    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure
    lure_depth_m: float
    met: Callable[[BenchRun], bool]
    hides_truth: bool = False


def _levels(run: BenchRun) -> NDArray[np.uint8] | None:
    """The last pings of the main picture, (pings, rows), or None while there are too few under the same window."""
    recent = list(run.recent)[-HELD_PINGS:]
    if len(recent) < HELD_PINGS or any(shown != run.shown for _, shown in recent):
        return None
    return np.array([row for row, _ in recent])


def _rows(run: BenchRun) -> NDArray[np.floating]:
    return picture.row_range(run.unit, run.shown)


def _lit_at(run: BenchRun, range_m: float, before_m: float, after_m: float) -> float:
    """Share of the last pings in which something lights near `range_m`."""
    levels = _levels(run)
    rows = _rows(run)
    near = (rows > range_m - before_m) & (rows < range_m + after_m)
    if levels is None or not near.any():
        return 0.0
    return float((levels[:, near] > 0).any(axis=1).mean())


def _water_lit(run: BenchRun) -> float:
    """Share of open-water cells that are lit in the last pings, the lure's own rows left out; 1 without a picture."""
    levels = _levels(run)
    if levels is None:
        return 1.0
    water = gain_window.open_water_cells(run.transmission, run.unit, run.shown)
    at = run.lure_depth_m - run.scene.face_depth_m
    rows = _rows(run)
    water &= (rows < at - 0.15) | (rows > at + 0.35)
    return float((levels[:, water] > 0).mean()) if water.any() else 1.0


def _lure_shows(run: BenchRun) -> bool:
    at = run.lure_depth_m - run.scene.face_depth_m
    return at > 0.5 and _lit_at(run, at, run.transmission.bin_m, 0.15) > 0.9


def _bottom_found(run: BenchRun) -> bool:
    """The bottom is in the picture, in its strongest colour, and the range is the smallest that holds it."""
    levels = _levels(run)
    if levels is None:
        return False
    near = np.abs(_rows(run) - run.scene.bottom_range_m) < 0.5
    top = len(run.unit.ladders[run.settings.ladder].steps)
    bright = bool(near.any()) and float(levels[:, near].max(axis=1).mean()) > top - 0.5
    return bright and run.settings.range_m < 1.5 * run.scene.bottom_range_m


def _true_depth(run: BenchRun) -> bool:
    return abs(run.target_depth_m - run.scene.bottom_depth_m) < 0.12 and _levels(run) is not None


def _hangs_well(run: BenchRun) -> bool:
    """Clear of the ice, plumb, wet and steady: then the top is quiet and the lure is at full strength."""
    scene = run.scene
    levels = _levels(run)
    if levels is None or scene.inside_ice_m > 0.0 or scene.tilt_deg > 2.0 or not (scene.face_wet and scene.on_float):
        return False
    top = (_rows(run) > 0.6) & (_rows(run) < 1.6)
    return float((levels[:, top] > 0).mean()) < 0.2


def _lure_found(run: BenchRun) -> bool:
    """The lure shows, and has been lowered to the aim line within a hand."""
    return _lure_shows(run) and run.lure_depth_m > 0.6 * run.scene.bottom_depth_m


def _window_set(run: BenchRun) -> bool:
    """A window is open, and both the lure and the bottom are in it."""
    at = run.lure_depth_m - run.scene.face_depth_m
    inside = run.zoom.top_m < at - 0.1 and run.zoom.bottom_m > run.scene.bottom_range_m
    return picture.zoomed(run.settings) and inside and _lure_shows(run)


def _gain_set(run: BenchRun) -> bool:
    return _lure_shows(run) and _water_lit(run) < 0.03


def _neighbour_gone(run: BenchRun) -> bool:
    return _lure_shows(run) and _water_lit(run) < 0.006


def _two_jigs(run: BenchRun) -> bool:
    """Two marks with dark between them at the two jigs' ranges."""
    levels = _levels(run)
    if levels is None:
        return False
    at = run.lure_depth_m - run.scene.face_depth_m
    near = (_rows(run) > at - run.lure.spacing_m - 0.05) & (_rows(run) < at + 0.08)
    lit = np.concatenate([[0], (np.median(levels[:, near], axis=0) > 0).astype(int)])
    return int(np.sum(np.diff(lit) == 1)) >= 2


RING, SCROLLER, FINE = profiles.TWO_BEAM_RING, profiles.WIDE_NARROW_SCROLLER, profiles.SHORT_PULSE

_EVERY: tuple[Exercise, ...] = (
    Exercise(
        "find the bottom", "Find the bottom",
        "Bring the bottom into the picture in its strongest colour, on the smallest range that holds it.",
        "The range is far too large and the gain too low: step the range down, then gain up.",
        "The bottom is the strongest, lowest line. Everything else is judged against it.",
        MUD, RING, Settings(3.0, 200 * FOOT), USUAL_JIG, 0.5, _bottom_found, hides_truth=True,
    ),
    Exercise(
        "find the true depth", "Find the true depth",
        "Put the aim line on the bottom's true depth. The unit's own figure is short by what the face hangs down.",
        "Read the bottom on the right-hand scale, add the depth of the face, and drag the line there.",
        "True depth is displayed depth and face depth together: the unit measures from its own face.",
        replace(MUD, bottom_depth_m=8.3, face_depth_m=0.9), RING, Settings(45.0, 45 * FOOT), USUAL_JIG, 0.5,
        _true_depth, hides_truth=True,
    ),
    Exercise(
        "hang it well", "Hang the transducer well",
        "Quiet the top of the picture: clear of the ice, plumb, and the face rubbed wet.",
        "Under Water you find how it hangs: lower the face under the ice, bring the tilt to nothing, wet the face.",
        "Clutter at the top and a lure that fades are how it hangs, not how it is set.",
        replace(MUD, ice_thickness_m=0.5, face_depth_m=0.2, tilt_deg=8.0, face_wet=False),
        RING, Settings(50.0, 45 * FOOT), USUAL_JIG, 6.0, _hangs_well, hides_truth=True,
    ),
    Exercise(
        "find the lure", "Find the lure",
        "Lower the jig into the lower part of the column, and see it.",
        "Lower it to a few feet off the bottom; then raise gain until its mark stands there.",
        "The lure is the one line that moves when your hand does.",
        MUD, RING, Settings(18.0, 45 * FOOT), USUAL_JIG, 0.6, _lure_found, hides_truth=True,
    ),
    Exercise(
        "set the window", "Set the window",
        "Open a window that holds both the lure and the bottom.",
        "Choose a bottom window taller than the lure's height off the bottom.",
        "A window spends all the rows on the water that matters: marks stand taller and part sooner.",
        MUD, RING, Settings(55.0, 45 * FOOT, bottom_window_m=5 * FOOT), USUAL_JIG, 7.0, _window_set,
    ),
    Exercise(
        "set gain by the window", "Set gain by its window",
        "Bring the gain to where the lure shows and the water is quiet.",
        "The green band on the gain scale is the window: its left end shows the lure, its right end lights the water.",
        "As low as you can and still see your lure is two numbers and a distance.",
        replace(MUD, clarity="stained"), RING, Settings(92.0, 45 * FOOT), USUAL_JIG, 7.0, _gain_set,
    ),
    Exercise(
        "kill the neighbour's marks", "Kill the neighbour's marks",
        "Two neighbours ping at the next holes. Rid the picture of their marks and keep your lure.",
        "Turn interference rejection up step by step, and stop as soon as the picture is clean.",
        "Their marks drift and yours stay. Rejection keeps what repeats; each step more makes the picture slower.",
        replace(MUD, neighbours=(Neighbour(2.5, ping_interval_s=0.0472), Neighbour(3.5, ping_interval_s=0.0531))),
        RING, Settings(48.0, 45 * FOOT), USUAL_JIG, 7.0, _neighbour_gone,
    ),
    Exercise(
        "clear the night plankton", "Clear the night plankton",
        "It is night and plankton fills the column. Clear the water and keep the lure.",
        "Lower the gain, or hide the weakest colour; time-varied gain helps with the top.",
        "At night the window is narrow: what you lose by hiding the weakest is the smallest lures.",
        replace(MUD, plankton="thin", hour=21.0), SCROLLER, Settings(6.0, 33 * FOOT, beam=1), Lure("6 mm jig", 0.006),
        7.0, _gain_set,
    ),
    Exercise(
        "separate two jigs", "Separate two jigs",
        "Two jigs hang three inches apart. Make them two marks.",
        "Take the short pulse and open a window on them; then as little gain as shows both.",
        "What parts two marks is the pulse, then the row's height, then gain: strong marks swell into one.",
        MUD, FINE, Settings(55.0, 40 * FOOT), Lure("two jigs", 0.005, "tungsten", "two jigs", 0.0, 0.076), 7.5,
        _two_jigs,
    ),
)  # fmt: skip
MET_FRAMES = 20  # an aim must hold for a second


class AimWatch:
    """Watches an exercise frame by frame: whether its aim has now been met for a second on end, told once."""

    def __init__(self, exercise: Exercise) -> None:
        self.exercise = exercise
        self._met_for = 0

    def met(self, run: BenchRun) -> bool:
        """One frame further."""
        if self._met_for >= MET_FRAMES:
            return False
        self._met_for = self._met_for + 1 if self.exercise.met(run) else 0
        return self._met_for >= MET_FRAMES


EXERCISES: dict[str, Exercise] = {one.key: one for one in _EVERY}
