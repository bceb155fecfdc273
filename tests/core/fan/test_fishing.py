"""Fishing under a fan that looks down: the fish are the patch's, the hand is the Bench's, the picture shows both."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.bench.command import HandCommand
from hollow_glint.core.fan.fishing import FanFishing, Seats
from hollow_glint.core.fan.head import NEAR_REACH, FanHang
from hollow_glint.core.fan.lures_heard import lures_seen, turn_for_all
from hollow_glint.core.fan.reading import OF_THE_NEAREST, FanReader, blobs
from hollow_glint.core.fan.settings import FanSettings
from hollow_glint.core.fan.window import beam_loss_db
from hollow_glint.core.search.made import made_patch, seen_from
from hollow_glint.core.search.patch import Group, Patch

SETTINGS = FanSettings(ahead_m=8.0, behind_m=8.0, deep_m=10.0, gain_db=34.0)
DOWN = FanHang(mounting="down")
EMPTY = made_patch(12, groups=(), things=1)
LURE_M = 4.5


def passing(aside_m: float, depth_m: float, length_m: float = 0.35, speed_m_s: float = 0.2, count: int = 1) -> Patch:
    """Water through which fish swim north, so far east of the head's hole, past it at 20 s."""
    way = np.array([[aside_m, -20.0 * speed_m_s], [aside_m, 60.0 * speed_m_s]])
    none = np.zeros((count, 3))
    apart = none.copy()
    apart[:, 1] = 1.5 * np.arange(count)
    group = Group(
        "hunters", "whitefish", np.full(count, length_m), depth_m, np.array([0.0, 80.0]), way, apart, none, none, none
    )
    return replace(EMPTY, groups=(group,))


def fished(patch: Patch, seats: Seats | None = None, hang: FanHang = DOWN, seed: int = 1, **more) -> FanFishing:
    at = {"at_s": 0.0, "lure_depth_m": LURE_M, **more}
    return FanFishing(patch, NEAR_REACH, hang, SETTINGS, np.random.default_rng(seed), seats or Seats(0.9), **at)


def test_nobody_is_there_twice_and_nobody_jumps():
    """Every fish of the patch is in the picture once: in its group, or at the hole, or on its way out."""
    fishing = fished(passing(0.3, 5.5, count=3), seed=4)
    patch = fishing.look.patch
    assert len(fishing._who) == 3
    before: np.ndarray | None = None
    taken_most = 0
    for _ in range(400):
        fishing.advance(0.1, newest_only=True)
        came = fishing.look.came
        assert came is not None
        taken_most = max(taken_most, len(came.taken))
        free = [k for k in range(3) if (0, k) not in came.taken]
        now = np.concatenate([came.place_m, patch.groups[0].places(np.array([fishing.look.time_s]))[0][free]])
        assert len(now) == 3
        if before is not None:
            moved = np.hypot.reduce(now[:, None] - before, axis=2).min(axis=1)
            assert moved.max() < 0.15, "a fish jumped"
        before = now
    assert taken_most == 3


def test_the_same_seed_and_hand_are_the_same_picture():
    def played() -> list[bytes]:
        fishing = fished(passing(0.2, 5.0), seed=9)
        out = []
        for step in range(60):
            commands = [HandCommand(lift_m_s=0.05)] if step == 20 else []
            fishing.advance(0.1, commands, newest_only=True)
            out.append(fishing.look.newest.steps.tobytes() + repr(fishing.fished).encode())
        return out

    assert played() == played()


def test_the_lure_shows_where_its_line_is_and_follows_the_hand():
    fishing = fished(EMPTY)
    fishing.advance(1.0)
    (first,) = lures_seen(fishing.look, blobs(fishing.look))
    assert first.is_yours and first.mark is not None
    assert first.mark.ahead_m == pytest.approx(0.9, abs=0.15) and first.mark.depth_m == pytest.approx(LURE_M, abs=0.15)
    fishing.advance(5.0, [HandCommand(lift_m_s=0.2)])
    fishing.advance(1.0, [HandCommand(lift_m_s=0.0)])
    assert fishing.fished.lure_depth_m == pytest.approx(LURE_M - 1.0, abs=0.05)
    (then,) = lures_seen(fishing.look, blobs(fishing.look))
    assert then.mark is not None and first.mark.depth_m - then.mark.depth_m == pytest.approx(1.0, abs=0.15)


