"""The shelter in the page: everyone's line, holes moved by keys and finger, a late-comer, and the Bench with all on."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import DESK, PHONE

# Who sits there is kept, and the program serves every test: each begins with the guides as the demo seats them.
SEATED = """async hole => {
    const told = await (await fetch('/api/units')).json();
    const unit = name => told.units.find(one => one.name === name).id;
    const at = [[-1.4, 0.8], [0, 1], [1.4, 0.8], [-0.7, -0.9], [0.8, -0.9]];
    const who = [['Ilse', 'Two-beam ring'], ['Tor', 'Two-beam ring'], ['Maren', 'Three-colour ring'],
        ['Jon', 'Wide and narrow scroller'], ['Eske', 'Short-pulse unit']];
    const body = {holes: at.map(([x_m, y_m]) => ({x_m, y_m})),
        seats: who.map(([name, kind], k) => ({name, unit_id: unit(kind), hole: k}))};
    const headers = {'content-type': 'application/json'};
    return (await fetch(`/api/holes/${hole}/party`, {method: 'PUT', headers, body: JSON.stringify(body)})).status;
}"""


def open_shelter(open_page, hole: int = 1, **options) -> Page:
    page = open_page(f"/#/hole/{hole}/gear", **options)
    if hole == 1:
        assert page.evaluate(SEATED, hole) == 200
    page.goto(page.url.split("#")[0] + f"#/hole/{hole}/card/shelter")
    expect(plan(page).get_by_role("status").filter(has_text=re.compile("isturb"))).to_be_visible(timeout=15_000)
    return page


def plan(page: Page):
    return page.get_by_test_id("shelter-plan")


def lines(page: Page):
    return plan(page).get_by_role("list", name="A line for each person").get_by_role("listitem")


@pytest.mark.parametrize("viewport", [DESK, PHONE], ids=["desk", "phone"])
def test_everyone_gets_a_line_and_nobody_is_disturbed_any_more(open_page, viewport):
    page = open_shelter(open_page, viewport=viewport)
    expect(lines(page)).to_have_count(5)
    expect(plan(page)).to_contain_text(re.compile(r"Disturbed now: [45] of 5\. As planned: 0"))
    expect(lines(page).first).to_contain_text("Ilse: hole 1, beam")
    drawing = page.get_by_test_id("shelter-drawing")
    expect(drawing.get_by_role("button", name="Hole 1: Ilse, clear")).to_be_visible()
    page.get_by_role("button", name="As it is now", exact=True).click()
    expect(drawing.get_by_role("button", name=re.compile(r"Hole 1: Ilse, [\d.]+ % lit"))).to_be_visible()
    page.get_by_role("button", name="Everyone has set this").click()
    expect(plan(page)).to_contain_text("Nobody disturbs anybody")
    expect(lines(page).first).to_contain_text("Nothing to change")
    # Somebody else comes: a line for them, and nobody else has anything to do.
    page.get_by_role("button", name="Someone comes late").click()
    expect(lines(page)).to_have_count(6)
    for k in range(5):
        expect(lines(page).nth(k)).to_contain_text("Nothing to change")
    expect(lines(page).nth(5)).to_contain_text("not there yet now")
    page.reload()
    expect(lines(page)).to_have_count(6)


def test_what_the_plan_says_is_what_the_bench_shows_with_all_on(open_page):
    page = open_shelter(open_page)
    first = lines(page).first.inner_text()
    gain = re.search(r"gain ([\d.]+)", first).group(1)
    page.get_by_role("button", name="Bench, as planned: Ilse").click()
    expect(page.get_by_role("slider", name="Gain").first).to_have_value(gain)
    expect(page.get_by_test_id("coach").first).to_be_visible()
    page.get_by_role("tab", name="Water").click()
    expect(page.get_by_text(re.compile("neighbour", re.I)).first).to_be_visible()


def test_a_hole_is_moved_by_keys_and_by_a_finger_and_stays_there(open_page):
    page = open_shelter(open_page)
    hole = page.get_by_test_id("shelter-drawing").get_by_role("button", name=re.compile("^Hole 2"))
    hole.focus()
    for _ in range(8):
        page.keyboard.press("ArrowUp")
    expect(hole).to_have_attribute("transform", "translate(0 -1.4)")
    box = hole.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 60, y + 10, steps=5)
    page.mouse.up()
    # What the keys did may be on its way still: asked until the finger's own is kept.
    kept = "async () => { const told = await (await fetch('/api/holes/1/party')).json(); return told.party.holes[1]; }"
    for _ in range(60):
        moved = page.evaluate(kept)
        if moved["x_m"] != 0.0:
            break
        page.wait_for_timeout(250)
    assert moved["x_m"] > 0.3 and moved["y_m"] > 1.0
    assert moved["x_m"] == pytest.approx(round(moved["x_m"] / 0.05) * 0.05)


def test_seats_are_filled_swapped_and_left(open_page):
    page = open_shelter(open_page, hole=2)
    expect(lines(page)).to_have_count(1)
    page.get_by_role("button", name="One more seat").click()
    expect(lines(page)).to_have_count(2)
    for k in (1, 2):
        page.get_by_role("group", name=f"Seat {k}").get_by_label("Unit").select_option(label="Two-beam ring")
    expect(lines(page).nth(1)).to_contain_text("beam")
    second = page.get_by_role("group", name="Seat 2")
    second.get_by_label("Who").fill("Runa")
    second.get_by_label("Who").blur()
    second.get_by_label("Hole").select_option("1")
    expect(lines(page).nth(1)).to_contain_text("Runa: hole 1")
    expect(lines(page).first).to_contain_text("Seat 1: hole 2")
    # Two plain units that have no rejection disturb each other, and that is said.
    for k in (1, 2):
        page.get_by_role("group", name=f"Seat {k}").get_by_label("Unit").select_option(label="One-beam trail unit")
    expect(plan(page)).to_contain_text("no interference rejection")
    page.get_by_role("button", name="Runa leaves").click()
    expect(lines(page)).to_have_count(1)


def test_a_lone_figure_is_refused_in_words_and_nothing_is_lost(open_page):
    """Two holes on one another: said, and the seats stay as they were typed."""
    page = open_shelter(open_page)
    hole = page.get_by_test_id("shelter-drawing").get_by_role("button", name=re.compile("^Hole 2"))
    one = page.get_by_test_id("shelter-drawing").get_by_role("button", name=re.compile("^Hole 1"))
    a, b = (each.bounding_box() for each in (hole, one))
    middle = [(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2) for box in (a, b)]
    page.mouse.move(*middle[0])
    page.mouse.down()
    page.mouse.move(*middle[1], steps=6)
    page.mouse.up()
    expect(page.get_by_role("alert")).to_contain_text(re.compile(r"holes 1 and 2 are 0\.\d+ m apart|apart"))
    open_page.wrong.clear()
    expect(page.get_by_role("group", name="Seat 2").get_by_label("Who")).to_have_value("Tor")


@pytest.mark.parametrize("viewport", [DESK, PHONE], ids=["desk", "phone"])
def test_a_better_place_is_found_for_the_shelter_and_put_on_the_trip(open_page, viewport):
    page = open_shelter(open_page, viewport=viewport)
    spots = page.get_by_test_id("shelter-spots")
    spots.get_by_role("button", name="NE", exact=True).click()
    expect(lines(page).first).to_be_visible()
    expect(plan(page).locator(".old")).to_have_count(0)  # how it is turned changes nothing of the plan
    spots.get_by_role("button", name="Look for a better place").click()
    places = spots.get_by_role("list", name="Places for the shelter, best first").locator("> li")
    expect(places).to_have_count(4, timeout=20_000)
    expect(places.first).to_contain_text(re.compile(r"Place A: [\d.]+ (ft|mi)\s+[NESW]+ .*Turn the top to", re.DOTALL))
    expect(places.first).to_contain_text(re.compile(r"Better than where you stand with a chance of (over )?\d+ %"))
    expect(places.first).to_contain_text(re.compile(r"5 people with gear and a shelter are about [\d,]+ lb"))
    expect(places.last).to_contain_text("Where you stand")
    spots.get_by_role("button", name="Onto the trip's map: Place A").click()
    expect(spots.get_by_role("status").filter(has_text="Shelter A is a place of the planned day")).to_be_visible()
    named = page.evaluate(
        "async () => (await (await fetch('/api/lakes/1/day')).json()).places.filter((one) => one.wanted).at(-1).name"
    )
    assert named == "Shelter A"
    # With another seat the answer is of another shelter.
    page.get_by_role("button", name="One more seat").click()
    expect(spots.get_by_role("button", name="Look again")).to_be_visible()


def test_a_hole_on_no_lake_says_what_to_do(open_page):
    page = open_page("/#/hole/1/gear")
    made = page.evaluate(
        """async () => {
          const body = {...(await (await fetch('/api/holes/1')).json()), name: "Nowhere"};
          delete body.id; delete body.version;
          const headers = {'content-type': 'application/json'};
          const answer = await fetch('/api/holes', {method: 'POST', headers, body: JSON.stringify(body)});
          return (await answer.json()).id;
        }"""
    )
    page = open_shelter(open_page, hole=made)
    spots = page.get_by_test_id("shelter-spots")
    spots.get_by_role("button", name="Look for a better place").click()
    expect(spots).to_contain_text("This hole lies on no lake yet. Say where under Trip, Lake, Hole.")
