"""Made-up days and schools with which the advice on searching is judged. Figures for `docs/search.md`:

    python -m benchmarks.searching              all of it
    python -m benchmarks.searching drill hand   some of it

Seeds 0 to 1999 are the judge's and were never looked at while anything was tuned; 5000 and above are for trying out.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from hollow_glint.core.intervals import wilson
from hollow_glint.core.search.by_hand import fix_by_hand
from hollow_glint.core.search.course import Array, Column, Course, Fix
from hollow_glint.core.search.kinds import THINGS, Seen, ThingKind, what_kind
from hollow_glint.core.search.look import Look
from hollow_glint.core.search.made import made_patch
from hollow_glint.core.search.marks import PictureMark, find_marks, fix_of, looked_at, middle_of, thing_at
from hollow_glint.core.search.patch import Group
from hollow_glint.core.search.stay_or_go import TURN_S, Waters, best_rate, go_at, stay_or_go
from hollow_glint.core.search.sweep import BEARINGS, Hang, TurningHead
from hollow_glint.core.search.where_to_drill import Walker, chances, where_to_drill
from hollow_glint.core.searches.debrief import judged
from hollow_glint.core.searches.debrief import told as search_told
from hollow_glint.core.searches.scenes import SCENES, SCHOOLS
from hollow_glint.core.searches.searcher import search

JUDGED, TRYING = 0, 5000
DAY_S = 6 * 3600.0
FIXED_MIN = (1, 3, 5, 10, 20)

# Lakes of different kinds: usual ones, rich and poor ones, those where places differ much and hardly.
USUAL = Waters(18.3, 0.25, 60.0, 20_000.0, 300.0)
LAKES: dict[str, Waters] = {
    "usual": USUAL,
    "patchy": replace(USUAL, sure=5_000.0),
    "even": replace(USUAL, sure=100_000.0),
    "rich": replace(USUAL, schools_per_km2=250.0),
    "poor": replace(USUAL, schools_per_km2=20.0),
    "slow fish": replace(USUAL, fish_speed_m_s=0.1),
    "long walks": replace(USUAL, move_s=900.0),
    "short walks": replace(USUAL, move_s=120.0),
}


def watched_day(waters: Waters, seed: int, leaves_at: Callable[[int], float], day_s: float = DAY_S) -> int:
    """Schools found in one day of going from place to place, each left `leaves_at(seen)` [s] after the first look.

    Each place has a density of its own, drawn as the prior says (gamma); schools come as molecules of an ideal gas do.
    """
    rng = np.random.default_rng(seed)
    time_s, found = 0.0, 0
    while (time_s := time_s + waters.move_s) + TURN_S < day_s:
        density = rng.gamma(waters.schools) / waters.sure
        seen, here_s = int(rng.poisson(density * waters.at_first_m2)), TURN_S
        while (leave_s := leaves_at(seen)) > here_s:
            comes_s = here_s + rng.exponential(1.0 / max(density * waters.swept_m2_s, 1e-12))
            if comes_s > leave_s or time_s + comes_s > day_s:
                here_s = leave_s
                break
            here_s, seen = comes_s, seen + 1
        found += seen
        time_s += here_s
    return found


def by_the_clock(waters: Waters) -> Callable[[int], float]:
    """When the clock would have one leave, by how many were seen."""
    table = [go_at(waters, best_rate(waters), seen) for seen in range(40)]
    return lambda seen: table[min(seen, len(table) - 1)]


@dataclass(frozen=True)
class MadeSchool:
    """A school with its course [m, m/s] at time 0, and the fixes that were taken of it."""

    east_m: float
    north_m: float
    east_m_s: float
    north_m_s: float
    fixes: tuple[Fix, ...]
    column: Column

    @property
    def state(self) -> Array:
        """As `Course.draws` has it, at time 0."""
        return np.array([self.east_m, self.north_m, self.east_m_s, self.north_m_s])


def made_school(seed: int) -> MadeSchool:
    """A school that swims past within sight, seen two to five times with the errors of a turning picture."""
    rng = np.random.default_rng([seed, 14])
    bottom, head = rng.uniform(4.0, 14.0), 1.0
    deep, depth_known = rng.uniform(head + 0.3, bottom - 0.2), rng.random() < 0.5
    speed, heading = rng.uniform(0.05, 0.5), rng.uniform(0.0, 2.0 * np.pi)
    away, side = rng.uniform(6.0, 20.0), rng.uniform(0.0, 2.0 * np.pi)
    v = speed * np.array([np.sin(heading), np.cos(heading)])
    place = away * np.array([np.sin(side), np.cos(side)])
    every = float(rng.choice([12.0, 20.0, 30.0]))
    sd = (float(rng.uniform(0.8, 3.0)), float(rng.uniform(0.1, 0.5)))
    fixes = []
    for k in range(int(rng.integers(2, 6))):
        east, north = place + v * k * every
        bearing = np.degrees(np.arctan2(east, north)) + rng.normal(0.0, sd[0])
        slant = np.hypot(np.hypot(east, north), deep - head) + rng.normal(0.0, sd[1])
        fixes.append(Fix(k * every, float(bearing % 360.0), float(max(slant, 0.3)), *sd))
    column = Column(head, bottom, deep if depth_known else None)
    return MadeSchool(float(place[0]), float(place[1]), float(v[0]), float(v[1]), tuple(fixes), column)


def walker_after(school: MadeSchool, holes: int = 1) -> Walker:
    """Someone who starts half a minute after the last fix."""
    cone = 0.21 * (school.column.bottom_depth_m - 1.0) / 2.0 + 0.8
    return Walker(school.fixes[-1].time_s + 30.0, 1.2, 120.0, 480.0, cone, 1.5, holes)


def drilled(school: MadeSchool, holes: int) -> tuple[float, bool]:
    """The chance that was stated, and whether the school came."""
    course = Course(school.fixes, school.column)
    walker = walker_after(school, holes)
    told = where_to_drill(course, walker)
    places = np.array([[(one.east_m, one.north_m) for one in told.holes]])
    true = school.state.copy()
    true[:2] += true[2:] * course.since_s
    return told.chance, bool(chances(course, walker, places, true[None])[0])


def touched_things(seed: int) -> list[tuple[ThingKind, Seen | None]]:
    """What is seen of each thing of a made-up patch when a finger touches where it truly is; None where no mark is."""
    rng = np.random.default_rng([seed, 3])
    patch = made_patch(seed)
    hang = Hang(1.0, float(rng.choice([15.0, 20.0, 25.0])), float(rng.uniform(28.0, 38.0)))
    look = Look(patch, TurningHead(), hang, np.random.default_rng(seed))
    look.advance(2.0 * look.turn_s)
    before = look.levels.copy()
    look.advance(look.turn_s)
    marks = find_marks(look.levels, look.seen_s, hang.range_m, before)
    places: list[tuple[ThingKind, Array]] = []
    for one in patch.standing:
        depth = float(patch.depth_at(np.array([one.east_m]), np.array([one.north_m]))[0]) - one.height_m / 2.0
        places.append(("standing", np.array([one.east_m, one.north_m, depth])))
    for group in patch.groups:
        at = group.centre(np.array([look.time_s]))[0]
        when = look.seen_s[int(np.degrees(np.arctan2(*at)) % 360.0 / 360.0 * BEARINGS) % BEARINGS]
        places.append((_CALLED[group.kind], group.places(np.array([when]))[0].mean(axis=0)))
    out: list[tuple[ThingKind, Seen | None]] = []
    for kind, (east, north, depth) in places:
        away = float(np.hypot(np.hypot(east, north), depth - hang.depth_m))
        if away < hang.range_m - 1.0:
            thing = thing_at(marks, float(np.degrees(np.arctan2(east, north)) % 360.0), away)
            out.append((kind, looked_at(thing) if thing else None))
    return out


_CALLED: dict[str, ThingKind] = {"school": "school", "hunters": "hunters", "single": "single fish"}


def school_seen(seed: int, times: int, apart_turns: float) -> tuple[Look, Group, list[list[PictureMark]]]:
    """A made-up school as a picture shows it, `times` times, so many turns apart: the marks that a finger would touch.

    A moment at which it shows no mark, or is out of the picture, gives none.
    """
    patch = made_patch(seed)
    group = patch.groups[0]
    look = Look(patch, TurningHead(), Hang(), np.random.default_rng([seed, 1]))
    look.advance(2.0 * look.turn_s)
    seen = []
    for _ in range(times):
        look.advance(apart_turns * look.turn_s)
        marks = find_marks(look.levels, look.seen_s, look.hang.range_m, look.picture_before)
        east, north = group.centre(np.array([look.time_s]))[0]
        when = look.seen_s[int(np.degrees(np.arctan2(east, north)) % 360.0 / 360.0 * BEARINGS) % BEARINGS]
        east, north, depth = group.places(np.array([when]))[0].mean(axis=0)
        away = float(np.hypot(np.hypot(east, north), depth - look.hang.depth_m))
        # Whoever touches a school means what moves there, and sees it among what stands.
        swims = [one for one in marks if not one.has_stayed]
        thing = thing_at(swims, float(np.degrees(np.arctan2(east, north)) % 360.0), away) if away < 19.0 else []
        if thing:
            seen.append(thing)
    return look, group, seen


def by_hand(seed: int) -> tuple[bool, bool] | None:
    """A school typed in from three pictures: clock to ten minutes, ring to half a metre. Whether the course's spans of
    speed and heading hold the truth; None where fewer than two pictures show it."""
    look, group, seen = school_seen(seed, 3, 2.0)
    if len(seen) < 2:
        return None
    fixes = []
    for thing in seen:
        bearing, away, when = middle_of(thing)
        fixes.append(fix_by_hand(round(bearing / 5.0) % 72 / 6.0, max(round(2.0 * away) / 2.0, 0.5), when))
    course = Course(fixes, Column(look.hang.depth_m, look.patch.deepest(look.hang.range_m)))
    swims = group.velocity(np.array([np.mean([one.time_s for one in fixes])]))[0]
    speed, heading = course.speed(), course.heading()
    off = (np.degrees(np.arctan2(*swims)) - heading.low) % 360.0
    return speed.low <= np.hypot(*swims) <= speed.high, bool(off <= heading.high - heading.low)


def by_hand_line(situations: int, first: int = JUDGED) -> str:
    """How many of so many situations typed in by hand have the true course within its spans."""
    held: list[tuple[bool, bool]] = []
    seed = first
    while len(held) < situations:
        if (told := by_hand(seed)) is not None:
            held.append(told)
        seed += 1
    both = sum(a and b for a, b in held)
    return f"By hand: {both} of {situations} with speed and heading in their spans " \
           f"(speed {sum(a for a, _ in held)}, heading {sum(b for _, b in held)})."  # fmt: skip


def kind_table(patches: int, first: int = JUDGED) -> list[str]:
    """How often the likeliest kind is the true one, and how well the chances are met."""
    calls = [one for seed in range(first, first + patches) for one in touched_things(seed)]
    seen = [(kind, what_kind(what)) for kind, what in calls if what is not None]
    lines = ["| truth | touched | no mark there | " + " | ".join(f"called {one}" for one in THINGS) + " |"]
    lines.append("|---|---|---|" + "---|" * len(THINGS))
    for kind in THINGS:
        mine = [told[0].kind for true, told in seen if true == kind]
        none = sum(1 for true, what in calls if true == kind and what is None)
        lines.append(f"| {kind} | {len(mine) + none} | {none} | " + " | ".join(
            f"{100 * mine.count(one) / max(len(mine), 1):.0f} %" for one in THINGS) + " |")  # fmt: skip
    lines.append("")
    for low, high in ((0.25, 0.5), (0.5, 0.7), (0.7, 0.9), (0.9, 1.01)):
        within = [(told[0].chance, told[0].kind == true) for true, told in seen if low <= told[0].chance < high]
        if within:
            stated, right = np.mean(within, axis=0)
            lines.append(f"Stated {100 * low:.0f} to {min(100 * high, 100):.0f} %: on average {100 * stated:.0f}, "
                         f"right in {100 * right:.0f} % of {len(within)}.")  # fmt: skip
    return lines


def watch_table(days: int, first: int = JUDGED) -> list[str]:
    """Schools an hour by the clock and by fixed watches, over the same seeded days."""
    lines = ["| lake | go at, none seen | clock | " + " | ".join(f"{m} min" for m in FIXED_MIN) + " |"]
    lines.append("|---|---|---|" + "---|" * len(FIXED_MIN))
    for name, waters in LAKES.items():
        ways = [by_the_clock(waters), *((lambda _, m=m: 60.0 * m) for m in FIXED_MIN)]
        found = np.array([[watched_day(waters, seed, way) for way in ways] for seed in range(first, first + days)])
        hour = found.mean(axis=0) / (DAY_S / 3600.0)
        sd = found.std(axis=0) / np.sqrt(days) / (DAY_S / 3600.0)
        first_go = stay_or_go(waters, 0.0, 0).go_at_s / 60.0
        told = " | ".join(f"{a:.2f} ± {b:.2f}" for a, b in zip(hour, sd, strict=True))
        lines.append(f"| {name} | {first_go:.1f} min | {told} |")
    return lines


def drill_table(schools: int, first: int = JUDGED) -> list[str]:
    """Stated chances against what came, by number of holes and by what was stated."""
    lines = ["| holes | stated | came | of | 95 % | stated below a half: stated, came | above: stated, came |"]
    lines.append("|---|---|---|---|---|---|---|")
    for holes in (1, 2, 3):
        each = np.array([drilled(made_school(seed), holes) for seed in range(first, first + schools)], dtype=float)
        low, high = wilson(int(each[:, 1].sum()), schools)
        less = each[:, 0] < 0.5
        parts = [
            f"{100 * p[:, 0].mean():.0f}, {100 * p[:, 1].mean():.0f} of {len(p)}" for p in (each[less], each[~less])
        ]
        stated, came = 100 * each.mean(axis=0)
        lines.append(f"| {holes} | {stated:.1f} | {came:.1f} | {schools} | {100 * low:.0f} to {100 * high:.0f} | "
                     f"{parts[0]} | {parts[1]} |")  # fmt: skip
    return lines


def picture_line(schools: int, first: int = JUDGED) -> str:
    """From the simulator's own pictures, untouched by hand: five fixes of a school, the hole, and whether it came."""
    told: list[tuple[float, bool]] = []
    seed = first
    while len(told) < schools:
        look, group, seen = school_seen(seed, 5, 1.5)
        seed += 1
        if len(seen) < 2:
            continue
        resolution = look.still.sound_speed_m_s * look.head.pulse_s / 2.0
        fixes = [fix_of(thing, look.head.across_deg, resolution) for thing in seen]
        course = Course(fixes, Column(look.hang.depth_m, look.patch.deepest(look.hang.range_m)))
        walker = Walker(look.time_s + 10.0, 1.2, 90.0, 480.0, 0.105 * group.depth_m + 0.3, 1.5)
        (hole,) = (drilling := where_to_drill(course, walker)).holes
        moments = np.arange(hole.ready_at_s, hole.ready_at_s + walker.stay_s, 1.0)
        away = np.hypot(*(group.centre(moments) - np.array([hole.east_m, hole.north_m])).T).min()
        told.append((drilling.chance, bool(away <= walker.reach_m)))
    stated, came = 100.0 * np.mean(told, axis=0)
    low, high = wilson(sum(one for _, one in told), schools)
    return (
        f"From pictures: stated {stated:.0f} %, came {came:.0f} % of {schools} "
        f"(95 %: {100 * low:.0f} to {100 * high:.0f}); these schools turn now and then."
    )


