"""Drills that tell marks apart: lure, fish, second lure, touching, neighbour, plankton."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..gear.lures import Lure
from ..hole.contents import Hung, Neighbour
from ..wording import Quantity, Sentence
from .drill import Drill, DrillKind, TrueMark, choices
from .film import Swimmer
from .holes import drill_hole, line, swimmer, turned

MOST_TURNS = 6  # of three decibels each
FISH_OR_NOT = choices(("fish", "A fish"), ("not", "Not a fish"))


def which_is_the_lure(rng: np.random.Generator, level: int) -> Drill:
    """Several marks; only one goes with the rod."""
    at = drill_hole(rng, level, off_bottom_m=float(rng.uniform(1.6, 2.2)))
    time_s = at.times(9.0)
    moves = float(rng.choice([-1.0, 1.0])) * float(rng.uniform(0.25, 0.4)) / level**0.5
    start = at.lure_m
    way = line(time_s, [(0.0, 0.0, start), (3.0, 0.0, start), (5.5, 0.0, start - moves), (9.0, 0.0, start - moves)])
    others = []
    # Fish above and below all that the lure goes through, so that no two marks stand together at the end.
    high, low = min(start, start - moves) - 0.35, max(start, start - moves) + 0.35
    for k in range(1 + level):
        depth = low + 0.35 * (k // 2 + float(rng.uniform(0.1, 0.3)))
        if k % 2 or depth > at.bottom_m - 0.3:
            depth = high - 0.35 * (k // 2 + float(rng.uniform(0.1, 0.3))) - (0.0 if k % 2 else 0.8)
        aside, drift = float(rng.uniform(0.1, 0.35)), float(rng.uniform(-0.06, 0.06))
        others.append(
            swimmer(line(time_s, [(0.0, aside, depth), (9.0, aside + 0.1, depth + drift)]), time_s, rng, 0.18)
        )
    clip = at.film(time_s, rng, lure_way=way, swimmers=tuple(others))
    end = at.range_of(start - moves)
    return Drill(
        Sentence("Which mark is your lure, at the end? Touch it. Below the picture you see what the rod did."),
        (clip,),
        Sentence(
            "Your lure went {moved} with the rod and then stopped with it; nothing else did. Its colour also holds, "
            "where a fish's wanders from ping to ping.",
            {"moved": Quantity(abs(moves), "m")},
        ),
        (
            TrueMark("your lure", "lure", start - moves),
            *(TrueMark("fish", "fish", float(f.way[-1, 2]), float(np.hypot(*f.way[-1, :2]))) for f in others),
        ),
        5.0,
        target_m=(end - 0.12, end + 0.2),
    )


def fish_or_not(rng: np.random.Generator, level: int) -> Drill:
    """One mark pointed at: a fish that hovers, or something that hangs still in the next hole."""
    is_fish = bool(rng.random() < 0.5)
    depth = float(rng.uniform(5.5, 7.0 + 2.0 * level))
    mark = depth - float(rng.uniform(0.8, 1.6))
    if is_fish:
        at = drill_hole(rng, level, bottom_depth_m=depth, off_bottom_m=2.4)
        time_s = at.times(9.0)
        way = line(time_s, [(0.0, 0.15, mark), (4.0, 0.2, mark - 0.06 / level), (9.0, 0.15, mark + 0.05 / level)])
        clip = at.film(time_s, rng, swimmers=(swimmer(way, time_s, rng, 0.15),), arrow_m=at.range_of(mark, 0.15))
        shown = TrueMark("fish", "fish", mark, 0.15)
    else:
        at = drill_hole(
            rng, level, bottom_depth_m=depth, off_bottom_m=2.4, second_hole_m=0.3,
            hung=(Hung("dead stick", mark),),
        )  # fmt: skip
        time_s = at.times(9.0)
        clip = at.film(time_s, rng, arrow_m=at.range_of(mark, 0.3))
        for _ in range(MOST_TURNS):  # what an arrow points at must show
            if clip.lit_at(at.range_of(mark, 0.3)) > 0.9:
                break
            at = turned(at, at.settings.gain + at.unit.gain.position(3.0) - at.unit.gain.minimum)
            clip = at.film(time_s, rng, arrow_m=at.range_of(mark, 0.3))
        shown = TrueMark("dead-stick line", "dead stick", mark, 0.3)
    why = (
        "Its colour wanders from ping to ping, and it drifts a little: it lives. A thing that hangs keeps its colour and "
        "its depth to the row."
        if is_fish
        else "It keeps its colour and its depth ping after ping, as only a thing on a line does. A fish's echo "
        "wanders, because its body never lies quite the same way."
    )
    return Drill(
        Sentence("The arrow points at a mark. Is it a fish?"), (clip,), Sentence(why),
        (shown, TrueMark("your lure", "lure", at.lure_m)), 6.0, FISH_OR_NOT, "fish" if is_fish else "not",
    )  # fmt: skip


def two_jigs(rng: np.random.Generator, level: int) -> Drill:
    """One jig or two on the line."""
    two = bool(rng.random() < 0.5)
    gap = {1: 0.35, 2: 0.22, 3: 0.16}[level]
    lure = Lure("two jigs", 0.005, "tungsten", "two jigs", 0.0, gap) if two else Lure("one jig", 0.005)
    at = drill_hole(rng, level, lure, bottom_depth_m=float(rng.uniform(4.0, 8.0)))
    time_s = at.times(7.0)
    up = float(rng.uniform(0.15, 0.3))
    way = line(
        time_s, [(0.0, 0.0, at.lure_m), (2.0, 0.0, at.lure_m), (4.5, 0.0, at.lure_m - up), (7.0, 0.0, at.lure_m - up)]
    )
    swims: tuple[Swimmer, ...] = ()
    if not two:  # something else beside it, so that counting marks alone does not answer
        beside = at.lure_m - gap - 0.1
        swims = (swimmer(line(time_s, [(0.0, 0.2, beside), (7.0, 0.25, beside + 0.1)]), time_s, rng, 0.14),)
    clip = at.film(time_s, rng, lure_way=way, swimmers=swims)
    truth = [TrueMark("lower jig" if two else "your jig", "lure", at.lure_m - up)]
    truth.append(
        TrueMark("upper jig", "lure", at.lure_m - up - gap) if two else TrueMark("fish", "fish", beside + 0.07, 0.2)
    )
    why = (
        "Two marks rose together with the rod and kept {gap} apart. A fish does not stop when the rod stops."
        if two
        else "Only one mark rose with the rod; the other kept its own way. Two jigs on one line move as one."
    )
    return Drill(
        Sentence("The rod lifts once. How many jigs hang on the line?"), (clip,),
        Sentence(why, {"gap": Quantity(gap, "m")} if two else {}), tuple(truth), 3.5,
        choices(("one", "One"), ("two", "Two")), "two" if two else "one",
    )  # fmt: skip


def touching(rng: np.random.Generator, level: int) -> Drill:
    """Do the marks of lure and fish touch?"""
    at = drill_hole(rng, level, off_bottom_m=1.5)
    resolution = at.transmission.resolution_m
    meets = bool(rng.random() < 0.5)
    apart = 0.25 * resolution if meets else resolution * {1: 5.0, 2: 3.6, 3: 2.8}[level]
    time_s = at.times(8.0)
    way = line(time_s, [(0.0, 0.2, at.lure_m + 0.9), (5.0, 0.05, at.lure_m + apart), (8.0, 0.02, at.lure_m + apart)])
    fish = swimmer(way, time_s, rng, 0.22)
    clip = at.film(time_s, rng, swimmers=(fish,))
    return Drill(
        Sentence("A fish has come up. At the end, do the marks touch?"), (clip,),
        Sentence(
            "The fish is {gap} below the lure, and this pulse parts what is {res} apart. "
            + ("So there is one mark, thicker than the lure's own: eyes to the rod tip." if meets
               else "So dark water or a step of colour stays between them: keep drawing it up."),
            {"gap": Quantity(apart, "m"), "res": Quantity(resolution, "m")},
        ),
        (TrueMark("your lure", "lure", at.lure_m), TrueMark("fish", "fish", at.lure_m + apart, 0.03)), 7.0,
        choices(("touch", "They touch: eyes to the rod tip"), ("apart", "Still apart: keep drawing it up")),
        "touch" if meets else "apart",
    )  # fmt: skip


def neighbour_or_fish(rng: np.random.Generator, level: int) -> Drill:
    """Marks between surface and lure: a neighbour's pings, or fish passing."""
    theirs = bool(rng.random() < 0.5)
    more: dict[str, Any] = {
        "neighbours": (Neighbour(float(rng.uniform(2.0, 4.0)), ping_interval_s=float(rng.uniform(0.046, 0.054))),)
    }
    at = drill_hole(rng, level, off_bottom_m=1.2, **(more if theirs else {}))
    time_s = at.times(8.0)
    swims = []
    truth = [TrueMark("your lure", "lure", at.lure_m)]
    if not theirs:
        for k in range(1 + level):
            depth = FREE_FROM_M + (at.lure_m - FREE_FROM_M - 0.6) * (k + 0.5) / (1 + level)
            reach = at.seen_aside(0.3, depth)
            begin = float(rng.uniform(0.0, 3.0))
            way = line(time_s, [(begin, -reach - 0.2, depth), (begin + 4.0, reach + 0.2, depth + 0.05)])
            swims.append(swimmer(way, time_s, rng, 0.3))
            truth.append(TrueMark("fish", "fish", depth))
    clip = at.film(time_s, rng, swimmers=tuple(swims))
    why = (
        "Each of these marks lives for one ping, and they stand in slanting rows: another unit's pings, come at their own "
        "interval. A fish stays for many pings and changes slowly."
        if theirs
        else "Each mark stays for many pings, grows, and fades: fish swimming through the cone. A neighbour's marks live for "
        "one ping and stand in slanting rows."
    )
    return Drill(
        Sentence("What makes the marks above your lure?"), (clip,), Sentence(why), tuple(truth), 4.0,
        choices(("neighbour", "A neighbour's sonar"), ("fish", "Fish passing")), "neighbour" if theirs else "fish",
    )  # fmt: skip


