"""The hole card: right for any unit and water, sharper with all that is known, honest when nothing works."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as some

from hollow_glint.core.acoustics.beam import footprint_diameter
from hollow_glint.core.card import checklist, from_hole_to_hole, ice_guidance, rules_of_thumb
from hollow_glint.core.card.hole_card import HoleCard, hole_card
from hollow_glint.core.card.known_hole import KnownHole
from hollow_glint.core.card.remedies import room
from hollow_glint.core.card.translate import translate
from hollow_glint.core.checks import InputError
from hollow_glint.core.gear import profiles
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.gear.unit import FOOT, Beam, GainScale, UnitProfile
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.hole.scene import PLANKTON_DB
from hollow_glint.core.sonar import picture, ping, transmission
from hollow_glint.core.tuning.gain_window import gain_window, lure_level, open_water_cells, step_inside
from tests.effort import bounded

from ..watching import judged, lure_alone, painted

JIG = Lure("5 mm tungsten jig", 0.005)
UNITS = (profiles.TRAIL_UNIT, *profiles.SHIPPED)
KNOWN = KnownHole(
    9.45, ice_thickness_m=0.36, ice_kind="clear", slush_m=0.0, bottom_kind="mud", clarity="clear", light="day",
    liveliness="quiet", weed_height_m=0.0, fish_length_m=0.3, neighbours=(),
)  # fmt: skip
within = {"allow_nan": False, "allow_infinity": False}
searched = bounded(60)


@some.composite
def units(draw) -> UnitProfile:
    """Any unit: one of the shipped ones with another knob, other ranges and other beams."""
    unit = draw(some.sampled_from(UNITS))
    least = draw(some.floats(-50.0, 50.0, **within))
    steps = draw(some.integers(12, 150))
    step = draw(some.sampled_from([0.1, 0.5, 1.0, 5.0]))
    scale = GainScale(least, least + steps * step, step, draw(some.floats(55.0, 80.0)) / steps,
                      draw(some.floats(134.0, 146.0)))  # fmt: skip
    ranges = draw(some.lists(some.floats(2.0, 45.0, **within), min_size=1, max_size=8, unique=True))
    width = draw(some.floats(0.7, 1.4, **within))
    return replace(
        unit,
        gain=scale,
        ranges_m=(*sorted(ranges), 60.0),
        beams=tuple(Beam(b.name, b.frequency_hz, b.width_deg * width, b.level_db) for b in unit.beams),
    )


@some.composite
def holes(draw) -> KnownHole:
    """Any hole, with anything known or not."""
    ice_m = draw(some.none() | some.floats(0.05, 0.9, **within))
    maybe = lambda *values: draw(some.none() | some.sampled_from(values))  # noqa: E731
    return KnownHole(
        draw(some.floats(2.0, 30.0, **within)),
        draw(some.sampled_from(["true", "displayed"])),
        ice_thickness_m=ice_m,
        bottom_kind=maybe("mud", "sand", "rock", "weed carpet"),
        clarity=maybe("clear", "stained", "murky"),
        light=maybe("day", "dusk", "night"),
        liveliness=maybe("quiet", "some", "lively"),
        species=maybe("whitefish", "char", "burbot"),
        temperature_c=draw(some.floats(0.0, 5.0, **within)),
        neighbours=maybe((), (Neighbour(3.0),)),
        school=draw(some.sampled_from(["lean", "rich"])),
        view=draw(some.sampled_from(["full", "window"])),
    )


lures = some.floats(0.003, 0.009, **within).map(lambda diameter: Lure("jig", diameter))


def simulate(card: HoleCard, seed: int, pings: int = 120) -> tuple[float, np.ndarray]:
    """Share of pings in which the lure shows, and of open-water cells that light in each tenth of them, set as told."""
    s = card.situation
    t, unit, now = s.transmission, card.unit, card.settings
    lure = lure_alone(card.lure, card.lure_depth_m, pings, t)
    echoes = ping.echo_levels(t, lure, pings, np.random.default_rng(seed))
    water = ping.echo_levels(t, None, pings, np.random.default_rng(seed + 1))
    shown = s.shown
    rows = picture.row_range(unit, shown)
    at = card.lure_depth_m - card.face_depth_m
    near = (rows > at - picture.row_height(unit, shown)) & (
        rows < at + 1.2 * t.resolution_m + picture.row_height(unit, shown)
    )
    marks = painted(echoes, unit, now, t, shown)
    cells = open_water_cells(t, unit, shown)
    lit = painted(water, unit, now, t, shown)[:, cells]
    shares = (lit > 0).reshape(10, -1).mean(axis=1) if cells.any() else np.zeros(10)
    return float((marks[:, near] > 0).any(axis=1).mean()), shares


@given(holes(), units(), lures, some.integers(0, 2**31))
@searched
def test_a_card_is_right_for_any_unit_and_hole(at, unit, lure, seed):
    """The smallest range that holds the bottom, a gain in the window, and lean: the lure seen in quiet water."""
    card = hole_card(at, unit, lure)
    # The smallest range listed that holds the bottom with its margin: 0.3 m or 3 percent.
    down = card.scene.bottom_range_m
    margin = max(0.3, 0.03 * down)
    if not unit.free_range:
        assert card.settings.range_m == next(one for one in unit.ranges_m if one >= down + margin)
    else:
        assert down + margin <= card.settings.range_m + 1e-9 <= max(down + margin + FOOT, unit.ranges_m[0]) + 1e-6
    # The knobs are ones the unit has, and the gain lies inside the window whenever a step does.
    assert card.settings.checked(unit).gain == pytest.approx(card.settings.gain)
    gains = card.gains
    if gains.open:
        assert gains.floor - 1e-6 <= card.settings.gain <= gains.ceiling + 1e-6
        assert card.remedies == ()
    if gains.firm:
        assert gains.open
        assert gains.floor <= gains.firm_floor and gains.firm_ceiling <= gains.ceiling
        assert gains.firm_floor - 1e-6 <= card.settings.gain <= gains.firm_ceiling + 1e-6
    lean, rich = card.schools
    assert lean.gain <= rich.gain + 1e-9
    assert lean.fish_seen_m <= rich.fish_seen_m + 1e-9 and lean.smallest_fish_m >= rich.smallest_fish_m - 1e-9
    assert card.face_depth_m > (at.ice_thickness_m or 0.0)
    assert card.numbers.true_depth_m == pytest.approx(card.numbers.displayed_depth_m + card.face_depth_m)
    if gains.open and at.school == "lean" and not at.neighbours:
        seen, lit = simulate(card, seed)
        assert seen >= 0.95
        # The expected share is at most 2 percent; what 120 pings show of it scatters.
        assert lit.mean() <= 0.02 + 0.002 + 4.0 * float(lit.std() / np.sqrt(lit.size))


@given(holes(), units(), lures)
@searched
def test_monotone_deeper_thicker_narrower(at, unit, lure):
    """Deeper never lowers the floor; more plankton never raises the ceiling; a narrower beam never lowers it."""
    scene = replace(at.scene(), neighbours=(), weed_height_m=0.0)
    now = Settings(unit.gain.minimum, unit.ranges_m[-1])

    def window(scene=scene, unit=unit, depth=at.lure_at_m):
        t = transmission.transmit(scene, unit, now)
        return gain_window(t, unit, now, lure, depth, picture.full_column(now))

    top = scene.face_depth_m + 0.5
    floors = [window(depth=float(depth)).floor for depth in np.linspace(top, scene.bottom_depth_m, 3)]
    assert floors == sorted(floors)
    slack = unit.gain.position(0.6) - unit.gain.position(0.0)  # the extent of open water itself shifts a little
    ceilings = [window(scene=replace(scene, plankton=one)).ceiling for one in PLANKTON_DB]
    assert all(b <= a + slack for a, b in zip(ceilings, ceilings[1:], strict=False))
    wide = unit.beams[0]
    narrow = replace(unit, beams=(replace(wide, width_deg=max(0.6 * wide.width_deg, 3.0)), *unit.beams[1:]))
    assert window(unit=narrow).ceiling >= window().ceiling - slack


@given(some.floats(0.3, 50.0, **within), some.floats(4.0, 40.0, **within))
def test_footprints_by_the_tangent_and_by_thirds(depth, width):
    assert footprint_diameter(depth, width) == pytest.approx(2.0 * depth * np.tan(np.radians(width) / 2.0))
    # Common practice, no source: a 20 degree cone is about a third as wide as the water is deep.
    assert footprint_diameter(depth, 20.0) == pytest.approx(depth / 3.0, rel=0.07)


# --- what is known ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_depth_alone_gives_a_card_and_each_thing_known_sharpens_it(unit):
    bare = hole_card(KnownHole(9.45), unit, JIG)
    assert {one.name for one in bare.unknowns} >= {"clarity", "light", "liveliness", "bottom_kind"}
    assert bare.unknowns[0].cost_db == max(one.cost_db for one in bare.unknowns) > 1.0
    slack = [bare]
    for name in ("clarity", "light", "liveliness"):
        slack.append(hole_card(replace(slack[-1].at, **{name: getattr(KNOWN, name)}), unit, JIG))
    drawn_in = [card.gains.ceiling - card.gains.firm_ceiling for card in slack]
    assert drawn_in[-1] == pytest.approx(0.0) and drawn_in[0] > 0.0
    assert all(card.unknowns != slack[0].unknowns for card in slack[1:])
    assert hole_card(KNOWN, unit, JIG).unknowns == ()


def test_a_displayed_depth_is_short_by_the_face():
    shown = replace(KNOWN, depth_m=9.0, depth_is="displayed", face_depth_m=0.5)
    assert shown.true_depth_m == pytest.approx(9.5)
    card = hole_card(shown, profiles.TRAIL_UNIT, JIG)
    assert card.face_depth_m == pytest.approx(0.44)  # 8 cm under 36 cm of ice
    assert card.numbers.displayed_depth_m == pytest.approx(9.5 - 0.44)


def test_contradictions_are_named_together():
    wrong = {"ice_thickness_m": 2.9, "face_depth_m": 2.95, "lure_depth_m": 5.0, "window_m": 3.0, "weed_height_m": 2.0}
    with pytest.raises(InputError) as said:
        KnownHole(3.0, **wrong)
    for name in wrong:
        assert f"{name} is {wrong[name]:g} m" in str(said.value)
    with pytest.raises(InputError, match=r"depth_m is -1.*light is 'noon'"):
        KnownHole(-1.0, light="noon")
    with pytest.raises(InputError, match="largest range"):
        hole_card(KnownHole(55.0), replace(profiles.TRAIL_UNIT, ranges_m=(10.0, 30.0)), JIG)


def test_two_lures_are_set_by_the_weaker():
    heavy = Lure("minnow", 0.010, "lead", "minnow", 0.05)
    both = hole_card(KNOWN, profiles.TRAIL_UNIT, heavy, JIG)
    assert both.lure == JIG and both.gains.floor == hole_card(KNOWN, profiles.TRAIL_UNIT, JIG).gains.floor
    assert "weaker" in both.notes[0].text
    close = hole_card(replace(KNOWN, lure_gap_m=0.03), profiles.SHORT_PULSE, JIG, heavy)
    assert profiles.SHORT_PULSE.pulses[close.settings.pulse].name != "normal"


def test_the_coach_has_nothing_to_add_to_a_card():
    """Card and Bench never say different things: at the card's settings the coach is content."""
    company = replace(KNOWN, neighbours=(Neighbour(2.5, ping_interval_s=0.0472),))
    for unit in UNITS:
        for at in (KNOWN, company, replace(KNOWN, light="night", liveliness="some")):
            card = hole_card(at, unit, JIG)
            if not card.gains.open:
                continue
            found = judged(card.scene, unit, card.settings, JIG, card.lure_depth_m)
            assert [v.code for v in found if v.severity >= 2.0 and v.change] == []


