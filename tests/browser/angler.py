"""A hand on the page that fishes: the rod, the eyes and the hook, by keys or by touch."""

from __future__ import annotations

from playwright.sync_api import Page


class Angler:
    """A hand on the page, by keys or by touch."""

    def __init__(self, page: Page, touch: bool = False) -> None:
        self.page, self.touch = page, touch
        self.lifting = False
        self._hold = page.get_by_role("button", name="Lift slowly while held")

    def lift(self, on: bool) -> None:
        if on == self.lifting:
            return
        self.lifting = on
        if self.touch:
            pointer = {"pointerId": 1, "pointerType": "touch", "isPrimary": True}
            self._hold.dispatch_event("pointerdown" if on else "pointerup", pointer)
        else:
            (self.page.keyboard.down if on else self.page.keyboard.up)("ArrowUp")

    def look(self, at: str) -> None:
        button = self.page.get_by_role("button", name=at, exact=True)
        if self.touch:
            button.tap()
        else:
            button.click()

    def set_hook(self) -> None:
        if self.touch:
            self.page.get_by_role("button", name="Set the hook").tap()
        else:
            self.page.keyboard.press("Enter")
