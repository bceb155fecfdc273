"""Notes from a phone: stays out of touches, and what can be seen of its clock."""

from __future__ import annotations

import base64
from datetime import UTC, datetime, timedelta

import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.log.outing import Happening
from hollow_glint.core.pocket.notes import PhoneNotes, PocketNote, Spot, clock_words, visits

A, B = Spot("A", water="Lake"), Spot("B", water="Lake")
BEGAN = datetime(2026, 2, 5, 9, 0, tzinfo=UTC)
SHEET = "ab" * 8


def at(minutes: float) -> str:
    return (BEGAN + timedelta(minutes=minutes)).strftime("%Y-%m-%dT%H:%M:%SZ")


def note(turn: int, minutes: float, spot: Spot = A, kind: str = "happening", **more) -> PocketNote:
    happening = Happening(at(minutes), "look") if kind == "happening" else None
    return PocketNote(f"{turn:016x}", turn, SHEET, at(minutes), kind, spot, happening=happening, **more)  # type: ignore[arg-type]


def test_a_stay_ends_at_another_hole_with_the_line_out_and_after_two_hours():
    notes = [
        note(0, 0, kind="lines in"), note(1, 5), note(2, 20, kind="lines out"), note(3, 25),  # in again without saying
        note(4, 30, B), note(5, 35), note(6, 34.5, back=True), note(7, 180), note(8, 200, kind="lines in"),
    ]  # fmt: skip
    found = visits([*reversed(notes)])
    assert [[one.turn for one in each.notes] for each in found] == [[0, 1, 2], [3], [4], [5], [7], [8]]
    assert found[0].ended_at == at(20) and found[0].last_at == at(20) and found[1].ended_at is None
    assert [each.spot.name for each in found] == ["A", "A", "B", "A", "A", "A"]


def test_soundings_and_ice_are_no_lines_in_the_water():
    assert visits([PocketNote("ab" * 8, 0, SHEET, at(0), "sounding", A, depth_m=4.0)]) == []


def test_a_visit_knows_the_gear_and_the_depth_that_were_said_last():
    deeper = Spot("A", water="Lake", depth_m=7.0)
    (one,) = visits(
        [note(0, 0, unit="Ring", lure="Jig"), note(1, 5, deeper, unit="Ring", lure="Spoon"), note(2, 6, deeper)]
    )
    assert one.gear == ("Ring", "Spoon") and one.spot.depth_m == 7.0


def told(notes, saved_min=400.0, made_min=-600.0) -> PhoneNotes:
    return PhoneNotes("cd" * 8, at(saved_min), tuple(notes), {SHEET: at(made_min)})


def test_a_clock_with_nothing_against_it_is_not_spoken_of():
    assert clock_words(told([note(0, 0), note(1, 10)]), BEGAN + timedelta(days=200)) == ()
    assert clock_words(told([note(0, 0), note(1, -1)]), BEGAN + timedelta(days=1)) == (), "a minute is nothing"


@pytest.mark.parametrize(
    ("notes", "now_min", "word", "by"),
    [
        ([note(0, 0)], 370.0, "ahead", (30.0, "min")),
        ([note(0, -700)], 1000.0, "behind", (100.0, "min")),
        ([note(0, 300), note(1, 0)], 1000.0, "put back", (5.0, "h")),
    ],
)
def test_a_clock_that_is_wrong_is_said_by_how_much(notes, now_min, word, by):
    (said,) = clock_words(told(notes), BEGAN + timedelta(minutes=now_min))
    assert word in said.text
    assert (said.values["by"].value, said.values["by"].unit) == (pytest.approx(by[0]), by[1])


def test_all_times_move_together():
    moved = told([note(0, 0)]).shifted(-90.0)
    assert moved.notes[0].at == moved.notes[0].happening.at == at(-90) and moved.saved_at == at(310)
    assert moved.sheets == {SHEET: at(-600)}, "when a sheet was made is by our own clock"
    with pytest.raises(InputError, match="calendar"):
        told([note(0, 0)]).shifted(-1e12)


def test_what_a_note_must_have_is_named():
    with pytest.raises(InputError, match="ice is missing"):
        PocketNote("ab" * 8, 0, SHEET, at(0), "ice", A)
    with pytest.raises(InputError, match="hexadecimal"):
        PocketNote("NO", 0, SHEET, at(0), "lines in", A)
    with pytest.raises(InputError, match="twice"):
        told([note(0, 0), note(0, 1)])


PHOTO = base64.b64encode(b"no more than bytes").decode()


def with_photos(notes, photos) -> PhoneNotes:
    return PhoneNotes("cd" * 8, at(400.0), tuple(notes), {SHEET: at(-600.0)}, photos)


def test_photos_come_with_their_notes_the_oldest_first_and_go_when_taken_back():
    notes = [note(0, 30, kind="photo"), note(1, 10, kind="photo"), note(2, 5, kind="photo", back=True), note(3, 1)]
    given = with_photos(notes, {one.id: PHOTO for one in notes[:3]})
    assert [one.turn for one in given.photographed] == [1, 0]
    assert visits(notes) == visits([notes[3]]), "a photo is no line in the water"
    late = given.shifted(60.0)
    assert [one.at for one in late.photographed] == [at(70), at(90)]


@pytest.mark.parametrize(
    ("photos", "said"),
    [({"ff" * 8: PHOTO}, "the id of a note of kind 'photo'"), ({f"{3:016x}": PHOTO}, "the id of a note of kind"),
     ({f"{0:016x}": "not base64!"}, "no photo"), ({f"{0:016x}": ""}, "no photo"),
     ({f"{0:016x}": "A" * (2 * 2**20 + 4)}, "up to 1.5 MB"), ({f"{k:016x}": PHOTO for k in range(31)}, "up to 30")],
)  # fmt: skip
def test_photos_of_no_note_and_what_is_none_are_refused(photos, said):
    notes = [note(0, 30, kind="photo"), note(3, 1)]
    with pytest.raises(InputError, match="photos") as refused:
        with_photos(notes, photos)
    assert said in str(refused.value)
