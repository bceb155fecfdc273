"""How much a share of few leaves open."""

from __future__ import annotations

from math import comb


def wilson(right: int, of: int, z: float = 1.96) -> tuple[float, float]:
    """The interval that a share `right` of `of` leaves open, 95 % by default. Source: Wilson 1927."""
    if of == 0:
        return 0.0, 1.0
    share = right / of
    middle = (share + z * z / (2 * of)) / (1 + z * z / of)
    half = z / (1 + z * z / of) * (share * (1 - share) / of + z * z / (4 * of * of)) ** 0.5
    return max(middle - half, 0.0), min(middle + half, 1.0)


def mcnemar(first_alone: int, second_alone: int) -> float:
    """How likely chance alone parts two results of the same cases so far or further: two-sided, exact.

    `first_alone` of the cases only the first had, `second_alone` only the second; those that both or neither had say
    nothing. Source: McNemar 1947, by the binomial distribution.
    """
    n, k = first_alone + second_alone, min(first_alone, second_alone)
    return min(2.0 * sum(comb(n, i) for i in range(k + 1)) / 2.0**n, 1.0)
