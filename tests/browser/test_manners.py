"""Manners of the real page: keyboard alone, both systems of units, holes kept, streams that drop and come back."""

from __future__ import annotations

import re
import shutil
import time

from playwright.sync_api import expect

from .conftest import DESK
from .test_story import gain_of

PACE = 1.6
FAST = 3.0


def test_keyboard_alone_reaches_everything(open_page):
    page = open_page("/?seed=1#/hole/2/bench")
    expect(page.get_by_role("slider", name="Gain")).to_be_visible()
    names = []
    for _ in range(46):
        page.keyboard.press("Tab")
        names.append(
            page.evaluate(
                "e = document.activeElement, e.ariaLabel || e.closest('label')?.innerText || e.innerText || ''"
            )
        )
    text = "\n".join(names)
    wanted_all = "Hole,Bench,Log,Units,Theme,Ice,Less gain,Gain,Lift slowly,Twitch,Lower to,Rod tip,Set the hook"
    for wanted in [*wanted_all.split(","), "Less range", "Full column", "Hide truth", "Keys"]:
        assert wanted in text, f"{wanted} is not reached by Tab"
    # The gain slider by its arrows does not move the lure; the lure's keys work from anywhere else.
    page.get_by_role("slider", name="Gain").focus()
    before = gain_of(page)
    page.keyboard.press("ArrowUp")
    assert gain_of(page) == before + 1
    page.get_by_role("link", name="Bench").focus()
    before = page.get_by_test_id("lure-depth").inner_text()
    page.keyboard.down("ArrowUp")
    expect(page.get_by_test_id("lure-depth")).not_to_contain_text(before, timeout=5000)
    page.keyboard.up("ArrowUp")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_contain_text("set the hook")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog", name="Keys")).to_have_count(0)
    page.keyboard.press("z")
    expect(page.get_by_role("button", name="Bottom 6")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("t")
    expect(page.get_by_role("button", name="Show truth")).to_be_visible()


def test_a_held_key_lets_go_when_the_window_loses_focus(open_page):
    page = open_page("/#/hole/2/bench")
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
    page.keyboard.down("ArrowDown")
    page.wait_for_timeout(600)
    page.evaluate("window.dispatchEvent(new Event('blur'))")
    page.wait_for_timeout(300)
    depth = page.get_by_test_id("lure-depth").inner_text()
    page.wait_for_timeout(500)
    assert page.get_by_test_id("lure-depth").inner_text() == depth


def test_feet_and_metric_everywhere(open_page):
    page = open_page("/#/hole/1/hole")
    expect(page.locator("#temperature_c")).to_have_value("34.7")
    page.get_by_role("button", name=re.compile("Units: ft")).click()
    expect(page.locator("#temperature_c")).to_have_value("1.5")
    page.locator("#bottom_depth_m").fill("0.2")
    page.get_by_role("button", name="Save changes").click()
    expect(page.locator("#bottom_depth_m-hint")).to_contain_text('Depth is "0.2": accepted are 0.5 to 60 m')
    page.locator("#bottom_depth_m").fill("deep")
    expect(page.locator("#bottom_depth_m-hint")).to_contain_text('"deep"')
    page.locator("#bottom_depth_m").fill("0.3")
    page.locator("#bottom_depth_m").fill("0.52")
    expect(page.locator("#ice_thickness_m-hint, #face_depth_m-hint").first).to_contain_text("leave at least 20 cm")


def test_a_hole_is_added_and_removed(open_page, program):
    page = open_page("/#/hole/1/hole")
    page.get_by_role("button", name="Add a hole").click()
    page.get_by_label("Name").fill("Far flag")
    page.get_by_role("button", name="Add this hole").click()
    expect(page.get_by_text("Far flag is added.")).to_be_visible()
    assert "Far flag" in [hole["name"] for hole in program.ask("GET", "/api/holes")[1]["holes"]]
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(page.get_by_role("link", name=re.compile("Far flag"))).to_have_count(0)
    # Removed at one touch, and back at another: the focus is on the way back.
    expect(page.get_by_test_id("undo")).to_contain_text("Far flag is removed.")
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("link", name=re.compile("Far flag"))).to_be_visible()
    expect(page.get_by_test_id("undo")).to_contain_text("It is back.")
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(page.get_by_role("link", name=re.compile("Far flag"))).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(page.get_by_role("link", name=re.compile("Far flag"))).to_be_visible()
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(page.get_by_role("link", name=re.compile("Far flag"))).to_have_count(0)
    page.get_by_role("link", name="Gear").click()
    expect(page.get_by_role("button", name="Undo", exact=True)).to_have_count(0)


def test_a_dropped_stream_comes_back_by_itself(chromium, tmp_path, seeded):
    from tests.running import start, wait_ready

    shutil.copytree(seeded, tmp_path, dirs_exist_ok=True)
    programs = [start(tmp_path, pace=FAST)]
    context = chromium.new_context(viewport=DESK)
    try:
        wait_ready(programs[0])
        page = context.new_page()
        page.goto(programs[0].url + "/#/hole/1/bench")
        page.get_by_role("button", name=re.compile("Lower to")).click()
        expect(page.get_by_test_id("lure-depth")).to_contain_text("27.1 ft", timeout=45_000)
        page.keyboard.press("g")
        programs[0].process.kill()
        programs[0].process.wait()
        expect(page.get_by_role("alert")).to_contain_text(re.compile("Reconnecting|does not answer"))
        programs.append(start(tmp_path, port=programs[0].port, pace=FAST))
        wait_ready(programs[1])
        expect(page.get_by_role("alert")).to_have_count(0, timeout=20_000)
        # On a bench of its own, with the knobs where they stood and the lure on its way back down.
        expect(page.get_by_role("slider", name="Gain")).to_have_value("25")
        expect(page.get_by_test_id("lure-depth")).to_contain_text("27.1 ft", timeout=45_000)
    finally:
        context.close()
        for program in programs:
            program.process.kill()


def test_a_vanished_reader_frees_its_bench(open_page, program):
    page = open_page("/#/hole/3/bench")
    expect(page.get_by_role("slider", name="Gain")).to_be_visible()
    before = program.ask("GET", "/api/health")[1]["live_benches"]
    assert before >= 1
    page.context.close()
    deadline = time.monotonic() + 6
    while program.ask("GET", "/api/health")[1]["live_benches"] >= before and time.monotonic() < deadline:
        time.sleep(0.1)
    assert program.ask("GET", "/api/health")[1]["live_benches"] < before
