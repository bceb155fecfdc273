"""The depth surface of each lake, kept while its soundings stay as they are.

One sounding more is folded into what was fitted, so that the map is there at once; many, or a change, are fitted anew.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from dataclasses import dataclass

from ...core.ground.contours import Drawn, on_a_grid
from ...core.ground.lake import Lake
from ...core.ground.surface import Surface
from ...store import lake_things, lakes
from ...store.database import Database

MOST_LAKES = 4
MOST_FOLDED = 12  # soundings put into a fitted surface one by one

Depths = list[tuple[float, float, float]]


@dataclass(frozen=True)
class _Fitted:
    shore: tuple[float, ...]
    depths: Depths
    surface: Surface


class Surfaces:
    """The surfaces of the lakes that were looked at of late. Safe from many threads."""

    def __init__(self) -> None:
        self._fitted: OrderedDict[int, _Fitted] = OrderedDict()
        self._drawn: OrderedDict[tuple[int, int], Drawn] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, database: Database, lake_id: int) -> tuple[Lake, Surface | None]:
        """A lake and its surface; None where nothing was sounded. Raises NotFound."""
        lake = lakes.get(database, lake_id).lake
        depths = lake_things.depths(database, lake_id)
        if not depths:
            return lake, None
        with self._lock:
            known = self._fitted.get(lake_id)
        fitted = _Fitted(lake.shore_m, depths, self._made(lake, depths, known))
        with self._lock:
            self._fitted[lake_id] = fitted
            self._fitted.move_to_end(lake_id)
            while len(self._fitted) > MOST_LAKES:
                self._fitted.popitem(last=False)
        return lake, fitted.surface

    def drawn(self, database: Database, lake_id: int, cells: int) -> tuple[Lake, Drawn | None]:
        """A lake and its surface on a grid of about so many places; None where nothing was sounded. Raises NotFound."""
        lake, surface = self.of(database, lake_id)
        if surface is None:
            return lake, None
        key = lake_id, cells
        with self._lock:
            before = self._drawn.get(key)
        found = before if before is not None and before.surface is surface else on_a_grid(surface, cells, before)
        with self._lock:
            self._drawn[key] = found
            self._drawn.move_to_end(key)
            while len(self._drawn) > 2 * MOST_LAKES:
                self._drawn.popitem(last=False)
        return lake, found

    @staticmethod
    def _made(lake: Lake, depths: Depths, known: _Fitted | None) -> Surface:
        if known is not None and known.shore == lake.shore_m:
            if known.depths == depths:
                return known.surface
            before = set(known.depths)
            more = [one for one in depths if one not in before]
            if len(more) <= MOST_FOLDED and len(depths) == len(known.depths) + len(more) and before <= set(depths):
                surface = known.surface
                for east, north, depth in more:
                    surface = surface.with_sounding((east, north), depth)
                return surface
        return Surface([(e, n) for e, n, _ in depths], [d for *_, d in depths], lake.shore)
