"""The crew over the web: who comes in and how often, what each role is answered on every address, and what a hostile
member gets out of ten thousand requests."""

from __future__ import annotations

import json
import random
import re
import shutil
import threading
import time

import pytest

from hollow_glint.core.crew.invitation import SLOWED_AFTER, STOPPED_AFTER
from hollow_glint.store.database import Database
from hollow_glint.web.app import create_app
from hollow_glint.web.crew import routes
from hollow_glint.web.crew.roles import COOKIE, MEMBER, SECOND_HOST, STRANGER

from .test_pocket import note, phone_file
from .test_web import is_problem

HERE, ADDRESS = "http://127.0.0.1:8467", "http://192.0.2.2:8467"
HOSTILE = 10_000


@pytest.fixture
def app(tmp_path, seeded):
    shutil.copy(seeded, tmp_path / "store.sqlite3")
    return create_app(Database(tmp_path / "store.sqlite3"), bound_to="0.0.0.0", crew_url=f"{ADDRESS}/")


class Phone:
    """A browser at an address of the network, with a jar of its own; without one, the host's at this machine."""

    def __init__(self, app, address="192.0.2.7"):
        self.client, self.address = app.test_client(), address
        self.base = HERE if address.startswith("127.") else ADDRESS

    def ask(self, method, path, body=None, **more):
        headers = {"Origin": self.base, **more.pop("headers", {})} if method != "GET" else more.pop("headers", {})
        return self.client.open(
            path, method=method, base_url=self.base, json=body, headers=headers,
            environ_overrides={"REMOTE_ADDR": self.address}, **more,
        )  # fmt: skip

    def get(self, path):
        return self.ask("GET", path)

    def post(self, path, body=None):
        return self.ask("POST", path, {} if body is None else body)

    def put(self, path, body):
        return self.ask("PUT", path, body)


@pytest.fixture
def host(app):
    one = Phone(app, "127.0.0.1")
    assert one.put("/api/crew/day", {"lake_id": 1, "lines": ["Ilse: hole 1, gain 34"]}).status_code == 200
    return one


def invited(host) -> dict:
    answer = host.post("/api/crew/invitations")
    assert answer.status_code == 201
    return answer.json


def member(app, host, name="Tor", address="192.0.2.7") -> Phone:
    phone = Phone(app, address)
    code = invited(host)["url"].split("#")[1]
    assert phone.post("/api/crew/join", {"given": code, "name": name}).status_code == 201
    return phone


def test_an_invitation_lets_one_in_by_its_code_or_its_words_and_only_one(app, host):
    first = invited(host)
    assert first["url"].startswith(f"{ADDRESS}/crew#") and len(first["words"].split()) == 6
    assert first["code_svg"].startswith("<svg") and 'xmlns="http://www.w3.org/2000/svg"' in first["code_svg"]
    assert "script" not in first["code_svg"]
    phone = Phone(app)
    is_problem(phone.get("/api/crew/board"), 401, "not in this crew")
    answer = phone.post("/api/crew/join", {"given": first["words"].upper(), "name": " Tor "})
    assert answer.status_code == 201
    cookie = answer.headers["Set-Cookie"]
    assert "HttpOnly" in cookie and "SameSite=Strict" in cookie and "Path=/" in cookie and cookie.startswith(COOKIE)
    board = phone.get("/api/crew/board").json
    assert board["me"]["name"] == "Tor" and not board["may_host"] and board["lines"] == ["Ilse: hole 1, gain 34"]
    is_problem(Phone(app).post("/api/crew/join", {"given": first["words"], "name": "Eve"}), 403, "somebody has come")
    is_problem(Phone(app).post("/api/crew/join", {"given": first["url"].split("#")[1], "name": "Eve"}), 403)
    stored = app.config["database"].path.read_bytes() + b"".join(
        one.read_bytes() for one in app.config["database"].path.parent.glob("*wal")
    )
    for secret in (first["words"], first["url"].split("#")[1], cookie.split("=")[1].split(";")[0]):
        assert secret.encode() not in stored, "secrets stand in the store by their digest alone"


def test_an_invitation_ends_in_ten_minutes(app, host, monkeypatch):
    code = invited(host)["url"].split("#")[1]
    now = time.time()
    monkeypatch.setattr(routes.time, "time", lambda: now + 601.0)
    is_problem(Phone(app).post("/api/crew/join", {"given": code, "name": "Late"}), 403, "ended")


