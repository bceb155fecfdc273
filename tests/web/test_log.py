"""The Log over the web: outings mended and brought back, what is noted flowing in, what they teach, and where next."""

from __future__ import annotations

import io
import json
import re
import zipfile

import numpy as np
import pytest

from hollow_glint.store.database import Database
from hollow_glint.web.app import create_app
from tests.core.log.made_seasons import made_season

OUTING = {"began_at": "2026-02-14T12:00:00Z", "ended_at": "2026-02-14T16:00:00Z", "water": "Testmere"}
STAY = {"began_at": "2026-02-14T12:10:00Z", "ended_at": "2026-02-14T13:10:00Z", "hole": "By the reeds", "lines": 2}


@pytest.fixture
def other(tmp_path):
    """A client of a program over a store of its own, with nothing in it."""
    return create_app(Database(tmp_path / "other" / "store.sqlite3")).test_client()


@pytest.fixture
def outing(client):
    """An outing with a stay and two notes on it."""
    made = client.post("/api/outings", json=OUTING).json
    stay = client.post(f"/api/outings/{made['id']}/stays", json=STAY).json
    for minute, kind in ((20, "look"), (40, "fish")):
        note = {"at": f"2026-02-14T12:{minute}:00Z", "kind": kind, "depth_m": 5.5, "species": "char"}
        assert client.post(f"/api/stays/{stay['id']}/happenings", json=note).status_code == 201
    return client.get(f"/api/outings/{made['id']}").json


def test_an_outing_is_what_was_written_down(client, outing):
    (stay,) = outing["at_holes"]
    assert outing["tally"] == {"rod_hours": 2.0, "looks": 2, "bites": 1, "fish": 1}
    assert [one["kind"] for one in stay["happened"]] == ["look", "fish"]
    assert "how long the fish were" in outing["missing"] and "which lure was on" in outing["missing"]
    assert outing["id"] in [one["id"] for one in client.get("/api/outings").json["outings"]]


def test_everything_can_be_mended_and_nobody_overwrites_what_he_has_not_seen(client, outing):
    number, (stay,) = outing["id"], outing["at_holes"]
    first = {"If-Match": f'"{outing["version"]}"'}
    answer = client.put(f"/api/outings/{number}", json=OUTING | {"pressure_trend": "falling"}, headers=first)
    assert answer.json["pressure_trend"] == "falling" and len(answer.json["at_holes"]) == 1
    late = client.put(f"/api/outings/{number}", json=OUTING, headers=first)
    assert late.status_code == 412
    mended = client.put(
        f"/api/stays/{stay['id']}", json=STAY | {"lines": 4}, headers={"If-Match": f'"{stay["version"]}"'}
    )
    assert mended.json["tally"]["rod_hours"] == 4.0
    note = stay["happened"][1]
    body = {"at": note["at"], "kind": "fish", "length_m": 0.41, "kept": False, "ended": "released"}
    assert client.put(f"/api/happenings/{note['id']}", json=body).json["length_m"] == 0.41
    assert "how long the fish were" not in client.get(f"/api/outings/{number}").json["missing"]


@pytest.mark.parametrize("what", ["outing", "stay", "note"])
def test_what_is_removed_by_a_slip_comes_back_whole(client, outing, what):
    stay = outing["at_holes"][0]
    address = {
        "outing": f"/api/outings/{outing['id']}",
        "stay": f"/api/stays/{stay['id']}",
        "note": f"/api/happenings/{stay['happened'][0]['id']}",
    }[what]
    removal = client.delete(address).json["removal"]
    assert client.get(f"/api/outings/{outing['id']}").json != outing
    assert client.post(f"/api/removals/{removal}/undo").status_code in (200, 204)
    assert client.get(f"/api/outings/{outing['id']}").json == outing


