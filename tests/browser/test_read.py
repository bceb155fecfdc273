"""The Read step in the page: the call sheet by touch and by keys, drills, a recording kept, replayed and taken in."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from hollow_glint.core.drills.catalogue import drill
from tests.store.test_recordings import foreign

from .conftest import PHONE

PACE = 4.0


def test_the_call_sheet_answers_two_touches_and_changes_with_a_third(open_page):
    page = open_page("/#/hole/1/read/sheet", viewport=PHONE)
    column = page.get_by_test_id("column")
    expect(column).to_have_attribute("aria-valuetext", "not touched yet")
    box = column.bounding_box()
    page.mouse.click(box["x"] + 40, box["y"] + 0.4 * box["height"])
    answer = page.get_by_test_id("answer")
    page.get_by_role("group", name="It moves").get_by_role("button", name="rising").click()
    expect(answer.get_by_role("heading")).to_contain_text("A fish")
    expect(answer).to_contain_text("Truly between")
    expect(answer).to_contain_text("long if it is")
    page.get_by_role("group", name="Thickness").get_by_role("button", name="band").click()
    page.get_by_role("group", name="It moves").get_by_role("button", name="flickers").click()
    expect(answer.get_by_role("heading")).to_contain_text("Plankton")


def test_the_call_sheet_by_keys_alone(open_page):
    page = open_page("/#/hole/1/read/sheet")
    column = page.get_by_role("slider", name="Where the mark stands on your unit's scale")
    column.focus()
    for _ in range(4):
        page.keyboard.press("ArrowUp")
    expect(column).to_have_attribute("aria-valuetext", re.compile(r"\d ft"))
    expect(page.get_by_test_id("answer").get_by_role("heading")).to_contain_text("%")


def answer_by_keys(page: Page, seen: list[str]) -> None:
    """Answer the drill on the page with the keyboard: a number for a choice, the arrows and Enter for a place."""
    title = page.locator(".place").inner_text()
    seen.append(title)
    if page.get_by_role("group", name="Answers").count():
        page.keyboard.press("1")
    else:
        page.get_by_role("slider", name=re.compile("^Picture")).focus()
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Enter")
    told = page.get_by_test_id("told")
    expect(told).to_contain_text(re.compile("Right|Not so"))
    expect(page.get_by_role("button", name="Show me")).to_be_visible()


def test_a_round_is_played_by_keys_and_counted(open_page):
    page = open_page("/#/hole/1/read/drills")
    page.get_by_role("button", name="Start today's round").click()
    seen: list[str] = []
    for n in range(8):
        expect(page.locator(".place")).to_contain_text(f"{n + 1} of 8")
        expect(page.locator(".ask h2")).not_to_be_empty()
        answer_by_keys(page, seen)
        page.evaluate("document.activeElement.blur()")
        page.keyboard.press("Enter")
    assert len(set(seen)) == 8
    expect(page.get_by_role("heading", name=re.compile(r"\d of 8 right"))).to_be_visible()
    expect(page.get_by_role("row").filter(has_text="in ")).not_to_have_count(0)


def test_the_right_place_is_right_and_is_shown(open_page, program):
    page = open_page("/#/hole/1/read/drills")
    with page.expect_response(re.compile("/api/drills/one")) as asked:
        page.get_by_role("button", name="Which mark is the lure").click()
    told = asked.value.json()
    one = drill(told["kind"], told["level"], told["seed"])
    box = page.locator(".clip canvas").bounding_box()
    shown = one.clips[0].shown
    tall = box["height"] - 46  # less the rod's strip
    middle = sum(one.target_m) / 2
    page.mouse.click(box["x"] + 60, box["y"] + tall * (middle - shown.top_m) / shown.height_m)
    page.get_by_role("button", name="This is it").click()
    expect(page.get_by_test_id("told")).to_contain_text("Right")
    expect(page.get_by_role("img", name=re.compile("your lure at"))).to_be_visible()
    page.get_by_role("button", name="Show me").click()
    expect(page.get_by_role("slider", name="Time in the clip")).not_to_have_value(str(one.clips[0].time_s[-1]))


def test_a_round_for_clients_is_built_and_played(open_page):
    page = open_page("/#/hole/1/read/drills")
    page.get_by_role("button", name="Rounds for others").click()
    page.get_by_label("Name").fill("Sunday")
    page.get_by_label("Add a kind").select_option(label="Touching or apart")
    page.get_by_role("button", name="More questions of Touching or apart").click()
    page.get_by_role("button", name="Keep this round of 3").click()
    line = page.get_by_role("listitem").filter(has_text="Sunday")
    line.get_by_role("button", name="Play").click()
    expect(page.locator(".place")).to_contain_text("Sunday: 1 of 3. Touching or apart")


def test_the_bench_names_marks_and_keeps_what_it_showed(open_page):
    page = open_page("/?seed=42#/hole/1/bench")
    page.get_by_role("button", name="Name the marks").click()
    page.get_by_role("button", name=re.compile("^Lower to")).click()
    expect(page.get_by_test_id("marks").locator(".lure")).to_contain_text("your lure", timeout=30_000)
    page.get_by_role("button", name="Keep the last minutes").click()
    expect(page.get_by_test_id("coach")).to_contain_text("Kept")
    page.get_by_role("link", name="Read", exact=True).click()
    page.get_by_role("tab", name="Recordings").click()
    line = page.get_by_role("listitem").filter(has_text="Lantern point,").first
    expect(line).to_be_visible()
    line.get_by_role("button", name="Replay").click()
    time = page.get_by_role("slider", name="Time in the recording")
    end = float(time.get_attribute("max"))
    time.fill(str(round(end, 2)))
    page.get_by_role("button", name="Name the marks").click()
    expect(page.get_by_test_id("reading")).to_contain_text("your lure", timeout=30_000)
    page.get_by_role("textbox", name="Note").fill("Here it hung.")
    page.get_by_role("button", name="Write").click()
    expect(page.get_by_role("listitem").filter(has_text="Here it hung.")).to_be_visible()


def test_a_file_from_elsewhere_is_taken_in_and_a_bad_one_is_not(open_page, tmp_path):
    page = open_page("/#/hole/1/read/recordings")
    good, bad = tmp_path / "elsewhere.nc", tmp_path / "bad.nc"
    good.write_bytes(foreign())
    bad.write_bytes(b"nothing")
    page.get_by_label("Recording file").set_input_files(bad)
    expect(page.get_by_role("alert")).to_contain_text("bad.nc was not taken in")
    page.get_by_label("Recording file").set_input_files(good)
    expect(page.get_by_role("heading", name="Recording from elsewhere")).to_be_visible(timeout=30_000)
    expect(page.locator(".remark").first).to_contain_text("sound speed")
    lit = """() => {
      const canvas = document.querySelector('.clip canvas');
      const data = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height).data;
      const colours = new Set();
      for (let i = 0; i < data.length; i += 4) colours.add((data[i] << 16) | (data[i + 1] << 8) | data[i + 2]);
      return colours.size;
    }"""
    assert page.evaluate(lit) > 5