# --- when nothing works -------------------------------------------------------------------------------------------


def test_a_closed_window_is_said_and_what_would_open_it_is_ranked_by_what_it_gives():
    at = replace(KNOWN, depth_m=17.0, clarity="stained", light="night", liveliness="some")
    card = hole_card(at, profiles.TRAIL_UNIT, JIG)
    assert not card.gains.open and card.remedies
    gains = [one.gain_db for one in card.remedies]
    assert gains == sorted(gains, reverse=True)
    words = " ".join(one.what.text for one in card.remedies)
    assert "larger" in words or "large again" in words
    assert "plankton" in words
    # Every knob that would have helped is turned already: what is left to say is what hands can do.
    other = hole_card(
        replace(at, depth_m=28.0, clarity="murky", liveliness="lively"), profiles.TWO_BEAM_RING, Lure("tiny", 0.003)
    )
    assert not other.gains.open and [one for one in other.remedies if one.change and one.opens] == []
    for one in other.remedies:
        if one.change:  # turning it gives what it says
            turned = replace(
                other.situation, settings=replace(other.settings, **{one.change.setting: one.change.value})
            )
            assert room(turned) - room(other.situation) == pytest.approx(one.gain_db, abs=1e-6)


def test_a_step_inside_a_window():
    unit = replace(profiles.TRAIL_UNIT, gain=GainScale(0.0, 10.0, 0.5, 3.0, 140.0))
    assert step_inside(unit, 2.1, 2.4) is None
    assert step_inside(unit, 2.1, 2.6) == 2.5
    assert step_inside(unit, 2.1, 6.2, 1.0) == 6.0
    assert step_inside(unit, -4.0, 1.0) == 0.0
    assert step_inside(unit, 11.0, 12.0) is None


