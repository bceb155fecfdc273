"""The web layer: the contract, problem responses, who gets in, live benches."""

from __future__ import annotations

import base64
import importlib
import json
import pkgutil
import re
import time
from dataclasses import replace

import pytest
from flask_openapi3 import OpenAPI
from pydantic import BaseModel

import hollow_glint.formats
import hollow_glint.web
from hollow_glint.core.gear.profiles import TRAIL_UNIT
from hollow_glint.store import strikes, units
from hollow_glint.web import guard, lives
from hollow_glint.web.bench import contract
from hollow_glint.web.blueprint import StepBlueprint

HOLE = {
    "name": "Test hole",
    "water": "Testwater",
    "bottom_depth_m": 9.0,
    "bottom_kind": "mud",
    "ice_thickness_m": 0.3,
    "face_depth_m": 0.4,
}


def is_problem(answer, status, *said):
    assert answer.status_code == status, answer.text
    assert answer.mimetype == "application/problem+json"
    document = answer.json
    assert document["status"] == status
    for word in said:
        assert word in document["detail"], document["detail"]
    assert document["detail"].endswith(".")
    assert not any(one["field"].endswith(":") for one in document.get("errors", []))


def test_health(client):
    assert client.get("/api/health").json["status"] == "ok"


def test_holes_round_trip(client):
    made = client.post("/api/holes", json=HOLE)
    assert made.status_code == 201
    got = client.get(f"/api/holes/{made.json['id']}")
    there = got.json
    assert there == made.json and got.headers["ETag"] == made.headers["ETag"] == '"1"'
    assert there["bottom_depth_m"] == 9.0 and there["clarity"] == "clear"
    headers = {"If-Match": got.headers["ETag"]}
    moved = client.put(f"/api/holes/{there['id']}", json={**HOLE, "bottom_depth_m": 5.5}, headers=headers)
    assert moved.json["bottom_depth_m"] == 5.5 and moved.headers["ETag"] == '"2"'
    assert client.delete(f"/api/holes/{there['id']}").status_code == 200
    is_problem(client.get(f"/api/holes/{there['id']}"), 404, f"no hole with id {there['id']}")


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"bottom_depth_m": 0.1}, ["bottom_depth_m is 0.1", "0.5 to 60 m"]),
        ({"bottom_depth_m": "deep"}, ['bottom_depth_m is "deep"', "0.5 to 60 m"]),
        ({"bottom_depth_m": True}, ["bottom_depth_m is true"]),
        ({"bottom_kind": "goo"}, ['bottom_kind is "goo"', "mud, silt, sand"]),
        ({"name": ""}, ["name", "1 to 80"]),
        ({"ice_thickness_m": 2.9, "bottom_depth_m": 2.5}, ["ice_thickness_m is 2.9 m", "bottom_depth_m is 2.5 m"]),
        (
            {"ice_thickness_m": 2.9, "face_depth_m": 3.0, "bottom_depth_m": 2.5},
            ["ice_thickness_m is 2.9 m", "face_depth_m is 3 m"],
        ),
        ({"colour": "red"}, ["colour is not a field"]),
    ],
)
def test_bad_holes_are_named_and_not_written(client, change, said):
    before = client.get("/api/holes").json
    is_problem(client.post("/api/holes", json={**HOLE, **change}), 422, *said)
    is_problem(client.put("/api/holes/1", json={**HOLE, **change}, headers={"If-Match": '"1"'}), 422, *said)
    assert client.get("/api/holes").json == before


@pytest.mark.parametrize(
    ("body", "kind", "status", "said"),
    [
        ("{", "application/json", 400, "not JSON"),
        ('{"bottom_depth_m": NaN}', "application/json", 400, "NaN"),
        ('{"bottom_depth_m": Infinity}', "application/json", 400, "Infinity"),
        ("[1, 2]", "application/json", 422, "[1, 2]"),
        ("[" * 5000, "application/json", 400, "not JSON"),
        ("name=x", "application/x-www-form-urlencoded", 415, "application/json"),
        ("\xff\xfe", "application/json", 400, "not JSON"),
    ],
)
def test_bodies_that_are_not_json(client, body, kind, status, said):
    is_problem(client.post("/api/holes", data=body.encode("latin-1"), content_type=kind), status, said)


