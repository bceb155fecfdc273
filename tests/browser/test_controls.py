"""Controls that stand a little aside: each is used, and what it does is seen on the page or asked of the program."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import THREE_COLOUR_RING
from hollow_glint.formats import gear_file

from .conftest import PHONE, listen, sent

PACE = 4.0
# Two frames on, what was asked for before is painted, however slow the machine.
PAINTED = "new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))"
PICTURE = "document.querySelector('.picture canvas').toDataURL()"


def bench(open_page, **options) -> Page:
    page = open_page("/?seed=7#/hole/1/bench", **options)
    expect(page.get_by_test_id("ceiling")).not_to_have_text("?")
    return page


# --- Bench ---------------------------------------------------------------------------------------------------------


def test_the_held_trace_goes_back_and_on_by_ones_and_twenties_and_stops_at_its_ends(open_page):
    page = bench(open_page)
    page.get_by_role("tab", name="Picture").click()
    page.wait_for_timeout(2500)
    page.get_by_role("button", name="Freeze").last.click()
    held = page.get_by_test_id("held")
    expect(held).to_have_text("0")
    press = {name: page.get_by_role("button", name=name) for name in (
        "Back twenty pings", "Back one ping", "On one ping", "On twenty pings")}  # fmt: skip
    shown = []
    for name, at in (
        ("On one ping", "0"),
        ("Back twenty pings", "20"),
        ("Back one ping", "21"),
        ("On twenty pings", "1"),
        ("On twenty pings", "0"),
        ("Back one ping", "1"),
        ("On one ping", "0"),
    ):
        press[name].last.click()
        expect(held).to_have_text(at)
        page.wait_for_timeout(120)
        page.evaluate(PAINTED)
        shown.append((at, page.evaluate(PICTURE)))
    # The same ping is the same picture, and another one another.
    of = {}
    for at, picture in shown:
        assert of.setdefault(at, picture) == picture
    assert len(set(of.values())) == len(of)
    page.get_by_role("button", name="Resume").last.click()
    expect(held).to_have_count(0)


def test_grid_and_tails_are_drawn_and_remembered(open_page):
    page = bench(open_page)
    page.get_by_role("tab", name="Picture").click()
    for name in ("Depth grid", "Fading tails"):
        button = page.get_by_role("button", name=name)
        was = button.get_attribute("aria-pressed")
        button.click()
        expect(button).to_have_attribute("aria-pressed", "false" if was == "true" else "true")
    pressed = {
        name: page.get_by_role("button", name=name).get_attribute("aria-pressed")
        for name in ("Depth grid", "Fading tails")
    }
    page.reload()
    page.get_by_role("tab", name="Picture").click()
    for name, was in pressed.items():
        expect(page.get_by_role("button", name=name)).to_have_attribute("aria-pressed", was)


def test_a_window_is_chosen_slid_and_put_away(open_page, program):
    """On a unit with windows of both kinds: the full column, one that hangs on the bottom, one that is slid."""
    units = program.ask("GET", "/api/units")[1]["units"]
    unit = next(one for one in units if one["free_windows_m"] and one["bottom_windows_m"])
    page = bench(open_page)
    page.get_by_role("combobox", name=re.compile("Unit|Sonar", re.I)).first.select_option(label=unit["name"])
    expect(page.get_by_test_id("ceiling")).not_to_have_text("?")
    window = page.get_by_role("group", name=re.compile("^Window"))
    full = window.get_by_role("button", name="Full column")
    expect(full).to_have_attribute("aria-pressed", "true")
    listen(page)
    window.get_by_role("button", name=re.compile("^Bottom")).first.click()
    expect(full).to_have_attribute("aria-pressed", "false")
    assert f'"bottom_window_m":{unit["bottom_windows_m"][0]:g}' in sent(page).replace(" ", "")[:20_000]
    window.get_by_role("button", name=re.compile("^Free")).first.click()
    sent(page)
    page.get_by_role("button", name="Window down").click()
    top = float(re.search(r'"free_window_top_m":([\d.]+)', sent(page))[1])
    page.get_by_role("button", name="Window up").click()
    assert float(re.search(r'"free_window_top_m":([\d.]+)', sent(page))[1]) < top
    full.click()
    expect(page.get_by_role("button", name="Window down")).to_have_count(0)


def test_the_hand_twitches_sets_and_brings_the_lure_to_a_line_that_is_moved_and_taken_away(open_page):
    page = bench(open_page)
    listen(page)
    page.get_by_role("button", name="Twitch").click()
    assert '"twitch":true' in sent(page)
    page.get_by_role("button", name="Set the hook").click()
    assert '"set_hook":true' in sent(page)
    page.get_by_role("button", name="Draw an aim line").click()
    line = page.get_by_test_id("target")
    first = line.inner_text()
    page.get_by_role("button", name="Aim line up").click()
    expect(line).not_to_have_text(first)
    page.get_by_role("button", name="Aim line down").click()
    expect(line).to_have_text(first)
    sent(page)
    page.get_by_role("button", name=re.compile("^Bring to")).click()
    assert '"to_depth_m":' in sent(page)
    expect(page.get_by_test_id("lure-depth")).to_contain_text(first, timeout=20_000)
    page.get_by_role("button", name="No line").click()
    expect(line).to_have_count(0)


def test_the_aim_line_is_dragged_on_the_picture(open_page, program):
    page = bench(open_page)
    page.get_by_role("button", name="Draw an aim line").click()
    line = page.get_by_test_id("target")
    expect(line).to_contain_text("ft")
    before = float(line.inner_text().split()[0])
    # The picture's own scale says where the line stands: from the face at its top to the range at its foot.
    box = page.locator(".picture canvas").bounding_box()
    hole = program.ask("GET", "/api/holes/1")[1]
    reach = float(page.locator("output", has_text=re.compile(r"^\d+ ft$")).first.inner_text().split()[0])
    at = box["y"] + box["height"] * (before - hole["face_depth_m"] / 0.3048) / reach
    page.mouse.move(box["x"] + 0.5 * box["width"], at)
    page.mouse.down()
    page.mouse.move(box["x"] + 0.5 * box["width"], at - 60, steps=6)
    page.mouse.up()
    page.wait_for_timeout(300)
    after = float(line.inner_text().split()[0])
    assert after < before - 0.5, "it was dragged up"


def test_practice_gives_a_hint_and_is_put_away(open_page):
    page = bench(open_page)
    page.get_by_role("tab", name="Practice").click()
    page.get_by_role("button", name="Find the bottom").click()
    exercise = page.get_by_test_id("exercise")
    hint = exercise.get_by_role("button", name="Hint")
    before = exercise.inner_text()
    hint.click()
    expect(exercise).not_to_have_text(before)
    assert len(exercise.inner_text()) > len(before)
    hint.click()
    expect(exercise).to_have_text(before)


def test_structure_schools_and_neighbours_are_put_into_the_water_and_taken_out(open_page):
    page = bench(open_page)
    page.get_by_role("tab", name="Water").click()
    listen(page)
    page.get_by_role("button", name="Add a neighbour's unit").click()
    assert '"neighbours":[{' in sent(page).replace(" ", "")
    page.get_by_label("Kind of structure").select_option(label="boulder")
    page.get_by_label("Kind of structure").locator("xpath=following-sibling::button").click()
    assert '"boulder"' in sent(page)
    page.get_by_label("Species").select_option("bait")
    page.get_by_label("School").select_option("ball")
    page.get_by_label("School").locator("xpath=following-sibling::button").click()
    assert '"ball"' in sent(page)
    for was, now in (("Face is wet", "Face is dry"), ("On its float", "Swings free")):
        page.get_by_role("button", name=was).click()
        expect(page.get_by_role("button", name=now)).to_be_visible()


# --- Gear ----------------------------------------------------------------------------------------------------------


def gear_of(*lures: Lure) -> dict[str, Any]:
    return json.loads(gear_file.write(gear_file.Gear((THREE_COLOUR_RING,), lures)))


def test_a_gear_file_is_taken_in_whole_or_not_at_all(open_page, program):
    page = open_page("/#/hole/1/gear")
    picker = page.get_by_label("Gear file")
    good = json.dumps(gear_of(Lure("Borrowed jig", 0.004))).encode()
    picker.set_input_files({"name": "gear.json", "mimeType": "application/json", "buffer": good})
    # The ring is here already: nothing is taken in before it is said what to do.
    asked = page.get_by_role("dialog", name="Gear that is here already")
    expect(asked).to_contain_text("Three-colour ring: here already.")
    page.keyboard.press("Escape")
    expect(asked).to_have_count(0)
    expect(page.get_by_role("button", name="Borrowed jig", exact=True)).to_have_count(0)
    picker.set_input_files({"name": "gear.json", "mimeType": "application/json", "buffer": good})
    asked.get_by_role("button", name="Replace what is here").click()
    expect(page.get_by_role("button", name="Borrowed jig", exact=True)).to_be_visible()
    units = program.ask("GET", "/api/units")[1]["units"]
    assert [one["version"] for one in units if one["name"] == "Three-colour ring"] == [2]
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="As it was.")).to_be_visible()
    picker.set_input_files({"name": "gear.json", "mimeType": "application/json", "buffer": good})
    asked.get_by_role("button", name="Keep both").click()
    expect(page.get_by_role("button", name="Three-colour ring (2)", exact=True)).to_be_visible()
    lures = program.ask("GET", "/api/lures")[1]["lures"]
    bad = gear_of(Lure("Never there", 0.004), Lure("Nor this", 0.004))
    bad["lures"][1]["diameter_m"] = 9.0
    picker.set_input_files({"name": "bad.json", "mimeType": "application/json", "buffer": json.dumps(bad).encode()})
    asked.get_by_role("button", name="Keep both").click()
    expect(page.get_by_role("status").filter(has_text="diameter_m")).to_be_visible()
    open_page.wrong.clear()  # the browser notes the refusal that was asked for
    assert program.ask("GET", "/api/lures")[1]["lures"] == lures
    for one in program.ask("GET", "/api/units")[1]["units"]:
        if one["name"].endswith("(2)"):
            program.ask("DELETE", f"/api/units/{one['id']}")


@pytest.mark.parametrize("part", ["Profile", "Calibrate"])
def test_on_a_phone_the_form_stands_under_the_lists_and_not_over_them(open_page, part):
    page = open_page("/#/hole/1/gear", viewport=PHONE)
    page.get_by_role("button", name="Two-beam ring", exact=True).click()
    page.get_by_role("tab", name=part, exact=True).click()
    picker = page.get_by_role("button", name="Take in a gear file").bounding_box()
    chosen = page.get_by_role("tab", name=part, exact=True).bounding_box()
    assert chosen["y"] >= picker["y"] + picker["height"]


def test_a_stand_in_answers_its_knobs_and_a_reading_of_it_is_noted(open_page):
    page = open_page("/#/hole/1/gear")
    page.get_by_role("button", name="Two-beam ring", exact=True).click()
    page.get_by_role("tab", name="Calibrate", exact=True).click()
    page.get_by_role("button", name=re.compile("[Pp]ractise")).first.click()
    stand_in = page.get_by_test_id("stand-in")
    gain, depth = (page.get_by_test_id(f"stand-in-{what}") for what in ("gain", "depth"))
    seen = stand_in.locator("p[role=status]")
    expect(seen).to_contain_text("pings")
    start = float(gain.inner_text())
    page.get_by_role("button", name="+4 steps of gain").click()
    expect(gain).to_have_text(f"{start + 4:g}")
    page.get_by_role("button", name="−4 steps of gain").click()
    expect(gain).to_have_text(f"{start:g}")
    was = depth.inner_text()
    page.get_by_role("button", name="Far lower").click()
    expect(depth).not_to_have_text(was)
    page.get_by_role("button", name="Far higher").click()
    expect(depth).to_have_text(was)
    note = page.get_by_role("button", name="Note: just disappears here")
    readings = page.get_by_role("button", name=re.compile("^Remove reading"))
    note.click()
    page.get_by_role("button", name="Far lower").click()
    note.click()
    expect(readings).to_have_count(2)
    readings.last.click()
    expect(readings).to_have_count(1)


# --- Card ----------------------------------------------------------------------------------------------------------


def test_the_card_is_printed_sent_translated_and_tried_on_the_bench(open_page, program):
    page = open_page("/#/hole/1/card")
    gain = page.get_by_test_id("line-gain")
    expect(gain).to_be_visible()
    page.evaluate("() => { window.print = () => { window.printed = (window.printed ?? 0) + 1; }; }")
    page.get_by_role("button", name="Print").click()
    assert page.evaluate("window.printed") == 1
    # What is printed is the card alone.
    page.emulate_media(media="print")
    expect(gain).to_be_visible()
    expect(page.get_by_role("button", name="Print")).to_be_hidden()
    expect(page.locator("header nav").first).to_be_hidden()
    page.emulate_media(media="screen")
    page.get_by_role("button", name="Text message").click()
    message = page.get_by_role("status").filter(has_text="Lantern point")
    expect(message).to_be_visible()
    assert "gain" in message.inner_text().lower() and len(message.inner_text()) < 400
    other = page.get_by_label("Unit", exact=True).last
    names = other.locator("option").all_inner_texts()[1:]
    said = set()
    for name in names:
        other.select_option(label=name)
        there = page.get_by_test_id("translated")
        expect(there).to_be_visible()
        said.add(there.inner_text())
        expect(page.get_by_role("region", name="On another unit").get_by_role("listitem").first).to_be_visible()
    assert len(said) == len(set(names)) >= 3, "each unit has numbers of its own"
    set_to = gain.locator("b").inner_text()
    page.get_by_role("button", name="Try it on the Bench").click()
    expect(page.get_by_role("slider", name="Gain")).to_have_value(set_to)


# --- Read ----------------------------------------------------------------------------------------------------------


def test_a_replay_runs_pauses_names_marks_and_closes(open_page, program):
    page = bench(open_page)
    page.get_by_role("button", name=re.compile("^Lower to")).click()
    page.wait_for_timeout(2000)
    page.get_by_role("button", name="Keep the last minutes").click()
    expect(page.get_by_test_id("coach")).to_contain_text("Kept")
    page.goto(page.url.split("#")[0] + "#/hole/1/read/recordings")
    line = page.get_by_role("listitem").filter(has_text="Lantern point").first
    for name, kind in (("netCDF", "application/x-netcdf"), ("CSV", "text/csv")):
        link = line.get_by_role("link", name=name).get_attribute("href")
        answer = page.request.get(program.url + link)
        assert answer.ok and len(answer.body()) > 500 and answer.headers["content-type"].startswith(kind)
    line.get_by_role("button", name="Replay").click()
    time = page.get_by_role("slider", name="Time in the recording")
    play = page.get_by_role("button", name=re.compile("^(Play|Pause)"))
    # Whoever asks for less motion finds it whole, at its end: played from there it begins again, and runs.
    begins, ends = (float(time.get_attribute(edge)) for edge in ("min", "max"))
    expect(time).not_to_have_value(f"{begins:g}")
    end = float(time.input_value())
    assert end == pytest.approx(ends, abs=0.06)
    play.click()
    expect(play).to_have_text("Pause")
    page.wait_for_timeout(300)
    first = float(time.input_value())
    page.wait_for_timeout(400)
    assert begins <= first < float(time.input_value()) < end
    play.click()
    expect(play).to_have_text("Play")
    stood = float(time.input_value())
    page.wait_for_timeout(400)
    assert float(time.input_value()) == stood, "it is paused"
    page.get_by_role("button", name="All recordings").click()
    expect(line.get_by_role("button", name="Replay")).to_be_visible()


# --- Strike --------------------------------------------------------------------------------------------------------


def test_the_sheet_notes_where_and_what_and_takes_it_back(open_page, program):
    page = open_page("/#/hole/2/strike/sheet")
    at = page.get_by_test_id("at")
    was = at.inner_text()
    page.get_by_role("button", name="Deeper").click()
    expect(at).not_to_have_text(was)
    page.get_by_role("button", name="Shallower").click()
    expect(at).to_have_text(was)
    page.locator("label", has_text=re.compile("^For")).locator("select").select_option("burbot")
    expect(page.get_by_role("heading", name="The ladder for burbot")).to_be_visible()
    suggestion = page.get_by_test_id("suggestion")
    expect(suggestion).to_be_visible()
    first = suggestion.inner_text()
    for _ in range(3):
        page.get_by_role("button", name="Look", exact=False).first.click()
        expect(page.get_by_role("status").filter(has_text="is noted")).to_be_visible()
    expect(suggestion).not_to_have_text(first)
    page.get_by_role("button", name="I am trying that now").click()
    expect(page.get_by_role("button", name="I am trying that now")).to_have_count(0)
    page.get_by_role("button", name="Turned here").click()
    expect(page.get_by_role("status").filter(has_text="Turned at")).to_be_visible()
    expect(page.get_by_text("Rise line: about")).to_be_visible()
    touches = program.ask("GET", "/api/holes/2/strike-sheet?species=burbot&at_hole_s=60")[1]["touches"]
    assert [one["kind"] for one in touches] == ["look"] * 3


def test_a_touch_that_is_quicker_than_the_sheet_is_noted_under_what_its_own_fish_are_tried_with(open_page, program):
    """What was tried on the species before, or nothing, would teach the sheet what nobody did."""
    wanted = program.ask("GET", "/api/holes/3/strike-sheet?species=burbot&at_hole_s=60")[1]["trying"]
    page = open_page("/#/hole/3/strike/sheet")
    suggestion = page.get_by_test_id("suggestion")
    expect(suggestion).to_be_visible()
    assert page.get_by_label("Trying now").input_value() != wanted
    page.evaluate(
        """() => {
          const sends = window.fetch;
          window.fetch = async (request) => {
            if (request.url.includes("/strike-sheet")) await new Promise((done) => setTimeout(done, 1500));
            return sends(request);
          };
        }"""
    )
    before = page.get_by_role("button", name="Bite").bounding_box()
    page.locator("label", has_text=re.compile("^For")).locator("select").select_option("burbot")
    expect(suggestion).to_be_hidden()
    bite = page.get_by_role("button", name="Bite")
    stood = bite.bounding_box()
    bite.click()
    expect(page.get_by_role("status").filter(has_text="is noted")).to_be_visible()
    expect(suggestion).to_be_visible()
    assert stood == before, "nothing jumps under the finger meanwhile"
    (touch,) = program.ask("GET", "/api/holes/3/strike-sheet?species=burbot&at_hole_s=60")[1]["touches"]
    assert (touch["kind"], touch["trying"]) == ("bite", wanted)
    assert page.get_by_label("Trying now").input_value() == wanted


def test_the_lab_shows_fish_two_patterns_and_says_which_drew_more(open_page):
    page = open_page("/#/hole/1/strike/lab")
    patterns = page.get_by_role("region", name="Patterns").get_by_role("button", pressed=False)
    chosen = page.get_by_role("region", name="Patterns").get_by_role("button", pressed=True)
    while chosen.count() < 2:
        patterns.first.click()
    result = page.get_by_role("region", name="Result")
    result.get_by_role("spinbutton").fill("20")
    result.get_by_role("button", name=re.compile("[Ss]how|[Rr]un|[Ff]ish")).first.click()
    verdict = page.get_by_test_id("verdict")
    expect(verdict).to_contain_text(re.compile("prefers|cannot tell|Nothing worked"), timeout=60_000)
    assert result.get_by_role("img").count() >= 2


# --- the frame round it --------------------------------------------------------------------------------------------


def test_the_head_changes_hole_measure_and_light_and_the_bore_leads_to_its_field(open_page):
    page = open_page("/#/hole/1/hole")
    page.get_by_role("button", name="Units: ft. Change to metres").click()
    expect(page.get_by_role("button", name="Units: m. Change to feet")).to_be_visible()
    expect(page.locator("body")).to_contain_text(re.compile(r"\d m\b"))
    page.get_by_role("button", name="Theme: day. Change to night").click()
    expect(page.get_by_role("button", name="Theme: night. Change to day")).to_be_visible()
    page.get_by_role("combobox", name="Hole").select_option(index=1)
    expect(page).to_have_url(re.compile("hole/2"))
    page.reload()
    expect(page.get_by_role("button", name="Units: m. Change to feet")).to_be_visible()
    expect(page.get_by_role("button", name="Theme: night. Change to day")).to_be_visible()
