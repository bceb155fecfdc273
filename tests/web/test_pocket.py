"""The pocket sheet through the web: what it is made of and what it refuses; and phones' notes, each taken in once."""

from __future__ import annotations

import base64
import hashlib
import json
import re
import zlib
from datetime import UTC, datetime, timedelta

import pytest

from . import quick_pocket
from .test_web import is_problem

WANTED = {
    "unit_ids": [1],
    "lure_ids": [1],
    "clarities": ["stained"],
    "lights": ["day", "night"],
    "companies": ["alone"],
}
SHEET, PHONE, OTHER = "ab" * 16, "01" * 16, "02" * 16


@pytest.fixture
def quick(monkeypatch):
    quick_pocket.at_one_depth(monkeypatch.setattr)


def unpacked(page: str, name: str) -> bytes:
    letters = re.search(rf'<script type="text/plain" id="{name}">([^<]*)</script>', page).group(1)
    return zlib.decompress(base64.b64decode(letters), -15)


def test_the_sheet_is_one_file_that_may_fetch_nothing(client, quick):
    answer = client.post("/api/lakes/1/pocket", json={**WANTED, "fan": "near reach"})
    assert answer.status_code == 200 and answer.mimetype == "text/html"
    assert "attachment" in answer.headers["Content-Disposition"]
    page = answer.get_data(as_text=True)
    assert len(page.encode()) < 600_000
    policy = re.search(r'Content-Security-Policy" content="([^"]+)"', page).group(1)
    assert policy.startswith("default-src 'none'") and "connect-src" not in policy and "unsafe" not in policy
    for tag, source in (("script", "script-src"), ("style", "style-src")):
        (inside,) = re.findall(rf"<{tag}>(.*?)</{tag}>", page, re.DOTALL)
        digest = base64.b64encode(hashlib.sha256(inside.encode()).digest()).decode()
        assert f"{source} 'sha256-{digest}'" in policy
    assert not re.search(r"<(link|img|iframe|object|base|form)\b|\bsrc=", page.split("<style>")[0])
    told = json.loads(unpacked(page, "told"))
    assert told["along"]["lights"] == ["day", "night"] and len(told["cards"]["combinations"]) == 2
    assert told["day"]["places"] and len(told["judged"]) == len(told["day"]["places"]), "places are proposed"
    assert len(told["degrees"]) == len(told["day"]["places"])
    assert told["plan"]["cautions"] and told["rig"]["checks"] and told["holes"]
    assert told["fan"]["cards"][0]["card"]["settings"]["gain_db"] > 0.0
    sizes = [
        colours * places * told["cards"]["touches"]["planes"]
        for one in told["cards"]["combinations"]
        for colours, places in one["shapes"]
    ]
    assert len(unpacked(page, "calls")) == sum(sizes)


def test_on_a_new_lake_with_nothing_measured_there_is_a_sheet_as_well(client, quick):
    lake = client.post("/api/lakes", json={"name": "New water"}).json["id"]
    answer = client.post(f"/api/lakes/{lake}/pocket", json={**WANTED, "lure_ids": []})
    assert answer.status_code == 200
    told = json.loads(unpacked(answer.get_data(as_text=True), "told"))
    assert told["day"]["places"] == told["judged"] == told["holes"] == [] and told["degrees"] is None
    assert told["along"]["lures"] == ["5 mm tungsten jig"]


def test_what_cannot_be_taken_along_is_refused_before_anything_is_worked_out(client, quick):
    is_problem(client.post("/api/lakes/1/pocket", json={**WANTED, "unit_ids": []}), 422, "unit_ids")
    is_problem(client.post("/api/lakes/1/pocket", json={**WANTED, "unit_ids": [999]}), 404)
    is_problem(client.post("/api/lakes/1/pocket", json={**WANTED, "lights": ["noon"]}), 422, "lights")
    many = {**WANTED, "clarities": ["clear", "stained", "murky"], "lights": ["day", "dusk", "night"],
            "companies": ["alone", "one near"]}  # fmt: skip
    is_problem(client.post("/api/lakes/1/pocket", json=many), 422, "18 combinations", "10")
    is_problem(client.post("/api/lakes/1/pocket", json={**WANTED, "lights": ["day", "day"]}), 422, "twice")
    is_problem(client.post("/api/lakes/77/pocket", json=WANTED), 404)


