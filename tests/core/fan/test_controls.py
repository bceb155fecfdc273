"""Every control changes the picture as it says, on every profile that has it; what a profile lacks is refused."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.fan.frame import ping_interval
from hollow_glint.core.fan.head import CONTROLS, FAN_HEADS, FAR_REACH, NEAR_REACH, FanHang
from hollow_glint.core.fan.look import FanLook
from hollow_glint.core.fan.picture import GROUND, STEPS, FanPicture, picture, places
from hollow_glint.core.fan.settings import FIELD_OF, FanSettings, check_settings, without_lacking
from hollow_glint.core.fan.swimmers import HungLure
from hollow_glint.core.fan.water import BINS
from hollow_glint.core.search.patch import Standing

from ..search.waters import fish, flat

# One fish ahead, the lure under the hole, and a boulder beyond what the unit listens to.
SWIMS = fish([(0.0, 0.0, 14.0), (100.0, 0.0, 4.0)], 4.0, 0.4)
PATCH = flat(8.0, "gravel", (Standing("boulder", 0.0, 27.0, 2.5, 3.0, 3.0),), (SWIMS,))
HANG = FanHang(nose_up_deg=3.0)
BASE = FanSettings(gain_db=52.0, ahead_m=18.0, behind_m=4.0, deep_m=9.5, square_m=0.0, numbers="none")


def look_at(head, settings=BASE, seconds=0.6, hang=HANG, patch=PATCH) -> FanLook:
    look = FanLook(patch, head, hang, settings, np.random.default_rng(5), (HungLure(depth_m=5.0),))
    look.advance(seconds)
    return look


def shown(look: FanLook, theme="lantern") -> FanPicture:
    return picture(look.newest.steps, look.head, look.hang, look.settings, theme)


def lit(look: FanLook) -> float:
    """Share of cells that are not dark."""
    return float((look.newest.steps > 0).mean())


def brightness(colours: tuple[str, ...]) -> float:
    return float(np.mean([int(one[at : at + 2], 16) for one in colours for at in (1, 3, 5)]))


def near(look: FanLook, within_m: float) -> float:
    return float((look.newest.steps[:, look.water.range_m < within_m] > 0).mean())


def water_lit(look: FanLook) -> float:
    """Share of lit cells in open water: past the ringing, above the bed and its arc."""
    ahead, deep = places(look.water, look.head, look.hang, look.settings)
    open_water = (look.water.range_m > 1.5) & (deep < 6.0) & (deep > 1.5) & (np.abs(ahead) < 5.0)
    return float((look.newest.steps[open_water] > 0).mean())


def changed(head, **settings):
    return look_at(head, replace(BASE, **settings))


def repeated(look: FanLook) -> np.ndarray:
    """Mean intensities of what is heard a ping late, where it is shown."""
    here = look.water
    late = round(ping_interval(here.reach_m, here.sound_speed_m_s) * here.sound_speed_m_s / 2.0 / here.bin_m)
    out = np.zeros_like(here.mean)
    out[:, : 2 * BINS - late] = here.beyond[:, late - BINS :]
    return out


def repeats_gone(head):
    """A crib beyond the listening time: nearer than it is in a frame alone, and gone where three frames must agree."""
    short = replace(BASE, ahead_m=10.0, behind_m=0.0, deep_m=4.0)
    bare = flat(8.0, "mud")
    crib = replace(bare, standing=(Standing("crib", 0.0, 21.0, 5.0, 10.0, 2.0, 90.0),))
    alone, agreed, without = (
        look_at(head, replace(short, repeats=number), patch=patch)
        for number, patch in ((0, crib), (2, crib), (0, bare))
    )
    louder = (repeated(alone) > 5.0 * alone.water.mean) & (repeated(alone) > 5.0 * repeated(without))
    first, then, never = (float((one.newest.steps[louder] > 0).mean()) for one in (alone, agreed, without))
    return first > 0.4 and then < 0.25 * first and never < 0.25 * first


MEASURED = {
    "gain": lambda head: lit(changed(head, gain_db=40.0)) < lit(look_at(head)) < lit(changed(head, gain_db=62.0)),
    "ahead": lambda head: changed(head, ahead_m=8.0).settings.reach_m < look_at(head).settings.reach_m
    and places_lit(changed(head, ahead_m=8.0))[0] <= 8.0 < places_lit(look_at(head))[0],
    "behind": lambda head: places_lit(changed(head, behind_m=0.0))[1] >= 0.0 > places_lit(look_at(head))[1],
    "deep": lambda head: places_lit(changed(head, deep_m=6.0))[2] <= 6.0 < places_lit(look_at(head))[2],
    "contrast": lambda head: strongest(changed(head, strong_db=15.0)) > 2.0 * strongest(look_at(head)) > 0.0,
    "weak_end": lambda head: weakest(changed(head, weak_steps=5)) == 6 > weakest(look_at(head)) == 1,
    "clutter": lambda head: water_lit(changed(head, clutter=3, gain_db=66.0))
    < 0.5 * water_lit(changed(head, gain_db=66.0)),
    "repeats": repeats_gone,
    "damping": lambda head: near(changed(head, damping_m=4.0), 1.5) < 0.3 * near(look_at(head), 1.5),
    "tails": lambda head: lit(changed(head, tails=3)) > 1.2 * lit(look_at(head)),
    "ground": lambda head: (changed(head, ground=True).newest.steps == GROUND).mean() > 0.1,
    "squares": lambda head: shown(changed(head, square_m=2.0)).lines_ahead_m == tuple(np.arange(-4.0, 18.1, 2.0))
    and shown(look_at(head)).lines_ahead_m == (),
    "numbers": lambda head: len(shown(changed(head, numbers="depth")).numbers_deep_m) > 3
    and shown(changed(head, numbers="depth")).numbers_ahead_m == () == shown(look_at(head)).numbers_deep_m,
    "heading": lambda head: shown(changed(head, heading=True)).heading_deg == HANG.looks_deg,
    "levelling": lambda head: np.allclose(
        shown(look_at(head)).beams_deg - shown(changed(head, levelling=True)).beams_deg, HANG.nose_up_deg
    ),
    "ladder": lambda head: shown(changed(head, ladder="Two ends")).colours != shown(look_at(head)).colours,
    "screen": lambda head: brightness(shown(changed(head, screen=0.4)).colours)
    < 0.5 * brightness(shown(look_at(head)).colours),
}  # fmt: skip


def places_lit(look: FanLook):
    """How far ahead, behind and how deep lit cells reach [m]."""
    ahead, deep = places(look.water, look.head, look.hang, look.settings)
    on = look.newest.steps > 0
    return ahead[on].max(), ahead[on].min(), deep[on].max()


def strongest(look: FanLook) -> float:
    return float((look.newest.steps == STEPS).mean())


def weakest(look: FanLook) -> int:
    steps = look.newest.steps
    return int(steps[steps > 0].min())


@pytest.mark.parametrize("control", CONTROLS)
@pytest.mark.parametrize("head", FAN_HEADS.values(), ids=lambda one: one.name)
def test_every_control_changes_the_picture(head, control):
    if head.has(control):
        assert MEASURED[control](head)
    else:
        usual = getattr(FanSettings(), FIELD_OF[control])
        other = {bool: not usual, int: 2, float: 3.0, str: "none"}[type(usual)]
        with pytest.raises(InputError, match=FIELD_OF[control]):
            changed(head, **{FIELD_OF[control]: other})


def test_levelling_shows_a_level_bed_level():
    """Hung three degrees off, the bed slopes on the picture; levelled it lies where it is, by Pythagoras."""
    for levelling, slopes in ((False, True), (True, False)):
        look = look_at(NEAR_REACH, replace(BASE, levelling=levelling, gain_db=46.0))
        _, deep = places(look.water, look.head, look.hang, look.settings)
        mean = np.log10(look.water.mean)
        ahead = np.flatnonzero((NEAR_REACH.beams_deg + 60.0 > 35.0) & (NEAR_REACH.beams_deg + 60.0 < 50.0))
        past = int(8.2 / look.water.bin_m)  # beyond the arc of what lies straight down
        foot = mean[ahead][:, past:].argmax(axis=1) + past
        off = np.median(deep[ahead, foot]) - 8.0
        assert (abs(off) > 0.25) == slopes, off


def test_the_same_seed_gives_the_same_frames_however_long_the_steps_are():
    one, many = (FanLook(PATCH, NEAR_REACH, HANG, BASE, np.random.default_rng(7)) for _ in range(2))
    whole = one.advance(0.5)
    parts = [frame for _ in range(10) for frame in many.advance(0.05)]
    assert len(whole) == len(parts) == 10
    assert all(np.array_equal(a.steps, b.steps) and a.time_s == b.time_s for a, b in zip(whole, parts, strict=True))


def test_settings_that_cannot_be_name_the_field_and_change_nothing():
    look = look_at(NEAR_REACH)
    with pytest.raises(InputError, match=r"ahead_m 58 m and deep_m 9\.5 m reach 58\.8 m: accepted is up to 40 m"):
        look.set(HANG, replace(BASE, ahead_m=58.0))
    assert look.settings == BASE
    with pytest.raises(InputError, match="gain_db is 99"):
        FanSettings(gain_db=99.0)
    with pytest.raises(InputError, match="tails is 1: Far reach has no such control"):
        check_settings(FAR_REACH, FanSettings(tails=1))
    assert without_lacking(FAR_REACH, FanSettings(tails=2, gain_db=40.0)) == FanSettings(gain_db=40.0)


def test_frames_that_nobody_sees_are_left_out_and_change_no_other():
    whole, seen = (FanLook(PATCH, NEAR_REACH, HANG, BASE, np.random.default_rng(7)) for _ in range(2))
    all_of_them, newest = whole.advance(0.5), [f for _ in range(5) for f in seen.advance(0.1, newest_only=True)]
    assert len(all_of_them) == 10 and len(newest) == 5
    for one, other in zip(all_of_them[1::2], newest, strict=True):
        assert one.time_s == pytest.approx(other.time_s) and np.array_equal(one.steps, other.steps)
    drawn = FanLook(PATCH, NEAR_REACH, HANG, replace(BASE, tails=2), np.random.default_rng(7))
    assert len(drawn.advance(0.5, newest_only=True)) == 10, "tails are made of every frame"
