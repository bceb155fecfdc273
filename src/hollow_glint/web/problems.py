"""Every error as a problem document: a sentence that names the field, the value and what is accepted."""

from __future__ import annotations

import json
from typing import Any

from flask import Response, request
from flask_openapi3 import OpenAPI
from pydantic import BaseModel, ValidationError
from werkzeug.exceptions import HTTPException

from ..core.checks import InputError
from ..formats.recording_fields import MOST_FILE_BYTES
from ..store.database import InUse, NotFound
from . import card_contract, contract, drill_contract, reading_contract, strike_contract
from .contract import FieldProblem, Problem

TITLES = {
    400: "That could not be read",
    403: "Not from here",
    404: "Not there",
    405: "Not done that way",
    409: "In use",
    413: "Too large",
    415: "Not JSON",
    422: "A value cannot be accepted",
    500: "Something broke on our side",
    503: "Full",
}


def problem(status: int, detail: str, errors: list[FieldProblem] | None = None) -> Response:
    """A problem response with this status and sentence."""
    document = Problem(title=TITLES.get(status, "Problem"), status=status, detail=detail, errors=errors or [])
    return Response(document.model_dump_json(), status, mimetype="application/problem+json")


CONTRACTS = (contract, card_contract, reading_contract, drill_contract, strike_contract)
# Where files that are no JSON are taken in, and how large they may be.
TAKES_FILES = {"/api/recordings/file": MOST_FILE_BYTES}
UNITS = {"_m": "m", "_c": "degrees C", "_m_s": "m/s"}


def _accepted(error: dict[str, Any], model: str) -> str:
    """What would have been accepted, from the model's own schema where it says, else in pydantic's words."""
    known = next((getattr(one, model) for one in CONTRACTS if hasattr(one, model)), None)
    schema = known.model_json_schema() if isinstance(known, type) and issubclass(known, BaseModel) else {}
    for part in error["loc"]:
        schema = _resolve(schema, schema).get("properties", {}).get(part, {}) | {"$defs": schema.get("$defs", {})}
    options = [schema, *schema.get("anyOf", [])]
    field = str(error["loc"][-1]) if error["loc"] else ""
    unit = next((f" {name}" for ending, name in UNITS.items() if field.endswith(ending)), "")
    for option in options:
        if "minimum" in option and "maximum" in option:
            return f"accepted are numbers from {option['minimum']:g} to {option['maximum']:g}{unit}"
        if "enum" in option:
            return f"accepted are {', '.join(map(str, option['enum']))}"
        if "maxLength" in option:
            return f"accepted is text of {option.get('minLength', 0)} to {option['maxLength']} characters"
    said = error["msg"][0].lower() + error["msg"][1:]
    return said.replace("input should be", "it must be")


def _resolve(schema: dict[str, Any], root: dict[str, Any]) -> dict[str, Any]:
    """The schema itself, or the one it refers to."""
    for option in (schema, *schema.get("anyOf", [])):
        if "$ref" in option:
            found: dict[str, Any] = root.get("$defs", {}).get(option["$ref"].rsplit("/", 1)[-1], {})
            return found
    return schema


def _field_problem(error: dict[str, Any], model: str) -> FieldProblem:
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
    """A value as it was sent, cut so that a hostile one cannot fill the answer."""
    try:
        text = json.dumps(value, ensure_ascii=False)
    except (TypeError, ValueError):
        text = repr(value)
    return text if len(text) <= 60 else text[:57] + "..."


def invalid(error: ValidationError) -> Response:
    """422 for a body, path or query that does not meet its model; all wrong fields at once."""
    errors = [_field_problem(dict(one), error.title) for one in error.errors()]
    return problem(422, " ".join(one.message for one in errors), errors)


def input_error(error: InputError) -> Response:
    """422 for a value that the core refuses; its sentences already name field, value and what is accepted."""
    parts = [part.strip().rstrip(".") + "." for part in str(error).split("; ")]
    errors = [FieldProblem(field=part.split(" ", 1)[0], value="", message=part) for part in parts]
    return problem(422, " ".join(parts), errors)


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is not a JSON number")


def _most_bytes(path: str) -> str:
    return f"{TAKES_FILES[path] // 2**20} MB" if path in TAKES_FILES else "64 kB"


def register(app: OpenAPI) -> None:
    """Answer every error of `app` as a problem document."""

    @app.before_request
    def _readable() -> Response | None:
        # Asked here because a body that cannot be read would else look like an empty one.
        if request.method not in ("POST", "PUT", "PATCH") or request.routing_exception is not None:
            return None
        if request.path in TAKES_FILES:
            request.max_content_length = TAKES_FILES[request.path]
            return None
        if not request.is_json:
            return problem(415, "Send the body as JSON, with the content type application/json.")
        try:
            body = json.loads(request.get_data(), parse_constant=_no_constant)
        except RecursionError:
            return problem(400, "The body is not JSON that can be read: it is nested too deeply.")
        except ValueError as wrong:
            return problem(400, f"The body is not JSON: {wrong}.")
        if not isinstance(body, dict):
            return problem(422, f"The body is {_shown(body)}: a JSON object with named fields is accepted.")
        return None

    @app.errorhandler(NotFound)
    def _missing(error: NotFound) -> Response:
        return problem(404, str(error))

    @app.errorhandler(InUse)
    def _in_use(error: InUse) -> Response:
        return problem(409, str(error))

    @app.errorhandler(InputError)
    def _wrong(error: InputError) -> Response:
        return input_error(error)

    @app.errorhandler(HTTPException)
    def _http(error: HTTPException) -> Response:
        status = error.code or 500
        said = {
            400: "The body could not be read as JSON.",
            404: "There is nothing at this address.",
            405: "This address does not take that method.",
            413: f"The body is too large; {_most_bytes(request.path)} is accepted.",
            415: "Send the body as application/json.",
        }
        response = problem(status, said.get(status, error.description or "The request could not be answered."))
        for name, value in error.get_headers():
            if name.lower() == "allow":
                response.headers[name] = value
        return response

    @app.errorhandler(Exception)
    def _broken(error: Exception) -> Response:
        app.logger.exception("A request failed", exc_info=error)
        return problem(500, "The program met an error of its own. Nothing was written. Try again; the log has more.")
