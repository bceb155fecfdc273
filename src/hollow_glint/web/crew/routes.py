"""The crew board: come in by an invitation, see where fish are from one's own hole, note, call in; host it."""

from __future__ import annotations

import io
import secrets
import threading
import time
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Any

from flask import Response, current_app, jsonify, request

from ...core.crew.call import CrewHole, FishCall, call_from
from ...core.crew.invitation import LASTS_S, TOKEN_BYTES, WORD_COUNT, Guesses, Invitation, sha256, six_words
from ...core.fields import from_fields
from ...core.fish.strike_sheet import HAPPENED, Happened, suggest
from ...formats import pocket_notes
from ...store import crew, lake_things, lakes, pocket
from ..blueprint import StepBlueprint
from ..contract import BODY, answers, plain
from ..database import database, utc
from ..files import attachment
from ..pocket.routes import clock_and_sun
from ..problems import problem
from .contract import (
    BoardOut,
    ComeInFields,
    CrewCallFields,
    CrewDayFields,
    CrewNotesIn,
    CrewNotesKept,
    InvitationOut,
    JoinWanted,
    MeFields,
    MemberPath,
    NewsOut,
    NewsQuery,
    RoleFields,
    WorksFields,
)
from .roles import COOKIE, me, my_name

api = StepBlueprint("crew", __name__, "Crew")
STAYS_S = 20 * 3600  # of a cookie: a long day
WAITS_EACH = 2
CALLS_LAST_MIN, MOST_CALLS, MOST_SAID = 30.0, 6, 40
TODAY_S = 12 * 3600.0


class News:
    """Wakes whoever waits for something to be said. Safe from many threads."""

    def __init__(self) -> None:
        self._something = threading.Condition()
        self._waiting: Counter[int] = Counter()
        self.guesses = Guesses()
        self.guessing = threading.Lock()

    def told(self) -> None:
        """Something was said."""
        with self._something:
            self._something.notify_all()

    def wait(self, seconds: float) -> None:
        """Until something is said, or so long."""
        with self._something:
            self._something.wait(seconds)

    @contextmanager
    def place(self, member_id: int | None) -> Iterator[bool]:
        """Whether a member may wait: a page and one that is left behind, and not as many as take every thread. The host
        always may."""
        if member_id is None:
            yield True
            return
        with self._something:
            self._waiting[member_id] += 1
            free = self._waiting[member_id] <= WAITS_EACH
        try:
            yield free
        finally:
            with self._something:
                self._waiting[member_id] -= 1


def _news() -> News:
    news: News = current_app.config["crew_news"]
    return news


def _say(kind: crew.EventKind, body: dict[str, Any], who: str | None = None) -> int:
    number = crew.say(database(), utc(), my_name() if who is None else who, kind, body)
    _news().told()
    return number


@api.post("/crew/join", responses=answers(201, NewsOut, 409, *BODY))
def join_crew(body: JoinWanted) -> Response:
    """Come in by an invitation. Wrong guesses are slowed, and after a dozen not heard any more for half an hour."""
    news, address, now = _news(), request.remote_addr or "", time.time()
    with news.guessing:  # one after the other: who asks a hundred times at once gets no further than who asks slowly
        wait = news.guesses.wait_s(address, now)
        if wait is None or wait > 0.0:
            said = "Too many wrong guesses came from here, or from everywhere: ask the host for a new invitation later."
            answer = problem(429, said if wait is None else f"Wait {wait:.0f} s before the next try.")
            answer.headers["Retry-After"] = str(1800 if wait is None else max(round(wait), 1))
            return answer
        token = secrets.token_urlsafe(32)
        member = crew.come_by(database(), body.given, body.name, sha256(token), utc(), now)
        if member is None:
            news.guesses = news.guesses.with_wrong(address, now)
            return problem(
                403, "No invitation is opened by that. It may have ended, or somebody has come by it already."
            )
    _say("joined", {}, member.name)
    answer = jsonify(plain({"last": crew.last(database())}, NewsOut))
    answer.status_code = 201
    answer.set_cookie(
        COOKIE, token, max_age=STAYS_S, httponly=True, samesite="Strict", secure=request.is_secure, path="/"
    )
    return answer


