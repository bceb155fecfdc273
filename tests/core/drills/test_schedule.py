"""The practice schedule and the figures of progress."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import binomtest

from hollow_glint.core import intervals
from hollow_glint.core.checks import InputError
from hollow_glint.core.drills import schedule
from hollow_glint.core.drills.catalogue import KINDS
from hollow_glint.core.drills.rounds import Round, RoundPart
from hollow_glint.core.drills.schedule import Answered, Skill

NOW = datetime(2026, 1, 10, 8, 0, tzinfo=UTC)


def due_in(skill: Skill, now: datetime = NOW) -> float:
    return (datetime.fromisoformat(skill.due_at) - now).total_seconds()


@given(st.integers(0, 60), st.integers(1, 60))
def test_the_interval_is_wilsons(right, of):
    """Against scipy's, an independent implementation (Wilson 1927)."""
    right = min(right, of)
    ours = intervals.wilson(right, of)
    theirs = binomtest(right, of).proportion_ci(method="wilson")
    assert ours == pytest.approx((theirs.low, theirs.high), abs=1e-3)


def test_nothing_is_known_of_nothing():
    assert intervals.wilson(0, 0) == (0.0, 1.0)
    assert schedule.skill_progress([]) == []


def test_a_wrong_answer_comes_back_sooner_than_a_right_one():
    right = schedule.answered(Skill("touching"), True, 8.0, NOW)
    wrong = schedule.answered(Skill("touching"), False, 8.0, NOW)
    quick = schedule.answered(Skill("touching"), True, 2.0, NOW)
    assert due_in(wrong) < due_in(right) < due_in(quick)


def test_intervals_grow_with_right_answers():
    skill, now, waits = Skill("touching"), NOW, []
    for _ in range(6):
        skill = schedule.answered(skill, True, 8.0, now)
        waits.append(due_in(skill, now))
        now = datetime.fromisoformat(skill.due_at) + timedelta(minutes=1)
    assert waits[-1] > 5 * 86_400 and waits == sorted(waits)


def test_three_right_raise_the_level_and_a_wrong_one_lowers_it():
    skill = Skill("touching")
    for _ in range(3):
        skill = schedule.answered(skill, True, 8.0, NOW)
    assert (skill.level, skill.streak) == (2, 0)
    assert schedule.answered(skill, False, 8.0, NOW).level == 1
    for _ in range(9):
        skill = schedule.answered(skill, True, 8.0, NOW)
    assert skill.level == 3


def test_what_the_scheduler_remembers_is_its_own_json():
    skill = schedule.answered(Skill("touching"), True, 8.0, NOW)
    assert json.loads(skill.card)["last_review"].startswith("2026-01-10")


def test_todays_round_takes_what_is_due_then_what_is_new():
    due = Skill("touching", 2, 0, "2026-01-09T00:00:00Z", "")
    older = Skill("fish or not", 1, 0, "2026-01-01T00:00:00Z", "")
    later = Skill("predict", 1, 0, "2026-02-01T00:00:00Z", "")
    wanted = schedule.todays_round([due, later, older], NOW)
    assert wanted[:2] == [("fish or not", 1), ("touching", 2)]
    assert len(wanted) == schedule.ROUND_LENGTH
    assert "predict" not in [kind for kind, _ in wanted]
    everything_later = [Skill(kind, 1, 0, "2026-02-01T00:00:00Z", "") for kind in KINDS]
    assert len(schedule.todays_round(everything_later, NOW)) == schedule.ROUND_LENGTH


def test_progress_counts_and_says_how_sure():
    answers = [Answered("touching", 1, n, n < 3, 4.0 + n, "2026-01-01T00:00:00Z") for n in range(4)]
    (one,) = schedule.skill_progress(answers)
    assert (one.answers, one.right, one.share, one.median_s) == (4, 3, 0.75, 6.0)
    assert one.low < 0.75 < one.high < 1.0


def test_a_round_draws_as_many_as_it_says_and_anew_each_time():
    wanted = Round("Clients", (RoundPart("touching", 1, 3), RoundPart("predict", 2, 2)))
    first, second = wanted.drills(1), wanted.drills(2)
    assert [kind for kind, _, _ in first] == ["touching"] * 3 + ["predict"] * 2
    assert len({seed for _, _, seed in first}) == 5
    assert first != second


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: RoundPart("nothing", 1, 1), "parts.kind"),
        (lambda: RoundPart("touching", 0, 1), "parts.level is 0"),
        (lambda: RoundPart("touching", 1, 21), "parts.count"),
        (lambda: Round("", (RoundPart("touching", 1, 1),)), "name has 0"),
        (lambda: Round("x", ()), "parts has 0 entries"),
        (lambda: Round("x", (RoundPart("touching", 1, 20),) * 4), "ask for 80 drills"),
        (lambda: schedule.answered(Skill("touching"), True, -1.0, NOW), "seconds"),
    ],
)
def test_what_cannot_be_is_refused(make, words):
    with pytest.raises(InputError, match=words):
        make()
