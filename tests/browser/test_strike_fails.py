"""Runs that fail, each named rightly by its debrief; what-if and taking over; the grip, the lab and the sheet."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import PHONE, listen, sent
from .test_strike import wait_until

PACE = 3.0


def at_the_fish(open_page, seed: int = 17, **options) -> Page:
    """The first level with the lure where it is fished, and a fish looking on: with this seed from 0:22 to 0:50."""
    page = open_page(f"/?seed={seed}#/hole/1/strike/runs", **options)
    page.get_by_role("button", name="Play: One willing fish").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
    page.keyboard.press("l")
    wait_until(page, 28)
    return page


def debrief(page: Page) -> str:
    page.get_by_role("button", name="End the run").click()
    expect(page.get_by_role("heading", name="Next time")).to_be_visible(timeout=30_000)
    return page.get_by_role("region", name="Moments").inner_text()


def drop(page: Page) -> None:
    page.keyboard.down("ArrowDown")
    page.wait_for_timeout(250)
    page.keyboard.up("ArrowDown")


def jerk(page: Page) -> None:
    page.keyboard.down("Shift")
    page.keyboard.down("ArrowUp")
    page.wait_for_timeout(1200)
    page.keyboard.up("ArrowUp")
    page.keyboard.up("Shift")


def set_early(page: Page) -> None:
    page.keyboard.press("Enter")


@pytest.mark.parametrize(
    ("mistake", "named", "advised"),
    [
        (jerk, r"Lifted at [\d.]+ ft/s", "Lift slower"),
        (set_early, r"Set too early: the fish was still [\d.]+ (in|ft) off the lure", "Wait for the tip"),
    ],
)
def test_a_run_fails_in_ways_that_the_debrief_names(open_page, mistake, named, advised):
    page = at_the_fish(open_page)
    mistake(page)
    page.wait_for_timeout(500)
    assert re.search(named, debrief(page))
    expect(page.get_by_role("region", name="Next time")).to_contain_text(advised)


def test_a_drop_is_named_and_another_hand_tried_from_there(open_page, program):
    page = at_the_fish(open_page)
    # A turn that is noted draws the day's rise line.
    expect(page.locator(".picture[data-rise]")).to_have_count(0)
    page.keyboard.press("h")
    expect(page.locator(".picture[data-rise]")).to_have_count(1)
    expect(page.get_by_test_id("run")).to_contain_text("Fish come to about")
    # The third mistake.
    drop(page)
    page.wait_for_timeout(500)
    assert re.search(r"Dropped [\d.]+ (in|ft) onto a \d+ in fish, at [\d.]+ ft/s", debrief(page))
    expect(page.get_by_role("region", name="Next time")).to_contain_text("Never let the lure down onto a fish")
    # Another hand from the moment before.
    page.get_by_label("Another hand").select_option("slow lift")
    page.get_by_role("button", name="See what comes of it").click()
    told = page.get_by_test_id("what-if")
    expect(told).to_contain_text(re.compile("would have|No fish"))
    first = told.inner_text()
    page.get_by_role("button", name="See what comes of it").click()
    page.wait_for_timeout(400)
    assert told.inner_text() == first
    # Or one's own.
    dropped = int(page.url.rsplit("/", 1)[1])
    # Nothing is asked for that is not there: the page's own notes say so, and a note fails the test.
    page.get_by_role("button", name="Take over from here").click()
    expect(page.get_by_label("Time in the run")).to_contain_text(re.compile("0:(2[5-9]|3)"))
    page.get_by_role("button", name="End the run").click()
    expect(page.get_by_role("heading", name="Next time")).to_be_visible()
    _, branched = program.ask("GET", f"/api/runs/{page.url.rsplit('/', 1)[1]}")
    assert branched["branch_of"] == dropped


def test_the_grip_lifts_holds_sinks_and_twitches_by_touch(open_page):
    page = open_page("/?seed=2#/hole/1/strike/runs", viewport=PHONE, has_touch=True, is_mobile=True)
    page.get_by_role("button", name="Play: One willing fish").tap()
    page.get_by_role("button", name=re.compile("Lower to")).tap()
    expect(page.get_by_test_id("lure-depth")).to_contain_text("25.9 ft", timeout=30_000)
    listen(page)
    grip = page.get_by_role("button", name=re.compile("^Grip"))
    grip.scroll_into_view_if_needed()
    box = grip.bounding_box()
    x, y = box["x"] + 40, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 40)
    expect(grip).to_have_accessible_name(re.compile(r"up 0\.(0[5-9]|1)"))
    expect(page.get_by_test_id("lure-depth")).not_to_contain_text("25.9 ft")
    page.mouse.move(x, y - 90)
    expect(grip).to_have_accessible_name(re.compile(r"up 0\.[3-9]"))
    page.mouse.move(x, y + 65)
    expect(grip).to_have_accessible_name(re.compile("down slowly"))
    page.mouse.up()
    expect(grip).to_have_accessible_name(re.compile("holding"))
    sent(page)
    page.mouse.down()
    page.mouse.up()
    assert '"twitch":true' in sent(page)


def test_the_lab_ranks_patterns_and_takes_a_recorded_hand(open_page):
    page = open_page("/#/hole/1/strike/lab")
    page.get_by_role("button", name="Record a pattern").click()
    page.keyboard.down("ArrowUp")
    page.wait_for_timeout(700)
    page.keyboard.up("ArrowUp")
    page.wait_for_timeout(600)
    page.get_by_role("button", name="Stop and keep it").click()
    expect(page.get_by_role("button", name=re.compile("^your own"))).to_have_attribute("aria-pressed", "true")
    page.get_by_label("Today's mood").select_option("hot")
    page.get_by_role("button", name="Fish a hundred").click()
    verdict = page.get_by_test_id("verdict")
    expect(verdict).to_contain_text(re.compile("prefers|did best|Nothing worked"), timeout=60_000)
    results = page.locator(".outcomes li")
    expect(results).to_have_count(6)
    counts = [int(one) for one in re.findall(r"(\d+)\s*of 100", " ".join(results.all_inner_texts()))]
    assert counts == sorted(counts, reverse=True) and counts[0] > 20 > counts[-1]


def test_the_strike_sheet_by_touch_on_a_phone(open_page):
    page = open_page("/#/hole/4/log/hole", viewport=PHONE, theme="lantern", has_touch=True, is_mobile=True)
    suggestion, held = page.get_by_test_id("suggestion"), []
    page.route(re.compile("strike-sheet.species"), lambda route: held.append(route))
    page.evaluate("location.hash = '#/hole/4/strike/sheet'")
    page.get_by_label(re.compile("^For")).select_option("char")
    page.wait_for_timeout(200)
    # An answer for the species before, that comes after another was chosen, changes nothing.
    for route in held:
        route.continue_()
        page.wait_for_timeout(400)
    page.unroute(re.compile("strike-sheet.species"))
    expect(suggestion).to_contain_text("Lift slowly")
    for n in range(3):
        page.get_by_role("button", name=re.compile("^Look")).tap()
        expect(page.get_by_role("region", name="Today").locator("li")).to_have_count(n + 1)
    expect(suggestion).to_contain_text("Lift a hand's width")
    page.get_by_role("button", name="I am trying that now").tap()
    page.get_by_role("button", name=re.compile("^Fish")).tap()
    expect(page.get_by_role("region", name="What to try next")).to_contain_text("just caught one")
    page.get_by_role("button", name="Take back the last touch").tap()
    expect(page.get_by_role("region", name="Today").locator("li")).to_have_count(3)
    page.get_by_role("button", name="Shallower").tap()
    page.get_by_role("button", name=re.compile("^Turned here")).tap()
    expect(page.get_by_role("region", name="Today")).to_contain_text("Rise line: about")
    expect(page.locator(".bore .rise")).to_have_count(1)
    # The card knows it too.
    page.get_by_role("link", name="Card").tap()
    expect(page.get_by_test_id("rise-line")).to_contain_text("Rise line in the last hours")
