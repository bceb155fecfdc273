"""Long work shared out over the machine's processors, politely: whoever asks for a page meanwhile is answered."""

from __future__ import annotations

import multiprocessing
import os
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager

from ...core.pocket.tables import Runner

NICER = 5  # than whoever answers pages


@contextmanager
def shared_out() -> Iterator[Runner]:
    """A `map` over as many processes as there are processors. They are started fresh: the program has threads, and a
    process that is split off from those may wait for ever."""
    count = len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else os.cpu_count() or 1
    start = multiprocessing.get_context("spawn")
    with ProcessPoolExecutor(count, mp_context=start, initializer=_politely) as pool:
        yield pool.map


def _politely() -> None:
    if hasattr(os, "nice"):
        os.nice(NICER)