# --- rules, moving on, translating --------------------------------------------------------------------------------


def test_rules_of_thumb_stand_beside_and_say_why_they_differ():
    shallow = hole_card(replace(KNOWN, depth_m=2.6, bottom_kind="sand"), profiles.TWO_BEAM_RING, JIG)
    found = {one.key: one for one in rules_of_thumb.rules(shallow)}
    assert set(found) >= {"gain", "beam", "range", "window", "top water", "symbols"}
    assert found["gain"].agrees and found["beam"].agrees and found["range"].agrees
    assert not found["window"].agrees and "full column" in found["window"].why.text
    windowed = hole_card(replace(KNOWN, view="window"), profiles.TRAIL_UNIT, JIG)
    assert {one.key: one for one in rules_of_thumb.rules(windowed)}["window"].agrees
    for one in found.values():
        for said in (one.thumb, one.ours, one.why):
            said.text.format(**said.values)


def test_moving_on_says_only_what_to_change_largest_effect_first():
    unit = profiles.TWO_BEAM_RING
    here = hole_card(KNOWN, unit, JIG)
    assert from_hole_to_hole.changes(here, here) == ()
    assert from_hole_to_hole.changes(hole_card(KNOWN, profiles.TRAIL_UNIT, JIG), here) is None
    next_hole = hole_card(replace(KNOWN, depth_m=4.2, ice_thickness_m=0.5), unit, JIG)
    moved = from_hole_to_hole.changes(here, next_hole)
    effects = [one.effect_db for one in moved]
    assert effects == sorted(effects, reverse=True) and all(effect > 0 for effect in effects)
    named = {one.setting: one for one in moved}
    assert {"gain", "range_m", "face_depth_m", "lure_depth_m"} <= set(named)
    assert named["range_m"].now == next_hole.settings.range_m and named["face_depth_m"].now == pytest.approx(0.58)
    same = {one for one in vars(here.settings) if getattr(here.settings, one) == getattr(next_hole.settings, one)}
    assert not same & set(named)


