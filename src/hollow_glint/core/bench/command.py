"""A command: one thing the angler does with knobs, hand or eyes."""

from __future__ import annotations

from dataclasses import dataclass

from ..checks import number, one_of
from ..fish import rod
from ..fish.strike import HAND_M_S, RODS
from ..gear.settings import Settings
from ..hole import contents
from ..hole.scene import Scene


@dataclass(frozen=True)
class Command:
    """One thing the angler does. Only what is given changes.

    settings       new knob positions
    lift_m_s       hand speed [m/s], upwards positive, kept until changed; 0 holds still
    to_depth_m     let the lure go to this depth [m below the surface] and hold it there
    twitch         one short twitch of the rod
    eyes           "sonar" or "rod"
    set_hook       sets the hook: `force` "firm" or "hard", on the `rod` in hand ("jig") or the dead stick ("stick")
    scene          the water as it is from now on: hang the transducer anew, let the evening come
    kick           makes automatic range look for the bottom anew, from the smallest range up
    target_depth_m the target line [m below the surface], 0 takes it away
    """

    settings: Settings | None = None
    lift_m_s: float | None = None
    to_depth_m: float | None = None
    twitch: bool = False
    eyes: str | None = None
    set_hook: bool = False
    force: str = "firm"
    rod: str = "jig"
    scene: Scene | None = None
    kick: bool = False
    target_depth_m: float | None = None

    def __post_init__(self) -> None:
        if self.lift_m_s is not None:
            number("lift_m_s", self.lift_m_s, -HAND_M_S, HAND_M_S, "m/s")
        if self.to_depth_m is not None:
            number("to_depth_m", self.to_depth_m, 0.0, contents.DEEPEST_M, "m")
        if self.target_depth_m is not None:
            number("target_depth_m", self.target_depth_m, 0.0, contents.DEEPEST_M, "m")
        if self.eyes is not None:
            one_of("eyes", self.eyes, ("sonar", "rod"))
        one_of("force", self.force, tuple(rod.SWEEPS))
        one_of("rod", self.rod, RODS)
