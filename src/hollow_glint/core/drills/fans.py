"""Drills on the forward fan's picture: whose mark it is, how large, where to walk, and what is wrong with it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..fan.card import flat_water
from ..fan.frame import ping_interval
from ..fan.head import AXIS_DEG, NEAR_REACH, FanHang
from ..fan.settings import FanSettings
from ..fan.swimmers import HungLure
from ..fan.water import fan_water
from ..fan.window import Sought, gain_window
from ..search.patch import Group, Patch, Standing
from ..wording import Quantity, Sentence
from .drill import Drill, DrillKind, TrueMark, choices
from .fan_film import Place, fan_film

HEAD_M = 0.9
AHEAD = FanHang(depth_m=HEAD_M)
DOWN = FanHang(depth_m=HEAD_M, mounting="down")
SEARCHES = FanSettings(ahead_m=20.0, behind_m=2.0, deep_m=9.0, gain_db=32.0)
FISHES = FanSettings(ahead_m=4.0, behind_m=4.0, deep_m=7.6, gain_db=34.0)
BROADSIDE = np.pi / 2.0  # a heading square to a plane that looks north


def _water(depth_m: float, bed: str = "mud") -> Patch:
    return flat_water(round(depth_m, 2), bed, "clear")


def _swims(
    away_m: float, depth_m: float, length_m: float, way: tuple[float, float] = (BROADSIDE, 0.02), when_s: float = 3.0
) -> Group:
    """One fish that passes a place so far north [m] at a moment, on a heading [rad] at a speed [m/s]."""
    heading, speed = way
    step = 40.0 * speed * np.array([np.sin(heading), np.cos(heading)])
    ends = np.array([0.0, away_m]) + np.array([-step, step])
    none = np.zeros((1, 3))
    return Group(
        "hunters", "whitefish", np.array([length_m]), depth_m, np.array([when_s - 40.0, when_s + 40.0]), ends,
        none, none, none, none,
    )  # fmt: skip


def _many(one: Group, count: int, spread_m: float, rng: np.random.Generator) -> Group:
    """As many like it, about its place: along the way to them most, so that they stay in the plane."""
    none = np.zeros((count, 3))
    apart = rng.normal(0.0, 1.0, (count, 3)) * spread_m * np.array([0.3, 1.0, 0.6])
    return replace(
        one, length_m=np.full(count, one.length_m[0]), offset_m=apart, wander_m=none, turns_per_s=none, phase=none
    )


def _still(place: Place, aside_m: float = 0.0) -> HungLure:
    """A jig that hangs still, ahead of a head that looks north."""
    return HungLure(aside_m, place[0], place[1], 0.0)


def _ab(first: bool) -> str:
    return "A" if first else "B"


A_OR_B = choices(("A", "Mark A"), ("B", "Mark B"))


def which_is_your_jig(rng: np.random.Generator, level: int) -> Drill:
    """Of two marks the one that goes up and down with the hand."""
    lift = {1: 0.8, 2: 0.5, 3: 0.3}[level]
    yours_left = bool(rng.random() < 0.5)
    deep = float(rng.uniform(3.6, 5.0))
    left, right = -float(rng.uniform(0.9, 1.4)), float(rng.uniform(0.9, 1.4))
    yours, other = (left, right) if yours_left else (right, left)
    other_deep = deep + float(rng.uniform(-0.8, 0.8))

    def lures(time_s: float) -> tuple[HungLure, ...]:
        up = lift * 0.5 * (1.0 - float(np.cos(2.0 * np.pi * (time_s - 2.0) / 3.0)))
        return _still((yours, deep - up)), _still((other, other_deep))

    film = fan_film(_water(7.0), rng, tuple(2.0 + 0.5 * k for k in range(7)), DOWN, FISHES, lures)
    places = (left, deep if yours_left else other_deep), (right, other_deep if yours_left else deep)
    why = "Yours goes up and down by {lift} with your hand; the other hangs still at {deep}."
    return Drill(
        Sentence("You lift your jig and let it down, again and again. Which mark is it?"), (),
        Sentence(why, {"lift": Quantity(lift, "m"), "deep": Quantity(other_deep, "m")}),
        (TrueMark("your jig", "lure", deep, abs(yours)), TrueMark("another's jig", "lure", other_deep, abs(other))),
        1.0, A_OR_B, _ab(yours_left), fans=(replace(film, places=places),),
    )  # fmt: skip


def which_is_larger(rng: np.random.Generator, level: int) -> Drill:
    """Of two fish the larger: by how bright it is, and not by how wide it is drawn, which grows with its distance."""
    ratio = {1: 3.2, 2: 2.4, 3: 1.9}[level]
    near_large = bool(rng.random() < 0.5)
    small = float(rng.uniform(0.16, 0.22))
    near, far = float(rng.uniform(8.0, 9.5)), float(rng.uniform(13.0, 15.5))  # beyond the arc of the bed
    deep = float(rng.uniform(3.0, 4.5)), float(rng.uniform(3.0, 4.5))
    lengths = (ratio * small, small) if near_large else (small, ratio * small)
    groups = tuple(
        _swims(away, depth, length, (BROADSIDE, 0.05))
        for away, depth, length in zip((near, far), deep, lengths, strict=True)
    )
    film = fan_film(
        replace(_water(7.5), groups=groups), rng, tuple(1.5 + 0.5 * k for k in range(7)), AHEAD,
        replace(SEARCHES, gain_db=24.0),
    )  # fmt: skip
    why = (
        "{which} is {large} long and the other {small}: it is brighter in picture after picture. Farther off both are drawn "
        "wider, whatever their length."
    )
    right = _ab(near_large)
    values = {"large": Quantity(max(lengths), "m"), "small": Quantity(min(lengths), "m")}
    return Drill(
        Sentence("Two fish, both seen from the side. Which is the larger?"), (),
        Sentence(why.replace("{which}", f"Mark {right}"), values),
        tuple(TrueMark("whitefish", "fish", d, a) for a, d in zip((near, far), deep, strict=True)), 1.0,
        A_OR_B, right, fans=(replace(film, places=((near, deep[0]), (far, deep[1]))),),
    )  # fmt: skip


def in_the_strip_or_gone(rng: np.random.Generator, level: int) -> Drill:
    """A jig that is let down and goes out: in the weak strip, or lost."""
    in_strip = bool(rng.random() < 0.5)
    aside = float(rng.uniform(0.9, 1.3)) * float(rng.choice([-1.0, 1.0]))
    seam = 22.5
    at_seam = HEAD_M + abs(aside) / float(np.tan(np.radians(seam)))
    # It is lost well before the strip, or goes on into it.
    lost_at = HEAD_M + abs(aside) / float(np.tan(np.radians(float(rng.uniform(33.0, 42.0)))))
    returns = level == 1 and in_strip
    begins = HEAD_M + abs(aside) / float(np.tan(np.radians(50.0)))
    last = at_seam + (0.9 if returns else 0.0)
    times = tuple(2.0 + 0.4 * k for k in range(8))
    water = _water(max(at_seam + 2.5, 6.5))
    settings = replace(FISHES, deep_m=float(np.ceil(at_seam + 2.5)))

    def deep(time_s: float) -> float:
        return begins + (last - begins) * min(max((time_s - 2.0) / 2.6, 0.0), 1.0)

    def lures(time_s: float) -> tuple[HungLure, ...]:
        now = deep(time_s)
        return () if not in_strip and now > lost_at else (_still((aside, now)),)

    here = fan_water(water, NEAR_REACH, DOWN, settings.reach_m)
    outside = Sought(lure_ahead_m=aside, lure_depth_m=at_seam - 0.9, away_m=2.0, fish_depth_m=3.0)
    inside = replace(outside, lure_depth_m=at_seam)
    floors = [gain_window(here, NEAR_REACH, DOWN, settings, one).lure_floor for one in (outside, inside)]
    gain = floors[0] + 0.35 * (floors[1] - floors[0])
    film = fan_film(water, rng, times, DOWN, replace(settings, gain_db=float(np.clip(gain, 0.0, 70.0))), lures)
    lines = () if level == 3 else tuple(AXIS_DEG["down"] + one for one in NEAR_REACH.seams_deg)
    why = (
        "It went out where two sub-arrays meet, {seam} off straight down, and neither hears well there: it still hangs on "
        "your line. Raise it, lower it or move over."
        if in_strip
        else "It went out {before} before the strip where two sub-arrays meet, where it should be heard well: it is off."
    )
    off = float(np.degrees(np.arctan2(abs(aside), lost_at - HEAD_M))) - seam
    values = {"seam": Quantity(seam, "degrees")} if in_strip else {"before": Quantity(off, "degrees")}
    return Drill(
        Sentence("You let your jig down beside the head, and its mark goes out. In the weak strip, or gone?"), (),
        Sentence(why, values),
        (TrueMark("your jig" if in_strip else "where it came off", "lure", at_seam if in_strip else lost_at, abs(aside)),),
        1.0, choices(("strip", "In the weak strip"), ("gone", "Gone off the line")),
        "strip" if in_strip else "gone", fans=(replace(film, seams_deg=lines),),
    )  # fmt: skip


def repeat_or_fish(rng: np.random.Generator, level: int) -> Drill:
    """A mark before and after the reach is changed: what is heard a ping late jumps, a fish stays."""
    is_fish = bool(rng.random() < 0.5)
    reach = {1: 3.0, 2: 2.2, 3: 1.6}[level]  # by how much it is let out
    water = _water(6.5, "sand")
    first = replace(SEARCHES, ahead_m=16.0, behind_m=1.0, deep_m=8.0, gain_db=40.0)
    second = replace(first, ahead_m=16.0 + reach)
    late = first.reach_m + _overhead_m(water, first)
    # Beyond where the head's second lobe shows the ice, which is there in both pictures.
    slant = float(rng.uniform(6.8, 9.0))
    crib = Standing("crib", 0.0, late + slant + 1.5, 4.5, 3.0, 3.0, 0.0)
    away, deep = float(rng.uniform(6.5, 9.5)), float(rng.uniform(2.5, 3.6))
    if is_fish:
        water = replace(water, groups=(_swims(away, deep, 0.45),))
        ring = away, deep
    else:
        water = replace(water, standing=(crib,))
        ring = slant, HEAD_M + 0.15 * slant
    films = [
        replace(fan_film(water, rng, (2.0, 2.3, 2.6), AHEAD, one), ring=ring, caption=words)
        for one, words in ((first, "First"), (second, "The reach let out"))
    ]
    why = (
        "It stays where it was when the reach is changed: a fish is where it is, however long one listens."
        if is_fish
        else "It stood {where} off and is no longer there: it comes from far beyond the reach, a ping late, and how late it "
        "seems changes with the reach."
    )
    return Drill(
        Sentence("The ring is round a mark. Then the reach is let out a little. A fish, or a repeat?"), (),
        Sentence(why, {} if is_fish else {"where": Quantity(ring[0], "m")}),
        (TrueMark("whitefish", "fish", deep, away) if is_fish else TrueMark("crib, beyond", "standing", 4.0, crib.north_m),),
        1.0, choices(("fish", "A fish"), ("repeat", "A repeat from beyond the reach")),
        "fish" if is_fish else "repeat", fans=tuple(films),
    )  # fmt: skip


def _overhead_m(water: Patch, settings: FanSettings) -> float:
    """How much farther than its reach a unit's ping interval goes [m]."""
    c = fan_water(water, NEAR_REACH, AHEAD, settings.reach_m).sound_speed_m_s
    return ping_interval(settings.reach_m, c) * c / 2.0 - settings.reach_m