FREE_FROM_M = 2.2  # below this the water near the face no longer lights


def plankton_bait_or_fish(rng: np.random.Generator, level: int) -> Drill:
    """What fills the middle of the column."""
    what = str(rng.choice(["plankton", "bait", "fish"]))
    depth = float(rng.uniform(7.0, 9.0 + level))
    middle = 0.55 * depth
    more: dict[str, Any] = {"plankton": "thick", "hour": 17.2} if what == "plankton" else {}
    at = drill_hole(rng, level, bottom_depth_m=depth, off_bottom_m=1.0, clarity="clear", spare_db=6.0, **more)
    time_s = at.times(9.0)
    # Bait fills the water with fish that just show; of large fish there are a few, well inside the cone.
    small = what == "bait"
    heights = rng.uniform(-0.8, 0.8, 14 - 2 * level) if small else np.array([-0.8, 0.0, 0.8])[: int(rng.integers(2, 4))]
    swims = []
    for above in heights if what != "plankton" else ():
        at_m = middle + float(above) + float(rng.uniform(-0.2, 0.2))
        length = float(rng.uniform(0.035, 0.055) if small else rng.uniform(0.28, 0.42))
        reach = 0.8 * at.seen_aside(length, at_m) if small else 0.35
        begins, ends = rng.uniform(-reach, reach, 2)
        way = line(time_s, [(0.0, float(begins), at_m), (9.0, float(ends), at_m)])
        swims.append(swimmer(way, time_s, rng, length, "bait" if small else "whitefish"))
    clip = at.film(time_s, rng, swimmers=tuple(swims))
    why = {
        "plankton": "The water is speckled ping by ping and no speck goes on into the next: thousands of small things at "
        "once. Fish, however small, draw lines that last.",
        "bait": "Many thin lines run side by side, each lasting some seconds and flickering: small fish, close together. "
        "Plankton draws no lines, and large fish draw few and thick ones.",
        "fish": "A few lines, each thick and strong and lasting: fish of some size, apart from each other. Bait would be "
        "many and thin.",
    }[what]
    return Drill(
        Sentence("What is in the middle of the water?"), (clip,), Sentence(why),
        (TrueMark(what, "fish" if what == "fish" else "bait", middle),), 5.0,
        choices(("plankton", "Plankton"), ("bait", "Bait"), ("fish", "Large fish")), what,
    )  # fmt: skip


