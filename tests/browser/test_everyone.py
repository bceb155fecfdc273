"""Everyone can use it: axe on every view, in both themes and sizes; large targets; nothing runs off a phone."""

from __future__ import annotations

import io
import re

import pytest
from PIL import Image
from playwright.sync_api import FilePayload, Page, expect

from hollow_glint.core.drills.catalogue import KINDS

from .conftest import AXE, DESK, PHONE


def violations(page: Page, rule: str | None) -> list[str]:
    """What axe finds, by every rule or by one."""
    # The script comes through the debugger's door, past the page's own policy.
    with open(AXE, encoding="utf-8") as script:
        page.evaluate(script.read())
    # Every rule is run; only of what is wrong are all places told.
    options = {"resultTypes": ["violations"]} | ({} if rule is None else {"runOnly": [rule]})
    told: list[str] = page.evaluate(
        "async o => (await axe.run(document, o)).violations.map(v => v.id + ': ' + v.nodes.map(n => n.target))", options
    )
    return told


def a_photo() -> FilePayload:
    """A photo of sorts: a lit picture on a dark screen."""
    out = io.BytesIO()
    image = Image.new("RGB", (400, 300), (20, 24, 28))
    image.paste((200, 180, 120), (80, 60, 320, 240))
    image.save(out, "PNG")
    return {"name": "screen.png", "mimeType": "image/png", "buffer": out.getvalue()}


VIEWS = ["gear", "hole", "card", "card/shelter", "bench", "read/sheet", "read/drills", "read/recordings", "read/photo",
         "strike/runs", "strike/lab", "strike/sheet", "log/outings", "log/outings/1", "log/teaches",
         "log/next", "log/hole", "log/files", "trip/day", "trip/walk", "trip/power", "trip/rig", "trip/lake",
         "trip/along", "trip/crew", "search/look", "search/set", "search/ahead",
         "search/down/3271__0_0_-7.19_-5.03_120.6_0"]  # fmt: skip


@pytest.mark.parametrize("kind", ["Touching or apart", "Fan: repeat or fish"])
@pytest.mark.parametrize("viewport", [DESK, PHONE], ids=["desk", "phone"])
def test_a_drill_and_its_answer_too(open_page, viewport, kind):
    page = open_page("/#/hole/1/read/drills", viewport=viewport, theme="lantern")
    page.get_by_role("button", name=kind).click()
    page.get_by_role("group", name="Answers").get_by_role("button").first.click()
    expect(page.get_by_test_id("told")).to_be_visible()
    assert violations(page, None) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= viewport["width"]


@pytest.mark.parametrize("viewport", [DESK, PHONE], ids=["desk", "phone"])
def test_a_run_and_its_debrief_too(open_page, viewport):
    page = open_page("/#/hole/1/strike/runs", viewport=viewport)
    page.get_by_role("button", name="Play: One willing fish").click()
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
    page.wait_for_timeout(500)
    for view in ("the run", "the debrief"):
        assert violations(page, None) == [], view
        assert page.evaluate("document.documentElement.scrollWidth") <= viewport["width"]
        if view == "the run":
            page.get_by_role("button", name="End the run").click()
            expect(page.get_by_role("heading", name="Next time")).to_be_visible()


# Width, height, and the least that a finger is asked to hit: in gloves on a phone, at a desk, at twice the size.
SIZES = [(320, 640, 44), (390, 844, 56), (640, 400, 24), (768, 1024, 44), (1280, 800, 44), (1440, 900, 44),
         (1920, 1080, 44)]  # fmt: skip
BY_NIGHT = (390, 1280)
SMALL = """least => [...document.querySelectorAll('button, select, input, nav a, [role=tab]')]
    .map(e => e.type === 'checkbox' ? e.closest('label') : e)  // all of its line is touched
    .filter(e => e.offsetParent && !e.classList.contains('unseen') && !e.classList.contains('skip'))
    .filter(e => e.offsetHeight < least - 0.5 || e.offsetWidth < Math.min(least, 44) - 0.5)
    .map(e => (e.ariaLabel || e.innerText || e.id) + ' ' + e.offsetWidth + 'x' + e.offsetHeight)"""
OFF = """wide => [...document.querySelectorAll('button, select, input, a')]
    .filter(e => e.offsetParent && !e.classList.contains('skip'))
    .map(e => [e.ariaLabel || e.innerText || e.id, e.getBoundingClientRect()])
    .filter(([, box]) => box.right > wide + 1 || box.left < -1)
    .map(([name, box]) => `${name} ${Math.round(box.left)} to ${Math.round(box.right)}`)"""


