"""Every way in: the marks by keys and by ear, what the hand feels, waits that show, words in one measure."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import DESK, PHONE, listen, sent

BENCH = "/?seed=42#/hole/1/bench"
# A clock of sound that plays nothing and notes what it was asked to play, and a shaker that notes what it shook.
NOTES = """
if (!window.cues) {  // a window that is used again has this script twice
  window.cues = [];
  const Real = window.AudioContext;
  window.AudioContext = class extends Real {
    createOscillator() { window.cues.push('tone'); return super.createOscillator(); }
  };
  navigator.vibrate = (pattern) => { window.cues.push('shake ' + pattern.length); return true; };
}
"""


def bring_down(page: Page) -> None:
    page.get_by_role("button", name=re.compile("^Lower to")).click()


# --- marks ---------------------------------------------------------------------------------------------------------


def test_marks_are_walked_by_keys_and_told_by_ear(open_page):
    page = open_page(BENCH)
    marks = page.get_by_role("list", name="Marks on the picture")
    expect(marks.get_by_role("button").nth(1)).to_be_attached()
    assert marks.get_attribute("aria-live") is None, "it is updated without a word"
    listen(page)
    page.keyboard.press("m")
    expect(marks.get_by_role("button").first).to_be_focused()
    names = [one.inner_text() for one in marks.get_by_role("button").all()]
    assert all(re.fullmatch(r"Mark at [\d.]+ ft, \w+", name) for name in names), names
    depths = [float(re.search(r"[\d.]+", name).group()) for name in names]
    assert depths == sorted(depths) and min(abs(one - 31.0) for one in depths) < 0.5
    # One by one down to the lure, and what it is.
    for _ in range(len(names)):
        name = page.evaluate("document.activeElement.textContent")
        if abs(float(re.search(r"[\d.]+", name).group()) - 27.1) < 0.5:
            break
        page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    told = page.get_by_test_id("mark")
    expect(told).to_contain_text("This is your lure, truly at 27.1 ft")
    page.keyboard.press("Escape")
    expect(told).to_have_count(0)
    page.keyboard.press("Escape")
    # The arrows were the list's: no command went out to lift or lower. Now they are the hand's again.
    assert page.evaluate("window.sent") == []
    page.keyboard.press("ArrowUp")
    assert "lift_m_s" in sent(page)


def test_whoever_stands_on_a_mark_stays_on_it_while_the_list_is_updated(open_page):
    page = open_page(BENCH)
    marks = page.get_by_role("list", name="Marks on the picture")
    expect(marks.get_by_role("button").nth(1)).to_be_attached()
    page.keyboard.press("m")
    for _ in range(12):
        if " 31" in page.evaluate("document.activeElement.textContent"):
            break
        page.keyboard.press("ArrowDown")
    for _ in range(5):
        assert " 31" in page.evaluate("document.activeElement.textContent")
        page.wait_for_timeout(500)


@pytest.mark.parametrize("viewport", [DESK, PHONE], ids=["desk", "phone"])
def test_names_stand_in_the_margin_and_cover_no_mark(open_page, viewport):
    page = open_page(BENCH, viewport=viewport)
    # Looked at in every frame from before the first name on: none may stand outside, not even for a moment.
    page.evaluate(
        """() => {
        window.outside = [];
        requestAnimationFrame(function again() {
          const picture = document.querySelector(".picture canvas")?.getBoundingClientRect();
          for (const name of document.querySelectorAll("[data-testid=marks].named button")) {
            const box = name.getBoundingClientRect();
            if (box.right > picture.right + 0.5) window.outside.push([name.textContent, box.right, picture.right]);
          }
          requestAnimationFrame(again);
        });
        }"""
    )
    page.get_by_role("button", name="Name the marks").click()
    expect(page.get_by_test_id("marks")).to_have_class(re.compile("named"), timeout=30_000)
    names = page.get_by_test_id("marks").get_by_role("button")
    expect(names.first).to_be_visible()
    canvas = page.locator(".picture canvas").bounding_box()
    margin = float(page.locator(".picture").get_attribute("data-margin"))
    assert margin >= 90
    for box in (one.bounding_box() for one in names.all()):
        assert box["x"] >= canvas["x"] + canvas["width"] - margin
        assert box["x"] + box["width"] <= canvas["x"] + canvas["width"] + 0.5
        assert canvas["y"] <= box["y"] and box["y"] + box["height"] <= canvas["y"] + canvas["height"]
    assert page.evaluate("window.outside") == []
    page.get_by_role("button", name="Stop naming marks").click()
    expect(page.locator(".picture")).to_have_attribute("data-margin", "0")


@pytest.mark.parametrize("viewport", [DESK, PHONE], ids=["desk", "phone"])
@pytest.mark.parametrize("deep", [0.06, 0.5, 0.94])
def test_the_words_about_a_mark_never_cover_it(open_page, viewport, deep):
    page = open_page("/?seed=42#/hole/1/bench", viewport=viewport)
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
    canvas = page.locator(".picture canvas").bounding_box()
    x, y = canvas["x"] + 0.7 * canvas["width"], canvas["y"] + deep * canvas["height"]
    page.mouse.click(x, y)
    words = page.get_by_role("dialog", name="What the mark is")
    expect(words).to_be_visible()
    box = words.bounding_box()
    across = box["x"] < x + 14 and x - 14 < box["x"] + box["width"]
    covers = across and box["y"] < y + 14 and y - 14 < box["y"] + box["height"]
    assert not covers, (box, x, y)
    assert box["x"] >= 0 and box["x"] + box["width"] <= viewport["width"]
    assert box["y"] >= 0 and box["y"] + box["height"] <= viewport["height"]


def test_the_main_job_by_ear(open_page):
    """What a screen reader is given of tuning and of a look at the fish: names, roles and values, in working order."""
    page = open_page(BENCH)
    bring_down(page)
    expect(page.get_by_test_id("lure-depth")).to_contain_text("27.1 ft")
    tree = page.locator("body").aria_snapshot()
    wanted = [
        'button "Skip to the page"', 'navigation "Steps"', 'link "Bench"', "combobox", 'heading "Bench: Lantern point"',
        'list "Marks on the picture"', 'region "Coach"', 'heading "Fish"', 'heading "Unit"', 'tablist "Controls"',
        'tab "Tune" [selected]', 'tabpanel "Tune"', 'slider "Gain"', 'heading "Lure"',
        'button "Lift slowly while held"', 'button "Set the hook"',
    ]  # fmt: skip
    at = [tree.find(one) for one in wanted]
    assert -1 not in at, [one for one, found in zip(wanted, at, strict=True) if found < 0]
    assert at == sorted(at), "in the order in which the job is done"
    gain = page.get_by_role("slider", name="Gain")
    assert re.match(r"\d+\. Inside the window", gain.get_attribute("aria-valuetext"))
    # Turned down until the lure is lost: the words follow, and the coach is a status that is read out by itself.
    gain.focus()
    for _ in range(8):
        page.keyboard.press("ArrowLeft")
    expect(gain).to_have_attribute("aria-valuetext", re.compile("Below the floor: the lure is lost"))
    unit = page.get_by_role("region", name="Coach").get_by_role("status").last
    expect(unit).to_contain_text(re.compile("gain", re.I))
    page.get_by_role("region", name="Coach").get_by_role("button").click()
    expect(gain).to_have_attribute("aria-valuetext", re.compile("Inside the window"))
    expect(page.get_by_role("list", name="Marks on the picture")).to_contain_text("Mark at 27")


# --- what the hand feels -------------------------------------------------------------------------------------------


def to_the_bottom(page: Page) -> None:
    """Lower the lure until it lies on the bottom."""
    page.keyboard.down("ArrowDown")
    expect(page.get_by_test_id("lure-depth")).to_contain_text("31 ft", timeout=20_000)
    page.wait_for_timeout(300)
    page.keyboard.up("ArrowDown")


@pytest.mark.parametrize(
    ("sound", "vibration", "wanted"),
    [("yes", "yes", {"tone", "shake 1"}), ("no", "yes", {"shake 1"}), ("yes", "no", {"tone"}), ("no", "no", set())],
)
def test_the_bottom_is_heard_and_felt_where_that_is_wanted(open_page, sound, vibration, wanted):
    page = open_page("/api/health")
    page.add_init_script(NOTES)
    page.evaluate(f"localStorage.setItem('hollow-glint sound', '{sound}')")
    page.evaluate(f"localStorage.setItem('hollow-glint vibration', '{vibration}')")
    page.goto(page.url.replace("/api/health", BENCH))
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
    page.get_by_role("heading", name="Lure").click()  # a page is heard only after it was touched
    to_the_bottom(page)
    if wanted:
        page.wait_for_function("n => new Set(window.cues).size >= n", arg=len(wanted))
    assert set(page.evaluate("window.cues")) == wanted


def test_who_asks_for_less_motion_is_not_shaken_unless_they_say_so(open_page):
    page = open_page("/api/health", reduced_motion="reduce")
    page.add_init_script(NOTES)
    page.goto(page.url.replace("/api/health", "/#/hole/1/log"))
    page.get_by_role("button", name="Settings").click()
    panel = page.get_by_role("dialog", name="Settings")
    expect(panel.get_by_role("button", name="Vibration off")).to_be_visible()
    expect(panel.get_by_role("button", name="Sound on")).to_have_attribute("aria-pressed", "true")
    page.evaluate("window.cues.length = 0")
    panel.get_by_role("button", name="The hook held").click()  # the first one only wakes the clock of sound
    for name, tones in (("A knock at the tip", 1), ("Something pulls", 1), ("On the bottom", 1), ("The hook held", 2)):
        page.wait_for_timeout(200)
        page.evaluate("window.cues.length = 0")
        panel.get_by_role("button", name=name).click()
        assert page.evaluate("window.cues") == ["tone"] * tones, name
    panel.get_by_role("button", name=re.compile("^Vibration off")).click()
    page.evaluate("window.cues.length = 0")
    panel.get_by_role("button", name="A knock at the tip").click()
    assert page.evaluate("window.cues") == ["tone", "shake 1"]


# --- waits ---------------------------------------------------------------------------------------------------------


def slowly(page: Page, address: str, seconds: float, share: float | None) -> None:
    """Have an answer come late, and the program say how far it is."""

    def late(route) -> None:
        page.wait_for_timeout(1000 * seconds)
        route.continue_()

    page.route(address, late)
    if share is not None:
        page.route("**/api/work/*", lambda route: route.fulfill(json={"share": share}))


def test_a_short_wait_says_nothing_and_a_long_one_how_far_it_is(open_page):
    page = open_page("/#/hole/1/strike/lab")
    fish = page.get_by_role("button", name="Fish a hundred")
    expect(fish).to_be_enabled()
    fish.click()
    verdict = page.get_by_test_id("verdict")
    expect(verdict).to_contain_text(re.compile("prefers|cannot tell|Nothing worked"), timeout=60_000)
    slowly(page, "**/api/cadence", 3.0, 0.37)
    fish.click()
    waiting = page.get_by_test_id("waiting")
    expect(waiting).to_contain_text("37 %")
    expect(waiting.get_by_role("progressbar")).to_have_attribute("value", "0.37")
    # The old answer stays, dimmed.
    expect(verdict).to_be_visible()
    assert page.evaluate("!!document.querySelector('.old [data-testid=verdict]')")
    expect(waiting).to_have_count(0, timeout=60_000)
    assert page.evaluate("document.querySelector('.old')") is None


# --- words ---------------------------------------------------------------------------------------------------------

VIEWS = ("trip/day", "trip/walk", "trip/power", "trip/rig", "trip/lake", "trip/along", "trip/crew", "search/look",
         "search/set", "search/ahead",
         "search/down/3271__0_0_-7.19_-5.03_120.6_0",
         "gear", "hole", "card", "card/shelter", "bench", "read/sheet", "read/drills", "read/recordings", "read/photo",
         "strike/runs", "strike/lab", "strike/sheet", "log/outings", "log/outings/1", "log/teaches", "log/next",
         "log/hole", "log/files")  # fmt: skip
NOT_IN = {
    "feet": re.compile(r"(?<![\w.])\d[\d.,]*\s?(cm|m|metres?)\b(?!\w)|\b(centimet|metre)"),
    "metric": re.compile(r"\d[\d.,]*\s?(ft|feet|inch(es)?)\b|\d[\d.,]* in(?! \w)|\b(feet|foot under|inch)"),
}
SAID = """() => [...document.querySelectorAll('body *')].flatMap(e => [e.getAttribute('aria-label'),
    e.getAttribute('aria-valuetext'), ...[...e.childNodes].filter(n => n.nodeType === 3).map(n => n.data)])
    .filter(Boolean).map(s => s.replace(/\\s+/g, ' ').trim()).filter(Boolean)"""


@pytest.mark.parametrize("system", ["feet", "metric"])
def test_one_measure_on_every_page_and_no_minus_zero(open_page, system):
    page = open_page("/api/health")
    page.evaluate(f"localStorage.setItem('hollow-glint units', '{system}')")
    for view in VIEWS:
        page.goto(page.url.split("/api")[0].split("/?")[0] + f"/?seed=42#/hole/1/{view}")
        expect(page.get_by_role("heading", level=1).first).to_be_attached()
        page.wait_for_timeout(700)
        if view.startswith("trip"):
            expect(page.get_by_role("button", name=re.compile("^Place A")).first).to_be_visible()
        if view == "read/sheet":
            page.get_by_test_id("column").click()
            expect(page.get_by_test_id("answer").get_by_role("heading").first).to_be_visible()
        said = page.evaluate(SAID)
        if view == "gear":
            for one in ("Two-beam ring", "5 mm jig on a chain"):
                page.get_by_role("button", name=one, exact=True).click()
                said += page.evaluate(SAID)
        if view == "bench":
            for tab in ("Picture", "Water", "Practice"):
                page.get_by_role("tab", name=tab).click()
                said += page.evaluate(SAID)
        other = [line for line in said if NOT_IN[system].search(line) and "Units:" not in line]
        assert other == [], (view, other)
        assert [line for line in said if re.search(r"(?<![\d.–])[-−]0(\.0+)?(?![\d.])", line)] == [], view
        assert [line for line in said if "UTC" in line] == [], view


@pytest.mark.parametrize("view", VIEWS)
def test_where_the_numbers_come_from_is_said_on_every_page(open_page, view):
    page = open_page(f"/#/hole/1/{view}")
    if view == "read/recordings":
        page.get_by_role("button", name="Replay").click()
    page.get_by_role("button", name="Where the numbers come from").click()
    lines = page.get_by_role("dialog", name="Where the numbers come from").locator("dd")
    expect(lines.first).to_be_visible()
    assert all(len(one) > 30 for one in lines.all_inner_texts())


# --- steps ---------------------------------------------------------------------------------------------------------


def test_eight_steps_stand_at_the_foot_of_a_small_phone(open_page):
    """By the page's own rule, for steps that are to come: eight at 360 px, seven at 320 with the rest under a menu."""
    page = open_page("/#/hole/1/log", viewport={"width": 320, "height": 640})
    links = page.get_by_role("navigation", name="Steps").locator("a, button")
    boxes = [one.bounding_box() for one in links.all()]
    assert len(boxes) == 7 and all(box["width"] >= 43.5 and box["height"] >= 44 for box in boxes)
    assert boxes[-1]["x"] + boxes[-1]["width"] <= 320
    assert all(a["x"] + a["width"] <= b["x"] + 0.5 for a, b in zip(boxes, boxes[1:], strict=False))
    # At twice the size the last ones go under the menu, and the open one stays.
    page.set_viewport_size({"width": 180, "height": 400})
    more = page.get_by_role("button", name="More steps")
    expect(more).to_be_visible()
    expect(page.get_by_role("navigation", name="Steps").get_by_role("link", name="Log")).to_be_visible()
    more.click()
    page.get_by_role("menuitem", name="Bench").click()
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