@pytest.mark.parametrize(
    ("body", "field", "said"),
    [
        ({"began_at": "today"}, "began_at", "a time as"),
        ({"began_at": "2026-02-14T12:00:00Z", "pressure_hpa": 29.9}, "pressure_hpa", "850"),
        ({"began_at": "2026-02-14T12:00:00Z", "ended_at": "2026-02-13T12:00:00Z"}, "ended_at", "up to 48 h later"),
        ({"began_at": "2026-02-14T12:00:00Z", "sky": "blue"}, "sky", "clear"),
    ],
)
def test_a_bad_outing_is_refused_by_its_field_and_nothing_is_kept(client, body, field, said):
    before = client.get("/api/outings").json
    answer = client.post("/api/outings", json=body)
    assert answer.status_code == 422
    assert field in json.dumps(answer.json) and said in json.dumps(answer.json, ensure_ascii=False)
    assert client.get("/api/outings").json == before


# --- what is noted flows in ------------------------------------------------------------------------------------------


def touch(client, hole: int, kind: str, **more):
    return client.post(f"/api/holes/{hole}/touches", json={"kind": kind, "trying": "hold", "species": "char", **more})


def test_a_touch_on_the_sheet_begins_an_outing_that_knows_what_the_card_was_made_for(client):
    before = len(client.get("/api/outings").json["outings"])
    wanted = client.get("/api/holes/2/card").json["wanted"]
    unit, lure = client.get("/api/units").json["units"][0], client.get("/api/lures").json["lures"][7]
    wanted |= {"unit_id": unit["id"], "lure_id": lure["id"]}
    assert client.put("/api/holes/2/card", json=wanted).status_code == 200
    assert touch(client, 2, "look", depth_m=3.0, at_hole_s=600.0).status_code == 201
    assert touch(client, 2, "bite", depth_m=3.0).status_code == 201
    assert len(client.get("/api/outings").json["outings"]) == before + 1
    found = client.get(f"/api/outings/{client.get('/api/outings').json['outings'][0]['id']}").json
    (stay,) = found["at_holes"]
    hole = client.get("/api/holes/2").json
    assert (stay["hole"], stay["depth_m"], stay["bottom"]) == (
        hole["name"],
        hole["bottom_depth_m"],
        hole["bottom_kind"],
    )
    assert (stay["unit"], stay["lure"], stay["lure_form"]) == (unit["name"], lure["name"], lure["form"])
    assert stay["settings"] == client.get("/api/holes/2/card").json["card"]["settings"]
    assert stay["tally"] == {"rod_hours": pytest.approx(10 / 60 + 0.25, abs=0.02), "looks": 1, "bites": 1, "fish": 0}
    assert found["water"] == hole["water"]


def test_lines_in_and_out_make_hours_also_without_a_fish(client, app):
    assert client.get("/api/holes/3/stay").json == {"stay": None}
    begun = client.post("/api/holes/3/stay", json={"lines": 1}).json["stay"]
    assert client.post("/api/holes/3/stay", json={"lines": 3}).json["stay"]["lines"] == 3
    assert client.get("/api/holes/3/stay").json["stay"]["id"] == begun["id"]
    ended = client.post("/api/holes/3/stay/end").json["stay"]
    assert ended["ended_at"] is not None and ended["lines"] == 3
    assert client.get("/api/holes/3/stay").json == {"stay": None}
    assert client.post("/api/holes/3/stay/end").json == {"stay": None}
    assert client.post("/api/holes/3/stay", json={"lines": 0}).status_code == 422
    assert client.post("/api/holes/999/stay", json={"lines": 1}).status_code == 404


def test_who_has_one_line_and_comes_to_the_next_hole_has_left_the_last(client):
    client.post("/api/holes/1/stay", json={"lines": 1})
    client.post("/api/holes/2/stay", json={"lines": 1})
    assert client.get("/api/holes/1/stay").json["stay"] is None
    assert client.get("/api/holes/2/stay").json["stay"] is not None


def test_who_has_two_lines_may_have_one_at_each_of_two_holes(client):
    client.post("/api/holes/1/stay", json={"lines": 2})
    client.post("/api/holes/2/stay", json={"lines": 1})
    assert client.get("/api/holes/1/stay").json["stay"] is not None


