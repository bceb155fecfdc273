"""The load of a party on the ice, beside what was measured there: never a word that it holds."""

from __future__ import annotations

import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.trip.ice import IceMeasured, ice_at
from hollow_glint.core.trip.load import load_of

POUND = 0.45359237


def test_the_rule_is_held_against_its_published_form():
    """Gold 1971: P = 50 h^2, pounds and inches; half of it for a load that stays. 10 in of clear ice: 5000 lb."""
    found = load_of(4, IceMeasured(0.0, 0.0, 0.254, "clear"))
    assert found.rule_kg == pytest.approx(5000.0 * POUND) and found.kg == 500.0 and not found.beyond
    # White ice counts half: a quarter of the load, of which half is less than four people with their shelter.
    white = load_of(4, IceMeasured(0.0, 0.0, 0.254, "white"))
    assert white.rule_kg == pytest.approx(found.rule_kg / 4.0) and white.beyond and "this is more" in white.said.text


def test_it_never_says_that_ice_holds_and_local_rules_go_first():
    for people in range(1, 9):
        for thick in (0.02, 0.1, 0.3, 1.0, 3.0):
            said = load_of(people, IceMeasured(0.0, 0.0, thick, "clear")).said.text
            assert "Local rules first" in said and not {"safe", "holds", "enough"} & set(said.lower().split())
    assert "No ice was measured near" in load_of(2, None).said.text
    assert load_of(3, IceMeasured(0.0, 0.0, 0.1, "clear")).beyond


@pytest.mark.parametrize("people", [0, 9])
def test_a_party_that_cannot_be_is_refused(people):
    with pytest.raises(InputError, match="people"):
        load_of(people, None)


def test_of_what_was_measured_near_the_ice_that_counts_for_least_is_taken():
    near = [IceMeasured(10.0, 0.0, 0.2, "clear"), IceMeasured(0.0, 30.0, 0.3, "white", 5.0)]
    far = IceMeasured(300.0, 0.0, 0.02, "clear")
    least, said = ice_at((0.0, 0.0), [*near, far])
    assert least == near[1] and said == ()
    assert ice_at((0.0, 30.0), near[1:])[1][0].text.startswith("The ice was last measured")
    assert ice_at((0.0, -200.0), near) == (None, ice_at((0.0, -200.0), [])[1])
