"""What each field of a dataclass may be, said once, where the field stands: its span, its names, its length, its words.

    depth_m: Annotated[float, Span(0.1, 60.0, "m"), doc("Below the water's surface")]

`check_fields` holds an instance against that, and `from_fields` makes one from plain dicts and lists. Whoever needs the
spans elsewhere (the contract with the page, files) reads them off the same annotations.
"""

from __future__ import annotations

import dataclasses
import re
import types
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import cache
from typing import Annotated, Any, Literal, TypeVar, Union, get_args, get_origin, get_type_hints

from annotated_types import GroupedMetadata, Interval, Len, doc

from .checks import InputError, number, one_of

__all__ = ["Len", "OneOf", "Pattern", "Span", "Text", "as_kept", "check_fields", "doc", "from_fields", "hints_of"]

Made = TypeVar("Made")


@dataclasses.dataclass(frozen=True)
class Span(GroupedMetadata):
    """A number from `low` to `high`, both included, in `unit`."""

    low: float
    high: float
    unit: str = ""

    def __iter__(self) -> Iterator[object]:
        # As the annotated-types standard has it, for readers that do not know of units.
        return iter((Interval(ge=self.low, le=self.high),))


@dataclasses.dataclass(frozen=True, eq=False)
class OneOf:
    """A name out of a table or a list, as that stands when it is asked.

    `said` gives words for names that do not speak for themselves; a table whose entries are words, or have `words`, has
    them already.
    """

    table: Mapping[str, object] | Sequence[str]
    said: Mapping[str, str] = dataclasses.field(default_factory=dict)

    @property
    def words(self) -> dict[str, str]:
        """What to call each name on a page."""
        entries = self.table if isinstance(self.table, Mapping) else dict.fromkeys(self.table)
        return {name: self.said.get(name, _words_of(entry) or name) for name, entry in entries.items()}

    @property
    def names(self) -> tuple[str, ...]:
        """The names there are."""
        return tuple(self.table)

    def check(self, name: str, value: object) -> None:
        """Raise ValueError for what is no such name."""
        if not isinstance(value, str):
            raise InputError(f"{name} is {value!r}: accepted are {', '.join(self.names)}")
        one_of(name, value, self.names)


def _words_of(entry: object) -> str:
    return entry if isinstance(entry, str) else str(getattr(entry, "words", ""))


@dataclasses.dataclass(frozen=True)
class Text:
    """Words of `least` to `most` characters that can be shown; `lines` whether it may run over several lines."""

    least: int
    most: int
    lines: bool = False

    def check(self, name: str, value: object) -> None:
        """Raise ValueError for what is no such text."""
        if not isinstance(value, str):
            raise InputError(f"{name} is {value!r}: text is accepted")
        if not self.least <= len(value.strip()) <= self.most:
            raise InputError(f"{name} has {len(value.strip())} characters: accepted are {self.least} to {self.most}")
        for letter in value:
            if (ord(letter) < 32 and not (self.lines and letter in "\n\t\r")) or 0xD800 <= ord(letter) < 0xE000:
                raise InputError(f"{name} holds a character that cannot be shown ({letter!a}): plain text is accepted")


@dataclasses.dataclass(frozen=True)
class Pattern:
    """Text that a regular expression matches; `words` say what that is."""

    pattern: str
    words: str

    def check(self, name: str, value: object) -> None:
        """Raise ValueError for what is no such text."""
        if not isinstance(value, str) or re.fullmatch(self.pattern, value) is None:
            raise InputError(f"{name} is {value!r}: accepted is {self.words}")


def hints_of(kind: Any) -> dict[str, Any]:
    """The annotations of a dataclass by field, with what they say beside the type."""
    return _hints(kind)


@cache
def _hints(kind: Any) -> dict[str, Any]:
    hints = get_type_hints(kind, include_extras=True)
    return {one.name: hints[one.name] for one in dataclasses.fields(kind)}


Check = Callable[[str, Any], None]


def unwrapped(hint: Any) -> tuple[Any, tuple[Any, ...], bool]:
    """The bare type of an annotation, what is said beside it, and whether it may be None."""
    said: list[Any] = []
    optional = False
    while True:
        if get_origin(hint) is Annotated:
            hint, *more = get_args(hint)
            said += more
        elif get_origin(hint) in (Union, types.UnionType) and type(None) in get_args(hint):
            rest = [one for one in get_args(hint) if one is not type(None)]
            if len(rest) != 1:
                return hint, tuple(said), True
            hint, optional = rest[0], True
        else:
            return hint, tuple(said), optional


