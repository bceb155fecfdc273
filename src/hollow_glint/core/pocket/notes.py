"""Notes from a phone: what was touched in on the ice, put into stays at holes, and what its clock got wrong.

A phone has no other clock than its own. What can be seen of it later is said, and nothing is put right unasked: notes
that are older than the sheet they were made on, that run backwards, or that come from hours yet to come.
"""

from __future__ import annotations

import datetime
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Literal, get_args

from ..card.ice_guidance import ICE_KINDS
from ..checks import InputError
from ..fields import Len, OneOf, Pattern, Span, Text, check_fields, doc
from ..ground.soundings import FAR_M
from ..hole.contents import DEEPEST_M
from ..log.outing import Happening, Time, moment
from ..wording import Quantity, Sentence

NoteKind = Literal["lines in", "lines out", "happening", "sounding", "ice", "photo"]
NOTE_KINDS: tuple[NoteKind, ...] = get_args(NoteKind)
SLACK_MIN = 2.0  # clocks differ by so much without anybody minding
AWAY_H = 2.0  # after so long without a note a hole was left. Common practice, as in the log
MOST_NOTES = 20_000
MOST_PHOTOS = 30
MOST_PHOTO_LETTERS = 2 * 2**20  # of one photo's bytes in base64
MOST_SHIFT_MIN = 1e6  # a clock that stood still for a year and more
BASE64 = re.compile(r"[A-Za-z0-9+/]+={0,2}")
Word = Annotated[str, Pattern(r"[0-9a-f]{8,64}", "8 to 64 hexadecimal digits")]


@dataclass(frozen=True)
class Spot:
    """Where a note was made: a hole of one's own by its number here, or a place of the day, or one drilled there and
    then; its place on the lake [m] as far as that is known."""

    name: Annotated[str, Text(1, 80)]
    hole_id: Annotated[int | None, Span(1, 2**53)] = None
    lake_id: Annotated[int | None, Span(1, 2**53)] = None
    water: Annotated[str, Text(0, 80)] = ""
    east_m: Annotated[float | None, Span(-FAR_M, FAR_M, "m")] = None
    north_m: Annotated[float | None, Span(-FAR_M, FAR_M, "m")] = None
    depth_m: Annotated[float | None, Span(0.1, DEEPEST_M, "m"), doc("Of the bottom")] = None

    def __post_init__(self) -> None:
        check_fields(self, "spot")


@dataclass(frozen=True)
class IceNoted:
    """Ice as it was measured at a spot."""

    thickness_m: Annotated[float, Span(0.0, 3.0, "m")]
    kind: Annotated[str, OneOf(ICE_KINDS)] = "layered"

    def __post_init__(self) -> None:
        check_fields(self, "ice")


@dataclass(frozen=True)
class PocketNote:
    """One touch. `id` is its own for ever, `turn` counts what was touched in on that phone, `sheet` names the sheet it
    was made on; `back` whether it was taken back there. What it says stands in the field of its kind.

    Raises ValueError naming every field that is out of its span, or is missing for its kind.
    """

    id: Word
    turn: Annotated[int, Span(0, 10_000_000)]
    sheet: Word
    at: Time
    kind: NoteKind
    spot: Spot
    back: bool = False
    unit: Annotated[str, Text(0, 80)] = ""
    lure: Annotated[str, Text(0, 80)] = ""
    happening: Happening | None = None
    depth_m: Annotated[float | None, Span(0.1, DEEPEST_M, "m"), doc("Of a sounding")] = None
    ice: IceNoted | None = None

    def __post_init__(self) -> None:
        check_fields(self, "notes")
        moment("at", self.at)
        needs = {"happening": self.happening, "sounding": self.depth_m, "ice": self.ice}
        if self.kind in needs and needs[self.kind] is None:
            name = "depth_m" if self.kind == "sounding" else self.kind
            raise InputError(f"{name} is missing: a note of kind {self.kind!r} has it")

    @property
    def when(self) -> datetime.datetime:
        """The moment, by the phone's clock."""
        return moment("at", self.at)


