"""`make screenshots`: one picture of each main view, from the demo's made-up waters."""

from __future__ import annotations

import math
import re
import tempfile
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
from playwright.sync_api import Browser, Page, sync_playwright

from hollow_glint.formats import recording_csv
from hollow_glint.stand_ins.made_up_screen import made_up_screen
from hollow_glint.stand_ins.phone_camera import Shot, photographed
from tests.browser.photo_hand import drag_corners, point_at_colours, say_what_it_shows
from tests.running import CHROMIUM_FLAGS, chromium_path, running_server, seed_demo

FOLDER = Path(__file__).parents[1] / "docs/screenshots"
DESK, PHONE = (1280, 800), (390, 844)


def still(page: Page) -> None:
    page.get_by_role("main").wait_for()
    page.wait_for_timeout(700)


def fish_rises(page: Page) -> None:
    """Lower, wait for the fish that this seed brings, and lift slowly until it follows."""
    page.get_by_role("button", name=re.compile("Lower to")).click()
    coach = page.get_by_test_id("coach")
    coach.get_by_text("turned towards").wait_for(timeout=60_000)
    page.evaluate("document.activeElement.blur()")
    page.keyboard.down("ArrowUp")
    coach.get_by_text("touching").wait_for(timeout=30_000)
    page.wait_for_timeout(600)


def planned(page: Page) -> None:
    """The day is planned and its lake drawn."""
    page.get_by_role("button", name=re.compile("^Place F: number")).wait_for()
    page.wait_for_timeout(900)


def own_unit(page: Page) -> None:
    page.get_by_role("button", name="Two-beam ring", exact=True).click()
    page.wait_for_timeout(400)


def card_known(page: Page) -> None:
    """A card with the light and the life in the water known, for the two-beam ring."""
    page.get_by_test_id("line-gain").wait_for()
    page.locator("#known-unit").select_option(label="Two-beam ring")
    page.locator("#known-liveliness").select_option("some")
    page.wait_for_timeout(700)
    page.locator("#known-light").select_option("day")
    page.wait_for_timeout(900)


def photo_read(page: Page) -> None:
    """Some twenty seconds of the demo's recording on a made-up screen, photographed and read."""
    of = page.request.get(f"{page.url.split('#')[0]}api/recordings/1/file?format=csv").body()
    recording, _ = recording_csv.read(of)
    part = slice(300, 700)
    shown = replace(
        recording, time_s=recording.time_s[part] - recording.time_s[part.start], levels=recording.levels[part],
        top_m=recording.top_m[part], bottom_m=recording.bottom_m[part], line_in_m=recording.line_in_m[part],
        settings=((0, recording.settings_at(part.stop)),), notes=(),
    )  # fmt: skip
    colours = ["#101418", "#1d3f35", "#2f6b4d", "#6a9a4a", "#b9b04a", "#e0863c", "#f5ece0"]
    rng = np.random.default_rng(4)
    screen = made_up_screen(shown.levels.T, colours, float(shown.bottom_m[0]), rng)
    photo = photographed(screen, Shot(size=(1200, 900), turn_deg=3.0, keystone=0.04), rng)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "dusk.jpg"
        path.write_bytes(photo.content)
        page.locator("input[type=file]").set_input_files(path)
        page.get_by_text(re.compile("corners are a guess|corners seem right")).wait_for()
        drag_corners(page, path, photo.corners)
        say_what_it_shows(page, shown, "feet")
        point_at_colours(page, path, photo.corners, shown.levels, len(colours) - 1)
    page.get_by_role("button", name="Read it").click()
    page.get_by_test_id("mending").wait_for()
    page.wait_for_timeout(1500)


def fished_under(page: Page) -> None:
    """A fish looks at the lure, or is near it."""
    gap = page.get_by_test_id("gap").get_by_text(re.compile("below the lure|above the lure"))
    for _ in range(240):
        if gap.is_visible() and re.search(
            r"comes|follows|turned|at your lure", page.get_by_test_id("says-now").inner_text()
        ):
            break
        page.wait_for_timeout(250)
    page.wait_for_timeout(600)