def test_two_who_come_at_once_with_one_invitation_are_one(app, host):
    code = invited(host)["url"].split("#")[1]
    came = []
    phones = [Phone(app, f"192.0.2.{k}") for k in range(10, 18)]

    def come(phone):
        came.append(phone.post("/api/crew/join", {"given": code, "name": "X"}).status_code)

    threads = [threading.Thread(target=come, args=(one,)) for one in phones]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    assert sorted(came) == [201] + [403] * 7


def test_guesses_are_slowed_and_then_stopped_even_with_the_right_words(app, host, monkeypatch):
    now = [time.time()]
    monkeypatch.setattr(routes.time, "time", lambda: now[0])
    phone, heard, told = Phone(app), 0, []
    for _ in range(60):
        answer = phone.post("/api/crew/join", {"given": "owl " * 6, "name": "Eve"})
        heard += answer.status_code == 403
        told.append(answer.status_code)
        if answer.status_code == 429:
            now[0] += min(float(answer.headers["Retry-After"]), 31.0)
    assert told[:SLOWED_AFTER] == [403] * SLOWED_AFTER and 429 in told[: SLOWED_AFTER + 2]
    assert heard == STOPPED_AFTER
    right = invited(host)["words"]
    is_problem(phone.post("/api/crew/join", {"given": right, "name": "Eve"}), 429, "Too many")
    assert Phone(app, "192.0.2.99").post("/api/crew/join", {"given": right, "name": "Tor"}).status_code == 201


def addresses(app):
    """Every address of the document with a method: (endpoint, method, path with numbers that nothing has)."""
    with app.app_context():
        document = app.api_doc
    bound = app.url_map.bind("127.0.0.1")
    for path, methods in document["paths"].items():
        filled = re.sub(r"\{\w+\}", "99999", path)
        for method in methods:
            if method in ("get", "post", "put", "delete", "patch"):
                endpoint, _ = bound.match(filled, method=method.upper())
                yield endpoint, method.upper(), filled


def test_every_address_is_answered_by_role_and_what_is_not_named_is_the_hosts(app, host):
    tor, eve = member(app, host), Phone(app, "192.0.2.66")
    second = member(app, host, "Ada", "192.0.2.8")
    its_id = second.get("/api/crew/board").json["me"]["id"]
    assert host.put(f"/api/crew/members/{its_id}/role", {"role": "second host"}).status_code == 200
    every = list(addresses(app))
    assert len(every) > 150
    closing = {"crew.leave_crew"}  # which would take the member's own way in away
    for endpoint, method, path in every:
        body = None if method == "GET" else {}
        for phone, allowed, refused in ((tor, MEMBER, 403), (second, SECOND_HOST, 403), (eve, STRANGER, 401)):
            if endpoint in allowed:
                if endpoint not in closing | {"crew.join_crew"}:
                    assert phone.ask(method, path, body).status_code not in (401, 403), (endpoint, phone.address)
            else:
                answer = phone.ask(method, path, body)
                assert answer.status_code == refused, (endpoint, phone.address)
                assert answer.mimetype == "application/problem+json"
    assert tor.get("/api/crew/board").status_code == 200


def test_the_hosts_page_is_the_hosts_and_the_members_page_is_everybodys(app, host):
    eve = Phone(app)
    for path in ("/", "/assets/x.js", "/icon.svg", "/api/openapi.json", "/nowhere"):
        assert eve.get(path).status_code == 401, path
    assert host.get("/api/openapi.json").status_code == 200
    assert eve.get("/crew").status_code == 200 and "<script" in eve.get("/crew").get_data(as_text=True)
    tor = member(app, host, address="192.0.2.9")
    assert tor.get("/").status_code == 403 and tor.get("/api/units").status_code == 403


def test_a_different_host_or_origin_is_refused_and_a_forwarded_address_is_not_believed(app, host):
    tor = member(app, host)
    is_problem(tor.ask("GET", "/api/crew/board", headers={"Host": "evil.example"}), 403, "host name")
    is_problem(
        tor.ask("POST", "/api/crew/come-in", {"on": True}, headers={"Origin": "http://evil.example"}), 403, "pages of"
    )
    eve = Phone(app)
    for name in ("X-Forwarded-For", "Forwarded", "X-Real-IP", "Client-IP"):
        value = "for=127.0.0.1" if name == "Forwarded" else "127.0.0.1"
        assert eve.ask("GET", "/api/units", headers={name: value}).status_code == 401
    assert eve.ask("GET", "/api/crew/board", headers={"Cookie": f"{COOKIE}=guess"}).status_code == 401


