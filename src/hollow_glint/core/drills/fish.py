"""Drills about where fish are, how large, how many, and what they are about to do."""

from __future__ import annotations

import numpy as np

from ..gear.profiles import TWO_BEAM_RING
from ..wording import Quantity, Sentence
from .drill import Drill, DrillKind, TrueMark, choices
from .holes import at_end, drill_hole, line, swimmer, turned


def centre_or_edge(rng: np.random.Generator, level: int) -> Drill:
    """A fish of told length: under the hole, or at the edge of its seen zone."""
    edge = bool(rng.random() < 0.5)
    at = drill_hole(rng, level, off_bottom_m=2.2, spare_db=4.0)
    length = float(rng.choice([0.25, 0.3, 0.35]))
    depth = at.lure_m + float(rng.uniform(0.6, 1.2))
    aside = at.seen_aside(length, depth, {1: 2.0, 2: 4.0, 3: 6.0}[level]) if edge else 0.08
    time_s = at.times(7.0)
    way = line(time_s, [(0.0, aside, depth), (7.0, aside, depth)])
    clip = at.film(time_s, rng, swimmers=(swimmer(way, time_s, rng, length),))
    looks = at.range_of(depth, aside) - (depth - at.scene.face_depth_m)
    why = (
        "A fish of {length} under the hole would be far stronger and thicker than your jig; this one is weak, so it is {aside} "
        "to the side. It also looks {looks} too deep."
        if edge
        else "It is as strong and thick as a fish of {length} can be, far stronger than your jig: it is under the hole. There its "
        "depth is what it seems."
    )
    values = {"length": Quantity(length, "m"), "aside": Quantity(aside, "m"), "looks": Quantity(looks, "m")}
    used = {name: one for name, one in values.items() if f"{{{name}}}" in why}
    return Drill(
        Sentence("The mark under your lure is a fish of {length}. Is it under the hole?", {"length": Quantity(length, "m")}),
        (clip,), Sentence(why, used), (TrueMark("fish", "fish", depth, aside), TrueMark("your lure", "lure", at.lure_m)), 4.0,
        choices(("centre", "Under the hole"), ("edge", "At the edge of the cone")), "edge" if edge else "centre",
    )  # fmt: skip


def where_is_it_really(rng: np.random.Generator, level: int) -> Drill:
    """A fish swims straight through at one depth and draws an arc: how deep did it swim?"""
    at = drill_hole(rng, level, unit=TWO_BEAM_RING, knobs={"beam": 0}, off_bottom_m=3.0, spare_db=6.0,
                 bottom_depth_m=float(rng.uniform(7.0, 9.0 + level)))  # fmt: skip
    depth = at.lure_m + float(rng.uniform(0.9, 1.6))
    reach = at.seen_aside(0.4, depth) + 0.3
    time_s = at.times(9.0)
    middle = float(rng.uniform(3.5, 5.5))
    pace = reach / 3.2
    way = np.stack([(time_s - middle) * pace, np.full(time_s.size, 0.06), np.full(time_s.size, depth)], axis=1)
    clip = at.film(time_s, rng, swimmers=(swimmer(way, time_s, rng, 0.4),))
    right = at.range_of(depth)
    looks = at.range_of(depth, reach - 0.3) - right
    return Drill(
        Sentence("A fish swam straight through at one depth. Touch the depth at which it swam."), (clip,),
        Sentence(
            "The top of the arc stands at {top} on the shown axis, and with the {face} that the face hangs down that is {depth} "
            "of true depth: there it was under the hole. At the ends it was {aside} to the side and looked {looks} deeper.",
            {"top": Quantity(right, "m"), **at.axis, "depth": Quantity(depth, "m"), "aside": Quantity(reach - 0.3, "m"), "looks": Quantity(looks, "m")},
        ),
        (TrueMark("fish", "fish", depth, 0.06),), middle, target_m=(right - 0.1, right + max(0.12, 0.45 * looks)),
    )  # fmt: skip


