"""Drills: every kind, at every level, is fair (the picture answers it) and honest (the reason is true)."""

from __future__ import annotations

import re

import numpy as np
import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.drills import catalogue, fans, holes, sweeps
from hollow_glint.core.drills.catalogue import KINDS as EVERY_KIND
from hollow_glint.core.drills.catalogue import drill
from hollow_glint.core.drills.drill import Drill
from hollow_glint.core.sonar import still_echoes

# Those on pictures that turn and on the fan's have tests of their own.
KINDS = {key: one for key, one in EVERY_KIND.items() if one not in (*sweeps.KINDS, *fans.KINDS)}
SEEDS = range(6)
EVERY = [(kind, level) for kind in KINDS for level in (1, 2, 3)]


def made(kind: str, level: int = 1, seeds=SEEDS) -> list[Drill]:
    return [drill(kind, level, seed) for seed in seeds]


def rows_of(one: Drill, clip: int = 0) -> np.ndarray:
    c = one.clips[clip]
    return c.shown.top_m + (np.arange(c.unit.rows) + 0.5) * c.shown.height_m / c.unit.rows


def mean_level(one: Drill, low_m: float, high_m: float, clip: int = 0, part: slice = slice(None)) -> float:
    """Mean over pings of the strongest level between two ranges."""
    rows = rows_of(one, clip)
    near = (rows > low_m) & (rows < high_m)
    return float(one.clips[clip].levels[part][:, near].max(axis=1).mean())


def test_there_are_at_least_eighteen_kinds():
    assert len(KINDS) >= 18


@pytest.mark.parametrize(("kind", "level"), EVERY)
def test_each_is_whole_and_its_truth_is_in_the_water(kind, level):
    for one in made(kind, level):
        assert one.kind == kind and one.level == level
        keys = [choice.key for choice in one.choices]
        assert len(set(keys)) == len(keys)
        if one.by_pointing:
            low, high = one.target_m
            shown = one.clips[0].shown
            assert shown.top_m < low < high < shown.bottom_m
            assert keys == []
        else:
            assert one.right in keys and len(keys) >= 2
        for said in (one.question, one.why):
            assert set(re.findall(r"\{(\w+)\}", said.text)) == set(said.values), said
        # The reason is two sentences, no more.
        assert 1 <= len(re.findall(r"[.?](?: |$)", one.why.text)) <= 3
        scene, end = one.clips[0].scene, float(one.clips[0].time_s[-1])
        assert 0.0 < one.moment_s <= end
        assert one.stop_s is None or 0.0 < one.stop_s < end
        assert one.truth
        for mark in one.truth:
            assert 0.0 < mark.depth_m <= scene.bottom_depth_m + 1e-9 and mark.aside_m >= 0.0
        for clip in one.clips:
            assert clip.levels.shape == (clip.time_s.size, clip.unit.rows)
            assert int(clip.levels.max()) > 0


@pytest.mark.parametrize("kind", KINDS)
def test_the_same_seed_is_the_same_drill_and_no_two_are_alike(kind):
    one, again, other = drill(kind, 2, 5), drill(kind, 2, 5), drill(kind, 2, 6)
    assert (one.clips[0].levels == again.clips[0].levels).all() and one.right == again.right
    assert one.clips[0].levels.tobytes() != other.clips[0].levels.tobytes()


@pytest.mark.parametrize("kind", [kind for kind in KINDS if not drill(kind, 1, 0).by_pointing])
def test_no_answer_is_always_right(kind):
    """Whoever always gives the same answer is wrong at times."""
    assert len({one.right for one in made(kind, 1, range(14))}) >= 2


# -- answered from the picture alone, by a rule as plain as the one taught ---------------------------------------------


def agreed(kind: str, level: int, rule, least: float, seeds=range(20)) -> None:
    right = [rule(one) == one.right for one in made(kind, level, seeds)]
    assert np.mean(right) >= least, [seed for seed, good in zip(seeds, right, strict=True) if not good]