def test_translated_settings_give_an_equal_picture():
    """Same lure, same colour, measured on both units' pictures; what cannot be is said."""
    card = hole_card(KNOWN, profiles.TWO_BEAM_RING, JIG)
    for other in UNITS:
        made = translate(card.scene, JIG, card.lure_depth_m, card.unit, card.settings, other)
        assert made.settings == made.settings.checked(other)
        brightness = []
        for unit, now in ((card.unit, card.settings), (other, made.settings)):
            t = transmission.transmit(card.scene, unit, now)
            level = lure_level(t, unit, now, JIG, card.lure_depth_m)
            brightness.append((level - unit.gain.first_colour_db + unit.gain.decibels(now.gain)) / unit.colour_step_db)
        told = " ".join(one.text for one in made.unmatched)
        assert abs(brightness[0] - brightness[1]) <= 0.5 or "colours" in told
        assert made.settings.range_m >= card.scene.bottom_range_m
    back = translate(card.scene, JIG, card.lure_depth_m, card.unit, card.settings, card.unit)
    assert back.settings == card.settings and back.unmatched == ()
    windowed = replace(card.settings, bottom_window_m=5 * FOOT)
    plain = replace(profiles.TRAIL_UNIT, bottom_windows_m=())
    lost = translate(card.scene, JIG, card.lure_depth_m, card.unit, windowed, plain)
    assert "no window" in " ".join(one.text for one in lost.unmatched)