def where_weeds_begin(rng: np.random.Generator, level: int) -> Drill:
    """Of three places on the bed the one where the weeds begin."""
    depth = float(rng.uniform(5.0, 6.5))
    apart = {1: 4.5, 2: 3.5, 3: 2.6}[level]
    first = float(rng.uniform(6.0, 7.5))
    places = tuple(first + apart * k for k in range(3))
    which = int(rng.integers(0, 3))
    edge = places[which]
    # Weeds stand to the right of the edge as it runs: an edge that runs west to east has them to the south.
    high = {1: 1.8, 2: 1.3, 3: 0.9}[level]
    weeds = Standing("weed edge", 0.0, edge, high, 40.0, 14.0, 270.0)
    film = fan_film(
        replace(_water(depth, "mud"), standing=(weeds,)), rng, (2.0, 2.3, 2.6), AHEAD,
        replace(SEARCHES, ahead_m=22.0, deep_m=8.0, gain_db=30.0),
    )  # fmt: skip
    named = "ABC"[which]
    why = f"From {named} on, {{away}} away, specks stand up to {{high}} over the line of the bed: stems. Before it the line is thin."
    return Drill(
        Sentence("Somewhere ahead weeds begin. At A, B or C?"), (),
        Sentence(why, {"away": Quantity(edge, "m"), "high": Quantity(high, "m")}),
        (TrueMark("weed edge", "standing", depth - high, edge),), 1.0,
        choices(("A", "At A"), ("B", "At B"), ("C", "At C")), named,
        fans=(replace(film, places=tuple((one, depth) for one in places)),),
    )  # fmt: skip


