"""One depth axis: whatever stands beside a picture of the column stands on the picture's own depths."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from .conftest import PHONE

# Lantern point, as the demo has it [m]: bottom, ice.
BOTTOM_M, ICE_M = 9.45, 0.36
# The picture's axis and the middle of what stands on it, once the page has laid itself out, in one look: two
# looks can fall on either side of a relayout (a font, a bar of words) and then tell of two different pages.
AXIS = """async (p, mark) => {
  for (let frame = 0; frame < 2; frame++) await new Promise(requestAnimationFrame);
  const box = p.getBoundingClientRect(), on = mark?.getBoundingClientRect();
  return {top: Number(p.dataset.axisTop), bottom: Number(p.dataset.axisBottom), height: p.clientHeight,
          at: box.top, mark: on ? on.top + on.height / 2 : null}
}"""


def middle(box) -> float:
    return box["y"] + box["height"] / 2


def stands_at(axis, depth_m: float) -> float:
    return axis["at"] + (depth_m - axis["top"]) / (axis["bottom"] - axis["top"]) * axis["height"]


@pytest.mark.parametrize("system", ["ft", "m"])
def test_the_section_the_bottom_and_the_strikes_stand_on_the_benchs_axis(open_page, system):
    page = open_page("/?seed=42#/hole/1/bench")
    picture = page.locator(".picture")
    if system == "m":
        page.get_by_role("button", name=re.compile("Change to metres")).click()
    bottom = page.get_by_role("button", name=re.compile("^Bottom at (31 ft|9.4 m)"))
    expect(bottom).to_be_visible()
    expect(picture).to_have_attribute("data-strikes", "3")
    expect(page.locator("aside.bore")).to_have_count(0)
    for _ in range(2):
        axis = picture.evaluate(AXIS, bottom.element_handle())
        assert axis["mark"] == pytest.approx(stands_at(axis, BOTTOM_M), abs=2.0)
        # Where the bottom stands, the section turns from water into ground.
        above, below = (
            page.evaluate(
                """([x, y]) => { const c = document.querySelector('.picture canvas'), b = c.getBoundingClientRect();
                   const k = c.width / b.width, at = [(x - b.left) * k, (y - b.top) * k, 1, 1];
                   return [...c.getContext('2d').getImageData(...at).data].slice(0, 3) }""",
                [40, stands_at(axis, BOTTOM_M) + off],
            )
            for off in (-8, 8)
        )
        assert above != below
        page.keyboard.press("z")  # and in a window it follows
        page.wait_for_timeout(600)
    assert axis["top"] > ICE_M
    expect(page.get_by_role("button", name=re.compile("^Ice"))).to_have_count(0)


def test_practised_water_has_none_of_this_holes_strikes(open_page):
    page = open_page("/?seed=7#/hole/1/bench/scene/1")
    expect(page.locator(".picture")).to_have_attribute("data-strikes", "0")
    expect(page.get_by_test_id("parts")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile(r"^(Ice|Bottom) .*Edit"))).to_have_count(0)


def test_the_call_sheets_column_and_the_truth_share_an_axis(open_page):
    page = open_page("/#/hole/1/read/sheet")
    column, truth = page.get_by_test_id("column"), page.locator("figure.where .truth")
    page.wait_for_timeout(1500)
    shown = {t.inner_text(): middle(t.bounding_box()) for t in column.locator(".tick").all()}
    true = {t.text_content(): middle(t.bounding_box()) for t in truth.locator("text.figure:not(.soft)").all()}
    both = sorted(set(shown) & set(true), key=float)
    assert len(both) >= 4
    each = (shown[both[-1]] - shown[both[0]]) / (float(both[-1]) - float(both[0]))
    assert (true[both[-1]] - true[both[0]]) / (float(both[-1]) - float(both[0])) == pytest.approx(each, rel=0.01)
    # What is shown at a figure is truly as much deeper as the face hangs: 17.3 in.
    for one in both:
        assert shown[one] - true[one] == pytest.approx(each * 17.3 / 12, abs=2.5)


def test_a_drills_truth_comes_beside_its_picture_once_it_is_answered(open_page):
    page = open_page("/#/hole/1/read/drills")
    page.get_by_role("button", name="Leaving or diving").click()
    answers = page.get_by_role("group", name="Answers").get_by_role("button")
    answers.first.wait_for()
    expect(page.locator(".truth")).to_have_count(0)
    expect(page.locator("aside.bore")).to_have_count(0)
    answers.first.click()
    truth, clip = page.locator("figure .truth"), page.locator("figure .clip")
    expect(truth).to_be_visible()
    assert truth.bounding_box()["height"] == pytest.approx(clip.bounding_box()["height"], abs=1.0)
    assert truth.bounding_box()["y"] == pytest.approx(clip.bounding_box()["y"], abs=1.0)
    expect(truth.locator("text.figure.soft")).to_contain_text("true")


def test_on_a_phone_the_bore_takes_no_width_where_it_says_nothing(open_page):
    page = open_page("/#/hole/1/gear", viewport=PHONE)
    for step, shows in (("Gear", False), ("Card", False), ("Hole", True), ("Log", False), ("Bench", False)):
        shown = page.get_by_role("link", name=step, exact=True)
        if shown.count() == 0:  # there are more steps than a phone's foot has room for
            page.get_by_role("button", name="More steps").click()
            shown = page.get_by_role("menuitem", name=step, exact=True)
        shown.click()
        page.get_by_role("main").wait_for()
        page.wait_for_timeout(300)
        assert page.locator("aside.bore").is_visible() == shows, step


@pytest.mark.parametrize(("step", "column"), [("gear", "aside.bore"), ("log/hole", ".core")])
def test_the_bore_has_ticks_of_its_own_where_there_is_no_picture(open_page, step, column):
    page = open_page(f"/#/hole/1/{step}")
    bore = page.locator(column)
    expect(bore.locator("circle")).to_have_count(3)
    assert page.locator("aside.bore, .core").count() == 1, "one column of the hole, and not two side by side"
    figures = {t.text_content(): middle(t.bounding_box()) for t in bore.locator("svg text").all()}
    assert {"10", "20"} <= set(figures)
    for strike in page.evaluate("fetch('/api/strikes?hole_id=1').then(r => r.json())")["strikes"]:
        each = (figures["20"] - figures["10"]) / 10.0
        wanted = figures["10"] + (strike["depth_m"] / 0.3048 - 10.0) * each
        at = [middle(c.bounding_box()) for c in bore.locator("circle").all()]
        assert min(abs(one - wanted) for one in at) < 2.5
