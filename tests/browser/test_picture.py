"""The canvas against the model: truth, now and history stand on one depth axis, in every window and unit."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import PHONE

# Rows (css pixels from the canvas' top) at which the strip has a mark, and at which the section has the lure.
MARKS = """() => {
  const canvas = document.querySelector('.picture canvas');
  const dpr = canvas.width / canvas.clientWidth, wide = canvas.clientWidth;
  const section = Math.round(wide * (wide < 420 ? 0.36 : 0.34)), strip = wide < 420 ? 26 : 54;
  const paper = canvas.getContext('2d');
  const at = (x, y) => paper.getImageData(Math.round(x * dpr), Math.round(y * dpr), 1, 1).data;
  const same = (a, b) => Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]) + Math.abs(a[2] - b[2]) < 12;
  const middle = Math.round((section + 34) / 2);
  const action = getComputedStyle(document.documentElement).getPropertyValue('--zone').trim();
  const rgb = [1, 3, 5].map(i => parseInt(action.slice(i, i + 2), 16));
  const lure = [], lit = [], trace = [], tall = canvas.clientHeight;
  const dark = at(section + strip + 1, 2);
  for (let y = 0; y < tall; y++) {
    if (same(at(middle + 2, y), rgb)) lure.push(y);
    if (!same(at(section + strip / 2, y), dark)) lit.push(y);
    if (!same(at(section + strip + 4, y), dark)) trace.push(y);
  }
  return {lure, lit, trace, tall};
}"""


def runs(rows: list[int]) -> list[tuple[int, int]]:
    """Consecutive rows as (first, last)."""
    found: list[tuple[int, int]] = []
    for row in rows:
        if found and row - found[-1][1] <= 1:
            found[-1] = (found[-1][0], row)
        else:
            found.append((row, row))
    return found


def lure_and_mark(page: Page) -> tuple[float, tuple[int, int], list[tuple[int, int]]]:
    """Middle of the lure in the section, the strip's mark nearest to it, and the trace's marks."""
    seen = page.evaluate(MARKS)
    lure = max(runs(seen["lure"]), key=lambda run: run[1] - run[0])
    middle = (lure[0] + lure[1]) / 2
    mark = min(runs(seen["lit"]), key=lambda run: abs(run[0] - middle))
    return middle, mark, runs(seen["trace"])


@pytest.fixture(scope="module")
def lowered(program) -> str:
    """The address of a stained 7 m hole, kept as a scene with the lure hanging 1.2 m off the bottom already."""
    _, made = program.ask("POST", "/api/benches", {"hole_id": 4, "unit_id": 1, "lure_id": 3, "seed": 11})
    kept = {key: made[key] for key in ("scene", "unit", "lure", "settings", "seed")}
    kept |= {"name": "Inlet bar, lure down", "lure_depth_m": 5.8}
    status, scene = program.ask("POST", "/api/scenes", kept)
    assert status == 201
    program.ask("DELETE", f"/api/benches/{made['id']}")
    return f"/#/hole/4/bench/scene/{scene['id']}"


def settled(page: Page) -> None:
    expect(page.get_by_test_id("lure-depth")).to_contain_text("19 ft")
    page.wait_for_timeout(1500)


@pytest.mark.parametrize("size", ["desk", "phone"])
def test_the_mark_stands_where_the_lure_is(open_page, lowered, size):
    options = {"viewport": PHONE} if size == "phone" else {}
    page = open_page(lowered, **options)
    settled(page)
    for window in ("Full column", "Bottom 6", "Bottom 12"):
        page.get_by_role("button", name=window).click()
        page.wait_for_timeout(1500)
        lure, mark, trace = lure_and_mark(page)
        # The mark's top is the lure's range. A row of 240 is two or three pixels; the painted diamond's middle, one.
        assert mark[0] == pytest.approx(lure, abs=5), window
        # The trace's newest pings say the same.
        assert min(abs(run[0] - mark[0]) for run in trace) <= 4, window


def test_metres_change_the_figures_and_not_the_picture(open_page, lowered):
    page = open_page(lowered)
    settled(page)
    before = lure_and_mark(page)
    expect(page.get_by_test_id("lure-depth")).to_contain_text("19 ft")
    page.get_by_role("button", name=re.compile("Units: ft")).click()
    expect(page.get_by_test_id("lure-depth")).to_contain_text("5.8 m")
    page.wait_for_timeout(200)
    after = lure_and_mark(page)
    assert after[0] == before[0]
    assert after[1][0] == pytest.approx(before[1][0], abs=3)


def test_another_range_moves_lure_and_mark_together(open_page, lowered):
    page = open_page(lowered)
    settled(page)
    lure, mark, _ = lure_and_mark(page)
    page.get_by_role("button", name="More range").click()
    page.wait_for_timeout(1500)
    coach = page.get_by_test_id("coach")
    expect(coach).to_contain_text("30 ft still holds the bottom")
    lure_far, mark_far, _ = lure_and_mark(page)
    assert lure_far < lure - 50
    assert mark_far[0] == pytest.approx(lure_far, abs=5)
    coach.get_by_role("button", name="Set range 30 ft").click()
    page.wait_for_timeout(1500)
    back, mark_back, _ = lure_and_mark(page)
    assert back == pytest.approx(lure, abs=1)
    assert mark_back[0] == pytest.approx(mark[0], abs=4)


def test_truth_can_be_hidden_and_shown(open_page, lowered):
    page = open_page(lowered)
    settled(page)
    page.get_by_role("button", name="Hide truth").click()
    page.wait_for_timeout(200)
    assert page.evaluate(MARKS)["lure"] == []
    page.get_by_role("button", name="Show truth").click()
    page.wait_for_timeout(200)
    assert page.evaluate(MARKS)["lure"] != []


def test_themes_change_past_pings_too(open_page, lowered):
    """Colours are looked up again for the whole trace: nothing of the other theme is left in it."""
    page = open_page(lowered)
    settled(page)
    page.get_by_role("button", name="Theme: day. Change to night").click()
    page.wait_for_timeout(300)
    brightness = page.evaluate("""() => {
      const canvas = document.querySelector('.picture canvas');
      const left = Math.round(canvas.width * 0.5), wide = Math.round(canvas.width * 0.35);
      const data = canvas.getContext('2d').getImageData(left, 0, wide, canvas.height).data;
      let dark = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i] + data[i + 1] + data[i + 2] < 150) dark++;
      return dark / (data.length / 4);
    }""")
    assert brightness > 0.6
