"""What is taken along: combinations, depths, and tables that agree with card and call sheet where they are made."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.card.hole_card import hole_card
from hollow_glint.core.card.known_hole import KnownHole
from hollow_glint.core.checks import InputError
from hollow_glint.core.gear.lures import USUAL_JIG
from hollow_glint.core.gear.profiles import SHORT_PULSE, TRAIL_UNIT
from hollow_glint.core.pocket.along import COMPANY, DEPTHS_M, Along, Combination, nearest_depth
from hollow_glint.core.pocket.calls import KINDS, LOG_STEP, LOWEST, PLANES, call_table, touch_tables
from hollow_glint.core.pocket.tables import COLUMNS, Task, tabled, tasks_of, worked_off
from hollow_glint.core.reader.call_sheet import call_sheet
from hollow_glint.core.reader.explanations import by_model
from hollow_glint.core.reader.fish_grid import fish_grid
from hollow_glint.core.reader.observation import BOTTOMS, Observation, SheetContext
from hollow_glint.formats.pocket_sheet import differences, html

WATER = KnownHole(8.0, ice_thickness_m=0.3, slush_m=0.0, weed_height_m=0.0, liveliness="some", bottom_kind="mud")
ALONG = Along(WATER, (TRAIL_UNIT,), (USUAL_JIG,), ("stained",), ("day", "night"), ("alone", "one near"))


def test_every_quarter_of_a_metre_stands_and_the_nearest_is_taken():
    assert DEPTHS_M[0] == 2.0 and DEPTHS_M[-1] == 25.0 and np.diff(DEPTHS_M) == pytest.approx(0.25)
    for depth in np.random.default_rng(3).uniform(1.9, 25.1, 300):
        assert abs(DEPTHS_M[nearest_depth(depth)] - depth) <= 0.125 + 1e-9
    for depth in (1.8, 25.2):
        with pytest.raises(InputError, match="2 to 25 m"):
            nearest_depth(depth)


def test_all_combinations_are_there_and_each_is_the_water_it_says():
    every = list(ALONG.combinations())
    assert len(every) == ALONG.count == 4 and len(set(every)) == 4
    hole = ALONG.at(Combination(0, 0, 0, 1, 1), 12.25)
    assert (hole.depth_m, hole.light, hole.neighbours) == (12.25, "night", COMPANY["one near"])
    assert hole.ice_thickness_m == 0.3 and hole.unknown() == ("fish_length_m",)


@pytest.mark.parametrize(
    ("change", "said"),
    [({"units": ()}, "units is empty"), ({"lights": ("day", "day")}, "twice"), ({"clarities": ("ink",)}, "clarities"),
     ({"companies": ("a crowd",)}, "companies"),
     ({"lights": ("day", "dusk", "night"), "clarities": ("clear", "murky")}, "12 combinations")],
)  # fmt: skip
def test_what_cannot_be_taken_along_is_refused(change, said):
    with pytest.raises(InputError, match=said):
        replace(ALONG, **change)


def test_the_work_is_cut_into_pieces_that_come_together_again_in_order():
    one = replace(ALONG, lights=("day",), companies=("alone",))
    tasks = tasks_of(one, 40)
    assert [task.depths[0] for task in tasks] == [0, 40, 80] and sum(len(task.depths) for task in tasks) == 93
    (only,) = one.combinations()
    cards = worked_off(Task(one, only, (0, 24, 92)))
    for k, card in zip((0, 24, 92), cards, strict=True):
        truth = hole_card(one.at(only, DEPTHS_M[k]), TRAIL_UNIT, USUAL_JIG)
        assert set(card.values) == set(COLUMNS)
        assert card.values["settings.gain"] == round(1000 * truth.settings.gain)
        assert card.values["numbers.cone_at_lure_m"] == round(1000 * truth.numbers.cone_at_lure_m)


def test_progress_is_told_and_a_sheet_with_no_card_at_all_is_refused():
    one = replace(ALONG, lights=("day",), companies=("alone",))
    told = []
    card = worked_off(Task(one, next(one.combinations()), (24,)))
    made = tabled(one, told.append, lambda _, tasks: (card * len(task.depths) for task in tasks))
    assert told == sorted(told) and told[-1] == 1.0 and all(len(cards) == 93 for cards in made.cards.values())
    with pytest.raises(InputError, match="no unit"):
        tabled(one, told.append, lambda _, tasks: ([None] * len(task.depths) for task in tasks))


def test_a_depth_that_a_unit_does_not_reach_has_no_card():
    short = replace(TRAIL_UNIT, name="Short", ranges_m=TRAIL_UNIT.ranges_m[:3])
    one = replace(ALONG, units=(short,), lights=("day",), companies=("alone",))
    (only,) = one.combinations()
    shallow, deep = worked_off(Task(one, only, (0, 92)))
    assert shallow is not None and deep is None


def test_a_call_table_says_what_the_model_says_of_every_place_and_colour():
    card = hole_card(ALONG.at(Combination(0, 0, 0, 0, 1), 9.0), SHORT_PULSE, USUAL_JIG)
    at = SheetContext(card.scene, SHORT_PULSE, card.settings, USUAL_JIG, card.lure_depth_m)
    values = call_table(at).values
    colours, planes, places = values.shape
    assert colours == len(SHORT_PULSE.ladders[card.settings.ladder].steps) and planes == len(PLANES)
    rng = np.random.default_rng(8)
    for _ in range(60):
        c, n = int(rng.integers(colours)), int(rng.integers(places))
        seen = Observation(0.25 * (n + 1), c + 1)
        grid = fish_grid(at, seen)
        for k, name in enumerate(KINDS):
            log = by_model(name, at, seen, grid)[0]
            told = LOWEST + LOG_STEP * float(values[c, k, n])
            assert told == pytest.approx(max(log, LOWEST), abs=0.5 * LOG_STEP + 1e-9), name


def test_the_tables_of_touches_say_what_the_call_sheet_does_and_would_do():
    told = touch_tables()
    card = hole_card(ALONG.at(Combination(0, 0, 0, 0, 0), 9.0), TRAIL_UNIT, USUAL_JIG)
    at = SheetContext(card.scene, TRAIL_UNIT, card.settings, USUAL_JIG, card.lure_depth_m)
    rng = np.random.default_rng(5)
    for _ in range(40):
        axes = [str(rng.choice(words)) for words in told["axes"].values()]
        bottom = None if rng.uniform() < 0.3 else str(rng.choice(BOTTOMS))
        place = 0
        for words, word in zip(told["axes"].values(), axes, strict=True):
            place = place * len(words) + words.index(word)
        for one in call_sheet(at, Observation(4.0, 2, *axes, bottom)).calls:
            k = told["kinds"].index(one.kind)
            row = told["do"][k][place * (len(BOTTOMS) + 1) + (0 if bottom is None else 1 + BOTTOMS.index(bottom))]
            assert told["to_do"][row] == one.do
    assert sum(np.exp(told["prior"])) == pytest.approx(0.97, abs=0.01)


def test_differences_add_up_again_and_what_is_not_there_stays_so():
    values = [5, 9, None, 2, None, 2]
    steps = differences(values)
    assert steps == [5, 4, None, -7, None, 0]


def test_no_script_can_end_early_and_a_sheet_that_is_too_large_is_refused():
    page = html("A <b> & c", {"a": 1}, b"", 'const a = "</script><!--";', "b { color: red }")
    assert page.count("</script>") == 3 and "<!--" not in page and "A &lt;b> &amp; c" in page
    noise = np.random.default_rng(1).integers(0, 256, 500_000, np.uint8).tobytes()
    with pytest.raises(InputError, match="600 kB"):
        html("", {}, noise, "", "")
