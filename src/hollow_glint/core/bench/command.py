"""A command: one thing the angler does with knobs, hand or eyes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from ..fields import OneOf, Span, check_fields, doc
from ..fish.events import Eyes
from ..fish.hand import FASTEST
from ..fish.rod import SWEEPS
from ..fish.strike import RODS
from ..gear.settings import Settings
from ..hole.contents import DEEPEST_M
from ..hole.scene import Scene

DownTo = Annotated[float | None, Span(0.0, DEEPEST_M, "m")]


@dataclass(frozen=True)
class HandCommand:
    """One thing the angler does with line, rod or eyes, whatever unit looks on. Only what is given changes."""

    lift_m_s: Annotated[
        float | None, Span(-FASTEST, FASTEST, "m/s"), doc("Hand speed, upwards positive, kept until changed; 0 holds")
    ] = None
    to_depth_m: Annotated[DownTo, doc("Let the lure go to this depth below the surface and hold it there")] = None
    twitch: Annotated[bool, doc("One short twitch of the rod")] = False
    eyes: Annotated[Eyes | None, doc("Where the eyes are")] = None
    set_hook: Annotated[bool, doc("Set the hook")] = False
    force: Annotated[str, OneOf(SWEEPS), doc("How hard the hook is set")] = "firm"
    rod: Annotated[str, OneOf(RODS), doc("The rod whose hook is set: the one in hand, or the dead stick")] = "jig"
    target_depth_m: Annotated[DownTo, doc("The aim line below the surface; 0 takes it away")] = None

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class Command(HandCommand):
    """One thing the angler does with hand, eyes or the Bench's unit."""

    settings: Annotated[Settings | None, doc("New knob positions")] = None
    scene: Annotated[Scene | None, doc("The water as it is from now on: hang it anew, let the evening come")] = None
    kick: Annotated[bool, doc("Automatic range looks for the bottom anew, from the smallest range up")] = False