def catch(seed: int, most_s: float = 150.0) -> list[str]:
    """By what the reader says: lift slowly when a fish is near, set when the tip says so. What happened."""
    fishing = fished(passing(0.2, 5.2, count=4), seed=seed)
    reader, out, commands, lifting, bitten = FanReader(), [], [], False, 0
    for step in range(round(10 * most_s)):
        fishing.advance(0.1, commands, newest_only=True)
        commands = []
        out += [one.kind for one in fishing.fished.events]
        if "landed" in out:
            break
        if step % 3 == 0:
            near = [one for one in reader.see(fishing.look).fish if one.apart_m < 1.5]
            if bool(near) != lifting:
                lifting = bool(near)
                commands.append(HandCommand(lift_m_s=0.025 if lifting else 0.0))
        bitten = bitten + 1 if fishing.fished.rod_tip in ("tap", "load", "slack") else 0
        if bitten == 6:
            commands.append(HandCommand(set_hook=True))
    return out


def test_a_fish_is_caught_by_what_the_picture_says():
    told = [catch(seed) for seed in range(6)]
    assert sum("landed" in one for one in told) >= 2, told
    assert any("following" in one for one in told)


def test_a_fish_at_the_jig_beside_is_theirs():
    """It swims past their hole; nothing of it is told as one's own, and a set of one's own hook finds nothing."""
    told = []
    for seed in range(8):
        seats = Seats(1.5, 90.0, 5.0)
        fishing = fished(passing(-1.5, 5.3, count=3), seats, replace(DOWN, aim_deg=90.0), seed=seed, lure_depth_m=1.8)
        for _ in range(900):
            fishing.advance(0.1, newest_only=True)
            told += [one.kind for one in fishing.fished.events]
            if "landed beside you" in told:
                break
        if "landed beside you" in told:
            break
    assert "bite beside you" in told and told.index("bite beside you") < told.index("landed beside you")
    assert not {"bite", "landed", "hooked"} & set(told)
    fishing.advance(0.1, [HandCommand(set_hook=True)])
    assert next(one.kind for one in fishing.fished.events) == "nothing there"


def test_what_always_shows_is_never_called_a_fish():
    """Second lobes, the ice overhead, repeats and what stands on the bed: over half a minute, in six waters."""
    for seed in range(6):
        patch = replace(made_patch(seed, groups=(), things=3), groups=())
        fishing = fished(patch, Seats(0.8, 40.0, 4.0), replace(DOWN, aim_deg=40.0), seed=seed)
        reader, seen = FanReader(), 0
        for step in range(300):
            fishing.advance(0.1, [HandCommand(lift_m_s=0.02)] if step == 150 else [], newest_only=True)
            if step % 3 == 0:
                seen += len(reader.see(fishing.look).fish)
        assert seen <= 3, f"{seen} readings of a fish in water without any, seed {seed}"


def test_a_fish_is_followed_with_its_gap_and_how_it_comes():
    fishing = fished(passing(0.0, 4.7, length_m=0.4, speed_m_s=0.25), lure_depth_m=3.0)
    reader, gaps, comes = FanReader(), [], []
    for step in range(170):
        fishing.advance(0.1, newest_only=True)
        if step % 3:
            continue
        told = reader.see(fishing.look)
        (fish,) = fishing.look.came.place_m[:1] if len(fishing.look.came.place_m) else (None,)
        if told.fish and fish is not None and fishing.time_s > 4.0:
            gaps.append(told.fish[0].gap_m - (fish[2] - 3.0))
            comes.append(told.fish[0].closing_m_s)
    assert len(gaps) > 20 and np.median(np.abs(gaps)) < 0.15
    early = [one for one in comes[:15] if one is not None]
    assert np.median(early) == pytest.approx(0.2, abs=0.12), "it swims at 0.25 m/s, mostly towards the lure"


