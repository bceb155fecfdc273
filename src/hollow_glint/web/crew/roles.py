"""Who asks: the host at this machine, a second host, a member, or a stranger; and what each of them is answered.

What is not named here is the host's alone, so an address that is added tomorrow is closed until somebody opens it.
"""

from __future__ import annotations

import ipaddress
from typing import Literal

from flask import Response, g, request
from flask_openapi3 import OpenAPI

from ...core.crew.invitation import sha256
from ...store import crew
from ..database import database
from ..problems import problem

NO_CREW = "The program was not started for a crew: `hollow-glint serve --crew` is."
COOKIE = "hollow_glint_crew"
Who = Literal["host", "second host", "member", "stranger"]
STRANGER = frozenset({"crew.join_crew", "crew_page", "crew_file"})
MEMBER = STRANGER | frozenset({
    "crew.get_board", "crew.wait_for_news", "crew.call_fish", "crew.call_in", "crew.keep_notes", "crew.change_me",
    "crew.leave_crew", "crew.get_crew_sheet",
})  # fmt: skip
SECOND_HOST = MEMBER | frozenset({"crew.invite", "crew.end_member", "crew.set_works"})
ALLOWED: dict[Who, frozenset[str]] = {"second host": SECOND_HOST, "member": MEMBER, "stranger": STRANGER}


def is_here(address: str | None) -> bool:
    """Whether a connection comes from this machine itself."""
    try:
        return ipaddress.ip_address((address or "").split("%", 1)[0]).is_loopback
    except ValueError:
        return False


def who_asks() -> tuple[Who, crew.Member | None]:
    """Who this request is from."""
    if is_here(request.remote_addr):
        return "host", None
    token = request.cookies.get(COOKIE, "")
    member = crew.by_token(database(), sha256(token)) if token else None
    return ("stranger", None) if member is None else (member.role, member)


def me() -> crew.Member | None:
    """The member that asks; None for the host at this machine."""
    member: crew.Member | None = g.get("crew_member")
    return member


def my_name() -> str:
    """What the asker is called."""
    member = me()
    return "Host" if member is None else member.name


def register(app: OpenAPI) -> None:
    """Ask of every request to `app` who it is from, before anything of it is read."""

    @app.before_request
    def _check() -> Response | None:
        if not app.config["crew"]:
            # Without a crew there is nobody but the host, and nothing of a crew.
            g.crew_member = None
            is_crews = request.endpoint and request.endpoint.startswith("crew.")
            return problem(409, NO_CREW) if is_crews else None
        who, g.crew_member = who_asks()
        g.crew_who = who
        if who == "host" or (request.endpoint or "") in ALLOWED[who]:
            return None
        if who == "stranger":
            return problem(401, "You are not in this crew. Ask its host for an invitation.")
        return problem(403, "That is the host's alone.")
