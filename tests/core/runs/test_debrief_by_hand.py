"""The debrief on stories written by hand, a moment at a time: what is judged, with which number, what is advised."""

from __future__ import annotations

from dataclasses import replace
from typing import get_args

import numpy as np
import pytest

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.bench.frame import STEP_S
from hollow_glint.core.fish import rod
from hollow_glint.core.fish.events import Event, EventKind, FishTruth
from hollow_glint.core.fish.rod import Tip
from hollow_glint.core.runs.attention import CAME_OFF, FELT_BEND, NOTHING_ON, TOLD, perceived
from hollow_glint.core.runs.debrief import ADVICE, debrief
from hollow_glint.core.runs.event_judges import JUDGES
from hollow_glint.core.runs.replay import Beat, begin
from hollow_glint.core.runs.run_judges import WASTED_S
from hollow_glint.core.runs.run_log import RunLog
from hollow_glint.core.runs.start import set_up

SETUP = set_up("willing", 3)
BIG, SMALL = 0.35, 0.08


def fish(**changed) -> FishTruth:
    return replace(FishTruth(0.0, 0.0, 7.5, BIG, "curious", "whitefish"), **changed)


def story(seconds: float, events: dict[float, Event] | None = None, **of) -> list[Beat]:
    """Beats in which nothing moves but what is told: `lure`, `rising`, `eyes`, `fish` are functions of the time."""
    told = {round(at / STEP_S): event for at, event in (events or {}).items()}
    beats = []
    for k in range(round(seconds / STEP_S)):
        t = (k + 1) * STEP_S
        beats.append(
            Beat(
                round(t, 6),
                of.get("lure", lambda t: 7.5)(t),
                of.get("rising", lambda t: 0.0)(t),
                0.0,
                of.get("eyes", lambda t: "sonar")(t),
                Tip(),
                Tip(),
                of.get("fish", lambda t: ())(t),
                (told[k],) if k in told else (),
            )
        )
    return beats


def judged(beats: list[Beat], setup=SETUP, commands=()):
    return debrief(RunLog(setup, tuple(commands), len(beats)), beats)


def one(found, code):
    """The one moment of this code, its sentence filled in."""
    (moment,) = [each for each in found.judged if each.code == code]
    return moment, moment.say.text.format(**{name: f"{q.value:.2f} {q.unit}" for name, q in moment.say.values.items()})


def skill(found, name):
    return next(((each.good, each.of) for each in found.skills if each.skill == name), None)


# --- one event each ----------------------------------------------------------------------------------------------


def test_every_event_has_its_judge_or_none_on_purpose():
    assert set(JUDGES) == set(get_args(EventKind))


@pytest.mark.parametrize("kind", list(JUDGES))
def test_every_event_can_be_judged_wherever_it_comes(kind):
    """At the first beat, in the middle and at the last: words that can be filled in, a time inside the run."""
    event = Event(kind, 7.4, BIG, 0.8, "whitefish", "tap" if "bite" in kind else "")
    for at in (0.0, 5.0, 9.95):
        found = judged(story(10.0, {at: event}))
        for moment in found.judged:
            assert 0.0 < moment.time_s <= 10.0 and STEP_S <= moment.back_s <= moment.time_s
            moment.say.text.format(**moment.say.values)
        assert len(found.next) == 2


@pytest.mark.parametrize(
    ("event", "code", "words"),
    [
        (Event("put off by the lift", 7.4, BIG, 0.31), "lift", "Lifted at 0.31 m/s"),
        (Event("turned at its line", 6.2, BIG, 6.2), "line", "It turned at 6.20 m; you lifted 0.00 m beyond"),
        (Event("too late", 7.4, BIG, 0.4), "late", "Set 0.40 s late"),
        (Event("too early", 7.4, BIG, 0.25), "early", "still 0.25 m off the lure"),
        (Event("torn out", 7.4, BIG, 18.0), "hard", "18.00 N tore the hook out"),
        (Event("torn out", 7.4, BIG, 0.1), "early", "Set 0.10 s after it took"),
        (Event("line parted", 7.4, BIG, 30.0), "hard", "30.00 N, and the line parted"),
        (Event("too soft", 7.4, BIG, 0.6), "soft", "Only 0.60 N reached the hook"),
        (Event("only nipped", 7.4, SMALL, 0.1), "small", "A 0.08 m fish only nipped"),
        (Event("too late", 7.4, SMALL, 0.4), "small", "had nipped and let go before you set"),
        (Event("let go", 7.4, BIG, 1.6), "missed", "It had the lure for 1.60 s and let go"),
        (Event("bite on the stick", 7.4, BIG, how="tap"), "stick", "The dead stick had a bite"),
    ],
)
def test_a_mistake_is_told_with_its_number_and_what_to_do_about_it(event, code, words):
    found = judged(story(10.0, {5.0: event}))
    moment, text = one(found, code)
    assert words in text and not moment.is_good
    assert moment.time_s == pytest.approx(5.05) and moment.back_s < moment.time_s
    assert found.next[0] == ADVICE[code]


