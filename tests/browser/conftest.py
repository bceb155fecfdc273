"""The program in a process of its own and Debian's Chromium on its page."""

from __future__ import annotations

import fcntl
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

from tests.running import CHROMIUM_FLAGS, Running, chromium_path, running_server, seed_demo

# Generous, for a machine that is busy with other tests too: what is waited for is that it comes, not how fast.
expect.set_options(timeout=15_000)

# Long files first, so that neither of two workers is left alone with one at the end.
LONG = ("test_strike_fails", "test_everyone", "test_story", "test_strike", "test_manners", "test_picture")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    def place(item: pytest.Item) -> int:
        return LONG.index(item.path.stem) if item.path.stem in LONG else len(LONG)

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


@pytest.fixture
def open_page(chromium: Browser, program: Running):
    """Open an address in a fresh context; whatever goes wrong in the page fails the test."""
    contexts, wrong = [], []

    def opened(path: str = "/", viewport=DESK, theme: str = "rime", **options) -> Page:
        context = chromium.new_context(
            viewport=viewport,
            color_scheme="dark" if theme == "lantern" else "light",
            # Frames as they come, without the gliding: a third of the painting, on a machine that paints in software.
            reduced_motion="reduce",
            **options,
        )
        contexts.append(context)
        page = context.new_page()
        page.on("pageerror", lambda error: wrong.append(str(error)))
        page.on("console", lambda said: wrong.append(said.text) if said.type == "error" else None)
        page.goto(program.url + path)
        return page

    opened.wrong = wrong  # type: ignore[attr-defined]
    yield opened
    for context in contexts:
        context.close()
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
    """The commands sent since, and the notes cleared."""
    page.wait_for_timeout(400)
    return page.evaluate("window.sent.splice(0).join()")
