"""Searching for real: from the list of scenes through two holes to the debrief, by mouse and by touch, in feet and in
metres; a reload in between loses nothing; by keys."""

from __future__ import annotations

import math
import re

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from hollow_glint.core.searches.scenes import SCENES, scene_water

from .conftest import DESK, PHONE

PACE = 4.0
SEED = 60  # a school swims in sight of the first hole
WATER = scene_water(SCENES["open"], SEED)


def now(page: Page) -> float:
    minutes, seconds = re.match(r"(\d+):(\d+)", page.get_by_test_id("left").inner_text()).groups()
    return 1200.0 - 60.0 * int(minutes) - int(seconds)


def touch_school(page: Page, k: int, at: tuple[float, float], tap: bool) -> None:
    """Touch where a school is in the picture of the hole `at`, as someone would who sees its marks."""
    touch_fish(page, WATER.groups[k].places(np.array([now(page)]))[0].mean(axis=0), at, tap)


def touch_fish(page: Page, fish: np.ndarray, at: tuple[float, float], tap: bool) -> None:
    """Touch a place, east, north and deep [m], in the picture all round of the hole `at`."""
    east, north = fish[0] - at[0], fish[1] - at[1]
    away, bearing = math.hypot(east, north, fish[2] - 1.0), math.atan2(east, north)
    face = page.get_by_test_id("round")
    face.scroll_into_view_if_needed()
    box = face.bounding_box()
    half = box["width"] / 2
    x = box["x"] + half + math.sin(bearing) * away / 20.0 * half
    y = box["y"] + half - math.cos(bearing) * away / 20.0 * half
    (page.touchscreen.tap if tap else page.mouse.click)(x, y)


def mark_school(page: Page, k: int, at: tuple[float, float], tap: bool) -> None:
    """Watch turn after turn until the page takes what is touched there for fish, and mark it."""
    for _ in range(12):
        page.wait_for_timeout(1500)
        with page.expect_response(lambda one: "/thing?" in one.url) as told:
            touch_school(page, k, at, tap)
        kinds = told.value.json()["kinds"]
        if kinds and kinds[0]["kind"] in ("school", "hunters"):
            button = page.get_by_role("button", name="Mark it: a school")
            (button.tap if tap else button.click)()
            return
    raise AssertionError("the school never showed as fish")


def begin(page: Page, units: str = "metric") -> None:
    page.evaluate(f"localStorage.setItem('hollow-glint units', '{units}')")
    page.goto(page.url.split("/api")[0] + f"/?seed={SEED}#/hole/1/search/real")
    page.get_by_role("button", name="Search Open basin").click()
    expect(page.get_by_test_id("left")).to_contain_text("19:5", timeout=20_000)


def choose_hole(page: Page, east: float, north: float, tap: bool) -> None:
    plan = page.get_by_test_id("water-map")
    plan.scroll_into_view_if_needed()
    box = plan.bounding_box()
    x, y = box["x"] + box["width"] * (0.5 + east / 130.0), box["y"] + box["height"] * (0.5 - north / 130.0)
    (page.touchscreen.tap if tap else page.mouse.click)(x, y)


STORIES = [
    pytest.param(DESK, "rime", "feet", id="desk, day, feet"),
    pytest.param(PHONE, "lantern", "metric", id="phone, night, metres"),
]