def scene_table(waters: int, first: int, with_fan: bool) -> list[str]:
    """How the practised searcher does the scenes to search for real: so many waters of each."""
    lines = ["| scene | found 0, 1, 2, 3 of 3 | on average | marks that were none | holes | watched | gone after |"]
    lines.append("|---|---|---|---|---|---|---|")
    for scene in SCENES.values():
        if ("fan" in scene.heads) != with_fan:
            continue
        told = []
        for seed in range(first, first + waters):
            searched = search(scene, seed).searched
            told.append(search_told(searched, judged(searched, searched.water())))
        found = np.array([one.found for one in told])
        wrong, holes = np.mean([one.wrong for one in told]), np.mean([len(one.holes) for one in told])
        watched, done = np.mean([one.watched_s for one in told]) / 60.0, np.mean([one.done_s for one in told]) / 60.0
        counts = ", ".join(str(int((found == k).sum())) for k in range(SCHOOLS + 1))
        lines.append(
            f"| {scene.title} | {counts} | {found.mean():.2f} | {wrong:.2f} | {holes:.1f} | {watched:.1f} min | "
            f"{done:.1f} min |"
        )
    return lines


PARTS: dict[str, Callable[[int], str]] = {
    "drill": lambda first: "\n".join(drill_table(500, first)),
    "pictures": lambda first: picture_line(150, first),
    "watch": lambda first: "\n".join(watch_table(1000, first)),
    "kinds": lambda first: "\n".join(kind_table(200, first)),
    "hand": lambda first: f"{by_hand_line(20, first)}\n{by_hand_line(200, first)}",
    "scenes": lambda first: "\n".join(scene_table(50, first, with_fan=False)),
    "fan-scenes": lambda first: "\n".join(scene_table(16, first, with_fan=True)),
}

if __name__ == "__main__":
    asked = [one for one in sys.argv[1:] if one != "trying"] or list(PARTS)
    for part in asked:
        print(PARTS[part](TRYING if "trying" in sys.argv else JUDGED), "\n", flush=True)