def sheet_filled(page: Page) -> None:
    """A mark that rises, seen in open water above the lure."""
    box = page.get_by_test_id("column").bounding_box()
    assert box is not None
    page.mouse.click(box["x"] + 0.7 * box["width"], box["y"] + 0.5 * box["height"])
    page.get_by_role("group", name="It moves").get_by_role("button", name="rising").click()
    page.wait_for_timeout(900)


def drill_answered(page: Page) -> None:
    """The truth after an answer, the clip played to its end."""
    page.get_by_role("button", name="Leaving or diving").click()
    page.get_by_role("group", name="Answers").get_by_role("button").first.click()
    page.get_by_test_id("told").wait_for()
    page.wait_for_timeout(900)


def replayed(page: Page) -> None:
    """The demo's recording where its first fish comes up, marks named."""
    page.get_by_role("button", name="Replay").click()
    page.get_by_role("slider", name="Time in the recording").fill("27")
    page.get_by_role("button", name="Name the marks").click()
    page.get_by_test_id("reading").wait_for()
    page.wait_for_timeout(2500)


def run_played(page: Page) -> None:
    """A run with the fish of this seed looking on."""
    page.get_by_role("button", name="Play: A school passing").click()
    page.get_by_role("button", name=re.compile("^Lower to")).click()
    page.wait_for_timeout(21_000)
    page.evaluate("document.activeElement.blur()")


def debriefed(page: Page) -> None:
    """The demo's last run, in which a pair came."""
    page.get_by_role("link", name="A pair").first.click(timeout=60_000)
    page.get_by_role("heading", name="Next time").wait_for()
    page.wait_for_timeout(1200)


def school_followed(page: Page) -> None:
    """The demo's first water: its school touched turn after turn, until there is a hole to drill."""
    looks: list[str] = []
    page.on("request", lambda one: looks.extend(re.findall(r"/api/search/looks/([^/]+)/stream", one.url)))
    page.reload()
    page.get_by_test_id("watch-says").get_by_text("Stay").wait_for(timeout=30_000)
    page.wait_for_timeout(18_000)
    for fix in range(1, 6):
        fish = page.evaluate(f"fetch('/api/search/looks/{looks[-1]}/truth').then((one) => one.json())")["groups"][0]
        east, north, depth = (sum(part) / len(fish["fish"]) for part in zip(*fish["fish"], strict=True))
        away, turn = math.hypot(east, north, depth - 1.0) / 20.0, math.atan2(east, north)
        box = page.get_by_test_id("round").bounding_box()
        assert box
        half = box["width"] / 2
        page.mouse.click(box["x"] + half + math.sin(turn) * away * half, box["y"] + half - math.cos(turn) * away * half)
        page.wait_for_timeout(700)
        page.get_by_role("button", name=re.compile("^(Follow it|Same school)")).click()
        page.wait_for_timeout(13_000 if fix < 5 else 1500)


def school_ahead(page: Page) -> None:
    """The handle turned to the school of the demo's first water, and one of its fish measured."""
    fans: list[str] = []
    page.on("request", lambda one: fans.extend(re.findall(r"/api/search/fans/([^/]+)/stream", one.url)))
    page.reload()
    page.get_by_test_id("fan-coach").get_by_text("Touch a mark").wait_for(timeout=30_000)

    def school() -> tuple[float, float, float]:
        fish = page.evaluate(f"fetch('/api/search/fans/{fans[-1]}/truth').then((one) => one.json())")["groups"][0]
        east, north, depth = (sum(part) / len(fish["fish"]) for part in zip(*fish["fish"], strict=True))
        return math.degrees(math.atan2(east, north)) % 360.0, math.hypot(east, north), depth

    for _ in range(round(school()[0] / 5.0)):
        page.get_by_role("button", name="Turn right by 5 degrees").click()
    page.wait_for_timeout(2500)
    box = page.get_by_test_id("fan").bounding_box()
    assert box
    for _ in range(8):
        _, away, depth = school()
        page.mouse.click(box["x"] + box["width"] * (away + 3.0) / 28.0, box["y"] + box["height"] * depth / 9.0)
        page.wait_for_timeout(900)
        if page.get_by_role("button", name="Walk there and drill").is_visible():
            break
    page.mouse.move(5, 5)


