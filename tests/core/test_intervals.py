"""Shares and pairs against a statistics library."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.stats import binomtest

from hollow_glint.core.fish.cadence import PATTERNS, outcomes
from hollow_glint.core.fish.day import draw_day
from hollow_glint.core.intervals import mcnemar, wilson


@pytest.mark.parametrize(("first", "second"), [(0, 0), (3, 3), (15, 0), (20, 5), (1, 9), (40, 41)])
def test_mcnemars_exact_chance_is_scipys_binomial_test(first, second):
    if first + second == 0:
        assert mcnemar(first, second) == 1.0
        return
    theirs = binomtest(min(first, second), first + second, 0.5).pvalue
    assert mcnemar(first, second) == pytest.approx(theirs, rel=1e-9)
    assert mcnemar(first, second) == mcnemar(second, first)


@pytest.mark.parametrize(("right", "of"), [(0, 10), (7, 10), (59, 100), (74, 100), (100, 100)])
def test_wilsons_interval_is_scipys(right, of):
    theirs = binomtest(right, of).proportion_ci(0.95, method="wilson")
    assert wilson(right, of) == pytest.approx((theirs.low, theirs.high), abs=2e-4)


def test_patterns_are_compared_on_the_same_fish_pair_by_pair():
    """74 against 59 of the same hundred may be far apart though their intervals overlap."""
    day = draw_day("hot", 0.4, 9.0, np.random.default_rng(3))
    found = outcomes(PATTERNS[:3], day, 9.0, 0.5, 5, fish=60, seconds=90.0)
    best = max(found, key=lambda one: one.took)
    assert (best.this_alone, best.best_alone, best.by_chance) == (0, 0, 1.0)
    for one in found:
        assert best.took - one.took == one.best_alone - one.this_alone
        if one.this_alone + one.best_alone:
            theirs = binomtest(one.this_alone, one.this_alone + one.best_alone, 0.5).pvalue
            assert one.by_chance == pytest.approx(theirs, rel=1e-9)
