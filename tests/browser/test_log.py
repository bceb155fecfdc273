"""The Log in the real page: a day that is never typed twice, what it teaches, the way back, everything in and out."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import expect

from .conftest import DESK, PHONE


def ask(page, path: str):
    """What the program answers, asked by the page itself."""
    return json.loads(page.evaluate("async path => await (await fetch(path)).text()", path))


@pytest.mark.parametrize(("viewport", "theme", "touch"), [(DESK, "rime", False), (PHONE, "lantern", True)],
                         ids=["desk by day", "phone by night"])  # fmt: skip
def test_a_day_from_the_trip_to_the_log_and_into_the_next_trip(open_page, viewport, theme, touch):
    more = {"has_touch": True} if touch else {}
    page = open_page("/#/hole/1/log/next", viewport=viewport, theme=theme, **more)
    # The log says where to go back to, and puts it into the coming day.
    page.get_by_role("button", name="Into the coming day").first.click()
    expect(page.get_by_text(re.compile("in the coming day"))).to_be_visible()
    page.get_by_role("link", name="See the day").click()
    page.goto(page.url.split("#")[0] + "#/hole/1/trip/walk")
    name = ask(page, "/api/log/returns")["returns"][0]["name"]
    expect(page.get_by_role("main")).to_contain_text(name)

    # Search, hole and card: which unit and lure are used is chosen once, on the card.
    page.goto(page.url.split("#")[0] + "#/hole/2/search/look")
    expect(page.get_by_role("main")).to_be_visible()
    page.goto(page.url.split("#")[0] + "#/hole/2/hole")
    expect(page.get_by_label("Depth", exact=False).first).to_be_visible()
    page.goto(page.url.split("#")[0] + "#/hole/2/card")
    page.get_by_test_id("line-gain").wait_for()
    if touch:
        page.get_by_role("button", name="What you know").click()
    page.get_by_label("Lure", exact=True).select_option(label="Spoon")
    expect(page.get_by_test_id("card")).to_contain_text("Spoon")
    page.wait_for_timeout(500)
    assert ask(page, "/api/holes/2/card")["wanted"]["lure_id"] is not None
    page.goto(page.url.split("#")[0] + "#/hole/2/bench")
    expect(page.get_by_test_id("coach")).to_be_visible()

    # On the ice: lines in, one touch for what happens, lines out.
    page.goto(page.url.split("#")[0] + "#/hole/2/strike/sheet")
    before = ask(page, "/api/log/season?of=fish")
    page.get_by_role("button", name="Lines in").click()
    here = page.get_by_role("region", name="At this hole")
    expect(here).to_contain_text("Fishing here since")
    expect(here).to_contain_text("Spoon")
    # What the unit really shows is one touch away, from what the card has.
    gain = here.locator("b.figures").last
    card_gain = float(gain.inner_text())
    here.get_by_role("button", name="Gain one step more").click()
    expect(gain).not_to_have_text(f"{card_gain:g}")
    for kind in ("Look", "Bite", "Fish"):
        page.get_by_role("region", name="What happened").get_by_role("button", name=kind).first.click()
        expect(page.get_by_text(re.compile(f"^{kind}, at .* is noted"))).to_be_visible()
    page.get_by_role("button", name="Lines out").click()
    expect(here).to_contain_text("Lines out. The log has")

    # The log has it all, and asks for nothing but what nobody could know.
    newest = ask(page, "/api/outings")["outings"][0]
    page.goto(page.url.split("#")[0] + f"#/hole/2/log/outings/{newest['id']}")
    stay = page.get_by_role("article", name="Stay at Sand tongue").last
    for told in ("Spoon", "sand", "gain", "1 line"):
        expect(stay).to_contain_text(told)
    expect(page.get_by_text(re.compile("Would teach more:"))).to_contain_text("how long the fish were")
    expect(page.get_by_text(re.compile("Would teach more:"))).not_to_contain_text("which lure was on")
    stay.get_by_role("button", name=re.compile("^Mend Fish")).last.click()
    form = page.get_by_role("dialog", name="What happened")
    form.get_by_label("Length").fill("14")
    form.get_by_label("Kept", exact=True).select_option("released")
    form.get_by_role("button", name="Keep it").click()
    expect(form).to_have_count(0)
    expect(stay).to_contain_text("14 in, released")

    # It counts at once, and the next trip begins with it.
    after = ask(page, "/api/log/season?of=fish")
    assert after["count"] == before["count"] + 1 and after["rod_hours"] > before["rod_hours"]
    page.goto(page.url.split("#")[0] + "#/hole/2/log/teaches")
    expect(page.get_by_test_id("sayings")).to_contain_text("Your usual")
    page.goto(page.url.split("#")[0] + "#/hole/2/trip/day")
    expect(page.get_by_role("main")).to_contain_text(re.compile("log", re.IGNORECASE))


def test_nothing_is_lost_by_a_slip(open_page):
    page = open_page("/#/hole/1/log/outings/3")
    notes = page.get_by_role("button", name=re.compile("^Remove (Look|Bite|Miss|Fish)"))
    expect(notes.first).to_be_visible()
    count = notes.count()
    notes.first.click()
    expect(notes).to_have_count(count - 1)
    page.get_by_role("button", name="Undo").click()
    expect(notes).to_have_count(count)
    page.get_by_role("button", name="Remove this outing").click()
    expect(page).to_have_url(re.compile("/log/outings$"))
    page.get_by_role("button", name="Undo").click()
    expect(page).to_have_url(re.compile("/log/outings/3$"))
    expect(notes).to_have_count(count)


def test_a_form_says_what_is_wrong_beside_its_field_and_keeps_what_was_typed(open_page):
    page = open_page("/#/hole/1/log/outings/3")
    page.get_by_role("button", name="Mend the day").click()
    form = page.get_by_role("dialog", name="The outing")
    form.get_by_label("Note").fill("Half a sentence")
    form.get_by_label("Pressure hPa").fill("29.9")
    form.get_by_role("button", name="Keep it").click()
    expect(form.get_by_text(re.compile("850 to 1090")).first).to_be_visible()
    expect(form.get_by_label("Note")).to_have_value("Half a sentence")
    open_page.wrong.clear()  # the browser notes the refusal that was asked for
    form.get_by_label("Pressure hPa").fill("1003")
    form.get_by_role("button", name="Keep it").click()
    expect(form).to_have_count(0)
    expect(page.get_by_label("Outing", exact=True)).to_contain_text("1003 hPa")


def test_an_outing_of_long_ago_is_written_down(open_page):
    page = open_page("/#/hole/1/log/outings")
    page.get_by_role("button", name="Write down an outing").click()
    form = page.get_by_role("dialog", name="An outing")
    form.get_by_label("Began").fill("2023-12-10T09:00")
    form.get_by_label("Ended").fill("2023-12-10T13:00")
    form.get_by_label("Water").fill("Kaldmere")
    form.get_by_role("button", name="Keep it").click()
    page.get_by_role("button", name="Add a stay at a hole").click()
    form = page.get_by_role("dialog", name="A stay at a hole")
    form.get_by_label("Hole").fill("Old hole")
    form.get_by_label("Lines out").fill("2023-12-10T11:00")
    depth = form.get_by_label("Depth of the bottom")
    depth.fill("20")
    form.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("article", name="Stay at Old hole")).to_contain_text("20 ft deep")
    page.get_by_role("article", name="Stay at Old hole").get_by_role("button", name="Add what happened").click()
    form = page.get_by_role("dialog", name="What happened")
    form.get_by_label("What", exact=True).select_option("Bite")
    form.get_by_label("At depth").fill("17")
    form.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("article", name="Stay at Old hole")).to_contain_text("Bite at 17 ft, 3 ft off the bottom")


def test_what_it_teaches_is_said_in_words_bars_and_tables(open_page):
    page = open_page("/#/hole/1/log/teaches", viewport=DESK)
    expect(page.get_by_test_id("sayings").get_by_role("listitem").first).to_contain_text("than your usual")
    expect(page.get_by_text("Tangled:").first).to_be_visible()
    hours = page.get_by_role("table", name="Hour from sunset")
    expect(hours.get_by_role("rowheader")).to_have_text(
        ["4 to 2 h before sunset", "2 to 1 h before sunset", "the last hour before sunset",
         "the first hour after sunset", "more than 1 h after sunset"]
    )  # fmt: skip
    expect(page.get_by_test_id("pressure")).to_contain_text("No telling")
    expect(page.locator(".uplot canvas")).to_have_count(2)
    page.get_by_role("button", name="Looks").click()
    expect(page.get_by_test_id("sayings")).to_contain_text("looks an hour")
    page.get_by_label(re.compile("^Of")).select_option("burbot")
    expect(page.get_by_test_id("sayings")).to_contain_text("Your usual")


def test_the_chart_draws_every_point_and_follows_the_theme(open_page):
    page = open_page("/#/hole/1/log/teaches", viewport=DESK)
    canvas = page.locator(".uplot canvas").first
    canvas.wait_for()
    inked = """one => { const p = one.getContext('2d').getImageData(0, 0, one.width, one.height).data;
        let n = 0; for (let k = 3; k < p.length; k += 4) if (p[k] > 40) n++; return n }"""
    page.wait_for_timeout(300)
    assert canvas.evaluate(inked) > 2000
    day = canvas.evaluate("one => one.toDataURL()")
    page.get_by_role("button", name="Theme: day. Change to night").click()
    page.wait_for_timeout(300)
    assert page.locator(".uplot canvas").first.evaluate("one => one.toDataURL()") != day


def test_the_card_says_what_worked_here(open_page):
    page = open_page("/#/hole/1/card")
    expect(page.get_by_test_id("worked")).to_contain_text(re.compile("What you used here on .* the card says"))


def test_a_log_a_stations_file_and_a_backup_go_out_and_in(open_page, tmp_path):
    page = open_page("/#/hole/1/log/files")
    files = {}
    for name in ("Tables (CSV in a ZIP)", "One file (JSON)", "Make a backup"):
        with page.expect_download() as coming:
            page.get_by_role("link", name=name).click()
        files[name] = tmp_path / coming.value.suggested_filename
        coming.value.save_as(files[name])
    page.get_by_label("Log file").set_input_files(files["One file (JSON)"])
    expect(page.get_by_text(re.compile("0 outings, 0 stays and 0 notes were taken in"))).to_be_visible()
    station = tmp_path / "station.csv"
    station.write_text("time,pressure\n2024-12-15T00:00:00Z,1013\n")
    page.get_by_label("Station file").set_input_files(station)
    expect(page.get_by_text(re.compile("1 readings"))).to_be_visible()

    # A hole that is made after the backup is gone after it is put back; one cut short changes nothing.
    page.evaluate(
        """async () => { const one = (await (await fetch('/api/holes')).json()).holes[0];
           delete one.id; delete one.version; one.name = 'Made later';
           const headers = {'Content-Type': 'application/json'};
           await fetch('/api/holes', {method: 'POST', body: JSON.stringify(one), headers}) }"""
    )
    assert "Made later" in [one["name"] for one in ask(page, "/api/holes")["holes"]]
    short = tmp_path / "short.zip"
    short.write_bytes(files["Make a backup"].read_bytes()[:-500])
    page.get_by_label("Backup file").set_input_files(short)
    page.get_by_role("button", name="Put it in place").click()
    expect(page.get_by_role("alert")).to_contain_text("cut short")
    open_page.wrong.clear()  # the browser notes the refusal that was asked for
    assert "Made later" in [one["name"] for one in ask(page, "/api/holes")["holes"]]
    page.get_by_label("Backup file").set_input_files(files["Make a backup"])
    page.get_by_role("button", name="Put it in place").click()
    expect(page.get_by_text(re.compile("All is as it was on"))).to_be_visible()
    assert "Made later" not in [one["name"] for one in ask(page, "/api/holes")["holes"]]


@pytest.mark.parametrize(("viewport", "theme"), [(DESK, "rime"), (PHONE, "lantern")], ids=["desk", "phone"])
def test_of_many_holes_the_newest_are_listed_and_any_is_found_by_a_word(open_page, program, viewport, theme):
    first = program.ask("GET", "/api/holes")[1]["holes"][0]
    base = {name: value for name, value in first.items() if name not in ("id", "version")}
    made = [program.ask("POST", "/api/holes", base | {"name": f"Row {k}", "water": "Manymere"})[1]["id"]
            for k in range(70)]  # fmt: skip
    try:
        page = open_page("/#/hole/1/hole", viewport=viewport, theme=theme)
        chooser = page.get_by_role("combobox", name="Hole")
        expect(chooser.locator("option")).to_have_count(62)  # the newest sixty, the one chosen, and the way to the rest
        expect(chooser.locator("option:checked")).to_contain_text(first["name"])
        chooser.select_option("find")
        dialog = page.get_by_role("dialog", name="Find a hole")
        dialog.get_by_role("searchbox").fill("manymere row 3")
        expect(dialog.get_by_role("listitem")).to_have_count(16)  # 3, 13 to 63, 30 to 39
        dialog.get_by_role("searchbox").fill("row 3 nowhere")
        expect(dialog).to_contain_text("No hole is called so.")
        page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)
        chooser.select_option("find")
        dialog.get_by_role("searchbox").fill("row 3")
        dialog.get_by_role("button", name="Row 3, Manymere", exact=True).click()
        expect(page).to_have_url(re.compile(f"hole/{made[3]}/hole"))
        expect(chooser.locator("option:checked")).to_have_text("Row 3, Manymere")
        expect(dialog).to_have_count(0)
    finally:
        for one in made:
            program.ask("DELETE", f"/api/holes/{one}")
