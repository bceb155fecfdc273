"""The call sheet: from what an angler sees on a unit that gives no data, to what it can be, where, and what to do.

A mark is described in a few touches: shown depth, colour, thickness, how it moves, how it changes, what it is near.
Each thing that it could be gets a prior and, touch by touch, the chance that it would look so at this hole with these
settings. Fish are a grid of lengths and distances aside, each with the colour that the sonar equation gives it, so the
region where the fish can be falls out of the same sum. Priors and chances without a source named are common practice.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from . import ping, receiver, sizing
from .checks import Floats, InputError, number, one_of
from .lures import Lure
from .ping import Transmission
from .said import Quantity, Said
from .scene import Scene
from .tuning import dead_zone_top, lure_level
from .unit import Settings, UnitProfile

THICKNESSES = ("thin", "as the lure", "thicker", "band")
MOTIONS = ("still", "with the rod", "rising", "sinking", "drifting", "flickers")
CHANGES = ("steady", "growing", "fading")
NEAR = ("open water", "near the lure", "at the bottom", "under the bottom", "near the top")
BOTTOMS = ("quiet", "restless", "thick and soft", "thin and hard", "broken, with stems")

SHOWN_SD_M = 0.12  # how well anyone reads a depth off a screen. Common practice, no source
COLOUR_SD = 0.8  # and a colour, in steps
IMPOSSIBLE = -40.0
UNDER_THE_HOLE_M = 0.15
INSIDE = 0.95  # share of the chance that the drawn region holds
FITS_BADLY = -9.0  # log chance of the best explanation from which nothing fits well

LENGTHS_M = np.geomspace(0.04, 0.8, 28)
# How common fish of a length are where people fish for them. Common practice, no source: falls with length.
LENGTH_CHANCE = (LENGTHS_M / 0.1) ** -0.7
LENGTH_CHANCE = LENGTH_CHANCE / LENGTH_CHANCE.sum()


@dataclass(frozen=True)
class Observation:
    """What was seen.

    shown_m     depth on the unit's scale [m from the face] at which the mark begins
    colour      the strongest step of the ladder in it, 1 weakest; thickness in THICKNESSES
    motion      in MOTIONS; change in CHANGES; near in NEAR; bottom in BOTTOMS, None for not looked at
    """

    shown_m: float
    colour: int
    thickness: str = "as the lure"
    motion: str = "still"
    change: str = "steady"
    near: str = "open water"
    bottom: str | None = None

    def __post_init__(self) -> None:
        number("shown_m", self.shown_m, 0.0, 150.0, "m")
        number("colour", self.colour, 1, 32)
        one_of("thickness", self.thickness, THICKNESSES)
        one_of("motion", self.motion, MOTIONS)
        one_of("change", self.change, CHANGES)
        one_of("near", self.near, NEAR)
        if self.bottom is not None:
            one_of("bottom", self.bottom, BOTTOMS)


@dataclass(frozen=True)
class At:
    """Where it was seen: the hole, the unit as it stands, what hangs where [m below the surface]."""

    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure | None = None
    lure_depth_m: float | None = None

    @property
    def transmission(self) -> Transmission:
        """The still part of its pings."""
        return ping.transmit(self.scene, self.unit, self.settings)


@dataclass(frozen=True, eq=False)
class Region:
    """Where a fish can be: least and most depth at each distance aside [m], shape (points,)."""

    aside_m: Floats
    top_m: Floats
    bottom_m: Floats

    def holds(self, aside_m: float, depth_m: float) -> bool:
        """Whether a place is inside."""
        if not self.aside_m[0] - 1e-9 <= aside_m <= self.aside_m[-1] + 1e-9:
            return False
        return bool(
            np.interp(aside_m, self.aside_m, self.top_m) <= depth_m <= np.interp(aside_m, self.aside_m, self.bottom_m)
        )


@dataclass(frozen=True)
class Call:
    """One thing that it can be: chance [0 to 1], why, what to do; for fish where and how long.

    likely_length_m   how long it would be under the hole, and at the outer edge of the region [m]
    """

    kind: str
    chance: float
    because: tuple[Said, ...]
    do: str
    region: Region | None = None
    depth_m: tuple[float, float] | None = None
    length_m: tuple[float, float] | None = None
    likely_length_m: tuple[float, float] | None = None


@dataclass(frozen=True)
class Sheet:
    """The answer: calls, likeliest first, and whether nothing fits well."""

    calls: tuple[Call, ...]
    fits: bool


@dataclass
class _Kind:
    """One explanation: its prior and its chance of each touch."""

    prior: float
    thickness: tuple[float, ...]
    motion: tuple[float, ...]
    change: tuple[float, ...]
    near: tuple[float, ...]
    do: str
    bottom: dict[str, float] = field(default_factory=dict)


# Chances of each touch, in the order of THICKNESSES, MOTIONS, CHANGES and NEAR. Common practice, no source.
KINDS: dict[str, _Kind] = {
    "your lure": _Kind(
        0.22, (0.15, 0.70, 0.13, 0.02), (0.35, 0.58, 0.02, 0.02, 0.02, 0.01), (0.9, 0.05, 0.05),
        (0.4, 0.5, 0.08, 0.01, 0.01), "Move the rod a little: your lure is what moves with it.",
    ),
    "a fish": _Kind(
        0.34, (0.25, 0.30, 0.43, 0.02), (0.36, 0.06, 0.24, 0.16, 0.14, 0.04), (0.48, 0.27, 0.25),
        (0.45, 0.33, 0.18, 0.02, 0.02), "Hold still. If it comes, lift slowly; if it does not, twitch once.",
        {"restless": 1.6},
    ),
    "baitfish": _Kind(
        0.08, (0.55, 0.15, 0.05, 0.25), (0.30, 0.01, 0.12, 0.12, 0.40, 0.05), (0.5, 0.25, 0.25),
        (0.85, 0.1, 0.03, 0.01, 0.01), "Look under it and at its edges for what hunts it.",
    ),
    "plankton or silt": _Kind(
        0.06, (0.25, 0.02, 0.01, 0.72), (0.15, 0.005, 0.03, 0.03, 0.085, 0.70), (0.8, 0.1, 0.1),
        (0.75, 0.05, 0.05, 0.01, 0.14), "Lower the gain until it goes dark; your lure should stay.",
    ),
    "weeds": _Kind(
        0.05, (0.05, 0.05, 0.10, 0.80), (0.35, 0.005, 0.01, 0.01, 0.025, 0.60), (0.95, 0.025, 0.025),
        (0.05, 0.03, 0.90, 0.01, 0.01), "Take the short pulse, and fish the edge or the gaps.",
        {"broken, with stems": 8.0, "thick and soft": 1.5},
    ),
    "the bottom": _Kind(
        0.08, (0.05, 0.03, 0.12, 0.80), (0.93, 0.005, 0.005, 0.005, 0.005, 0.05), (0.98, 0.01, 0.01),
        (0.02, 0.02, 0.94, 0.01, 0.01), "This is what depth is measured from.",
    ),
    "the second echo of the bottom": _Kind(
        0.03, (0.30, 0.10, 0.30, 0.30), (0.95, 0.005, 0.005, 0.005, 0.005, 0.03), (0.98, 0.01, 0.01),
        (0.02, 0.01, 0.01, 0.95, 0.01), "Ignore it: it says that the bottom is hard.",
        {"thin and hard": 4.0, "thick and soft": 0.1},
    ),
    "a neighbour's sonar": _Kind(
        0.04, (0.30, 0.30, 0.35, 0.05), (0.01, 0.005, 0.10, 0.10, 0.385, 0.40), (0.6, 0.2, 0.2),
        (0.70, 0.1, 0.08, 0.06, 0.06), "Turn rejection up a step. If it goes, it was theirs.",
    ),
    "surface clutter": _Kind(
        0.03, (0.05, 0.05, 0.10, 0.80), (0.70, 0.005, 0.005, 0.005, 0.005, 0.28), (0.97, 0.015, 0.015),
        (0.03, 0.02, 0.01, 0.01, 0.93), "Lower the transducer below the ice, and wet its face.",
    ),
    "something that hangs still": _Kind(
        0.04, (0.35, 0.50, 0.14, 0.01), (0.96, 0.005, 0.01, 0.01, 0.01, 0.005), (0.97, 0.015, 0.015),
        (0.55, 0.25, 0.18, 0.01, 0.01), "Lift your lure past it: what stays is not yours.",
    ),
}  # fmt: skip


def call_sheet(at: At, seen: Observation) -> Sheet:
    """What a mark can be. Raises ValueError for a colour that the ladder does not have, or a depth off the picture."""
    steps = len(at.unit.ladders[at.settings.ladder].steps)
    if seen.colour > steps:
        raise InputError(f"colour is {seen.colour}: this ladder has {steps} steps")
    if seen.shown_m > at.settings.range_m:
        raise InputError(f"shown_m is {seen.shown_m:g} m: the picture ends at {at.settings.range_m:g} m")
    grid = _fish_grid(at, seen)
    logs: dict[str, float] = {}
    why: dict[str, list[Said]] = {}
    for name, kind in KINDS.items():
        touches = (
            kind.thickness[THICKNESSES.index(seen.thickness)], kind.motion[MOTIONS.index(seen.motion)],
            kind.change[CHANGES.index(seen.change)], kind.near[NEAR.index(seen.near)],
        )  # fmt: skip
        log = float(np.log(kind.prior) + np.log(touches).sum())
        if seen.bottom is not None:
            log += float(np.log(kind.bottom.get(seen.bottom, 1.0)))
        physics, said = _by_model(name, at, seen, grid)
        logs[name] = log + physics
        why[name] = [*said, *_by_looks(name, kind, seen)]
    best = max(logs.values())
    total = sum(np.exp(one - best) for one in logs.values())
    calls: list[Call] = []
    for name in sorted(logs, key=lambda one: -logs[one]):
        chance = float(np.exp(logs[name] - best) / total)
        if chance < 0.02 and calls:
            continue
        fish = name in ("a fish", "baitfish") and grid.log_evidence > IMPOSSIBLE
        region = grid.region() if fish else None
        calls.append(
            Call(
                name, chance, tuple(why[name][:3]), _what_to_do(name, seen), region,
                None if region is None else (float(region.top_m.min()), float(region.bottom_m.max())),
                grid.lengths() if fish else None,
                grid.likely() if fish else None,
            )
        )  # fmt: skip
    return Sheet(tuple(calls), best > FITS_BADLY)


@dataclass(frozen=True, eq=False)
class _Grid:
    """Chance of a fish at each distance aside and of each length, shape (asides, lengths), and log of its sum."""

    scene: Scene
    range_m: float
    aside_m: Floats
    chance: Floats
    log_evidence: float

    def asides(self) -> tuple[int, int]:
        """First and last distance aside of the smallest set that holds INSIDE of the chance."""
        share = self.chance.sum(axis=1)
        share = share / max(share.sum(), 1e-300)
        order = np.argsort(-share)
        held = order[: int(np.searchsorted(np.cumsum(share[order]), INSIDE)) + 1]
        # The middle is small, not forbidden: what reaches near it reaches it.
        first = int(held.min())
        return 0 if self.aside_m[first] < UNDER_THE_HOLE_M else first, int(held.max())

    def region(self) -> Region:
        """Where the fish can be: a shell at its slant range, as wide as the chance reaches."""
        first, last = self.asides()
        aside = self.aside_m[first : last + 1]
        if aside.size == 1:
            aside = np.array([aside[0], aside[0] + 0.05])
        face, slack = self.scene.face_depth_m, 2.0 * SHOWN_SD_M
        near, far = max(self.range_m - slack, 0.05), self.range_m + slack
        top = face + np.sqrt(np.maximum(near**2 - aside**2, 0.0))
        bottom = np.minimum(face + np.sqrt(np.maximum(far**2 - aside**2, 0.0)), self.scene.bottom_depth_m)
        return Region(aside, np.minimum(top, bottom), bottom)

    def lengths(self) -> tuple[float, float]:
        """Least and most length that hold INSIDE of the chance."""
        share = self.chance.sum(axis=0)
        total = np.cumsum(share) / max(share.sum(), 1e-300)
        low, high = np.searchsorted(total, [(1.0 - INSIDE) / 2.0, (1.0 + INSIDE) / 2.0])
        return float(LENGTHS_M[low]), float(LENGTHS_M[min(high, LENGTHS_M.size - 1)])

    def likely(self) -> tuple[float, float]:
        """The middle length nearest to the hole, and at the outer edge."""
        out = []
        for at in self.asides():
            share = self.chance[at] / max(self.chance[at].sum(), 1e-300)
            out.append(float(LENGTHS_M[min(int(np.searchsorted(np.cumsum(share), 0.5)), LENGTHS_M.size - 1)]))
        return out[0], out[1]


def _fish_grid(at: At, seen: Observation) -> _Grid:
    """Every length at every distance aside that this range leaves open, and the chance that it paints that colour."""
    t = at.transmission
    r = max(seen.shown_m, 0.1)
    angle = np.radians(np.linspace(0.0, 50.0, 121))
    aside = r * np.sin(angle)
    two_way = 10.0 * np.log10(np.maximum(t.two_way_pattern[_sine_index(t, angle)], 1e-30))
    on_axis = ping.target_echo_level(t, 0.0, t.face_depth_m + max(r, 0.06))
    strength = sizing.fish_strengths(LENGTHS_M, t.frequency_hz)
    mean_db = on_axis + two_way[:, None] + strength[None, :]
    limits = sizing.level_thresholds(at.unit, at.unit.ladders[at.settings.ladder])
    zero = sizing.echo_level(0.0, r, at.unit, at.settings)
    chance, visible = _colour_chance(mean_db - zero, limits, seen.colour)
    # More water lies further out, and a fish that is not under the hole is as common there as anywhere.
    area = np.gradient(aside**2)
    prior = np.maximum(area, area[area > 0].min())[:, None] * LENGTH_CHANCE[None, :]
    # Nothing swims in the bottom; what would have to is not there.
    deep = t.face_depth_m + np.sqrt(np.maximum(r**2 - aside**2, 0.0))
    prior = prior * (deep < at.scene.bottom_depth_m)[:, None]
    weight = prior * chance
    shows = float((prior * visible).sum())
    if shows <= 1e-6 * float(prior.sum()):  # under the bottom, or nowhere that any fish would show
        return _Grid(at.scene, r, aside, weight, IMPOSSIBLE)
    # Of the fish that show there at all, the share that shows so.
    evidence = min(float(weight.sum()) / shows, 1.0)
    return _Grid(at.scene, r, aside, weight, float(np.log(max(evidence, 1e-12))))


def _sine_index(t: Transmission, angle: Floats) -> NDArray[np.intp]:
    index: NDArray[np.intp] = (np.sin(angle) * (t.two_way_pattern.size - 1)).astype(np.intp)
    return index


def _colour_chance(over_db: Floats, limits_db: Floats, colour: int) -> tuple[Floats, Floats]:
    """Chance that a Rayleigh scatterer whose mean is `over_db` [dB over the ladder's zero] is called this colour, and
    that it shows at all.

    Over a second or so the eye takes the strongest of a handful of pings; it may be a step off either way.
    """
    pings = 6.0
    mean = 10.0 ** (over_db / 10.0)
    above = [1.0 - (1.0 - np.exp(-np.minimum(10.0 ** (limit / 10.0) / mean, 700.0))) ** pings for limit in limits_db]
    above.append(np.zeros_like(mean))
    steps = len(limits_db)
    weight = np.exp(-0.5 * ((np.arange(1, steps + 1) - colour) / COLOUR_SD) ** 2)
    weight /= weight.sum()
    out: Floats = sum(weight[k] * (above[k] - above[k + 1]) for k in range(steps))
    return np.maximum(out, 1e-12), above[0]


def _steady_colour(at: At, level_db: float, range_m: float) -> float:
    """Which step of the ladder a steady echo lights, as a number; below 1 it is dark."""
    over = level_db - sizing.echo_level(0.0, max(range_m, 0.1), at.unit, at.settings)
    limits = sizing.level_thresholds(at.unit, at.unit.ladders[at.settings.ladder])
    step = float(np.diff(limits).mean())
    return float(np.clip((over - limits[0]) / step + 0.5, -2.0, limits.size))


def _gauss(off: float, sd: float) -> float:
    return float(-0.5 * (off / sd) ** 2)


def _by_model(name: str, at: At, seen: Observation, grid: _Grid) -> tuple[float, list[Said]]:
    """Log chance of depth and colour by the model, and what that says."""
    scene, t = at.scene, at.transmission
    steps = len(at.unit.ladders[at.settings.ladder].steps)
    flat = float(np.log(1.0 / steps))
    if name == "your lure":
        if at.lure is None or at.lure_depth_m is None:
            return flat - 1.5, []
        where = at.lure_depth_m - scene.face_depth_m
        off = float(receiver.taken_off(at.unit, at.settings, np.array([max(where, 0.05)]))[0])
        level = lure_level(t, at.unit, at.settings, at.lure, at.lure_depth_m) + off
        colour = _steady_colour(at, level, where)
        said = Said("Your lure hangs at {at} on this scale.", {"at": Quantity(where, "m")})
        log = _gauss(seen.shown_m - where, 0.3) + 1.2 + _gauss(seen.colour - max(colour, 0.5), COLOUR_SD)
        return max(log, -14.0), [said]
    if name in ("a fish", "baitfish") and grid.log_evidence <= IMPOSSIBLE:
        return IMPOSSIBLE, []
    if name in ("a fish", "baitfish"):
        low, high = grid.lengths()
        last = grid.asides()[1]
        said = Said(
            "A fish of {low} to {high} paints that colour there, up to {aside} aside.",
            {"low": Quantity(low, "m"), "high": Quantity(high, "m"), "aside": Quantity(float(grid.aside_m[last]), "m")},
        )
        small = float(grid.chance[:, LENGTHS_M < 0.09].sum() / max(grid.chance.sum(), 1e-300))
        share = small if name == "baitfish" else 1.0 - 0.7 * small
        return grid.log_evidence + float(np.log(max(share, 1e-3))), [said]
    line = scene.bottom_range_m * float(np.cos(np.radians(scene.slope_deg)))
    if name == "the bottom":
        said = Said("The bottom stands at {at} on this scale.", {"at": Quantity(line, "m")})
        return _gauss(seen.shown_m - line, 0.25) + 0.8 + _gauss(seen.colour - steps, 1.0), [said]
    if name == "the second echo of the bottom":
        again = ping.second_echo_range(scene)
        said = Said("It would stand at {at}.", {"at": Quantity(again, "m")})
        return max(_gauss(seen.shown_m - again, 0.3), -12.0) + 0.5 + flat, [said]
    if name == "weeds":
        above = line - seen.shown_m
        said = Said("It begins {above} above the bottom.", {"above": Quantity(max(above, 0.0), "m")})
        return (flat if 0.1 < above < 2.5 else flat - 4.0), [said]
    if name == "surface clutter":
        foot = max(scene.inside_ice_m, 0.0) + 0.6
        return (flat + 0.5 if seen.shown_m < foot + 0.4 else flat - 7.0), []
    if name == "a neighbour's sonar":
        known = len(scene.neighbours) > 0
        said = Said("You have said that others ping near." if known else "You have not said that others ping near.")
        return flat + (1.2 if known else -0.7), [said]
    if name == "plankton or silt":
        return flat + _gauss(seen.colour - 1.0, 1.2), []
    # Only a second hole or what lies there gives something to hang still.
    known = bool(scene.hung or scene.structures)
    return (flat if known else flat - 1.5), []


def _by_looks(name: str, kind: _Kind, seen: Observation) -> list[Said]:
    """The touches that speak for it most."""
    said = []
    looks = (
        (kind.motion[MOTIONS.index(seen.motion)] * len(MOTIONS), f"It {_moves(seen.motion)}."),
        (kind.thickness[THICKNESSES.index(seen.thickness)] * len(THICKNESSES), f"It is {_thick(seen.thickness)}."),
        (
            kind.near[NEAR.index(seen.near)] * len(NEAR),
            f"It is {seen.near if seen.near != 'open water' else 'in open water'}.",
        ),
        (kind.change[CHANGES.index(seen.change)] * len(CHANGES), f"It is {seen.change}."),
    )
    for weight, text in sorted(looks, key=lambda one: -one[0]):
        if weight > 1.3:
            said.append(Said(text))
    return said


def _moves(motion: str) -> str:
    return {"still": "stays where it is", "with the rod": "moves with the rod", "rising": "rises", "sinking": "sinks",
            "drifting": "drifts", "flickers": "flickers"}[motion]  # fmt: skip


def _thick(thickness: str) -> str:
    return {"thin": "thin", "as the lure": "as thick as the lure", "thicker": "thicker than the lure",
            "band": "a band"}[thickness]  # fmt: skip


def _what_to_do(name: str, seen: Observation) -> str:
    if name == "a fish":
        if seen.near == "near the lure" and seen.motion == "rising":
            return "It comes. Hold still; when the marks touch, eyes to the rod tip."
        if seen.change == "fading":
            return "It is leaving to the side. Do not chase it down; hold, then twitch once."
        if seen.near == "at the bottom":
            return "Go and look: lower the lure to a hand above the bottom, then lift slowly."
        if seen.motion == "rising":
            return "It comes. Lift slowly, and keep it following."
        if seen.motion == "sinking":
            return "Stop what you do and hold still: it has turned away."
    return KINDS[name].do


def dead_zone(at: At) -> float:
    """Depth [m below the surface] under the hole from which on nothing shows apart from the bottom."""
    return float(dead_zone_top(at.scene, at.transmission.resolution_m, np.zeros(1))[0])
