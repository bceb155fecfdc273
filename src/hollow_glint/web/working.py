"""How far a long answer has come, for a page that waits for it.

A request names its work in the header `Work` with a word of its own; whoever works tells how far it is, and the page
asks at /api/work/WORD meanwhile.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Any

from flask import current_app, request
from flask_openapi3 import OpenAPI
from pydantic import Field

from ..formats.mirror import Described
from .blueprint import StepBlueprint
from .contract import answers

MOST = 64  # kept at once; of those that were never asked about again the oldest go
LONGEST_WORD = 64

api = StepBlueprint("work", __name__, "Waiting")


class Works:
    """How far each named work has come, 0 to 1."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._shares: OrderedDict[str, float] = OrderedDict()

    def tell(self, word: str, share: float) -> None:
        """This work is so far."""
        with self._lock:
            self._shares[word] = min(max(share, 0.0), 1.0)
            self._shares.move_to_end(word)
            while len(self._shares) > MOST:
                self._shares.popitem(last=False)

    def share(self, word: str) -> float | None:
        """How far it is; None for one that is not known, or not begun."""
        with self._lock:
            return self._shares.get(word)

    def done(self, word: str) -> None:
        """Nobody waits for it any more."""
        with self._lock:
            self._shares.pop(word, None)


class WorkPath(Described):
    word: str = Field(min_length=1, max_length=LONGEST_WORD)


class WorkOut(Described):
    share: float | None = Field(description="How far it has come, 0 to 1; null where that is not known")


def _works() -> Works:
    works: Works = current_app.config["works"]
    return works


def teller() -> Callable[[float], None]:
    """What to call with how far the answer to this request has come, 0 to 1."""
    word = request.headers.get("Work", "")[:LONGEST_WORD]
    works = _works()
    return (lambda share: works.tell(word, share)) if word else (lambda _: None)


@api.get("/work/<word>", responses=answers(200, WorkOut, 422))
def how_far(path: WorkPath) -> dict[str, Any]:
    """How far the answer to a request with this word in its header `Work` has come."""
    return {"share": _works().share(path.word)}


def register(app: OpenAPI) -> None:
    """Keep count of the works of `app`."""
    app.config["works"] = Works()

    @app.teardown_request
    def _done(_: Any) -> None:
        if word := request.headers.get("Work"):
            _works().done(word[:LONGEST_WORD])
