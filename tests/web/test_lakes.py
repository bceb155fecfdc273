"""Lakes over the web: the map that mends itself, files in and out, the day, what comes along."""

from __future__ import annotations

import gpxpy
import icalendar
import numpy as np
import pytest
import shapely
import shapely.geometry

from hollow_glint.core.ground.plane import Plane
from hollow_glint.formats import ascii_grid, soundings_csv, soundings_gpx
from tests.noting import note

from .test_web import is_problem

BAND = "from_m=5&to_m=10"


def fields(found: dict) -> dict:
    """What is sent of what was answered."""
    return {name: value for name, value in found.items() if name not in ("id", "version", "soundings")}


def whole(client, day: dict) -> dict:
    return fields(client.get("/api/lakes/1/day").json) | day


def rows_of(count: int) -> list[str]:
    """Lines of a made-up survey about the demo lake's anchor."""
    rng = np.random.default_rng(count)
    north, east = rng.uniform(-0.002, 0.002, count), rng.uniform(-0.004, 0.004, count)
    return [f"{17.0 + e:.7f},{66.6 + n:.7f},{5.0 + 900.0 * (n + 0.002):.2f}" for n, e in zip(north, east, strict=True)]


def file_of(rows: list[str]) -> str:
    return "lon,lat,depth\n" + "\n".join(rows) + "\n"


def take(client, text: str, rest: str = "ask", **more):
    columns = {"longitude": 0, "latitude": 1, "depth": 2, "unit": "m"}
    wanted = {"text": text, "name": "survey.csv", "columns": columns, "rest": rest} | more
    return client.post("/api/lakes/1/soundings/file", json=wanted)


def under(grid: dict, one: dict, what: str = "depth_m") -> float:
    """What a map's grid has at a place."""
    column = round((one["east_m"] - grid["west_m"]) / grid["cell_m"])
    row = round((one["north_m"] - grid["south_m"]) / grid["cell_m"])
    return grid[what][row * grid["columns"] + column]


# --- the map -------------------------------------------------------------------------------------------------------


def test_the_map_is_mended_by_each_sounding(client):
    before = client.get(f"/api/lakes/1/map?{BAND}").json
    teach = client.get(f"/api/lakes/1/teaches?{BAND}&east_m=-250&north_m=-32&reach_m=600").json["places"]
    assert [one["decides_m2"] for one in teach] == sorted((one["decides_m2"] for one in teach), reverse=True)
    one = {"east_m": teach[0]["east_m"], "north_m": teach[0]["north_m"], "how": "drilled hole"}
    # As deep as the map takes it to be: what a hole decides depends on what is found.
    one["depth_m"] = under(before["grid"], one)
    assert client.post("/api/lakes/1/soundings", json={"soundings": [one]}).status_code == 201
    after = client.get(f"/api/lakes/1/map?{BAND}").json
    assert after["possible"]["area_m2"] < before["possible"]["area_m2"]
    assert under(after["grid"], one) == pytest.approx(one["depth_m"], abs=0.2)
    assert under(after["grid"], one, "sd_m") < 0.5 * under(before["grid"], one, "sd_m")
    again = client.get(f"/api/lakes/1/teaches?{BAND}&east_m=-250&north_m=-32&reach_m=600").json["places"]
    assert np.hypot(again[0]["east_m"] - one["east_m"], again[0]["north_m"] - one["north_m"]) > 20.0


def test_a_sounding_folded_in_tells_what_a_fit_anew_tells(client, app):
    client.get(f"/api/lakes/1/map?{BAND}")  # fitted
    one = {"east_m": 400.0, "north_m": 50.0, "depth_m": 7.0}
    client.post("/api/lakes/1/soundings", json={"soundings": [one]})
    folded = client.get(f"/api/lakes/1/map?{BAND}").json["grid"]["depth_m"]
    app.config["surfaces"].__init__()  # forgotten, as by a restart
    anew = client.get(f"/api/lakes/1/map?{BAND}").json["grid"]["depth_m"]
    off = [abs(a - b) for a, b in zip(folded, anew, strict=True) if a is not None]
    assert np.quantile(off, 0.95) < 0.3