def test_too_large_a_body(client):
    is_problem(client.post("/api/holes", json={**HOLE, "note": "x" * 70_000}), 413, "64 kB")


def test_what_is_not_there(client):
    is_problem(client.get("/api/nothing"), 404)
    is_problem(client.get("/api/holes/99999"), 404, "no hole with id 99999")
    is_problem(client.patch("/api/holes/1", json={}), 405)
    is_problem(client.get("/api/strikes?hole_id=x"), 422, "hole_id")
    is_problem(client.post("/api/benches", json={"hole_id": 1, "unit_id": 99, "lure_id": 1}), 404, "unit with id 99")


def test_a_hole_beyond_the_units_range(client, app):
    short = units.add(app.config["database"], replace(TRAIL_UNIT, ranges_m=(3.0, 6.0)))
    answer = client.post("/api/benches", json={"hole_id": 1, "unit_id": short.id, "lure_id": 1})
    is_problem(answer, 422, "bottom_depth_m is 9.45 m", "6 m")
    assert client.get("/api/health").json["live_benches"] == 0


def test_a_hole_with_strikes_stays(client):
    is_problem(client.delete("/api/holes/1"), 409, "3 logged strikes")


# --- who gets in --------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("host", ["evil.example", "localhost.evil.example", "127.0.0.1.evil.example", "10.1.2.3", ""])
def test_other_hosts_are_not_answered(client, host):
    assert client.get("/api/holes", headers={"Host": host}).status_code in (400, 403)


@pytest.mark.parametrize("host", ["localhost", "127.0.0.1:8467", "[::1]:9"])
def test_this_machine_is_answered(client, host):
    assert client.get("/api/holes", headers={"Host": host}).status_code == 200


@pytest.mark.parametrize("origin", ["https://evil.example", "http://localhost:1", "null", "http://127.0.0.1"])
def test_other_origins_are_not_answered(client, origin):
    is_problem(client.post("/api/holes", json=HOLE, headers={"Origin": origin}), 403)


def test_our_own_origin_is_answered(client):
    answer = client.post("/api/holes", json=HOLE, headers={"Origin": "http://localhost"})
    assert answer.status_code == 201


def test_cross_site_requests_are_not_answered(client):
    is_problem(client.get("/api/holes", headers={"Sec-Fetch-Site": "cross-site"}), 403)


def test_bound_to_all_takes_addresses_but_no_foreign_names():
    assert guard.host_accepted("192.168.1.20:8467", "0.0.0.0")
    assert not guard.host_accepted("evil.example", "0.0.0.0")
    assert guard.host_accepted("tent.local:8467", "tent.local")


def test_security_headers_are_on_everything(client):
    for path in ("/api/holes", "/api/nothing", "/"):
        headers = client.get(path).headers
        policy = headers["Content-Security-Policy"]
        assert "default-src 'none'" in policy and "unsafe" not in policy
        assert headers["X-Content-Type-Options"] == "nosniff"


def test_files_outside_the_front_end_are_not_served(client):
    for path in ("/../app.py", "/%2e%2e/app.py", "/assets/../../app.py"):
        assert client.get(path).status_code in (403, 404)


# --- live benches -------------------------------------------------------------------------------------------------


def read_frames(client, bench_id, wanted, send=None):
    """The first `wanted` frames and any tuning, from the stream itself."""
    frames, tunings = [], []
    answer = client.get(f"/api/benches/{bench_id}/stream", buffered=False)
    assert answer.mimetype == "text/event-stream"
    for chunk in answer.response:
        text = chunk if isinstance(chunk, str) else chunk.decode()
        for block in text.strip().split("\n\n"):
            name, data = block.split("\n", 1)
            (frames if name == "event: frame" else tunings).append(json.loads(data.removeprefix("data: ")))
        if send and len(frames) == send[0]:
            assert client.post(f"/api/benches/{bench_id}/commands", json=send[1]).status_code == 202
        if len(frames) >= wanted:
            break
    answer.response.close()
    answer.close()
    return frames, tunings


