"""A verdict: one finding about how the sonar hangs or is set, with its number and the one change that settles it."""

from __future__ import annotations

from dataclasses import dataclass, field

from ..wording import Change, Quantity


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
