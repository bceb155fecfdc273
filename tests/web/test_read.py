"""The Read step through the application: recordings, drills, the call sheet."""

from __future__ import annotations

import base64
import io
import time

import numpy as np
import pytest

from hollow_glint.core.drills.catalogue import KINDS, drill
from hollow_glint.formats import recording_csv, recording_nc
from hollow_glint.store import recordings
from tests.store.test_recordings import bench_recording, foreign


@pytest.fixture
def kept(app):
    return recordings.add(app.config["database"], bench_recording(), 1, [])


def sent(client, content: bytes, name: str = "seen.nc"):
    return client.post(f"/api/recordings/file?name={name}", data=content, content_type="application/octet-stream")


def taken_in(client, content: bytes, name: str = "seen.nc") -> dict:
    """A file sent, and what came of it in the end."""
    answer = sent(client, content, name)
    assert answer.status_code == 202, answer.json
    job, shares = answer.json, [answer.json["share"]]
    for _ in range(600):
        if job["state"] != "reading":
            break
        time.sleep(0.02)
        job = client.get(f"/api/imports/{job['id']}").json
        shares.append(job["share"])
    assert shares == sorted(shares)
    return job


# -- recordings -------------------------------------------------------------------------------------------------------


def test_a_live_bench_is_recorded_as_it_was_shown(client, app, bench):
    live = app.config["live_benches"].get(bench["id"])
    frames = [live.step()[0] for _ in range(60)]
    answer = client.post(f"/api/benches/{bench['id']}/recording", json={"name": "Dusk", "hole_id": 1})
    assert answer.status_code == 201 and answer.json["pings"] == sum(one.levels.shape[0] for one in frames)
    got = client.get(f"/api/recordings/{answer.json['id']}/pings").json
    shown = np.concatenate([one.levels for one in frames])
    assert base64.b64decode(got["levels"]) == shown.tobytes()
    assert client.get("/api/recordings").json["recordings"][0]["name"] == "Dusk"


def test_a_bench_that_has_shown_nothing_yet_says_so(client, bench):
    answer = client.post(f"/api/benches/{bench['id']}/recording", json={"name": "Dusk"})
    assert answer.status_code == 422 and "nothing has been shown" in answer.json["detail"]
    assert client.post("/api/benches/none/recording", json={"name": "x"}).status_code == 404


def test_pings_come_in_pieces_that_fit_together(client, kept):
    whole = client.get(f"/api/recordings/{kept.id}").json
    parts = [client.get(f"/api/recordings/{kept.id}/pings?first={at}&count=50").json for at in range(0, kept.pings, 50)]
    assert sum(one["count"] for one in parts) == kept.pings == whole["pings"]
    levels = b"".join(base64.b64decode(one["levels"]) for one in parts)
    assert levels == bench_recording().levels.tobytes()
    assert len(whole["knobs"]) == 2 and whole["unit"]["name"] and whole["face_depth_m"] == pytest.approx(0.4)
    beyond = client.get(f"/api/recordings/{kept.id}/pings?first=100000").json
    assert beyond["count"] == 0 and beyond["levels"] == ""


@pytest.mark.parametrize(("form", "reads"), [("nc", recording_nc.read), ("csv", recording_csv.read)])
def test_a_recording_goes_out_and_comes_back_the_same(client, kept, form, reads):
    content = client.get(f"/api/recordings/{kept.id}/file?format={form}").data
    assert np.array_equal(reads(content)[0].levels, bench_recording().levels)
    job = taken_in(client, content, f"seen.{form}")
    assert job["state"] == "done" and job["share"] == 1.0, job
    again = client.get(f"/api/recordings/{job['recording']['id']}/pings?count=4000").json
    assert base64.b64decode(again["levels"]) == bench_recording().levels.tobytes()


def test_a_file_from_elsewhere_is_taken_in_and_what_is_missing_stands_with_it(client):
    job = taken_in(client, foreign())
    assert job["state"] == "done"
    assert any(one.startswith("unit") for one in job["recording"]["remarks"])
    reading = client.get(f"/api/recordings/{job['recording']['id']}/reading?time_s=14").json
    assert reading["bottom"]["range_m"] == pytest.approx(7.5, abs=0.1)


@pytest.mark.parametrize(
    ("content", "name", "words"),
    [
        (b"no file at all", "seen.nc", "cannot be read as netCDF-4"),
        (recording_nc.write(bench_recording(20))[:900], "seen.nc", "cannot be read"),
        (b"a,b\n1,2\n", "seen.csv", "line 1"),
    ],
)
def test_a_bad_file_is_refused_with_a_sentence_and_nothing_is_kept(client, content, name, words):
    job = taken_in(client, content, name)
    assert job["state"] == "refused" and words in job["problem"] and job["problem"].endswith(".")
    assert client.get("/api/recordings").json["recordings"] == []