def test_a_card_of_gear_that_was_sold_does_not_keep_a_touch_from_being_noted(client, app):
    wanted = client.get("/api/holes/2/card").json["wanted"]
    unit = client.post("/api/units", json={**_unit(client), "name": "Sold soon"}).json
    assert client.put("/api/holes/2/card", json=wanted | {"unit_id": unit["id"]}).status_code == 200
    assert client.delete(f"/api/units/{unit['id']}").status_code == 200
    assert touch(client, 2, "look").status_code == 201


def _unit(client):
    found = client.get("/api/units").json["units"][0]
    return {name: value for name, value in found.items() if name not in ("id", "version")}


def test_all_that_happened_at_a_hole(client):
    first = touch(client, 2, "look", depth_m=3.0).json["id"]
    found = client.get("/api/holes/2/happenings").json["happened"]
    assert found[0]["id"] == first and found[0]["kind"] == "look"
    assert client.get("/api/holes/999/happenings").status_code == 404


# --- what it teaches -------------------------------------------------------------------------------------------------


def wanted(efforts):
    return {
        "efforts": [
            {"rod_hours": one.rod_hours, "count": one.count, "factors": one.factors, "hole": one.hole}
            for one in efforts
        ],
        "level": 0.9,
    }


def test_patterns_of_anybodys_efforts(client):
    rng = np.random.default_rng(1)
    efforts = [
        {
            "rod_hours": 2.0,
            "count": int(rng.poisson(2.0 * rate)),
            "factors": {"lure": lure, "light": light},
            "hole": "A",
        }
        for lure, rate in (("spoon", 3.0), ("jig", 1.0))
        for light in ("day", "dusk")
        for _ in range(12)
    ]
    found = client.post("/api/log/patterns", json={"efforts": efforts, "level": 0.9}).json
    spoon = found["factors"]["lure"]["spoon"]
    assert spoon["says"] == "better" and spoon["better"] > 0.99 and spoon["rod_hours"] == 48.0
    assert spoon["rate"]["low"] < 3.0 < spoon["rate"]["high"]
    assert found["factors"]["light"]["dusk"]["says"] == "no telling" and found["tangled"] == []
    assert found["overall"]["low"] < found["overall"]["likely"] < found["overall"]["high"]
    wider = client.post("/api/log/patterns", json={"efforts": efforts, "level": 0.99}).json
    assert wider["overall"]["low"] < found["overall"]["low"] and wider["overall"]["high"] > found["overall"]["high"]


def test_what_is_tangled_is_said_in_pairs(client):
    efforts = [
        {"rod_hours": 2.0, "count": n, "factors": {"lure": lure, "light": light, "bottom": "mud"}, "hole": f"h{k}"}
        for lure, light, n in (("spoon", "dusk", 6), ("jig", "day", 1))
        for k in range(5)
    ]
    found = client.post("/api/log/patterns", json={"efforts": efforts}).json
    assert found["tangled"] == [["lure", "light"]]
    assert found["factors"]["lure"]["spoon"]["says"] == "no telling"


def test_a_long_log_is_taken_and_says_the_same_each_time(client):
    efforts = [one for seed in range(70010, 70030) for one in made_season(seed).efforts]
    first = client.post("/api/log/patterns", json=wanted(efforts))
    assert first.status_code == 200 and first.data == client.post("/api/log/patterns", json=wanted(efforts)).data


