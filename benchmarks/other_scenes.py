"""A second judge of the reader: scenes of other kinds than the first, made once and never tuned on.

`judged(seed)` for the seeds in JUDGED. `practised(seed)` mixes what the world can hold far more widely, for learning
from: seeds from `reader_scenes.TUNING_FROM` up. The two share no code that decides what a scene is like.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from hollow_glint.core.bench.command import Command
from hollow_glint.core.bench.frame import STEP_S
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import SHIPPED, THREE_COLOUR_RING, TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings, smallest_range
from hollow_glint.core.gear.unit import UnitProfile
from hollow_glint.core.hole.contents import Hung, Neighbour, Shoal, Structure
from hollow_glint.core.hole.scene import Scene

from .reader_scenes import LURES, SECONDS, Case, hand_of, with_gain

JUDGED = range(60_000, 60_100)
KINDS = ("deep", "rod at rest", "lure at rest", "loud neighbour", "neighbour rejected", "bait ball", "three colours")
STEPS = int(SECONDS / STEP_S)
Hand = list[list[Command]]


def _no_hand() -> Hand:
    return [[] for _ in range(STEPS)]


def _resting_hand(rng: np.random.Generator, bottom_m: float) -> Hand:
    """Down to the bottom, left lying there, lifted a little now and then and laid down again."""
    hand = _no_hand()
    hand[4].append(Command(to_depth_m=bottom_m))
    now = 14.0
    while now < SECONDS - 5.0:
        up = float(rng.uniform(0.2, 0.6))
        hand[int(now / STEP_S)].append(Command(to_depth_m=bottom_m - up))
        hand[int((now + float(rng.uniform(1.5, 3.0))) / STEP_S)].append(Command(to_depth_m=bottom_m))
        now += float(rng.uniform(6.0, 10.0))
    return hand


def judged(seed: int) -> Case:
    """A scene of the kind that its seed asks for: each of KINDS in turn."""
    rng = np.random.default_rng(seed)
    kind = KINDS[seed % len(KINDS)]
    unit: UnitProfile = THREE_COLOUR_RING if kind == "three colours" else (*SHIPPED, TRAIL_UNIT)[rng.integers(5)]
    if kind == "neighbour rejected" and len(unit.rejections) == 1:
        unit = SHIPPED[int(rng.integers(len(SHIPPED)))]
    depth = float(rng.uniform(16.0, 25.0) if kind == "deep" else rng.uniform(3.5, 14.0))
    scene = Scene(
        depth,
        str(rng.choice(["mud", "silt", "sand", "gravel", "rock"])),
        0.45,
        0.55,
        clarity=str(rng.choice(["clear", "stained"])),
        visitors=int(rng.integers(0, 4)),
        hour=float(rng.choice([10.0, 16.5])),
    )
    settings = Settings(unit.gain.minimum, smallest_range(unit, scene.bottom_range_m))
    if kind in ("loud neighbour", "neighbour rejected"):
        one = Neighbour(
            float(rng.uniform(1.0, 4.0)), unit.beams[0].frequency_hz, 12.0, float(rng.uniform(50.0, 300.0)),
            float(rng.uniform(0.04, 0.075)),
        )  # fmt: skip
        scene = replace(scene, neighbours=(one,))
    if kind == "neighbour rejected":
        settings = replace(settings, rejection=int(rng.integers(1, len(unit.rejections))))
    if kind == "bait ball":
        count, middle = int(rng.integers(15, 40)), float(rng.uniform(0.4, 0.8)) * depth
        scene = replace(scene, shoals=(Shoal("bait", count, "ball", middle),))
    lure = LURES[rng.integers(len(LURES))]
    at = depth - float(rng.uniform(0.4, 2.0))
    settings = with_gain(scene, unit, settings, lure, at, float(rng.uniform(0.0, 2.0)))
    hands = np.random.default_rng(seed + 1_000_000)
    hang: float | None = None
    if kind == "rod at rest":
        hand, hang = _no_hand(), at
    elif kind == "lure at rest":
        hand = _resting_hand(hands, depth)
    else:
        hand = hand_of(hands, at, depth)
    return Case(kind, scene, unit, settings, lure, seed + 2_000_000, hand, hang)


def practised(seed: int) -> Case:
    """Anything at all: every depth, unit, step of every knob, company and hand, each by a chance of its own."""
    rng = np.random.default_rng([seed, 7])
    unit: UnitProfile = (*SHIPPED, TRAIL_UNIT)[rng.integers(5)]
    depth = float(np.exp(rng.uniform(np.log(2.5), np.log(min(28.0, unit.ranges_m[-1])))))
    face = float(rng.uniform(0.3, 0.7))
    scene = Scene(
        depth,
        str(rng.choice(["mud", "silt", "sand", "gravel", "rock"])),
        face - 0.1,
        face,
        clarity=str(rng.choice(["clear", "stained", "murky"], p=[0.5, 0.35, 0.15])),
        visitors=int(rng.integers(0, 5)),
        plankton=str(rng.choice(["none", "thin", "thick"], p=[0.8, 0.15, 0.05])),
        hour=float(rng.uniform(8.0, 22.0)),
        weed_height_m=float(rng.uniform(0.2, 1.0)) if rng.random() < 0.15 else 0.0,
    )
    if rng.random() < 0.3:
        what = str(rng.choice(["log", "boulder", "brush"]))
        scene = replace(
            scene, structures=(Structure(what, float(rng.uniform(-1.5, 1.5)), float(rng.uniform(0.2, 1.0))),)
        )  # type: ignore[arg-type]
    if rng.random() < 0.2:
        what = str(rng.choice(["dead stick", "camera"]))
        scene = replace(
            scene, second_hole_m=float(rng.uniform(0.4, 0.9)),
            hung=(Hung(what, depth - float(rng.uniform(0.2, min(2.0, 0.5 * depth)))),),  # type: ignore[arg-type]
        )  # fmt: skip
    if rng.random() < 0.3:
        species = str(rng.choice(["bait", "bait", "whitefish", "grayling", "char"]))
        count = int(rng.integers(6, 40)) if species == "bait" else int(rng.integers(1, 5))
        form = str(rng.choice(["loose", "ball"]))
        scene = replace(
            scene, shoals=(Shoal(species, count, form, face + (depth - face) * float(rng.uniform(0.3, 0.95))),)
        )
    if rng.random() < 0.3:
        scene = replace(scene, neighbours=tuple(
            Neighbour(float(rng.uniform(1.0, 10.0)), unit.beams[0].frequency_hz, float(rng.uniform(9.0, 20.0)),
                      float(rng.uniform(20.0, 300.0)), float(rng.uniform(0.03, 0.09)))
            for _ in range(int(rng.integers(1, 3)))
        ))  # fmt: skip
    settings = Settings(
        unit.gain.minimum,
        smallest_range(unit, scene.bottom_range_m),
        rejection=int(rng.integers(len(unit.rejections))) if rng.random() < 0.65 else 0,
        pulse=int(rng.integers(len(unit.pulses))) if rng.random() < 0.3 else 0,
        beam=int(rng.integers(len(unit.beams))),
        power=int(rng.integers(len(unit.powers_w))),
        ladder=int(rng.integers(len(unit.ladders))) if rng.random() < 0.3 else 0,
        noise_filter=int(rng.integers(len(unit.noise_filters))) if rng.random() < 0.15 else 0,
        tvg=int(rng.integers(len(unit.tvg_db_decade))) if rng.random() < 0.15 else 0,
    )
    at = depth - float(rng.uniform(0.05, min(2.5, 0.5 * depth)))
    if unit.bottom_windows_m and rng.random() < 0.2:
        heights = [one for one in unit.bottom_windows_m if 0.8 * one > depth - at + 0.3]
        if heights:
            settings = replace(settings, bottom_window_m=heights[0])
    lure: Lure = LURES[rng.integers(len(LURES))]
    settings = with_gain(scene, unit, settings, lure, at, float(rng.uniform(-1.0, 5.0)))
    hands = np.random.default_rng([seed, 8])
    hang: float | None = None
    what_hand = rng.random()
    if what_hand < 0.12:
        hand, hang = _no_hand(), at
    elif what_hand < 0.24:
        hand = _lying_hand(hands, depth)
    else:
        hand = hand_of(hands, at, depth)
    return Case("practice", scene, unit, settings, lure, seed + 2_000_000, hand, hang)


def _lying_hand(rng: np.random.Generator, bottom_m: float) -> Hand:
    """As anyone does who pounds the bottom: down, up, down, with whatever waits between."""
    hand = _no_hand()
    now = float(rng.uniform(0.5, 2.0))
    down = True
    while now < SECONDS - 1.0:
        to = bottom_m if down else max(bottom_m - float(rng.uniform(0.1, 1.2)), 1.0)
        hand[int(now / STEP_S)].append(Command(to_depth_m=to))
        now += float(rng.uniform(2.0, 9.0) if down else rng.uniform(0.8, 5.0))
        down = not down
    return hand


__all__ = ["JUDGED", "KINDS", "judged", "practised"]