def where_did_the_spoon_go(rng: np.random.Generator, level: int) -> Drill:
    """A spoon falls: it glides aside out of the cone and swings back, or goes down to the bottom."""
    spoon = Lure("spoon", 0.012, "steel", "spoon", 0.04)
    at = drill_hole(rng, level, spoon, off_bottom_m=3.0, bottom_depth_m=float(rng.uniform(7.0, 10.0)), spare_db=4.0)
    glides = bool(rng.random() < 0.5)
    time_s = at.times(9.0)
    start = at.lure_m
    if glides:
        end = start + 1.2
        out = at.seen_aside(0.6, end) + 0.8
        way = line(
            time_s,
            [(0.0, 0.0, start), (2.0, 0.0, start), (3.2, 0.55 * out, start + 0.7), (4.2, out, end), (9.0, out, end)],
        )
    else:
        end = at.bottom_m - 0.01
        way = line(time_s, [(0.0, 0.0, start), (2.0, 0.0, start), (5.5, 0.0, end), (9.0, 0.0, end)])
    clip = at.film(time_s, rng, lure_way=way)
    truth = TrueMark("spoon", "lure", end, float(way[-1, 0]))
    why = (
        "The mark fades in open water and is gone before it meets the bottom line: the spoon has glided {aside} to the "
        "side. Hold still and it swings back under the hole."
        if glides
        else "The mark goes down at one pace until it meets the bottom line: the spoon lies on the bottom. Lift a little "
        "and it parts from the line."
    )
    return Drill(
        Sentence("The spoon was let go. Where is it at the end?"), (clip,),
        Sentence(why, {"aside": Quantity(float(way[-1, 0]), "m")} if glides else {}), (truth,), 5.0,
        choices(("aside", "Out to the side"), ("bottom", "On the bottom"), ("hidden", "Behind a fish")),
        "aside" if glides else "bottom",
    )  # fmt: skip


KINDS = (
    DrillKind("which is the lure", "Which mark is the lure", which_is_the_lure),
    DrillKind("fish or not", "Fish or not", fish_or_not),
    DrillKind("two jigs", "Two jigs or one", two_jigs),
    DrillKind("touching", "Touching or apart", touching),
    DrillKind("neighbour or fish", "Neighbour or fish", neighbour_or_fish),
    DrillKind("plankton, bait or fish", "Plankton, bait or fish", plankton_bait_or_fish),
    DrillKind("where did the spoon go", "Where did the spoon go", where_did_the_spoon_go),
)
