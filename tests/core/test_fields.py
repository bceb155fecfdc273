"""Spans said once on the core's fields: how they check, what they say; file, web and page have them from there."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
import pytest

from hollow_glint.core.checks import InputError, named, number, one_of, within
from hollow_glint.core.fields import (
    Len,
    OneOf,
    Pattern,
    Span,
    Text,
    check_fields,
    doc,
    from_fields,
    hints_of,
    problems_of,
)
from hollow_glint.core.intervals import wilson
from hollow_glint.formats import fields as in_files
from hollow_glint.formats.mirror import MIRRORS


@dataclass(frozen=True)
class Inner:
    size: Annotated[float, Span(0.0, 1.0, "m")]


@dataclass(frozen=True)
class Outer:
    depth: Annotated[float, Span(0.5, 60.0, "m"), doc("How deep")]
    count: Annotated[int, Span(1, 9)] = 1
    kind: Annotated[str, OneOf({"a": "first", "b": "second"})] = "a"
    word: Literal["yes", "no"] = "yes"
    name: Annotated[str, Text(1, 5)] = "name"
    lines: Annotated[str, Text(0, 20, lines=True)] = ""
    code: Annotated[str, Pattern(r"^[a-z]{2}$", "two small letters")] = "ab"
    maybe: Annotated[float | None, Span(0.0, 1.0)] = None
    many: Annotated[tuple[Annotated[float, Span(0.0, 1.0)], ...], Len(0, 2)] = ()
    inner: Inner | None = None
    inners: Annotated[tuple[Inner, ...], Len(0, 3)] = ()

    def __post_init__(self) -> None:
        check_fields(self)


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"depth": 0.4}, "depth is 0.4: accepted are values from 0.5 to 60 m"),
        ({"depth": 60.1}, "depth is 60.1: accepted are values from 0.5 to 60 m"),
        ({"depth": float("nan")}, "depth is nan"),
        ({"depth": "deep"}, "depth is 'deep': a number from 0.5 to 60 m is accepted"),
        ({"depth": True}, "depth is True: a number"),
        ({"count": 2.5}, "count is 2.5: a whole number from 1 to 9 is accepted"),
        ({"count": 10}, "count is 10: accepted are values from 1 to 9"),
        ({"kind": "c"}, "kind is 'c': accepted are a, b"),
        ({"kind": 3}, "kind is 3: accepted are a, b"),
        ({"word": "perhaps"}, "word is 'perhaps': accepted are yes, no"),
        ({"name": ""}, "name has 0 characters: accepted are 1 to 5"),
        ({"name": "   "}, "name has 0 characters"),
        ({"name": "sixsix"}, "name has 6 characters"),
        ({"name": "a\nb"}, "name holds a character that cannot be shown ('\\n')"),
        ({"name": "a\x00"}, "name holds a character that cannot be shown ('\\x00')"),
        ({"name": "\ud800"}, "name holds a character that cannot be shown ('\\ud800')"),
        ({"lines": "a\x0bb"}, "lines holds a character"),
        ({"name": 5}, "name is 5: text is accepted"),
        ({"code": "ABC"}, "code is 'ABC': accepted is two small letters"),
        ({"maybe": 1.5}, "maybe is 1.5"),
        ({"many": (0.5, 1.5)}, "many is 1.5"),
        ({"many": (0.1, 0.2, 0.3)}, "many has 3 entries: accepted are up to 2"),
    ],
)
def test_a_field_out_of_what_it_may_be_is_named_with_what_is_accepted(wrong, says):
    with pytest.raises(InputError) as refused:
        Outer(**{"depth": 1.0, **wrong})
    assert says in str(refused.value)


def test_everything_at_its_ends_is_accepted():
    for depth in (0.5, 60.0, np.float64(3.0), 7):
        Outer(depth)
    Outer(1.0, 9, "b", "no", "aaaaa", "a\nb\tc\r\n", "zz", 0.0, (0.0, 1.0))
    Outer(1.0, maybe=None, inner=None)


def test_all_that_is_wrong_is_said_at_once_and_in_the_order_of_the_fields():
    with pytest.raises(InputError) as refused:
        Outer(0.0, 99, "c")
    said = str(refused.value)
    assert said.index("depth") < said.index("count") < said.index("kind") and said.count(";") == 2


def test_problems_stand_behind_the_name_of_what_holds_them():
    bad = object.__new__(Inner)
    object.__setattr__(bad, "size", 5.0)
    assert problems_of(bad, "outer.inners")[0].startswith("outer.inners.size is 5")
    assert problems_of(Inner(0.5)) == []


def test_plain_fields_become_dataclasses_all_the_way_down():
    made = from_fields(Outer, {"depth": 2.0, "inner": {"size": 0.5}, "inners": [{"size": 0.1}, {"size": 0.2}]}, "it")
    assert made.inner == Inner(0.5) and made.inners == (Inner(0.1), Inner(0.2))
    assert from_fields(Outer, dataclasses.asdict(made), "it") == made


@pytest.mark.parametrize(
    ("given", "says"),
    [
        ({}, "depth is missing: the thing has one"),
        ({"depth": 1.0, "wings": 2}, "wings is not a field of the thing"),
        ({"depth": 1.0, "inner": 5}, "inner is '5': an object with named fields is accepted"),
        ({"depth": 1.0, "inners": "xy"}, "inners is 'xy': a list is accepted"),
        ({"depth": 1.0, "inners": [{}]}, "size is missing: inners has one"),
        ({"depth": 1.0, "inner": {"size": 1.0, "hue": 3}}, "hue is not a field of inner"),
    ],
)
def test_plain_fields_that_do_not_fit_are_named(given, says):
    with pytest.raises(InputError) as refused:
        from_fields(Outer, given, "the thing")
    assert says in str(refused.value)


# --- checks --------------------------------------------------------------------------------------------------------


def test_within_keeps_shapes_and_names_the_first_that_is_wrong():
    assert within("x", [[1.0, 2.0]], 0.0, 3.0).shape == (1, 2)
    with pytest.raises(InputError, match=r"x is 5: accepted are values from 0 to 3 m"):
        within("x", [1.0, 5.0, 7.0], 0.0, 3.0, "m")
    with pytest.raises(InputError, match="x has 2 values: one number is accepted"):
        number("x", [1.0, 2.0], 0.0, 3.0)


def test_names_are_looked_up_or_listed():
    assert named("x", "a", {"a": 1}) == 1
    for look in (lambda: named("x", "b", {"a": 1, "c": 2}), lambda: one_of("x", "b", ("a", "c"))):
        with pytest.raises(InputError, match="x is 'b': accepted are a, c"):
            look()


@pytest.mark.parametrize(
    ("right", "of", "low", "high"), [(0, 10, 0.0, 0.2775), (5, 10, 0.2366, 0.7634), (10, 10, 0.7225, 1.0)]
)
def test_wilsons_interval_as_published_tables_have_it(right, of, low, high):
    """Wilson 1927; what any table of it has for ten tries, from memory."""
    assert wilson(right, of) == (pytest.approx(low, abs=2e-3), pytest.approx(high, abs=2e-3))


# --- one span, everywhere ------------------------------------------------------------------------------------------


# What files and forms hold whole; what the web tells besides says in its contracts what it leaves out.
WHOLE = [kind for kind, model in MIRRORS.items() if model.__module__ == in_files.__name__]


def spans_of(kind) -> dict[str, Span]:
    """The spans that a core dataclass says, by field."""
    found = {}
    for name, hint in hints_of(kind).items():
        for one in getattr(hint, "__metadata__", ()):
            if isinstance(one, Span):
                found[name] = one
    return found


@pytest.mark.parametrize("kind", [kind for kind in WHOLE if spans_of(kind)], ids=lambda kind: kind.__name__)
def test_what_goes_out_and_comes_in_has_the_cores_own_span(kind):
    """The JSON schema of the mirror, from which the page's limits are made, against the core's field."""
    schema = MIRRORS[kind].model_json_schema()["properties"]
    for name, span in spans_of(kind).items():
        if name not in schema:
            continue
        said = schema[name]
        said = next((one for one in said.get("anyOf", ()) if "minimum" in one), said)
        assert (said["minimum"], said["maximum"]) == (span.low, span.high), name
        assert said.get("x-unit", "") == span.unit


LEFT_OUT = {"Command": {"scene"}}  # a run's water is what it is


@pytest.mark.parametrize("kind", WHOLE, ids=lambda kind: kind.__name__)
def test_no_field_of_the_core_is_forgotten_on_the_way_out(kind):
    forgotten = set(hints_of(kind)) - set(MIRRORS[kind].model_fields)
    assert forgotten == LEFT_OUT.get(kind.__name__, set())
