"""The scene file: one JSON object that holds a scene, the unit as it was set, the lure and a seed.

Documented in docs/scene-file.md. It says of itself what it is, so that no other JSON is taken for one, and a bad file
is refused with the line and the field at fault.
"""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass
from typing import Any

from json_source_map import calculate
from json_source_map.errors import InvalidInputError
from pydantic import ValidationError

from ..core import scene as scenes
from ..core import unit as units
from ..core.checks import InputError
from ..core.lures import Lure
from ..core.scene import Scene
from ..core.unit import Settings, UnitProfile
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
    unit = units.from_dict(given["unit"])
    return SavedScene(
        name=given["name"],
        note=given.get("note", ""),
        scene=scenes.from_dict(given["scene"]),
        unit=unit,
        settings=Settings(**given["settings"]).checked(unit),
        lure=Lure(**given["lure"]),
        lure_depth_m=given["lure_depth_m"],
        seed=given["seed"],
    )


def write(saved: SavedScene) -> str:
    """The file's text."""
    return json.dumps({MARK: VERSION, **to_fields(saved)}, indent=2, ensure_ascii=False) + "\n"


def read(text: str) -> SavedScene:
    """The scene that a file's text holds, or ValueError with the line and field at fault."""
    try:
        document = json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as wrong:
        raise InputError(f"line {wrong.lineno}: the file is not JSON there ({wrong.msg}).") from None
    except (RecursionError, ValueError) as wrong:
        raise InputError(f"line 1: the file cannot be read ({wrong}).") from None
    if not isinstance(document, dict) or MARK not in document:
        raise InputError(f'line 1: this is not a scene file: it has no field "{MARK}"')
    version = document.pop(MARK)
    if version != VERSION:
        raise InputError(
            f"line {_Lines(text).of((MARK,))}: {MARK} is {version!r}: this program reads version {VERSION}"
        )
    try:
        given = SavedSceneFields.model_validate(document).model_dump()
    except ValidationError as wrong:
        lines = _Lines(text)
        said = [f"line {lines.of(one['loc'])}: {_field(one['loc'])} {_words(one)}" for one in wrong.errors()]
        raise InputError("; ".join(said)) from None
    try:
        return from_fields(given)
    except InputError as wrong:
        lines = _Lines(text)
        # The core's sentences begin with the field they are about.
        said = [f"line {lines.find(part.split(' ', 1)[0])}: {part}" for part in str(wrong).split("; ")]
        raise InputError("; ".join(said)) from None


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is not a JSON number")


def _field(loc: tuple[int | str, ...]) -> str:
    return ".".join(str(part) for part in loc)


def _words(error: Any) -> str:
    shown = json.dumps(error["input"], ensure_ascii=False, default=str)
    value = "is missing" if error["type"] == "missing" else f"is {shown if len(shown) <= 60 else shown[:57] + '...'}"
    said = error["msg"][0].lower() + error["msg"][1:]
    return f"{value}: {said.replace('input should be', 'it must be')}"


class _Lines:
    """On which line of the text each field stands, counted from 1."""

    def __init__(self, text: str) -> None:
        try:
            self._entries = calculate(text)
        except (InvalidInputError, RecursionError):  # pragma: no cover (json has read the same text just before)
            self._entries = {}

    def of(self, loc: tuple[int | str, ...]) -> int:
        """The line of the field at `loc`, or of the nearest thing round it that is there."""
        parts = [str(part).replace("~", "~0").replace("/", "~1") for part in loc]
        for length in range(len(parts), -1, -1):
            entry = self._entries.get("/" + "/".join(parts[:length]) if length else "")
            if entry is not None:
                return int((entry.key_start or entry.value_start).line) + 1
        return 1

    def find(self, name: str) -> int:
        """The line of the first field that ends in `name`, dots for depth; 1 if there is none."""
        wanted = name.split(".")
        for pointer, entry in self._entries.items():
            parts = [part for part in pointer.split("/") if not part.isdigit()]
            if parts[-len(wanted) :] == wanted:
                return int((entry.key_start or entry.value_start).line) + 1
        return 1