def test_stream_keeps_the_contract(client, bench):
    frames, tunings = read_frames(client, bench["id"], 6, send=(2, {"to_depth_m": 9.2}))
    for frame in frames:
        contract.FrameOut.model_validate(frame)
        assert len(base64.b64decode(frame["levels"])) == frame["pings"] * frame["rows"]
    assert [f["number"] for f in frames] == list(range(1, 7))
    assert tunings
    for tuning in tunings:
        contract.TuningOut.model_validate(tuning)
    assert frames[-1]["lure_depth_m"] > frames[0]["lure_depth_m"]


def test_a_knob_is_in_the_next_frame(client, bench):
    settings = {**bench["settings"], "gain": 31.0}
    frames, _ = read_frames(client, bench["id"], 5, send=(3, {"settings": settings}))
    assert [f["settings"]["gain"] for f in frames] == [24.0, 24.0, 24.0, 31.0, 31.0]


def test_same_seed_same_water(client):
    def first_levels():
        body = {"hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": 5}
        made = client.post("/api/benches", json=body).json
        return [frame["levels"] for frame in read_frames(client, made["id"], 3)[0]]

    assert first_levels() == first_levels()


@pytest.mark.parametrize(
    ("body", "said"),
    [
        ({"settings": {"gain": 99, "range_m": 12.192}}, ["gain is 99", "0 to 50"]),
        ({"settings": {"gain": 20, "range_m": 13}}, ["range_m is 13 m", "12.192"]),
        ({"settings": {"gain": "x", "range_m": 12.192}}, ['settings.gain is "x"']),
        ({"lift_m_s": 5}, ["lift_m_s is 5", "-1 to 1 m/s"]),
        ({"to_depth_m": -1}, ["to_depth_m is -1", "0 to 60 m"]),
        ({"eyes": "shut"}, ['eyes is "shut"', "sonar, rod"]),
        ({"twitch": "yes"}, ['twitch is "yes"']),
    ],
)
def test_bad_commands_are_named(client, bench, body, said):
    is_problem(client.post(f"/api/benches/{bench['id']}/commands", json=body), 422, *said)


def test_benches_are_bounded_and_freed(client, app, monkeypatch):
    app.config["live_benches"].most = 2
    body = {"hole_id": 1, "unit_id": 1, "lure_id": 1}
    first, second = (client.post("/api/benches", json=body) for _ in range(2))
    assert second.status_code == 201
    is_problem(client.post("/api/benches", json=body), 503, "2 live benches")
    assert client.delete(f"/api/benches/{first.json['id']}").status_code == 204
    assert client.post("/api/benches", json=body).status_code == 201
    # Nobody reads them: after the grace they are gone by themselves.
    later = time.monotonic() + lives.FIRST_GRACE_S + 0.1
    monkeypatch.setattr(lives.time, "monotonic", lambda: later)
    assert client.get("/api/health").json["live_benches"] == 0
    is_problem(client.get(f"/api/benches/{second.json['id']}/tuning"), 404, "start another")


def test_a_bench_waits_longer_for_its_first_reader_unless_its_place_is_wanted(client, app):
    """A slow phone that asks for its stream late finds it; one whose reader went is not kept for so long."""
    benches = app.config["live_benches"]
    benches.most = 2
    body = {"hole_id": 1, "unit_id": 1, "lure_id": 1}
    late, left = (client.post("/api/benches", json=body).json["id"] for _ in range(2))
    read = benches.get(left).stream()
    next(read)
    read.close()
    for its_id in (late, left):
        benches.get(its_id).left_at -= lives.GRACE_S + 0.1
    assert benches.get(left) is None
    reading = benches.get(late).stream()
    assert next(reading)
    # While both places are taken, one that nobody came for in the usual grace makes room.
    unread = client.post("/api/benches", json=body).json["id"]
    is_problem(client.post("/api/benches", json=body), 503, "2 live benches")
    benches.get(unread).left_at -= lives.GRACE_S + 0.1
    assert benches.get(unread) is not None
    assert client.post("/api/benches", json=body).status_code == 201
    assert benches.get(unread) is None
    reading.close()


