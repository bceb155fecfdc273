"""Drills on a picture that turns: where along the ice, which way it swims, what it is, and whether to stay."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..ground.contours import Grid
from ..search.look import Look
from ..search.made import SIZES, Passing, made_standing
from ..search.patch import BEDS, Group, Patch, Standing, StandingKind, group_of
from ..search.stay_or_go import Waters, worths
from ..search.sweep import Hang, TurningHead
from ..search.usual import USUAL_FISH_M_S, USUAL_SCHOOLS_PER_KM2, USUAL_SURE_M2
from ..wording import Quantity, Sentence
from .drill import Choice, Drill, DrillKind, TrueMark, choices
from .sweep_picture import SweepPicture

HEAD_M, RANGE_M = 1.0, 20.0
HALF_M, CELL_M = 40.0, 1.0


def _patch(
    rng: np.random.Generator,
    depth_m: float,
    bed: str = "sand",
    standing: tuple[Standing, ...] = (),
    groups: tuple[Group, ...] = (),
) -> Patch:
    """Water of one depth but for a little slope, over one kind of bed."""
    axis = np.arange(-HALF_M, HALF_M + CELL_M / 2.0, CELL_M)
    east, north = np.meshgrid(axis, axis)
    turn = rng.uniform(0.0, 2.0 * np.pi)
    depth = depth_m + 0.01 * (east * np.sin(turn) + north * np.cos(turn))
    which = np.full(depth.shape, BEDS.index(bed), dtype=np.uint8)
    return Patch(Grid(-HALF_M, -HALF_M, CELL_M, depth), which, standing, groups)


def _shown(
    patch: Patch,
    rng: np.random.Generator,
    turns: tuple[float, ...] = (0.0,),
    hang: Hang | None = None,
    arrow: tuple[float, float] | None = None,
    holes: tuple[tuple[float, float], ...] = (),
    caption: str = "",
) -> SweepPicture:
    """A picture that begins a turn at each of these moments [s]."""
    at = hang or Hang(HEAD_M, RANGE_M, 34.0)
    pictures = []
    look = Look(patch, TurningHead(), at, rng)
    for moment in turns:
        look = Look(patch, TurningHead(), at, rng, moment)
        look.advance(look.turn_s)
        pictures.append(look.levels.copy())
    return SweepPicture(
        np.array(pictures), at.range_m, at.depth_m, patch.bottom_depth_m, look.turn_s, arrow, holes, caption
    )


def _place(bearing_deg: float, away_m: float) -> tuple[float, float]:
    turn = np.radians(bearing_deg)
    return float(away_m * np.sin(turn)), float(away_m * np.cos(turn))


def _thing(
    kind: StandingKind, bearing_deg: float, away_m: float, rng: np.random.Generator, small: float = 1.0
) -> Standing:
    """Something that stands, across the way to it, so that it is seen from its broad side."""
    one = made_standing(kind, *_place(bearing_deg, away_m), rng)
    scaled = {name: small * getattr(one, name) for name in ("height_m", "length_m", "width_m")}
    return replace(one, bearing_deg=bearing_deg + 90.0 + float(rng.uniform(-25.0, 25.0)), **scaled)


def _slant(away_m: float, depth_m: float) -> float:
    return float(np.hypot(away_m, depth_m - HEAD_M))


SHARES: tuple[tuple[str, str, float], ...] = (
    ("same", "As far as in the picture", 0.97),
    ("most", "About four fifths of it", 0.80),
    ("half", "About half of it", 0.52),
    ("little", "About a quarter of it", 0.27),
)


def along_the_ice(rng: np.random.Generator, level: int) -> Drill:
    """How far along the ice something on the bed is, by the width of the dark middle."""
    wrong = {1: ("same", "little"), 2: ("same", "most", "little"), 3: ("same", "most", "half", "little")}[level]
    key, _, share = SHARES[int(rng.integers(0, 4))]
    wanted = share + float(rng.uniform(-0.02, 0.02))
    slant = float(rng.uniform(11.0, 17.0))
    depth = HEAD_M + slant * float(np.sqrt(1.0 - wanted**2))
    depth = max(depth, 3.0)
    away = float(np.sqrt(slant**2 - (depth - HEAD_M) ** 2))
    bearing = float(rng.uniform(0.0, 360.0))
    patch = _patch(rng, depth, "sand", (_thing("boulder", bearing, away, rng, 0.8),))
    clip = _shown(patch, rng, arrow=(bearing, slant))
    why = (
        "The dark middle is as wide as the water is deep under the head: {down}. The way of the sound is {slant}, so along "
        "the ice it is {away}."
    )
    values = {
        "down": Quantity(depth - HEAD_M, "m"),
        "slant": Quantity(slant, "m"),
        "away": Quantity(away, "m"),
    }
    told = tuple(Choice(name, text) for name, text, _ in SHARES if name == key or name in wrong)
    return Drill(
        Sentence("The ring is round a boulder on the bed. How far is it along the ice?"), (), Sentence(why, values),
        (TrueMark("boulder", "standing", depth - 0.3, away),), 1.0, told, key, sweeps=(clip,),
    )  # fmt: skip


WAYS: tuple[tuple[str, str, float], ...] = (
    ("away", "Away from you", 0.0),
    ("towards", "Towards you", 180.0),
    ("clockwise", "Clockwise round you", 90.0),
    ("anticlockwise", "Anticlockwise round you", -90.0),
)


def _school(rng: np.random.Generator, passing: Passing, count: int, depth_m: float) -> Group:
    return group_of("school", "grayling", count, depth_m, passing.way(None, 4000.0), rng)


def which_way(rng: np.random.Generator, level: int) -> Drill:
    """Which way a school swims, from two pictures some turns apart."""
    key, _, turn = WAYS[int(rng.integers(0, 4))]
    depth = float(rng.uniform(6.0, 9.0))
    bearing, away = float(rng.uniform(0.0, 360.0)), float(rng.uniform(10.5, 13.0))
    speed = {1: 0.22, 2: 0.17, 3: 0.13}[level]
    off = {1: 0.0, 2: 12.0, 3: 20.0}[level] * float(rng.uniform(-1.0, 1.0))
    later = 26.0
    # The middle of its way lies at the bearing, so that round it is round.
    passing = Passing(*_place(bearing, away), later / 2.0 + 4.0, bearing + turn + off, speed)
    swims = _school(rng, passing, int(rng.integers(22, 34)), 0.5 * depth)
    patch = _patch(rng, depth, "mud", (), (swims,))
    clips = tuple(
        replace(_shown(patch, rng, (moment,)), caption=words)
        for moment, words in ((0.0, "First"), (later, "Three turns later"))
    )
    why = "Between the two pictures it has gone {gone}, {fast} through the water, and the bearing says which way."
    values = {"gone": Quantity(speed * later, "m"), "fast": Quantity(speed, "m/s")}
    return Drill(
        Sentence("A school in two pictures. Which way does it swim?"), (), Sentence(why, values),
        (TrueMark("school", "school", 0.5 * depth, away),), 1.0, choices(*((one, text) for one, text, _ in WAYS)), key,
        sweeps=clips,
    )  # fmt: skip


def school_or_hunters(rng: np.random.Generator, level: int) -> Drill:
    """Many small ones close together, or a few larger ones apart."""
    school = bool(rng.random() < 0.5)
    depth = float(rng.uniform(6.0, 9.0))
    bearing, away = float(rng.uniform(0.0, 360.0)), float(rng.uniform(8.0, 13.0))
    passing = Passing(*_place(bearing, away), 4.0, bearing + 90.0, 0.12)
    count = {1: 34, 2: 26, 3: 20}[level] if school else {1: 2, 2: 3, 3: 3}[level]
    group = (
        _school(rng, passing, count, 0.5 * depth)
        if school
        else group_of("hunters", "char", count, 0.5 * depth, passing.way(None, 4000.0), rng)
    )
    clip = _shown(_patch(rng, depth, "mud", (), (group,)), rng, arrow=(bearing, _slant(away, 0.5 * depth)))
    why = (
        "Many small marks close together, {count} fish: a school. Hunters are two to four, each a mark of its own."
        if school
        else "A few marks apart from each other, {count} fish: hunters. A school is many small ones close together."
    )
    return Drill(
        Sentence("The ring is round fish. A school, or hunters?"), (),
        Sentence(why, {"count": Quantity(float(count), "count")}),
        (TrueMark("school" if school else "hunters", "school", 0.5 * depth, away),), 1.0,
        choices(("school", "A school of many"), ("hunters", "A few hunters")), "school" if school else "hunters",
        sweeps=(clip,),
    )  # fmt: skip


STANDS: tuple[tuple[StandingKind, str], ...] = (
    ("timber", "Timber: a line with a shadow as long"),
    ("boulder", "A boulder: short and bright, one round shadow"),
    ("weed edge", "Weeds: a wide, speckled patch"),
)


def what_stands(rng: np.random.Generator, level: int) -> Drill:
    """Timber, a boulder or weeds."""
    kind, _ = STANDS[int(rng.integers(0, 3))]
    depth = float(rng.uniform(5.5, 8.0))
    bearing, away = float(rng.uniform(0.0, 360.0)), float(rng.uniform(8.0, 12.0))
    thing = _thing(kind, bearing, away, rng)
    high, long, wide = SIZES[kind]
    small = {1: 1.0, 2: 0.6, 3: 0.3}[level]  # how near its size is to the largest of its kind
    thing = replace(
        thing, height_m=high[0] + small * (high[1] - high[0]), length_m=long[0] + small * (long[1] - long[0]),
        width_m=wide[0] + small * (wide[1] - wide[0]),
    )  # fmt: skip
    clip = _shown(_patch(rng, depth, "sand", (thing,)), rng, arrow=(bearing, _slant(away, depth)))
    why = {
        "timber": "One long bright line, and behind it a shadow as long as the line: a trunk, {long} long.",
        "boulder": "Short and bright at the front, and one shadow behind it, as wide as the stone: a boulder, {high} high.",
        "weed edge": "A wide patch of specks with shadows all through it, {long} along its edge: stems, and no one thing.",
    }[kind]
    values = {"long": Quantity(thing.length_m, "m"), "high": Quantity(thing.height_m, "m")}
    return Drill(
        Sentence("The ring is round something on the bed. What is it?"), (),
        Sentence(why, {name: one for name, one in values.items() if "{" + name + "}" in why}),
        (TrueMark(kind, "standing", depth - thing.height_m / 2.0, away),), 1.0, choices(*STANDS), kind, sweeps=(clip,),
    )  # fmt: skip


def which_bed_is_hard(rng: np.random.Generator, level: int) -> Drill:
    """Which half of the bed is hard: it answers more."""
    right = bool(rng.random() < 0.5)
    depth = float(rng.uniform(5.0, 8.0))
    hard, soft = {1: ("rock", "mud"), 2: ("gravel", "mud"), 3: ("gravel", "silt")}[level]
    patch = _patch(rng, depth, soft)
    bed = patch.bed.copy()
    half = bed.shape[1] // 2
    bed[:, half + 1 :] = BEDS.index(hard if right else soft)
    bed[:, :half] = BEDS.index(soft if right else hard)
    clip = _shown(replace(patch, bed=bed), rng, hang=Hang(HEAD_M, RANGE_M, {1: 26.0, 2: 28.0, 3: 30.0}[level]))
    why = f"{hard} throws back far more than {soft} at a slant: the half that is stronger at the same distance is the hard one."
    side = "3 o'clock" if right else "9 o'clock"
    return Drill(
        Sentence("One half of this bed is hard. Which?"), (), Sentence(why[0].upper() + why[1:]),
        (TrueMark(f"{hard}, towards {side}", "bottom", depth),), 1.0,
        choices(("right", "Towards 3 o'clock"), ("left", "Towards 9 o'clock")), "right" if right else "left",
        sweeps=(clip,),
    )  # fmt: skip


def is_the_heading_off(rng: np.random.Generator, level: int) -> Drill:
    """A boulder that is known to lie due twelve is seen elsewhere: the picture is turned, and by how much."""
    step = {1: 60.0, 2: 40.0, 3: 25.0}[level]
    key, off = (("straight", 0.0), ("clockwise", step), ("anticlockwise", -step))[int(rng.integers(0, 3))]
    depth, away = float(rng.uniform(5.5, 8.0)), float(rng.uniform(8.0, 12.0))
    patch = _patch(rng, depth, "sand", (_thing("boulder", 0.0, away, rng),))
    # A mark that stands anticlockwise of north shows what lies north clockwise of twelve.
    clip = _shown(patch, rng, hang=Hang(HEAD_M, RANGE_M, 34.0, off_deg=-off))
    why = (
        "The boulder stands at twelve, where it is: handle, pole mark, head and north mark are in line."
        if key == "straight"
        else f"The boulder stands {{off}} {key} of twelve: so is everything else. Turn the picture back by that, or line up "
        "handle, pole mark, head and north mark."
    )
    return Drill(
        Sentence("A boulder is known to lie due twelve. Is the picture straight?"), (),
        Sentence(why, {} if key == "straight" else {"off": Quantity(abs(off), "degrees")}),
        (TrueMark("boulder, at twelve", "standing", depth - 0.5, away),), 1.0,
        choices(("straight", "It is straight"), ("clockwise", "It is turned clockwise"),
                ("anticlockwise", "It is turned anticlockwise")), key, sweeps=(clip,),
    )  # fmt: skip


def stay_or_leave(rng: np.random.Generator, level: int) -> Drill:
    """The watch clock by heart: how long an empty hole is worth."""
    least = {1: 2.0, 2: 1.6, 3: 1.3}[level]
    stays = bool(rng.random() < 0.5)
    while True:
        move_s = 60.0 * float(rng.integers(2, 13))
        waters = Waters(RANGE_M, USUAL_FISH_M_S, USUAL_SCHOOLS_PER_KM2, USUAL_SURE_M2, move_s)
        seen = int(rng.integers(0, 2))
        watched_s = 60.0 * float(rng.integers(1, 46))
        here, there = worths(waters, watched_s, seen)
        ratio = here / there
        if ratio > least if stays else ratio < 1.0 / least:
            break
    patch = _patch(rng, float(rng.uniform(5.0, 8.0)), "mud")
    asked = (
        "Watched for {watched}, "
        + ("no school seen" if seen == 0 else "one school seen")
        + ". Moving takes {move}. And now?"
    )
    why = "Staying brings {here} schools an hour and moving {there}, if schools are as many as they usually are: " + (
        "what was seen says that fish live here." if seen else "the longer nothing comes, the fewer live here."
    )
    return Drill(
        Sentence(asked, {"watched": Quantity(watched_s, "s"), "move": Quantity(move_s, "s")}), (),
        Sentence(why, {"here": Quantity(round(here, 1), "count"), "there": Quantity(round(there, 1), "count")}),
        (TrueMark("nobody in sight", "water", 1.0),), 1.0,
        choices(("stay", "Stay and watch"), ("go", "Go and look elsewhere")), "stay" if here >= there else "go",
        sweeps=(_shown(patch, rng),),
    )  # fmt: skip


def which_of_three_holes(rng: np.random.Generator, level: int) -> Drill:
    """Of three places the one past which a school comes when a hole is ready there."""
    depth = float(rng.uniform(5.0, 7.0))
    bearing, away = float(rng.uniform(0.0, 360.0)), float(rng.uniform(9.0, 12.0))
    speed = {1: 0.14, 2: 0.12, 3: 0.10}[level]
    heading = bearing + float(rng.choice([-1.0, 1.0])) * float(rng.uniform(70.0, 110.0))
    later, ready = 26.0, 60.0
    passing = Passing(*_place(bearing, away), later, heading, speed)
    swims = _school(rng, passing, int(rng.integers(24, 34)), 0.4 * depth)
    patch = _patch(rng, depth, "mud", (), (swims,))

    def at(time_s: float, aside: float = 0.0) -> tuple[float, float]:
        east, north = swims.centre(np.array([time_s]))[0] + aside * np.array(_place(heading + 90.0, 1.0))
        return float(np.degrees(np.arctan2(east, north)) % 360.0), float(np.hypot(east, north))

    ahead = at(later + ready)
    # Where it came from, and aside of its way, as far from where it is as the right one.
    others = [at(later - ready), at(later + 0.2 * ready, 6.5)]
    order = rng.permutation(3)
    places = [(ahead, *others)[k] for k in order]
    right = "ABC"[int(np.flatnonzero(order == 0)[0])]
    clips = tuple(
        replace(_shown(patch, rng, (moment,), holes=tuple(places)), caption=words)
        for moment, words in ((0.0, "First"), (later, "Three turns later"))
    )
    why = (
        "It swims {fast} through the water: in {ready}, when a hole is ready, it is {gone} further on its way, at "
        + right
        + "."
    )
    values = {"fast": Quantity(speed, "m/s"), "ready": Quantity(ready, "s"), "gone": Quantity(speed * ready, "m")}
    return Drill(
        Sentence("A school in two pictures. A hole is ready a minute after the second: which?"), (), Sentence(why, values),
        (TrueMark("school", "school", 0.4 * depth, away),), 1.0,
        choices(("A", "Hole A"), ("B", "Hole B"), ("C", "Hole C")), right, sweeps=clips,
    )  # fmt: skip


def what_the_dark_disc_says(rng: np.random.Generator, level: int) -> Drill:
    """Under which of two holes it is deeper: the dark middle is as wide as the water is deep."""
    left_deeper = bool(rng.random() < 0.5)
    shallow = float(rng.uniform(4.0, 7.0))
    deep = shallow + {1: 4.0, 2: 2.5, 3: 1.4}[level]
    depths = (deep, shallow) if left_deeper else (shallow, deep)
    clips = tuple(
        replace(_shown(_patch(rng, one, "sand"), rng), caption=words)
        for one, words in zip(depths, ("Left hole", "Right hole"), strict=True)
    )
    why = (
        "Nothing of the bed is nearer than straight down, so the dark middle is as wide as the water is deep under the head: "
        "{left} at the left, {right} at the right."
    )
    values = {"left": Quantity(depths[0] - HEAD_M, "m"), "right": Quantity(depths[1] - HEAD_M, "m")}
    return Drill(
        Sentence("Two holes, the same range. Under which is the water deeper?"), (), Sentence(why, values),
        (TrueMark("bed, left", "bottom", depths[0]), TrueMark("bed, right", "bottom", depths[1])), 1.0,
        choices(("left", "Under the left one"), ("right", "Under the right one")), "left" if left_deeper else "right",
        sweeps=clips,
    )  # fmt: skip


def fish_or_thing(rng: np.random.Generator, level: int) -> Drill:
    """One mark in two pictures: what swims has moved, what stands has not."""
    fish = bool(rng.random() < 0.5)
    depth = float(rng.uniform(5.5, 8.0))
    bearing, away = float(rng.uniform(0.0, 360.0)), float(rng.uniform(8.0, 12.0))
    speed = {1: 0.16, 2: 0.11, 3: 0.08}[level]
    later = 26.0
    passing = Passing(*_place(bearing, away), 0.0, bearing + 90.0 + float(rng.uniform(-30.0, 30.0)), speed)
    deep = 0.6 * depth
    groups = (group_of("hunters", "char", 1, deep, passing.way(None, 4000.0), rng),) if fish else ()
    things = () if fish else (_thing("boulder", bearing, away, rng, 0.5),)
    patch = _patch(rng, depth, "mud", things, groups)
    arrow = (bearing, _slant(away, deep if fish else depth - 0.3))
    clips = (
        replace(_shown(patch, rng, (0.0,), arrow=arrow), caption="First"),
        replace(_shown(patch, rng, (later,)), caption="Three turns later"),
    )
    why = (
        "Three turns later it is {gone} from where it was: it swims. What stands stays, and throws a shadow."
        if fish
        else "Three turns later it stands where it stood, and it is dark behind it: a boulder. A fish would have moved."
    )
    return Drill(
        Sentence("The ring is round a mark in the first picture. A fish, or a thing?"), (),
        Sentence(why, {"gone": Quantity(speed * later, "m")} if fish else {}),
        (TrueMark("char" if fish else "boulder", "fish" if fish else "standing", deep if fish else depth - 0.3, away),), 1.0,
        choices(("fish", "A fish"), ("thing", "A thing that stands")), "fish" if fish else "thing", sweeps=clips,
    )  # fmt: skip


KINDS = (
    DrillKind("along the ice", "Where along the ice", along_the_ice),
    DrillKind("the dark middle", "What the dark middle says", what_the_dark_disc_says),
    DrillKind("fish or thing", "Fish or thing", fish_or_thing),
    DrillKind("school or hunters", "School or hunters", school_or_hunters),
    DrillKind("what stands there", "Timber, boulder or weeds", what_stands),
    DrillKind("which bed is hard", "Which bed is hard", which_bed_is_hard),
    DrillKind("which way it swims", "Which way it swims", which_way),
    DrillKind("which of three holes", "Which of three holes", which_of_three_holes),
    DrillKind("is the heading off", "Is the heading off", is_the_heading_off),
    DrillKind("stay or go", "Stay or go", stay_or_leave),
)
