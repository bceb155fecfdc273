"""The round file: one JSON object, a round of drills to give to others. See docs/round-file.md."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from ..core.drills.rounds import Round
from ..core.fields import from_fields
from . import json_file
from .fields import RoundFields

MARK = "hollow_glint_round"
VERSION = 1


def _round(given: dict[str, Any]) -> Round:
    return from_fields(Round, given, "the round")


def write(wanted: Round) -> str:
    """The file's text."""
    return json_file.write(MARK, VERSION, asdict(wanted))


def read(text: str) -> Round:
    """The round that a file's text holds, or ValueError with the line and field at fault."""
    return json_file.read(text, MARK, VERSION, "a round file", RoundFields, _round)
