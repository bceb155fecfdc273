"""How much a share of few leaves open."""

from __future__ import annotations


def wilson(right: int, of: int, z: float = 1.96) -> tuple[float, float]:
    """The interval that a share `right` of `of` leaves open, 95 % by default. Source: Wilson 1927."""
    if of == 0:
        return 0.0, 1.0
    share = right / of
    middle = (share + z * z / (2 * of)) / (1 + z * z / of)
    half = z / (1 + z * z / of) * (share * (1 - share) / of + z * z / (4 * of * of)) ** 0.5
    return max(middle - half, 0.0), min(middle + half, 1.0)
