"""What the program says: sentences whose values stay numbers until they are shown, and changes a button can make."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass(frozen=True)
class Quantity:
    """A value with its unit: "m", "m/s", "gain" (the knob), "dB", "percent", "degrees", "s", "V", "mm", "count",
    "step", "N"."""

    value: float
    unit: str


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