def which_is_larger(rng: np.random.Generator, level: int) -> Drill:
    """Two pictures of one fish each, under the hole: which fish is larger?"""
    at = drill_hole(rng, 1, off_bottom_m=2.4, bottom_depth_m=float(rng.uniform(6.0, 9.0)), spare_db=-2.0)
    small, large = float(rng.uniform(0.08, 0.12)), float(rng.uniform(0.32, 0.45))
    left = bool(rng.random() < 0.5)
    gain = at.settings.gain
    # The smaller fish's picture has more gain, as much as the level asks for.
    by = at.unit.gain.position({1: 0.0, 2: 6.0, 3: 11.0}[level]) - at.unit.gain.minimum
    time_s = at.times(6.0)
    depth = at.lure_m + 1.0
    clips, sizes = [], (large, small) if left else (small, large)
    for length in sizes:
        here = turned(at, gain + (by if length == small else 0.0))
        way = line(time_s, [(0.0, 0.08, depth), (6.0, 0.08, depth)])
        caption = f"gain {here.settings.gain:g}"
        clips.append(here.film(time_s, rng, swimmers=(swimmer(way, time_s, rng, length),), caption=caption))
    loud = 19.1 * float(np.log10(large / small))
    why = "The larger fish, {large}, answers {loud} louder than one of {small} at the same depth. Hold it against the lure: your jig is the same in both pictures, and more gain lifts jig and fish alike."
    return Drill(
        Sentence("Two pictures, the same jig and the same depth, each fish under the hole. Which fish is larger?"), tuple(clips),
        Sentence(why, {"large": Quantity(large, "m"), "small": Quantity(small, "m"), "loud": Quantity(loud, "dB")}),
        (TrueMark("fish", "fish", depth, 0.08), TrueMark("your lure", "lure", at.lure_m)), 3.0,
        choices(("left", "The left one"), ("right", "The right one")), "left" if left else "right",
    )  # fmt: skip


def leaving_or_diving(rng: np.random.Generator, level: int) -> Drill:
    """A mark that goes down: the fish dives, or swims off to the side."""
    leaves = bool(rng.random() < 0.5)
    at = drill_hole(rng, level, unit=TWO_BEAM_RING, knobs={"beam": 0}, off_bottom_m=3.2, spare_db=6.0,
                 bottom_depth_m=float(rng.uniform(8.0, 10.0)))  # fmt: skip
    depth = at.lure_m + 0.5
    out = at.seen_aside(0.35, depth) + 0.1
    fall = at.range_of(depth, out) - at.range_of(depth)
    time_s = at.times(8.0)
    gone = {1: 6.0, 2: 5.5, 3: 5.0}[level]
    if leaves:
        way = line(time_s, [(0.0, 0.05, depth), (2.0, 0.05, depth), (gone, out, depth), (8.0, out + 0.4, depth)])
    else:
        way = line(
            time_s, [(0.0, 0.05, depth), (2.0, 0.05, depth), (gone, 0.05, depth + fall), (8.0, 0.05, depth + fall)]
        )
    clip = at.film(time_s, rng, swimmers=(swimmer(way, time_s, rng, 0.35),))
    end = TrueMark("fish", "fish", float(way[-1, 2]), float(way[-1, 0]))
    why = (
        "The mark sinks by {fall} and fades away as it does: the fish kept its depth and swam {out} to the side. A fish that dives "
        "keeps its colour under the hole."
        if leaves
        else "The mark sinks by {fall} and keeps its colour: the fish is still under the hole, and deeper. One that leaves fades as it "
        "seems to sink."
    )
    values = {"fall": Quantity(fall, "m"), **({"out": Quantity(out, "m")} if leaves else {})}
    return Drill(
        Sentence("The fish's mark goes down. What does the fish do?"), (clip,), Sentence(why, values),
        (end, TrueMark("your lure", "lure", at.lure_m)), gone - 1.0,
        choices(("leaves", "It swims off to the side"), ("dives", "It dives")), "leaves" if leaves else "dives",
    )  # fmt: skip


def how_many_fish(rng: np.random.Generator, level: int) -> Drill:
    """How many fish are in the picture at the end?"""
    count = int(rng.integers(0, 2 + level))
    at = drill_hole(rng, level, off_bottom_m=1.0, bottom_depth_m=float(rng.uniform(8.0, 9.0 + level)))
    time_s = at.times(7.0)
    room = (at.lure_m - 0.6 - 2.6) / max(count, 1)
    swims = []
    for k in range(count):
        depth = 2.6 + room * (k + float(rng.uniform(0.25, 0.75)))
        aside = float(rng.uniform(0.0, 0.15))
        way = line(time_s, [(0.0, aside, depth), (7.0, aside, depth + float(rng.uniform(-0.12, 0.12)))])
        swims.append(swimmer(way, time_s, rng, float(rng.uniform(0.18, 0.35))))
    clip = at.film(time_s, rng, swimmers=tuple(swims))
    truth = (TrueMark("your lure", "lure", at.lure_m),
             *(at_end(one) for one in swims))  # fmt: skip
    why = "Above the bottom there are {n} lines that last, and the lowest of them, {off} off the bottom, is your lure: it alone keeps its colour. The rest are fish."
    if count == 0:
        why = "The one line that lasts, {off} off the bottom, keeps its colour: it is your lure. There is no fish."
    values = {"n": Quantity(count + 1.0, "count"), "off": Quantity(at.bottom_m - at.lure_m, "m")}
    return Drill(
        Sentence("How many fish are there? Your lure hangs {off} off the bottom.", {"off": values["off"]}), (clip,),
        Sentence(why, {name: one for name, one in values.items() if f"{{{name}}}" in why}), truth, 4.0,
        choices(*((str(n), "None" if n == 0 else str(n)) for n in range(2 + level))), str(count),
    )  # fmt: skip


