"""The coach: what is wrong with how the sonar hangs and how it is set, worst first, one change each.

Its rules stand in `verdicts/`, by subject. All their thresholds without a source named are common practice or ours;
they are here to be argued with.
"""

from __future__ import annotations

from . import verdicts as every_rule
from .situation import Situation
from .verdict import CODES, RULES, Verdict

__all__ = ["CODES", "Verdict", "every_rule", "verdicts"]


def verdicts(situation: Situation) -> tuple[Verdict, ...]:
    """What is wrong, worst first; empty when there is nothing to change."""
    found = [judge(situation) for judge in RULES]
    return tuple(sorted((v for v in found if v is not None), key=lambda v: (-v.severity, v.code)))
