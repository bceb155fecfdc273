"""Files given out: text or bytes that a browser saves under a name."""

from __future__ import annotations

from flask import Response

TYPES = {"json": "application/json", "csv": "text/csv", "nc": "application/x-netcdf"}


def attachment(content: str | bytes, name: str) -> Response:
    """`content` as a file called `name`; its ending says what it is."""
    answer = Response(content, mimetype=TYPES[name.rsplit(".", 1)[-1]])
    answer.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer
