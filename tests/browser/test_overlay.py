"""Tabs, dialogs, menus and popovers: their keys after the WAI-ARIA authoring practices, and where the focus goes."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from .conftest import PHONE


def focused(page: Page) -> str:
    """What the focused element is called."""
    told: str = page.evaluate(
        "() => { const e = document.activeElement; return e.ariaLabel ?? e.textContent.trim().slice(0, 40); }"
    )
    return told


def test_tabs_have_roles_one_tab_stop_and_arrows_that_move_and_choose(open_page):
    page = open_page("/#/hole/1/bench")
    tabs = page.get_by_role("tablist", name="Controls")
    expect(tabs.get_by_role("tab", selected=True)).to_have_text("Tune")
    depth = page.get_by_test_id("lure-depth").inner_text()
    tabs.get_by_role("tab", name="Tune").focus()
    for key, name in (("ArrowRight", "Picture"), ("End", "Practice"), ("ArrowRight", "Tune"), ("ArrowLeft", "Practice"),
                      ("ArrowLeft", "Water"), ("Home", "Tune")):  # fmt: skip
        page.keyboard.press(key)
        chosen = tabs.get_by_role("tab", selected=True)
        expect(chosen).to_have_text(name)
        expect(chosen).to_be_focused()
        assert tabs.locator("[tabindex='0']").count() == 1
        panel = page.get_by_role("tabpanel", name=name)
        expect(panel).to_be_visible()
        assert panel.get_attribute("id") == chosen.get_attribute("aria-controls")
    # The arrows were the tabs', not the hand's.
    assert page.get_by_test_id("lure-depth").inner_text() == depth


def test_tabs_with_an_address_are_links_too_and_keep_it(open_page):
    page = open_page("/#/hole/1/read/sheet")
    tab = page.get_by_role("tab", name="Call sheet")
    expect(tab).to_have_attribute("href", "#/hole/1/read/sheet")
    tab.focus()
    page.keyboard.press("ArrowRight")
    expect(page).to_have_url(re.compile("read/drills"))
    expect(page.get_by_role("tab", name="Drills")).to_be_focused()
    page.go_back()
    expect(page.get_by_role("tab", name="Call sheet", selected=True)).to_be_visible()


def test_a_dialog_keeps_the_focus_and_gives_it_back(open_page):
    page = open_page("/#/hole/1/bench")
    button = page.get_by_role("button", name="Where the numbers come from")
    button.focus()
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog", name="Where the numbers come from")
    expect(dialog).to_be_visible()
    expect(dialog).to_contain_text("Urick 1983")
    for _ in range(3):
        page.keyboard.press("Tab")
        assert page.evaluate("document.activeElement === document.body || !!document.activeElement.closest('dialog')")
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)
    expect(button).to_be_focused()
    # The keys' help opens and closes by its key, wherever the focus is, and gives it back too.
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_contain_text("walk the marks")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_have_count(0)
    expect(button).to_be_focused()


def test_a_menu_by_its_keys(open_page):
    page = open_page("/#/hole/1/card")
    page.evaluate("localStorage.setItem('hollow-glint hidden steps', 'gear read log')")
    page.reload()
    more = page.get_by_role("button", name="More steps")
    expect(more).to_have_attribute("aria-expanded", "false")
    menu = page.get_by_role("menu", name="More steps")
    more.focus()
    for key, first in (("ArrowDown", "Gear"), ("Enter", "Gear"), (" ", "Gear"), ("ArrowUp", "Log")):
        page.keyboard.press(key)
        expect(menu).to_be_visible()
        expect(more).to_have_attribute("aria-expanded", "true")
        expect(menu.get_by_role("menuitem", name=first)).to_be_focused()
        page.keyboard.press("Escape")
        expect(menu).to_be_hidden()
        expect(more).to_be_focused()
    page.keyboard.press("ArrowDown")
    expect(menu.get_by_role("menuitem", name="Gear")).to_be_focused()
    for key, name in (("ArrowDown", "Read"), ("End", "Log"), ("ArrowDown", "Gear"), ("ArrowUp", "Log"),
                      ("Home", "Gear"), ("l", "Log"), ("r", "Read")):  # fmt: skip
        page.keyboard.press(key)
        expect(menu.get_by_role("menuitem", name=name)).to_be_focused()
    page.keyboard.press("Tab")
    expect(menu).to_be_hidden()
    more.focus()
    page.keyboard.press("ArrowUp")
    expect(menu.get_by_role("menuitem", name="Log")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/log$"))
    expect(menu).to_be_hidden()
    # The step that is open stands in the row although it is hidden.
    expect(page.get_by_role("navigation", name="Steps").get_by_role("link", name="Log")).to_be_visible()


def test_a_popover_closes_by_escape_by_a_touch_elsewhere_and_by_its_button(open_page):
    page = open_page("/#/hole/1/log")
    button, panel = page.get_by_role("button", name="Settings"), page.get_by_role("dialog", name="Settings")
    button.focus()
    page.keyboard.press("Enter")
    expect(panel).to_be_visible()
    expect(button).to_have_attribute("aria-expanded", "true")
    page.keyboard.press("Tab")
    assert page.evaluate("!!document.activeElement.closest('[popover]')"), "Tab goes into what it opened"
    page.keyboard.press("Escape")
    expect(panel).to_be_hidden()
    expect(button).to_be_focused()
    expect(button).to_have_attribute("aria-expanded", "false")
    for close in (
        lambda: page.mouse.click(300, 600),
        lambda: button.click(),
        lambda: panel.get_by_role("button", name="Close").click(),
    ):
        button.click()
        expect(panel).to_be_visible()
        close()
        expect(panel).to_be_hidden()


def test_escape_closes_what_opened_last_and_nothing_else(open_page):
    page = open_page("/?seed=3#/hole/1/bench")
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
    settings = page.get_by_role("dialog", name="Settings")
    page.get_by_role("button", name="Settings").click()
    expect(settings).to_be_visible()
    page.keyboard.press("?")
    keys = page.get_by_role("dialog", name="Keys")
    expect(keys).to_be_visible()
    expect(settings).to_be_hidden()  # a modal dialog has the page to itself
    page.keyboard.press("Escape")
    expect(keys).to_have_count(0)
    # What a mark is said to be closes before the walk along the marks ends.
    expect(page.get_by_test_id("marks").get_by_role("button").first).to_be_attached()
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("m")
    first = page.get_by_test_id("marks").get_by_role("button").first
    expect(first).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("mark")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("mark")).to_have_count(0)
    assert page.evaluate("!!document.activeElement.closest('[data-testid=marks]')")
    page.keyboard.press("Escape")
    assert page.evaluate("document.activeElement.tagName") == "MAIN"


def test_settings_stay_and_steps_that_are_hidden_stand_under_more(open_page):
    page = open_page("/#/hole/1/log", viewport=PHONE, has_touch=True)
    page.get_by_role("button", name="Settings").tap()
    panel = page.get_by_role("dialog", name="Settings")
    panel.get_by_role("button", name="Gear", exact=True).tap()
    panel.get_by_role("button", name="Sound on").tap()
    panel.get_by_role("button", name="Close").tap()
    page.reload()
    steps = page.get_by_role("navigation", name="Steps")
    expect(steps.get_by_role("link", name="Gear")).to_have_count(0)
    steps.get_by_role("button", name="More steps").tap()
    page.get_by_role("menuitem", name="Gear").tap()
    expect(page.get_by_role("heading", name="Gear", level=1)).to_be_visible()
    page.get_by_role("button", name="Settings").tap()
    expect(page.get_by_role("button", name="Sound off")).to_be_visible()