def _check_of(hint: Any) -> Check | None:
    """What an annotation asks of a value; None where it asks nothing that can be checked here."""
    bare, said, optional = unwrapped(hint)
    checks: list[Check] = []
    for one in said:
        if isinstance(one, Span):
            checks.append(_number_check(one, bare is int))
        elif isinstance(one, (OneOf, Text, Pattern)):
            checks.append(one.check)
        elif isinstance(one, Len):
            checks.append(_length_check(one))
    if get_origin(bare) is Literal:
        checks.append(OneOf(get_args(bare)).check)
    if get_origin(bare) is tuple and get_args(bare)[1:] == (...,):
        each = _check_of(get_args(bare)[0])
        if each is not None:
            checks.append(_each_check(each))
    if not checks:
        return None

    def check(name: str, value: Any) -> None:
        if value is None and optional:
            return
        for part in checks:
            part(name, value)

    return check


def _number_check(span: Span, whole: bool) -> Check:
    def check(name: str, value: Any) -> None:
        found = number(name, value, span.low, span.high, span.unit)
        if whole and found != round(found):
            raise InputError(f"{name} is {found:g}: a whole number from {span.low:g} to {span.high:g} is accepted")

    return check


def _each_check(of: Check) -> Check:
    def check(name: str, value: Any) -> None:
        for part in value:
            of(name, part)

    return check


def _length_check(length: Len) -> Check:
    def check(name: str, value: Any) -> None:
        least, most = length.min_length, length.max_length
        if len(value) < least or (most is not None and len(value) > most):
            accepted = f"{least} to {most}" if least else f"up to {most}"
            raise InputError(f"{name} has {len(value)} entries: accepted are {accepted}")

    return check


@cache
def _plan(kind: Any) -> tuple[tuple[str, Check], ...]:
    found = ((name, _check_of(hint)) for name, hint in hints_of(kind).items())
    return tuple((name, check) for name, check in found if check is not None)


def problems_of(one: Any, inside: str = "") -> list[str]:
    """What is wrong with the fields of a dataclass instance, a sentence each; `inside` goes before their names."""
    found = []
    kind: Any = type(one)
    for name, check in _plan(kind):
        try:
            check(f"{inside}.{name}" if inside else name, getattr(one, name))
        except InputError as wrong:
            found.append(str(wrong))
    return found


def check_fields(one: Any, inside: str = "") -> None:
    """Raise ValueError naming, all together, the fields of a dataclass instance that are not what they may be."""
    found = problems_of(one, inside)
    if found:
        raise InputError("; ".join(found))


def from_fields(kind: type[Made], given: Mapping[str, Any], called: str) -> Made:
    """The dataclass `kind` from plain fields (as `asdict` and JSON have them), nested ones too.

    `called` is what to call it in words. Raises ValueError naming a field that is missing, not known or wrong.
    """
    hints = hints_of(kind)
    unknown = [name for name in given if name not in hints]
    if unknown:
        raise InputError(f"{unknown[0]} is not a field of {called}")
    needed = [
        one.name
        for one in dataclasses.fields(kind)  # type: ignore[arg-type]
        if one.default is dataclasses.MISSING and one.default_factory is dataclasses.MISSING and one.name not in given
    ]
    if needed:
        raise InputError(f"{needed[0]} is missing: {called} has one")
    made = {name: _made(hints[name], value, name) for name, value in given.items()}
    try:
        return kind(**made)
    except TypeError as wrong:
        raise InputError(f"{called} has a field of the wrong kind: {wrong}") from None


def as_kept(kind: type[Made], values: Mapping[str, Any]) -> Made:
    """The dataclass `kind` with just these values, not checked again: for what was checked when it was kept, by the ten
    thousand."""
    made = object.__new__(kind)
    made.__dict__.update(values)
    return made


def _made(hint: Any, value: Any, name: str) -> Any:
    bare, _, optional = unwrapped(hint)
    if value is None and optional:
        return None
    if dataclasses.is_dataclass(bare) and isinstance(bare, type):
        if isinstance(value, bare):
            return value
        if not isinstance(value, Mapping):
            raise InputError(f"{name} is {str(value)[:40]!r}: an object with named fields is accepted")
        return from_fields(bare, value, name)
    if get_origin(bare) is tuple and get_args(bare)[1:] == (...,):
        if not isinstance(value, (list, tuple)):
            raise InputError(f"{name} is {str(value)[:40]!r}: a list is accepted")
        return tuple(_made(get_args(bare)[0], one, name) for one in value)
    return value