# --- notes ---------------------------------------------------------------------------------------------------------


def spot(client, name="Place A", **more):
    lake = client.get("/api/lakes/1").json
    return {"name": name, "lake_id": 1, "water": lake["name"], "east_m": 20.0, "north_m": 30.0, **more}


def note(n: int, at: str, where, kind="happening", **more):
    if kind == "happening":
        more = {
            "happening": {"at": at, "kind": "look", "depth_m": 6.0, "trying": "hold", "species": "whitefish"} | more
        }
    return {"id": f"{n:032x}", "turn": n, "sheet": SHEET, "at": at, "kind": kind, "spot": where} | more


def phone_file(notes, phone=PHONE, saved_at="2026-02-05T16:00:00Z", made_at="2026-02-04T20:00:00Z"):
    told = {"hollow_glint_pocket_notes": 1, "phone": phone, "saved_at": saved_at, "sheets": {SHEET: made_at}}
    return json.dumps({**told, "notes": notes})


def take(client, text, **more):
    return client.post("/api/pocket/notes", json={"text": text, **more})


def morning(client, first=1):
    """A stay with a look and a fish, then another at a hole that was drilled there; ice and a depth."""
    a, own = spot(client), spot(client, "By the reeds", east_m=44.0, depth_m=7.5)
    return [
        note(first, "2026-02-05T09:00:00Z", a, "lines in"),
        note(first + 1, "2026-02-05T09:10:00Z", a),
        note(first + 2, "2026-02-05T09:12:00Z", a, kind="happening"),
        note(first + 3, "2026-02-05T09:40:00Z", a, "lines out"),
        note(first + 4, "2026-02-05T09:50:00Z", own, "ice", ice={"thickness_m": 0.21, "kind": "clear"}),
        note(first + 5, "2026-02-05T09:55:00Z", own, "sounding", depth_m=7.5),
        note(first + 6, "2026-02-05T10:00:00Z", own),
    ]


def outings_of(client, day="2026-02-05"):
    return [one for one in client.get("/api/outings").json["outings"] if one["began_at"].startswith(day)]


def test_a_phones_notes_become_stays_soundings_and_ice_and_twice_the_same_adds_nothing(client):
    things = client.get("/api/lakes/1/things").json
    looked = take(client, phone_file(morning(client)), keep=False).json
    assert (looked["outings"], looked["stays"], looked["happenings"]) == (1, 2, 3)
    assert outings_of(client) == [], "looking keeps nothing"
    taken = take(client, phone_file(morning(client))).json
    assert taken == looked | {"clock": taken["clock"]} and (taken["soundings"], taken["ice"]) == (1, 1)
    (outing,) = outings_of(client)
    again = take(client, phone_file(morning(client))).json
    assert again["known"] == 7 and again["happenings"] == again["stays"] == again["soundings"] == again["ice"] == 0
    assert outings_of(client) == [outing]
    after = client.get("/api/lakes/1/things").json
    assert len(after["soundings"]) == len(things["soundings"]) + 1 and len(after["ice"]) == len(things["ice"]) + 1
    assert after["ice"][-1]["thickness_m"] == 0.21 and after["ice"][-1]["at"] == "2026-02-05"
    # A later file of the same phone goes on with the stay that is there.
    more = [*morning(client), note(20, "2026-02-05T10:30:00Z", spot(client, "By the reeds", east_m=44.0))]
    later = take(client, phone_file(more)).json
    assert (later["stays"], later["happenings"], later["outings"]) == (0, 1, 0)


