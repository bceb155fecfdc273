"""What was removed from any step, brought back."""

from __future__ import annotations

from ..formats.mirror import Described
from ..store import removals
from .blueprint import StepBlueprint
from .contract import RowId, answers
from .database import database

api = StepBlueprint("removals", __name__, "Removals")


class RemovalPath(Described):
    removal_id: RowId


@api.post("/removals/<int:removal_id>/undo", responses=answers(204, None, 404, 409))
def undo(path: RemovalPath) -> tuple[str, int]:
    """Bring back what was removed, with all that went with it. The last dozen removals are kept."""
    removals.undo(database(), path.removal_id)
    return "", 204
