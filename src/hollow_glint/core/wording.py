"""What the program says: sentences whose values stay numbers until they are shown, and changes a button can make."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

QuantityUnit = Literal[
    "m", "m2", "m/s", "gain", "dB", "percent", "degrees", "degrees C", "s", "min", "h", "clock", "A", "V", "mm",
    "count", "step", "N", "m:ss", "per hour", "kg",
]  # fmt: skip


@dataclass(frozen=True)
class Quantity:
    """A value with its unit; "gain" is the knob's own number, "step" a step of the colour ladder, "clock" minutes of
    the day, "m:ss" seconds since something began."""

    value: float
    unit: QuantityUnit


@dataclass(frozen=True)
class Sentence:
    """A sentence with `{names}` for its values."""

    text: str
    values: dict[str, Quantity] = field(default_factory=dict)


@dataclass(frozen=True)
class Change:
    """One change: the field of `Settings` or of the hang in `Scene` and its value; "kick" looks for the bottom anew."""

    setting: str
    value: float | bool
