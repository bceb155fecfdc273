"""The file in which a phone's notes leave it. Documented in docs/pocket.md."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from ..core import fields
from ..core.log.outing import Happening
from ..core.pocket.notes import MOST_PHOTOS, IceNoted, PhoneNotes, PocketNote, Spot
from . import json_file
from .mirror import Given, mirrors

MARK, VERSION = "hollow_glint_pocket_notes", 1


@mirrors(Spot)
class _SpotFields(Given):
    """Where."""


@mirrors(Happening)
class _HappeningFields(Given):
    """What happened."""


@mirrors(IceNoted)
class _IceFields(Given):
    """Ice."""


@mirrors(PocketNote)
class _NoteFields(Given):
    """A note."""


@mirrors(PhoneNotes, leave_out=("sheets", "photos"))
class _PhoneFields(Given):
    """A phone's notes."""

    sheets: dict[str, str] = Field(max_length=1000)
    photos: dict[str, str] = Field(default={}, max_length=MOST_PHOTOS)


def read(text: str) -> PhoneNotes:
    """What a phone's file holds, or ValueError with the line and field at fault."""

    def made(given: dict[str, Any]) -> PhoneNotes:
        return fields.from_fields(PhoneNotes, given, "the phone's notes")

    return json_file.read(text, MARK, VERSION, "a file of notes from a pocket sheet", _PhoneFields, made)
