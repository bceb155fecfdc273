"""The Hole step: the holes people drilled, with their ice, depth and bottom."""

from __future__ import annotations

from typing import Any

from flask import current_app
from flask_openapi3 import APIBlueprint, Tag

from ..store import holes
from .contract import BODY_PROBLEMS, HoleFields, HoleList, HoleOut, HolePath, Problem, plain

api = APIBlueprint("hole", __name__, url_prefix="/api", abp_tags=[Tag(name="Hole")])


def _hole(body: HoleFields, hole_id: int) -> holes.Hole:
    return holes.Hole(id=hole_id, **body.model_dump())


@api.get("/holes", responses={200: HoleList})
def list_holes() -> dict[str, Any]:
    """All holes."""
    return {"holes": [plain(hole, HoleOut) for hole in holes.every(current_app.config["database"])]}


@api.post("/holes", responses={201: HoleOut, **BODY_PROBLEMS})
def add_hole(body: HoleFields) -> tuple[dict[str, Any], int]:
    """Add a hole."""
    return plain(holes.add(current_app.config["database"], _hole(body, 0)), HoleOut), 201


@api.get("/holes/<int:hole_id>", responses={200: HoleOut, 404: Problem})
def get_hole(path: HolePath) -> dict[str, Any]:
    """One hole."""
    return plain(holes.get(current_app.config["database"], path.hole_id), HoleOut)


@api.put("/holes/<int:hole_id>", responses={200: HoleOut, 404: Problem, **BODY_PROBLEMS})
def change_hole(path: HolePath, body: HoleFields) -> dict[str, Any]:
    """Change a hole: all its fields."""
    return plain(holes.change(current_app.config["database"], _hole(body, path.hole_id)), HoleOut)


@api.delete("/holes/<int:hole_id>", responses={204: None, 404: Problem, 409: Problem})
def remove_hole(path: HolePath) -> tuple[str, int]:
    """Remove a hole at which nothing is logged."""
    holes.remove(current_app.config["database"], path.hole_id)
    return "", 204
