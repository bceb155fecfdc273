"""The gear that comes along, what was found on it and when, and the test before a trip: a list that is worked through.

What failed stays failed until the same check is passed. The checks are common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from ..fields import OneOf, Text, check_fields, doc

GearKind = Literal["unit", "cable", "connector", "transducer", "pole", "auger", "heater", "bag"]


@dataclass(frozen=True)
class Check:
    """One check: for which kinds of gear, what to do, and what is right."""

    kinds: tuple[GearKind, ...]
    words: str
    right: str


CHECKS: dict[str, Check] = {
    "power": Check(("unit",), "Switch it on and move the plug", "It stays on, and its clock and settings are there."),
    "plugs": Check(
        ("cable", "connector"), "Plug by plug: open, look, close",
        "Clean, dry, no green, no bent pin, and it sits tight.",
    ),
    "bend": Check(("cable",), "Bend it along its length with the unit on", "The picture does not flicker."),
    "bucket": Check(
        ("transducer",), "Hang it in a bucket of water",
        "It ticks, and the bucket's bottom is a line that moves as you lift it.",
    ),
    "face": Check(("transducer",), "Look at its face", "No crack, no lime, no grease."),
    "heading": Check(
        ("pole",), "Marks of the pole and the transducer's heading", "In line, and they stay so when it is turned.",
    ),
    "screws": Check(("pole", "unit", "transducer"), "Every screw and clamp by hand", "None turns."),
    "blades": Check(("auger",), "Blades, cover and fuel or charge", "Sharp, covered, and full."),
    "flame": Check(
        ("heater",), "Light it outdoors, with the alarm for carbon monoxide beside it",
        "A clean flame, no smell, and the alarm's test button sounds.",
    ),
    "spares": Check(("bag",), "Spare fuse, spare battery, tape, towel", "All there, and the fuse is the right one."),
    "packing": Check(
        ("bag", "cable", "transducer"), "How it is packed",
        "No load on a cable, coils as wide as a plate, the face covered.",
    ),
}  # fmt: skip


@dataclass(frozen=True)
class GearItem:
    """A piece of gear."""

    name: Annotated[str, Text(1, 60)]
    kind: GearKind
    note: Annotated[str, Text(0, 200)] = ""

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class Finding:
    """What was found on a piece of gear: when (ISO 8601), by which check, whether it was right, and what was seen."""

    at: Annotated[str, Text(10, 40)]
    made: Annotated[str, OneOf(tuple(CHECKS)), doc("Which check")]
    passed: bool
    note: Annotated[str, Text(0, 200)] = ""

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class Standing:
    """How a check of a piece of gear stands: passed or failed when it was last made, or never made."""

    check: str
    state: Literal["passed", "failed", "not made"]
    at: str
    note: str


def checks_for(kind: GearKind) -> list[str]:
    """The checks of a kind of gear, in the order in which they are worked through."""
    return [name for name, one in CHECKS.items() if kind in one.kinds]


def standing(kind: GearKind, findings: Iterable[Finding]) -> list[Standing]:
    """How each check of a piece of gear stands, by what was found last."""
    latest: dict[str, Finding] = {}
    for one in sorted(findings, key=lambda one: one.at):
        latest[one.made] = one
    found = []
    for name in checks_for(kind):
        last = latest.get(name)
        if last is None:
            found.append(Standing(name, "not made", "", ""))
        else:
            found.append(Standing(name, "passed" if last.passed else "failed", last.at, last.note))
    return found


def failed(item: GearItem, findings: Sequence[Finding]) -> list[Standing]:
    """What failed on a piece of gear and was not retested since."""
    return [one for one in standing(item.kind, findings) if one.state == "failed"]