def test_a_membership_ends_at_once_and_there_is_no_way_back_in(app, host):
    tor = member(app, host)
    its_id = tor.get("/api/crew/board").json["me"]["id"]
    assert host.ask("DELETE", f"/api/crew/members/{its_id}").status_code == 204
    assert tor.get("/api/crew/board").status_code == 401
    assert tor.post("/api/crew/notes", {"text": "{}"}).status_code == 401
    assert host.ask("DELETE", f"/api/crew/members/{its_id}").status_code == 404
    # And with the whole crew, which takes its invitations along.
    ada, open_one = member(app, host, "Ada"), invited(host)["words"]
    assert host.post("/api/crew/end").status_code == 204
    assert ada.get("/api/crew/board").status_code == 401
    assert ada.post("/api/crew/join", {"given": open_one, "name": "Ada"}).status_code == 403


def test_a_second_host_may_invite_and_end_but_makes_no_hosts_and_reads_no_log(app, host):
    ada, tor = member(app, host, "Ada"), member(app, host, "Tor", "192.0.2.8")
    ids = {one["name"]: one["id"] for one in host.get("/api/crew/board").json["members"]}
    assert ada.post("/api/crew/invitations").status_code == 403
    host.put(f"/api/crew/members/{ids['Ada']}/role", {"role": "second host"})
    assert ada.post("/api/crew/invitations").status_code == 201 and ada.get("/api/crew/board").json["may_host"]
    assert ada.put(f"/api/crew/members/{ids['Tor']}/role", {"role": "second host"}).status_code == 403
    assert ada.get("/api/outings").status_code == 403
    assert ada.ask("DELETE", f"/api/crew/members/{ids['Tor']}").status_code == 204
    assert tor.get("/api/crew/board").status_code == 401


def test_a_call_is_turned_to_each_ones_own_hole(app, host):
    tor, ada = member(app, host), member(app, host, "Ada", "192.0.2.8")
    at = {"name": "Look-out", "east_m": 0.0, "north_m": 0.0}
    assert tor.put("/api/crew/me", {"name": "Tor", "hole": at}).status_code == 200
    own = {"name": "Mine", "east_m": 30.0, "north_m": 0.0}
    ada.put("/api/crew/me", {"name": "Ada", "hole": own})
    assert (
        tor.post("/api/crew/calls", {"lookout": at, "clock_h": 12, "distance_m": 40.0, "depth_m": 6.0}).status_code
        == 201
    )
    mine, theirs = (phone.get("/api/crew/board").json["calls"][0] for phone in (ada, tor))
    assert mine["who"] == "Tor" and mine["here"]["distance_m"] == pytest.approx(50.0)
    assert mine["here"]["bearing_deg"] == pytest.approx(323.13, abs=0.01)
    assert theirs["here"]["distance_m"] == pytest.approx(40.0)
    assert host.get("/api/crew/board").json["calls"][0]["here"] is None
    is_problem(tor.post("/api/crew/calls", {"lookout": at, "clock_h": 13, "distance_m": 1.0}), 422, "clock_h")


def test_a_members_notes_go_into_the_log_once_and_onto_the_board(app, host):
    tor = member(app, host)
    lake = host.get("/api/lakes/1").json["name"]
    where = {"name": "Hole A", "water": lake, "east_m": 1.0, "north_m": 2.0}
    text = phone_file([note(1, "2026-02-05T09:10:00Z", where), note(2, "2026-02-05T09:12:00Z", where)])
    assert len(tor.post("/api/crew/notes", {"text": text}).json["ids"]) == 2
    assert len(tor.post("/api/crew/notes", {"text": text}).json["ids"]) == 2
    said = [one for one in tor.get("/api/crew/board").json["said"] if one["kind"] == "note"]
    assert len(said) == 2 and said[0]["who"] == "Tor" and said[0]["body"]["hole"] == "Hole A"
    assert "Hole A" in host.get("/api/log/file?kind=json").get_data(as_text=True)


def test_who_waits_hears_of_it_in_well_under_a_second(app, host):
    """Twenty wait; all of them are told."""
    phones = [member(app, host, f"M{k}", f"192.0.2.{10 + k}") for k in range(20)]
    is_problem(
        Phone(app, "192.0.2.60").post("/api/crew/join", {"given": invited(host)["words"], "name": "21st"}), 422, "20"
    )
    last = host.get("/api/crew/board").json["last"]
    heard: list[float] = []

    def wait(phone):
        answer = phone.get(f"/api/crew/news?after={last}&wait_s=15")
        assert answer.json["last"] > last
        heard.append(time.monotonic())

    threads = [threading.Thread(target=wait, args=(one,)) for one in phones]
    for one in threads:
        one.start()
    time.sleep(1.0)
    assert heard == []
    began = time.monotonic()
    phones[0].post("/api/crew/come-in", {"on": True})
    for one in threads:
        one.join(10.0)
    assert len(heard) == 20 and sorted(heard)[10] - began < 5.0
    assert host.get("/api/crew/board").json["come_in"]
    host.post("/api/crew/come-in", {"on": False})
    assert host.get("/api/crew/board").json["come_in"] is None