def where_to_walk(rng: np.random.Generator, level: int) -> Drill:
    """How many squares of the net to walk to a ringed fish: along the ice, not through the water."""
    square = 2.0
    count = int(rng.integers(1, 4)) if level == 3 else int(rng.integers(2, 6))
    deep = {1: 3.0, 2: 5.0, 3: 7.5}[level] + float(rng.uniform(-0.3, 0.3))
    away = square * count + float(rng.uniform(-0.3, 0.3))
    slant = float(np.hypot(away, deep - HEAD_M))
    through = max(round(slant / square), count + 1)
    water = replace(_water(deep + 2.0), groups=(_swims(away, deep, 0.4),))
    film = fan_film(
        water, rng, (2.0, 2.4, 2.8), AHEAD,
        replace(SEARCHES, ahead_m=14.0, deep_m=float(np.ceil(deep + 2.5)), square_m=square),
    )  # fmt: skip
    offered = sorted({count, through, count - 1 if count > 1 else through + 1})
    why = (
        "Straight up from it to the ice it is {away} from the hole, {count} squares. Through the water it is {slant}: that is "
        "not what you walk."
    )
    values = {"away": Quantity(away, "m"), "count": Quantity(float(count), "count"), "slant": Quantity(slant, "m")}
    return Drill(
        Sentence("A square of the net is {square}. How far is it to walk to the ringed fish?", {"square": Quantity(square, "m")}),
        (), Sentence(why, values), (TrueMark("whitefish", "fish", deep, away),), 1.0,
        choices(*((str(one), f"{one} square{'s' if one > 1 else ''}") for one in offered)), str(count),
        fans=(replace(film, ring=(away, deep)),),
    )  # fmt: skip


