"""A pocket sheet of one depth: for tests that ask for many, or for what stands round its tables."""

from __future__ import annotations

from hollow_glint.core.fan.card import FanKnown, fan_card
from hollow_glint.core.pocket.along import DEPTHS_M
from hollow_glint.core.pocket.fan_cards import FanThere
from hollow_glint.core.pocket.tables import Tables, Task, worked_off
from hollow_glint.web.pocket import routes

ONE = DEPTHS_M.index(8.0)


def tabled(along, tell, run) -> Tables:
    """The card of one depth, at every depth."""
    tell(0.5)
    return Tables(along, {one: worked_off(Task(along, one, (ONE,))) * len(DEPTHS_M) for one in along.combinations()})


def fans(head, clarity, lights, ice_m, tell) -> list[FanThere]:
    """One of the fan's cards."""
    return [FanThere("fish", lights[0], 8.0, fan_card(FanKnown(8.0, "fish", clarity, lights[0], ice_m=0.3), head))]


def at_one_depth(set_to=setattr) -> None:
    """Have the program work out no more than that."""
    set_to(routes, "tabled", tabled)
    set_to(routes, "fan_cards", fans)