def test_files_are_bounded_and_an_empty_one_is_none(client, app, monkeypatch):
    assert sent(client, b"").status_code == 422
    from hollow_glint.web import problems

    monkeypatch.setitem(problems.TAKES_FILES, "/api/recordings/file", 1000)
    answer = sent(client, b"x" * 2000)
    assert answer.status_code == 413
    # Everything else keeps its own, smaller bound.
    big = client.post("/api/scenes/file", data=b"{" + b" " * 70_000 + b"}", content_type="application/json")
    assert big.status_code == 413 and "64 kB" in big.json["detail"]
    assert client.get("/api/imports/none").status_code == 404


def test_only_so_many_files_at_once(client, app, monkeypatch):
    from hollow_glint.web.read import recordings as web_recordings

    monkeypatch.setattr(web_recordings, "MOST_IMPORTS", 0)
    assert sent(client, b"x").status_code == 503


def test_notes_are_written_and_taken_away(client, kept):
    at = f"/api/recordings/{kept.id}/notes"
    note = client.post(at, json={"time_s": 2.0, "depth_m": 3.5, "text": " a fish "})
    assert note.status_code == 201 and note.json["text"] == "a fish" and note.json["by"] == "angler"
    assert client.get(f"/api/recordings/{kept.id}").json["notes"] == [note.json]
    for wrong in ({"time_s": -1}, {"depth_m": 300}, {"text": ""}, {"text": "x" * 281}):
        body = {"time_s": 2.0, "depth_m": 3.5, "text": "x", **wrong}
        answer = client.post(at, json=body)
        assert answer.status_code == 422 and next(iter(wrong)) in answer.json["detail"]
    assert client.delete(f"{at}/{note.json['id']}").status_code == 200
    assert client.delete(f"{at}/{note.json['id']}").status_code == 404
    assert client.delete(f"/api/recordings/{kept.id}").status_code == 200
    assert client.post(at, json={"time_s": 2.0, "depth_m": 3.5, "text": "x"}).status_code == 404


# -- the reader on a live bench ---------------------------------------------------------------------------------------


def test_the_stream_carries_names_only_while_they_are_wanted(client, app, bench):
    live = app.config["live_benches"].get(bench["id"])
    stream = live.stream()
    live.frame_s /= 1000.0

    def said(frames: int) -> str:
        return "".join(next(stream) for _ in range(frames))

    assert "event: reading" not in said(20)
    client.post(f"/api/benches/{bench['id']}/commands", json={"read": True, "to_depth_m": 7.0})
    told = said(400)
    assert told.count("event: reading") >= 50
    assert '"kind":"lure"' in told
    client.post(f"/api/benches/{bench['id']}/commands", json={"read": False})
    next(stream)
    assert "event: reading" not in said(20)
    stream.close()


# -- drills -----------------------------------------------------------------------------------------------------------


def test_every_kind_can_be_asked_for_and_gives_nothing_away(client):
    for kind in KINDS:
        query = {"kind": kind, "level": 1, "seed": 3}
        asked = client.get("/api/drills/one", query_string=query)
        assert asked.status_code == 200, asked.json
        told = asked.json
        assert not {"right", "truth", "target_m", "why", "moment_s"} & set(told)
        one = drill(kind, 1, 3)
        assert [choice["key"] for choice in told["choices"]] == [choice.key for choice in one.choices]
        shown = told["clips"][0]["pings"] if one.clips else (*told["sweeps"], *told["fans"])[0]
        true = (*one.clips, *one.sweeps, *one.fans)[0]
        assert base64.b64decode(shown["levels"]) == true.levels.tobytes()


def answer(client, which: str, **more):
    one = drill(which, 1, 3)
    body = {"kind": which, "level": 1, "seed": 3, "seconds": 6.0}
    body |= {"range_m": sum(one.target_m) / 2} if one.by_pointing else {"choice": one.right}
    return client.post("/api/drills/answers", json={**body, **more})


def test_a_right_answer_is_right_and_the_truth_comes_with_it(client):
    for kind in KINDS:
        told = answer(client, kind)
        assert told.status_code == 201 and told.json["is_right"], (kind, told.json)
        assert told.json["truth"] and told.json["why"]["text"]
    skills = client.get("/api/drills/skills").json["skills"]
    assert all(one["answers"] == 1 and one["share"] == 1.0 and one["low"] < 0.5 for one in skills)
    assert not any(one["is_due"] for one in skills if one["due_at"] is None)


def test_a_wrong_answer_is_wrong_and_comes_back_soon(client):
    one = drill("touching", 1, 3)
    wrong = next(choice.key for choice in one.choices if choice.key != one.right)
    told = answer(client, "touching", choice=wrong).json
    assert not told["is_right"] and told["right"] == one.right
    pointed = answer(client, "which is the lure", range_m=0.1).json
    assert not pointed["is_right"] and pointed["target_m"]


def test_a_round_for_clients_does_not_move_ones_own_schedule(client):
    told = answer(client, "touching", scheduled=False)
    assert told.json["due_at"] is None
    skill = next(one for one in client.get("/api/drills/skills").json["skills"] if one["kind"] == "touching")
    assert skill["answers"] == 1 and skill["due_at"] is None


