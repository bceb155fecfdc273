"""A novice's first quarter of an hour: from chaos to a clean picture by doing what the coach says."""

from __future__ import annotations

import re
from collections.abc import Callable

from playwright.sync_api import Page, expect

from .conftest import PHONE

PICTURE = "document.querySelector('.picture canvas').toDataURL()"
CHAOS = "Neighbour at the next hole, dusk, mud"

# Share of the trace's newest second that is lit, between the surface clutter and the bottom.
LIT = """() => {
  const canvas = document.querySelector('.picture canvas');
  const {width, height} = canvas, paper = canvas.getContext('2d');
  const top = Math.round(0.12 * height), tall = Math.round(0.68 * height);
  const data = paper.getImageData(Math.round(0.67 * width), top, 60, tall).data;
  const counts = new Map();
  for (let i = 0; i < data.length; i += 4) {
    const key = (data[i] << 16) | (data[i + 1] << 8) | data[i + 2];
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  const all = data.length / 4, most = Math.max(...counts.values());
  return 1 - most / all;
}"""


def open_chaos(open_page, **options) -> Page:
    page = open_page("/#/hole/1/bench", **options)
    page.get_by_role("tab", name="Practice").click()
    page.get_by_role("button", name=CHAOS).click()
    expect(page.get_by_role("heading", name=f"Bench: {CHAOS}")).to_be_attached()
    page.get_by_role("tab", name="Tune").click()
    expect(page.get_by_test_id("floor")).not_to_have_text("?")
    return page


def lit_gets(page: Page, enough: Callable[[float], bool]) -> None:
    """Waits for the newest second of the trace to be lit so; the page's own policy forbids waiting inside it."""
    for _ in range(60):
        share = page.evaluate(LIT)
        if enough(share):
            return
        page.wait_for_timeout(250)
    raise AssertionError(f"{share:.3f} of the newest second is lit")


def control_says(page: Page, label: str) -> None:
    """The control that the coach's button spoke of stands where it said."""
    wanted = label.split()[-1]
    if label.startswith("Set gain"):
        expect(page.get_by_role("slider", name="Gain")).to_have_value(wanted)
    elif label.startswith("Set range"):
        expect(page.locator("output", has_text=label.removeprefix("Set range "))).to_be_visible()
    elif label.startswith("Set rejection"):
        expect(page.get_by_test_id("rejection")).to_contain_text(wanted)
    elif label.startswith(("Lower it to", "Hang it straight")):
        page.get_by_role("tab", name="Water").click()
        name = "Off plumb" if label.startswith("Hang") else "Face below the surface"
        expected = "0°" if label.startswith("Hang") else label.removeprefix("Lower it to ")
        expect(page.get_by_role("group", name=name).locator("output")).to_have_text(expected)
        page.get_by_role("tab", name="Tune").click()
    elif label.startswith("Time-varied gain"):
        expect(page.get_by_role("group", name="Time-varied gain").locator("output")).to_have_text(wanted)
    elif label.startswith("Take the"):
        expect(page.get_by_role("group", name="Pulse").locator("output")).to_contain_text(label.split()[2])


def test_from_chaos_to_a_clean_picture_by_the_coach(open_page):
    page = open_chaos(open_page)
    coach = page.get_by_test_id("coach")
    lit_gets(page, lambda share: share > 0.06)
    page.wait_for_timeout(2500)
    before = page.evaluate(LIT)
    done: list[str] = []
    while len(done) < 10 and coach.locator("button").count():
        label = coach.locator("button").inner_text()
        finding = coach.locator(".finding").inner_text()
        assert re.search(r"\d", coach.inner_text()), "a finding without its number"
        coach.locator("button").click()
        control_says(page, label)
        expect(coach.locator(".finding")).not_to_have_text(finding)
        done.append(label)
    assert 4 <= len(done) < 10, done
    expect(coach).to_contain_text("Nothing to change")
    # What it did is in the picture: the window holds the gain, the water is quiet, the lure stands there.
    gain = float(page.get_by_role("slider", name="Gain").input_value())
    floor, ceiling = (float(page.get_by_test_id(one).inner_text()) for one in ("floor", "ceiling"))
    assert floor <= gain <= ceiling
    lit_gets(page, lambda share: share < 0.6 * before)
    # A mark touched says what made it. What was painted before the last change still stands there for a while, and
    # then it is a neighbour's.
    box = page.locator(".picture canvas").bounding_box()
    for _ in range(8):
        page.mouse.click(box["x"] + 0.75 * box["width"], box["y"] + box["height"] * 0.985)
        expect(page.get_by_test_id("mark")).to_contain_text(re.compile("bottom|neighbour"))
        if "bottom" in page.get_by_test_id("mark").inner_text():
            return
        page.wait_for_timeout(700)
    raise AssertionError("eight touches at the foot of the picture and no bottom")