def predict(rng: np.random.Generator, level: int) -> Drill:
    """The picture stops: what comes in the next three seconds?"""
    what = str(rng.choice(["reaches", "stays", "leaves"]))
    at = drill_hole(rng, level, unit=TWO_BEAM_RING, knobs={"beam": 0}, off_bottom_m=2.6, spare_db=5.0,
                 bottom_depth_m=float(rng.uniform(7.0, 9.0)))  # fmt: skip
    stop, gap = 5.0, float(rng.uniform(0.8, 1.0))
    time_s = at.times(stop + 3.0)
    low = at.lure_m + gap
    if what == "reaches":
        way = line(
            time_s, [(0.0, 0.3, low + 0.1), (1.0, 0.2, low), (stop + 2.5, 0.03, at.lure_m), (9.0, 0.03, at.lure_m)]
        )
    elif what == "stays":
        way = line(time_s, [(0.0, 0.15, low - 0.3), (9.0, 0.15, low - 0.3)])
    else:
        out = at.seen_aside(0.3, low)
        way = line(
            time_s,
            [(0.0, 0.05, low - 0.3), (2.0, 0.05, low - 0.3), (stop + 1.8, out, low - 0.3), (9.0, out + 1.5, low - 0.3)],
        )
    clip = at.film(time_s, rng, swimmers=(swimmer(way, time_s, rng, 0.3),))
    rise = gap / (stop + 1.5)
    why = {
        "reaches": "It rose steadily by {rise} a second, and at that pace the gap closes within three seconds. Marks about to touch "
        "want your eyes on the rod tip.",
        "stays": "It neither rose nor faded: a fish that looks and stays. Now one small twitch, or a slow lift.",
        "leaves": "It already faded as it seemed to sink: a fish on its way out to the side. It will be gone; stop chasing.",
    }[what]
    return Drill(
        Sentence("The picture stops here. What comes in the next three seconds?"), (clip,),
        Sentence(why, {"rise": Quantity(rise, "m")} if what == "reaches" else {}),
        (TrueMark("fish", "fish", float(way[-1, 2]), float(way[-1, 0])), TrueMark("your lure", "lure", at.lure_m)), stop + 2.5,
        choices(("reaches", "It reaches the lure"), ("stays", "It stays where it is"), ("leaves", "It is gone")), what,
        stop_s=stop,
    )  # fmt: skip


def does_it_follow(rng: np.random.Generator, level: int) -> Drill:
    """The lure is lifted slowly: does the fish come along?"""
    follows = bool(rng.random() < 0.5)
    at = drill_hole(rng, level, off_bottom_m=1.4, spare_db=3.0)
    lift = {1: 0.5, 2: 0.4, 3: 0.3}[level]
    time_s = at.times(9.0)
    way = line(
        time_s,
        [(0.0, 0.0, at.lure_m), (2.0, 0.0, at.lure_m), (8.0, 0.0, at.lure_m - lift), (9.0, 0.0, at.lure_m - lift)],
    )
    below = at.lure_m + 0.4
    came = lift * float(rng.uniform(0.8, 1.0)) if follows else 0.0
    fish = line(time_s, [(0.0, 0.1, below), (2.8, 0.1, below), (8.6, 0.08, below - came), (9.0, 0.08, below - came)])
    clip = at.film(time_s, rng, lure_way=way, swimmers=(swimmer(fish, time_s, rng, 0.25),))
    why = (
        "As the lure rose by {lift} the fish rose with it, and the gap between the two stayed. It is interested: go on, slowly."
        if follows
        else "The lure rose by {lift} and the fish stayed where it was: the gap has grown. Lower back to it with care, or leave it."
    )
    return Drill(
        Sentence("You lift slowly. Is the fish interested?"), (clip,), Sentence(why, {"lift": Quantity(lift, "m")}),
        (TrueMark("your lure", "lure", at.lure_m - lift), TrueMark("fish", "fish", below - came, 0.08)), 7.0,
        choices(("follows", "Yes: it follows"), ("ignores", "No: it lets the lure go")), "follows" if follows else "ignores",
    )  # fmt: skip


KINDS = (
    DrillKind("how many fish", "How many fish", how_many_fish),
    DrillKind("centre or edge", "Centre or edge", centre_or_edge),
    DrillKind("where is it really", "Where is it really", where_is_it_really),
    DrillKind("leaving or diving", "Leaving or diving", leaving_or_diving),
    DrillKind("which is larger", "Which is larger", which_is_larger),
    DrillKind("does it follow", "Does it follow", does_it_follow),
    DrillKind("predict", "The next three seconds", predict),
)
