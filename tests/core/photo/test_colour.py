"""Colours against an outside reference: colorspacious, whose CIELAB and sRGB are its own."""

from __future__ import annotations

import numpy as np
import pytest
from colorspacious import cspace_convert

from hollow_glint.core.checks import InputError
from hollow_glint.core.photo.colour import hex_of, lab_of, light_of, light_of_hex, srgb_of


def test_lab_agrees_with_the_reference_all_over_srgb():
    srgb = np.random.default_rng(4).random((3000, 3))
    ours = lab_of(light_of(srgb))
    theirs = cspace_convert(srgb, "sRGB1", "CIELab")
    assert np.abs(ours - theirs).max() < 0.15  # the reference rounds white and primaries in other places


def test_light_and_srgb_are_each_other_s_inverse():
    srgb = np.linspace(0.0, 1.0, 513)
    assert srgb_of(light_of(srgb)) == pytest.approx(srgb, abs=1e-9)
    assert light_of(srgb) == pytest.approx(
        cspace_convert(np.repeat(srgb[:, None], 3, 1), "sRGB1", "sRGB1-linear")[:, 0]
    )


def test_white_and_black_are_where_the_standard_has_them():
    # CIE 15: white is L* 100 without a hue; IEC 61966-2-1: middle grey #777777 is L* 50.
    assert lab_of(np.ones(3)) == pytest.approx([100.0, 0.0, 0.0], abs=0.02)
    assert lab_of(np.zeros(3)) == pytest.approx([0.0, 0.0, 0.0], abs=1e-4)
    assert float(lab_of(light_of_hex("x", ["#777777"]))[0, 0]) == pytest.approx(50.0, abs=0.2)


def test_colours_are_read_and_written_as_they_are():
    for one in ("#0b1822", "#ffffff", "#000000", "#a33d1c"):
        assert hex_of(light_of_hex("colours", [one])[0]) == one
    for wrong in ("0b1822", "#0b182", "#0b182g", "", "#0b18221", "# b1822"):
        with pytest.raises(InputError, match="colours is"):
            light_of_hex("colours", [wrong])
