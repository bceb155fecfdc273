"""Made-up fish and waters with which the forward fan's measuring and gain window are judged. For `docs/search.md`:

    python -m benchmarks.looking_ahead              all of it
    python -m benchmarks.looking_ahead measure      some of it

Seeds 0 to 1999 are the judge's and were never looked at while anything was tuned; 5000 and above are for trying out.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from hollow_glint.core.bench.command import HandCommand
from hollow_glint.core.fan.fishing import FanFishing, Seats
from hollow_glint.core.fan.head import FAN_HEADS, FanHang, FanHead, in_fan
from hollow_glint.core.fan.look import FanLook
from hollow_glint.core.fan.measure import Measured, find_mark, measured, turn_to
from hollow_glint.core.fan.picture import places
from hollow_glint.core.fan.reading import FanReader
from hollow_glint.core.fan.settings import FanSettings
from hollow_glint.core.fan.swimmers import HungLure
from hollow_glint.core.fan.window import Sought, gain_window
from hollow_glint.core.intervals import wilson
from hollow_glint.core.search.made import made_patch, seen_from
from hollow_glint.core.search.patch import Group, Patch

from .searching import JUDGED, TRYING

FOOT_M = 0.3048
LASTS_S = 1.0


@dataclass(frozen=True)
class SeenFish:
    """A fish before a fan: the look, where it truly is when it is measured [m], how long [m], and the bed there [m]."""

    look: FanLook
    ahead_m: float
    along_ice_m: float
    depth_m: float
    length_m: float
    bed_m: float
    bearing_deg: float
    finger_m: tuple[float, float]

    def touched(self) -> Measured | None:
        """What a finger on it measures."""
        ahead, depth = self.finger_m
        return measured(self.look, min(ahead, self.look.settings.ahead_m), min(depth, self.look.settings.deep_m))


def lone_fish(
    patch: Patch, east_m: float, north_m: float, depth_m: float, length_m: float, way: tuple[float, float]
) -> Patch:
    """The water with one fish that passes a place at 20 s, on a heading [rad] at a speed [m/s]."""
    heading, speed = way
    step = 20.0 * speed * np.array([np.sin(heading), np.cos(heading)])
    none = np.zeros((1, 3))
    place = np.array([east_m, north_m])
    one = Group(
        "single", "char", np.array([length_m]), depth_m, np.array([0.0, 40.0]), np.array([place - step, place + step]),
        none, none, none, none,
    )  # fmt: skip
    return replace(patch, groups=(one,))


def seen_fish(seed: int) -> SeenFish:
    """A fish of 12 to 90 cm, 4 to 30 m off, at most three tenths of the fan's thickness beside its plane, in water with
    its own slope, edges, bottoms and two things standing; swimming any way."""
    rng = np.random.default_rng([seed, 77])
    head: FanHead = list(FAN_HEADS.values())[seed % 2]
    patch = made_patch(seed, groups=(), things=2)
    away, off = rng.uniform(4.0, 30.0), np.radians(rng.uniform(-0.3, 0.3) * head.thickness_deg)
    aim = float(rng.uniform(0.0, 360.0))
    east, north = away * np.sin(np.radians(aim) + off), away * np.cos(np.radians(aim) + off)
    bed = float(patch.depth_at(np.array([east]), np.array([north]))[0])
    depth = float(rng.uniform(0.25, 0.85) * bed)
    length = float(np.exp(rng.uniform(np.log(0.12), np.log(0.9))))
    patch = lone_fish(patch, east, north, depth, length, (rng.uniform(0.0, 2.0 * np.pi), rng.uniform(0.03, 0.3)))
    hang = FanHang(aim_deg=aim, depth_m=0.9)
    settings = FanSettings(ahead_m=min(32.0, max(away + 4.0, 12.0)), behind_m=2.0, deep_m=min(bed + 2.0, 15.0))
    look = FanLook(patch, head, hang, settings, np.random.default_rng(seed), (), 20.0 - LASTS_S)
    look.advance(LASTS_S)
    # A mark is taken from the last frames: it is where the fish was in their middle.
    east, north, depth = patch.groups[0].places(np.array([look.frames[-1].time_s - 0.35]))[0, 0]
    ahead = float(east * np.sin(np.radians(aim)) + north * np.cos(np.radians(aim)))
    finger = ahead + float(rng.normal(0.0, 0.15)), float(depth + rng.normal(0.0, 0.15))
    return SeenFish(
        look, ahead, float(np.hypot(east, north)), float(depth), length, bed,
        float(np.degrees(np.arctan2(east, north))), finger,
    )  # fmt: skip


def measure_table(fish: int, first: int = JUDGED) -> list[str]:
    """How well a touched fish is measured."""
    rows, none = [], 0
    for seed in range(first, first + fish):
        one = seen_fish(seed)
        found = one.touched()
        if found is None:
            none += 1
            continue
        away, length = found.along_ice_m, found.length_m
        rows.append(
            (
                abs(away.likely / one.along_ice_m - 1.0), abs(found.depth_m.likely - one.depth_m),
                length.low <= one.length_m <= length.high, length.high / length.low,
                abs(np.log(length.likely / one.length_m)),
                np.nan if found.off_bed_m is None else abs(found.off_bed_m - (one.bed_m - one.depth_m)),
                away.low <= one.along_ice_m <= away.high,
            )
        )  # fmt: skip
    found_rows = np.array(rows, dtype=np.float64)
    far, deep, holds, wide, middle, bed, _ = found_rows.T
    low, high = wilson(int(holds.sum()), holds.size)
    return [
        f"Nothing stood out where the finger touched: {none} of {fish}. Of the other {holds.size}:",
        f"distance along the ice within 3 %: {100 * (far < 0.03).mean():.1f} % "
        f"(half of them within {100 * np.median(far):.2f} %, 95 of 100 within {100 * np.quantile(far, 0.95):.2f} %)",
        f"depth within 1 ft: {100 * (deep < FOOT_M).mean():.1f} % (half within {100 * np.median(deep):.1f} cm)",
        f"length's span holds the truth: {100 * holds.mean():.1f} % (95 %: {100 * low:.0f} to {100 * high:.0f}); "
        f"its ends are a factor of {np.median(wide):.1f} apart, its middle within {100 * np.median(middle):.0f} % in "
        "half of the cases",
        f"height off the bed within 0.3 m: {100 * (bed < 0.3).mean():.0f} %, not told: {int(np.isnan(bed).sum())}",
    ]


def window_table(lures: int, first: int = JUDGED) -> list[str]:
    """Whether the floor shows the lure and the ceiling keeps water dark, in pictures of made-up water."""
    shown, lost, dark = [], [], []
    for seed in range(first, first + lures):
        rng = np.random.default_rng([seed, 78])
        head: FanHead = list(FAN_HEADS.values())[seed % 2]
        patch = replace(made_patch(seed, groups=(), things=2), clarity=str(rng.choice(["clear", "stained", "murky"])))
        depth = float(rng.uniform(0.4, 0.7) * patch.bottom_depth_m)
        hang = FanHang(mounting="down" if seed % 4 > 1 else "ahead")
        settings = FanSettings(ahead_m=10.0, behind_m=8.0, deep_m=min(patch.bottom_depth_m + 1.5, 20.0))
        ahead = float(rng.uniform(0.0, 2.0))
        sought = Sought(lure_ahead_m=ahead, lure_depth_m=depth, away_m=8.0, fish_depth_m=depth)
        lure = HungLure(0.0, ahead, depth, 0.0)
        for off, told in ((0.0, shown), (-6.0, lost)):
            look = FanLook(patch, head, hang, settings, np.random.default_rng(seed), (lure,))
            window = gain_window(look.water, head, hang, settings, sought)
            gain = float(np.clip(window.lure_floor + off, 0.0, 70.0))
            look.set(hang, replace(settings, gain_db=gain))
            look.advance(0.8)
            x, z = places(look.water, head, hang, look.settings)
            there = np.hypot(x - ahead, z - depth) < 0.4
            told.append(np.mean([(frame.steps[there] > 0).any() for frame in look.frames]) > 0.5)
        look.set(hang, replace(settings, gain_db=float(np.clip(window.ceiling, 0.0, 70.0))))
        look.advance(0.3)
        # Past the slush under the hole, before the bed and its arc, clear of the ice overhead.
        r = np.hypot(x, z - hang.depth_m)
        open_water = (
            (z > 2.0) & (r > 2.5) & (r < 0.75 * (patch.bottom_depth_m - hang.depth_m)) & (np.abs(x - ahead) > 0.6)
        )
        if open_water.any() and look.newest is not None:
            dark.append((look.newest.steps[open_water] > 0).mean() < 0.05)
    return [
        f"At its floor the lure shows in more than half of the frames: {100 * np.mean(shown):.0f} % of {lures} waters; "
        f"six steps of gain below it: {100 * np.mean(lost):.0f} %. "
        f"At the ceiling fewer than one cell of open water in twenty is lit: {100 * np.mean(dark):.0f} % of "
        f"{len(dark)}."
    ]


def turn_line(fish: int, first: int = JUDGED) -> str:
    """How well the turn of the handle is told that brings a fish into the plane: three aims, six degrees apart."""
    off, stated = [], []
    for seed in range(first, first + fish):
        one = seen_fish(seed)
        look = one.look
        aims = (look.hang.aim_deg - 6.0, look.hang.aim_deg, look.hang.aim_deg + 6.0)
        seen = []
        for aim in aims:
            look.set(replace(look.hang, aim_deg=aim % 360.0), look.settings)
            look.advance(1.0)
            ahead, depth = one.finger_m
            mark = find_mark(look, min(ahead, look.settings.ahead_m), min(depth, look.settings.deep_m))
            if mark is not None:
                seen.append((aim, mark.strength_db))
        if len(seen) < 3:
            continue
        east, north, _ = look.patch.groups[0].places(np.array([look.time_s - 1.5]))[0, 0]
        told = turn_to(seen, look.head, aims[1])
        truly = (np.degrees(np.arctan2(east, north)) - aims[1] + 180.0) % 360.0 - 180.0
        off.append(abs(told.turn_deg - truly))
        stated.append(told.sd_deg)
    return (
        f"Turn of the handle from three aims: within {np.median(off):.1f} degrees in half of {len(off)} cases, within "
        f"5 in {100 * np.mean(np.array(off) < 5.0):.0f} %; stated {np.median(stated):.1f} (1 sd), within two of them "
        f"{100 * np.mean(np.array(off) < 2.0 * np.array(stated)):.0f} %."
    )


def fished_hole(seed: int) -> FanFishing | None:
    """A hole by somebody of made-up water, fished with the head turned down; None where there is no hole to be had."""
    rng = np.random.default_rng([seed, 79])
    water = made_patch(seed)
    group = water.groups[seed % len(water.groups)]
    begins = float(rng.uniform(60.0, 240.0))
    at = group.centre(np.array([begins + rng.uniform(5.0, 30.0)]))[0]
    patch = seen_from(water, float(at[0]), float(at[1]))
    if not 4.0 < patch.bottom_depth_m < 16.0 or np.hypot(*at) > 45.0:
        return None
    head: FanHead = list(FAN_HEADS.values())[seed % 2]
    settings = FanSettings(ahead_m=8.0, behind_m=8.0, deep_m=min(patch.bottom_depth_m + 1.0, 20.0))
    hang = FanHang(mounting="down", aim_deg=float(rng.uniform(0.0, 360.0)))
    beside = 0.6 * patch.bottom_depth_m if seed % 3 == 0 else None
    seats = Seats(float(rng.uniform(0.3, 1.2)), hang.aim_deg, beside)
    return FanFishing(patch, head, hang, settings, np.random.default_rng([seed, 80]), seats, at_s=begins)


def swimmers_drawn(fishing: FanFishing) -> np.ndarray:
    """Everybody as the fan draws them (fish, 5): ahead and deep [m], how far beside the plane as a share of its half
    thickness, length [m], and how far from the lure [m]."""
    look = fishing.look
    came = look.came
    taken = came.taken if came is not None else frozenset()
    parts = [] if came is None else [np.column_stack([came.place_m, came.length_m])]
    for number, group in enumerate(look.patch.groups):
        left = [k for k in range(group.length_m.size) if (number, k) not in taken]
        parts.append(np.column_stack([group.places(np.array([look.time_s - 0.15]))[0][left], group.length_m[left]]))
    all_of = np.concatenate(parts)
    r, angle, off = in_fan(look.hang, all_of[:, 0], all_of[:, 1], all_of[:, 2] - look.hang.depth_m)
    ahead, deep = r * np.cos(angle), look.hang.depth_m + r * np.sin(angle)
    lure = look.lures[0]
    apart = np.sqrt(
        (all_of[:, 0] - lure.east_m) ** 2 + (all_of[:, 1] - lure.north_m) ** 2
        + (all_of[:, 2] - fishing.striking.lure_depth_m) ** 2
    )  # fmt: skip
    beside = np.abs(np.degrees(off)) / (look.head.thickness_deg / 2.0)
    return np.column_stack([ahead, deep, beside, all_of[:, 3], apart])


def fishing_table(holes: int, first: int = JUDGED) -> list[str]:
    """What the reader tells of fish while one fishes, against who truly swims there: the lure held still for a minute,
    then lifted slowly."""
    seen, gaps, false, minutes, touch_found, touch_right = [], [], 0, 0.0, [], []
    lures, fished = [], 0
    seed = first
    while fished < holes:
        fishing = fished_hole(seed)
        seed += 1
        if fishing is None:
            continue
        fished += 1
        reader = FanReader()
        for step in range(300):
            lift = [HandCommand(lift_m_s=0.02)] if step == 200 else []
            for commands in (lift, [], []):
                fishing.advance(0.1, commands, newest_only=True)
            told = reader.see(fishing.look)
            if fishing.time_s < 3.0:
                continue
            minutes += 0.3 / 60.0
            near = swimmers_drawn(fishing)
            lures.append(told.lures[0].mark is not None)
            bed = float(fishing.look.patch.depth_at(np.zeros(1), np.zeros(1))[0])
            counts = (near[:, 2] < 0.8) & (near[:, 3] > 0.12) & (near[:, 4] < 4.0) & (near[:, 1] < bed - 0.7)
            counts &= np.abs(near[:, 0]) < 6.0
            at_lure = near[:, 4] < 0.15
            lure = told.lures[0].mark or told.lures[0]
            for fish in near[counts & (near[:, 4] > 0.4)]:
                away = [np.hypot(one.mark.ahead_m - fish[0], one.mark.depth_m - fish[1]) for one in told.fish]
                found = int(np.argmin(away)) if away else -1
                seen.append(found >= 0 and away[found] < 0.6)
                if seen[-1]:
                    gaps.append(abs(told.fish[found].gap_m - (fish[1] - lure.depth_m)))
            for one in told.fish:
                off = np.hypot(near[:, 0] - one.mark.ahead_m, near[:, 1] - one.mark.depth_m)
                false += bool(not near.size or off.min() > 0.9)
            if at_lure.any() and near[at_lure][:, 3].max() > 0.12:
                touch_found.append(told.touching)
            if told.touching:
                touch_right.append(bool((near[:, 4] < 0.7).any()))

    def share(of: list[bool]) -> str:
        return f"{100 * np.mean(of):.0f} % of {len(of)}"

    return [
        f"{holes} holes of a minute and a half, turned down. The lure shows in {share(lures)} readings.",
        f"Of fish over 12 cm in the plane, 0.4 to 4 m from the lure and clear of the bed, their mark is named in "
        f"{share(seen)} moments; the gap is within 0.2 m in {100 * np.mean(np.array(gaps) < 0.2):.0f} % of those.",
        f"A mark with no fish near it: in {false / minutes:.1f} of the {60 / 0.3:.0f} readings of a minute.",
        f"A fish at the lure is told in {share(touch_found)} moments; when it is told one is within 0.7 m in "
        f"{share(touch_right)}.",
    ]


PARTS: dict[str, Callable[[int], str]] = {
    "fishing": lambda first: "\n".join(fishing_table(40, first + 1000 if first == JUDGED else first)),
    "measure": lambda first: "\n".join(measure_table(300, first)),
    "window": lambda first: "\n".join(window_table(100, first)),
    "turn": lambda first: turn_line(150, first),
}

if __name__ == "__main__":
    asked = [one for one in sys.argv[1:] if one != "trying"] or list(PARTS)
    for part in asked:
        print(PARTS[part](TRYING if "trying" in sys.argv else JUDGED), "\n", flush=True)
