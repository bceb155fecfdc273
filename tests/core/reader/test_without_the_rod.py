"""A picture of which nobody knows what the rod did: read without it, and the lure told by a touch."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from benchmarks.photo_cases import shown_on_screen
from hollow_glint.core.reader.recording import MY_LURE, Note, Recording
from hollow_glint.core.reader.recording_reader import reading_at


@pytest.fixture(scope="module")
def seen() -> Recording:
    """Some seconds of a made-up screen with a lure and a fish in it, and no line."""
    whole = shown_on_screen(70_014)
    return replace(whole, line_in_m=np.zeros_like(whole.line_in_m))


def kinds(recording: Recording) -> dict[float, str]:
    return {round(one.range_m, 1): one.kind for one in reading_at(recording, recording.seconds).marks}


def test_nobody_says_that_a_mark_goes_with_a_rod_that_is_not_known(seen):
    assert not seen.rod_known and not seen.view_at(0).rod_known
    for mark in reading_at(seen, seen.seconds).marks:
        said = " ".join(one.text for one in mark.because)
        assert "rod" not in said and "part of the way" not in said


def test_a_touch_makes_a_mark_the_lure_from_when_it_was_first_followed(seen):
    before = kinds(seen)
    assert sorted(before.values()) == ["fish", "fish", "lure"]
    other = min(at for at, kind in before.items() if kind == "fish")
    touched = Note(seen.seconds, other + seen.face_depth_m, MY_LURE)
    after = kinds(replace(seen, notes=(touched,)))
    assert after[other] == "lure" and list(after.values()).count("lure") == 1


@pytest.mark.parametrize("seed", [70_014, 70_028, 70_039])
def test_a_lure_that_was_lifted_is_followed_though_nobody_knows_the_line(seed):
    """It goes its own way, as any mark does, and keeps its name: it is not held where it hung before."""
    whole = shown_on_screen(seed)
    lifted = replace(whole, line_in_m=np.zeros_like(whole.line_in_m), lure=None)
    at = [one.range_m for one in reading_at(lifted, lifted.seconds).marks if one.kind in ("fish", "lure")]
    assert at
    for range_m in at:
        touched = Note(lifted.seconds, range_m + lifted.face_depth_m, MY_LURE)
        marks = reading_at(replace(lifted, notes=(touched,)), lifted.seconds).marks
        lures = [one.range_m for one in marks if one.kind == "lure" and not one.hidden]
        assert lures == [pytest.approx(range_m, abs=0.15)]


def test_a_touch_where_there_is_nothing_changes_nothing(seen):
    touched = Note(seen.seconds, 1.9 + float(seen.top_m[0]) + seen.face_depth_m, MY_LURE)
    assert kinds(replace(seen, notes=(touched,))) == kinds(seen)


def test_another_note_is_no_touch(seen):
    assert kinds(replace(seen, notes=(Note(seen.seconds, 9.0, "A perch, I think"),))) == kinds(seen)