@pytest.mark.parametrize("level", [1, 2, 3])
def test_a_hard_bottom_shows_its_second_echo_and_a_soft_one_does_not(level):
    def rule(one: Drill) -> str:
        again = still_echoes.second_echo_range(one.clips[0].scene)
        return "hard" if mean_level(one, again - 0.1, again + 0.3) > 0.5 else "soft"

    agreed("how hard is the bottom", level, rule, 1.0)


@pytest.mark.parametrize("level", [1, 2, 3])
def test_plankton_bait_and_large_fish_are_told_by_their_lines(level):
    """Plankton's specks go on into no next ping; bait draws many lines, and large fish a few, as the reasons say."""

    def rule(one: Drill) -> str:
        clip, rows = one.clips[0], rows_of(one)
        middle = one.truth[0].depth_m - clip.face_depth_m
        levels = clip.levels[:, (rows > middle - 1.2) & (rows < middle + 1.2)]
        if levels.mean(axis=0).var() < 0.5 * levels.var():
            return "plankton"
        ever = (levels > 0).mean(axis=0) > 0.15
        return "bait" if lines(levels, ever) > 3 else "fish"

    agreed("plankton, bait or fish", level, rule, 0.9)


def lines(levels: np.ndarray, ever: np.ndarray) -> int:
    """How many lines run through: peaks of the mean level, with a dip of a tenth between them."""
    mean = np.where(ever, levels.mean(axis=0), 0.0)
    found, top, low = 0, 0.0, 0.0
    for value in [*mean, 0.0]:
        if value > low * 1.1 + 0.05 and top == 0.0:
            top = value
        if top:
            top = max(top, value)
            if value < 0.9 * top:
                found, top, low = found + 1, 0.0, value
        else:
            low = min(low, value)
    return found


@pytest.mark.parametrize("level", [1, 2, 3])
def test_a_restless_bottom_is_seen_in_its_upper_edge(level):
    def rule(one: Drill) -> str:
        rows, line = rows_of(one), one.clips[0].scene.bottom_range_m
        above = (rows > line - 0.2) & (rows < line - 0.03)
        return "yes" if (one.clips[0].levels[:, above] > 0).any(axis=1).mean() > 0.2 else "no"

    agreed("restless bottom", level, rule, 1.0)


