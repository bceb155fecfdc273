"""SciPy's special functions, brought in when one is first asked for: importing them takes longer than all the rest."""

from __future__ import annotations

from functools import cache
from typing import Any


@cache
def _special() -> Any:
    from scipy import special

    return special


def j1(x: Any) -> Any:
    """Bessel function of the first kind and first order."""
    return _special().j1(x)


def spherical_jn(order: int, x: Any, derivative: bool = False) -> Any:
    """Spherical Bessel function of the first kind, or its derivative."""
    return _special().spherical_jn(order, x, derivative)


def spherical_yn(order: int, x: Any, derivative: bool = False) -> Any:
    """Spherical Bessel function of the second kind, or its derivative."""
    return _special().spherical_yn(order, x, derivative)


def log_ndtr(x: Any) -> Any:
    """Logarithm of the normal distribution function."""
    return _special().log_ndtr(x)


def ndtr(x: Any) -> Any:
    """Normal distribution function."""
    return _special().ndtr(x)