def test_every_picture_can_be_shown_held_still_and_gone_back_in(open_page):
    page = open_chaos(open_page)
    page.get_by_role("tab", name="Picture").click()
    shots = set()
    for first in ("Strip", "Trace", "Ring"):
        page.get_by_role("group", name="First picture").get_by_role("button", name=first).click()
        for second in ("Strip", "Trace", "Ring", "None"):
            page.get_by_role("group", name="Second picture").get_by_role("button", name=second).click()
            page.wait_for_timeout(120)
            shots.add(page.evaluate(PICTURE))
    assert len(shots) == 12
    page.wait_for_timeout(1500)
    page.get_by_role("button", name="Freeze").first.click()
    page.wait_for_timeout(200)
    still = page.evaluate(PICTURE)
    page.wait_for_timeout(600)
    assert page.evaluate(PICTURE) == still
    held = page.get_by_test_id("held")
    expect(held).to_have_text("0")
    page.get_by_role("button", name="Back one ping").click()
    page.get_by_role("button", name="Back twenty pings").click()
    expect(held).to_have_text("21")
    page.wait_for_timeout(200)
    assert page.evaluate(PICTURE) != still
    page.get_by_role("button", name="Resume").first.click()
    expect(held).to_have_count(0)


def test_an_aim_line_is_drawn_and_the_lure_brought_to_it_by_one_key(open_page):
    page = open_chaos(open_page)
    page.get_by_role("button", name="Draw an aim line").click()
    target = page.get_by_test_id("target")
    expect(target).to_contain_text("ft")
    page.evaluate("document.activeElement.blur()")
    for _ in range(6):
        page.keyboard.press("[")
    wanted = target.inner_text()
    page.keyboard.press("l")
    expect(page.get_by_test_id("lure-depth")).to_contain_text(wanted, timeout=20_000)


def bring_the_bottom_in(page, press) -> None:
    """Do the first exercise, pressing buttons by `press`, until its aim is met."""
    for _ in range(6):
        press(page.get_by_role("button", name="Less range"))
        if page.locator("output", has_text=re.compile("^30 ft$")).count():
            break
    page.get_by_role("slider", name="Gain").fill("60")
    expect(page.get_by_test_id("exercise")).to_contain_text("strongest, lowest line", timeout=20_000)


def test_an_exercise_is_done_by_touch_on_a_phone(open_page, program):
    page = open_page("/#/hole/1/bench", viewport=PHONE, has_touch=True, is_mobile=True)
    page.get_by_role("tab", name="Practice").tap()
    page.get_by_role("button", name="Find the bottom").tap()
    exercise = page.get_by_test_id("exercise")
    expect(exercise).to_contain_text("Bring the bottom into the picture")
    page.get_by_role("tab", name="Tune").tap()
    bring_the_bottom_in(page, lambda button: button.tap())
    listed = {one["key"]: one["done_at"] for one in program.ask("GET", "/api/exercises")[1]["exercises"]}
    assert listed["find the bottom"]


