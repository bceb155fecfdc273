"""A verdict: one finding about how the sonar hangs or is set, with its number and the one change that settles it.

A rule is a function of a situation under `verdicts/`, marked with `@rule` and the codes it may give; nothing else has
to be told of it. The codes together are the closed list that the page knows.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import wraps

from ..wording import Change, Quantity
from .situation import Situation


@dataclass(frozen=True)
class Verdict:
    """One finding. `{names}` in the two sentences stand for `values`, written out at the face.

    severity   larger is worse; the coach speaks of the worst alone
    """

    code: str
    severity: float
    finding: str
    reason: str
    values: dict[str, Quantity] = field(default_factory=dict)
    change: Change | None = None


Rule = Callable[[Situation], Verdict | None]
RULES: list[Rule] = []
CODES: list[str] = []


def rule(*codes: str) -> Callable[[Rule], Rule]:
    """Mark a function as one of the coach's rules; `codes` are those of the verdicts that it may give."""

    def marked(judge: Rule) -> Rule:
        @wraps(judge)
        def judged(s: Situation) -> Verdict | None:
            found = judge(s)
            assert found is None or found.code in codes, f"{judge.__name__} gives {found}, which it did not name"
            return found

        RULES.append(judged)
        CODES.extend(code for code in codes if code not in CODES)
        return judged

    return marked