@pytest.mark.parametrize(
    ("body", "said"),
    [
        ({}, "efforts"),
        ({"efforts": []}, "efforts"),
        ({"efforts": [{"rod_hours": -1, "count": 0}]}, "rod_hours"),
        ({"efforts": [{"rod_hours": 0, "count": 3}]}, "rod_hours"),
        ({"efforts": [{"rod_hours": 0, "count": 0}]}, "no hours"),
        ({"efforts": [{"rod_hours": 1, "count": 1.5}]}, "count"),
        ({"efforts": [{"rod_hours": 1, "count": 1, "factors": {"": "x"}}]}, "factors"),
        ({"efforts": [{"rod_hours": 1, "count": 1}], "level": 1.0}, "level"),
        ({"efforts": [{"rod_hours": 1, "count": 1, "colour": "red"}]}, "colour"),
        ({"efforts": [{"rod_hours": 1, "count": 1, "day": f"{k}"} for k in range(1501)]}, "1501 days"),
        (
            {"efforts": [{"rod_hours": 1, "count": 1, "day": f"{k}", "water": f"{k}"} for k in range(1100)]},
            "2200 levels",
        ),
    ],
)
def test_what_is_no_effort_is_refused_in_words(client, body, said):
    answer = client.post("/api/log/patterns", json=body)
    assert answer.status_code == 422 and said in json.dumps(answer.json)


def test_an_empty_log_teaches_nothing_and_says_so(client, app):
    with app.config["database"].transaction() as connection:
        connection.execute("DELETE FROM outing")
    found = client.get("/api/log/season").json
    assert found["overall"] is None and found["factors"] == []
    assert [one["overall"] for one in client.get("/api/log/shares").json["shares"]] == [None, None]
    assert client.get("/api/log/heights").json["verdict"] == "too little"
    assert client.get("/api/log/returns").json == {"returns": [], "holes": []}
    assert client.get("/api/log/elsewhere").json["places"] == []
    assert client.get("/api/log/gains").json == {"gains": []}


def test_the_demos_truth_is_found_in_its_log(client):
    """demo_log.py has what is true: the hours about sunset are better, pressure does nothing, and of what was tried the
    slow lift has half of the looks bite, the others a quarter."""
    season_told = client.get("/api/log/season?of=looks").json
    factors = {one["key"]: {level["level"]: level for level in one["levels"]} for one in season_told["factors"]}
    assert factors["hour"]["the last hour before sunset"]["says"] == "better"
    assert {one["says"] for one in factors["pressure"].values()} == {"no telling"}
    assert next(iter(factors["hour"])) == "4 to 2 h before sunset"
    shares = client.get("/api/log/shares?factor=trying").json["shares"]
    best = max(shares[0]["levels"], key=lambda one: one["share"]["likely"])
    assert best["level"] == "slow lift" and best["share"]["low"] < 0.5 < best["share"]["high"] + 0.02
    assert shares[1]["overall"]["low"] < 0.65 < shares[1]["overall"]["high"]
    assert client.get("/api/log/heights").json["verdict"] == "no telling"
    only = client.get("/api/log/season?of=fish&species=burbot").json
    assert 0 < only["count"] < season_told["count"] and only["rod_hours"] == season_told["rod_hours"]


# --- where next ------------------------------------------------------------------------------------------------------


def test_returns_have_a_reason_a_waypoint_and_a_calendar_entry(client):
    found = client.get("/api/log/returns").json
    best = found["returns"][0]
    assert (
        best["rate"]["low"] < best["rate"]["likely"] < best["rate"]["high"] and best["rate"]["likely"] > best["usual"]
    )
    assert "{count} bites in {hours}" in best["why"]["text"] and best["lake_id"] is not None
    gpx = client.get(f"/api/log/returns/{best['hole_id']}/waypoint").data.decode()
    assert best["name"] in gpx and "<wpt" in gpx
    ics = client.get(f"/api/log/returns/{best['hole_id']}/calendar?date=2027-01-10").data.decode()
    assert re.search(r"DTSTART:20270110T\d{6}", ics) and best["name"] in ics
    worst = min(found["holes"], key=lambda one: one["rate"]["low"])
    assert client.get(f"/api/log/returns/{worst['hole_id']}/waypoint").status_code == 404


