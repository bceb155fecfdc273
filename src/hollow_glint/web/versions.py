"""Things that carry a version: an ETag on the way out, If-Match on the way in, and both versions where they differ."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from flask import Response, jsonify
from pydantic import BaseModel

from ..store.database import Stale
from .contract import StaleProblem, plain


def versioned(fields: dict[str, Any], model: type[BaseModel], status: int = 200) -> Response:
    """The fields as `model`, with their version as ETag."""
    answer: Response = jsonify(plain(fields, model))
    answer.status_code = status
    answer.headers["ETag"] = f'"{fields["version"]}"'
    return answer


def stale_problem(stale: Stale) -> Response:
    """412: what was changed has been changed since, with both versions."""
    kept = asdict(stale.now)
    # What is kept is an id, a version, and one thing with its fields.
    told = {name: value for name, value in kept.items() if not isinstance(value, dict)}
    for value in kept.values():
        told |= value if isinstance(value, dict) else {}
    document = StaleProblem(
        title="Changed elsewhere",
        status=412,
        detail=(
            f"This {stale.kind} has been changed elsewhere: you changed version {stale.yours}, and it is at version "
            f"{stale.now_version} now. Nothing was written. Look at both and keep one."
        ),
        yours=stale.yours,
        version=stale.now_version,
        now=told,
    )
    return Response(document.model_dump_json(), 412, mimetype="application/problem+json")
