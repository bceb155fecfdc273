"""Input checks shared by the core: one wording for every value that is out of its span."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, TypeVar

import numpy as np
from numpy.typing import ArrayLike, NDArray


class InputError(ValueError):
    """A value from outside that cannot be accepted; the sentence names field, value and what is accepted."""


Kept = TypeVar("Kept")
Floats = NDArray[np.floating[Any]]


def within(name: str, value: ArrayLike, low: float, high: float, unit: str = "") -> Floats:
    """Return `value` as a float array of its own shape, or raise ValueError with name, value and span.

    Not-a-number and infinities are refused like any other value outside [low, high].
    """
    span = f"{low:g} to {high:g}{' ' + unit if unit else ''}"
    try:
        array = np.asarray(value, dtype=np.float64)
    except (TypeError, ValueError):
        raise InputError(f"{name} is {value!r}: a number from {span} is accepted") from None
    # Written so that a NaN, for which every comparison is false, counts as outside.
    good = (array >= low) & (array <= high)
    if not np.all(good):
        wrong = array.flat[int(np.argmin(good))]
        raise InputError(f"{name} is {wrong:g}: accepted are values from {span}")
    return array


def number(name: str, value: Any, low: float, high: float, unit: str = "") -> float:
    """Return `value` as one float inside [low, high], or raise ValueError with name, value and span."""
    if type(value) in (int, float) and low <= value <= high:
        return float(value)  # the usual case: a log has ten thousands of them
    if isinstance(value, (bool, str)):
        raise InputError(f"{name} is {value!r}: a number from {low:g} to {high:g} {unit}".rstrip() + " is accepted")
    array = within(name, value, low, high, unit)
    if array.ndim:
        raise InputError(f"{name} has {array.size} values: one number is accepted")
    return float(array)


def one_of(name: str, value: str, accepted: tuple[str, ...]) -> str:
    """Return `value` if it is one of `accepted`, or raise ValueError naming them all."""
    if value not in accepted:
        raise InputError(f"{name} is {value!r}: accepted are {', '.join(accepted)}")
    return value


def named(name: str, key: str, table: Mapping[str, Kept]) -> Kept:
    """What `table` has under `key`, or ValueError naming what it has."""
    return table[one_of(name, key, tuple(table))]


def like_input(array: Floats) -> Any:
    """Hand a scalar back for a scalar: 0-d results become plain floats, arrays stay arrays."""
    return float(array) if np.ndim(array) == 0 else array
