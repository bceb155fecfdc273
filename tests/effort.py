"""How far the sweeps go: once over in `make test`, the same cases each time; eight times as far, by chance, in
`make bench`, which sets EFFORT."""

from __future__ import annotations

import os

from hypothesis import settings

EFFORT = int(os.environ.get("EFFORT", "1"))

# What a search by chance may find one day in a hundred belongs in a search, not in a check that must say yes or no.
settings.register_profile("sweep", derandomize=EFFORT == 1, deadline=None)
settings.load_profile("sweep")


def bounded(examples: int) -> settings:
    """As many examples of a property, times the effort."""
    return settings(max_examples=examples * EFFORT)


def seeds(count: int) -> range:
    """As many seeds, times the effort."""
    return range(count * EFFORT)
