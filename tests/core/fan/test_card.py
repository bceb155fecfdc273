"""The fan's card: its own coach finds nothing wrong with it, and the picture in such water is as it says."""

from __future__ import annotations

from dataclasses import replace
from itertools import product

import numpy as np
import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.fan.card import FanKnown, fan_card, fan_translate, flat_water, situation_of
from hollow_glint.core.fan.coach import fan_verdicts
from hollow_glint.core.fan.head import CONTROLS, FAN_HEADS, FAR_REACH, NEAR_REACH
from hollow_glint.core.fan.look import FanLook
from hollow_glint.core.fan.picture import places
from hollow_glint.core.fan.settings import check_settings
from hollow_glint.core.fan.swimmers import HungLure

HEADS = pytest.mark.parametrize("head", FAN_HEADS.values(), ids=lambda one: one.name)


@HEADS
@pytest.mark.parametrize("known", [
    FanKnown(depth, job, clarity, light, "lively" if light == "night" else "some", liking, bottom)
    for depth, (job, liking), (clarity, light, bottom) in product(
        (3.0, 9.4, 18.0),
        (("search", "clean"), ("fish", "rich")),
        (("clear", "day", "mud"), ("murky", "night", "gravel")),
    )
], ids=lambda one: f"{one.depth_m:g} {one.job} {one.clarity}")  # fmt: skip
def test_its_own_coach_finds_nothing_wrong_with_it(head, known):
    card = fan_card(known, head)
    check_settings(head, card.settings)
    left = {one.code for one in fan_verdicts(situation_of(known, head, card.hang, card.settings))}
    assert left <= {"reach too long", "reach too short"}, left
    assert set(card.lines) == {one for one in CONTROLS if head.has(one)}
    if card.window.is_open:
        assert card.window.floor - 1.0 <= card.settings.gain_db <= card.window.ceiling + 1.0
    assert card.hang.depth_m > known.ice_m and card.hang.mounting == ("down" if known.job == "fish" else "ahead")


@HEADS
def test_in_such_water_the_lure_shows_and_the_water_stays_dark(head):
    known = FanKnown(8.0, "fish", "stained")
    card = fan_card(known, head)
    lure = HungLure(0.0, 0.0, 0.7 * 8.0, 0.0)
    patch = flat_water(8.0, "mud", "stained")
    look = FanLook(patch, head, card.hang, card.settings, np.random.default_rng(3), (lure,))
    look.advance(1.0)
    ahead, deep = places(look.water, head, card.hang, card.settings)
    there = np.hypot(ahead, deep - lure.depth_m) < 0.4
    assert np.mean([(frame.steps[there] > 0).any() for frame in look.frames]) > 0.8
    r = np.hypot(ahead, deep - card.hang.depth_m)
    water = (deep > 2.0) & (r > 2.5) & (r < 5.0) & ~there
    assert (look.newest.steps[water] > 0).mean() < 0.05


def test_the_rules_of_the_trade_follow():
    """Deeper and clearer more, murky less, less as night falls, rich more than clean (common practice, no source)."""

    def gain(**known):
        return fan_card(FanKnown(**{"depth_m": 8.0, "job": "fish", **known}), NEAR_REACH).settings.gain_db

    assert gain(depth_m=15.0) > gain(depth_m=3.0)
    assert gain(clarity="clear") > gain(clarity="murky")
    assert gain(light="night", liveliness="lively") < gain(light="day")
    assert gain(liking="rich") > gain(liking="clean")
    later = fan_card(FanKnown(8.0, "fish", liveliness="lively"), NEAR_REACH).later
    assert later[0].text.startswith("When it is dark") and later[0].values["less"].value >= 1
    # 22.5 degrees to the side of straight down two sub-arrays meet: 4.9 m below the head that is 2.03 m.
    assert later[1].values["aside"].value == pytest.approx(np.tan(np.radians(22.5)) * (5.6 - 0.7))
    assert fan_card(FanKnown(8.0, light="night"), NEAR_REACH).settings.screen < 0.5


def test_what_cannot_be_is_refused_by_name():
    for wrong, words in (
        ({"depth_m": 90.0}, "depth_m is 90"), ({"depth_m": 8.0, "job": "sleep"}, "job is"),
        ({"depth_m": 1.5, "ice_m": 1.1}, "depth_m is 1.5 m: accepted is at least 1.9 m under 1.1 m of ice"),
    ):  # fmt: skip
        with pytest.raises(InputError, match=words):
            FanKnown(**wrong)


def test_another_head_shows_the_lure_as_far_over_its_floor():
    known = FanKnown(8.0, "fish")
    mine = fan_card(known, NEAR_REACH)
    told = fan_translate(known, NEAR_REACH, replace(mine.settings, tails=2), FAR_REACH)
    floors = [
        situation_of(known, head, replace(mine.hang, mounting="ahead"), one).window.floor
        for head, one in ((NEAR_REACH, mine.settings), (FAR_REACH, told.settings))
    ]
    assert told.settings.gain_db - floors[1] == pytest.approx(mine.settings.gain_db - floors[0], abs=0.6)
    assert [one.text for one in told.unmatched] == ["Far reach has no tails."]
    assert told.settings.ahead_m == mine.settings.ahead_m
    far = replace(fan_card(FanKnown(8.0), FAR_REACH).settings, ahead_m=55.0)
    back = fan_translate(known, FAR_REACH, far, NEAR_REACH)
    assert back.settings.reach_m <= NEAR_REACH.longest_m
    assert "reaches {longest} at most" in back.unmatched[0].text
    with pytest.raises(InputError, match="tails is 2"):
        fan_translate(known, FAR_REACH, replace(far, tails=2), NEAR_REACH)
