"""Made-up waters and hands by seed, for scoring the reader. Seeds from TUNING_FROM up are for tuning its rules."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.bench.frame import STEP_S
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings, smallest_range
from hollow_glint.core.gear.unit import FOOT, UnitProfile
from hollow_glint.core.hole.contents import Hung, Neighbour, Shoal, Structure
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.reader.evidence import ReaderSetup
from hollow_glint.core.sonar import picture, transmission
from hollow_glint.core.tuning.gain_window import gain_window

SCORED = range(400)
TUNING_FROM = 10_000
SECONDS = 36.0

LURES = (
    Lure("4 mm jig", 0.004),
    Lure("5 mm jig", 0.005),
    Lure("6 mm jig", 0.006),
    Lure("baited jig", 0.005, "tungsten", "baited jig", 0.03),
    Lure("spoon", 0.012, "steel", "spoon", 0.04),
    Lure("minnow bait", 0.012, "lead", "minnow", 0.06),
    Lure("two jigs", 0.005, "tungsten", "two jigs", 0.0, 0.3),
)


@dataclass(frozen=True)
class Case:
    """A scene, a unit as it is set, what is tied on, and the hand's commands step by step.

    lure_depth_m   where the lure hangs to begin with [m below the surface]; None for just below the face
    """

    kind: str
    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure
    luck: int
    hand: list[list[Command]]
    lure_depth_m: float | None = None

    @property
    def view(self) -> ReaderSetup:
        """What a reader knows without looking."""
        return ReaderSetup(self.unit, self.settings, self.scene.face_depth_m, self.scene.temperature_c, self.lure)

    def run(self, neighbours: bool = True) -> BenchRun:
        """The bench, with its neighbours or without: all else comes out the same."""
        scene = self.scene if neighbours else replace(self.scene, neighbours=())
        rng = np.random.default_rng(self.luck)
        return BenchRun(scene, self.unit, self.settings, self.lure, rng, lure_depth_m=self.lure_depth_m)


def with_gain(scene: Scene, unit: UnitProfile, settings: Settings, lure: Lure, at_m: float, over_db: float) -> Settings:
    """The settings with the gain that a card advises for the lure at `at_m` [m below the surface], and `over_db`."""
    t = transmission.transmit(scene, unit, settings)
    shown = picture.window(settings, scene.bottom_range_m)
    limits = gain_window(t, unit, settings, lure, at_m, shown)
    gain = limits.advised + over_db / unit.gain.db_per_step * unit.gain.step
    gain = float(np.clip(gain, unit.gain.minimum, unit.gain.maximum))
    return replace(settings, gain=gain).checked(unit)


def scenario(seed: int) -> Case:
    """A case of the kind that the reader was first made for. Everything follows from the seed."""
    rng = np.random.default_rng(seed)
    unit: UnitProfile = (*SHIPPED, TRAIL_UNIT)[rng.integers(5)]
    depth = float(rng.uniform(3.0, 16.0))
    scene = Scene(
        depth,
        str(rng.choice(["mud", "silt", "sand", "gravel", "rock"])),
        0.4,
        0.5,
        clarity=str(rng.choice(["clear", "stained", "murky"], p=[0.5, 0.35, 0.15])),
        visitors=int(rng.integers(0, 4)),
        plankton="thin" if rng.random() < 0.15 else "none",
        hour=float(rng.choice([12.0, 17.0, 21.0])),
        weed_height_m=float(rng.uniform(0.3, 0.9)) if rng.random() < 0.15 else 0.0,
    )
    if rng.random() < 0.2:
        scene = replace(scene, structures=(Structure("log", float(rng.uniform(-1.0, 1.0)), 0.4),))
    if rng.random() < 0.15:
        scene = replace(scene, second_hole_m=0.6, hung=(Hung("dead stick", depth - float(rng.uniform(0.3, 1.5))),))
    if rng.random() < 0.2:
        species = str(rng.choice(["bait", "whitefish", "grayling"]))
        count = int(rng.integers(6, 16)) if species == "bait" else int(rng.integers(1, 5))
        middle = 0.4 + 0.6 * (depth - 0.4) * float(rng.uniform(0.5, 1.2))
        scene = replace(scene, shoals=(Shoal(species, count, "loose", middle),))
    rejection = 0
    if rng.random() < 0.2:
        scene = replace(scene, neighbours=(Neighbour(float(rng.uniform(3.0, 9.0)), ping_interval_s=0.0473),))
        rejection = min(int(rng.integers(0, 3)), len(unit.rejections) - 1)
    lure = LURES[rng.integers(len(LURES))]
    at = depth - float(rng.uniform(0.4, min(2.5, 0.5 * depth)))
    settings = Settings(
        unit.gain.minimum,
        smallest_range(unit, scene.bottom_range_m),
        rejection=rejection,
        pulse=int(rng.integers(len(unit.pulses))) if rng.random() < 0.3 else 0,
        beam=int(rng.integers(len(unit.beams))),
    )
    if unit.bottom_windows_m and rng.random() < 0.2:
        heights = [one for one in unit.bottom_windows_m if 0.8 * one > depth - at + 0.3]
        if heights:
            settings = replace(settings, bottom_window_m=heights[0])
    settings = with_gain(scene, unit, settings, lure, at, float(rng.uniform(-0.5, 3.0)))
    hand = hand_of(np.random.default_rng(seed + 1_000_000), at, depth)
    return Case("first", scene, unit, settings, lure, seed + 2_000_000, hand)


def hand_of(rng: np.random.Generator, at: float, bottom: float) -> list[list[Command]]:
    """Lower the lure, then hold, lift slowly or fast, drop, twitch, as anyone would who tries things."""
    steps: list[list[Command]] = [[] for _ in range(int(SECONDS / STEP_S))]
    steps[5].append(Command(to_depth_m=at))
    now = 8.0 + float(rng.uniform(0.0, 3.0))
    while now < SECONDS - 6.0:
        what = rng.choice(["hold", "slow", "fast", "drop", "twitch", "back"], p=[0.2, 0.3, 0.1, 0.1, 0.2, 0.1])
        long = 0.0
        if what == "slow":
            long, speed = float(rng.uniform(2.0, 5.0)), float(rng.uniform(0.015, 0.05))
        elif what == "fast":
            long, speed = float(rng.uniform(0.4, 1.0)), float(rng.uniform(0.15, 0.4))
        elif what == "drop":
            long, speed = float(rng.uniform(0.4, 1.5)), -float(rng.uniform(0.1, 0.4))
        if long:
            steps[int(now / STEP_S)].append(Command(lift_m_s=speed))
            steps[int((now + long) / STEP_S)].append(Command(lift_m_s=0.0))
        elif what == "twitch":
            steps[int(now / STEP_S)].append(Command(twitch=True))
        elif what == "back":
            steps[int(now / STEP_S)].append(Command(to_depth_m=min(at + float(rng.uniform(-0.3, 0.3)), bottom - 0.1)))
        now += long + float(rng.uniform(1.0, 4.0))
    return steps


__all__ = ["FOOT", "SCORED", "SECONDS", "TUNING_FROM", "scenario"]
