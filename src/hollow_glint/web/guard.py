"""Who gets in: Host and Origin checks, and the headers that keep foreign scripts out of the page."""

from __future__ import annotations

import ipaddress
import socket
from urllib.parse import urlsplit

from flask import Response, request
from flask_openapi3 import OpenAPI

from .problems import problem

CONTENT_SECURITY_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; "
    "media-src blob:; "  # a film that somebody chose, taken apart in their own browser
    "connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
)
SECURITY_HEADERS = {
    "Content-Security-Policy": CONTENT_SECURITY_POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
}


def _host_name(host: str) -> str:
    """The name in a Host header, without port and brackets; empty if it cannot be read."""
    try:
        return (urlsplit(f"//{host}").hostname or "").rstrip(".").lower()
    except ValueError:
        return ""


def host_accepted(host: str, bound_to: str) -> bool:
    """Whether a Host header may be answered.

    Always: this machine by its loopback names, and the address asked for. Bound to every address (0.0.0.0 or ::) also
    this machine's own name and any literal address: names are what a rebinding attack needs.
    """
    name = _host_name(host)
    if name in ("localhost", "127.0.0.1", "::1", bound_to.lower()):
        return True
    if bound_to in ("0.0.0.0", "::"):
        if name in (socket.gethostname().lower(), socket.gethostname().lower() + ".local"):
            return True
        try:
            ipaddress.ip_address(name)
        except ValueError:
            return False
        return True
    return False


def register(app: OpenAPI, bound_to: str) -> None:
    """Guard every request to `app`, which is bound to the address `bound_to`."""

    @app.before_request
    def _check() -> Response | None:
        if not host_accepted(request.host, bound_to):
            return problem(403, f"This program does not answer to the host name {request.host[:80]!r}.")
        origin = request.headers.get("Origin")
        if origin is not None and origin != f"{request.scheme}://{request.host}":
            return problem(403, f"Requests from pages of {origin[:80]!r} are not answered.")
        if request.headers.get("Sec-Fetch-Site") == "cross-site" and request.path.startswith("/api/"):
            return problem(403, "Requests from pages of another site are not answered.")
        return None

    @app.after_request
    def _headers(response: Response) -> Response:
        response.headers.update(SECURITY_HEADERS)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response
