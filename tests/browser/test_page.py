"""What the page must not lose or leave unanswered: keys after a touch, typing, addresses, the seventh tab."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from .conftest import DESK, PHONE, listen, sent

BENCH = "/?seed=42#/hole/1/bench"


@pytest.mark.parametrize("touch", [False, True])
def test_enter_sets_the_hook_after_lower_to_was_touched_on_the_bench(open_page, touch):
    page = open_page(BENCH, viewport=PHONE if touch else DESK, has_touch=touch)
    lower = page.get_by_role("button", name=re.compile("^Lower to"))
    expect(lower).to_be_visible()
    (lower.tap if touch else lower.click)()
    listen(page)
    page.keyboard.press("Enter")
    commands = sent(page)
    assert '"set_hook":true' in commands
    assert "to_depth_m" not in commands
    # Reached by keys, the button is pressed by Enter as any other.
    lower.focus()
    page.keyboard.press("Enter")
    assert "to_depth_m" in sent(page)


def test_enter_sets_the_hook_after_lower_to_was_touched_in_a_run_and_a_missed_set_is_answered(open_page):
    page = open_page("/?seed=5#/hole/1/strike")
    page.get_by_role("button", name=re.compile("Play")).first.click()
    lower = page.get_by_role("button", name=re.compile("^Lower to"))
    expect(lower).to_be_visible()
    lower.click()
    listen(page)
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("said")).to_contain_text("Nothing on.")
    assert '"set_hook":true' in sent(page)
    page.get_by_role("button", name="End the run").click()
    expect(page.get_by_role("heading", level=1)).to_be_attached()


def test_a_set_on_nothing_is_answered_on_the_bench(open_page):
    page = open_page(BENCH)
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
    page.get_by_role("button", name="Set the hook").click()
    expect(page.get_by_test_id("coach")).to_contain_text("Nothing there.")


# -- the log -----------------------------------------------------------------------------------------------------------


def test_the_logs_core_stands_on_a_bottom(open_page):
    page = open_page("/#/hole/1/log/hole")
    expect(page.locator(".core svg")).to_be_attached()
    missing = page.evaluate(
        """[...document.querySelectorAll('[fill^="url(#"]')]
             .filter((one) => !document.querySelector(one.getAttribute('fill').slice(4, -1)))
             .map((one) => one.getAttribute('fill'))"""
    )
    assert missing == []
    assert page.locator('.core [fill^="url(#"]').count() > 0


# -- what is typed -----------------------------------------------------------------------------------------------------


@pytest.fixture
def typed(open_page):
    page = open_page("/#/hole/2/hole")
    expect(page.get_by_label("Depth")).to_be_visible()
    page.get_by_label("Depth").fill("33.3")
    page.get_by_label("Note").fill("Half a sentence")
    return page


def still_there(page, depth="33.3"):
    # The note first: only a hole's page has one, and the step before may stand a moment longer than the click took.
    expect(page.get_by_label("Note")).to_have_value("Half a sentence")
    expect(page.get_by_label("Depth")).to_have_value(depth)


def test_typing_outlives_another_step(typed):
    typed.get_by_role("link", name="Card", exact=True).click()
    expect(typed.get_by_label("Note")).to_have_count(0)
    typed.get_by_role("navigation", name="Steps").get_by_role("link", name="Hole").click()
    still_there(typed)


def test_typing_outlives_another_hole(typed):
    holes = typed.get_by_role("navigation", name="Holes").get_by_role("link")
    expect(holes.nth(1)).to_contain_text("not saved")
    holes.nth(0).click()
    expect(typed.get_by_label("Note")).not_to_have_value("Half a sentence")
    holes.nth(1).click()
    still_there(typed)


def test_typing_outlives_feet_and_metres(typed):
    typed.get_by_role("button", name=re.compile("^Units")).click()
    still_there(typed, "10.1")
    typed.get_by_role("button", name=re.compile("^Units")).click()
    still_there(typed)


def test_typing_outlives_a_reload(typed):
    typed.reload()
    still_there(typed)
    typed.get_by_role("button", name="Undo changes").click()
    expect(typed.get_by_label("Depth")).not_to_have_value("33.3")
    typed.reload()
    expect(typed.get_by_label("Depth")).not_to_have_value("33.3")


def test_a_new_hole_outlives_being_put_off(open_page):
    page = open_page("/#/hole/2/hole")
    page.get_by_role("button", name="Add a hole").click()
    page.get_by_label("Name").fill("Not yet")
    page.get_by_role("button", name="Later").click()
    expect(page.get_by_label("Name")).not_to_have_value("Not yet")
    page.get_by_role("button", name="Add a hole, not saved").click()
    expect(page.get_by_label("Name")).to_have_value("Not yet")
    page.get_by_role("button", name="Clear the form").click()
    expect(page.get_by_label("Name")).to_have_value("")


def test_typing_on_gear_is_kept_too(open_page):
    page = open_page("/#/hole/1/gear")
    page.get_by_role("button", name="Two-beam ring", exact=True).click()
    page.get_by_label("Name", exact=True).fill("Two-beam ring of mine")
    page.get_by_role("button", name=re.compile("^Units")).click()
    expect(page.get_by_label("Name", exact=True)).to_have_value("Two-beam ring of mine")
    page.reload()
    page.get_by_role("button", name="Two-beam ring, not saved", exact=True).click()
    expect(page.get_by_label("Name", exact=True)).to_have_value("Two-beam ring of mine")
    page.get_by_role("button", name="Undo changes").click()
    expect(page.get_by_role("button", name="Two-beam ring", exact=True)).to_be_visible()


def test_both_versions_are_shown_when_a_hole_was_changed_elsewhere(open_page, program):
    page = open_page("/#/hole/3/hole")
    page.get_by_label("Note").fill("Mine")
    _, hole = program.ask("GET", "/api/holes/3")
    fields = {key: value for key, value in hole.items() if key not in ("id", "version")}
    theirs = {**fields, "note": "Theirs"}
    assert program.ask("PUT", "/api/holes/3", theirs, {"If-Match": f'"{hole["version"]}"'})[0] == 200
    open_page.wrong.clear()
    page.get_by_role("button", name="Save changes").click()
    both = page.get_by_role("alert", name="Both versions")
    expect(both).to_contain_text("Mine")
    expect(both).to_contain_text("Theirs")
    both.get_by_role("button", name="Keep mine").click()
    expect(page.get_by_text("is saved.")).to_be_visible()
    assert program.ask("GET", "/api/holes/3")[1]["note"] == "Mine"
    # Chromium logs the refusal itself as an error: that one is meant.
    open_page.wrong[:] = [one for one in open_page.wrong if "412" not in one]


# -- addresses ---------------------------------------------------------------------------------------------------------


def test_an_address_that_cannot_be_read_opens_the_hole(open_page):
    page = open_page("/#/hole/1/bench/exercise/%E0%A4%A")
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")


def test_a_hole_that_is_not_here_is_said_and_no_other_shown(open_page):
    page = open_page("/#/hole/4711/card")
    expect(page.get_by_role("heading", name="Hole 4711 is not here")).to_be_visible()
    page.get_by_role("main").get_by_role("link").first.click()
    expect(page.get_by_role("heading", name="Hole 4711 is not here")).to_have_count(0)


def test_a_seventh_tab_says_why_it_waits_and_goes_on_when_there_is_room(open_page):
    first = open_page(BENCH)
    context = first.context
    expect(first.get_by_test_id("lure-depth")).to_contain_text("ft")
    pages = [first]
    for _ in range(4):
        page = context.new_page()
        page.goto(first.url)
        expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
        pages.append(page)
    late = context.new_page()
    late.goto(first.url)
    expect(late.get_by_text(re.compile("runs in 5 other tabs"))).to_be_visible()
    # Everything but the picture works there.
    late.get_by_role("link", name="Card", exact=True).click()
    expect(late.get_by_text("Gain window").first).to_be_visible()
    late.get_by_role("navigation", name="Steps").get_by_role("link", name="Bench").click()
    pages.pop().close()
    expect(late.get_by_test_id("lure-depth")).to_contain_text("ft")
