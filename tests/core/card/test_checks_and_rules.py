"""Checks before fishing, cautions, guidance for the ice typed in, rules of thumb, and what is known at a hole."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_glint.core.card import ice_guidance
from hollow_glint.core.card.checklist import NO_SAFE_ICE, cautions, checks
from hollow_glint.core.card.hole_card import hole_card
from hollow_glint.core.card.ice_guidance import INCH, counts_as, ice_word, load_rule
from hollow_glint.core.card.known_hole import ASSUMED, COULD_BE, KnownHole
from hollow_glint.core.card.rules_of_thumb import rules
from hollow_glint.core.checks import InputError
from hollow_glint.core.gear import profiles
from hollow_glint.core.gear.lures import USUAL_JIG as JIG
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.unit import FOOT
from hollow_glint.core.hole.contents import SPECIES

RING = profiles.TWO_BEAM_RING
KNOWN = KnownHole(
    9.45, ice_thickness_m=0.36, slush_m=0.0, bottom_kind="mud", clarity="clear", light="day",
    liveliness="quiet", weed_height_m=0.0, fish_length_m=0.3, neighbours=(),
)  # fmt: skip


def card(unit=RING, lure=JIG, **known):
    return hole_card(replace(KNOWN, **known), unit, lure)


def said(item) -> str:
    return item.said.text.format(**{name: f"{one.value:.2f} {one.unit}" for name, one in item.said.values.items()})


# --- checks -------------------------------------------------------------------------------------------------------


def test_the_checks_stand_in_the_order_of_the_hands():
    names = [one.name for one in checks(card())]
    assert names == ["connections", "battery", "wet face", "plumb", "below the ice", "cable"]


def test_the_checks_carry_this_holes_and_this_units_numbers():
    found = {one.name: said(one) for one in checks(card(replace(RING, lowest_battery_v=11.4)))}
    assert found["battery"] == "Battery above 11.40 V"
    assert found["below the ice"] == "Face at 0.44 m, 0.08 m below the ice"
    assert found["cable"] == "Cable clear of the line"


def test_slush_thicker_than_the_ice_lowers_the_face():
    found = {one.name: said(one) for one in checks(card(slush_m=0.5))}
    assert found["below the ice"] == "Face at 0.58 m, 0.08 m below the ice"


def test_a_second_hole_within_the_zone_or_none_at_all():
    seen = {one.name: said(one) for one in checks(card(holes=2, lure=Lure("8 mm", 0.008)))}
    assert seen["cable"] == "Cable clear of the fishing hole" and seen["second hole"].startswith("Second hole within")
    narrow = card(holes=2, depth_m=2.0)
    assert narrow.second_hole_m is None
    words = {one.name: said(one) for one in checks(narrow)}["second hole"]
    assert "too narrow for a second hole" in words


def test_a_transducer_that_looks_to_one_side_has_a_mark_on_its_handle():
    names = [one.name for one in checks(card(replace(RING, directional=True)))]
    assert names[-1] == "handle mark"


def test_ice_comes_first_among_the_cautions_and_snow_and_slush_when_there_are_any():
    plain = [one.text for one in cautions(card())]
    assert plain[0] == NO_SAFE_ICE and len(plain) == 3
    assert "carbon monoxide" in plain[1] and "below freezing" in plain[2]
    for known, word in (({"snow_m": 0.11}, "Snow of"), ({"slush_m": 0.01}, "Slush of")):
        assert sum(word in one.text for one in cautions(card(**known))) == 1
    assert not any("Snow" in one.text for one in cautions(card(snow_m=0.1)))


# --- ice ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("kind", "share"), [("clear", 1.0), ("white", 0.5), ("layered", 0.5), (None, 0.5)])
def test_what_is_not_known_to_be_clear_counts_half(kind, share):
    assert counts_as(0.4, kind) == pytest.approx(0.4 * share)
    assert ice_word(0.4, kind).kind_known == (kind is not None)


def test_twice_as_thick_bears_four_times_as_much_by_the_rule():
    """P = A h^2 (Gold 1971): 50 lb per square inch, ten inches give 5000 lb."""
    assert load_rule(10 * INCH) / 0.45359237 == pytest.approx(5000.0)
    assert load_rule(0.4) == pytest.approx(4.0 * load_rule(0.2)) and load_rule(0.0) == 0.0


def test_white_ice_bears_a_quarter_by_the_rule():
    assert ice_word(0.4, "white").rule_kg == pytest.approx(ice_word(0.4, "clear").rule_kg / 4.0)


@pytest.mark.parametrize(
    ("inches", "below"), [(3.9, 4), (4.0, 3), (6.9, 3), (7.0, 2), (11.9, 2), (12.0, 1), (14.9, 1), (15.0, 0)]
)
def test_each_line_of_guidance_is_met_at_its_fullest_figure_and_not_before(inches, below):
    assert sum(one.below for one in ice_word(inches * INCH, "clear").guidance) == below


@pytest.mark.parametrize(("field", "value"), [("ice_thickness_m", -0.1), ("ice_thickness_m", 3.1)])
def test_thickness_that_cannot_be_is_refused(field, value):
    with pytest.raises(InputError, match=field):
        ice_word(value, "clear")
    with pytest.raises(InputError, match="ice_kind"):
        counts_as(0.2, "blue")


def test_guidance_stands_from_the_lightest_use_to_the_heaviest():
    fullest = [row[2] for row in ice_guidance.GUIDANCE]
    assert fullest == sorted(fullest) and all(row[1] <= row[2] for row in ice_guidance.GUIDANCE)


# --- rules of thumb -----------------------------------------------------------------------------------------------


def found(**known) -> dict:
    unit = known.pop("unit", RING)
    return {one.key: one for one in rules(card(unit, **known))}


@pytest.mark.parametrize(
    ("depth", "agrees_with"), [(2.0, "wide"), (WIDE := 10 * FOOT - 0.01, "wide"), (10 * FOOT + 0.01, "narrow")]
)
def test_the_beam_rule_turns_at_ten_feet(depth, agrees_with):
    one = found(depth_m=depth)["beam"]
    width = one.ours.values["mine"].value
    widest = max(beam.width_deg for beam in RING.beams)
    assert one.agrees == ((width == widest) == (agrees_with == "wide"))


def test_a_unit_with_one_beam_or_no_top_water_knob_has_no_such_rule():
    plain = replace(RING, beams=RING.beams[:1], tvg_db_decade=(0.0,), blanking_m=(0.0,))
    assert not {"beam", "top water"} & set(found(unit=plain))
    assert {"beam", "top water"} <= set(found(unit=profiles.WIDE_NARROW_SCROLLER))


def test_neither_shallow_nor_deep_nor_clear_has_no_rule_for_gain():
    assert "gain" not in found(depth_m=6.0, clarity="stained")
    assert "gain" in found(depth_m=4.0, clarity="stained")
    assert "gain" in found(depth_m=12.0, clarity="stained")
    assert "gain" in found(depth_m=6.0, clarity="clear")


def test_the_window_rule_follows_the_lure():
    near, high = found(view="window"), found(view="window", lure_depth_m=4.0)
    assert "bottom window" in near["window"].thumb.text.lower()
    assert "free window" in high["window"].thumb.text.lower()


def test_a_full_column_by_choice_is_said_to_be_one():
    assert "You chose the full column" in found(view="full")["window"].why.text


def test_the_card_keeps_its_own_rule_of_the_smallest_range():
    for depth in (3.0, 6.0, 9.0, 15.0):
        assert found(depth_m=depth)["range"].agrees


# --- what is known ------------------------------------------------------------------------------------------------


def test_what_is_not_known_is_assumed_and_named_in_the_order_in_which_it_becomes_known():
    bare = KnownHole(7.0)
    assert bare.unknown() == tuple(
        name for name in KnownHole.__dataclass_fields__ if name in ASSUMED and getattr(bare, name) is None
    )
    for name, value in ASSUMED.items():
        assert bare.known(name) == value
    assert KNOWN.unknown() == ()
    assert set(bare.could_be()) == set(COULD_BE)
    for name, others in bare.could_be().items():
        assert tuple(getattr(one, name) for one in others) == COULD_BE[name]
        assert all(replace(one, **{name: None}) == bare for one in others)


def test_a_species_brings_its_usual_length():
    for species, kind in SPECIES.items():
        at = replace(KNOWN, fish_length_m=None, species=species)
        assert at.known("fish_length_m") == pytest.approx(sum(kind.length_m) / 2.0, abs=5e-4)
        assert "fish_length_m" not in at.unknown()
    assert replace(KNOWN, species="char").known("fish_length_m") == 0.3, "what is given goes before"


def test_a_displayed_depth_is_short_by_where_the_face_hangs():
    assert replace(KNOWN, depth_is="displayed").true_depth_m == pytest.approx(9.45 + 0.44)
    assert replace(KNOWN, depth_is="displayed", face_depth_m=1.0).true_depth_m == pytest.approx(10.45)
    assert KNOWN.true_depth_m == 9.45


def test_the_lure_is_fished_off_the_bottom_above_weeds_and_never_above_the_middle():
    assert KNOWN.lure_at_m == pytest.approx(9.45 - 1.2)
    assert replace(KNOWN, weed_height_m=2.0).lure_at_m == pytest.approx(9.45 - 2.3)
    shallow = replace(KNOWN, depth_m=1.5)
    assert shallow.lure_at_m == pytest.approx(0.5 * (0.44 + 1.5))
    assert replace(KNOWN, lure_depth_m=5.0).lure_at_m == 5.0


@pytest.mark.parametrize(
    ("known", "names"),
    [
        ({"lure_depth_m": 9.5}, ["lure_depth_m", "above the bottom"]),
        ({"lure_depth_m": 0.5}, ["lure_depth_m", "0.44 m"]),
        ({"window_m": 9.2}, ["window_m", "column under the face"]),
        ({"ice_thickness_m": 2.0, "depth_m": 2.2}, ["ice_thickness_m"]),
        ({"depth_m": 0.6, "ice_thickness_m": None}, ["depth_m", "usual thickness"]),
        ({"weed_height_m": 4.9, "depth_m": 5.0}, ["weed_height_m"]),
        ({"face_depth_m": 4.9, "depth_m": 5.0}, ["face_depth_m"]),
        ({"holes": 3}, ["holes"]),
        ({"school": "posh"}, ["school", "lean"]),
    ],
)
def test_what_contradicts_itself_is_refused_by_name(known, names):
    with pytest.raises(InputError) as refused:
        replace(KNOWN, **known)
    for name in names:
        assert name in str(refused.value)


def test_weeds_have_their_words_with_the_height_and_where_the_unit_shows_them():
    assert "weeds" not in found() and "weeds" not in found(weed_height_m=0.0)
    one = found(weed_height_m=0.6)["weeds"]
    made = card(weed_height_m=0.6)
    assert one.agrees
    assert one.ours.values["above"].value == pytest.approx(made.scene.bottom_depth_m - 0.6 - made.lure_depth_m)
    assert one.why.values["tops"].value == pytest.approx(made.scene.bottom_range_m - 0.6)
    among = {r.key: r for r in rules(card(weed_height_m=0.6, lure_depth_m=made.scene.bottom_depth_m - 0.4))}["weeds"]
    assert not among.agrees and "among" in among.ours.text
    assert among.ours.values["above"].value == pytest.approx(0.2)


def test_ice_that_nobody_measured_is_marked_as_assumed():
    def hung(**known) -> str:
        return said(next(one for one in checks(card(**known)) if one.name == "below the ice"))

    assert "taken as" in hung(ice_thickness_m=None)
    assert "taken as" not in hung(ice_thickness_m=0.4)
