"""Outside modules that are brought in when something of them is first asked for: the program is to be ready in a
second, and most runs never look at a lake.

    if TYPE_CHECKING:
        import shapely
    else:
        shapely = Lazily("shapely")
"""

from __future__ import annotations

from importlib import import_module
from typing import Any


class Lazily:
    """A module by its name. Safe from many threads: Python's own import is."""

    def __init__(self, name: str) -> None:
        self._name = name

    def __getattr__(self, what: str) -> Any:
        return getattr(import_module(self._name), what)