def is_the_head_level(rng: np.random.Generator, level: int) -> Drill:
    """A flat bed that is drawn rising or falling says which way the head is off level."""
    off = {1: 9.0, 2: 6.5, 3: 4.5}[level]
    key, up = (("level", 0.0), ("high", off), ("low", -off))[int(rng.integers(0, 3))]
    depth = float(rng.uniform(5.0, 7.0))
    film = fan_film(
        _water(depth, "sand"), rng, (2.0, 2.3, 2.6), replace(AHEAD, nose_up_deg=up),
        replace(SEARCHES, ahead_m=16.0, deep_m=depth + 4.0),
    )  # fmt: skip
    why = {
        "level": "The flat bed is drawn flat, or rising a touch, for a beam meets its near side first: the head hangs level.",
        "high": "The flat bed is drawn falling away by {off}: the head looks that much too high, and everything is drawn too "
        "deep.",
        "low": "The flat bed is drawn rising by {off}: the head looks that much too low, and everything is drawn too high.",
    }[key]
    return Drill(
        Sentence("The bed here is flat. How does the head hang?"), (),
        Sentence(why, {} if key == "level" else {"off": Quantity(off, "degrees")}),
        (TrueMark("flat bed", "bottom", depth),), 1.0,
        choices(("level", "Level"), ("high", "It looks too high"), ("low", "It looks too low")), key, fans=(film,),
    )  # fmt: skip


def what_mends_it(rng: np.random.Generator, level: int) -> Drill:
    """A spoilt picture and what settles it."""
    key = ("down", "up", "lower")[int(rng.integers(0, 3))]
    depth = float(rng.uniform(5.5, 7.5))
    hang, gain = AHEAD, 0.0
    here = fan_water(_water(depth), NEAR_REACH, AHEAD, SEARCHES.reach_m)
    window = gain_window(here, NEAR_REACH, AHEAD, SEARCHES, Sought(lure_depth_m=4.0, away_m=9.0, fish_depth_m=4.0))
    if key == "down":
        gain = window.ceiling + {1: 22.0, 2: 14.0, 3: 9.0}[level]
    elif key == "up":
        gain = window.fish_floor - {1: 20.0, 2: 15.0, 3: 11.0}[level]
    else:
        gain = window.advised
        hang = replace(AHEAD, depth_m=0.25, ice_m=0.4 + 0.05 * level)
    fish = _swims(9.0, 4.0, 0.35)
    film = fan_film(
        replace(_water(depth), groups=(fish,)), rng, (2.0, 2.3, 2.6), hang,
        replace(SEARCHES, gain_db=float(np.clip(gain, 0.0, 70.0))),
    )  # fmt: skip
    why = {
        "down": "The water itself is lit: it does from gain {ceiling} on, and this is {gain}.",
        "up": "Hardly the bed is left: a fish shows from gain {floor}, and this is {gain}.",
        "lower": "The wall of the hole rings in every beam, and the head sees out of its foot only: it hangs {deep} up in the "
        "ice.",
    }[key]
    values = {
        "down": {"ceiling": Quantity(window.ceiling, "gain"), "gain": Quantity(gain, "gain")},
        "up": {"floor": Quantity(window.fish_floor, "gain"), "gain": Quantity(gain, "gain")},
        "lower": {"deep": Quantity(hang.inside_ice_m, "m")},
    }[key]
    return Drill(
        Sentence("A fish is 9 m off, and this is the picture. What mends it?"), (), Sentence(why, values),
        (TrueMark("whitefish", "fish", 4.0, 9.0),), 1.0,
        choices(("down", "Turn gain down"), ("up", "Turn gain up"), ("lower", "Let the head down out of the ice")), key,
        fans=(film,),
    )  # fmt: skip


