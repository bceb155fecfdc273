"""Long work shared out over the machine's processors, politely: whoever asks for a page meanwhile is answered."""

from __future__ import annotations

import multiprocessing
import os
from collections import deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Future, ProcessPoolExecutor
from contextlib import contextmanager

from ...core.pocket.tables import Done, Runner, Task

NICER = 5  # than whoever answers pages
AHEAD = 2  # tasks that wait for a process, so that none waits for a task


@contextmanager
def shared_out() -> Iterator[Runner]:
    """A `map` over as many processes as there are processors. They are started fresh: the program has threads, and a
    process that is split off from those may wait for ever.

    Little is given out ahead: who ends the program waits for what was begun, and for no more.
    """
    count = len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else os.cpu_count() or 1
    start = multiprocessing.get_context("spawn")
    with ProcessPoolExecutor(count, mp_context=start, initializer=_politely) as pool:

        def run(work: Callable[[Task], Done], tasks: Iterable[Task]) -> Iterator[Done]:
            begun: deque[Future[Done]] = deque()
            for task in tasks:
                begun.append(pool.submit(work, task))
                if len(begun) > count + AHEAD:
                    yield begun.popleft().result()
            while begun:
                yield begun.popleft().result()

        yield run


def _politely() -> None:
    if hasattr(os, "nice"):
        os.nice(NICER)