def test_one_member_does_not_take_every_thread_by_waiting(app, host):
    tor = member(app, host)
    last, took = host.get("/api/crew/board").json["last"], []
    token = tor.client.get_cookie(COOKIE, domain="192.0.2.2").value

    def wait():
        again = Phone(app)  # the same phone, in another tab
        again.client.set_cookie(COOKIE, token, domain="192.0.2.2")
        began = time.monotonic()
        assert again.get(f"/api/crew/news?after={last}&wait_s=3").status_code == 200
        took.append(time.monotonic() - began)

    threads = [threading.Thread(target=wait) for _ in range(12)]
    for one in threads:
        one.start()
    for one in threads:
        one.join(20.0)
    assert len(took) == 12 and sum(one > 2.0 for one in took) == routes.WAITS_EACH


def test_without_a_crew_all_is_as_it_was(tmp_path, seeded):
    shutil.copy(seeded, tmp_path / "store.sqlite3")
    app = create_app(Database(tmp_path / "store.sqlite3"))
    host = Phone(app, "127.0.0.1")
    assert host.get("/api/units").status_code == 200
    is_problem(host.get("/api/crew/board"), 409, "serve --crew")
    is_problem(host.post("/api/crew/invitations"), 409)
    is_problem(Phone(app).get("/api/units"), 403, "host name")


VALUES = ["", "1", "-1", "9" * 30, "../..", "%00", "' OR 1=1 --", "{}", "\u202e", "a" * 300, "1e999", "null"]
FAR = {"name": "x", "east_m": 1e308, "north_m": -1e308}
BODIES = [
    None, {}, [], "x", 7, {"given": "x" * 999, "name": []}, {"on": "yes"}, {"text": "{" * 60}, {"hole": {"name": 1}},
    {"lookout": FAR, "clock_h": 1e300, "distance_m": 1}, {"name": "x", "hole": {**FAR, "name": "\x00"}},
    {"text": json.dumps({"a": VALUES})},
]  # fmt: skip
HEADERS = [
    {}, {"Content-Type": "text/plain"}, {"X-Forwarded-For": "127.0.0.1"}, {"Accept-Encoding": "gzip"},
    {"Sec-Fetch-Site": "cross-site"}, *({"Cookie": f"{COOKIE}={one}"} for one in ("1", "-1", "9" * 30)),
]  # fmt: skip
METHODS = ["GET", "POST", "PUT", "DELETE", "PATCH", "HEAD", "OPTIONS", "TRACE"]


def hostile(chance: random.Random, every, rules) -> tuple[str, str]:
    """A method and a path: mostly of addresses that there are, with what belongs there or does not."""
    if chance.random() < 0.65:
        _, method, path = chance.choice(every)
        method = chance.choice(METHODS) if chance.random() < 0.15 else method
    else:
        method = chance.choice(METHODS)
        path = re.sub(r"<[^>]+>", lambda _: chance.choice(VALUES), chance.choice(rules))
    if chance.random() < 0.2:
        names = ("after", "hole_id", "kind", "x")
        path += "?" + "&".join(f"{chance.choice(names)}={chance.choice(VALUES)}" for _ in range(2))
    # Leaving would end the member's own way in; it is sent to the board instead.
    return method, path.replace("/crew/leave", "/crew/board")


def test_ten_thousand_hostile_requests_of_a_member_get_nothing_of_the_hosts(app, host):
    tor, chance = member(app, host), random.Random(17)
    every, rules = list(addresses(app)), [rule.rule for rule in app.url_map.iter_rules()]
    answers: dict[int, int] = {}
    for _ in range(HOSTILE):
        method, path = hostile(chance, every, rules)
        answer = tor.ask(method, path, chance.choice(BODIES), headers=chance.choice(HEADERS))
        answers[answer.status_code] = answers.get(answer.status_code, 0) + 1
        assert answer.status_code < 500, (method, path, answer.get_data(as_text=True)[:200])
        if answer.status_code < 400 and method != "OPTIONS":
            assert app.url_map.bind("127.0.0.1").match(path.split("?")[0], method=method)[0] in MEMBER, (method, path)
    assert sum(answers.values()) == HOSTILE and answers[403] > HOSTILE / 3
    assert tor.get("/api/crew/board").status_code == 200, "it is in the crew still"