def coming_or_leaving(rng: np.random.Generator, level: int) -> Drill:
    """Whether a fish comes nearer, leaves, or passes across."""
    key, heading = (("comes", np.pi), ("leaves", 0.0), ("across", BROADSIDE))[int(rng.integers(0, 3))]
    speed = {1: 0.45, 2: 0.32, 3: 0.24}[level]
    away, deep = float(rng.uniform(8.0, 11.0)), float(rng.uniform(3.0, 4.5))
    # What passes across is in the plane in the middle of the film.
    water = replace(
        _water(7.0), groups=(_swims(away, deep, 0.5, (heading, speed * (0.35 if key == "across" else 1.0)), 4.0),)
    )
    film = fan_film(water, rng, tuple(2.0 + 0.6 * k for k in range(7)), AHEAD, replace(SEARCHES, ahead_m=16.0))
    why = {
        "comes": "It is {gone} nearer at the end than at the beginning, {fast}.",
        "leaves": "It is {gone} farther off at the end than at the beginning, {fast}.",
        "across": "It stays as far off and only grows and fades: it swims across the plane.",
    }[key]
    values = {"gone": Quantity(3.6 * speed, "m"), "fast": Quantity(speed, "m/s")}
    return Drill(
        Sentence("One fish, over a few seconds. What does it do?"), (), Sentence(why, {} if key == "across" else values),
        (TrueMark("whitefish", "fish", deep, away),), 1.0,
        choices(("comes", "It comes nearer"), ("leaves", "It leaves"), ("across", "It passes across")), key, fans=(film,),
    )  # fmt: skip


def which_school(rng: np.random.Generator, level: int) -> Drill:
    """Of two groups the one worth a walk to who wants fish as long as a forearm: few bright ones, not a pale cloud."""
    near_good = bool(rng.random() < 0.5)
    near, far = float(rng.uniform(8.0, 9.0)), float(rng.uniform(13.0, 15.0))
    deep = float(rng.uniform(3.2, 4.2)), float(rng.uniform(3.2, 4.2))
    bait_count, good_count = {1: (12, 5), 2: (20, 4), 3: (30, 3)}[level]
    good = (near, deep[0]) if near_good else (far, deep[1])
    bait = (far, deep[1]) if near_good else (near, deep[0])
    groups = (
        _many(_swims(*good, 0.42), good_count, 0.7, rng),
        _many(_swims(*bait, 0.045), bait_count, 0.55, rng),
    )
    film = fan_film(
        replace(_water(7.5), groups=groups), rng, tuple(1.8 + 0.4 * k for k in range(6)), AHEAD,
        replace(SEARCHES, gain_db=30.0, ahead_m=18.0),
    )  # fmt: skip
    right = _ab(near_good)
    why = (
        f"At {right} are {{count}} marks that reach the strong colours, fish of {{long}}. The other is a pale cloud of many: "
        "bait as long as a finger."
    )
    return Drill(
        Sentence("You want fish as long as a forearm. Which is worth the walk?"), (),
        Sentence(why, {"count": Quantity(float(good_count), "count"), "long": Quantity(0.42, "m")}),
        (TrueMark("whitefish", "fish", good[1], good[0]), TrueMark("bait", "school", bait[1], bait[0])), 1.0,
        A_OR_B, right, fans=(replace(film, places=((near, deep[0]), (far, deep[1]))),),
    )  # fmt: skip


KINDS = (
    DrillKind("fan: your jig", "Fan: which is your jig", which_is_your_jig),
    DrillKind("fan: which is larger", "Fan: which fish is larger", which_is_larger),
    DrillKind("fan: strip or gone", "Fan: in the strip or gone", in_the_strip_or_gone),
    DrillKind("fan: repeat or fish", "Fan: repeat or fish", repeat_or_fish),
    DrillKind("fan: weed edge", "Fan: where weeds begin", where_weeds_begin),
    DrillKind("fan: where to walk", "Fan: where to walk", where_to_walk),
    DrillKind("fan: off level", "Fan: is the head level", is_the_head_level),
    DrillKind("fan: what mends it", "Fan: what mends it", what_mends_it),
    DrillKind("fan: coming or leaving", "Fan: coming or leaving", coming_or_leaving),
    DrillKind("fan: which school", "Fan: which school is worth it", which_school),
)
