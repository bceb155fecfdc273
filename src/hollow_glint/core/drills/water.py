"""Drills about the bottom, the water and the knobs."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from ..gear.profiles import TWO_BEAM_RING
from ..gear.unit import FOOT
from ..hole.contents import Neighbour
from ..sonar import transmission
from ..wording import Quantity, Sentence
from .drill import Drill, DrillKind, TrueMark, choices
from .film import Swimmer
from .holes import DrillHole, drill_hole, lean, line, swimmer, turned

HARD, SOFT = ("sand", "gravel", "rock"), ("mud", "silt")


def how_hard_is_the_bottom(rng: np.random.Generator, level: int) -> Drill:
    """Hard or soft, from tail and second echo."""
    hard = bool(rng.random() < 0.5)
    kind = str(
        rng.choice(("rock", "gravel") if hard and level == 1 else HARD if hard else SOFT[: 1 if level == 1 else 2])
    )
    depth = float(rng.uniform(4.0, 5.0 + level))
    at = drill_hole(rng, 1, bottom_depth_m=depth, bottom_kind=kind, range_share=2.25, clarity="clear")
    # The gain at which the quietest hard bottom's second echo shows by as much as the loudest soft one's does not.
    loud = {name: _second_echo_db(at, name) for name in (*HARD, *SOFT)}
    middle = 0.5 * (min(loud[name] for name in HARD) + max(loud[name] for name in SOFT))
    at = turned(at, at.unit.gain.position(at.unit.gain.first_colour_db - middle))
    time_s = at.times(5.0)
    clip = at.film(time_s, rng)
    second = 2.0 * depth - at.scene.face_depth_m - at.scene.ice_thickness_m
    why = (
        "A hard bottom throws back so much that it is heard again by way of the ice: look at {second} on the shown axis, "
        "which begins at the face, {face} down. A soft one swallows the sound and its tail is all there is."
        if hard
        else "There is no second line at {second} on the shown axis, which begins at the face, {face} down: there a hard bottom "
        "would stand again by way of the ice. What is there is one line with a long, even tail: soft."
    )
    return Drill(
        Sentence("How hard is the bottom? The picture reaches below twice its depth."), (clip,),
        Sentence(why, {"second": Quantity(second, "m"), **at.axis}), (TrueMark(f"bottom, {kind}", "bottom", depth),), 3.0,
        choices(("hard", "Hard: sand, gravel or rock"), ("soft", "Soft: mud or silt")), "hard" if hard else "soft",
    )  # fmt: skip


def _second_echo_db(at: DrillHole, kind: str) -> float:
    """How loud the second echo would be over a bottom of `kind` [dB re 1 uPa]."""
    t = transmission.transmit(replace(at.scene, bottom_kind=kind), at.unit, at.settings)
    beyond = t.bin_range_m > 1.6 * at.scene.bottom_range_m
    return float(10.0 * np.log10(t.steady[beyond].max() + 1e-3))


def second_echo_or_bottom(rng: np.random.Generator, level: int) -> Drill:
    """A line pointed at: the bottom, or its second echo."""
    second = bool(rng.random() < 0.5)
    depth = float(rng.uniform(4.0, 5.0 + level))
    at = drill_hole(rng, 1, bottom_depth_m=depth, bottom_kind=str(rng.choice(["rock", "gravel"])), range_share=2.25,
                 clarity="clear", spare_db=6.0)  # fmt: skip
    time_s = at.times(5.0)
    again = 2.0 * depth - at.scene.face_depth_m - at.scene.ice_thickness_m
    arrow = again if second else at.scene.bottom_range_m
    clip = at.film(time_s, rng, arrow_m=arrow)
    values = {"first": Quantity(at.scene.bottom_range_m, "m"), "again": Quantity(again, "m"), **at.axis}
    why = (
        "The first strong line, at {first} on the shown axis, is the bottom: {face} more, as the face hangs, is its true depth. "
        "The weaker one at {again}, near twice as deep, is the same sound come by way of the ice."
    )
    return Drill(
        Sentence("The arrow points at a line. What is it?"), (clip,), Sentence(why, values),
        (TrueMark("bottom", "bottom", depth),), 3.0,
        choices(("bottom", "The bottom"), ("second", "The bottom's second echo")), "second" if second else "bottom",
    )  # fmt: skip


def weed_or_bottom(rng: np.random.Generator, level: int) -> Drill:
    """A false soft bottom: weeds over it, or mud itself."""
    weeds = bool(rng.random() < 0.5)
    depth = float(rng.uniform(4.5, 6.0 + level))
    height = {1: 1.1, 2: 0.8, 3: 0.55}[level]
    standing: dict[str, Any] = {"weed_height_m": height, "weed_density": 0.5} if weeds else {}
    at = drill_hole(
        rng, 1, bottom_depth_m=depth, bottom_kind="sand" if weeds else "mud", off_bottom_m=2.0, clarity="clear",
        **standing,
    )  # fmt: skip
    top = depth - height if weeds else depth
    time_s = at.times(6.0)
    clip = at.film(time_s, rng, arrow_m=at.range_of(top))
    why = (
        "Above the hard line the echo is broken and flickers ping by ping: stems, standing {height} high. The bottom is the "
        "solid line under them."
        if weeds
        else "The line begins at once in its strongest colour and fades downwards: bottom with a soft tail. Weeds would flicker "
        "above a solid line."
    )
    return Drill(
        Sentence("The arrow points at the top of the lowest echo. What is it?"), (clip,),
        Sentence(why, {"height": Quantity(height, "m")} if weeds else {}),
        (TrueMark("bottom", "bottom", depth), *((TrueMark("top of the weeds", "weeds", top),) if weeds else ())), 3.0,
        choices(("weeds", "The top of weeds"), ("bottom", "The bottom itself")), "weeds" if weeds else "bottom",
    )  # fmt: skip


def is_the_bottom_restless(rng: np.random.Generator, level: int) -> Drill:
    """Does the bottom's edge move? Then something lies close to it, off the axis."""
    restless = bool(rng.random() < 0.5)
    depth = float(rng.uniform(6.0, 8.0 + level))
    at = drill_hole(rng, 1, bottom_depth_m=depth, bottom_kind="mud", off_bottom_m=1.0, clarity="clear", spare_db=4.0,
                 knobs={"bottom_window_m": 5 * FOOT})  # fmt: skip
    time_s = at.times(8.0)
    swims: tuple[Swimmer, ...] = ()
    aside = 0.0
    if restless:
        # Its echo begins just above the line: the slant takes up most of its height off the bottom.
        aside = {1: 0.35, 2: 0.45, 3: 0.55}[level]
        reach = at.scene.bottom_range_m - 0.13
        z = at.scene.face_depth_m + float(np.sqrt(reach**2 - aside**2))
        swims = (swimmer(line(time_s, [(0.0, aside, z), (8.0, aside, z)]), time_s, rng, 0.4 - 0.05 * level),)
    clip = at.film(time_s, rng, swimmers=swims)
    truth = [TrueMark("bottom", "bottom", depth)]
    if restless:
        truth.append(TrueMark("fish", "fish", float(swims[0].way[-1, 2]), aside))
    why = (
        "The upper edge of the bottom jumps from ping to ping, because a fish {aside} off the axis answers just before it. "
        "Lower the lure to a hand above the bottom and see whether it comes."
        if restless
        else "The upper edge is the same row ping after ping. Nothing lies close to it; look elsewhere."
    )
    return Drill(
        Sentence("Is this bottom worth a try? Look at its upper edge."), (clip,),
        Sentence(why, {"aside": Quantity(aside, "m")} if restless else {}), tuple(truth), 4.0,
        choices(("yes", "Yes: something lies close to it"), ("no", "No: the line is quiet")), "yes" if restless else "no",
    )  # fmt: skip


