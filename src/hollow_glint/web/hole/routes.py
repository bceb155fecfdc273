"""The holes people drilled, with their ice, depth and bottom."""

from __future__ import annotations

from typing import Any

from flask import Response

from ...core.fields import from_fields
from ...core.hole.hole import Hole
from ...store import holes
from ...store.holes import KeptHole
from ..blueprint import StepBlueprint
from ..contract import BODY, HolePath, IfMatch, Removed, StaleProblem, answers
from ..database import database
from ..versions import versioned
from .contract import HoleFields, HoleList, HoleOut

api = StepBlueprint("hole", __name__, "Hole")


def _out(kept: KeptHole) -> dict[str, Any]:
    return {"id": kept.id, "version": kept.version, **vars(kept.hole)}


@api.get("/holes", responses=answers(200, HoleList))
def list_holes() -> dict[str, Any]:
    """All holes."""
    return {"holes": [_out(one) for one in holes.every(database())]}


@api.post("/holes", responses=answers(201, HoleOut, *BODY))
def add_hole(body: HoleFields) -> Response:
    """Add a hole."""
    hole = from_fields(Hole, body.model_dump(), "the hole")
    return versioned(_out(holes.add(database(), hole)), HoleOut, 201)


@api.get("/holes/<int:hole_id>", responses=answers(200, HoleOut, 404))
def get_hole(path: HolePath) -> Response:
    """One hole; its ETag is its version."""
    return versioned(_out(holes.get(database(), path.hole_id)), HoleOut)


@api.put("/holes/<int:hole_id>", responses=answers(200, HoleOut, 404, *BODY) | {412: StaleProblem})
def change_hole(path: HolePath, header: IfMatch, body: HoleFields) -> Response:
    """Change a hole: all its fields, if it is still at the version given."""
    hole = from_fields(Hole, body.model_dump(), "the hole")
    return versioned(_out(holes.change(database(), KeptHole(path.hole_id, header.version, hole))), HoleOut)


@api.delete("/holes/<int:hole_id>", responses=answers(200, Removed, 404, 409))
def remove_hole(path: HolePath) -> dict[str, Any]:
    """Remove a hole at which nothing is logged."""
    return {"removal": holes.remove(database(), path.hole_id)}
