"""A ring on the page: a film that the browser takes apart, or photos of it; its rim dragged and moved by keys, what it
says read as a recording."""

from __future__ import annotations

import re

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tools.made_film import DIAL, PATH, WIDE, pictures

from .conftest import DESK, PHONE
from .photo_hand import drop

RIM = ("Upper right of the rim", "Lower right of the rim", "Lower left of the rim", "Upper left of the rim")


@pytest.fixture(scope="module")
def dial():
    """Twelve pictures of a dial in a hand: those that the film begins with."""
    return pictures(12)


def drag(page: Page, name: str, place: list[float]) -> None:
    at, box = page.get_by_role("button", name=name).bounding_box(), page.get_by_test_id("photo").bounding_box()
    page.mouse.move(at["x"] + at["width"] / 2, at["y"] + at["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + place[0] * box["width"] / WIDE, box["y"] + place[1] * box["width"] / WIDE, steps=4)
    page.mouse.up()


def place_of(page: Page, name: str) -> np.ndarray:
    """Where a handle stands in the photo [px]."""
    at, box = page.get_by_role("button", name=name).bounding_box(), page.get_by_test_id("photo").bounding_box()
    middle = np.array([at["x"] + at["width"] / 2 - box["x"], at["y"] + at["height"] / 2 - box["y"]])
    return middle * WIDE / box["width"]


def six_stepped(page: Page) -> str:
    return page.evaluate(
        "fetch('/api/units').then((one) => one.json())"
        ".then(({units}) => units.find((one) => one.ladders[0].steps.length === 6).name)"
    )


@pytest.mark.parametrize(("size", "theme"), [(DESK, "rime"), (PHONE, "lantern")], ids=["a film", "photos, on a phone"])
def test_a_ring_becomes_a_recording(open_page, dial, tmp_path, size, theme):
    page = open_page("/#/hole/1/read/photo", size, theme, has_touch=size is PHONE)
    page.get_by_role("button", name="It is a ring").click()
    if size is DESK:
        drop(page, PATH, "video/webm")
    else:
        paths = []
        for k, one in enumerate(dial):
            paths.append(tmp_path / f"{k:02}.jpg")
            paths[-1].write_bytes(one.content)
        page.locator("input[type=file]").set_input_files(paths)
    expect(page.get_by_role("button", name=RIM[0])).to_be_visible(timeout=60_000)
    told = page.get_by_text(re.compile(r"^\d+ pictures: each becomes one ping$"))
    count = int(told.inner_text().split()[0])
    assert count == 12 if size is PHONE else 14 <= count <= 18, count  # five a second
    # The ring was found: the four places stand on its rim, an eighth of a turn from the uppermost.
    expect(page.get_by_text("The ring is a guess.")).to_be_visible(timeout=30_000)
    first = dial[0]
    radius = np.hypot(*(first.shown_at(DIAL.quarters) - first.shown_at(DIAL.at(np.zeros(1), 0.0))).T).mean()
    for name in RIM:
        off = first.shown_at(DIAL.at(np.arange(360) / 360.0, 1.0)) - place_of(page, name)
        assert np.hypot(*off.T).min() < 0.03 * radius
    for k, name in enumerate(RIM):
        drag(page, name, first.shown_at(DIAL.at(np.array([(2 * k + 1) / 8.0]), 1.0))[0].tolist())
    # The zero slides along the ring, and with it the end; by keys it goes on a little.
    share = page.get_by_label("Its scale takes of a turn")
    drag(page, "Zero of the scale", first.shown_at(DIAL.at(np.array([0.25]), 1.0))[0].tolist())
    assert (
        np.hypot(*(place_of(page, "End of the scale") - first.shown_at(DIAL.at(np.array([0.25]), DIAL.inner))[0])) < 9
    )
    drag(page, "Zero of the scale", first.shown_at(DIAL.at(np.array([0.0]), 1.0))[0].tolist())
    drag(page, "End of the scale", first.shown_at(DIAL.at(np.array([0.9]), DIAL.inner))[0].tolist())
    assert float(share.input_value()) == pytest.approx(90.0, abs=1.5)
    page.get_by_role("button", name="End of the scale").focus()
    before = float(share.input_value())
    page.keyboard.press("Shift+ArrowDown")
    assert float(share.input_value()) < before
    drag(page, "Inner rim", first.shown_at(DIAL.at(np.array([0.625]), DIAL.inner))[0].tolist())
    share.fill("90")
    share.blur()
    page.get_by_label("Unit", exact=True).select_option(label=six_stepped(page))
    page.get_by_label("Depth at the end").fill("39.37")
    page.get_by_label("From the first picture to the last").fill("10")
    page.get_by_label("From the first picture to the last").blur()
    page.get_by_role("button", name="Read it").click()
    mending = page.get_by_test_id("mending")
    expect(mending).to_contain_text("Its bottom stands at", timeout=60_000)
    bottom_ft = float(re.search(r"Its bottom stands at ([\d.]+) ft", mending.inner_text()).group(1))
    assert bottom_ft == pytest.approx(39.37 * 98 / 120, rel=0.03)


def test_what_is_no_film_is_told_and_the_page_goes_on(open_page, tmp_path):
    page = open_page("/#/hole/1/read/photo")
    page.get_by_role("button", name="It is a ring").click()
    wrong = tmp_path / "list.webm"
    wrong.write_bytes(b"not a film at all")
    page.locator("input[type=file]").set_input_files(wrong)
    expect(page.get_by_text("list.webm is no film that can be played here")).to_be_visible()
    expect(page.get_by_role("button", name="Choose photos or a film")).to_be_enabled()