@pytest.mark.parametrize("kind", ["too early", "too late", "torn out", "too soft", "line parted", "let go"])
def test_every_set_that_fails_counts_against_setting_on_the_bite(kind):
    assert skill(judged(story(10.0, {5.0: Event(kind, 7.4, BIG, 0.5)})), "set on the bite") == (0.0, 1.0)


def test_a_small_fish_counts_for_nothing_when_it_lets_go():
    found = judged(story(10.0, {5.0: Event("let go", 7.4, SMALL, 0.5)}))
    assert found.judged == () and skill(found, "set on the bite") is None


def test_a_fish_let_go_and_set_on_too_late_is_told_once():
    found = judged(story(10.0, {5.0: Event("let go", 7.4, BIG, 1.5), 5.6: Event("too late", 7.4, BIG, 0.6)}))
    assert [each.code for each in found.judged] == ["late"]
    assert skill(found, "set on the bite") == (0.0, 1.0)


def test_a_set_that_holds_is_told_from_its_bite_on():
    events = {4.0: Event("bite", 7.4, BIG, how="load"), 4.6: Event("hooked", 7.4, BIG, 8.5, "char")}
    found = judged(story(10.0, events, eyes=lambda t: "rod"))
    moment, text = one(found, "set")
    assert moment.is_good and "Set 0.60 s after it took, with 8.50 N" in text
    assert skill(found, "set on the bite") == (1.0, 1.0) and skill(found, "eyes to the rod tip") == (1.0, 1.0)


def test_a_dead_sticks_bite_that_was_set_on_is_no_mistake():
    for kind in ("hooked", "torn out", "too soft", "line parted"):
        events = {4.0: Event("bite on the stick", 7.4, BIG, how="load"), 6.0: Event(kind, 7.4, BIG, 8.5)}
        assert "stick" not in {each.code for each in judged(story(10.0, events)).judged}
    late = {4.0: Event("bite on the stick", 7.4, BIG, how="load"), 8.5: Event("hooked", 7.4, BIG, 8.5)}
    assert "stick" in {each.code for each in judged(story(10.0, late)).judged}


# --- eyes --------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("how", "words"), [("tap", "a tap"), ("load", "a load on the tip"), ("slack", "a slack line")])
def test_eyes_on_the_sonar_are_told_how_it_took_and_when_they_came(how, words):
    event = {4.0: Event("bite", 7.4, BIG, how=how)}
    late, text = one(judged(story(10.0, event, eyes=lambda t: "rod" if t > 5.5 else "sonar")), "eyes")
    assert words in text and "1.50 s later" in text and not late.is_good
    _, text = one(judged(story(10.0, event)), "eyes")
    assert words in text and "never looked" in text


def test_a_nip_is_no_bite_to_be_looked_at():
    found = judged(story(10.0, {4.0: Event("bite", 7.4, SMALL, how="nip")}))
    assert "eyes" not in {each.code for each in found.judged} and found.outcome == "bites missed"


# --- the lure's own way ------------------------------------------------------------------------------------------


def test_a_drop_is_as_deep_as_the_hand_let_it_go():
    """From a second before the fish left to a second after: two seconds at half a metre a second."""

    def depth(t):
        return 6.0 + 0.5 * float(np.clip(t - 4.0, 0.0, 2.0))

    def rising(t):
        return -0.5 if 4.0 < t <= 6.0 else 0.0

    found = judged(story(10.0, {5.0: Event("put off by the drop", 7.4, BIG, 0.5)}, lure=depth, rising=rising))
    moment, text = one(found, "drop")
    assert "Dropped 1.00 m onto a 0.35 m fish, at 0.50 m/s. It left." in text and moment.weight == 3.0
    stayed = judged(story(10.0, {5.0: Event("unsettled by the drop", 7.4, BIG, 0.5)}, lure=depth, rising=rising))
    moment, text = one(stayed, "drop")
    assert text.endswith("It stayed this time, and is warier now.") and moment.weight < 3.0


def test_every_drop_counts_against_never_chasing_it_down():
    dropped = Event("put off by the drop", 7.4, BIG, 0.5)
    events = {1.0: Event("noticed", 7.4, BIG), 2.0: Event("noticed", 7.4, BIG), 3.0: dropped}
    assert skill(judged(story(10.0, events)), "never chase it down") == (1, 2)