@api.get("/crew/board", responses=answers(200, BoardOut, 409))
def get_board() -> dict[str, Any]:
    """What a member sees: calls turned to their own hole, who is where, what works, what to try next."""
    store, member, now = database(), me(), datetime.now(UTC)
    if member is not None:
        member = crew.change(store, member.id, utc())
    stands = crew.state(store)
    holes = _holes(stands.lake_id)
    species = str(stands.works.get("species", "whitefish"))
    lake = "" if stands.lake_id is None else lakes.get(store, stands.lake_id).lake.name
    found = suggest(_happened(species, now), species, 0.0)
    return plain(
        {
            "last": crew.last(store), "me": member, "may_host": member is None or member.role == "second host",
            "lake": lake, "members": crew.members(store), "holes": holes,
            "calls": _calls(None if member is None else member.hole, holes, now), "come_in": stands.come_in,
            "works": WorksFields(**stands.works),
            "try_next": {"trying": found.trying, "do": found.do, "why": found.why},
            "lines": stands.lines, "said": crew.said_after(store, 0, ("note", "joined", "moved", "gone"), MOST_SAID),
            "has_sheet": current_app.config.get("crew_sheet") is not None,
        },
        BoardOut,
    )  # fmt: skip


def _holes(lake_id: int | None) -> list[CrewHole]:
    if lake_id is None:
        return []
    placed = lake_things.holes_on(database(), lake_id)
    names: dict[str, int] = {}
    found = []
    for one in placed:
        names[one.name] = names.get(one.name, 0) + 1
        name = one.name if names[one.name] == 1 else f"{one.name} ({names[one.name]})"
        found.append(CrewHole(name, one.east_m, one.north_m))
    return found


def _calls(own: CrewHole | None, holes: list[CrewHole], now: datetime) -> list[dict[str, Any]]:
    """The calls of the last half hour, newest first."""
    found = []
    for one in reversed(crew.said_after(database(), 0, ("call",), MOST_CALLS)):
        if (now - datetime.fromisoformat(one.at)).total_seconds() > 60.0 * CALLS_LAST_MIN:
            continue
        call = from_fields(FishCall, one.body, "the call")
        others = [hole for hole in holes if own is None or hole.name != own.name]
        here = None if own is None else call_from(own, call, others)
        found.append({"id": one.id, "at": one.at, "who": one.who, "call": one.body, "here": here})
    return found


def _happened(species: str, now: datetime) -> list[Happened]:
    """What the crew noted today."""
    found = []
    for one in crew.said_after(database(), 0, ("note",), 500):
        told = one.body.get("happening") or {}
        ago = (now - datetime.fromisoformat(str(told.get("at", one.at)))).total_seconds()
        if told.get("kind") in HAPPENED and told.get("trying") and told.get("species") == species and ago < TODAY_S:
            found.append(Happened(max(ago, 0.0), told["kind"], told["trying"], told.get("depth_m")))
    return found


@api.get("/crew/news", responses=answers(200, NewsOut, 409, 422))
def wait_for_news(query: NewsQuery) -> dict[str, Any]:
    """The number of what was said last, as soon as that is beyond `after`, or when the wait is over."""
    member = me()
    with _news().place(None if member is None else member.id) as free:
        ends = time.monotonic() + (query.wait_s if free else 0.0)
        while (last := crew.last(database())) <= query.after and (left := ends - time.monotonic()) > 0.0:
            _news().wait(min(left, 5.0))
    return {"last": last}


@api.post("/crew/calls", responses=answers(201, NewsOut, 409, *BODY))
def call_fish(body: CrewCallFields) -> tuple[dict[str, Any], int]:
    """Say where fish are now."""
    call = from_fields(FishCall, body.model_dump(), "the call")
    return {"last": _say("call", asdict(call))}, 201


@api.post("/crew/come-in", responses=answers(201, NewsOut, 409, *BODY))
def call_in(body: ComeInFields) -> tuple[dict[str, Any], int]:
    """Call everybody in, or say that all is well again. Anybody may."""
    crew.change_state(database(), come_in=utc() if body.on else None)
    return {"last": _say("come in" if body.on else "all well", {})}, 201


@api.post("/crew/notes", responses=answers(200, CrewNotesKept, 409, *BODY))
def keep_notes(body: CrewNotesIn) -> dict[str, Any]:
    """Notes of a member's phone, into the log, each once; which of them are here now."""
    given = pocket_notes.read(body.text)
    known = pocket.known(database(), [one.id for one in given.notes])
    clock, sun = clock_and_sun()
    pocket.take_in(database(), given, clock, sun, utc())
    for one in given.notes:
        if one.id not in known and not one.back:
            happening = None if one.happening is None else asdict(one.happening)
            _say("note", {"kind": one.kind, "hole": one.spot.name, "happening": happening})
    # What waits for its lake is heard as well: the phone need not send it again.
    return {"ids": [one.id for one in given.notes]}


