"""What each control costs, by the number itself."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_glint.core.fan.costs import COSTS, costs
from hollow_glint.core.fan.head import CONTROLS, FAN_HEADS, FAR_REACH, NEAR_REACH

from .test_window import FISH, JIG, SEARCH, situation


def said(settings, control, **more):
    return costs(situation(settings=settings, **more))[control]


@pytest.mark.parametrize("head", FAN_HEADS.values(), ids=lambda one: one.name)
def test_every_control_that_a_head_has_is_told_and_no_other(head):
    told = costs(situation(head))
    assert set(told) == {one for one in CONTROLS if head.has(one)}
    for sentence in told.values():
        for name in sentence.values:
            assert f"{{{name}}}" in sentence.text
    assert set(COSTS) == set(CONTROLS)


def test_numbers_follow_the_settings():
    near, far = (said(replace(SEARCH, ahead_m=ahead), "ahead").values for ahead in (10.0, 30.0))
    assert far["row"].value > 2.0 * near["row"].value and far["wide"].value == pytest.approx(3.0 * near["wide"].value)
    assert far["frames"].value <= near["frames"].value <= 20.0
    assert said(replace(SEARCH, repeats=2), "repeats").values["faint"].value == pytest.approx(4.77, abs=0.01)
    assert said(replace(SEARCH, weak_steps=5, strong_db=30.0), "weak_end").values["hidden"].value == 5.0
    # Love 1971 and the side aspect's law: 19 to 25 dB for ten times the length, so six or seven for twice.
    assert 5.0 < said(SEARCH, "contrast").values["more"].value < 8.0
    damped = replace(FISH, damping_m=8.0)
    assert said(damped, "damping", sought=JIG, job="fish").values["costs"].value > 5.0
    assert said(SEARCH, "squares").text.startswith("No net")
    net = said(replace(SEARCH, square_m=2.0), "squares").values
    assert net["side"].value == 2.0 and 0.02 <= net["fish"].value < 0.5
    no_fish = said(replace(SEARCH, square_m=2.0, gain_db=0.0, weak_steps=12), "squares").text
    assert "no fish shows" in no_fish
    levelled = replace(situation().hang, nose_up_deg=5.0)
    edges = [
        said(replace(SEARCH, levelling=on), "levelling", hang=levelled).values["edge"].value for on in (False, True)
    ]
    assert edges[0] - edges[1] == pytest.approx(5.0)
    assert said(replace(SEARCH, tails=2), "tails").values["lasts"].value == pytest.approx(18.0 / 12.0)


def test_where_no_gain_does_both_it_says_so():
    narrow = replace(JIG, fish_m=0.05, away_m=20.0)
    told = said(replace(SEARCH, deep_m=20.0, ahead_m=33.0), "gain", sought=narrow, risen_db=-45.0)
    assert told.text.startswith("No gain shows both") and told.values["floor"].value > told.values["ceiling"].value
    assert "lights up from" in said(SEARCH, "gain").text
    assert "heading" in costs(situation(FAR_REACH)) and "heading" not in costs(situation(NEAR_REACH))
