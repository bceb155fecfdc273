"""The whole story in the real page: lower, tune, watch, lift, strike, log, change the hole."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import PHONE

# With this seed a willing fish comes within a quarter of a minute at Lantern point.
BENCH = "/?seed=42#/hole/1/bench"
PACE = 2.0

PIXELS = """() => {
  const canvas = document.querySelector('.picture canvas');
  const {width, height} = canvas;
  const data = canvas.getContext('2d').getImageData(0, 0, width, height).data;
  const left = Math.round(width * 0.42), colours = new Map();
  for (let y = 0; y < height; y += 2) for (let x = left; x < width - 60; x += 2) {
    const i = 4 * (y * width + x), key = (data[i] << 16) | (data[i + 1] << 8) | data[i + 2];
    colours.set(key, (colours.get(key) ?? 0) + 1);
  }
  const counts = [...colours.values()].sort((a, b) => b - a), all = counts.reduce((a, b) => a + b, 0);
  return {colours: colours.size, lit: 1 - counts[0] / all};
}"""


def gain_of(page: Page) -> int:
    return int(page.get_by_role("slider", name="Gain").input_value())


def limits(page: Page) -> tuple[float, float]:
    floor, ceiling = page.get_by_test_id("floor"), page.get_by_test_id("ceiling")
    expect(floor).not_to_have_text("?")
    return float(floor.inner_text()), float(ceiling.inner_text())


def press_until(page: Page, key: str, done, most: int = 60) -> None:
    for _ in range(most):
        if done():
            return
        page.keyboard.press(key)
    raise AssertionError(f"{key} pressed {most} times in vain")


def play_to_a_strike(page: Page, down, lift_down, lift_up, eyes_on_rod, eyes_back, set_hook) -> None:
    """As the coach says: lift slowly while it looks, eyes to the rod tip, set when it takes; as often as fish leave."""
    coach, rod = page.get_by_test_id("coach"), page.locator(".rod [role=status]")
    for _ in range(6):
        expect(coach).to_contain_text(
            re.compile("turned towards your lure|It follows|marks are touching"), timeout=60_000
        )
        lift_down()
        eyes_on_rod()
        try:
            expect(rod).to_have_text(re.compile("taps|bends|springs straight"), timeout=15_000)
            set_hook()
            expect(coach).to_contain_text("The strike is in the log", timeout=6_000)
            lift_up()
            return
        except AssertionError:
            lift_up()
            eyes_back()
            down()
    raise AssertionError("six fish came and none was hooked")


def test_the_story(open_page, program):
    page = open_page(BENCH)
    # The bore is the picture's first column; the picture lives, with half a minute of water on it already and the lure
    # where the card has it.
    expect(page.get_by_role("complementary", name="The hole, as a section")).to_have_count(0)
    expect(page.get_by_role("button", name="Bottom at 31 ft, mud. Edit")).to_be_visible()
    coach = page.get_by_test_id("coach")
    expect(page.get_by_test_id("lure-depth")).to_contain_text("27.1 ft")
    page.wait_for_timeout(1500)
    first = page.evaluate(PIXELS)
    assert first["colours"] >= 4, "the canvas is blank"

    # Lifted, it is lowered again and falls as a mark; its gain window is there before either limit is met.
    page.keyboard.down("ArrowUp")
    page.wait_for_timeout(900)
    page.keyboard.up("ArrowUp")
    expect(page.get_by_test_id("lure-depth")).not_to_contain_text("27.1 ft")
    page.get_by_role("button", name=re.compile("Lower to")).click()
    expect(page.get_by_test_id("lure-depth")).to_contain_text("27.1 ft", timeout=45_000)
    expect(coach).to_contain_text("Nothing to change")
    floor, ceiling = limits(page)
    assert floor < gain_of(page) < ceiling

    # Down until it is lost, and up until the water blooms: where the limits said.
    press_until(page, "Shift+G", lambda: gain_of(page) < floor)
    expect(coach).to_contain_text("Your lure is lost at 27.1 ft")
    assert gain_of(page) >= floor - 1.01
    press_until(page, "g", lambda: gain_of(page) > ceiling)
    expect(coach).to_contain_text(re.compile("The water is too bright|Plankton lights"))
    assert gain_of(page) <= ceiling + 1.01
    press_until(page, "g", lambda: gain_of(page) >= 48)
    page.wait_for_timeout(4000)
    assert page.evaluate(PIXELS)["lit"] > 1.3 * first["lit"], "more gain did not brighten the picture"
    coach.get_by_role("button", name=re.compile("Set gain")).click()
    expect(coach).to_contain_text(re.compile("Nothing to change|turned towards"))

    # A fish comes; lift, watch, strike.
    play_to_a_strike(
        page,
        lambda: page.keyboard.press("l"),
        lambda: page.keyboard.down("ArrowUp"),
        lambda: page.keyboard.up("ArrowUp"),
        lambda: page.keyboard.down("r"),
        lambda: page.keyboard.up("r"),
        lambda: page.keyboard.press("Enter"),
    )
    page.keyboard.up("r")
    _, answer = program.ask("GET", "/api/strikes?hole_id=1")
    strike = answer["strikes"][0]
    assert strike["note"] == "" and len(answer["strikes"]) == 4
    assert 6.0 < strike["depth_m"] < 9.0 and strike["settings"]["range_m"] == pytest.approx(12.192)

    # It is in the log and on the bore.
    page.get_by_role("link", name="Log").click()
    page.get_by_role("tab", name="This hole").click()
    expect(page.get_by_role("heading", name="Strikes on the Bench at Lantern point")).to_be_visible()
    expect(page.locator(".list ol li")).to_have_count(4)
    expect(page.locator(".list ol li").first).to_contain_text(
        f"{strike['depth_m'] / 0.3048:.1f}".rstrip("0").rstrip(".")
    )
    expect(page.locator(".core circle")).to_have_count(4)

    # Change the hole's depth and ice: everything follows.
    page.get_by_role("button", name=re.compile(r"^Ice .*Edit")).click()
    ice = page.get_by_label(re.compile("^Ice"), exact=False).and_(page.locator("input"))
    expect(ice).to_be_focused()
    ice.fill("20")
    page.locator("#bottom_depth_m").fill("50")
    page.locator("#face_depth_m").fill("24")
    expect(page.get_by_role("button", name=re.compile("^Bottom at 50 ft"))).to_be_visible()
    page.get_by_role("button", name="Save changes").click()
    expect(page.get_by_text("Lantern point is saved.")).to_be_visible()
    page.get_by_role("link", name="Bench").click()
    expect(page.locator("output", has_text="60 ft")).to_be_visible()
    page.get_by_role("button", name=re.compile("Lower to")).click()
    expect(page.get_by_test_id("lure-depth")).to_contain_text("46.1 ft", timeout=60_000)
    deeper, _ = limits(page)
    assert deeper > floor


def test_the_story_by_touch_on_a_phone(open_page):
    page = open_page("/?seed=25#/hole/4/bench", viewport=PHONE, theme="lantern", has_touch=True, is_mobile=True)
    hold = page.get_by_role("button", name="Lift slowly while held")
    page.get_by_role("button", name=re.compile("Lower to")).tap()
    play_to_a_strike(
        page,
        lambda: page.get_by_role("button", name=re.compile("Lower to")).tap(),
        lambda: hold.dispatch_event("pointerdown", {"pointerId": 1, "pointerType": "touch", "isPrimary": True}),
        lambda: hold.dispatch_event("pointerup", {"pointerId": 1, "pointerType": "touch", "isPrimary": True}),
        lambda: page.get_by_role("button", name="Rod tip").tap(),
        lambda: page.get_by_role("button", name=re.compile("^Sonar")).tap(),
        lambda: page.get_by_role("button", name="Set the hook").tap(),
    )