def _mid_way(at: DrillHole, seconds: float) -> int:
    return int(at.times(seconds).size // 2)


def what_changed(rng: np.random.Generator, level: int) -> Drill:
    """One knob is turned half way through."""
    options = ["gain up", "gain down", "range", "window"] + (["filter", "beam"] if level > 1 else [])
    knob = str(rng.choice(options))
    at = drill_hole(
        rng, 1, unit=TWO_BEAM_RING, clarity="stained", bottom_depth_m=float(rng.uniform(5.0, 7.5)), spare_db=2.0
    )
    now, unit = at.settings, at.unit
    step = 12.0 if level == 1 else 9.0
    by = unit.gain.position(step) - unit.gain.minimum
    after = {
        "gain up": lambda: turned(at, now.gain + 1.3 * by).settings,
        "gain down": lambda: turned(at, now.gain - by).settings,
        "range": lambda: replace(now, range_m=next(one for one in unit.ranges_m if one > 1.3 * now.range_m)),
        "window": lambda: replace(now, bottom_window_m=10 * FOOT),
        "filter": lambda: replace(now, noise_filter=2),
        "beam": lambda: replace(now, beam=0),
    }[knob]()
    time_s = at.times(8.0)
    half = _mid_way(at, 8.0)
    way = line(time_s, [(0.0, 0.2, at.lure_m + 0.5), (8.0, 0.2, at.lure_m + 0.45)])
    clip = at.film(time_s, rng, swimmers=(swimmer(way, time_s, rng, 0.25),), changes=((half, after),))
    reasons = {
        "gain up": "Everything grew stronger and thicker at once, and the water began to light. Only gain lifts lure, fish and "
        "water together.",
        "gain down": "Everything grew weaker and thinner at once, and the water went dark. Only gain lowers lure, fish and water "
        "together.",
        "range": "All marks moved up together and shrank, and more water shows below the bottom. A larger range puts more "
        "water into the same rows.",
        "window": "The lowest water now fills the picture and the same marks stand taller. A bottom window spends all rows on it.",
        "filter": "Single specks went out and edges grew soft, while depth and height stayed. The noise filter evens neighbouring "
        "rows out.",
        "beam": "Depths stayed, while the fish and the bottom changed their strength and the bottom's tail grew longer. "
        "A wider beam hears more from the sides.",
    }
    texts = {
        "gain up": "Gain was turned up", "gain down": "Gain was turned down", "range": "The range was made larger",
        "window": "A bottom window was opened", "filter": "The noise filter was turned up", "beam": "A wider beam was taken",
    }  # fmt: skip
    wrong = [one for one in texts if one != knob and (level > 1 or one in options)]
    shown = sorted([knob, *rng.choice(wrong, 3, replace=False)], key=list(texts).index)
    return Drill(
        Sentence("Half way through one thing was changed. What?"), (clip,), Sentence(reasons[knob]),
        (TrueMark("your lure", "lure", at.lure_m), TrueMark("fish", "fish", at.lure_m + 0.47, 0.2)), float(time_s[half]),
        choices(*((one, texts[one]) for one in shown)), knob,
    )  # fmt: skip


def which_knob_mends_it(rng: np.random.Generator, level: int) -> Drill:
    """A bad picture; one change mends it."""
    options = ["gain down", "gain up", "rejection", "range"] + (["lower it"] if level > 1 else [])
    fault = str(rng.choice(options))
    depth = float(rng.uniform(6.0, 8.0))
    faults: dict[str, dict[str, Any]] = {
        "rejection": {"neighbours": (Neighbour(2.2, ping_interval_s=0.0472), Neighbour(3.4, ping_interval_s=0.0531))},
        "range": {"range_share": 4.0},
        "lower it": {"face_depth_m": 0.1},
    }
    more = faults.get(fault, {})
    at = drill_hole(rng, 1, unit=TWO_BEAM_RING, bottom_depth_m=depth, clarity="stained", spare_db=1.0, **more)
    if fault == "gain down":
        at = lean(at, 22.0)
    elif fault == "gain up":
        at = lean(at, -12.0)
    time_s = at.times(6.0)
    clip = at.film(time_s, rng)
    reasons = {
        "gain down": "The whole column is speckled: the water itself is lit. Less gain puts it out, and the lure is far stronger "
        "than it.",
        "gain up": "The water is dark and the lure, {off} above the bottom, does not show. More gain brings it in before the "
        "water lights.",
        "rejection": "Marks of one ping stand in slanting rows all over: other units' pings. Rejection drops what does not repeat.",
        "range": "The bottom stands in the upper part of the picture and all below it is wasted. A smaller range makes every "
        "mark taller.",
        "lower it": "The top is one block of clutter: the face hangs inside the ice and hears the walls of its own hole. Lower it "
        "below the ice.",
    }
    texts = {
        "gain down": "Turn gain down", "gain up": "Turn gain up", "rejection": "Turn rejection up",
        "range": "Take a smaller range", "lower it": "Lower the transducer below the ice",
    }  # fmt: skip
    off = {"off": Quantity(at.bottom_m - at.lure_m, "m")} if fault == "gain up" else {}
    return Drill(
        Sentence("Your lure hangs {off} above the bottom. Which one change mends this picture?",
             {"off": Quantity(at.bottom_m - at.lure_m, "m")}),
        (clip,), Sentence(reasons[fault], off), (TrueMark("your lure", "lure", at.lure_m), TrueMark("bottom", "bottom", depth)),
        3.0, choices(*texts.items()), fault,
    )  # fmt: skip


KINDS = (
    DrillKind("how hard is the bottom", "How hard is the bottom", how_hard_is_the_bottom),
    DrillKind("second echo or bottom", "Second echo or bottom", second_echo_or_bottom),
    DrillKind("weed or bottom", "Weed or bottom", weed_or_bottom),
    DrillKind("restless bottom", "Is the restless bottom worth a try", is_the_bottom_restless),
    DrillKind("what changed", "What changed the picture", what_changed),
    DrillKind("which knob mends it", "Which knob mends it", which_knob_mends_it),
)
