"""Every control of every profile changes the picture measurably: one test over them all."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.gear import profiles
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.settings import POSITIONS, Settings, draw, smallest_range
from hollow_glint.core.gear.unit import FOOT, UnitProfile
from hollow_glint.core.hole.contents import Neighbour, Shoal
from hollow_glint.core.hole.scene import Scene

# Something for every knob to bite on: murk, neighbours, weeds, fish, a small jig.
SCENE = Scene(
    9.1, "sand", 0.36, 0.44, clarity="murky", weed_height_m=0.8, weed_density=0.3, visitors=0,
    shoals=(Shoal("whitefish", 6, "loose", 6.0),), neighbours=(Neighbour(2.5), Neighbour(3.1, ping_interval_s=0.0529)),
)  # fmt: skip
UNITS = (profiles.TRAIL_UNIT, *profiles.SHIPPED)


def controls(unit: UnitProfile) -> list[tuple[str, dict]]:
    """(name, what to turn) of every control the profile has, every position of it."""
    middle = (unit.gain.minimum + unit.gain.maximum) / 2
    found: list[tuple[str, dict]] = [("gain", {"gain": middle + 6 * unit.gain.step})]
    found += [(name, {name: at}) for name, listed in POSITIONS.items() for at in range(1, len(getattr(unit, listed)))]
    found.append(("range", {"range_m": unit.ranges_m[-1] if not unit.free_range else 20.0}))
    found += [("bottom window", {"bottom_window_m": m}) for m in unit.bottom_windows_m]
    found += [("free window", {"free_window_m": m, "free_window_top_m": 3.0}) for m in unit.free_windows_m]
    if unit.window_beside:
        found.append(("window beside", {"bottom_window_m": unit.bottom_windows_m[0], "beside": True}))
    if unit.auto_range:
        found.append(("automatic range", {"auto_range": True, "range_m": 20.0 if unit.free_range else 30 * FOOT * 2}))
    return found


CASES = [
    pytest.param(unit, change, id=f"{unit.name}-{name}-{'-'.join(map(str, change.values()))[:18]}")
    for unit in UNITS
    for name, change in controls(unit)
]


def seen(unit: UnitProfile, settings: Settings, steps: int = 40):
    """Everything of the picture that meets the eye over two seconds: levels painted in colour, light and scroll."""
    run = BenchRun(SCENE, unit, settings, Lure("jig", 0.005), np.random.default_rng(4), 6.0)
    frames = [run.advance() for _ in range(steps)]
    colours = np.array(
        [[int(hexed[i : i + 2], 16) for i in (1, 3, 5)] for hexed in unit.ladders[settings.ladder].colours("lantern")]
    )
    light = unit.brightness[settings.light]
    painted = []
    for frame in frames:
        columns = np.repeat(frame.levels, unit.scroll_speeds[frame.settings.scroll], axis=0)
        painted.append(colours[columns] * light)
    windows = [frame.window_levels for frame in frames if frame.window_levels is not None]
    return np.concatenate(painted), windows, frames[-1]


@pytest.mark.parametrize(("unit", "change"), CASES)
def test_each_control_of_each_profile_changes_the_picture(unit, change):
    middle = (unit.gain.minimum + unit.gain.maximum) / 2
    plain = Settings(middle, smallest_range(unit, SCENE.bottom_range_m)).checked(unit)
    turned = replace(plain, **change).checked(unit)
    before, no_window, _ = seen(unit, plain)
    after, window, last = seen(unit, turned)
    assert not no_window
    if turned.beside:
        assert window and last.window_shown.height_m == pytest.approx(turned.bottom_window_m)
        return
    if before.shape == after.shape:
        # The same seed and the same water: what differs is the knob's doing. At least one cell in two hundred.
        assert (np.abs(before - after).max(axis=2) > 2).mean() > 0.005
    else:
        assert before.shape[0] != after.shape[0]  # a slower picture, or a faster trace
    if turned.auto_range:
        assert last.settings.range_m < turned.range_m  # it has gone to the smallest that fits


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_light_costs_current(unit):
    settings = [Settings(unit.gain.minimum, unit.ranges_m[-1], light=at) for at in range(len(unit.brightness))]
    amperes = [draw(unit, one) for one in settings]
    assert amperes == sorted(amperes, reverse=True) and amperes[-1] > 0


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_what_a_profile_lacks_cannot_be_set(unit):
    plain = Settings(unit.gain.minimum, unit.ranges_m[-1]).checked(unit)
    for name, listed in POSITIONS.items():
        with pytest.raises(ValueError, match=name):
            replace(plain, **{name: len(getattr(unit, listed))}).checked(unit)
    for flag, has in (("auto_range", unit.auto_range), ("beside", unit.window_beside)):
        if not has:
            with pytest.raises(ValueError, match=flag):
                replace(plain, **{flag: True}).checked(unit)


def test_automatic_range_locks_on_a_second_echo_and_a_kick_frees_it():
    """Over rock with gain to spare the last strong echo is the second; kicked, it finds the bottom."""
    unit = profiles.WIDE_NARROW_SCROLLER
    scene = Scene(3.5, "rock", 0.41, 0.46, visitors=0)
    run = BenchRun(
        scene,
        unit,
        Settings(8.0, 24 * FOOT, beam=1, auto_range=True),
        Lure("jig", 0.005),
        np.random.default_rng(1),
        2.0,
    )
    for _ in range(60):
        frame = run.advance()
    second = 2 * scene.bottom_depth_m - scene.face_depth_m - scene.ice_thickness_m
    assert frame.lock_m == pytest.approx(second, abs=0.2)
    run.advance([Command(kick=True)])
    for _ in range(60):
        frame = run.advance()
    assert frame.lock_m == pytest.approx(scene.bottom_range_m, abs=0.2)
    assert frame.settings.range_m < second


def test_a_free_window_goes_anywhere_and_shows_that_water():
    unit = profiles.SHORT_PULSE
    settings = Settings(30.0, 40 * FOOT, free_window_m=6 * FOOT, free_window_top_m=4.0)
    run = BenchRun(SCENE, unit, settings, Lure("jig", 0.005), np.random.default_rng(4), 6.0)
    frame = run.advance()
    assert frame.shown.top_m == pytest.approx(4.0) and frame.shown.height_m == pytest.approx(6 * FOOT)
    beyond = replace(settings, free_window_top_m=100.0)
    frame = run.advance([Command(settings=beyond)])
    assert frame.shown.bottom_m == pytest.approx(40 * FOOT)  # pushed back inside the range
