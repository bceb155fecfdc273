"""The day's rise line from what fish did, and the strike sheet's next thing to try."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.fish import strike_sheet
from hollow_glint.core.fish.rise_line import EARLY_M, READ_SD_M, FishHeight, rise_line
from hollow_glint.core.fish.strike_sheet import (
    ENOUGH,
    LADDERS,
    ONE_FISH_S,
    QUIET_S,
    TRIES,
    Happened,
    evidence_of,
    furthest,
    suggest,
)
from hollow_glint.core.intervals import wilson

TOP, BOTTOM = 0.5, 9.0


def a_day(line_m: float, fish: int, seed: int) -> list[FishHeight]:
    """Fish of a day with its line there: most turn early, some leave lower down for reasons of their own."""
    rng = np.random.default_rng(seed)
    came = []
    for _ in range(fish):
        if rng.random() < 0.6:
            depth = line_m + rng.exponential(EARLY_M) + rng.normal(0.0, READ_SD_M)
            came.append(FishHeight(float(np.clip(depth, 0.1, BOTTOM)), True))
        else:
            came.append(FishHeight(float(rng.uniform(line_m, BOTTOM)), False))
    return came


# --- rise line ----------------------------------------------------------------------------------------------------


def test_without_fish_there_is_no_line_and_an_empty_column_is_refused():
    assert rise_line([], TOP, BOTTOM) is None
    with pytest.raises(InputError, match=r"bottom_m is 0\.55"):
        rise_line([FishHeight(3.0, True)], TOP, 0.55)
    with pytest.raises(InputError, match="depth_m"):
        FishHeight(0.0, True)


def test_the_true_line_lies_in_the_interval_about_as_often_as_it_says():
    """Over 200 days of eight fish each, drawn as the model says: 90 percent, give or take their own scatter."""
    inside = 0
    for seed in range(200):
        line = float(np.random.default_rng(1000 + seed).uniform(2.0, 6.0))
        told = rise_line(a_day(line, 8, seed), TOP, BOTTOM)
        inside += told.high_m <= line <= told.low_m
    assert wilson(inside, 200)[1] > 0.90 > wilson(inside, 200)[0] - 0.06


def test_more_fish_narrow_it():
    widths = []
    for fish in (2, 8, 40):
        told = [rise_line(a_day(4.0, fish, seed), TOP, BOTTOM) for seed in range(20)]
        widths.append(np.mean([one.low_m - one.high_m for one in told]))
    assert widths[0] > widths[1] > widths[2]


def test_the_line_lies_at_or_above_the_highest_turn():
    came = [FishHeight(5.0, True), FishHeight(6.2, True), FishHeight(4.4, True)]
    told = rise_line(came, TOP, BOTTOM)
    assert told.high_m < told.depth_m < 4.4 + 2.0 * READ_SD_M
    assert (told.fish, told.turned) == (3, 3)


def test_a_fish_that_came_up_and_took_says_only_that_the_line_is_no_deeper():
    took = rise_line([FishHeight(3.0, False)], TOP, BOTTOM)
    assert took.low_m < 3.0 + 2.0 * READ_SD_M and took.turned == 0
    # It can be anywhere above: the middle of what is left.
    assert took.depth_m == pytest.approx((TOP + 3.0) / 2.0, abs=0.15)
    turned = rise_line([FishHeight(3.0, True)], TOP, BOTTOM)
    assert turned.depth_m > took.depth_m


# --- strike sheet -------------------------------------------------------------------------------------------------


def did(*kinds: str, trying: str = "hold", every_s: float = 60.0, since_s: float = 30.0) -> list[Happened]:
    """What happened, oldest first, the newest `since_s` ago."""
    last = len(kinds) - 1
    return [Happened(since_s + (last - k) * every_s, kind, trying) for k, kind in enumerate(kinds)]


@pytest.mark.parametrize("species", list(LADDERS))
def test_every_ladder_is_of_known_things_ends_with_moving_on_and_is_begun_at_its_foot(species):
    ladder = LADDERS[species]
    assert set(ladder) <= set(TRIES) and ladder[-1] == "move" and len(set(ladder)) == len(ladder)
    told = suggest([], species, 0.0)
    assert told.trying == ladder[0] and told.do == TRIES[ladder[0]] and told.evidence == ()


@pytest.mark.parametrize("species", list(LADDERS))
def test_with_nothing_but_looks_the_whole_ladder_is_climbed_in_order_and_then_one_moves(species):
    happened: list[Happened] = []
    tried = []
    for _ in range(60):
        told = suggest(happened, species, 300.0)
        if told.trying == "move":
            break
        if told.trying not in tried:
            tried.append(told.trying)
        happened = [Happened(one.ago_s + 60.0, one.kind, one.trying) for one in happened]
        happened.append(Happened(1.0, "look", told.trying))
    assert tried == list(LADDERS[species][:-1])
    assert told.trying == "move" and "whole ladder" in str(told.why.text)


def test_a_thing_is_given_three_looks_before_it_is_changed():
    for looks in range(1, ENOUGH):
        told = suggest(did(*["look"] * looks), "bait", 300.0)
        assert told.trying == "hold" and "more before you change" in told.why.text
    assert suggest(did(*["look"] * ENOUGH), "bait", 300.0).trying == "smaller"


def test_what_has_just_caught_is_done_again():
    told = suggest(did("look", "look", "fish"), "char", 300.0)
    assert told.trying == "hold" and "just caught one" in told.why.text


def test_what_works_is_stayed_with_until_it_has_gone_stale():
    working = did("follow", "look", "bite", "look")
    assert suggest(working, "char", 300.0).trying == "hold"
    stale = did("follow", "bite", "look", "look", "look")
    told = suggest(stale, "char", 300.0)
    assert told.trying != "hold" and "in a row looked" in told.why.text


def test_gone_stale_one_goes_back_to_what_did_more():
    better = did("bite", "bite", "bite", trying="slow lift", since_s=900.0)
    stale = did("look", "look", "look", trying="lift and wait")
    told = suggest(better + stale, "grayling", 300.0)
    assert told.trying == "slow lift" and told.why.values["more"].value == 3


def test_when_all_has_been_tried_what_caught_a_fish_is_tried_again():
    happened = []
    for k, name in enumerate(LADDERS["bait"][:-1]):
        happened += did("look", "look", "look", trying=name, since_s=2000.0 - 500.0 * k)
    happened.append(Happened(5000.0, "fish", "hold"))
    told = suggest(happened, "bait", 300.0)
    assert told.trying == "hold" and "caught" in told.why.text


def test_a_quiet_hole_is_left_after_its_time_and_not_before():
    quiet = did("look", since_s=QUIET_S + 1.0)
    assert suggest(quiet, "char", 2.0 * QUIET_S).trying == "move"
    # Just come back to it, the clock begins anew.
    assert suggest(quiet, "char", 60.0).trying != "move"
    assert suggest([], "char", QUIET_S).trying == "move"
    assert suggest([], "char", QUIET_S - 1.0).trying != "move"


def test_yesterday_says_nothing_of_today():
    old = did("bite", "bite", "bite", since_s=strike_sheet.FRESH_S + 10.0)
    told = suggest(old, "char", 0.0)
    assert told.evidence == () and told.trying == LADDERS["char"][0]


def test_evidence_counts_looks_what_did_more_and_takes_with_the_interval_of_wilson():
    """Wilson 1927, as in `intervals`, whose own test has its published table."""
    told = evidence_of(did("fish", "miss", "bite", "follow", "look", "nothing"), "char")
    (hold,) = told
    assert (hold.looks, hold.more, hold.takes) == (5, 4, 3)
    assert (hold.low, hold.high) == wilson(4, 5)


def test_one_fish_touched_in_as_it_goes_is_one_fish_with_its_furthest_stage():
    """Look, follow, bite and miss of one fish once counted as four, three of them good."""
    assert furthest(did("look", "follow", "bite", "miss")) == ["miss"]
    (hold,) = evidence_of(did("look", "follow", "bite", "miss"), "char")
    assert (hold.looks, hold.more, hold.takes) == (1, 1, 1)
    assert furthest(did("look", "follow", "look", "look", "bite")) == ["follow", "look", "bite"]
    late = [Happened(1000.0, "look", "hold"), Happened(1000.0 - ONE_FISH_S - 1.0, "bite", "hold")]
    assert furthest(late) == ["look", "bite"], "too late to be the same"


def test_what_is_off_the_ladder_counts_too_and_stands_last():
    told = evidence_of(did("look", trying="pound") + did("look", trying="hold"), "bait")
    assert [one.trying for one in told] == ["hold", "pound"]


@pytest.mark.parametrize(
    ("field", "value"), [("kind", "sneeze"), ("trying", "dynamite"), ("ago_s", -1.0), ("depth_m", 99.0)]
)
def test_what_cannot_have_happened_is_refused(field, value):
    given = {"ago_s": 1.0, "kind": "look", "trying": "hold", "depth_m": 3.0, field: value}
    with pytest.raises(InputError, match=field):
        Happened(**given)


def test_a_species_without_a_ladder_is_refused():
    with pytest.raises(InputError, match="species"):
        suggest([], "whale", 0.0)