def test_a_hole_that_is_placed_deepens_the_map_and_follows_the_hole(client):
    made = client.post(
        "/api/holes", json=fields(client.get("/api/holes/1").json) | {"name": "New", "bottom_depth_m": 12.0}
    ).json
    before = client.get("/api/lakes/1").json["soundings"]
    assert client.put(f"/api/lakes/1/holes/{made['id']}", json={"east_m": 450.0, "north_m": 80.0}).status_code == 204
    assert client.get("/api/lakes/1").json["soundings"] == before + 1
    assert "New" in [one["name"] for one in client.get("/api/lakes/1/things").json["holes"]]
    removal = client.delete(f"/api/lakes/1/holes/{made['id']}").json["removal"]
    assert client.get("/api/lakes/1").json["soundings"] == before
    client.post(f"/api/removals/{removal}/undo")
    assert client.get("/api/lakes/1").json["soundings"] == before + 1


def test_a_lake_nobody_sounded_answers_plainly(client):
    made = client.post("/api/lakes", json={"name": "New water"}).json
    found = client.get(f"/api/lakes/{made['id']}/map?{BAND}").json
    assert found["grid"] is None and found["contours"] == []
    day = client.get(f"/api/lakes/{made['id']}/day").json
    assert day["version"] == 0
    plan = client.post(
        f"/api/lakes/{made['id']}/plan", json={k: v for k, v in day.items() if k not in ("id", "version")}
    )
    assert plan.json["sun"]["sunset_min"] is None and plan.json["planned"]["legs"][0]["to"] is None
    wanted = {"from_m": 5.0, "to_m": 10.0, "date": "2026-12-05"}
    assert client.post(f"/api/lakes/{made['id']}/start-places", json=wanted).json == {"places": []}
    is_problem(client.get(f"/api/lakes/{made['id']}/file?kind=grid"), 422, "nothing was sounded")
    is_problem(client.get(f"/api/lakes/{made['id']}/file?kind=csv"), 422, "say where the lake lies")
    is_problem(client.get("/api/lakes/1/map?from_m=5"), 422, "to_m")
    is_problem(client.get("/api/lakes/99/map"), 404, "lake")


# --- files ---------------------------------------------------------------------------------------------------------


def test_three_wrong_lines_of_five_thousand_are_told_and_refusing_leaves_nothing_behind(client):
    rows = rows_of(5000)
    rows[1200] = rows[1200].rsplit(",", 1)[0] + ",deep"
    rows[2400] = "17.0,96.6,5.0"
    rows[3600] = "17.0"
    before = client.get("/api/lakes/1").json["soundings"]
    asked = take(client, file_of(rows)).json
    assert (asked["taken"], asked["good"], asked["refused_count"]) == (0, 4997, 3)
    told = {one["line"]: one["why"] for one in asked["refused"]}
    assert told == {
        1202: "depth in m is 'deep': a number is accepted",
        2402: "latitude is 96.6: accepted are values from -90 to 90",
        3602: "it has 1 columns: column 3 is needed",
    }
    assert client.get("/api/lakes/1").json["soundings"] == before
    assert client.get("/api/lakes/1/things").json["surveys"] == []
    taken = take(client, file_of(rows), "take").json
    assert taken["taken"] == 4997 and client.get("/api/lakes/1").json["soundings"] == before + 4997
    (survey,) = client.get("/api/lakes/1/things").json["surveys"]
    removal = client.delete(f"/api/lakes/1/surveys/{survey['id']}").json["removal"]
    assert client.get("/api/lakes/1").json["soundings"] == before
    assert client.post(f"/api/removals/{removal}/undo").status_code == 204
    assert client.get("/api/lakes/1").json["soundings"] == before + 4997


def test_a_file_is_looked_at_before_it_is_taken_in(client):
    looked = client.post("/api/soundings/look", json={"text": "Depth (ft);Lat;Lon\n12,5;66,6;17,0\n"}).json
    assert looked["guess"] == {"longitude": 2, "latitude": 1, "depth": 0, "unit": "ft"}
    assert looked["first"] == [["12,5", "66,6", "17,0"]] and looked["middle"] == [66.6, 17.0]
    asked = client.post("/api/soundings/look", json={"text": "a,b,c\n1,2,3\n"}).json
    assert asked["guess"] is None and asked["missing"] == ["longitude", "latitude", "depth"]
    is_problem(client.post("/api/soundings/look", json={"text": "hello"}), 422, "fewer than three columns")
    is_problem(client.post("/api/soundings/look", json={"text": "<gpx"}), 422, "line 1")
    is_problem(take(client, file_of(["1,2,3"]), columns=None), 422, "columns is null")
    assert take(client, file_of(["1.0,2.0,3.0"])).json["refused"][0]["why"].startswith("distance from the anchor")


