"""What our JSON files have in common: each says what it is; a bad one is refused with the line and field at fault."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any, TypeVar

from json_source_map import calculate
from json_source_map.errors import InvalidInputError
from pydantic import BaseModel, ValidationError

from ..core.checks import InputError

Made = TypeVar("Made")


def write(mark: str, version: int, fields: dict[str, Any]) -> str:
    """The text of a file that says of itself that it is a `mark` of this `version`."""
    return json.dumps({mark: version, **fields}, indent=2, ensure_ascii=False) + "\n"


def read(
    text: str,
    mark: str,
    version: int,
    called: str,
    model: type[BaseModel],
    make: Callable[[dict[str, Any]], Made],
) -> Made:
    """What `make` makes of the file's fields once they meet `model`; ValueError with the line and field at fault.

    `mark` is the field that says what the file is, `called` what to call it in words.
    """
    try:
        document = json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as wrong:
        raise InputError(f"line {wrong.lineno}: the file is not JSON there ({wrong.msg}).") from None
    except (RecursionError, ValueError) as wrong:
        raise InputError(f"line 1: the file cannot be read ({wrong}).") from None
    if not isinstance(document, dict) or mark not in document:
        raise InputError(f'line 1: this is not {called}: it has no field "{mark}"')
    told = document.pop(mark)
    if told != version:
        raise InputError(f"line {_Lines(text).of((mark,))}: {mark} is {told!r}: this program reads version {version}")
    try:
        given = model.model_validate(document).model_dump()
    except ValidationError as wrong:
        lines = _Lines(text)
        said = [f"line {lines.of(one['loc'])}: {_field(one['loc'])} {_words(one)}" for one in wrong.errors()]
        raise InputError("; ".join(said)) from None
    try:
        return make(given)
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
