"""The gear file: one JSON object that holds units and lures, to keep or to give to a friend. See docs/gear-file.md."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

from ..core import fields
from ..core.gear.lures import Lure
from ..core.gear.unit import UnitProfile
from . import json_file
from .fields import GearFields

MARK = "hollow_glint_gear"
VERSION = 1


@dataclass(frozen=True)
class Gear:
    """Units and lures."""

    units: tuple[UnitProfile, ...] = ()
    lures: tuple[Lure, ...] = ()


def from_fields(given: dict[str, Any]) -> Gear:
    """The gear of plain fields. Raises ValueError naming what is wrong."""
    return fields.from_fields(Gear, given, "the gear file")


def write(gear: Gear) -> str:
    """The file's text."""
    return json_file.write(MARK, VERSION, asdict(gear))


def read(text: str) -> Gear:
    """The gear that a file's text holds, or ValueError with the line and field at fault."""
    return json_file.read(text, MARK, VERSION, "a gear file", GearFields, from_fields)
