"""Every shipped ladder is a ramp in lightness for every colour vision. The judge is colorspacious: CIE L* by the CIE,
colour-vision deficiency by Machado, Oliveira and Fernandes 2009."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from colorspacious import cspace_convert

from hollow_glint.core.gear import ladders
from hollow_glint.core.gear.ladders import Ladder, Step
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import picture
from hollow_glint.core.sonar.transmission import Transmission, transmit

LEAST_STEP = 8.0  # of lightness L*, 0 to 100: told apart at arm's length in glare. Our own choice
VISIONS = ["normal", "protanomaly", "deuteranomaly", "tritanomaly"]


def lightness(colours: tuple[str, ...], vision: str) -> np.ndarray:
    rgb = np.array([[int(one[i : i + 2], 16) for i in (1, 3, 5)] for one in colours]) / 255.0
    if vision != "normal":
        rgb = cspace_convert(rgb, {"name": "sRGB1+CVD", "cvd_type": vision, "severity": 100}, "sRGB1")
    return cspace_convert(np.clip(rgb, 0.0, 1.0), "sRGB1", "CIELab")[:, 0]


@pytest.mark.parametrize("vision", VISIONS)
@pytest.mark.parametrize("theme", ["rime", "lantern"])
@pytest.mark.parametrize("ladder", [*ladders.SHIPPED, ladders.TWO_ENDED], ids=lambda one: one.name)
def test_lightness_is_monotone_with_a_least_step(ladder, theme, vision):
    steps = np.diff(lightness(ladder.colours(theme), vision))
    if theme == "rime":
        steps = -steps  # by day a stronger echo is darker
    assert steps.min() >= LEAST_STEP


def test_the_judge_can_say_no():
    muddled = ("#0b1822", "#2e4a57", "#c9b98f", "#f0a35a")  # straw is lighter than amber, though amber is stronger
    assert np.diff(lightness(muddled, "normal")).min() < 0


def test_every_profile_uses_shipped_ladders():
    for unit in (TRAIL_UNIT, *SHIPPED):
        assert set(unit.ladders) <= set(ladders.SHIPPED)


def levels(ladder: Ladder, signal_db: np.ndarray) -> np.ndarray:
    unit = replace(TRAIL_UNIT, ladders=(ladder,), rows=16)
    settings = Settings(0.0, unit.ranges_m[0])
    still: Transmission = transmit(Scene(2.5, "mud", 0.3, 0.4), unit, settings)
    block = np.full((1, still.bin_range_m.size), -99.0, dtype=np.float32)
    block[0, : signal_db.size] = signal_db
    shown = picture.Window(0.0, unit.rows * still.bin_m)
    return picture.paint_levels(block, unit, settings, still, shown)[0, : signal_db.size]


@pytest.mark.parametrize(
    ("ladder", "expected"),
    [
        (ladders.SIX_STEP, [0, 0, 1, 2, 6, 6, 6]),
        (ladders.THREE_STEP, [0, 0, 1, 1, 3, 3, 3]),
        (ladders.HIDE_WEAKEST, [0, 0, 0, 1, 5, 5, 5]),
        (ladders.EXTRA_ABOVE, [0, 0, 1, 2, 6, 6, 7]),  # two fish that both fill the top are told apart
        (ladders.EXTRA_BELOW, [0, 1, 2, 3, 7, 7, 7]),  # a hook below the weakest shows
    ],
    ids=lambda value: value.name if isinstance(value, Ladder) else "",
)
def test_which_step_an_echo_lights(ladder, expected):
    # dB above the first colour, at 6 dB a step.
    signal = np.array([-10.0, -7.0, 0.5, 7.0, 31.0, 38.0, 43.0], dtype=np.float32)
    assert levels(ladder, signal).tolist() == expected


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        ({"steps": ()}, "2 to 32"),
        ({"name": " "}, "1 to 40"),
        ({"rime_dark": "white"}, "rime_dark"),
        ({"steps": (Step("a", 1, "#000000", "#000000"), Step("b", 1, "#000000", "#000000"))}, "above the one before"),
    ],
)
def test_wrong_ladders_are_refused(wrong, said):
    with pytest.raises(ValueError, match=said):
        replace(ladders.SIX_STEP, **wrong)


def test_wrong_steps_are_refused():
    for wrong, said in (
        ({"begins": 0.3}, "halves"),
        ({"rime": "#12"}, "rime"),
        ({"name": ""}, "name"),
        ({"begins": 99}, "begins"),
    ):
        with pytest.raises(ValueError, match=said):
            replace(ladders.SIX_STEP.steps[0], **wrong)