def test_a_hundred_thousand_soundings_are_thinned_and_what_that_leaves_out_is_said(client):
    found = take(client, file_of(rows_of(100_000))).json
    assert found["good"] == 100_000 and found["taken"] <= 12_000 and found["left_out"] == 100_000 - found["taken"]
    assert "stand for all" in found["said"]["text"] and 0.0 < found["said"]["values"]["within"]["value"] < 0.5
    assert len(client.get("/api/lakes/1/things").json["soundings"]) <= 4000
    grid = client.get(f"/api/lakes/1/map?{BAND}").json["grid"]
    assert max(one for one in grid["depth_m"] if one is not None) > 10.0


def test_a_file_too_large_is_refused_with_what_is_accepted(client):
    is_problem(client.post("/api/soundings/look", json={"text": "x" * (21 * 2**20)}), 413, "20 MB")


def test_what_is_given_out_opens_in_other_libraries_and_comes_back(client):
    lake = client.get("/api/lakes/1").json
    plane = Plane(lake["latitude"], lake["longitude"])
    text = client.get("/api/lakes/1/file?kind=gpx").get_data(as_text=True)
    kinds = [one.type for one in gpxpy.parse(text).waypoints]
    stands = client.get("/api/lakes/1/things").json["structures"]
    assert kinds.count("sounding") == lake["soundings"] and len(kinds) == lake["soundings"] + len(stands)
    named = {one.name for one in gpxpy.parse(text).waypoints if one.type is None}
    assert stands and named == {one["kind"] for one in stands}
    back = soundings_gpx.read(text, plane)[0]
    assert not back.refused
    csv = client.get("/api/lakes/1/file?kind=csv").get_data(as_text=True)
    again = soundings_csv.read(csv, soundings_csv.sniff(csv).guess, plane)
    for one, same in zip(back.soundings(), again.soundings(), strict=True):
        assert (one.east_m, one.north_m, one.depth_m) == pytest.approx(
            (same.east_m, same.north_m, same.depth_m), abs=0.01
        )
    collection = client.get(f"/api/lakes/1/file?kind=geojson&{BAND}").json
    shapes = [shapely.geometry.shape(one["geometry"]) for one in collection["features"]]
    assert all(one.is_valid for one in shapes) and any(one.geom_type == "MultiPolygon" for one in shapes)
    assert {one["properties"].get("in_band") for one in collection["features"]} == {None, "likely", "possible"}
    grid = client.get("/api/lakes/1/file?kind=grid").get_data(as_text=True)
    assert np.nanmax(ascii_grid.read(grid).depth_m) == pytest.approx(18.4, abs=1.0)
    assert take(client, grid, columns=None).json["taken"] == np.isfinite(ascii_grid.read(grid).depth_m).sum()


# --- the day -------------------------------------------------------------------------------------------------------


@pytest.fixture
def without_log(app):
    """The demo's own log speaks before the table; here there is none."""
    with app.config["database"].transaction() as connection:
        connection.execute("DELETE FROM outing")
    return app.config["database"]


def test_the_plan_moves_with_what_is_changed_and_keeps_nothing(client, without_log):
    places = client.post("/api/lakes/1/start-places", json={"from_m": 5, "to_m": 10, "date": "2026-12-05"}).json[
        "places"
    ]
    assert len(places) == 6 and all(one["in_band"] > 0.5 and one["why"] for one in places)
    chosen = [{"name": f"p{k}", "east_m": one["east_m"], "north_m": one["north_m"], "worth": one["worth"]}
              for k, one in enumerate(places)]  # fmt: skip
    plan = client.post("/api/lakes/1/plan", json=whole(client, {"places": chosen})).json
    legs = plan["planned"]["legs"]
    assert sorted(leg["to"] for leg in legs[:-1]) == list(range(6)) and legs[-1]["to"] is None
    assert plan["bands"][0]["by"] == "table" and plan["bands"][1]["by"] == "autumn"
    assert 730 < plan["sun"]["sunset_min"] < 745
    assert {"unmeasured", "thin", "old"} <= {one["kind"] for one in plan["warnings"]}
    short = client.post("/api/lakes/1/plan", json=whole(client, {"places": chosen, "ends_min": 700})).json
    assert len(short["planned"]["no_time"]) > 0 and short["planned"]["back_min"] <= 700
    knee = client.post("/api/lakes/1/plan", json=whole(client, {"places": chosen, "snow": "snow to the knee"})).json
    assert knee["planned"]["back_min"] > plan["planned"]["back_min"]
    own = client.post("/api/lakes/1/plan", json=whole(client, {"band_m": [3.0, 4.0]})).json
    assert (own["bands"][0]["by"], own["bands"][0]["from_m"]) == ("own", 3.0)
    assert client.get("/api/lakes/1/day").json["places"] == []
    is_problem(client.post("/api/lakes/1/plan", json=whole(client, {"ends_min": 100})), 422, "ends_min is 100")


