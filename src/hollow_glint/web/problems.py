"""Every error as a problem document: a sentence that names the field, the value and what is accepted."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator
from typing import Any

from flask import Response, current_app, request
from flask_openapi3 import OpenAPI
from pydantic import BaseModel, ValidationError
from werkzeug.exceptions import HTTPException

from ..core.checks import InputError
from ..formats.mirror import Described, schema_of
from ..formats.photo_file import MOST_PHOTO_BYTES
from ..formats.recording_fields import MOST_FILE_BYTES
from ..store.database import InUse, NotFound, Stale, words_for
from .contract import FieldProblem, Problem
from .lives import Full, Gone
from .versions import stale_problem

TITLES = {
    400: "That could not be read",
    401: "Not in this crew",
    403: "Not from here",
    404: "Not there",
    405: "Not done that way",
    408: "Too slow",
    409: "In use",
    412: "Changed elsewhere",
    413: "Too large",
    415: "Not JSON",
    422: "A value cannot be accepted",
    429: "Too many tries",
    500: "Something broke on our side",
    501: "Not known",
    503: "Busy",
    507: "Disk full",
}

NESTED = "is not JSON that can be read: it is nested too deeply."
MOST_DEPTH = 40  # how deep a body may be nested; nothing that is accepted comes near it


def problem(status: int, detail: str, errors: list[FieldProblem] | None = None) -> Response:
    """A problem response with this status and sentence."""
    document = Problem(title=TITLES.get(status, "Problem"), status=status, detail=detail, errors=errors or [])
    return Response(document.model_dump_json(), status, mimetype="application/problem+json")


# Where files that are no JSON are taken in, and how large they may be.
TAKES_FILES = {
    "/api/recordings/file": MOST_FILE_BYTES,
    "/api/log/file": 64 * 2**20,
    "/api/backup": 512 * 2**20,
}
# Where a photo is taken in, with what is said of it beside.
TAKES_PHOTOS = {
    "photos.read_levels": MOST_PHOTO_BYTES,
    "photos.find_photo_corners": MOST_PHOTO_BYTES,
    "photos.find_photo_ring": MOST_PHOTO_BYTES,
    "photos.keep_photo_recording": MOST_PHOTO_BYTES,
    "photos.keep_ring_recording": 96 * 2**20,  # a film's pictures
}
# Where JSON may be larger than elsewhere: a lake has many soundings.
TAKES_MUCH = {
    "trip.find_surface": 4 * 2**20,
    "lake_files.look_at_file": 20 * 2**20,
    "lake_files.take_file": 20 * 2**20,
    "sharing.take_shared": 20 * 2**20,
    "pocket.take_notes": 20 * 2**20,
    "crew.keep_notes": 2**20,
    "log.find_patterns": 4 * 2**20,
    "log_files.take_weather": 20 * 2**20,
}
TAKES_NOTHING = frozenset(
    {
        "runs.end_run",
        "removals.undo",
        "outings.leave_hole",
        "crew.leave_crew",
        "crew.invite",
        "crew.end_crew",
    }
)  # a POST that needs no body


def _accepted(error: dict[str, Any], model: type[BaseModel] | None) -> str:
    """What would have been accepted, from the model's own schema where it says, else in pydantic's words."""
    schema = {} if model is None else schema_of(model)
    for part in error["loc"]:
        found = _resolve(schema, schema)
        found = found.get("items", {}) if isinstance(part, int) else found.get("properties", {}).get(part, {})
        schema = found | {"$defs": schema.get("$defs", {})}
    for option in (schema, *schema.get("anyOf", [])):
        unit = f" {option['x-unit']}" if "x-unit" in option else ""
        if "minimum" in option and "maximum" in option:
            return f"accepted are numbers from {option['minimum']:g} to {option['maximum']:g}{unit}"
        if "x-accepted" in option:
            return f"accepted is {option['x-accepted']}"
        if "enum" in option:
            return f"accepted are {', '.join(map(str, option['enum']))}"
        if "maxLength" in option:
            return f"accepted is text of {option.get('minLength', 0)} to {option['maxLength']} characters"
    said = str(error["msg"][0].lower() + error["msg"][1:])
    return said.replace("input should be", "it must be")


def _models(base: type[BaseModel]) -> Iterator[tuple[str, type[BaseModel]]]:
    for one in base.__subclasses__():
        yield one.__name__, one
        yield from _models(one)


class _Models:
    """The contract's models by name. Looked up when first asked for, when all contracts have been read."""

    def get(self, name: str) -> type[BaseModel] | None:
        """The model of this name that has most to say: mirrors keep the name of what they were made of."""
        found = [model for called, model in _models(Described) if called == name]
        return max(found, key=lambda model: len(model.model_fields), default=None)


MODELS = _Models()


def _resolve(schema: dict[str, Any], root: dict[str, Any]) -> dict[str, Any]:
    """The schema itself, or the one it refers to."""
    for option in (schema, *schema.get("anyOf", [])):
        if "$ref" in option:
            found: dict[str, Any] = root.get("$defs", {}).get(option["$ref"].rsplit("/", 1)[-1], {})
            return found
    return schema


