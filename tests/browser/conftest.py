"""The program in a process of its own and Debian's Chromium on its page."""

from __future__ import annotations

import contextlib
import fcntl
import shutil
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, ConsoleMessage, Error, Page, expect, sync_playwright

from tests.running import CHROMIUM_FLAGS, Running, chromium_path, running_server, seed_demo

# Generous, for a machine that is busy with other tests too: what is waited for is that it comes, not how fast.
expect.set_options(timeout=15_000)

# Long files first, so that no worker is left alone with one at the end; those that need no program while the demo's
# data are being made, which keeps the others waiting.
FIRST = (
    "test_strike_fails", "test_stream", "test_modules", "test_everyone", "test_search", "test_ways_in",
    "test_look_ahead", "test_trip", "test_look_down", "test_search_with_fan", "test_search_for_real", "test_pocket",
    "test_story", "test_controls", "test_page", "test_manners", "test_strike",
)  # fmt: skip


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    def place(item: pytest.Item) -> int:
        return FIRST.index(item.path.stem) if item.path.stem in FIRST else len(FIRST)

    items.sort(key=place)


DESK = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=chromium_path(), args=CHROMIUM_FLAGS)
        yield browser
        browser.close()


@pytest.fixture(scope="session")
def seeded(tmp_path_factory: pytest.TempPathFactory, worker_id: str) -> Path:
    """The demo's data with its practice played, to be copied: it takes some seconds to make, once for all workers."""
    root = tmp_path_factory.getbasetemp()
    if worker_id != "master":
        root = root.parent
    folder = root / "seeded"
    with open(root / "seeding", "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (folder / "whole").exists():
            folder.mkdir()
            seed_demo(folder)
            (folder / "whole").touch()
    return folder


@pytest.fixture(scope="module")
def program(
    request: pytest.FixtureRequest, tmp_path_factory: pytest.TempPathFactory, seeded: Path
) -> Iterator[Running]:
    """The demo; a module that waits for fish says with PACE how much faster than life its water runs."""
    folder = tmp_path_factory.mktemp("data")
    shutil.copytree(seeded, folder, dirs_exist_ok=True)
    with running_server(folder, pace=getattr(request.module, "PACE", 1.0)) as running:
        yield running


class Windows:
    """Browser windows that tests use one after another: a new one for each would cost half of all that tests do.

    What is given back is as new: no storage, no routes, no tab but one.
    """

    def __init__(self, browser: Browser) -> None:
        self.browser = browser
        self.idle: dict[str, list[Page]] = {}

    def take(self, options: dict[str, Any]) -> Page:
        """A window with these options of a context."""
        waiting = self.idle.get(repr(sorted(options.items())))
        return waiting.pop() if waiting else self.browser.new_context(**options).new_page()

    def give_back(self, page: Page, options: dict[str, Any], url: str) -> None:
        """Make it as new; one that cannot be is closed."""
        try:
            for other in page.context.pages:
                if other is not page:
                    other.close()
            page.unroute_all(behavior="ignoreErrors")
            page.emulate_media(media="null", forced_colors="null")
            page.set_viewport_size(options["viewport"])
            page.goto(url + "/api/health")  # its storage is the program's, and no script of the page writes to it
            page.wait_for_timeout(100)  # what the page sent as it went is answered to nobody's next page
            page.evaluate("localStorage.clear(); sessionStorage.clear()")
            page.context.clear_cookies()
        except Error:
            with contextlib.suppress(Error):
                page.context.close()
        else:
            self.idle.setdefault(repr(sorted(options.items())), []).append(page)


@pytest.fixture(scope="session")
def windows(chromium: Browser) -> Windows:
    return Windows(chromium)


@pytest.fixture
def open_page(windows: Windows, program: Running):
    """Open an address in a window as new; whatever goes wrong in the page fails the test."""
    wrong: list[str] = []
    used: list[tuple[Page, dict[str, Any]]] = []

    def threw(error: Error) -> None:
        wrong.append(str(error))

    def said(message: ConsoleMessage) -> None:
        if message.type == "error":
            wrong.append(f"{message.text} {message.location.get('url', '')}")

    def opened(path: str = "/", viewport=DESK, theme: str = "rime", **options) -> Page:
        asked = {
            "viewport": viewport,
            "color_scheme": "dark" if theme == "lantern" else "light",
            # Frames as they come, without the gliding: a third of the painting, on a machine that paints in software.
            "reduced_motion": "reduce",
            **options,
        }
        page = windows.take(asked)
        used.append((page, asked))
        page.on("pageerror", threw)
        page.on("console", said)
        page.goto(program.url + path)
        return page

    opened.wrong = wrong  # type: ignore[attr-defined]
    yield opened
    for page, asked in used:
        page.remove_listener("pageerror", threw)
        page.remove_listener("console", said)
        windows.give_back(page, asked, program.url)
    assert wrong == []


AXE = (Path(__file__).parents[2] / "frontend/node_modules/axe-core/axe.min.js").as_posix()


def listen(page: Page) -> None:
    """Have the page note the commands that it sends from now on."""
    page.evaluate(
        """() => {
          const sends = window.fetch;
          window.sent = [];
          window.fetch = async (request) => {
            if (request.url?.endsWith("/commands")) window.sent.push(await request.clone().text());
            return sends(request);
          };
        }"""
    )


def sent(page: Page) -> str:
    """The commands sent since, and the notes cleared: once there are some, and no more for half a second."""
    return page.evaluate(
        """async () => {
          const began = performance.now();
          let count = window.sent.length, last = began;
          while (performance.now() - (count ? last + 500 : began + 15_000) < 0) {
            await new Promise((done) => setTimeout(done, 40));
            if (window.sent.length !== count) [count, last] = [window.sent.length, performance.now()];
          }
          return window.sent.splice(0).join();
        }"""
    )