def test_the_log_of_a_season_goes_before_the_table(client, without_log):
    day = whole(client, {"season": "midwinter"})
    assert client.post("/api/lakes/1/plan", json=day).json["bands"][0]["by"] == "table"
    for k in range(3):
        note(without_log, 1, f"2026-02-1{k}T15:00:00Z", "bite", 8.0, species="whitefish")
    found = client.post("/api/lakes/1/plan", json=day).json["bands"]
    assert [one["by"] for one in found] == ["log", "table"]
    assert 6.5 < found[0]["from_m"] < 8.0 < found[0]["to_m"] < 9.0
    # Of another season they say nothing.
    assert client.post("/api/lakes/1/plan", json=whole(client, {})).json["bands"][0]["by"] == "table"


def test_waypoints_go_in_walking_order_and_the_calendar_has_the_day_and_the_charging(client):
    places = [{"name": name, "east_m": east, "north_m": 0.0} for name, east in (("far", 200.0), ("near", -150.0))]
    places.append({"name": "out", "east_m": 0.0, "north_m": 0.0, "out": True})
    kept = client.get("/api/lakes/1/day")
    etag = {"If-Match": kept.headers["ETag"]}
    answer = client.put("/api/lakes/1/day", json=whole(client, {"places": places}), headers=etag)
    assert answer.status_code == 200
    order = [one["to"] for one in client.post("/api/lakes/1/plan", json=whole(client, {})).json["planned"]["legs"][:-1]]
    file = gpxpy.parse(client.get("/api/lakes/1/waypoints").get_data(as_text=True))
    assert [one.name for one in file.waypoints] == [f"{n} {places[k]['name']}" for n, k in enumerate(order, 1)]
    events = icalendar.Calendar.from_ical(client.get("/api/lakes/1/calendar").data).walk("VEVENT")
    titles = [str(one["summary"]) for one in events]
    assert titles[0] == "Kaldmere" and "Charge Big lead" in titles and "Look after Small lithium" in titles
    assert "Third Lantern" in events[0]["description"]
    stale = client.put("/api/lakes/1/day", json=whole(client, {}), headers=etag)
    assert stale.status_code == 412 and stale.json["now"]["places"][0]["name"] == "far"


def test_a_line_of_ones_own_goes_before_the_tables_and_goes_again(client, without_log):
    line = {"species": "whitefish", "season": "first ice", "light": "day", "from_m": 4.0, "to_m": 6.0, "why": "ours"}
    row = client.put("/api/trip/bands", json=line).json
    assert client.post("/api/lakes/1/plan", json=whole(client, {})).json["bands"][0]["to_m"] == 6.0
    assert row["id"] in [one["id"] for one in client.get("/api/trip/bands").json["lines"]]
    client.delete(f"/api/trip/bands/{row['id']}")
    assert client.post("/api/lakes/1/plan", json=whole(client, {})).json["bands"][0]["to_m"] == 10.0
    is_problem(client.put("/api/trip/bands", json=line | {"to_m": 4.0}), 422, "band_m is 4 to 4")


# --- what comes along ----------------------------------------------------------------------------------------------