def test_elsewhere_flows_into_where_the_next_trip_starts(client, app):
    places = client.get("/api/log/elsewhere").json["places"]
    assert places and all(one["rate"]["likely"] > 0 and one["times"] > 1.0 for one in places)
    asked = {"from_m": 6.0, "to_m": 10.0, "count": 6, "date": "2026-12-05"}
    with_log = client.post("/api/lakes/1/start-places", json=asked).json["places"]
    assert any("bites an hour" in why["text"] for one in with_log for why in one["why"])
    with app.config["database"].transaction() as connection:
        kept = connection.execute("SELECT * FROM outing").fetchall()
        connection.execute("DELETE FROM outing")
    assert kept
    without = client.post("/api/lakes/1/start-places", json=asked).json["places"]
    assert [one["worth"] for one in without] != [one["worth"] for one in with_log]
    assert not any("bites an hour" in why["text"] for one in without for why in one["why"])


def test_settings_that_worked_stand_beside_the_card(client):
    found = client.get("/api/holes/1/worked").json["worked"]
    assert found[0]["where"] == "here" and found[0]["low"] <= found[0]["high"] and found[0]["bites"] > 0
    assert "the card says {now}" in found[0]["says"]["text"]
    assert client.get("/api/holes/999/worked").status_code == 404


# --- in and out ------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["json", "csv"])
def test_a_log_goes_out_and_comes_in_elsewhere_once(client, other, kind):
    file = client.get(f"/api/log/file?kind={kind}")
    assert file.headers["Content-Disposition"].startswith("attachment")
    before = other.get("/api/outings").json["outings"]
    send = {"data": file.data, "content_type": "application/octet-stream"}
    first = other.post("/api/log/file", **send).json
    assert first["outings"] > 20 and first["happenings"] > 300
    assert other.post("/api/log/file", **send).json == {
        "outings": 0, "stays": 0, "happenings": 0, "known": first["outings"] + first["stays"] + first["happenings"],
    }  # fmt: skip
    assert len(other.get("/api/outings").json["outings"]) == len(before) + first["outings"]
    mine = {one["began_at"]: one["tally"] for one in other.get("/api/outings").json["outings"]}
    for one in client.get("/api/outings").json["outings"]:
        assert mine[one["began_at"]] == pytest.approx(one["tally"])


def test_a_broken_log_file_brings_nothing(client, other):
    whole = client.get("/api/log/file?kind=json").data
    before = other.get("/api/outings").data
    broken = whole.replace(b'"kind":"fish"', b'"kind":"wave"')
    answer = other.post("/api/log/file", data=broken, content_type="application/octet-stream")
    assert answer.status_code == 422 and "kind is 'wave'" in answer.json["detail"]
    assert other.post("/api/log/file", data=b"", content_type="application/octet-stream").status_code == 422
    assert other.get("/api/outings").data == before


def test_a_station_fills_in_what_nobody_noted_and_leaves_what_somebody_did(client, outing):
    other = client.post("/api/outings", json=OUTING | {"began_at": "2026-02-14T12:30:00Z", "pressure_trend": "rising",
                                                       "pressure_hpa": 990.0}).json  # fmt: skip
    text = "time,pressure\n" + "".join(f"2026-02-14T{hour:02}:00:00Z,{1020 - hour}\n" for hour in range(6, 18))
    answer = client.post("/api/log/weather", json={"text": text}).json
    assert answer["readings"] == 12 and answer["filled"] >= 1
    filled = client.get(f"/api/outings/{outing['id']}").json
    assert (filled["pressure_hpa"], filled["pressure_trend"]) == (pytest.approx(1008.0), "falling")
    kept = client.get(f"/api/outings/{other['id']}").json
    assert (kept["pressure_hpa"], kept["pressure_trend"]) == (990.0, "rising")
    assert client.post("/api/log/weather", json={"text": "a,b\n1,2\n"}).status_code == 422


def test_a_backup_over_the_web_is_whole_or_refused(client, other):
    file = client.get("/api/backup").data
    assert zipfile.ZipFile(io.BytesIO(file)).testzip() is None
    before = other.get("/api/holes").data
    for wrong in (file[:-200], b"no backup", file[:2000] + b"x" + file[2001:]):
        answer = other.post("/api/backup", data=wrong, content_type="application/octet-stream")
        assert answer.status_code == 422 and "changed" in answer.json["detail"]
        assert other.get("/api/holes").data == before
    assert other.post("/api/backup", data=file, content_type="application/octet-stream").status_code == 200
    assert other.get("/api/holes").data == client.get("/api/holes").data