@api.put("/crew/me", responses=answers(200, NewsOut, 409, *BODY))
def change_me(body: MeFields) -> dict[str, Any]:
    """Say what one is called, and at which hole one stands. The host at this machine has no place on the board."""
    member = me()
    if member is not None:
        hole = None if body.hole is None else from_fields(CrewHole, body.hole.model_dump(), "the hole")
        crew.change(database(), member.id, utc(), name=body.name, hole=hole)
        return {"last": _say("moved", {"hole": None if hole is None else hole.name}, body.name)}
    return {"last": crew.last(database())}


@api.post("/crew/leave", responses=answers(204, None, 409))
def leave_crew() -> Response:
    """Leave the crew: the phone opens nothing any more."""
    member = me()
    if member is not None:
        crew.end(database(), member.id, utc())
        _say("gone", {}, member.name)
    answer = Response(status=204)
    answer.delete_cookie(COOKIE, path="/")
    return answer


@api.get("/crew/sheet", responses=answers(200, None, 409, 404))
def get_crew_sheet() -> Response:
    """The pocket sheet that the host has put on the board."""
    sheet: tuple[str, str] | None = current_app.config.get("crew_sheet")
    if sheet is None:
        return problem(404, "The host has put no pocket sheet on the board yet.")
    return attachment(sheet[1], sheet[0], "pocket-sheet", "html")


# --- the host's -----------------------------------------------------------------------------------------------------


@api.post("/crew/invitations", responses=answers(201, InvitationOut, 409))
def invite() -> tuple[dict[str, Any], int]:
    """An invitation for one, for ten minutes. What it says is shown this once, and kept only by its digest."""
    now = time.time()
    code, words = secrets.token_hex(TOKEN_BYTES), six_words(secrets.token_bytes(WORD_COUNT))
    crew.invite(database(), Invitation.made(code, words, now), now)
    url = f"{current_app.config['crew_url']}crew#{code}"
    until = datetime.fromtimestamp(now + LASTS_S, UTC)
    return {"url": url, "code_svg": _square_code(url), "words": words, "until": utc(until)}, 201


def _square_code(text: str) -> str:
    """ISO/IEC 18004 by the library segno, black on white whatever the look is."""
    import segno

    drawn = io.BytesIO()
    segno.make(text, error="m").save(drawn, kind="svg", xmldecl=False, scale=6, dark="#000", light="#fff", border=4)
    return drawn.getvalue().decode()


@api.delete("/crew/members/<int:member_id>", responses=answers(204, None, 409, 404))
def end_member(path: MemberPath) -> tuple[str, int]:
    """End a membership at once: there is no way back in but another invitation."""
    member = crew.get(database(), path.member_id)
    crew.end(database(), member.id, utc())
    _say("gone", {}, member.name)
    return "", 204


@api.put("/crew/members/<int:member_id>/role", responses=answers(200, NewsOut, 409, 404, *BODY))
def set_role(path: MemberPath, body: RoleFields) -> dict[str, Any]:
    """Make a member a second host, who may invite, end memberships and say what works; or a member again."""
    member = crew.change(database(), path.member_id, utc(), role=body.role)
    return {"last": _say("moved", {"role": body.role}, member.name)}


@api.put("/crew/works", responses=answers(200, NewsOut, 409, *BODY))
def set_works(body: WorksFields) -> dict[str, Any]:
    """Say what works."""
    crew.change_state(database(), works=body.model_dump())
    return {"last": _say("works", {})}


@api.put("/crew/day", responses=answers(200, NewsOut, 409, 404, *BODY))
def set_crew_day(body: CrewDayFields) -> dict[str, Any]:
    """On which lake the crew is, and each one's line of the shelter's plan."""
    if body.lake_id is not None:
        lakes.get(database(), body.lake_id)
    crew.change_state(database(), lake_id=body.lake_id, lines=list(body.lines))
    return {"last": _say("works", {})}


@api.post("/crew/end", responses=answers(204, None, 409))
def end_crew() -> tuple[str, int]:
    """The crew ends: every membership and every invitation with it."""
    store = database()
    crew.close_invitations(store)
    for one in crew.members(store):
        crew.end(store, one.id, utc())
    crew.change_state(store, come_in=None, lines=[])
    _say("gone", {})
    return "", 204