@pytest.mark.parametrize("level", [1, 2, 3])
def test_a_leaving_fish_fades_and_a_diving_one_does_not(level):
    def rule(one: Drill) -> str:
        lure = next(mark for mark in one.truth if mark.kind == "lure")
        low = lure.depth_m - one.clips[0].face_depth_m + 0.2
        pings = one.clips[0].levels.shape[0]
        first = mean_level(one, low, low + 2.5, part=slice(0, pings // 5))
        last = mean_level(one, low, low + 2.5, part=slice(-pings // 8, None))
        return "leaves" if last < 0.4 * first else "dives"

    agreed("leaving or diving", level, rule, 0.95)


@pytest.mark.parametrize("level", [1, 2])
def test_the_larger_fish_is_stronger_against_the_same_jig(level):
    def rule(one: Drill) -> str:
        fish = next(mark for mark in one.truth if mark.kind == "fish")
        lure = next(mark for mark in one.truth if mark.kind == "lure")
        over = []
        for clip in range(2):
            face = one.clips[clip].face_depth_m
            at, jig = fish.depth_m - face, lure.depth_m - face
            over.append(mean_level(one, at - 0.1, at + 0.2, clip) - mean_level(one, jig - 0.1, jig + 0.2, clip))
        return "left" if over[0] > over[1] else "right"

    agreed("which is larger", level, rule, 0.95)


@pytest.mark.parametrize("level", [1, 2, 3])
def test_a_fish_under_the_hole_is_stronger_than_one_at_the_edge(level):
    def rule(one: Drill) -> str:
        fish = next(mark for mark in one.truth if mark.kind == "fish")
        at = float(np.hypot(fish.depth_m - one.clips[0].face_depth_m, fish.aside_m))
        top = len(one.clips[0].unit.ladders[one.clips[0].settings.ladder].steps)
        return "centre" if mean_level(one, at - 0.1, at + 0.25) > 0.42 * top else "edge"

    agreed("centre or edge", level, rule, 0.95)


def test_a_neighbours_marks_live_for_one_ping():
    def rule(one: Drill) -> str:
        rows = rows_of(one)
        lure = one.truth[0].depth_m - one.clips[0].face_depth_m
        lit = one.clips[0].levels[:, (rows > 2.4) & (rows < lure - 0.3)] > 1
        stays = (lit[1:] & lit[:-1]).sum() / max(lit.sum(), 1)
        return "neighbour" if stays < 0.3 else "fish"

    for level in (1, 2, 3):
        agreed("neighbour or fish", level, rule, 0.95)


def test_pointing_at_the_lure_is_right_and_at_the_fish_is_wrong():
    for level in (1, 2, 3):
        for one in made("which is the lure", level):
            face = one.clips[0].face_depth_m
            for mark in one.truth:
                at = float(np.hypot(mark.depth_m - face, mark.aside_m))
                assert one.is_right(None, at + 0.02) == (mark.kind == "lure"), (one.seed, mark)


def test_the_top_of_the_arc_is_the_true_depth():
    """Slant range: truth beside echo (common practice, no source)."""
    for one in made("where is it really", 2):
        depth = one.why.values["depth"].value
        at = depth - one.clips[0].face_depth_m
        assert one.target_m[0] < at < one.target_m[1]
        looks, aside = one.why.values["looks"].value, one.why.values["aside"].value
        assert np.hypot(at, aside) - at == pytest.approx(looks, abs=1e-6)


def test_how_many_fish_counts_the_fish():
    for one in made("how many fish", 3):
        assert int(one.right) == sum(mark.kind == "fish" for mark in one.truth)


@pytest.mark.parametrize(
    ("kind", "level", "words"), [("no such kind", 1, "kind is 'no such kind'"), ("touching", 4, "level is 4")]
)
def test_what_is_unknown_is_refused(kind, level, words):
    with pytest.raises(InputError, match=words):
        drill(kind, level, 0)


def test_answers_of_the_wrong_sort_are_refused():
    with pytest.raises(InputError, match="choice is 'maybe'"):
        drill("touching", 1, 0).is_right("maybe", None)
    with pytest.raises(InputError, match="range_m is missing"):
        drill("which is the lure", 1, 0).is_right("one", None)


def test_a_setting_leaves_the_lure_in_sight():
    rng = np.random.default_rng(4)
    for level in (1, 2, 3):
        for _ in range(10):
            at = holes.drill_hole(rng, level)
            clip = at.film(at.times(3.0), rng)
            rows = clip.shown.top_m + (np.arange(at.unit.rows) + 0.5) * clip.shown.height_m / at.unit.rows
            lure = at.lure_m - at.scene.face_depth_m
            near = (rows > lure - 0.06) & (rows < lure + 0.15)
            assert (clip.levels[:, near].max(axis=1) > 0).mean() > 0.9


def test_another_kind_put_first_changes_no_picture_and_no_right_answer(monkeypatch):
    """A drill's chance hangs on its kind's name, not on the kind's place among the others."""
    sample = list(KINDS)[-3:]
    before = [drill(kind, 2, 11) for kind in sample]
    shuffled = {"brand new": KINDS[sample[0]], **dict(reversed(KINDS.items()))}
    monkeypatch.setattr(catalogue, "KINDS", shuffled)
    for kind, was in zip(sample, before, strict=True):
        now = catalogue.drill(kind, 2, 11)
        assert now.right == was.right
        assert np.array_equal(now.clips[0].levels, was.clips[0].levels)
    other = catalogue.drill("brand new", 2, 11)
    assert not np.array_equal(other.clips[0].levels, before[0].clips[0].levels)
