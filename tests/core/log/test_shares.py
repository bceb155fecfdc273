"""Shares against a reference library's beta-binomial and beta, and against shares whose truth is known."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats

from hollow_glint.core.log.shares import ALIKE, CORRELATIONS, LOGIT, Answered, shares
from tests.effort import EFFORT


def test_fish_that_came_one_by_one_leave_a_beta_open():
    """One fish a stay: nothing can be alike, and the textbook's Beta(count + 1/2, rest + 1/2) remains."""
    found = shares([Answered(1, int(k < 14)) for k in range(40)]).overall
    theirs = stats.beta.ppf([0.05, 0.5, 0.95], 14.5, 26.5)
    assert [found.low, found.likely, found.high] == pytest.approx(theirs, abs=0.005)


def test_the_overall_share_agrees_with_scipys_beta_binomial_on_the_same_grid():
    rng = np.random.default_rng(5)
    stays = [
        (int(n), int(rng.binomial(n, p))) for n, p in zip(rng.integers(1, 20, 60), rng.beta(3.0, 4.0, 60), strict=True)
    ]
    mean = 1.0 / (1.0 + np.exp(-LOGIT))
    log = 0.5 * np.log(mean * (1.0 - mean))[None, :] + (ALIKE - 1.0) * np.log1p(-CORRELATIONS)[:, None]
    log = log + np.log(np.gradient(CORRELATIONS))[:, None]
    whole = (1.0 / CORRELATIONS - 1.0)[:, None]
    for n, x in stays:
        log = log + stats.betabinom.logpmf(x, n, whole * mean, whole * (1.0 - mean))
    density = np.exp(log - log.max())
    below = np.cumsum(density.sum(axis=0)) / density.sum()
    theirs = np.interp([0.05, 0.5, 0.95], below, LOGIT + 0.5 * (LOGIT[1] - LOGIT[0]))
    found = shares([Answered(n, x) for n, x in stays])
    assert [found.overall.low, found.overall.likely, found.overall.high] == pytest.approx(
        1.0 / (1.0 + np.exp(-theirs)), rel=0.01
    )
    assert found.alike == pytest.approx((density.sum(axis=1) / density.sum()) @ CORRELATIONS, rel=0.01)


def test_a_school_that_answers_as_one_is_worth_less_than_as_many_fish():
    alone = shares([Answered(1, k % 2) for k in range(60)]).overall
    schools = shares([Answered(10, 10 * (k % 2)) for k in range(6)]).overall
    assert schools.high - schools.low > 2.0 * (alone.high - alone.low)


def test_shares_of_known_truth_are_held_by_the_spans():
    held, of, called, false = 0, 0, 0, 0
    for seed in range(73000, 73000 + 60 * EFFORT):
        rng = np.random.default_rng(seed)
        matters = rng.random() < 0.5
        middle = rng.normal(-0.5, 0.6)
        logit = middle + (rng.normal(0.0, 0.8, 4) if matters else np.zeros(4))
        means, alike = 1.0 / (1.0 + np.exp(-logit)), rng.uniform(0.02, 0.25)
        stays = []
        for _ in range(int(rng.integers(20, 80))):
            k, n = int(rng.integers(4)), int(rng.integers(1, 9))
            whole = 1.0 / alike - 1.0
            share = rng.beta(whole * means[k], whole * (1.0 - means[k]))
            stays.append(Answered(n, int(rng.binomial(n, share)), str(k)))
        found = shares(stays)
        fish = np.array([found.levels[str(k)].of for k in range(4)])
        usual = float(fish @ means / fish.sum())
        for k in range(4):
            one = found.levels[str(k)]
            held, of = held + (one.share.low <= means[k] <= one.share.high), of + 1
            if one.better >= 0.9:
                called, false = called + 1, false + (means[k] <= usual + 1e-9)
    assert 0.85 <= held / of <= 0.95
    assert called >= 10 and false / called <= 0.15


def test_what_is_no_share_is_said():
    with pytest.raises(ValueError, match="count is 3"):
        Answered(2, 3)
    with pytest.raises(ValueError, match="no fish"):
        shares([Answered(0, 0)])
