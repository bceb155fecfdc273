"""An empty data folder: one page, three ways in, and nothing red before anything was typed."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.running import Running, running_server

from .conftest import PHONE


@pytest.fixture
def program(tmp_path) -> Iterator[Running]:
    """The program as it is installed, with nothing in its folder."""
    with running_server(tmp_path, command="serve") as running:
        yield running


class Touches:
    """Counts what a finger does; typing on the keys that come up is not a touch of the page."""

    def __init__(self) -> None:
        self.count = 0

    def tap(self, what: Locator) -> None:
        what.tap()
        self.count += 1


def red_words(page: Page) -> list[str]:
    """Words in the colour of what is wrong."""
    told: list[str] = page.evaluate(
        """() => {
          const probe = document.createElement('i');
          probe.style.color = 'var(--stop)';
          document.body.append(probe);
          const red = getComputedStyle(probe).color;
          probe.remove();
          return [...document.querySelectorAll('main *')]
            .filter(e => e.textContent.trim() && e.offsetParent && getComputedStyle(e).color === red)
            .map(e => e.textContent.trim());
        }"""
    )
    return told


@pytest.mark.parametrize("units", ["Feet", "Metres"])
def test_from_nothing_to_a_card_in_four_touches(open_page, program, units):
    page, finger = open_page("/", viewport=PHONE, has_touch=True), Touches()
    expect(page.get_by_role("heading", level=1)).to_have_text("Hollow Glint")
    assert red_words(page) == []
    if units == "Metres":
        finger.tap(page.get_by_role("button", name="Metres", exact=True))
    finger.tap(page.get_by_label(re.compile("^Depth")))
    page.keyboard.type("31" if units == "Feet" else "9.4")
    finger.tap(page.get_by_role("button", name="Make the card"))
    expect(page.get_by_test_id("line-gain")).to_be_visible()
    assert finger.count <= 4
    (hole,) = program.ask("GET", "/api/holes")[1]["holes"]
    assert hole["bottom_depth_m"] == pytest.approx(31 * 0.3048 if units == "Feet" else 9.4)


def test_from_nothing_to_a_living_bench_in_five_touches(open_page):
    page, finger = open_page("/", viewport=PHONE, has_touch=True), Touches()
    finger.tap(page.get_by_role("button", name="Play with a made-up hole"))
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
    assert finger.count <= 5
    expect(page.get_by_test_id("floor")).not_to_have_text("?")
    # It lives: what it shows changes by itself.
    look = "() => document.querySelector('.picture canvas').toDataURL()"
    before = page.evaluate(look)
    page.wait_for_timeout(400)
    assert page.evaluate(look) != before


def test_a_depth_that_cannot_be_is_told_and_nothing_is_lost(open_page, program):
    page = open_page("/")
    page.get_by_role("button", name="Make the card").click()
    expect(page.locator("#first-depth-hint")).to_contain_text("Depth is empty: accepted are 1.6 to 196.9 ft")
    expect(page.locator("#first-depth")).to_be_focused()
    page.locator("#first-depth").fill("400")
    page.keyboard.press("Enter")
    expect(page.locator("#first-depth-hint")).to_contain_text('Depth is "400"')
    expect(page.locator("#first-depth")).to_have_value("400")
    assert program.ask("GET", "/api/holes")[1]["holes"] == []


def test_a_hole_in_full_is_told_only_of_what_was_typed(open_page):
    page = open_page("/")
    page.get_by_role("button", name="Write a hole down in full").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("New hole")
    assert red_words(page) == []
    page.locator("#bottom_depth_m").fill("0")
    assert len(red_words(page)) == 1
    page.get_by_role("button", name="Add this hole").click()
    assert any("give the hole a name" in one for one in red_words(page))


def test_a_unit_is_set_up_by_six_questions(open_page, program):
    page = open_page("/")
    page.get_by_role("link", name="Set up my unit").click()
    expect(page.get_by_role("heading", name="Which is most like yours?")).to_be_visible()
    line = page.get_by_role("listitem").filter(has_text="gain 0 to 100")
    line.get_by_role("button", name="Mine is like this").click()
    questions = page.locator("fieldset")
    expect(questions).to_have_count(6)
    for i in range(6):
        expect(questions.nth(i).locator("svg").first).to_be_visible()
    # All else is folded away.
    assert page.locator("details[open]").count() == 0
    expect(page.locator("#unit-rows")).to_be_hidden()
    page.locator("#unit-gain_from").fill("1")
    page.locator("#unit-gain_to").fill("11")
    page.locator("#unit-gain_step").fill("0.5")
    page.locator("#unit-ranges_m").fill("20, 40, 80")
    page.locator("#unit-beams").fill("200 x 18")
    page.locator("#unit-bottom_windows_m").fill("")
    page.get_by_label("Name of step 1").first.fill("dim")
    page.get_by_role("button", name="One fewer").click()
    page.get_by_role("button", name="Save the unit").click()
    expect(page.get_by_role("status").filter(has_text="is saved")).to_be_visible()
    mine = next(one for one in program.ask("GET", "/api/units")[1]["units"] if one["name"] == "My Two-beam ring")
    assert (mine["gain"]["minimum"], mine["gain"]["maximum"], mine["gain"]["step"]) == (1, 11, 0.5)
    assert mine["ranges_m"] == pytest.approx([0.3048 * ft for ft in (20, 40, 80)])
    assert [(one["frequency_hz"], one["width_deg"]) for one in mine["beams"]] == [(200e3, 18.0)]
    assert mine["bottom_windows_m"] == []
    steps = mine["ladders"][0]["steps"]
    assert steps[0]["name"] == "dim" and len(steps) == 5


def test_what_is_wrong_in_a_folded_line_is_seen_on_the_fold(open_page):
    page = open_page("/#/hole/0/gear")
    page.get_by_role("button", name="Mine is like this").first.click()
    page.get_by_text("Its screen").click()
    page.locator("#unit-rows").fill("many")
    expect(page.locator("#unit-rows-hint")).to_have_text('"many" is not a number.')
    page.get_by_text("Its screen").click()
    expect(page.locator("#unit-rows")).to_be_hidden()
    expect(page.get_by_text("Its screen: something here is wrong")).to_be_visible()
    expect(page.get_by_role("button", name="Save the unit")).to_be_disabled()