def test_the_demos_big_battery_is_dead_by_half_past_one_and_what_helps_is_said(client):
    batteries = client.get("/api/batteries").json["batteries"]
    names = ("name", "chemistry", "capacity_ah", "rated_hours", "nominal_v", "charges", "spare")
    big, spare = ({name: one[name] for name in names} for one in batteries)
    wanted = {
        "battery": big, "spares": [spare], "dark_a": 0.45, "light_a": 0.55, "begins_min": 540, "ends_min": 900,
        "temperature_c": -18, "sunset_min": 737.7,
    }  # fmt: skip
    found = client.post("/api/trip/alive", json=wanted).json
    assert found["lives"] == "no" and 800 < found["dead_min"]["likely"] < 820  # half past one is 810
    after_sunset, from_start, with_spare = found["helps"]
    assert "after sunset" in after_sunset["text"] and after_sunset["values"]["until"]["value"] >= 900
    assert "from the start" in from_start["text"] and "spare (Small lithium)" in with_spare["text"]
    halved = client.post("/api/trip/alive", json=wanted | {"volts": 12.1}).json
    assert halved["dead_min"]["likely"] - 540 == pytest.approx(0.5 * (found["dead_min"]["likely"] - 540), rel=0.02)
    is_problem(client.post("/api/trip/alive", json=wanted | {"volts": 5.0}), 422, "volts is 5")
    by_volts = {"battery": big, "volts": 12.1, "draw_a": 1.0, "temperature_c": -18}
    assert client.post("/api/trip/volts", json=by_volts).json["charged"]["likely"] == pytest.approx(0.5)


def test_batteries_and_gear_are_kept_changed_and_noted_on(client):
    given = {"name": "New", "chemistry": "lead", "capacity_ah": 7.0}
    made = client.post("/api/batteries", json=given)
    assert made.status_code == 201 and made.json["left_by_age"] == 1.0
    address = f"/api/batteries/{made.json['id']}"
    changed = client.put(address, json=given | {"charges": 30}, headers={"If-Match": made.headers["ETag"]}).json
    noted = client.post(f"{address}/notes", json={"at": "2026-12-01T18:00:00Z", "what": "charged"}).json
    assert (changed["charges"], noted["charges"], noted["notes"][0]["what"]) == (30, 31, "charged")
    assert client.delete(address).status_code == 200
    is_problem(
        client.get("/api/rig").json and client.put(address, json=given, headers={"If-Match": '"1"'}), 404, "battery"
    )
    cable = next(one for one in client.get("/api/rig").json["items"] if one["kind"] == "cable")
    assert {one["check"]: one["state"] for one in cable["standing"]}["plugs"] == "failed"
    found = {"at": "2026-12-04T18:00:00Z", "made": "plugs", "passed": True}
    mended = client.post(f"/api/rig/{cable['id']}/findings", json=found).json
    assert {one["check"]: one["state"] for one in mended["standing"]}["plugs"] == "passed"
    is_problem(client.post(f"/api/rig/{cable['id']}/findings", json=found | {"made": "kick"}), 422, "made")
    etag = {"If-Match": f'"{mended["version"]}"'}
    assert (
        client.put(f"/api/rig/{cable['id']}", json={"name": "Cable", "kind": "cable"}, headers=etag).status_code == 200
    )


def test_screens_are_kept_by_the_units_own_views_and_the_job(client):
    views = client.get("/api/units/1/views").json
    assert set(views["of_unit"]) <= {one["view"] for one in views["all"]}
    job = {"views": ["history", "now", "map"], "from_m": 5.0, "to_m": 10.0, "places": 6, "people": 4}
    kept = {one["view"]: one["place"] for one in client.post("/api/trip/screens", json=job).json["views"]}
    assert kept == {"history": 1, "map": 2, "now": None}
    is_problem(client.post("/api/trip/screens", json=job | {"views": ["radar"]}), 422, "views")


def test_a_shore_is_drawn_and_kept(client):
    turn = np.linspace(0.0, 2.0 * np.pi, 200)
    line = np.column_stack([300.0 * np.cos(turn), 200.0 * np.sin(turn)]).tolist()
    shore = client.post("/api/ground/shore", json={"line": line}).json["shore_m"]
    lake = client.get("/api/lakes/1")
    sent = fields(lake.json)
    kept = client.put("/api/lakes/1", json=sent | {"shore_m": shore}, headers={"If-Match": lake.headers["ETag"]})
    assert kept.status_code == 200 and client.get(f"/api/lakes/1/map?{BAND}").json["water_m2"] == pytest.approx(
        np.pi * 300.0 * 200.0, rel=0.02
    )
    knot = [0.0, 0.0, 10.0, 10.0, 10.0, 0.0, 0.0, 10.0]
    refused = client.put("/api/lakes/1", json=sent | {"shore_m": knot}, headers={"If-Match": '"2"'})
    is_problem(refused, 422, "crosses itself")
