"""A mark touched: what made it, where that really is, and why it looks as it does.

Every ping's targets are remembered for a while; of all that answers at the touched range, the loudest is named.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..hole import interference
from ..hole.scatterers import EchoSource, SourceKind
from ..hole.scene import Scene
from ..sonar import ping
from ..sonar.pulse import KERNEL_PULSES, pulse_envelope
from ..sonar.still_echoes import second_echo_range
from ..sonar.transmission import Transmission
from ..wording import Quantity


@dataclass(frozen=True)
class HeardPing:
    """What a ping heard: its number and time [s], the still part, and its single targets.

    place   (targets, 3) [m], strength_db (targets,) [dB re 1 m^2], names of each
    """

    number: int
    time_s: float
    transmission: Transmission
    place: NDArray[np.float32]
    strength_db: Floats
    names: tuple[EchoSource, ...]


# What can make a mark; those of EchoSource.kind and what is in no single place.
MakerKind = Literal[SourceKind, "nothing", "silt", "plankton", "water", "weeds", "walls", "ringing", "bottom",
                    "second echo", "neighbour"]  # fmt: skip


@dataclass(frozen=True)
class TouchedMark:
    """What a mark is: its maker's kind, two sentences with `{names}` for `values`, and where its maker truly is.

    depth_m, aside_m   [m], None for what is not in one place (water, neighbours, ringing)
    """

    kind: MakerKind
    finding: str
    reason: str
    values: dict[str, Quantity] = field(default_factory=dict)
    depth_m: float | None = None
    aside_m: float | None = None


CALLED: dict[SourceKind, str] = {
    "lure": "your lure",
    "line": "a bubble on your line",
    "dead stick": "the dead-stick line in the second hole",
    "camera": "the camera in the second hole",
    "log": "a log on the bottom",
    "boulder": "a boulder on the bottom",
    "brush": "a brush pile",
}


def explain(scene: Scene, heard: HeardPing, range_m: float, dark_db: float) -> TouchedMark:
    """What stands at `range_m` [m from the face] in the ping `heard`; `dark_db` lights the first colour there [dB]."""
    t = heard.transmission
    at = int(np.clip(range_m / t.bin_m, 0, t.bin_range_m.size - 1))
    loudest, level = _loudest_target(heard, range_m)
    arriving = _arriving(heard, range_m)
    first = scene.bottom_range_m * float(np.cos(np.radians(scene.slope_deg)))
    second = second_echo_range(scene)
    bed = t.diffuse[at] + t.steady[at] - t.open_water[at] - t.weeds[at] - t.clutter[at]
    beyond = range_m > second - 0.1 and t.steady[at] > 0.5 * bed
    found: list[tuple[float, TouchedMark]] = [
        (float(t.open_water[at]), _water(scene, t, range_m)),
        (float(t.weeds[at]), _weeds(scene)),
        (float(t.clutter[at]), _clutter(scene)),
        (float(max(bed, 0.0)), _second(scene, second) if beyond else _bottom(scene, first, range_m)),
    ]
    if loudest is not None:
        found.append((level, _target(scene, heard, loudest)))
    if arriving is not None:
        found.append((arriving[1], _neighbour(scene, arriving[0])))
    intensity, mark = max(found, key=lambda one: one[0])
    if 10.0 * np.log10(max(intensity, 1e-3)) < dark_db - 6.0:
        return TouchedMark("nothing", "Nothing answers there.", "What is there is too weak to light the first colour.")
    return mark


def _loudest_target(heard: HeardPing, range_m: float) -> tuple[int | None, float]:
    """The single target whose pulse covers `range_m` and is loudest there, and its mean intensity."""
    t = heard.transmission
    place = heard.place.astype(np.float64)
    below = place[:, 2] - t.face_depth_m
    r = np.hypot(np.hypot(place[:, 0], place[:, 1]), below)
    behind = (range_m - r) / t.resolution_m
    best, level = None, 0.0
    for i in np.flatnonzero((below > 0.05) & (behind > -0.6) & (behind < KERNEL_PULSES)):
        aside = float(np.hypot(place[i, 0], place[i, 1]))
        mean_db = ping.target_echo_level(t, float(heard.strength_db[i]), float(place[i, 2]), aside)
        shape = float(pulse_envelope(np.array([max(behind[i], 0.25)]))[0])
        intensity = 10.0 ** (mean_db / 10.0) * shape
        if intensity > level:
            best, level = int(i), intensity
    return best, level


def _arriving(heard: HeardPing, range_m: float) -> tuple[int, float] | None:
    """The neighbour whose ping arrives just then, and its intensity."""
    t = heard.transmission
    best: tuple[int, float] | None = None
    for path in t.paths:
        delay, strength = interference.arrivals(
            interference.NeighbourArrivals.of((path,), t.listen_s), np.array([heard.time_s])
        )
        behind = (range_m - 0.5 * t.sound_speed_m_s * delay[0]) / t.resolution_m
        here = strength[0] * np.where((behind > -0.6) & (behind < 2.0), 1.0, 0.0)
        if here.max(initial=0.0) > (best[1] if best else 0.0):
            best = path.neighbour, float(here.max())
    return best


def _target(scene: Scene, heard: HeardPing, index: int) -> TouchedMark:
    x, y, z = (float(v) for v in heard.place[index])
    who = heard.names[index]
    aside = float(np.hypot(x, y))
    below = z - heard.transmission.face_depth_m
    looks = float(np.hypot(below, aside)) - below
    off_db = ping.target_echo_level(heard.transmission, 0.0, z) - ping.target_echo_level(
        heard.transmission, 0.0, z, aside
    )
    values = {
        "depth": Quantity(z, "m"),
        "aside": Quantity(aside, "m"),
        "looks": Quantity(looks, "m"),
        "off": Quantity(float(off_db), "dB"),
        "length": Quantity(who.length_m, "m"),
    }
    if who.kind in ("fish", "school"):
        name = (
            f"a {who.species} of {{length}}" if who.kind == "fish" else f"one of a school of {who.species}, {{length}}"
        )
        if who.species == "bait":
            name = "a baitfish of {length}, one of many"
    else:
        name = CALLED[who.kind]
    if aside > 0.15:
        reason = (
            "It is {aside} to the side, so its echo goes the long way and looks {looks} too deep, and is {off} weaker."
        )
    elif who.kind == "fish":
        reason = "It is under the hole: the mark stands at its true depth and as strong as it gets."
    else:
        reason = "It hangs in the middle of the beam: the mark stands at its true depth."
    return TouchedMark(who.kind, f"This is {name}, truly at {{depth}}.", reason, values, z, aside)


def _water(scene: Scene, t: Transmission, range_m: float) -> TouchedMark:
    depth = np.array([scene.face_depth_m + range_m])
    clear = 10.0 ** (scene.volume_scattering_db / 10.0)
    settled = float(replace(scene, silt=0.0).volume_scattering(depth)[0])
    if scene.volume_scattering(depth)[0] > 2.0 * settled:
        return TouchedMark(
            "silt", "This is silt, stirred up from the bottom.", "It hangs for some minutes, then settles."
        )
    if scene.clarity == "plankton" or settled > 2.0 * clear:
        why = "Thousands of specks answer at once from everywhere in the beam; by day they lie deep, at dusk they rise."
        return TouchedMark("plankton", "This is plankton.", why)
    return TouchedMark("water", "This is the water itself.", "At this gain the specks in it reach the first colour.")


def _weeds(scene: Scene) -> TouchedMark:
    values = {"top": Quantity(scene.weed_top_m, "m"), "bottom": Quantity(scene.bottom_depth_m, "m")}
    why = "Stems and the bubbles on them answer like a soft bottom. The bottom itself is at {bottom}."
    return TouchedMark("weeds", "These are weeds, standing up to {top}.", why, values, scene.weed_top_m, 0.0)


def _clutter(scene: Scene) -> TouchedMark:
    if scene.inside_ice_m > 0.0:
        values = {"deep": Quantity(scene.inside_ice_m, "m")}
        return TouchedMark(
            "walls", "These are the walls of the hole.", "The transducer hangs {deep} up inside it.", values
        )
    return TouchedMark(
        "ringing", "This is the transducer itself, ringing.", "It rings on for a moment after each pulse."
    )


def _bottom(scene: Scene, first: float, range_m: float) -> TouchedMark:
    values = {"depth": Quantity(scene.bottom_depth_m, "m"), "under": Quantity(max(range_m - first, 0.0), "m")}
    if range_m - first > 0.6:
        why = "It lies {under} under the first line: bottom seen aslant at the beam's edge, and sound from within."
        return TouchedMark(
            "bottom", f"This is the tail of the bottom, {scene.bottom_kind}.", why, values, scene.bottom_depth_m
        )
    why = "The first line is the bottom nearest to the transducer; a hard one is thin and bright, a soft one thick."
    return TouchedMark(
        "bottom", f"This is the bottom, {scene.bottom_kind}, at {{depth}}.", why, values, scene.bottom_depth_m
    )


def _second(scene: Scene, second: float) -> TouchedMark:
    values = {"depth": Quantity(scene.bottom_depth_m, "m"), "shown": Quantity(second, "m")}
    why = "That sound went down, up to the ice and down once more, so it stands near twice the depth, {depth}."
    return TouchedMark("second echo", "This is the second echo of the bottom, shown at {shown}.", why, values)


def _neighbour(scene: Scene, index: int) -> TouchedMark:
    values = {"away": Quantity(scene.neighbours[index].distance_m, "m")}
    why = "Its pings come when they like, so their marks drift through your picture. Rejection drops them."
    return TouchedMark("neighbour", "This is a neighbour's sonar, {away} away.", why, values)
