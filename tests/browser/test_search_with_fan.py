"""Searching for real with both heads, by mouse and by touch, and with the fan alone by keys: all round, the fan aimed
at what showed, marked, and the debrief; a reload in between loses nothing."""

from __future__ import annotations

import math
import re

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from hollow_glint.core.searches.scenes import SCENES, scene_water

from .conftest import DESK, PHONE
from .test_look_ahead import Fanned
from .test_search_for_real import now, touch_fish

PACE = 4.0
SEED = 60  # a school swims in sight of the first hole
BOTH = SCENES["circle then fan"]
PLACES = [
    pytest.param(DESK, "rime", "feet", id="desk, day, feet"),
    pytest.param(PHONE, "lantern", "metric", id="phone, night, metres"),
]


def begin(page: Page, title: str, units: str = "metric") -> None:
    page.evaluate(f"localStorage.setItem('hollow-glint units', '{units}')")
    page.goto(page.url.split("/api")[0] + f"/?seed={SEED}#/hole/1/search/real")
    page.get_by_role("button", name=f"Search {title}").click()
    expect(page.get_by_test_id("left")).to_contain_text("19:5", timeout=20_000)


def school_of(key: str, time_s: float) -> np.ndarray:
    """Where the fish of the school near the first hole are (fish, 3) [m]."""
    return scene_water(SCENES[key], SEED).groups[0].places(np.array([time_s]))[0]


def touch_round(page: Page, key: str, tap: bool) -> None:
    """Touch where the school is in the picture all round."""
    touch_fish(page, school_of(key, now(page)).mean(axis=0), (0.0, 0.0), tap)


def mark_in_fan(fanned: Fanned, key: str, tap: bool) -> None:
    """Touch fish of the school in the plane until one is measured, and mark it."""
    page = fanned.page
    expect(page.get_by_test_id("fan-coach")).not_to_contain_text("Listening", timeout=20_000)
    button = page.get_by_role("button", name="Mark it: a school")
    for k in range(24):
        aim = math.radians(float(re.search(r"(\d+)°", page.get_by_test_id("aim").inner_text()).group(1)))
        fish = school_of(key, now(page))
        ahead = fish[:, 0] * math.sin(aim) + fish[:, 1] * math.cos(aim)
        right = np.abs(fish[:, 0] * math.cos(aim) - fish[:, 1] * math.sin(aim))
        one = int(np.argsort(right)[k % 4])
        fanned.touch(float(ahead[one]), float(fish[one, 2]), tap=tap)
        page.wait_for_timeout(500)
        if button.is_visible():
            (button.tap if tap else button.click)()
            return
    raise AssertionError("no fish of the school was measured")


@pytest.mark.parametrize(("viewport", "theme", "units"), PLACES)
def test_the_circle_first_and_the_fan_second(open_page, viewport, theme, units):
    tap = viewport is PHONE
    page = open_page("/api/health", viewport=viewport, theme=theme, has_touch=tap)
    act = (lambda one: one.tap()) if tap else (lambda one: one.click())
    fanned = Fanned(page)
    begin(page, BOTH.title, units)
    # The circle shows where something swims; it is the fan that marks.
    aim = page.get_by_role("button", name="Aim the fan at it")
    page.wait_for_timeout(3000)
    for _ in range(12):
        touch_round(page, BOTH.key, tap)
        page.wait_for_timeout(800)
        if aim.is_visible():
            break
        page.wait_for_timeout(1500)
    expect(page.get_by_role("button", name="Mark it: a school")).to_have_count(0)
    act(aim)
    mark_in_fan(fanned, BOTH.key, tap)
    expect(page.get_by_test_id("so-far")).to_contain_text("1 hole")
    expect(page.get_by_test_id("so-far")).to_contain_text("1 marked")
    # No truth while one searches, from the page or from the program.
    expect(page.get_by_role("button", name="Show the truth")).to_have_count(0)
    assert page.evaluate("document.documentElement.scrollWidth") <= viewport["width"]
    # A reload loses neither the mark nor where the fan was aimed.
    aimed = page.get_by_test_id("aim").inner_text()
    page.reload()
    page.get_by_role("button", name="Go on").click()
    expect(page.get_by_test_id("aim")).to_have_text(aimed, timeout=20_000)
    expect(page.get_by_test_id("so-far")).to_contain_text("1 marked")
    act(page.get_by_role("button", name="All round"))
    expect(page.get_by_test_id("round")).to_be_visible()
    act(page.get_by_role("button", name="That is all"))
    expect(page.get_by_role("heading", name=f"{BOTH.title}: 1 of 3 schools")).to_be_visible(timeout=90_000)
    expect(page.get_by_role("row", name=re.compile("Marks that were none"))).to_contain_text("0")
    expect(page.get_by_text(re.compile("Marked at \\d+:\\d\\d"))).to_have_count(1)
    expect(page.get_by_text("some turns all round, then the fan")).to_be_visible()


def test_the_fan_alone_by_keys(open_page):
    scene = SCENES["plane"]
    page = open_page("/api/health")
    fanned = Fanned(page)
    begin(page, scene.title)
    expect(page.get_by_test_id("round")).to_have_count(0)
    handle = page.get_by_test_id("aim")
    expect(handle).to_contain_text("0°", timeout=20_000)
    east, north, _ = school_of(scene.key, 30.0).mean(axis=0)
    presses = round(math.degrees(math.atan2(east, north)) / 5.0)
    for _ in range(abs(presses)):
        page.keyboard.press("d" if presses > 0 else "a")
    expect(handle).to_contain_text(f"{5 * presses % 360}°")
    mark_in_fan(fanned, scene.key, tap=False)
    page.get_by_text("Marked: 1", exact=True).click()
    expect(page.get_by_role("button", name="Take mark 1 back")).to_be_visible()
    gain = page.locator(".gain output").first
    before = int(gain.inner_text())
    page.keyboard.press("g")
    expect(gain).to_have_text(str(before + 1))
    told = page.request.get(f"{page.url.split('/?')[0]}/api/search/scenes").json()
    assert [one["heads"] for one in told["scenes"]].count(["fan"]) == 2
