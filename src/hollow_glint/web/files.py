"""Files given out: text or bytes that a browser saves under a name."""

from __future__ import annotations

import re
import unicodedata
from urllib.parse import quote

from flask import Response

TYPES = {
    "json": "application/json",
    "csv": "text/csv",
    "nc": "application/x-netcdf",
    "gpx": "application/gpx+xml",
    "geojson": "application/geo+json",
    "asc": "text/plain",
    "ics": "text/calendar",
    "zip": "application/zip",
    "html": "text/html",
}


def attachment(content: str | bytes, name: str, otherwise: str, kind: str) -> Response:
    """`content` as a file of a `kind` ("json") that is called after what it holds, or `otherwise` where that has no
    letters; in letters that every system takes, and in its own for those that take them (RFC 6266)."""
    own = re.sub(r"[^\w]+", "-", name.lower()).strip("-_")[:60] or otherwise
    plain = unicodedata.normalize("NFKD", own).encode("ascii", "ignore").decode().strip("-_") or otherwise
    answer = Response(content, mimetype=TYPES[kind])
    answer.headers["Content-Disposition"] = (
        f"attachment; filename=\"{plain}.{kind}\"; filename*=UTF-8''{quote(f'{own}.{kind}')}"
    )
    return answer
