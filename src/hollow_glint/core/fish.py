"""A fish that comes, looks, follows and takes: one simple animal with reasons for what it does.

It crosses at its own depth, notices a lure that moves a little, rises after one that is lifted slowly, is put off by
one that drops onto it or is jerked away, takes when it is keen enough and touching, and holds the lure for about a
second. Every number below is common practice or our invention, no source; they are here to be argued with.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

CRUISE_M_S = 0.16
FOLLOW_M_S = 0.10  # how fast it keeps up with a lifted lure; faster than this and the lure outruns it
NOTICE_M = 1.7  # how far off it can notice a lure
CLOSE_M = 0.30  # where a fish that is only curious stops and looks
TOUCH_M = 0.07  # near enough to take
RISE_LIMIT_M = 2.2  # it will not follow higher than this above its own depth
SLOW_LIFT = (0.005, 0.07)  # m/s upwards that draws
FAST_LIFT = 0.15  # m/s upwards that loses it
DROP = 0.12  # m/s downwards, onto it, that puts it off
HOLD_S = (1.1, 1.7)  # how long a take lasts


@dataclass(frozen=True)
class Fish:
    """One fish, as it is now: place and speed [m, m/s; z down from the surface], length [m], mind.

    mood    passing, curious, following, mouthing, hooked, put off
    keen    0 to 1, how near it is to taking
    """

    x: float
    y: float
    z: float
    vx: float
    vy: float
    length_m: float
    home_depth_m: float
    mood: str = "passing"
    keen: float = 0.0
    timer_s: float = 0.0
    species: str = "whitefish"

    @property
    def aside_m(self) -> float:
        """Distance off the hole's axis [m]."""
        return float(np.hypot(self.x, self.y))


@dataclass(frozen=True)
class LureMotion:
    """What a fish can see of the lure: depth [m], vertical speed [m/s, upwards positive], whether it just twitched."""

    depth_m: float
    rising_m_s: float
    twitched: bool


def arrive(bottom_depth_m: float, face_depth_m: float, rng: np.random.Generator) -> Fish:
    """A new fish, 3 to 4 m off, heading to pass within half a metre of the hole, in the lower part of the column."""
    bearing = rng.uniform(0.0, 2.0 * np.pi)
    away = rng.uniform(3.0, 4.0)
    x, y = away * np.cos(bearing), away * np.sin(bearing)
    miss = rng.uniform(-0.5, 0.5)
    heading = np.arctan2(-y, -x) + np.arcsin(miss / away)
    column = bottom_depth_m - face_depth_m
    depth = bottom_depth_m - rng.uniform(0.08, 0.25) * column
    length = float(rng.uniform(0.22, 0.48))
    return Fish(
        float(x),
        float(y),
        float(depth),
        float(CRUISE_M_S * np.cos(heading)),
        float(CRUISE_M_S * np.sin(heading)),
        length,
        float(depth),
    )


def step(fish: Fish, lure: LureMotion, dt: float, rng: np.random.Generator) -> tuple[Fish, tuple[str, ...]]:
    """The fish `dt` [s] later and what it did, in words that `bench_run` turns into events.

    Draws the same number of values from `rng` at every call, so that what a fish decides never shifts another's luck.
    """
    chance, wobble_x, wobble_y, wobble_z, hold = rng.random(5)
    if fish.mood in ("passing", "put off"):
        return _swim_on(fish, lure, dt, chance, (wobble_x, wobble_y))
    if fish.mood in ("mouthing", "hooked"):
        return _on_the_lure(fish, lure, dt)
    return _look_and_follow(fish, lure, dt, (wobble_x, wobble_y, wobble_z), hold)


def _swim_on(
    fish: Fish, lure: LureMotion, dt: float, chance: float, wobble: tuple[float, float]
) -> tuple[Fish, tuple[str, ...]]:
    """Passing by or making off; a passing fish may notice the lure."""
    away = fish.mood == "put off"
    pace = 2.2 if away else 1.0
    moved = replace(
        fish,
        x=fish.x + (fish.vx * pace + (wobble[0] - 0.5) * 0.04) * dt,
        y=fish.y + (fish.vy * pace + (wobble[1] - 0.5) * 0.04) * dt,
        z=fish.z + (fish.home_depth_m - fish.z) * 0.8 * dt,
    )
    if away:
        return moved, ()
    distance = float(np.hypot(fish.aside_m, fish.z - lure.depth_m))
    stirring = lure.twitched or 0.005 < abs(lure.rising_m_s) < FAST_LIFT
    per_second = 2.0 if stirring else 0.6
    if distance < NOTICE_M and chance < per_second * dt:
        return replace(moved, mood="curious", keen=0.25), ("noticed",)
    return moved, ()


def _leave(fish: Fish) -> Fish:
    """Turned away, outwards from the hole and back to its own depth."""
    bearing = np.arctan2(fish.y, fish.x)
    return replace(
        fish,
        mood="put off",
        keen=0.0,
        vx=float(CRUISE_M_S * np.cos(bearing)),
        vy=float(CRUISE_M_S * np.sin(bearing)),
    )


def _look_and_follow(
    fish: Fish, lure: LureMotion, dt: float, wobble: tuple[float, float, float], hold: float
) -> tuple[Fish, tuple[str, ...]]:
    """Curious or following: swims to the lure, keener with a slow lift, put off by a drop onto it or a jerk away."""
    gap = fish.z - lure.depth_m  # positive when the fish is below the lure, where a fish wants to be
    near = fish.aside_m < 1.0 and abs(gap) < 1.0
    if near and lure.rising_m_s < -DROP and gap > -0.05:
        return _leave(fish), ("put off by the drop",)
    keen = fish.keen + _keenness_per_second(lure, near) * dt + (0.05 if lure.twitched and near else 0.0)
    if keen <= 0.0:
        return _leave(fish), ("lost interest",)
    keen = min(keen, 1.0)
    following = keen > 0.5
    stand_off = 0.0 if keen > 0.8 else CLOSE_M * (1.0 - keen)
    highest = fish.home_depth_m - RISE_LIMIT_M
    target_z = max(lure.depth_m + stand_off, highest)
    climb = float(np.clip(target_z - fish.z, -FOLLOW_M_S * dt, FOLLOW_M_S * dt))
    # In to the middle, slower as it gets there.
    inwards = min(CRUISE_M_S, 0.6 * fish.aside_m + 0.01)
    shrink = max(fish.aside_m - inwards * dt, 0.0) / max(fish.aside_m, 1e-6)
    moved = replace(
        fish,
        x=fish.x * shrink + (wobble[0] - 0.5) * 0.05 * dt,
        y=fish.y * shrink + (wobble[1] - 0.5) * 0.05 * dt,
        z=fish.z + climb + (wobble[2] - 0.5) * 0.04 * dt,
        keen=keen,
        mood="following" if following else "curious",
    )
    told = ("following",) if following and fish.mood == "curious" else ()
    touching = moved.aside_m < 0.12 and abs(moved.z - lure.depth_m) < TOUCH_M
    if keen > 0.8 and touching:
        held = HOLD_S[0] + hold * (HOLD_S[1] - HOLD_S[0])
        return replace(moved, mood="mouthing", timer_s=held), (*told, "bite")
    return moved, told


def _keenness_per_second(lure: LureMotion, near: bool) -> float:
    """How fast a watching fish grows keener or cools."""
    if not near:
        return 0.0
    if SLOW_LIFT[0] < lure.rising_m_s < SLOW_LIFT[1]:
        return 0.14
    if lure.rising_m_s > FAST_LIFT:
        return -0.5
    return -0.02


def _on_the_lure(fish: Fish, lure: LureMotion, dt: float) -> tuple[Fish, tuple[str, ...]]:
    """Has the lure in its mouth: goes where it goes, and lets go in the end unless hooked."""
    held = replace(fish, x=fish.x * 0.9, y=fish.y * 0.9, z=lure.depth_m, timer_s=fish.timer_s - dt)
    if held.timer_s > 0.0:
        return held, ()
    if fish.mood == "hooked":
        return held, ("landed",)
    return _leave(held), ("let go",)


def struck(fish: Fish, lure_depth_m: float) -> tuple[Fish, str]:
    """What setting the hook does: "hooked" while it mouths the lure, "too early" if it was near, else "nothing there".

    A hooked fish is played for four seconds and then landed.
    """
    if fish.mood == "mouthing":
        return replace(fish, mood="hooked", timer_s=4.0), "hooked"
    if fish.mood == "hooked":
        return fish, "already on"
    if fish.mood in ("curious", "following") and abs(fish.z - lure_depth_m) < 0.8 and fish.aside_m < 0.8:
        return _leave(fish), "too early"
    return fish, "nothing there"