def lab_fished(page: Page) -> None:
    page.get_by_role("button", name="Fish a hundred").click()
    page.get_by_test_id("verdict").get_by_text(re.compile("prefers|did best|Nothing worked")).wait_for(timeout=60_000)
    page.wait_for_timeout(400)


def sheet_touched(page: Page) -> None:
    for what in ("Look", "Look", "Follow", "Bite"):
        page.get_by_role("button", name=re.compile(f"^{what}")).click()
        page.wait_for_timeout(400)
    page.evaluate("window.scrollTo(0, 0)")
    page.wait_for_timeout(300)


View = tuple[str, str, tuple[int, int], str, Callable[[Page], None]]


# Of a folder with nothing in it, and of the demo's.
def taught(page: Page) -> None:
    """What the log teaches has been worked out."""
    page.get_by_test_id("sayings").wait_for()
    page.wait_for_timeout(800)


EMPTY: tuple[View, ...] = (("welcome-day", "rime", DESK, "", still),)
VIEWS: tuple[View, ...] = (
    ("bench-day", "rime", DESK, "?seed=42#/hole/1/bench", fish_rises),
    ("trip-day", "rime", DESK, "#/hole/1/trip", planned),
    ("search-day", "rime", DESK, "?seed=21#/hole/1/search", school_followed),
    ("ahead-day", "rime", DESK, "?seed=21#/hole/1/search/ahead", school_ahead),
    ("down-night", "lantern", DESK, "#/hole/1/search/down/3271__0_0_-7.19_-5.03_120.6_0", fished_under),
    ("gear-day", "rime", DESK, "#/hole/1/gear", own_unit),
    ("card-day", "rime", DESK, "#/hole/1/card", card_known),
    ("bench-phone", "lantern", PHONE, "?seed=42#/hole/1/bench", fish_rises),
    ("read-sheet", "rime", DESK, "#/hole/1/read/sheet", sheet_filled),
    ("read-drill", "rime", DESK, "#/hole/1/read/drills", drill_answered),
    ("read-photo-day", "rime", DESK, "#/hole/1/read/photo", photo_read),
    ("read-replay-night", "lantern", DESK, "#/hole/1/read/recordings", replayed),
    ("strike-run", "rime", DESK, "?seed=17#/hole/1/strike/runs", run_played),
    ("strike-debrief", "rime", DESK, "#/hole/1/strike/runs", debriefed),
    ("strike-lab-night", "lantern", DESK, "#/hole/1/strike/lab", lab_fished),
    ("strike-sheet-phone", "rime", PHONE, "#/hole/1/strike/sheet", sheet_touched),
    ("hole-day", "rime", DESK, "#/hole/2/hole", still),
    ("log-teaches-day", "rime", DESK, "#/hole/1/log/teaches", taught),
)


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=chromium_path(), args=CHROMIUM_FLAGS)
        with tempfile.TemporaryDirectory() as data:
            pictures(browser, Path(data), "serve", EMPTY)
        with tempfile.TemporaryDirectory() as data:
            seed_demo(Path(data))
            pictures(browser, Path(data), "demo", VIEWS)
        browser.close()


def pictures(browser: Browser, folder: Path, command: str, views: tuple[View, ...]) -> None:
    """Every view in turn."""
    with running_server(folder, command=command) as running:
        for name, theme, (width, height), path, act in views:
            context = browser.new_context(
                viewport={"width": width, "height": height}, color_scheme="dark" if theme == "lantern" else "light"
            )
            page = context.new_page()
            page.goto(f"{running.url}/{path}")
            act(page)
            page.screenshot(path=FOLDER / f"{name}.png")
            context.close()
            print(name)


if __name__ == "__main__":
    main()
