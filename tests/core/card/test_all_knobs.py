"""The card's search over all knobs, and what it promises, held against trying everything."""

from __future__ import annotations

from dataclasses import replace
from itertools import product

import numpy as np
import pytest
from scipy import special

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.card import rules_of_thumb
from hollow_glint.core.card.hole_card import hole_card
from hollow_glint.core.card.known_hole import LIGHTS, LIVELINESS, KnownHole
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.sonar import receiver
from hollow_glint.core.tuning import gain_window, joint
from hollow_glint.core.tuning.gain_window import step_inside
from hollow_glint.core.tuning.situation import situation_at
from tests.effort import EFFORT

UNITS = (TRAIL_UNIT, *SHIPPED)
HARD = {"clarity": "murky", "light": "night", "liveliness": "lively"}


def holes(seed: int, count: int, least: float, most: float, **known):
    rng = np.random.default_rng(seed)
    for k in range(count):
        unit = UNITS[k % len(UNITS)]
        yield KnownHole(float(rng.uniform(least, most)), **known), unit, Lure("jig", float(rng.uniform(0.003, 0.007)))


def every_room(s, unit):
    for beam, pulse, bins, rejection, tvg in product(
        range(len(unit.beams)), range(len(unit.pulses)), range(len(unit.noise_filters)),
        range(0, len(unit.rejections), 1 + len(unit.rejections) // 5), range(len(unit.tvg_db_decade)),
    ):  # fmt: skip
        turned = replace(s.settings, beam=beam, pulse=pulse, noise_filter=bins, rejection=rejection, tvg=tvg)
        yield joint.room_of(s, turned)


def test_no_setting_leaves_much_more_room_than_the_one_that_is_found():
    for at, unit, lure in holes(3, 5 * EFFORT, 8.0, 20.0, **HARD):
        s = hole_card(at, unit, lure).situation
        found = joint.best_joint(s)
        # What lag and turning cost is what it may be short by.
        assert found.room_db > max(every_room(s, unit)) - 2.0
        assert found.room_db == pytest.approx(joint.room_of(s, found.settings), abs=0.3)


def test_nothing_works_is_said_only_when_nothing_works():
    said = 0
    for at, unit, lure in holes(4, 5 * EFFORT, 9.0, 24.0, **HARD):
        card = hole_card(at, unit, lure)
        if not card.gains.open:
            said += 1
            assert max(every_room(card.situation, unit)) < 2.0 * unit.gain.db_per_step
            assert [one for one in card.remedies if one.change and one.opens] == []
    assert said


def test_when_nothing_works_the_water_is_not_left_lit():
    for at, unit, lure in holes(5, 5 * EFFORT, 15.0, 25.0, **HARD):
        card = hole_card(at, unit, lure)
        if card.gains.open:
            continue
        s = card.situation
        lit = gain_window.lit_share(s.transmission, unit, card.settings, s.shown, s.first_colour())
        assert lit <= 0.5, "half of the water lit hides any lure"


def test_rejection_is_offered_at_the_step_that_drops_most():
    for unit in SHIPPED:
        best = joint.dropping_most(unit)
        left = []
        for step in unit.rejections:
            n = int(step.pings)
            left.append(1.0 if n == 1 else special.bdtrc(step.needed - 1, n, 0.1))
        assert left[best] == pytest.approx(min(left)), unit.name


def test_the_receivers_chances_are_scipys():
    """Binomial and gamma distributions of the reference library."""
    for unit in SHIPPED:
        plain, p, x = Settings(unit.gain.minimum, unit.ranges_m[0]), np.linspace(0, 1, 51), np.geomspace(1e-3, 1e3, 60)
        for i, step in enumerate(unit.rejections[1:], 1):
            kept = receiver.kept_chance(p, unit, replace(plain, rejection=i))
            assert np.allclose(kept, special.bdtrc(step.needed - 1, int(step.pings), p), rtol=1e-9, atol=1e-10)
        for i, bins in enumerate(unit.noise_filters):
            lit = receiver.lit_chance(x, unit, replace(plain, noise_filter=i))
            assert np.allclose(lit, special.gammaincc(bins, bins / x), rtol=1e-9, atol=1e-12)


def test_a_firm_gain_holds_whatever_the_unknowns_turn_out_to_be():
    firm = 0
    for at, unit, lure in holes(6, 10 * EFFORT, 3.0, 14.0, bottom_kind="sand"):
        card = hole_card(at, unit, lure)
        if not card.gains.firm:
            continue
        firm += 1
        for clarity, light, liveliness in product(("clear", "stained", "murky"), LIGHTS, LIVELINESS):
            other = replace(at, clarity=clarity, light=light, liveliness=liveliness)
            limits = situation_at(other.scene(), unit, card.settings, lure, other.lure_at_m).limits
            assert limits.floor - 1e-6 <= card.settings.gain <= limits.ceiling + 0.02
    assert firm >= 2


def test_the_coach_leaves_be_what_keeps_a_window_open():
    """What the search turned to open a window is not turned back by the next look."""
    opened = 0
    for at, unit, lure in holes(7, 10 * EFFORT, 6.0, 14.0, **HARD):
        card = hole_card(at, unit, lure)
        if card.gains.open:
            s = card.situation
            plain = joint.room_of(s, replace(card.settings, rejection=0, noise_filter=0, tvg=0))
            opened += plain < 0.0
            for name in ("rejection", "beam"):
                turned = [v.change for v in judged_on(s) if v.change and v.change.setting == name]
                for change in turned:
                    then = replace(card.settings, **{name: change.value})
                    limits = situation_at(s.scene, unit, then, lure, card.lure_depth_m).limits
                    assert step_inside(unit, limits.floor, limits.ceiling) is not None
    assert opened


def test_card_and_bench_pick_one_gain_for_one_hole():
    """One fresh hole once had three: the card's, the coach's and the call sheet's. All ask `gain_inside` now."""
    cases = [*holes(10, 10 * EFFORT, 3.0, 18.0), *holes(11, 5 * EFFORT, 3.0, 12.0, clarity="clear", liveliness="quiet")]
    for at, unit, lure in cases:
        card = hole_card(at, unit, lure)
        rng = np.random.default_rng(1)
        run = BenchRun(card.scene, unit, card.settings, lure, rng, lure_depth_m=card.lure_depth_m)
        run.margins_db = card.margins_db
        assert run.situation.limits.advised == pytest.approx(card.settings.gain)
        # A weak bottom may ask for more within the window; nothing else turns the card's gain away.
        asked = [v for v in judged_on(run.situation) if v.change and v.change.setting == "gain"]
        assert [v.code for v in asked if v.code != "weak bottom"] == []


def judged_on(s):
    from hollow_glint.core.tuning import coach

    return coach.verdicts(s)


def test_every_rules_sentence_is_true_of_its_card():
    """What a rule of thumb says of this hole is what the card's numbers say; every gain is one that the knob has."""
    for at, unit, lure in [*holes(8, 15 * EFFORT, 2.5, 25.0), *holes(9, 10 * EFFORT, 2.5, 25.0, **HARD)]:
        card = hole_card(at, unit, lure)
        scale, gains = unit.gain, card.gains
        for rule in rules_of_thumb.rules(card):
            for sentence in (rule.thumb, rule.ours, rule.why):
                for name in ("gain", "floor"):
                    if f"{{{name}}}" in sentence.text:
                        assert sentence.values[name].value >= scale.minimum - 1e-9
                assert "whatever the depth" not in sentence.text
            text = rule.why.text
            if "shows from the knob's lowest" in text:
                assert gains.floor <= scale.minimum
            if "the water allows" in text and gains.open:
                assert gains.ceiling >= card.settings.gain - 1e-6
            if "the water lights from" in text:
                assert not gains.open
            if "turning it down widens the window" in text:
                s = card.situation
                assert joint.room_of(s, card.settings) > joint.room_of(s, replace(card.settings, tvg=0))


def test_eight_units_fit_on_a_card():
    company = tuple(Neighbour(2.0 + k) for k in range(8))
    assert hole_card(KnownHole(6.0, neighbours=company), SHIPPED[0], Lure("jig", 0.005)).scene.neighbours == company
