"""A run of the strike drill played to a landed fish with keys only."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect


def seconds_of(page: Page) -> int:
    """The run's clock [s]."""
    minutes, seconds = page.get_by_label("Time in the run").inner_text().split("/")[0].strip().split(":")
    return 60 * int(minutes) + int(seconds)


def wait_until(page: Page, at_s: int) -> None:
    for _ in range(2000):
        if seconds_of(page) >= at_s:
            return
        page.wait_for_timeout(50)
    raise AssertionError(f"the clock never came to {at_s} s")


def test_a_whole_run_to_a_landed_fish_with_keys_only(open_page):
    """Lower, lift slowly when the fish is due, eyes to the rod tip, set on its sign; up to three fish come."""
    page = open_page("/?seed=2#/hole/1/strike/runs")
    page.get_by_role("button", name="Play: One willing fish").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("lure-depth")).to_contain_text("ft")
    page.keyboard.press("l")
    expect(page.get_by_test_id("lure-depth")).to_contain_text("25.9 ft", timeout=30_000)
    tip, said = page.locator(".tip [role=status]"), page.get_by_test_id("said")
    signs = re.compile("taps|bends|springs straight")
    for due in (15, 66, 118):
        if seconds_of(page) > due + 20:
            continue
        wait_until(page, due)
        page.keyboard.down("ArrowUp")
        # A dim tip says nothing: with the eyes on the sonar a tap is missed.
        expect(tip).to_have_text("")
        page.keyboard.down("r")
        expect(page.get_by_test_id("run")).to_contain_text("Eyes on the rod tip")
        try:
            expect(tip).to_have_text(signs, timeout=28_000)
        except AssertionError:
            page.keyboard.up("ArrowUp")
            page.keyboard.up("r")
            page.keyboard.press("l")
            continue
        page.wait_for_timeout(200)
        page.keyboard.press("Enter")
        page.keyboard.up("ArrowUp")
        expect(said).to_contain_text(re.compile("Hooked|came off|Nothing on"))
        page.keyboard.up("r")
        if "Hooked" in said.inner_text():
            break
        page.keyboard.press("l")
    expect(page.get_by_role("heading", name=re.compile("^Landed: a .* whitefish"))).to_be_visible(timeout=30_000)
    moments = page.get_by_role("region", name="Moments")
    expect(moments).to_contain_text("Eyes on the rod tip when it took")
    expect(moments).to_contain_text(re.compile(r"Set \d\.\d+ s after it took, with \d+ N\. It held"))
    expect(moments).to_contain_text("that draws")
    # It is in the log and in the figures.
    page.get_by_role("link", name="Log").click()
    page.get_by_role("tab", name="This hole").click()
    expect(page.get_by_role("heading", name="Practice runs")).to_be_visible()
    expect(page.locator(".list .runs li").first).to_contain_text("landed")