def _field_problem(error: dict[str, Any], model: type[BaseModel] | None) -> FieldProblem:
    field = ".".join(str(part) for part in error["loc"]) or "body"
    value = "" if error["type"] == "missing" else _shown(error["input"])
    if error["type"] == "missing":
        message = f"{field} is missing: {_accepted(error, model).replace('field required', 'a value is needed')}."
    elif error["type"] == "extra_forbidden":
        message = f"{field} is not a field known here."
    else:
        message = f"{field} is {value}: {_accepted(error, model)}."
    return FieldProblem(field=field, value=value, message=message)


def _shown(value: Any) -> str:
    """A value as it was sent, cut so that a hostile one cannot fill the answer, in letters that can be sent."""
    try:
        text = json.dumps(value, ensure_ascii=False)
    except (TypeError, ValueError, RecursionError):
        text = type(value).__name__
    text = text if len(text) <= 60 else text[:57] + "..."
    return text.encode("utf-8", "replace").decode()


def _too_deep(body: Any) -> bool:
    """Whether a body is nested deeper than anything that is accepted."""
    layer, depth = [body], 0
    while layer:
        depth += 1
        if depth > MOST_DEPTH:
            return True
        layer = [
            inner
            for one in layer
            if isinstance(one, (dict, list))
            for inner in (one.values() if isinstance(one, dict) else one)
            if isinstance(inner, (dict, list))
        ]
    return False


def invalid(error: ValidationError) -> Response:
    """422 for a body, path or query that does not meet its model; all wrong fields at once."""
    model = MODELS.get(error.title)
    errors = [_field_problem(dict(one), model) for one in error.errors()]
    return problem(422, " ".join(one.message for one in errors), errors)


def input_error(error: InputError) -> Response:
    """422 for a value that the core refuses; its sentences already name field, value and what is accepted."""
    parts = [part.strip().rstrip(".") + "." for part in str(error).split("; ")]
    errors = [FieldProblem(field=part.split(" ", 1)[0].rstrip(":"), value="", message=part) for part in parts]
    return problem(422, " ".join(parts), errors)


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is not a JSON number")


def _most_bytes() -> str:
    most = (
        TAKES_PHOTOS.get(request.endpoint or "")
        or TAKES_FILES.get(request.path)
        or TAKES_MUCH.get(request.endpoint or "")
    )
    return "64 kB" if most is None else f"{most // 2**20} MB"


def register(app: OpenAPI) -> None:
    """Answer every error of `app` as a problem document."""
    app.before_request(_unreadable)
    plain: dict[type[Exception], int] = {NotFound: 404, InUse: 409, Full: 503, Gone: 404}
    for kind, status in plain.items():
        app.register_error_handler(kind, lambda error, status=status: problem(status, str(error)))
    app.register_error_handler(Stale, stale_problem)
    app.register_error_handler(InputError, input_error)
    app.register_error_handler(sqlite3.Error, _store)
    app.register_error_handler(HTTPException, _http)
    app.register_error_handler(Exception, _broken)


def _unreadable() -> Response | None:
    """What is wrong with a body before anything reads it: one that cannot be read would else look like an empty one."""
    if request.method not in ("POST", "PUT", "PATCH") or request.routing_exception is not None:
        return None
    if request.path in TAKES_FILES:
        request.max_content_length = TAKES_FILES[request.path]
        return None
    if request.endpoint in TAKES_PHOTOS:
        request.max_content_length = TAKES_PHOTOS[request.endpoint] + 2**17
        if request.mimetype != "multipart/form-data":
            return problem(415, "Send the photo as multipart/form-data, in the part named photo.")
        return _unreadable_text(request.form.get("about", "{}"), "about")
    if request.endpoint in TAKES_MUCH:
        request.max_content_length = TAKES_MUCH[request.endpoint]
    if request.endpoint in TAKES_NOTHING and not request.content_length:
        return None
    if not request.is_json:
        return problem(415, "Send the body as JSON, with the content type application/json.")
    return _unreadable_text(request.get_data(), "The body")


def _unreadable_text(text: str | bytes, called: str) -> Response | None:
    """What is wrong with JSON that was sent, if anything."""
    try:
        body = json.loads(text, parse_constant=_no_constant)
    except RecursionError:
        return problem(400, f"{called} {NESTED}")
    except ValueError as wrong:
        return problem(400, f"{called} is not JSON: {wrong}.")
    if _too_deep(body):
        return problem(400, f"{called} {NESTED}")
    if not isinstance(body, dict):
        return problem(422, f"{called} is {_shown(body)}: a JSON object with named fields is accepted.")
    return None


def _store(error: sqlite3.Error) -> Response:
    trouble = words_for(error)
    current_app.logger.warning("The store: %s", error)
    answer = problem({"full": 507}.get(trouble.kind, 503), trouble.sentence)
    answer.headers["Retry-After"] = "2"
    return answer


def _http(error: HTTPException) -> Response:
    status = error.code or 500
    said = {
        400: "The body could not be read as JSON.",
        404: "There is nothing at this address.",
        405: "This address does not take that method.",
        413: f"The body is too large; {_most_bytes()} is accepted.",
        415: "Send the body as application/json.",
    }
    response = problem(status, said.get(status, error.description or "The request could not be answered."))
    for name, value in error.get_headers():
        if name.lower() == "allow":
            response.headers[name] = value
    return response


def _broken(error: Exception) -> Response:
    current_app.logger.exception("A request failed", exc_info=error)
    return problem(500, "The program met an error of its own. Nothing was written. Try again; the log has more.")