@pytest.mark.parametrize(("still", "code"), [(0.75, "hang"), (0.65, "left")])
def test_a_fish_that_leaves_a_hanging_lure_is_told_apart_from_one_that_just_leaves(still, code):
    event = Event("lost interest", 7.4, BIG, 10.0)
    found = judged(story(15.0, {12.0: event}, rising=lambda t: 0.0 if t < 2.0 + 10.0 * still else 0.02))
    moment, text = one(found, code)
    assert "watched for 10.00 s" in text
    assert moment.weight > 1.0 if code == "hang" else moment.weight < 1.0
    assert "left" not in ADVICE


def test_a_short_look_is_no_hanging_and_a_small_fish_is_not_told_of():
    short = judged(story(15.0, {12.0: Event("lost interest", 7.4, BIG, 4.0)}))
    assert {each.code for each in short.judged} == {"left"}
    small = judged(story(15.0, {12.0: Event("lost interest", 7.4, SMALL, 10.0)}))
    assert small.judged == ()


@pytest.mark.parametrize(("speed", "is_good"), [(0.03, True), (0.059, True), (0.09, False)])
def test_lifting_with_a_fish_at_its_height_is_judged_by_its_speed(speed, is_good):
    found = judged(story(10.0, rising=lambda t: speed if 3.0 < t < 6.0 else 0.0, fish=lambda t: (fish(z=7.6),)))
    moment, text = one(found, "lift")
    assert moment.is_good == is_good and f"{speed:.2f} m/s" in text
    good, of = skill(found, "lift slowly")
    assert of == pytest.approx(3.0, abs=0.1) and good == (pytest.approx(of) if is_good else 0.0)


@pytest.mark.parametrize(
    "where", [{"z": 7.2}, {"z": 8.8}, {"x": 1.3}, {"mood": "passing"}, {"mood": "put off"}],
    ids=["above it", "far below", "far aside", "passing", "put off"],
)  # fmt: skip
def test_lifting_without_a_fish_at_the_lure_is_nobodys_business(where):
    found = judged(story(10.0, rising=lambda t: 0.2, fish=lambda t: (fish(**where),)))
    assert skill(found, "lift slowly") is None


def test_half_a_second_of_lifting_is_too_little_to_judge():
    found = judged(story(10.0, rising=lambda t: 0.2 if 3.0 < t < 3.4 else 0.0, fish=lambda t: (fish(z=7.6),)))
    assert skill(found, "lift slowly") is None


# --- small fish, onlookers, the picture ----------------------------------------------------------------------------


@pytest.mark.parametrize(("seconds", "told"), [(WASTED_S - 1.0, False), (WASTED_S + 1.0, True)])
def test_twenty_seconds_on_a_tiny_fish_are_a_waste(seconds, told):
    found = judged(story(30.0, fish=lambda t: (fish(length_m=SMALL, mood="following"),) if t < seconds else ()))
    assert ("small" in {each.code for each in found.judged}) == told
    if told:
        assert "Stayed 20.9" in one(found, "small")[1] or "Stayed 21.0" in one(found, "small")[1]


def test_a_large_fish_beside_the_small_one_is_worth_the_time():
    both = (fish(length_m=SMALL, mood="following"), fish(mood="curious"))
    assert "small" not in {each.code for each in judged(story(30.0, fish=lambda t: both)).judged}


def test_an_onlooker_is_told_with_how_near_it_came():
    found = judged(story(10.0, fish=lambda t: (fish(x=abs(t - 5.0) * 0.2 + 0.9, z=7.5),)))
    _, text = one(found, "far")
    assert "at its nearest 0.90 m from the lure and 0.90 m off to the side" in text
    assert found.outcome == "no fish came to the lure"


def test_a_lure_below_its_gain_window_is_lost_and_one_inside_it_is_not():
    low = replace(SETUP, settings=replace(SETUP.settings, gain=SETUP.unit.gain.minimum))
    found = judged(story(30.0), low)
    moment, text = one(found, "picture")
    assert "100.00 percent of the time" in text and not moment.is_good
    assert skill(found, "keep the lure in the picture")[0] == 0.0
    good = judged(story(30.0))
    assert skill(good, "keep the lure in the picture")[0] == skill(good, "keep the lure in the picture")[1] > 10


def test_a_knob_turned_in_the_run_counts_from_when_it_was_turned():
    low = replace(SETUP.settings, gain=SETUP.unit.gain.minimum)
    commands = [(round(20.0 / STEP_S), Command(settings=low))]
    found = judged(story(32.0), commands=commands)
    good, of = skill(found, "keep the lure in the picture")
    assert of == 24 and 11 <= good <= 13