def test_todays_round_is_eight_and_what_was_done_well_waits(client):
    first = client.get("/api/drills/today").json["drills"]
    assert len({one["kind"] for one in first}) == 8
    for one in first:
        answer(client, one["kind"])
    second = client.get("/api/drills/today").json["drills"]
    assert not {one["kind"] for one in first} & {one["kind"] for one in second}


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"kind": "nothing"}, "kind"), ({"level": 4}, "level"), ({"seed": -1}, "seed"), ({"seconds": -1}, "seconds"),
        ({"choice": "maybe"}, "choice is 'maybe'"), ({"range_m": 999}, "range_m"),
    ],
)  # fmt: skip
def test_answers_that_cannot_be_are_refused_and_not_counted(client, change, words):
    told = answer(client, "touching", **change)
    assert told.status_code == 422 and words in told.json["detail"]
    assert all(one["answers"] == 0 for one in client.get("/api/drills/skills").json["skills"])


def test_a_round_is_put_together_given_as_a_file_and_taken_in_elsewhere(client):
    parts = [{"kind": "touching", "level": 2, "count": 3}, {"kind": "predict", "level": 1, "count": 2}]
    made = client.post("/api/drills/rounds", json={"name": "Clients", "parts": parts})
    assert made.status_code == 201
    text = client.get(f"/api/drills/rounds/{made.json['id']}/file").text
    taken = client.post("/api/drills/rounds/file", data=text, content_type="application/json")
    assert taken.status_code == 201 and taken.json["parts"] == parts
    drawn = client.get(f"/api/drills/rounds/{taken.json['id']}/drills").json["drills"]
    assert [one["kind"] for one in drawn] == ["touching"] * 3 + ["predict"] * 2
    assert client.delete(f"/api/drills/rounds/{taken.json['id']}").status_code == 200
    assert client.get(f"/api/drills/rounds/{taken.json['id']}/drills").status_code == 404
    broken = text.replace('"level": 2', '"level": 9')
    answered = client.post("/api/drills/rounds/file", data=broken, content_type="application/json")
    assert answered.status_code == 422 and "line " in answered.json["detail"] and "level" in answered.json["detail"]
    for wrong in ({"name": "x", "parts": []}, {"name": "", "parts": parts}, {"name": "x", "parts": [parts[0]] * 30}):
        assert client.post("/api/drills/rounds", json=wrong).status_code == 422


# -- the call sheet ---------------------------------------------------------------------------------------------------


def test_the_call_sheet_uses_the_hole_the_unit_and_the_lure(client):
    empty = client.post("/api/holes/1/calls", json={"unit_id": 1, "lure_id": 3}).json
    assert empty["calls"] == [] and empty["fits"] and empty["lure_depth_m"] > 5.0
    lure_at = empty["lure_depth_m"] - 0.44
    seen = {"shown_m": lure_at, "colour": 2, "motion": "with the rod", "near": "near the lure"}
    sheet = client.post("/api/holes/1/calls", json={"unit_id": 1, "lure_id": 3, "seen": seen}).json
    assert sheet["calls"][0]["kind"] == "your lure"
    fish = {"shown_m": 4.0, "colour": 4, "thickness": "thicker", "motion": "rising", "change": "growing"}
    sheet = client.post("/api/holes/1/calls", json={"unit_id": 1, "lure_id": 3, "seen": fish}).json
    assert sheet["calls"][0]["kind"] == "a fish" and sheet["calls"][0]["region"]["aside_m"]
    quieter = client.post("/api/holes/1/calls", json={"unit_id": 1, "lure_id": 3, "gain": 14, "seen": fish}).json
    assert quieter["settings"]["gain"] == 14
    # With less gain the same colour is a larger fish.
    assert quieter["calls"][0]["likely_length_m"][0] > sheet["calls"][0]["likely_length_m"][0]


@pytest.mark.parametrize(
    ("body", "status"),
    [
        ({"unit_id": 999}, 404), ({"unit_id": 1, "lure_id": 999}, 404), ({}, 422),
        ({"unit_id": 1, "gain": 900}, 422), ({"unit_id": 1, "seen": {"shown_m": 3}}, 422),
        ({"unit_id": 1, "seen": {"shown_m": 149, "colour": 1}}, 422),
        ({"unit_id": 1, "seen": {"shown_m": 3, "colour": 30}}, 422),
    ],
)  # fmt: skip
def test_what_cannot_be_called_is_refused(client, body, status):
    answered = client.post("/api/holes/1/calls", json=body)
    assert answered.status_code == status and answered.json["detail"].endswith(".")


def test_a_recording_is_a_file_that_others_can_open(client, kept):
    import h5py

    content = client.get(f"/api/recordings/{kept.id}/file").data
    with h5py.File(io.BytesIO(content)) as file:
        assert file["Sonar/Beam_group1/backscatter_r"].shape == (kept.pings, 1, 360)
