"""The scene file: one JSON object that holds a scene, the unit as it was set, the lure and a seed.

Documented in docs/scene-file.md. It says of itself what it is, so that no other JSON is taken for one, and a bad file
is refused with the line and the field at fault.
"""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace
from typing import Any

from ..core import fields
from ..core.gear.lures import Lure
from ..core.gear.settings import Settings
from ..core.gear.unit import UnitProfile
from ..core.hole.scene import Scene
from . import json_file
from .fields import SavedSceneFields

MARK = "hollow_glint_scene"
VERSION = 1


@dataclass(frozen=True)
class SavedScene:
    """A scene as it is kept: what is true, the unit and how it is set, the lure and its depth [m], and the seed."""

    name: str
    note: str
    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure
    lure_depth_m: float
    seed: int


def to_fields(saved: SavedScene) -> dict[str, Any]:
    """Plain fields, as `fields.SavedSceneFields` has them."""
    return asdict(saved)


def from_fields(given: dict[str, Any]) -> SavedScene:
    """The saved scene of plain fields. Raises ValueError naming what is wrong."""
    saved = fields.from_fields(SavedScene, given, "the scene file")
    return replace(saved, settings=saved.settings.checked(saved.unit))


def write(saved: SavedScene) -> str:
    """The file's text."""
    return json_file.write(MARK, VERSION, to_fields(saved))


def read(text: str) -> SavedScene:
    """The scene that a file's text holds, or ValueError with the line and field at fault."""
    return json_file.read(text, MARK, VERSION, "a scene file", SavedSceneFields, from_fields)