# --- the whole -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("events", "outcome"),
    [
        ({}, "no fish came to the lure"),
        ({1.0: Event("noticed", 7.0, BIG)}, "looks, no bite"),
        ({1.0: Event("noticed", 7.0, BIG), 2.0: Event("bite", 7.0, BIG, how="tap")}, "bites missed"),
        ({2.0: Event("bite on the stick", 7.0, BIG, how="tap")}, "bites missed"),
        ({2.0: Event("bite", 7.0, BIG, how="tap"), 4.0: Event("landed", 0.3, BIG, 0.0, "char")}, "landed"),
    ],
)
def test_a_run_comes_to_one_word(events, outcome):
    found = judged(story(8.0, events))
    assert found.outcome == outcome
    assert (found.landed_m, found.species) == ((BIG, "char") if outcome == "landed" else (0.0, ""))


def test_what_weighs_most_is_advised_first_and_two_things_at_most():
    events = {
        1.0: Event("put off by the drop", 7.4, BIG, 0.5),
        2.0: Event("too early", 7.4, BIG, 0.3),
        3.0: Event("only nipped", 7.4, SMALL, 0.1),
        4.0: Event("too early", 7.4, BIG, 0.3),
    }
    found = judged(story(8.0, events))
    assert found.next == (ADVICE["early"], ADVICE["drop"]), "twice 2.4 weighs more than 3"


def test_whoever_landed_one_goes_on_and_whoever_did_not_plays_it_again():
    landed = judged(story(8.0, {4.0: Event("landed", 0.3, BIG, 0.0, "char")}))
    nothing = judged(story(8.0))
    assert landed.next == nothing.next[::-1] and "next level" in landed.next[0]


def test_how_high_fish_came_is_kept_with_whether_they_turned():
    events = {
        1.0: Event("turned at its line", 5.0, BIG, 5.2),
        2.0: Event("lost interest", 6.0, BIG, 3.0),
        3.0: Event("bite", 6.5, BIG, how="tap"),
        4.0: Event("put off by the lift", 7.0, BIG, 0.2),
    }
    found = judged(story(8.0, events))
    assert [(each.depth_m, each.turned) for each in found.reached] == [
        (5.0, True), (6.0, False), (6.5, False), (7.0, False)
    ]  # fmt: skip


def test_moments_stand_in_the_order_of_the_run():
    events = {6.0: Event("too early", 7.4, BIG, 0.3), 2.0: Event("put off by the lift", 7.4, BIG, 0.3)}
    times = [each.time_s for each in judged(story(8.0, events)).judged]
    assert times == sorted(times) and len(times) == 2


# --- what the angler has of it ---------------------------------------------------------------------------------------


@pytest.fixture(scope="module")
def frame():
    run: BenchRun = begin(SETUP)
    return run.advance()


@pytest.mark.parametrize("kind", list(get_args(EventKind)))
def test_only_what_a_hand_or_an_ear_has_is_told(frame, kind):
    event = Event(kind, 7.0, BIG, 9.0, "char", "tap")
    told = perceived(replace(frame, events=(event,))).events
    if kind == "landed":
        assert told == (event,)
    elif kind in TOLD:
        assert told == (Event(kind, 7.0),), "not how long it is, nor which"
    elif kind in NOTHING_ON:
        assert told == (Event("nothing on", 7.0),)
    elif kind in CAME_OFF:
        assert told == (Event("came off", 7.0),)
    else:
        assert told == ()


def test_no_truth_of_fish_is_in_what_the_angler_sees(frame):
    true = replace(frame, fish=(fish(),), school=np.ones((3, 4), dtype=np.float32))
    seen = perceived(true)
    assert seen.fish == () and seen.school.shape == (0, 4)
    assert np.array_equal(seen.levels, true.levels) and seen.settings == true.settings


@pytest.mark.parametrize(
    ("eyes", "bend", "says", "shown"),
    [
        ("rod", 0.1, "tap", 0.1),
        ("rod", 0.9, "load", 0.9),
        ("sonar", FELT_BEND, "unwatched", rod.REST_BEND),
        ("sonar", FELT_BEND + 0.01, "felt", FELT_BEND + 0.01),
    ],
)
def test_eyes_on_the_sonar_feel_only_what_is_strong(frame, eyes, bend, says, shown):
    said = "load" if bend > 0.5 else "tap"
    seen = perceived(replace(frame, eyes=eyes, rod_tip=said, rod_tip_bend=bend, stick_tip=said, stick_tip_bend=bend))
    assert (seen.rod_tip, seen.rod_tip_bend) == (seen.stick_tip, seen.stick_tip_bend) == (says, shown)


def test_the_bottom_is_felt_by_the_hand_that_holds_the_rod_and_not_by_the_dead_stick(frame):
    lying = {"rod_tip": "bottom", "rod_tip_bend": 0.0, "stick_tip": "bottom", "stick_tip_bend": 0.0}
    seen = perceived(replace(frame, eyes="sonar", **lying))
    assert (seen.rod_tip, seen.rod_tip_bend) == ("bottom", 0.0)
    assert (seen.stick_tip, seen.stick_tip_bend) == ("unwatched", rod.REST_BEND)