def test_two_phones_merge_into_one_outing_with_a_stay_each(client):
    take(client, phone_file(morning(client)))
    other = [note(100 + k, f"2026-02-05T08:{k:02d}:00Z", spot(client, "Place B")) for k in (10, 20)]
    taken = take(client, phone_file(other, OTHER)).json
    assert (taken["outings"], taken["stays"], taken["happenings"]) == (0, 1, 2)
    (outing,) = outings_of(client)
    assert outing["began_at"] == "2026-02-05T08:10:00Z" and outing["ended_at"] >= "2026-02-05T10:00:00Z"


def test_notes_of_months_ago_come_with_their_own_day_and_nothing_is_said_of_the_clock(client):
    taken = take(client, phone_file([note(1, "2025-01-10T10:00:00Z", spot(client))], saved_at="2025-01-10T12:00:00Z",
                                    made_at="2025-01-09T12:00:00Z")).json  # fmt: skip
    assert taken["outings"] == 1 and taken["clock"] == [] and len(outings_of(client, "2025-01-10")) == 1


def test_a_clock_that_disagrees_is_said_and_can_be_put_right(client):
    ahead = datetime.now(UTC) + timedelta(hours=5)
    late = note(1, ahead.strftime("%Y-%m-%dT%H:%M:%SZ"), spot(client))
    said = take(client, phone_file([late], made_at="2020-01-01T00:00:00Z"), keep=False).json["clock"]
    assert len(said) == 1 and "ahead" in said[0]["text"] and said[0]["values"]["by"]["unit"] == "h"
    assert (
        take(client, phone_file([late], saved_at="2020-01-01T00:00:00Z"), shift_min=-301, keep=False).json["clock"]
        == []
    )
    old = note(1, "2026-02-01T10:00:00Z", spot(client))
    (said,) = take(client, phone_file([old], saved_at="2026-02-01T12:00:00Z", made_at="2026-02-01T11:00:00Z"),
                   keep=False).json["clock"]  # fmt: skip
    assert "behind" in said["text"]
    back = [note(1, "2025-12-01T12:00:00Z", spot(client)), note(2, "2025-12-01T10:00:00Z", spot(client))]
    (said,) = take(client, phone_file(back, made_at="2025-11-30T00:00:00Z", saved_at="2025-12-01T12:30:00Z"),
                   keep=False).json["clock"]  # fmt: skip
    assert "put back" in said["text"] and said["values"]["by"]["value"] == pytest.approx(2.0)
    # Put right by a shift and taken in, it is known whatever shift it comes with again.
    assert take(client, phone_file(back), shift_min=15).json["happenings"] == 2
    assert take(client, phone_file(back), shift_min=0).json["known"] == 2


def test_what_was_taken_back_on_the_phone_is_not_in_the_log_before_or_after(client):
    notes = morning(client)
    notes[1]["back"] = True
    assert take(client, phone_file(notes)).json["taken_back"] == 1
    everything = client.get("/api/log/file?kind=json").json
    times = [one["at"] for outing in everything["outings"] for stay in outing["stays"] for one in stay["happened"]]
    assert "2026-02-05T09:12:00Z" in times and "2026-02-05T09:10:00Z" not in times
    notes[2]["back"] = True
    late = take(client, phone_file(notes)).json
    assert (late["taken_back"], late["taken_back_late"]) == (1, 1)
    assert "2026-02-05T09:12:00Z" not in client.get("/api/log/file?kind=json").get_data(as_text=True)
    assert take(client, phone_file(notes)).json["taken_back_late"] == 0, "it is gone already"
    things = client.get("/api/lakes/1/things").json
    notes[4]["back"] = notes[5]["back"] = True
    assert take(client, phone_file(notes)).json["taken_back_late"] == 2
    after = client.get("/api/lakes/1/things").json
    assert (len(after["ice"]), len(after["soundings"])) == (len(things["ice"]) - 1, len(things["soundings"]) - 1)