def test_a_second_reader_takes_over_from_the_first(client, app, bench):
    """Time must not run twice as fast for a page that came back before its old stream was known to be dead."""
    one = app.config["live_benches"].get(bench["id"])
    first, second = one.stream(), one.stream()
    next(first)
    next(second)
    assert list(first) == []
    second.close()


def test_a_hooked_fish_is_in_the_log_before_it_is_told(client, app):
    """Played by commands alone: wait for a fish, lift slowly, set when the tip bends."""
    made = client.post("/api/benches", json={"hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": 42}).json
    one = app.config["live_benches"].get(made["id"])
    from hollow_glint.core.bench.command import Command

    one.command(Command(to_depth_m=8.25))
    bit = 0
    for _ in range(4000):
        frame, events = one.step()
        kinds = [event["kind"] for event in events]
        if "noticed" in kinds:
            one.command(Command(lift_m_s=0.03))
        elif "gone" in kinds:
            one.command(Command(to_depth_m=8.25))
        bit = 1 if "bite" in kinds else bit + 1 if bit else 0
        if bit == 8:
            one.command(Command(set_hook=True))
        if "hooked" in kinds:
            break
    told = next(event for event in events if event["kind"] == "hooked")
    logged = strikes.get(app.config["database"], told["strike_id"])
    assert logged.depth_m == pytest.approx(frame.lure_depth_m, abs=0.05)
    assert logged.settings == frame.settings
    assert client.get("/api/strikes?hole_id=1").json["strikes"][0]["id"] == logged.id


class Number(BaseModel):
    number: int


class Count(BaseModel):
    count: int


def test_what_the_document_says_of_an_address_is_worked_out_when_it_is_asked_for():
    api = StepBlueprint("made_up", __name__, "Made up")

    @api.get("/made-up/<int:number>", responses={200: Count})
    def made_up(path: Number) -> dict[str, int]:
        return {"count": path.number}

    app = OpenAPI("made_up", doc_ui=False)
    app.register_api(api)
    assert app.test_client().get("/api/made-up/3").json == {"count": 3}
    assert "/api/made-up/{number}" not in app.paths
    api.describe(app)
    assert "/api/made-up/{number}" in app.paths
    assert "Count" in app.components_schemas


def test_the_document_is_whole_and_is_the_same_when_it_is_asked_for_again(client):
    document = client.get("/api/openapi.json").json
    assert "/api/holes/{hole_id}" in document["paths"]
    assert len(document["paths"]) > 60
    assert {tag["name"] for tag in document["tags"]} >= {"Hole", "Bench", "Gear", "Log", "Recordings", "Calibration"}
    used = set(re.findall(r"#/components/schemas/(\w+)", json.dumps(document)))
    assert used <= set(document["components"]["schemas"])
    assert client.get("/api/openapi.json").json == document


def test_no_two_bodies_have_one_name():
    """The OpenAPI document knows a body by its name alone: of two with one name it would hold but one."""
    places: dict[str, set[str]] = {}
    for package in (hollow_glint.web, hollow_glint.formats):
        for found in pkgutil.walk_packages(package.__path__, package.__name__ + "."):
            module = importlib.import_module(found.name)
            for name, one in vars(module).items():
                if isinstance(one, type) and issubclass(one, BaseModel) and one.__module__ == module.__name__:
                    places.setdefault(name, set()).add(module.__name__)
    assert {name: where for name, where in places.items() if len(where) > 1} == {}