def turned_on_the_bench(app, client, gain: float, seconds: float, **more) -> None:
    """Turn the gain on the Bench at hole 1 and let so many seconds of its water pass."""
    bench = client.post("/api/benches", json={"hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": 1, **more}).json
    settings = bench["settings"] | {"gain": gain}
    assert client.post(f"/api/benches/{bench['id']}/commands", json={"settings": settings}).status_code == 202
    live = app.config["live_benches"].get(bench["id"])
    for _ in range(round(seconds / bench["frame_s"])):
        live.step()
    client.delete(f"/api/benches/{bench['id']}")
    assert app.config["keeper"].submit(lambda: None, "The last before").wait(10.0)


def test_what_was_turned_on_the_bench_is_what_the_stay_is_fished_with(app, client):
    wanted = client.get("/api/holes/1/card").json["wanted"] | {"unit_id": 1, "lure_id": 3}
    assert client.put("/api/holes/1/card", json=wanted).status_code == 200
    card = client.get("/api/holes/1/card").json["card"]["settings"]["gain"]
    # Turned and turned on: only where the knob came to rest counts.
    turned_on_the_bench(app, client, card + 3.0, 1.0)
    assert client.post("/api/holes/1/stay", json={}).json["stay"]["settings"]["gain"] == card
    client.post("/api/holes/1/stay/end", json={})
    turned_on_the_bench(app, client, card + 2.0, 5.0)
    stay = client.post("/api/holes/1/stay", json={}).json["stay"]
    assert stay["settings"]["gain"] == card + 2.0
    # On the ice it is told by a touch, a step of the unit's own knob at a time, and no further than that goes.
    scale = client.get("/api/units/1").json["gain"]
    up = client.post("/api/holes/1/stay", json={"gain_steps": 1}).json["stay"]
    assert up["settings"]["gain"] == card + 2.0 + scale["step"] and up["id"] == stay["id"]
    most = client.post("/api/holes/1/stay", json={"gain_steps": 100}).json["stay"]
    assert most["settings"]["gain"] == scale["maximum"] and most["version"] > up["version"]
    assert client.post("/api/holes/1/stay", json={"gain_steps": 101}).status_code == 422


def test_what_was_turned_yesterday_or_on_another_unit_is_not_todays(app, client):
    wanted = client.get("/api/holes/1/card").json["wanted"] | {"unit_id": 1, "lure_id": 3}
    client.put("/api/holes/1/card", json=wanted)
    card = client.get("/api/holes/1/card").json["card"]["settings"]["gain"]
    turned_on_the_bench(app, client, card + 2.0, 3.0)
    with app.config["database"].transaction() as connection:
        connection.execute("UPDATE hole_knobs SET turned_at = '2026-01-01T08:00:00Z'")
    assert client.post("/api/holes/1/stay", json={}).json["stay"]["settings"]["gain"] == card
    client.post("/api/holes/1/stay/end", json={})
    other = client.post("/api/benches", json={"hole_id": 1, "unit_id": 2, "lure_id": 3}).json["settings"]["gain"]
    turned_on_the_bench(app, client, other, 3.0, unit_id=2)
    assert client.post("/api/holes/1/stay", json={}).json["stay"]["settings"]["gain"] == card


def test_where_no_card_was_used_the_bench_at_the_hole_says_what_is_fished_with(app, client):
    with app.config["database"].transaction() as connection:
        connection.execute("DELETE FROM hole_card")
    assert client.post("/api/holes/1/stay", json={}).json["stay"]["unit_id"] is None  # nobody said
    client.post("/api/holes/1/stay/end", json={})
    turned_on_the_bench(app, client, 20.0, 3.0)
    stay = client.post("/api/holes/1/stay", json={}).json["stay"]
    assert (stay["unit_id"], stay["lure_id"], stay["settings"]["gain"]) == (1, 3, 20.0)
    assert stay["unit"] and stay["lure"] and stay["beam"]