# --- checks and cautions ------------------------------------------------------------------------------------------


def test_the_second_hole_is_near_enough_for_its_lure_to_be_seen():
    card = hole_card(replace(KNOWN, holes=2), profiles.TRAIL_UNIT, Lure("8 mm jig", 0.008))
    far = card.second_hole_m
    assert far is not None and 0.25 <= far < card.numbers.lure_seen_m / 2
    names = [one.name for one in checklist.checks(card)]
    assert names[:5] == ["connections", "battery", "wet face", "plumb", "below the ice"] and "second hole" in names
    assert "handle mark" not in names
    turned = hole_card(KNOWN, replace(profiles.TRAIL_UNIT, directional=True), JIG)
    assert "handle mark" in [one.name for one in checklist.checks(turned)]


def test_ice_is_set_beside_guidance_and_never_called_safe():
    # Gold 1971, by hand and from memory: P = 50 lb/in^2 x (10 in)^2 = 5000 lb.
    assert ice_guidance.load_rule(10 * ice_guidance.INCH) == pytest.approx(5000 * 0.45359237, rel=1e-9)
    assert ice_guidance.counts_as(0.3, "clear") == 0.3
    assert (
        ice_guidance.counts_as(0.3, "white")
        == ice_guidance.counts_as(0.3, "layered")
        == ice_guidance.counts_as(0.3, None)
        == 0.15
    )
    word = ice_guidance.ice_word(0.12, "clear")
    assert [(one.use, one.below) for one in word.guidance] == [
        ("on foot", False), ("snowmobile", True), ("car", True), ("light truck", True)
    ]  # fmt: skip
    with pytest.raises(ValueError, match="ice_kind"):
        ice_guidance.ice_word(0.2, "blue")
    for card in (
        hole_card(KNOWN, profiles.TRAIL_UNIT, JIG),
        hole_card(replace(KNOWN, snow_m=0.3, slush_m=0.1), profiles.TRAIL_UNIT, JIG),
    ):
        said = " ".join(one.text for one in checklist.cautions(card))
        assert "No ice is safe ice; measure as you go; local authorities and local rules" in said
        assert "carbon monoxide" in said and "no charging below freezing" in said
        assert "is safe" not in said.replace("No ice is safe ice", "")