@pytest.mark.parametrize(("viewport", "theme", "units"), STORIES)
def test_three_schools_in_twenty_minutes(open_page, viewport, theme, units):
    tap = viewport is PHONE
    page = open_page("/api/health", viewport=viewport, theme=theme, has_touch=tap)
    begin(page, units)
    # No truth while one searches, on the page or from the program.
    expect(page.get_by_role("button", name="Show the truth")).to_have_count(0)
    mark_school(page, 0, (0.0, 0.0), tap)
    expect(page.get_by_test_id("so-far")).to_contain_text("1 marked")
    page.get_by_text("Marked: 1", exact=True).click()
    expect(page.get_by_role("button", name="Take mark 1 back")).to_be_visible()
    # On to where the second school is: way and time are said before one sets out, and the clock runs for them.
    middle = WATER.groups[1].centre(np.arange(150.0, 400.0, 10.0)).mean(axis=0)
    to = np.clip(middle * (1.0 - 9.0 / np.hypot(*middle)), -58.0, 58.0)
    before = now(page)
    choose_hole(page, *to, tap)
    said = page.get_by_test_id("to-next")
    away = math.hypot(*to)
    shown = away / 0.3048 if units == "feet" else away
    number = float(re.match(r"\s*([\d.]+)", said.inner_text()).group(1))
    assert number == pytest.approx(shown, rel=0.05)
    page.get_by_role("button", name="Walk there and drill").click()
    expect(page.get_by_test_id("walk")).to_be_visible()
    page.get_by_role("button", name="Be there now").click()
    expect(page.get_by_test_id("so-far")).to_contain_text("2 holes", timeout=20_000)
    assert now(page) - before == pytest.approx(away / 1.2 + 90.0, abs=25.0)
    # A reload in the middle of it loses nothing, and the clock stands still meanwhile.
    page.wait_for_timeout(1500)
    stood = now(page)
    page.reload()
    page.get_by_role("button", name="Go on").click()
    expect(page.get_by_test_id("so-far")).to_contain_text(re.compile(r"2 holes,[\s\S]*1 marked"), timeout=20_000)
    assert now(page) - stood < 25.0
    page.get_by_role("button", name="That is all").click()
    # The debrief: the truth, the numbers, and how the practised searcher did it.
    expect(page.get_by_role("heading", name="Open basin: 1 of 3 schools")).to_be_visible(timeout=60_000)
    found = page.get_by_role("row", name=re.compile("Schools found"))
    expect(found).to_contain_text("1")
    expect(page.get_by_role("row", name=re.compile("^Holes"))).to_contain_text("2")
    expect(page.get_by_text(re.compile("Marked at \\d+:\\d\\d"))).to_have_count(1)
    page.get_by_role("button", name="A practised searcher's").click()
    expect(page.get_by_role("button", name="A practised searcher's")).to_have_attribute("aria-pressed", "true")
    # It stands in the list, goes at a touch and comes back.
    page.get_by_role("link", name="All scenes").click()
    expect(page.get_by_text("best: 1 of 3 with 2 holes")).to_be_visible()
    kept = page.get_by_role("button", name="Remove this search of Open basin")
    many = kept.count()
    kept.first.click()
    expect(kept).to_have_count(many - 1)
    page.get_by_role("button", name="Undo").click()
    expect(kept).to_have_count(many)


def test_a_search_by_keys_alone(open_page):
    page = open_page("/api/health")
    begin(page)
    picture = page.get_by_test_id("round")
    picture.focus()
    for key in ("ArrowRight", "ArrowUp", "Enter"):
        picture.press(key)
    plan = page.get_by_test_id("water-map")
    plan.focus()
    for key in ("ArrowRight",) * 12 + ("ArrowUp",) * 8:
        plan.press(key)
    expect(page.get_by_test_id("to-next")).to_contain_text("29 m")  # 24 east and 16 north
    page.get_by_role("button", name="Walk there and drill").press("Enter")
    page.get_by_role("button", name="Be there now").press("Enter")
    expect(page.get_by_test_id("so-far")).to_contain_text("2 holes, 29 m walked", timeout=20_000)
    # The last minute runs out by itself, and what was done is kept.
    page.get_by_role("button", name="×8").press("Enter")
    expect(page.get_by_role("heading", name="Open basin: 0 of 3 schools")).to_be_visible(timeout=120_000)
    expect(page.get_by_text("never stood clear").or_(page.get_by_text("you did not mark it")).first).to_be_visible()