@dataclass(frozen=True)
class PhoneNotes:
    """All notes of a phone, when they were saved by its clock, and when each sheet was made by ours; and by the note's
    id the photos of a unit's screen that were taken there, as base64. Those are nobody's here until they are read."""

    phone: Word
    saved_at: Time
    notes: Annotated[tuple[PocketNote, ...], Len(0, MOST_NOTES)]
    sheets: Mapping[str, str]
    photos: Mapping[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        check_fields(self)
        moment("saved_at", self.saved_at)
        for made_at in self.sheets.values():
            moment("sheets", made_at)
        if len({one.id for one in self.notes}) != len(self.notes):
            raise InputError("notes have the same id twice: accepted is each once")
        if len(self.photos) > MOST_PHOTOS:
            raise InputError(f"photos has {len(self.photos)} entries: up to {MOST_PHOTOS} are accepted")
        of = {one.id for one in self.notes if one.kind == "photo"}
        for name, letters in self.photos.items():
            if name not in of:
                raise InputError(f"photos has {name[:20]!r}: the id of a note of kind 'photo' is accepted")
            if len(letters) > MOST_PHOTO_LETTERS or not BASE64.fullmatch(letters):
                raise InputError(f"photos has under {name[:20]!r} what is no photo: base64 of up to 1.5 MB is accepted")

    @property
    def photographed(self) -> tuple[PocketNote, ...]:
        """The notes whose photo came with them, the oldest first; none of those that were taken back."""
        mine = (one for one in self.notes if one.id in self.photos and not one.back)
        return tuple(sorted(mine, key=lambda one: one.when))

    def shifted(self, by_min: float) -> PhoneNotes:
        """With every time later by so many minutes (earlier below 0). Raises ValueError for a time off the calendar."""
        by = datetime.timedelta(minutes=by_min)

        def late(text: str) -> str:
            try:
                return (moment("at", text) + by).strftime("%Y-%m-%dT%H:%M:%SZ")
            except OverflowError:
                raise InputError(f"shift_min is {by_min:g}: that leads off the calendar") from None

        notes = tuple(
            replace(
                one, at=late(one.at),
                happening=None if one.happening is None else replace(one.happening, at=late(one.happening.at)),
            )
            for one in self.notes
        )  # fmt: skip
        return replace(self, saved_at=late(self.saved_at), notes=notes)


@dataclass(frozen=True)
class Visit:
    """Notes of one phone at one hole, one after the other, as one stay: oldest first."""

    notes: tuple[PocketNote, ...]

    @property
    def spot(self) -> Spot:
        """Where, with the depth that was said last: it is known later than the place."""
        known = [one.spot.depth_m for one in self.notes if one.spot.depth_m is not None]
        return replace(self.notes[-1].spot, depth_m=known[-1] if known else None)

    @property
    def began_at(self) -> str:
        """The first note."""
        return self.notes[0].at

    @property
    def last_at(self) -> str:
        """The last note."""
        return self.notes[-1].at

    @property
    def ended_at(self) -> str | None:
        """When the line came out; None where nobody said so, and the log has to take it as it does of every stay."""
        return self.notes[-1].at if self.notes[-1].kind == "lines out" else None

    @property
    def gear(self) -> tuple[str, str]:
        """Unit and lure as they were said last."""
        units = [one.unit for one in self.notes if one.unit]
        lures = [one.lure for one in self.notes if one.lure]
        return (units[-1] if units else ""), (lures[-1] if lures else "")


def visits(notes: Sequence[PocketNote]) -> list[Visit]:
    """What was noted of lines in the water, cut into stays: at another hole, after lines out or in, and after AWAY_H
    without a note another one begins. Notes that were taken back are not there."""
    mine: list[list[PocketNote]] = []
    for one in sorted((one for one in notes if not one.back), key=lambda one: (one.when, one.turn)):
        if one.kind not in ("lines in", "lines out", "happening"):
            continue
        last = mine[-1][-1] if mine else None
        if (
            last is None
            or key_of(last.spot) != key_of(one.spot)
            or last.kind == "lines out"
            or one.kind == "lines in"
            or (one.when - last.when) > datetime.timedelta(hours=AWAY_H)
        ):
            mine.append([])
        mine[-1].append(one)
    return [Visit(tuple(one)) for one in mine]


def key_of(spot: Spot) -> tuple[object, ...]:
    """What tells spots apart."""
    return ("hole", spot.hole_id) if spot.hole_id is not None else (spot.water.lower(), spot.name)


def clock_words(given: PhoneNotes, now: datetime.datetime) -> tuple[Sentence, ...]:
    """What can be seen of the phone's clock, beside ours at `now` and when its sheets were made; nothing where nothing
    speaks against it."""
    said = []
    saved = moment("saved_at", given.saved_at)
    ahead = max([saved, *(one.when for one in given.notes)]) - now
    if ahead > datetime.timedelta(minutes=SLACK_MIN):
        text = "This phone's clock is ahead of this computer's by {by} at least: its last time is still to come here."
        said.append(_said(text, ahead))
    behind = max(
        (
            moment("sheets", given.sheets[one.sheet]) - one.when
            for one in given.notes
            if one.sheet in given.sheets
        ),
        default=datetime.timedelta(0),
    )  # fmt: skip
    if behind > datetime.timedelta(minutes=SLACK_MIN):
        text = "This phone's clock was behind this computer's by {by} at least: it has notes older than their sheet."
        said.append(_said(text, behind))
    ordered = sorted(given.notes, key=lambda one: one.turn)
    steps = [(one.when - then.when, then) for one, then in zip(ordered, ordered[1:], strict=False)]
    back = max(steps, key=lambda step: step[0], default=None)
    if back is not None and back[0] > datetime.timedelta(minutes=SLACK_MIN):
        text = "This phone's clock was put back by {by} while notes were made: their order stands, their times do not."
        said.append(_said(text, back[0]))
    return tuple(said)


def _said(text: str, by: datetime.timedelta) -> Sentence:
    minutes = by.total_seconds() / 60.0
    quantity = Quantity(minutes, "min") if minutes < 120.0 else Quantity(minutes / 60.0, "h")
    return Sentence(text, {"by": quantity})