@pytest.mark.parametrize("step", VIEWS)
def test_axe_finds_nothing_and_nothing_runs_off_at_any_size(open_page, step):
    page = open_page(f"/?seed=3#/hole/1/{step}")
    expect(page.get_by_role("heading", level=1)).to_have_count(1)
    if step == "bench":
        expect(page.get_by_test_id("ceiling")).to_contain_text(re.compile(r"\d"))
    if step == "read/sheet":
        page.get_by_test_id("column").click()
        expect(page.get_by_test_id("answer").get_by_role("heading")).to_be_visible()
    if step == "read/drills":
        page.get_by_role("button", name="Rounds for others").click()
        expect(page.get_by_role("row")).to_have_count(len(KINDS) + 1)
    if step == "read/recordings":
        page.get_by_role("button", name="Replay").click()
        expect(page.get_by_role("heading", name="Notes")).to_be_visible()
    if step == "read/photo":
        page.locator("input[type=file]").set_input_files(a_photo())
        expect(page.get_by_role("button", name="Top left corner")).to_be_visible()
        expect(page.get_by_text(re.compile("corners are a guess|No corners"))).to_be_visible()
    if step.startswith("trip"):
        expect(page.get_by_test_id("lake-map").locator("canvas")).to_have_attribute("data-frames", re.compile(r"\d"))
        expect(page.get_by_role("button", name=re.compile("^Place A"))).to_be_visible()
    if step == "card/shelter":
        expect(page.get_by_test_id("shelter-plan").get_by_role("listitem").first).to_contain_text("Lit by others")
    if step == "card":
        expect(page.get_by_test_id("line-gain")).to_be_visible()
    if step == "gear":
        page.get_by_role("button", name="Two-beam ring", exact=True).click()
        page.get_by_role("tab", name="Calibrate", exact=True).click()
        page.get_by_role("button", name="Practise on a stand-in").click()
        expect(page.get_by_test_id("stand-in")).to_contain_text("pings")
    for width, height, least in SIZES:
        page.set_viewport_size({"width": width, "height": height})
        page.wait_for_timeout(60)
        where = f"{step} at {width}"
        assert page.evaluate("document.documentElement.scrollWidth") <= width, where
        assert page.evaluate("document.documentElement.scrollHeight") <= height, where
        assert page.evaluate(OFF, width) == [], where
        assert page.evaluate(SMALL, least) == [], where
        assert violations(page, None) == [], where
        if width not in BY_NIGHT:
            continue
        # The themes differ in colours alone, so by night only those are looked at again, where the layout is another.
        theme(page, "lantern")
        assert violations(page, "color-contrast") == [], f"{where} by night"
        if width == 1280:
            page.emulate_media(forced_colors="active")
            assert violations(page, None) == [], f"{where} in forced colours"
            page.emulate_media(forced_colors="none")
        theme(page, "rime")


def theme(page: Page, name: str) -> None:
    """By day ("rime") or by night, as the button in the head has it."""
    now, other = ("day", "night") if name == "lantern" else ("night", "day")
    page.get_by_role("button", name=f"Theme: {now}. Change to {other}").click()
    expect(page.locator("html")).to_have_attribute("data-theme", name)


def test_the_page_asks_nobody_else(open_page):
    page = open_page("/#/hole/1/bench")
    hosts = page.evaluate("performance.getEntriesByType('resource').map(e => new URL(e.name).origin)")
    assert set(hosts) == {page.evaluate("location.origin")}


def test_themes_differ_and_are_remembered(open_page):
    page = open_page("/#/hole/1/log")
    colour = "getComputedStyle(document.body).backgroundColor"
    expect(page.get_by_role("main")).to_be_visible()
    day = page.evaluate(colour)
    page.get_by_role("button", name="Theme: day. Change to night").click()
    night = page.evaluate(colour)
    assert day != night
    page.reload()
    expect(page.get_by_role("main")).to_be_visible()
    assert page.evaluate(colour) == night


def test_the_head_is_skipped_by_keyboard(open_page):
    page = open_page("/#/hole/1/card")
    page.get_by_test_id("line-gain").wait_for()
    page.keyboard.press("Tab")
    skip = page.get_by_role("button", name="Skip to the page")
    expect(skip).to_be_focused()
    assert skip.bounding_box()["height"] >= 40, "it is seen while the keyboard is on it"
    page.keyboard.press("Enter")
    assert page.evaluate("document.activeElement.tagName") == "MAIN"
    page.keyboard.press("Tab")
    assert page.evaluate("document.activeElement.closest('main') !== null")


def test_with_the_readers_own_palette_what_is_chosen_is_still_told_apart(open_page):
    page = open_page("/?seed=1#/hole/1/bench")
    expect(page.get_by_test_id("ceiling")).to_contain_text(re.compile(r"\d"))
    page.emulate_media(forced_colors="active")
    painted = "e => getComputedStyle(e).backgroundColor"
    sonar, rod = (page.get_by_role("button", name=name, exact=True) for name in ("Sonar", "Rod tip"))
    assert sonar.evaluate(painted) != rod.evaluate(painted)
    band, hatch = page.locator(".rail .window"), page.locator(".rail .bright")
    assert band.evaluate(painted) != page.locator(".rail").evaluate(painted)
    assert "gradient" in hatch.evaluate("e => getComputedStyle(e).backgroundImage")
    here, other = (page.get_by_role("link", name=name, exact=True) for name in ("Bench", "Card"))
    outline = "e => getComputedStyle(e).outlineStyle"
    assert here.evaluate(outline) == "solid" and other.evaluate(outline) == "none"
