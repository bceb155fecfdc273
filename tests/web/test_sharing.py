"""Places to a friend and from one: nothing that was to stay goes out, nothing comes in twice, nothing is half taken."""

from __future__ import annotations

import json

import gpxpy
import numpy as np
import pytest
from geographiclib.geodesic import Geodesic

from hollow_glint.core.trip.sharing import rounded
from hollow_glint.store.database import Database
from hollow_glint.web.app import create_app


@pytest.fixture
def friend(tmp_path):
    """A client of a friend's program, with nothing in it."""
    return create_app(Database(tmp_path / "friend" / "store.sqlite3")).test_client()


def given(client, **asked) -> str:
    answer = client.get("/api/lakes/1/shared/file", query_string=asked)
    assert answer.status_code == 200, answer.text
    return answer.text


def metres(a, b) -> float:
    return Geodesic.WGS84.Inverse(a["latitude"], a["longitude"], b["latitude"], b["longitude"])["s12"]


def test_a_friend_has_the_same_holes_at_the_same_places(client, friend):
    text = given(client)
    taken = friend.post("/api/places/file", json={"text": text}).json
    told = json.loads(text)
    assert taken["new_lake"] and taken["known"] == 0
    assert (taken["holes"], taken["structures"], taken["soundings"]) == tuple(
        len(told[name]) for name in ("holes", "structures", "soundings")
    )
    assert taken["holes"] >= 3 and taken["soundings"] > 40
    mine = {one["name"]: one for one in client.get("/api/lakes/1/things").json["holes"]}
    theirs = {one["name"]: one for one in friend.get(f"/api/lakes/{taken['lake_id']}/things").json["holes"]}
    assert mine.keys() == theirs.keys()
    for name, one in mine.items():
        there = theirs[name]
        assert np.hypot(one["east_m"] - there["east_m"], one["north_m"] - there["north_m"]) < 0.05
        assert one["depth_m"] == there["depth_m"]
    # The map that is fitted to it says the same.
    for asked, lake_id in ((client, 1), (friend, taken["lake_id"])):
        assert asked.get(f"/api/lakes/{lake_id}/shared").json["soundings"] == taken["soundings"]


def test_twice_the_same_file_adds_nothing_twice(client, friend):
    text = given(client)
    first = friend.post("/api/places/file", json={"text": text}).json
    again = friend.post("/api/places/file", json={"text": text}).json
    assert (again["holes"], again["structures"], again["soundings"], again["new_lake"]) == (0, 0, 0, False)
    assert again["known"] == first["holes"] + first["structures"] + first["soundings"]
    assert again["lake_id"] == first["lake_id"] and len(friend.get("/api/lakes").json["lakes"]) == 1
    # And one's own file comes home without a trace.
    before = client.get("/api/holes").json, client.get("/api/lakes/1/things").json
    home = client.post("/api/places/file", json={"text": text}).json
    assert (home["holes"], home["structures"], home["soundings"]) == (0, 0, 0)
    assert (client.get("/api/holes").json, client.get("/api/lakes/1/things").json) == before


def test_another_hole_of_the_same_name_stands_beside_ones_own(client, friend):
    told = json.loads(given(client, ground=False, structures=False))
    friend.post("/api/places/file", json={"text": json.dumps(told)})
    told["holes"][0]["hole"]["bottom_depth_m"] += 1.0
    name = told["holes"][0]["hole"]["name"]
    for _ in range(2):
        friend.post("/api/places/file", json={"text": json.dumps(told)})
    names = [one["name"] for one in friend.get("/api/holes").json["holes"]]
    assert names.count(name) == 1 and names.count(f"{name} (2)") == 1 and f"{name} (3)" not in names


def test_rounded_positions_lie_within_what_is_said_and_the_ground_stays(client, friend):
    exact, text = json.loads(given(client)), given(client, positions="rounded", round_to_m=500)
    told = json.loads(text)
    assert told["soundings"] == [] and any("soundings are left out" in one for one in told["left_out"])
    away = [metres(a, b) for a, b in zip(exact["holes"], told["holes"], strict=True)]
    assert max(away) <= told["within_m"] < 360.0 and max(away) > 50.0
    # No place of it is where it was, in no field.
    for one in exact["holes"] + exact["structures"]:
        assert f"{one['latitude']:.4f}" not in text or f"{one['longitude']:.4f}" not in text
    taken = friend.post("/api/places/file", json={"text": text}).json
    assert taken["holes"] == len(told["holes"])
    assert "rounded: within 358 m" in friend.get("/api/holes").json["holes"][0]["note"]
    assert friend.post("/api/places/file", json={"text": text}).json["holes"] == 0


