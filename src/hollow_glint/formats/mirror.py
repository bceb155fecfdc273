"""Pydantic models that mirror the core's dataclasses: spans, names, lengths, defaults are read off the core's fields.

    @mirrors(Scene)
    class SceneFields(Given): ...

Nothing of a field is said a second time: what the class itself declares comes beside, or instead. What is given to us
is held strictly to its kind (a number is no text); what is read off an address, or goes out, is not.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Callable, Iterable, Mapping, Sequence
from copy import deepcopy
from functools import cache
from typing import Annotated, Any, Literal, TypeVar, get_args, get_origin

from annotated_types import DocInfo
from pydantic import BaseModel, ConfigDict, Field, GetCoreSchemaHandler, StrictBool, StringConstraints, create_model
from pydantic_core import core_schema

from ..core.fields import Len, OneOf, Pattern, Span, Text, hints_of, unwrapped

Model = TypeVar("Model", bound=BaseModel)

# What may stand in JSON for a number: not text, not true or false.
Number = Annotated[float, Field(strict=True, allow_inf_nan=False)]
Whole = Annotated[int, Field(strict=True)]
# What can be shown: no control characters. Text over several lines may hold line ends and tabs besides.
ONE_LINE, LINES = r"^[^\x00-\x1f]*$", r"^[^\x00-\x08\x0b\x0c\x0e-\x1f]*$"

MIRRORS: dict[Any, type[BaseModel]] = {}


class Described(BaseModel):
    """A model that works its JSON schema out once: the OpenAPI document asks for some of them dozens of times.

    What checks a value is built when the first value comes: of two hundred models a start needs few.
    """

    model_config = ConfigDict(defer_build=True)

    @classmethod
    def model_json_schema(cls, *args: Any, **more: Any) -> dict[str, Any]:
        return deepcopy(_schema(cls, args, tuple(more.items())))


def schema_of(model: type[BaseModel]) -> dict[str, Any]:
    """The JSON schema of `model`, to be read and not to be changed: the one that all share."""
    return _schema(model, (), ()) if issubclass(model, Described) else model.model_json_schema()


@cache
def _schema(model: type[Described], args: tuple[Any, ...], more: tuple[tuple[str, Any], ...]) -> dict[str, Any]:
    return super(Described, model).model_json_schema(*args, **dict(more))


class Given(Described):
    """What is sent to us: fields we do not know are refused rather than dropped."""

    model_config = ConfigDict(extra="forbid")


def mirrors(
    kind: type,
    only: Iterable[str] | None = None,
    leave_out: Iterable[str] = (),
    defaults: Mapping[str, object] | None = None,
) -> Callable[[type[Model]], type[Model]]:
    """Give the decorated model the fields of the core dataclass `kind`: all, `only` some, or all but some.

    `defaults` are this model's own, in place of the dataclass's.
    """
    wanted = [name for name in hints_of(kind) if (only is None or name in set(only)) and name not in set(leave_out)]

    def mirrored(model: type[Model]) -> type[Model]:
        own, strict = set(model.model_fields), issubclass(model, Given)
        fields: dict[str, Any] = {
            one.name: (annotation(hints_of(kind)[one.name], strict), (defaults or {}).get(one.name, _default(one)))
            for one in dataclasses.fields(kind)
            if one.name in wanted and one.name not in own
        }
        made = create_model(
            model.__name__, __base__=model, __module__=model.__module__, __doc__=model.__doc__, **fields
        )
        if only is None:
            MIRRORS.setdefault(kind, made)
        return made

    return mirrored


def _default(one: dataclasses.Field[Any]) -> Any:
    """A dataclass field's default as its mirror has it: lists for tuples, plain fields for dataclasses."""
    if one.default_factory is not dataclasses.MISSING:
        return Field(default_factory=one.default_factory)
    if one.default is dataclasses.MISSING:
        return ...
    return _plain(one.default)


def _plain(value: Any) -> Any:
    if isinstance(value, tuple):
        return [_plain(part) for part in value]
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        return MIRRORS[type(value)].model_validate(
            {name: _plain(getattr(value, name)) for name in hints_of(type(value))}, from_attributes=True
        )
    return value


def annotation(hint: Any, strict: bool = True) -> Any:
    """A core field's annotation as pydantic's: numbers in their span, names as a closed list, lists for tuples."""
    bare, said, optional = unwrapped(hint)
    made = _bare(bare, said, strict)
    words = [one.documentation for one in said if isinstance(one, DocInfo)]
    if optional:
        made = made | None
    # The words nearest to the field are its own; those of an alias it uses stand behind them.
    return Annotated[made, Field(description=words[-1])] if words else made


def _bare(bare: Any, said: tuple[Any, ...], strict: bool) -> Any:
    if bare is bool:
        return StrictBool if strict else bool
    if bare in (float, int):
        number = bare if not strict else Number if bare is float else Whole
        span = next((one for one in said if isinstance(one, Span)), None)
        # The unit stands in the schema, so that the page and the sentences of refusal have it from there.
        return (
            number
            if span is None
            else Annotated[number, Field(ge=span.low, le=span.high, json_schema_extra=_unit(span))]
        )
    if bare is str:
        return _text(said)
    if get_origin(bare) is tuple and get_args(bare)[1:] == (...,):
        length = next((one for one in said if isinstance(one, Len)), Len(0))
        return Annotated[
            list[annotation(get_args(bare)[0], strict)],  # type: ignore[misc]
            Field(min_length=length.min_length, max_length=length.max_length),
        ]
    if get_origin(bare) is dict:
        return dict[get_args(bare)[0], annotation(get_args(bare)[1], strict)]  # type: ignore[misc]
    if dataclasses.is_dataclass(bare):
        return MIRRORS[bare]
    return bare


def _unit(span: Span) -> dict[str, Any] | None:
    return {"x-unit": span.unit} if span.unit else None


def _text(said: tuple[Any, ...]) -> Any:
    for one in said:
        if isinstance(one, OneOf):
            return Annotated[Literal[one.names], Field(json_schema_extra={"x-words": {**one.words}})]
        if isinstance(one, Pattern):
            accepted = Field(json_schema_extra={"x-accepted": one.words})
            return Annotated[str, StringConstraints(pattern=one.pattern), accepted]
        if isinstance(one, Text):
            return Annotated[str, limits_of(one)]
    return str


class NamesOf:
    """Beside `str` in an Annotated: one of a table's names, a closed list in the schema too."""

    def __init__(self, table: Mapping[str, object] | Sequence[str]) -> None:
        self.names = OneOf(table).names

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        return core_schema.literal_schema(list(self.names))


def limits_of(text: Text) -> StringConstraints:
    """Beside `str` in an Annotated: what a core text may be."""
    return StringConstraints(
        strip_whitespace=True, min_length=text.least, max_length=text.most, pattern=LINES if text.lines else ONE_LINE
    )
