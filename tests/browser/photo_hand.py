"""What a hand does on the page with a photo of a screen: drops it, drags its corners, points at its colours."""

from __future__ import annotations

import base64
import io
import re
from pathlib import Path

import numpy as np
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from hollow_glint.core.photo.perspective import as_outline

NAMES = ("Top left", "Top right", "Bottom right", "Bottom left")


def the_corners(page: Page) -> Locator:
    """What the page says of the corners that it found beforehand."""
    return page.get_by_text(re.compile("corners are a guess|corners seem right|No corners were found"))


def drop(page: Page, path: Path, kind: str = "image/jpeg") -> None:
    """Drop a file on the page as a hand does."""
    given = page.evaluate_handle(
        """([bytes, name, type]) => { const given = new DataTransfer();
            given.items.add(new File([Uint8Array.from(atob(bytes), one => one.charCodeAt(0))], name, {type}));
            return given; }""",
        [base64.b64encode(path.read_bytes()).decode(), path.name, kind],
    )
    page.locator("body").dispatch_event("drop", {"dataTransfer": given})


def drag_corners(page: Page, path: Path, corners: list[list[float]]) -> None:
    width, _ = Image.open(io.BytesIO(path.read_bytes())).size
    for name, (x, y) in zip(NAMES, corners, strict=True):
        handle = page.get_by_role("button", name=f"{name} corner")
        at, box = handle.bounding_box(), page.get_by_test_id("photo").bounding_box()
        scale = box["width"] / width
        page.mouse.move(at["x"] + at["width"] / 2, at["y"] + at["height"] / 2)
        page.mouse.down()
        page.mouse.move(box["x"] + x * scale, box["y"] + y * scale, steps=4)
        page.mouse.up()


def say_what_it_shows(page: Page, recording, system: str) -> None:
    page.get_by_label("Unit", exact=True).select_option(label=recording.unit.name)
    foot = float(recording.bottom_m[0]) / (0.3048 if system == "feet" else 1.0)
    page.get_by_label("Depth at the foot").fill(f"{foot:.2f}")
    page.get_by_label("From side to side").fill(f"{recording.seconds:.0f}")
    page.get_by_label("From side to side").blur()


def cell_of(levels: np.ndarray, level: int) -> tuple[float, float]:
    """Shares across and down of a place that shows a level, as far from others as there is one."""
    best, found = -1, (0.5, 0.5)
    for ping, row in np.argwhere(levels == level)[::7]:
        around = levels[max(ping - 4, 0) : ping + 5, max(row - 3, 0) : row + 4]
        if (around == level).sum() > best:
            best = int((around == level).sum())
            found = ((ping + 0.5) / levels.shape[0], (row + 0.5) / levels.shape[1])
    return found


def point_at_colours(page: Page, path: Path, corners: list[list[float]], levels: np.ndarray, steps: int) -> None:
    width, height = Image.open(io.BytesIO(path.read_bytes())).size
    outline = as_outline(corners, width, height)
    page.get_by_role("button", name="dark water").click()
    for level in range(steps + 1):
        expect(page.get_by_text(re.compile("^Touch .* in the photo"))).to_be_visible()
        across, down = cell_of(levels, level)
        x, y = outline.places(np.array(across), np.array(down))
        box = page.get_by_test_id("photo").bounding_box()
        scale = box["width"] / width
        page.mouse.click(box["x"] + x * scale, box["y"] + y * scale)