def test_a_fish_under_the_bed_line_is_not_seen_in_its_side_lobes():
    """It swims a hand above the bed, where no mark is told from it; its second lobe shows in open water."""
    fishing = fished(passing(0.0, 5.65, length_m=0.45, speed_m_s=0.25), lure_depth_m=2.5)
    reader, told = FanReader(), []
    for step in range(200):
        fishing.advance(0.1, newest_only=True)
        if step % 3 == 0:
            told += [one.mark for one in reader.see(fishing.look).fish]
    assert all(one.depth_m > 4.9 for one in told), told


def test_a_turn_brings_both_lures_back_into_the_fan():
    """Across the plane both hang beside it."""
    seats = Seats(0.9, 90.0, 4.5)
    across = fished(EMPTY, seats, DOWN)
    across.advance(0.5)
    lures = lures_seen(across.look, [])
    assert all(13.0 < abs(one.off_plane_deg) < 16.0 for one in lures)
    advice = turn_for_all(across.look, lures)
    assert advice is not None and advice.change is not None and "beside the plane" in advice.said.text
    assert "all of them are heard" in advice.said.text
    turned = fished(EMPTY, seats, replace(DOWN, aim_deg=float(advice.change.value)))
    turned.advance(0.5)
    after = lures_seen(turned.look, blobs(turned.look))
    assert min(one.loss_db for one in after) > -3.5 and all(one.mark is not None for one in after)
    assert turn_for_all(turned.look, after).change is None


def test_the_weak_strip_takes_one_of_two_and_what_a_turn_can_do_for_it():
    """One's own jig hangs at 22.5 degrees off straight down, where two sub-arrays meet; theirs hangs deeper. So near to
    the head a turn that leads out of the strip leads out of the plane: the depth is told at which it is heard."""
    own_depth = 0.9 + 1.3 / np.tan(np.radians(22.5))
    seats = Seats(1.3, 0.0, 6.0)
    fishing = fished(EMPTY, seats, DOWN, lure_depth_m=own_depth)
    fishing.advance(0.5)
    mine, theirs = lures_seen(fishing.look, [])
    assert mine.from_seam_deg < 1.0 and mine.loss_db < -5.0 < theirs.loss_db
    advice = turn_for_all(fishing.look, (mine, theirs))
    assert advice is not None and advice.change is None and "weak strip" in advice.said.text
    assert (
        max(
            beam_loss_db(fishing.look.water, NEAR_REACH, DOWN, (1.3 * np.cos(t), -1.3 * np.sin(t), own_depth))[0]
            for t in np.radians(np.arange(0.0, 360.0, 5.0))
        )
        < mine.loss_db + 2.0
    ), "no turn helps"
    told = advice.said.values["depth"].value
    deeper = fished(EMPTY, seats, DOWN, lure_depth_m=told)
    deeper.advance(0.5)
    after = lures_seen(deeper.look, blobs(deeper.look))
    assert min(one.loss_db for one in after) > -3.6 and after[0].mark is not None


def test_what_hangs_in_the_plane_is_never_said_to_hang_beside_it():
    for depth in np.arange(2.0, 5.6, 0.3):
        fishing = fished(EMPTY, Seats(1.2, 0.0), DOWN, lure_depth_m=float(depth))
        fishing.advance(0.2)
        advice = turn_for_all(fishing.look, lures_seen(fishing.look, []))
        assert advice is not None and "beside the plane" not in advice.said.text


def test_where_there_is_no_water_to_fish_it_says_so():
    far = seen_from(EMPTY, 200.0, 0.0)
    with pytest.raises(ValueError, match="accepted is a place in the water looked at"):
        fished(far, Seats(2.0, 90.0))
    with pytest.raises(ValueError, match="apart_m is 3"):
        Seats(3.0)


def test_what_is_told_of_one_fish_does_not_stand_beside_the_numbers_of_another():
    """Words and numbers on the page are of the same fish: a moment ends when another is nearer."""
    fishing = fished(passing(0.3, 5.5, count=4), seed=4)
    reader = FanReader()
    told = 0
    for _ in range(120):
        fishing.advance(0.3, newest_only=False)
        reading = reader.see(fishing.look)
        moment = reading.moment
        if moment is None or moment.kind not in OF_THE_NEAREST or not reading.fish or moment.time_s == reading.time_s:
            continue
        told += 1
        assert moment.track == reading.fish[0].number
    assert told > 5
