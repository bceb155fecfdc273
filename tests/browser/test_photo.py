"""A photo of one's own screen on the page: dropped, its corners dragged or moved by keys, its colours pointed at, its
marks named, the lure said, and a touched mark taken to the call sheet."""

from __future__ import annotations

import io
import re
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from benchmarks.photo_cases import shown_on_screen
from hollow_glint.core.photo.perspective import as_outline
from hollow_glint.stand_ins.made_up_screen import made_up_screen
from hollow_glint.stand_ins.phone_camera import Shot, photographed

from .conftest import DESK, PHONE
from .photo_hand import drag_corners, drop, point_at_colours, say_what_it_shows, the_corners

SEED, LURE_M = 70_016, 5.5


@pytest.fixture(scope="module")
def taken(tmp_path_factory):
    """A made-up screen in colours of its own, photographed; its file, corners, colours and the recording it shows."""
    recording = shown_on_screen(SEED)
    colours = ["#101418", "#1d3f35", "#2f6b4d", "#6a9a4a", "#b9b04a", "#e0863c", "#f5ece0"]
    screen = made_up_screen(recording.levels.T, colours, float(recording.bottom_m[0]), np.random.default_rng(4))
    photo = photographed(screen, Shot(size=(1200, 900), turn_deg=3.0, keystone=0.04), np.random.default_rng(4))
    path = tmp_path_factory.mktemp("photo") / "dusk.jpg"
    path.write_bytes(photo.content)
    return path, photo.corners, colours, recording


def count_two_marks(page: Page, path: Path, corners: list[list[float]], recording) -> None:
    """Half of the picture between two touches is half of its time; Escape leaves, and begun anew nothing is lost."""
    width, height = Image.open(io.BytesIO(path.read_bytes())).size
    outline = as_outline(corners, width, height)
    count = page.get_by_role("button", name="Count two marks instead")
    count.click()
    expect(page.get_by_text("Touch the older mark in the photo")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_text("Touch the older mark in the photo")).to_have_count(0)
    count.click()
    page.get_by_label("Between the two marks").fill(f"{recording.seconds / 2.0:.1f}")
    page.get_by_label("Between the two marks").blur()
    for across, down in ((0.25, 0.7), (0.75, 0.3)):
        box = page.get_by_test_id("photo").bounding_box()
        x, y = outline.places(np.array(across), np.array(down)) * box["width"] / width
        page.mouse.click(box["x"] + x, box["y"] + y)
    told = float(page.get_by_label("From side to side").input_value())
    assert told == pytest.approx(recording.seconds, rel=0.03)
    count.click()


@pytest.mark.parametrize(("size", "theme", "system"), [(DESK, "rime", "feet"), (PHONE, "lantern", "metric")],
                         ids=["desk, day, feet", "phone, night, metres"])  # fmt: skip
def test_from_the_photo_to_the_call_sheet(open_page, taken, tmp_path, size, theme, system):
    path, corners, colours, recording = taken
    page = open_page("/#/hole/1/read/photo", size, theme, has_touch=size is PHONE)
    if system == "metric":
        page.get_by_role("button", name=re.compile("Units: ft")).click()
    expect(page.get_by_role("heading", name="Read a photo of your own screen")).to_be_visible()
    if size is DESK:
        drop(page, path)
    else:
        chosen = tmp_path / path.name
        chosen.write_bytes(path.read_bytes())
        page.locator("input[type=file]").set_input_files(chosen)
    expect(the_corners(page)).to_be_visible(timeout=30_000)
    if size is PHONE:
        chosen.unlink()  # a card that is taken out: what was chosen is in hand, and is read all the same
    drag_corners(page, path, corners)
    # By keys: a pixel of the screen there and back.
    corner = page.get_by_role("button", name="Top left corner")
    corner.focus()
    before = corner.bounding_box()["x"]
    page.keyboard.press("Shift+ArrowRight")
    assert corner.bounding_box()["x"] == pytest.approx(before + 10, abs=0.6)
    page.keyboard.press("Shift+ArrowLeft")
    say_what_it_shows(page, recording, system)
    count_two_marks(page, path, corners, recording)
    point_at_colours(page, path, corners, recording.levels, len(colours) - 1)
    page.get_by_role("button", name="Read it").click()
    reading = page.get_by_test_id("reading")
    expect(reading).to_contain_text("Bottom", timeout=30_000)
    expect(page.get_by_text("no photo shows what the rod did")).to_be_visible()

    mending = page.get_by_test_id("mending")
    expect(mending).to_contain_text("Its bottom stands at")
    mending.get_by_role("button", name="Put it on the card").click()
    expect(mending.get_by_role("link", name="Look at the card")).to_be_visible(timeout=30_000)

    # The lure hangs at 5.5 m; nobody said what the gain was, so a touch has to say that it is the lure.
    def touch_the_lure() -> None:
        picture = page.get_by_label(re.compile("^Picture of dusk"))
        picture.scroll_into_view_if_needed()
        box = picture.bounding_box()
        down = box["y"] + LURE_M / float(recording.bottom_m[0]) * box["height"]
        page.mouse.click(box["x"] + 0.2 * box["width"], down)

    touch_the_lure()
    page.get_by_role("button", name="This is my lure").click()
    expect(reading).to_contain_text("your lure")
    touch_the_lure()
    page.get_by_role("button", name="What is this mark?").click()
    expect(page.get_by_role("heading", name=re.compile("^A mark at"))).to_be_visible()
    # What the photo showed of the bottom is what the card knows, and the card leads to the next photo.
    page.goto(page.url.split("#")[0] + "#/hole/1/card")
    if size is PHONE:
        page.get_by_role("radio", name="What you know").or_(page.get_by_text("What you know", exact=True)).first.click()
    expect(page.get_by_label("Depth is")).to_have_value("displayed")
    page.get_by_role("link", name="Read a photo of its screen").click()
    # The colours are kept with the unit.
    page.goto(page.url.split("#")[0] + "#/hole/1/read/photo")
    page.locator("input[type=file]").set_input_files(path)
    page.get_by_label("Unit", exact=True).select_option(label=recording.unit.name)
    expect(page.get_by_text("These are the colours you pointed at before.")).to_be_visible()


def test_what_is_no_photo_is_told_and_the_page_goes_on(open_page, tmp_path):
    page = open_page("/#/hole/1/read/photo")
    wrong = tmp_path / "list.png"
    wrong.write_bytes(b"not a picture at all")
    page.locator("input[type=file]").set_input_files(wrong)
    expect(page.get_by_text("list.png is no photo that can be shown: JPEG, PNG or WebP is accepted.")).to_be_visible()
    expect(page.get_by_role("button", name="Choose or take a photo")).to_be_enabled()