def test_hidden_positions_are_in_no_kind_of_file(client, friend):
    exact = json.loads(given(client))
    secret = {f"{one[name]:.3f}" for one in [exact, *exact["holes"]] for name in ("latitude", "longitude")}
    text = given(client, positions="hidden")
    told, features = json.loads(text), json.loads(given(client, positions="hidden", kind="geojson"))
    assert not [one for one in secret if one in text or one in json.dumps(features)]
    assert told["latitude"] is None and {one["latitude"] for one in told["holes"]} == {None}
    assert {json.dumps(one["geometry"]) for one in features["features"]} == {"null"} and features["left_out"]
    refused = client.get("/api/lakes/1/shared/file?positions=hidden&kind=gpx")
    assert refused.status_code == 422 and "made of positions" in refused.text
    taken = friend.post("/api/places/file", json={"text": text}).json
    assert taken["holes"] == len(exact["holes"]) and taken["structures"] == taken["soundings"] == 0
    assert friend.get(f"/api/lakes/{taken['lake_id']}/things").json["holes"] == []


def test_notes_and_the_log_stay_unless_they_are_asked_for(client):
    with client.application.config["database"].transaction() as connection:
        connection.execute("UPDATE hole SET note = 'where uncle fell in' WHERE id = 1")
    kinds = ("file", "gpx", "geojson")
    assert not [kind for kind in kinds if "uncle" in given(client, kind=kind)]
    assert [kind for kind in kinds if "uncle" in given(client, kind=kind, notes=True)] == list(kinds)
    said = [one["text"] for one in client.get("/api/lakes/1/shared").json["left_out"]]
    assert any("notes" in one for one in said) and any("caught" in one for one in said)
    assert "began_at" not in given(client, notes=True)


def test_gpx_and_geojson_are_read_by_others(client):
    exact = json.loads(given(client))
    file = gpxpy.parse(given(client, kind="gpx"))
    assert len(file.waypoints) == sum(len(exact[name]) for name in ("holes", "structures", "soundings"))
    assert file.waypoints[0].latitude == pytest.approx(exact["holes"][0]["latitude"], abs=2e-6)
    features = json.loads(given(client, kind="geojson"))["features"]
    assert features[0]["geometry"]["coordinates"] == [exact["holes"][0]["longitude"], exact["holes"][0]["latitude"]]


@pytest.mark.parametrize("latitude", [-71.3, -0.0004, 0.0, 46.2, 66.6, 80.0])
@pytest.mark.parametrize("to_m", [100.0, 500.0, 2000.0])
def test_a_rounded_place_is_within_half_a_diagonal_and_tells_no_more(latitude, to_m):
    """Distances by GeographicLib (Karney 2013)."""
    rng = np.random.default_rng(1)
    for _ in range(200):
        a, b = latitude + rng.uniform(0.0, 0.05), 17.0 + rng.uniform(0.0, 0.05)
        near, far = rounded(a, b, to_m)
        assert Geodesic.WGS84.Inverse(a, b, near, far)["s12"] <= 0.715 * to_m
        assert rounded(near, far, to_m) == (near, far)  # all places of a square become one


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda told: told.update(hollow_glint_places=2), "version 1"),
        (lambda told: told["holes"][0]["hole"].update(bottom_depth_m=-3.0), "bottom_depth_m"),
        (lambda told: told["holes"][0].update(latitude=91.0), "latitude"),
        (lambda told: told["structures"][0].update(kind="treasure"), "kind"),
        (lambda told: told.update(colour="red"), "colour"),
        (lambda told: told["holes"][-1].update(latitude=-66.0), "distance from the anchor"),
        (lambda told: told.pop("lake"), "lake"),
    ],
)
def test_a_bad_file_is_refused_in_words_and_leaves_nothing_behind(client, friend, change, said):
    told = json.loads(given(client))
    change(told)
    answer = friend.post("/api/places/file", json={"text": json.dumps(told, indent=1)})
    assert answer.status_code == 422 and said in answer.text, answer.text
    assert friend.get("/api/holes").json["holes"] == [] and friend.get("/api/lakes").json["lakes"] == []


def test_a_lake_that_nobody_placed_can_only_be_shared_without_positions(client):
    lake = client.post("/api/lakes", json={"name": "Nowhere tarn"}).json["id"]
    refused = client.get(f"/api/lakes/{lake}/shared")
    assert refused.status_code == 422 and "say where the lake lies first" in refused.text
    assert client.get(f"/api/lakes/{lake}/shared?positions=hidden").status_code == 200
    assert client.get("/api/lakes/1/shared?round_to_m=300").status_code == 422
    assert client.get("/api/lakes/99/shared").status_code == 404