def test_an_exercise_keeps_its_answer_off_the_screen_until_its_aim_is_met(open_page):
    """Before, the section, the bore, the height off the bottom and the coach's button each gave it away."""
    page = open_page("/#/hole/1/bench/exercise/find%20the%20bottom")
    coach = page.get_by_test_id("coach")
    expect(coach).to_contain_text("This one is yours to find.")
    expect(coach.get_by_role("button")).to_have_count(0)
    expect(page.locator("aside.bore")).to_have_count(0)
    expect(page.get_by_test_id("parts")).to_have_count(0)
    expect(page.get_by_text("off bottom")).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("Lower to"))).to_have_count(0)
    expect(page.get_by_role("button", name="Truth: after the aim")).to_be_disabled()
    page.get_by_role("tab", name="Water").click()
    expect(page.get_by_text("What is under the hole is yours to find.")).to_be_visible()
    page.get_by_role("tab", name="Tune").click()
    bring_the_bottom_in(page, lambda button: button.click())
    expect(page.get_by_test_id("parts")).to_contain_text("29.9 ft")
    expect(page.get_by_text("off bottom")).to_have_count(1)
    expect(coach).not_to_contain_text("yours to find")


def test_a_scene_is_kept_opened_and_removed(open_page, program):
    page = open_chaos(open_page)
    page.get_by_role("tab", name="Practice").click()
    page.get_by_label("Name of the scene").fill("My own chaos")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("My own chaos is kept.")).to_be_visible()
    page.get_by_role("button", name="My own chaos").click()
    expect(page.get_by_role("heading", name="Bench: My own chaos")).to_be_attached()
    page.get_by_role("tab", name="Practice").click()
    page.get_by_label("Scene file").set_input_files(
        {"name": "bad.json", "mimeType": "application/json", "buffer": b'{"hollow_glint_scene": 1,\n "name": 4}'}
    )
    expect(page.get_by_role("status").filter(has_text="line 2: name is 4")).to_be_visible()
    open_page.wrong.clear()  # the browser notes the refusal that was asked for
    page.get_by_role("button", name="Remove My own chaos").click()
    expect(page.get_by_test_id("undo")).to_contain_text("My own chaos is removed.")
    # Back at the hole, and the scene is gone.
    expect(page.get_by_role("heading", name="Bench: Lantern point")).to_be_attached()
    assert "My own chaos" not in [one["name"] for one in program.ask("GET", "/api/scenes")[1]["scenes"]]


def test_a_unit_is_copied_and_given_its_own_numbers_and_colour_names(open_page, program):
    page = open_page("/#/hole/1/gear")
    page.get_by_role("button", name="Copy Three-colour ring").click()
    expect(page.get_by_text("Answer what differs on your own")).to_be_visible()
    page.get_by_label("Name", exact=True).fill("The sled's ring")
    page.locator("#unit-gain_to").fill("12")
    page.locator("#unit-gain_step").fill("hard")
    expect(page.locator("#unit-gain_step-hint")).to_have_text('"hard" is not a number.')
    page.locator("#unit-gain_step").fill("1")
    page.get_by_label("Name of step 1").first.fill("green")
    page.get_by_role("button", name="Save the unit").click()
    expect(page.get_by_text("The sled's ring is saved.")).to_be_visible()
    units = program.ask("GET", "/api/units")[1]["units"]
    mine = next(one for one in units if one["name"] == "The sled's ring")
    assert mine["gain"]["maximum"] == 12 and mine["gain"]["step"] == 1
    assert mine["ladders"][0]["steps"][0]["name"] == "green"

    def slowly(route):
        if route.request.method == "GET":
            page.wait_for_timeout(800)  # a slow line: what is listed comes later than what was done
        route.continue_()

    page.route("**/api/units", slowly)
    page.get_by_role("button", name="Remove The sled's ring").click()
    expect(page.get_by_text("The sled's ring is removed.")).to_be_visible()
    listed = page.get_by_role("button", name="The sled's ring", exact=True)
    assert listed.count() == 0  # nobody is told that it is gone while it still stands there
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(listed).to_be_visible()
    page.unroute("**/api/units")
    assert next(one for one in program.ask("GET", "/api/units")[1]["units"] if one["name"] == mine["name"]) == mine
    page.get_by_role("button", name="The sled's ring", exact=True).click()
    page.get_by_role("button", name="Remove The sled's ring").click()
