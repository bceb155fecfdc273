"""Gear files: named after what they hold, and asking before they stand beside what is here."""

from __future__ import annotations

import json

import pytest

from .test_web import is_problem


def named(client) -> list[str]:
    return [one["name"] for one in client.get("/api/units").json["units"]]


@pytest.mark.parametrize(
    ("name", "plain", "own"),
    [
        ("My One-beam, 2nd", "my-one-beam-2nd.json", "my-one-beam-2nd.json"),
        ('Ännä/..\\ "ring"', "anna-ring.json", "%C3%A4nn%C3%A4-ring.json"),
        ("…", "unit.json", "unit.json"),
        ("ледяной", "unit.json", "%D0%BB%D0%B5%D0%B4%D1%8F%D0%BD%D0%BE%D0%B9.json"),
    ],
)
def test_a_file_is_named_after_its_unit(client, name, plain, own):
    unit = client.get("/api/units/1").json
    fields = {key: value for key, value in unit.items() if key not in ("id", "version", "calibrated")} | {"name": name}
    made = client.post("/api/units", json=fields)
    assert made.status_code == 201, made.json
    answer = client.get(f"/api/units/{made.json['id']}/file")
    assert answer.headers["Content-Disposition"] == f"attachment; filename=\"{plain}\"; filename*=UTF-8''{own}"


def test_what_is_here_already_is_asked_about_replaced_or_kept_beside(client):
    text = client.get("/api/units/2/file").get_data(as_text=True)
    given = json.loads(text)
    name = given["units"][0]["name"]
    given["units"][0]["rows"] = 333

    def send(same):
        return client.post(f"/api/gear/file?same={same}", data=json.dumps(given), content_type="application/json")

    before, units = named(client), client.get("/api/units").json["units"]
    is_problem(send("ask"), 409, f"{name}: here already")
    assert client.get("/api/units").json["units"] == units, "nothing is kept before it is said"
    # Replaced: the same row, another version, and what stood on it stands.
    taken = send("replace")
    assert taken.status_code == 201 and taken.json["units"][0]["id"] == 2
    now = client.get("/api/units/2").json
    assert now["rows"] == 333 and now["version"] == units[1]["version"] + 1 and named(client) == before
    # Both: told apart by a number.
    for k in (2, 3):
        assert send("both").json["units"][0]["name"] == f"{name} ({k})"
    assert named(client) == [*before, f"{name} (2)", f"{name} (3)"]
    # A file with nothing that is here is taken in without a question.
    given["units"][0]["name"] = "Another"
    assert send("ask").status_code == 201
    is_problem(send("perhaps"), 422, "same", "perhaps")


def test_two_of_one_name_in_a_file_are_two_here(client):
    given = json.loads(client.get("/api/lures/1/file").get_data(as_text=True))
    given["lures"] = [{**given["lures"][0], "name": "Twin"}, {**given["lures"][0], "name": "Twin", "diameter_m": 0.008}]
    taken = client.post("/api/gear/file?same=replace", data=json.dumps(given), content_type="application/json")
    assert [one["name"] for one in taken.json["lures"]] == ["Twin", "Twin (2)"]
