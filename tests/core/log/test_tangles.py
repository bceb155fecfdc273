"""What was used only together is said to be tangled, and the outing that would tell is proposed."""

from __future__ import annotations

import itertools

from hollow_glint.core.log.effort import Effort, table_of
from hollow_glint.core.log.patterns import patterns
from hollow_glint.core.log.tangles import tangles


def efforts(*cells: tuple[str, str, float, int]) -> list[Effort]:
    return [
        Effort(hours / 4.0, count, {"lure": lure, "light": light}, f"h{k}")
        for lure, light, hours, count in cells
        for k in range(4)
    ]


def test_a_lure_that_was_only_used_at_dusk_is_tangled_and_never_called_better():
    found = patterns(efforts(("spoon", "dusk", 20.0, 12), ("jig", "day", 20.0, 2)))
    (tangle,) = found.tangled
    assert {tangle.first, tangle.second} == {"lure", "light"}
    assert tangle.level in ("spoon", "jig", "dusk", "day") and tangle.rod_hours == 20.0
    assert {one.says for levels in found.factors.values() for one in levels.values()} == {"no telling"}


def test_the_outing_that_is_proposed_untangles():
    cells = [("spoon", "dusk", 20.0, 12), ("jig", "day", 20.0, 2)]
    (tangle,) = patterns(efforts(*cells)).tangled
    assert tangle.outing
    fished = [
        Effort(one.rod_hours, 3, {tangle.first: one.first, tangle.second: one.second}, "new") for one in tangle.outing
    ]
    assert patterns(efforts(*cells) + fished).tangled == ()


def test_factors_that_were_used_in_every_way_are_not_tangled():
    cells = [(lure, light, 5.0, 1) for lure, light in itertools.product(("spoon", "jig", "minnow"), ("day", "dusk"))]
    assert patterns(efforts(*cells)).tangled == ()


def test_a_lure_only_used_at_dusk_beside_others_used_then_too_can_be_told():
    found = patterns(efforts(("spoon", "dusk", 10.0, 12), ("jig", "dusk", 10.0, 1), ("jig", "day", 10.0, 1)))
    assert found.tangled == () and found.factors["lure"]["spoon"].says == "better"


def test_one_of_many_levels_may_be_tangled_alone():
    cells = [(lure, light, 8.0, 1) for lure, light in itertools.product(("spoon", "jig"), ("day", "dusk"))]
    table = table_of(efforts(*cells, ("minnow", "night", 8.0, 4)))
    (tangle,) = tangles(table, 1.0)
    assert {tangle.level, tangle.along_with} == {"minnow", "night"}


def test_a_factor_of_one_level_and_what_is_not_known_are_not_tangled():
    rows = [Effort(2.0, 1, {"bottom": "mud"} | ({"lure": "jig"} if k % 2 else {}), f"h{k}") for k in range(8)]
    assert patterns(rows).tangled == ()
