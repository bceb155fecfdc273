"""The round file: one JSON object, a round of drills to give to others. See docs/round-file.md."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from ..core.drills.rounds import Round, RoundPart
from . import json_file
from .fields import RoundFields

MARK = "hollow_glint_round"
VERSION = 1


def from_fields(given: dict[str, Any]) -> Round:
    """The round of plain fields. Raises ValueError naming what is wrong."""
    return Round(given["name"], tuple(RoundPart(**one) for one in given["parts"]))


def write(wanted: Round) -> str:
    """The file's text."""
    return json_file.write(MARK, VERSION, asdict(wanted))


def read(text: str) -> Round:
    """The round that a file's text holds, or ValueError with the line and field at fault."""
    return json_file.read(text, MARK, VERSION, "a round file", RoundFields, from_fields)