def test_a_sounding_on_a_lake_that_is_not_here_waits_for_it(client):
    elsewhere = {"name": "Place A", "lake_id": 9, "water": "Far water", "east_m": 1.0, "north_m": 2.0}
    notes = [
        note(1, "2026-02-05T10:00:00Z", elsewhere, "sounding", depth_m=4.0),
        note(2, "2026-02-05T10:05:00Z", elsewhere),
    ]
    assert take(client, phone_file(notes)).json["without_place"] == 1
    made = client.post("/api/lakes", json={"name": "Far water"}).json["id"]
    again = take(client, phone_file(notes)).json
    assert (again["soundings"], again["known"], again["happenings"]) == (1, 1, 0)
    assert len(client.get(f"/api/lakes/{made}/things").json["soundings"]) == 1


def test_a_hole_that_was_removed_or_renamed_since_keeps_its_name_in_the_log(client):
    where = spot(client, "Gone hole", hole_id=99_999)
    assert take(client, phone_file([note(1, "2026-02-05T10:00:00Z", where)])).json["stays"] == 1
    told = client.get("/api/log/file?kind=json").json["outings"]
    assert any(stay["hole"] == "Gone hole" for outing in told for stay in outing["stays"])


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"kind": "dance"}, "kind"),
        ({"at": "yesterday"}, "at"),
        ({"id": "no"}, "id"),
        ({"happening": None}, "happening"),
        ({"kind": "ice"}, "ice is missing"),
        ({"turn": -1}, "turn"),
        ({"happening": {"at": "2026-02-05T10:00:00Z", "kind": "look", "depth_m": -3.0}}, "depth_m"),
    ],
)
def test_a_file_that_is_wrong_is_refused_with_its_line_and_nothing_is_kept(client, change, said):
    good = note(1, "2026-02-05T10:00:00Z", spot(client))
    wrong = note(2, "2026-02-05T10:05:00Z", spot(client)) | change
    is_problem(take(client, phone_file([good, wrong])), 422, "line ", said)
    assert outings_of(client) == []


def test_other_files_are_refused_in_words(client):
    is_problem(take(client, "not json"), 422, "line 1")
    is_problem(take(client, "{}"), 422, "notes from a pocket sheet")
    is_problem(take(client, '{"hollow_glint_pocket_notes": 2}'), 422, "version 1")
    twice = note(1, "2026-02-05T10:00:00Z", spot(client))
    is_problem(take(client, phone_file([twice, twice])), 422, "twice")
    is_problem(take(client, phone_file([twice]), shift_min=1e9), 422, "shift_min")


def test_photos_of_a_screen_are_told_and_none_is_kept(app, client):
    """By their hour, hole and gear; the hole only while it still has its name."""
    hole = client.get("/api/holes").json["holes"][0]
    here = {"name": hole["name"], "hole_id": hole["id"], "water": ""}
    moved = {**here, "name": "Another name"}
    notes = [
        {**note(901, "2026-02-05T09:20:00Z", moved, "photo"), "unit": "Two-beam ring", "lure": "Jig"},
        note(900, "2026-02-05T09:05:00Z", here, "photo"),
    ]
    letters = base64.b64encode(b"picture").decode()
    text = json.dumps({**json.loads(phone_file(notes)), "photos": {one["id"]: letters for one in notes}})
    size = app.config["database"].path.stat().st_size
    for keep in (False, True, True):
        told = take(client, text, keep=keep, shift_min=60).json
        assert [(one["at"], one["spot"], one["hole_id"]) for one in told["photos"]] == [
            ("2026-02-05T10:05:00Z", hole["name"], hole["id"]),
            ("2026-02-05T10:20:00Z", "Another name", None),
        ]
        assert told["photos"][1]["unit"] == "Two-beam ring" and told["known"] == told["outings"] == 0
    assert app.config["database"].path.stat().st_size == size
    wrong = json.dumps({**json.loads(phone_file(notes)), "photos": {"77" * 8: letters}})
    is_problem(take(client, wrong), 422, "photos")
