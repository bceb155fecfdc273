"""What would open a window that is shut: that a remedy is what it says, for every lure."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_glint.core.card.remedies import LARGER, remedies, room
from hollow_glint.core.gear.forms import FORMS
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import TWO_BEAM_RING
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.tuning.situation import situation_at

SCENE = Scene(17.0, "mud", 0.4, 0.5, plankton="thick", clarity="murky")


def at(lure: Lure):
    return situation_at(SCENE, TWO_BEAM_RING, Settings(50.0, TWO_BEAM_RING.ranges_m[-1]), lure, 15.0)


def larger(lure: Lure):
    return [one for one in remedies(at(lure)) if "large again" in one.what.text]


@pytest.mark.parametrize("length", [0.03, 0.05, 0.06, 0.079])
def test_a_lure_half_as_large_again_is_never_smaller_than_it_was(length):
    """One of more than 53 mm was once cut off at 80 mm, and from there on shrank as it grew."""
    bait = Lure("bait", 0.01, form="minnow", length_m=length)
    (one,) = larger(bait)
    grown = replace(bait, diameter_m=LARGER * bait.diameter_m, length_m=LARGER * length)
    assert one.what.values["size"].value == pytest.approx(1000.0 * LARGER * length)
    assert one.gain_db == pytest.approx(room(at(grown)) - room(at(bait)))
    assert one.gain_db > 3.0  # an area of 1.5 squared is 3.5 dB


@pytest.mark.parametrize("form", list(FORMS))
def test_a_lure_as_large_as_its_form_goes_is_not_to_be_made_larger(form):
    spans = FORMS[form]
    largest = Lure(
        "largest", spans.diameter_m[1], form=form, length_m=spans.length_m[1] if spans.length_m else 0.0,
        spacing_m=spans.spacing_m[1] if spans.spacing_m else 0.0,
    )  # fmt: skip
    assert larger(largest) == []


def test_every_remedy_gives_what_it_says_and_the_most_comes_first():
    lure = Lure("tiny", 0.003)
    found = remedies(at(lure))
    assert [one.gain_db for one in found] == sorted((one.gain_db for one in found), reverse=True)
    for one in found:
        if one.change is None:
            continue
        s = at(lure)
        turned = replace(s, settings=replace(s.settings, **{one.change.setting: one.change.value}))
        assert room(turned) - room(s) == pytest.approx(one.gain_db, abs=1e-6)
        assert one.opens == (room(turned) >= 0.0)
    settings = [one.change.setting for one in found if one.change]
    assert len(settings) == len(set(settings))
